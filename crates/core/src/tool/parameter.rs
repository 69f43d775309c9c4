//! Every parameter, declared once: station, unit, range, step, default and help. Validation, the browser's controls, the
//! JSON Schema and the docs all read these declarations.

use serde::{Deserialize, Serialize};

/// The chain of causes, in the order in which they act.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Station {
    Hand,
    Touch,
    Tip,
    Load,
    Mix,
    Ground,
    Relief,
}

/// A value of a parameter.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(untagged)]
pub enum Value {
    Switch(bool),
    Number(f64),
    Choice(String),
}

/// What values a parameter takes.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Kind {
    Number {
        low: f64,
        high: f64,
        step: f64,
        default: f64,
        /// Whether equal ratios feel like equal steps.
        ratio: bool,
    },
    Switch {
        default: bool,
    },
    Choice {
        default: &'static str,
        options: &'static [(&'static str, &'static str)],
    },
}

/// The declaration of one parameter.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Parameter {
    pub id: &'static str,
    pub station: Station,
    pub label: &'static str,
    pub unit: &'static str,
    #[serde(flatten)]
    pub kind: Kind,
    /// The quality a response may drive in its place.
    pub quality: Option<Quality>,
    pub help: &'static str,
}

/// A thing of the tool that a response can drive. Its own value (without a response) is the parameter of the same name.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Quality {
    Force,
    Flow,
    Opacity,
    Width,
    Aspect,
    Angle,
    Hardness,
    Side,
    Spacing,
    Scatter,
    Tooth,
}

impl Quality {
    pub const ALL: [Quality; 11] = [
        Quality::Force,
        Quality::Flow,
        Quality::Opacity,
        Quality::Width,
        Quality::Aspect,
        Quality::Angle,
        Quality::Hardness,
        Quality::Side,
        Quality::Spacing,
        Quality::Scatter,
        Quality::Tooth,
    ];

    /// Position in [`Quality::ALL`].
    pub fn index(self) -> usize {
        self as usize
    }

    /// The parameter that is this quality's own value.
    pub fn parameter(self) -> &'static Parameter {
        PARAMETERS.iter().find(|p| p.quality == Some(self)).expect("every quality has its parameter (tested)")
    }
}

/// `(low, high, unit)` a response's output may have.
pub fn quality_range(quality: Quality) -> (f64, f64, &'static str) {
    let p = quality.parameter();
    match p.kind {
        Kind::Number { low, high, .. } => (low, high, p.unit),
        Kind::Switch { .. } | Kind::Choice { .. } => unreachable!("qualities are numbers (tested)"),
    }
}

/// The declaration named `id`.
pub fn find(id: &str) -> Option<&'static Parameter> {
    PARAMETERS.iter().find(|p| p.id == id)
}

#[allow(clippy::too_many_arguments)]
const fn number(
    id: &'static str,
    station: Station,
    label: &'static str,
    unit: &'static str,
    [low, high, step, default]: [f64; 4],
    ratio: bool,
    quality: Option<Quality>,
    help: &'static str,
) -> Parameter {
    Parameter {
        id,
        station,
        label,
        unit,
        kind: Kind::Number { low, high, step, default, ratio },
        quality,
        help,
    }
}

use Quality as Q;
use Station::{Ground, Load, Mix, Tip, Touch};

/// All parameters of a dry tool, in the order in which a station shows them.
pub static PARAMETERS: &[Parameter] = &[
    number(
        "touch.force_gf",
        Touch,
        "Force on the sheet",
        "gf",
        [0.0, 1500.0, 1.0, 150.0],
        false,
        Some(Q::Force),
        "How hard the stick is pressed on the ground. Usually a response to pressure gives it; this is the force without one.",
    ),
    number(
        "touch.flow",
        Touch,
        "Flow",
        "×",
        [0.0, 2.0, 0.01, 1.0],
        false,
        Some(Q::Flow),
        "Share of the stick's deposit that one dab lays.",
    ),
    number(
        "touch.opacity",
        Touch,
        "Opacity",
        "",
        [0.0, 1.0, 0.01, 1.0],
        false,
        Some(Q::Opacity),
        "Share of the tooth that this stroke may fill, however often it passes.",
    ),
    Parameter {
        id: "touch.build",
        station: Touch,
        label: "Overlap",
        unit: "",
        kind: Kind::Choice { default: "builds", options: &[("builds", "builds"), ("even", "even")] },
        quality: None,
        help: "Whether overlapping dabs of one stroke accumulate, or the stroke stays one even film.",
    },
    Parameter {
        id: "touch.steady",
        station: Touch,
        label: "Steadying",
        unit: "",
        kind: Kind::Switch { default: false },
        quality: None,
        help: "Calms the way of a trembling hand. The tip follows a little behind the pen; the trace tells how far.",
    },
    number(
        "touch.steady_hz",
        Touch,
        "Tremor let through below",
        "Hz",
        [0.1, 20.0, 0.1, 1.5],
        true,
        None,
        "The slower, the calmer and the farther behind: cutoff of the one-euro filter for a pen at rest.",
    ),
    number(
        "touch.steady_speed",
        Touch,
        "Freed by speed",
        "Hz/(mm/s)",
        [0.0, 2.0, 0.01, 0.1],
        false,
        None,
        "How much the cutoff rises with the pen's speed, so that fast strokes do not lag.",
    ),
    number(
        "tip.width_mm",
        Tip,
        "Width",
        "mm",
        [0.1, 40.0, 0.1, 2.5],
        true,
        Some(Q::Width),
        "Width of the end that touches when the tool is upright.",
    ),
    number(
        "tip.aspect",
        Tip,
        "Aspect",
        "×",
        [1.0, 10.0, 0.05, 1.0],
        true,
        Some(Q::Aspect),
        "Length of the end over its width: 1 is round.",
    ),
    number(
        "tip.angle_deg",
        Tip,
        "Angle",
        "°",
        [0.0, 360.0, 1.0, 0.0],
        false,
        Some(Q::Angle),
        "Direction of the length on the sheet, from the right, clockwise. A response to lean, barrel or heading adds to it.",
    ),
    number(
        "tip.hardness",
        Tip,
        "Edge hardness",
        "",
        [0.0, 1.0, 0.01, 0.5],
        false,
        Some(Q::Hardness),
        "0 fades out to the rim, 0.5 presses as a round end does, 1 presses evenly to the rim.",
    ),
    number(
        "tip.side_mm",
        Tip,
        "Side on the paper",
        "mm",
        [0.0, 60.0, 0.1, 0.0],
        false,
        Some(Q::Side),
        "Length of the side that lies down as the pen leans: this times the sine of the tilt is added along the lean.",
    ),
    Parameter {
        id: "tip.spacing_auto",
        station: Tip,
        label: "Spacing by itself",
        unit: "",
        kind: Kind::Switch { default: true },
        quality: None,
        help: "Sets dabs as far apart as their ripple stays invisible (under 1/255).",
    },
    number(
        "tip.spacing",
        Tip,
        "Spacing",
        "×",
        [0.02, 3.0, 0.01, 0.12],
        true,
        Some(Q::Spacing),
        "Distance between dabs, as a share of the footprint along the way.",
    ),
    number(
        "tip.scatter_mm",
        Tip,
        "Scatter",
        "mm",
        [0.0, 10.0, 0.01, 0.0],
        false,
        Some(Q::Scatter),
        "How far dabs stray to either side of the way.",
    ),
    Parameter {
        id: "load.stick",
        station: Load,
        label: "Stick",
        unit: "",
        kind: Kind::Choice {
            default: "charcoal",
            options: &[
                ("charcoal", "charcoal black"),
                ("compressed", "compressed black"),
                ("sanguine", "sanguine"),
                ("chalk", "chalk white"),
                ("graphite-2h", "graphite 2H"),
                ("graphite-hb", "graphite HB"),
                ("graphite-2b", "graphite 2B"),
                ("graphite-6b", "graphite 6B"),
                ("pastel-blue", "pastel, marsh blue"),
                ("pastel-umber", "pastel, umber"),
            ],
        },
        quality: None,
        help: "What the stick is made of: its absorption and scattering spectra.",
    },
    number(
        "load.hardness_gf_mm2",
        Load,
        "Hardness",
        "gf/mm²",
        [2.0, 2000.0, 1.0, 16.0],
        true,
        None,
        "Pressure at which the stick gives way by its whole depth of give. Soft sticks close the paper at a light touch.",
    ),
    number(
        "load.give_um",
        Load,
        "Give",
        "µm",
        [2.0, 80.0, 0.5, 18.0],
        false,
        None,
        "How deep the stick sinks into the tooth at its hardness pressure.",
    ),
    number(
        "load.deposit_um_mm",
        Load,
        "Deposit",
        "µm/mm",
        [0.1, 60.0, 0.1, 6.2],
        true,
        None,
        "Powder laid for each mm of travel in full contact with empty tooth.",
    ),
    number(
        "load.fill_um",
        Load,
        "Fill",
        "µm",
        [1.0, 60.0, 0.5, 12.0],
        false,
        None,
        "Powder the tooth can hold before it is full.",
    ),
    number(
        "load.grit_um",
        Load,
        "Grit",
        "µm",
        [0.0, 12.0, 0.1, 4.6],
        false,
        None,
        "Roughness of the stick's grain, as height.",
    ),
    number(
        "load.grain",
        Load,
        "Grain",
        "",
        [0.0, 1.5, 0.01, 0.75],
        false,
        None,
        "How unevenly the grain sheds.",
    ),
    number(
        "load.face_um",
        Load,
        "Streaks",
        "µm",
        [0.0, 10.0, 0.1, 3.2],
        false,
        None,
        "Unevenness of the worn face, which draws faint streaks along the way.",
    ),
    number(
        "load.bound",
        Load,
        "Held",
        "",
        [0.0, 1.0, 0.01, 0.15],
        false,
        None,
        "Share of the powder that the paper holds; the rest lies loose and can be smeared or lifted.",
    ),
    number(
        "mix.pickup_mm",
        Mix,
        "Pickup over",
        "mm",
        [0.1, 50.0, 0.1, 3.5],
        true,
        None,
        "Travel over which full contact picks up most (63 %) of what lies loose; for fixative, over which most is fixed.",
    ),
    number(
        "mix.pickup_held",
        Mix,
        "Pickup of held powder",
        "×",
        [0.0, 1.0, 0.01, 0.12],
        false,
        None,
        "How readily powder that the paper holds is picked up, over what lies loose.",
    ),
    number(
        "mix.release_mm",
        Mix,
        "Release over",
        "mm",
        [0.2, 500.0, 0.1, 7.0],
        true,
        None,
        "Travel over which most of what was picked up is released to tooth that has room.",
    ),
    number(
        "mix.holds_mm3",
        Mix,
        "Holds",
        "mm³",
        [0.01, 50.0, 0.01, 2.0],
        true,
        None,
        "Powder that the tool can hold; the fuller it is, the less it takes.",
    ),
    number(
        "mix.wear_um_mm",
        Mix,
        "Wears the tooth",
        "µm/mm",
        [0.0, 5.0, 0.01, 0.05],
        false,
        None,
        "How much of the tooth full contact rubs off for each mm of travel.",
    ),
    Parameter {
        id: "ground.paper",
        station: Ground,
        label: "Paper",
        unit: "",
        kind: Kind::Choice {
            default: "cold-pressed",
            options: &[("hot-pressed", "hot-pressed"), ("cold-pressed", "cold-pressed"), ("rough", "rough")],
        },
        quality: None,
        help: "The ground of the proof sheet.",
    },
    number(
        "ground.tooth",
        Ground,
        "Tooth",
        "×",
        [0.0, 3.0, 0.01, 1.0],
        false,
        Some(Q::Tooth),
        "Depth of the tooth as this tool meets it: 1 is the paper as it is.",
    ),
    number(
        "ground.scale",
        Ground,
        "Scale",
        "×",
        [0.25, 4.0, 0.01, 1.0],
        true,
        None,
        "Size of the tooth: 2 makes every hollow twice as wide.",
    ),
    Parameter {
        id: "ground.swap",
        station: Ground,
        label: "Swap peaks and hollows",
        unit: "",
        kind: Kind::Switch { default: false },
        quality: None,
        help: "Meets the hollows where the peaks were: fills the opposite of what an unswapped pass fills.",
    },
    number(
        "ground.follow",
        Ground,
        "Follow",
        "",
        [0.0, 1.0, 0.01, 0.0],
        false,
        None,
        "How much the tip follows the paper's swells instead of bridging them. A corner follows, a long side bridges.",
    ),
    number(
        "ground.follow_mm",
        Ground,
        "Follow over",
        "mm",
        [0.2, 1.6, 0.05, 0.8],
        false,
        None,
        "Length of the swells that the tip can follow.",
    ),
];

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn declarations_are_whole() {
        for q in Quality::ALL {
            let (low, high, _) = quality_range(q);
            assert!(low < high);
            assert_eq!(Quality::ALL[q.index()], q);
        }
        for (i, p) in PARAMETERS.iter().enumerate() {
            assert!(PARAMETERS[..i].iter().all(|o| o.id != p.id), "{} is declared twice", p.id);
            assert!(p.help.ends_with('.'), "{} has no help sentence", p.id);
            match p.kind {
                Kind::Number { low, high, step, default, ratio } => {
                    assert!(
                        low <= default && default <= high && step > 0.0 && (!ratio || low > 0.0),
                        "{}",
                        p.id
                    );
                }
                Kind::Choice { default, options } => {
                    assert!(options.iter().any(|o| o.0 == default), "{}", p.id)
                }
                Kind::Switch { .. } => {}
            }
        }
    }
}
