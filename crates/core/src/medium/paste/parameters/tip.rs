//! Tip: a ferrule with hairs.

use crate::chain::choice::choices;
use crate::chain::{Parameter, Quality, Settings, Station};
use crate::tip::TurnedBy;
use crate::tip::hair::Hair;

choices! {
    /// Forms of a ferrule and of the hairs that come out of it.
    pub enum Ferrule {
        Flat = "flat", "flat";
        Bright = "bright", "bright: flat, short";
        Filbert = "filbert", "filbert";
        Angled = "angled", "angled";
        Fan = "fan", "fan";
        Round = "round", "round";
        Pointed = "pointed", "pointed";
        Blade = "blade", "blade: a knife";
    }
}

/// What a ferrule makes of the outline in which hairs touch.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Outline {
    /// Exponent of the superellipse.
    pub exponent: f64,
    /// As wide as it is long.
    pub round: bool,
    /// It touches in a narrow place first and widens as it is pressed.
    pub opens: bool,
    /// How far one end of the width is longer than the other, as a share of the width.
    pub slant: f64,
    /// How far hairs spread already without force.
    pub spread: f64,
    /// Free length over that of the flat with the same name for it.
    pub length: f64,
    /// It is no ferrule with hairs but a blade.
    pub blade: bool,
}

impl Outline {
    /// Area over that of the product of its half axes: `4·Γ(1 + 1/n)²/Γ(1 + 2/n)` of a superellipse.
    pub fn area(&self) -> f64 {
        let n = self.exponent;
        4.0 * libm::pow(libm::tgamma(1.0 + 1.0 / n), 2.0) / libm::tgamma(1.0 + 2.0 / n)
    }
}

pub fn outline(ferrule: Ferrule) -> Outline {
    let flat = Outline {
        exponent: 10.0,
        round: false,
        opens: false,
        slant: 0.0,
        spread: 1.0,
        length: 1.0,
        blade: false,
    };
    match ferrule {
        Ferrule::Flat => flat,
        Ferrule::Bright => Outline { length: 0.72, ..flat },
        Ferrule::Filbert => Outline { exponent: 2.6, opens: true, ..flat },
        Ferrule::Angled => Outline { slant: 0.35, ..flat },
        Ferrule::Fan => Outline { exponent: 6.0, spread: 1.35, ..flat },
        Ferrule::Round => Outline { exponent: 2.0, round: true, opens: true, ..flat },
        Ferrule::Blade => Outline { blade: true, ..flat },
        Ferrule::Pointed => Outline { exponent: 2.0, round: true, opens: true, length: 1.15, ..flat },
    }
}

pub const OWN: &[Parameter] = &[
    Parameter::choice::<Ferrule>("tip.ferrule", Station::Tip, "Ferrule", "flat", "How the hairs are set: the outline in which they touch."),
    Parameter::choice::<Hair>("tip.hair", Station::Tip, "Hair", "hog", "What the hairs are made of. Their diameter, stiffness, ends and tufts can be taken as this kind's own; how much paint they hold is.").idle(|s| no_hairs(s).or_else(|| super::brings_nothing(s))),
    Parameter::number("tip.width_mm", Station::Tip, "Width", "mm", [0.1, 40.0, 0.1, 18.0], "Width of the ferrule or the blade; the diameter of a round one.").by_ratio(),
    Parameter::number("tip.thick_mm", Station::Tip, "Thickness", "mm", [0.5, 20.0, 0.1, 4.0], "Thickness of the ferrule across its width.").by_ratio().idle(|s| no_hairs(s).or_else(|| outline(s.chosen("tip.ferrule")).round.then_some("a round ferrule is as thick as it is wide"))),
    Parameter::number("tip.angle_deg", Station::Tip, "Angle", "°", [0.0, 360.0, 1.0, 90.0], "Direction of the width on the sheet, from the right, clockwise. A response to lean, barrel or heading adds to it.").driven_as(Quality::Angle),
    Parameter::choice::<TurnedBy>("tip.angle_from", Station::Tip, "Turned by", "bearing", "What turns the ferrule; the angle is added."),
    Parameter::number("tip.hair_length_mm", Station::Tip, "Free length", "mm", [4.0, 60.0, 0.5, 22.0], "How far the hairs stand out of the ferrule.").by_ratio().idle(no_hairs),
    Parameter::number("tip.hair_mm", Station::Tip, "Hair diameter", "mm", [0.04, 0.3, 0.01, 0.2], "A hair twice as thick is 16 times as stiff.").by_ratio().idle(no_hairs),
    Parameter::number("tip.hair_gpa", Station::Tip, "Stiffness of the hair", "GPa", [0.2, 8.0, 0.1, 2.5], "Young's modulus, wet.").by_ratio().idle(no_hairs),
    Parameter::number("tip.hair_count", Station::Tip, "Hairs", "", [6.0, 400.0, 1.0, 300.0], "Hairs that share the pen's force.").by_ratio().idle(no_hairs),
    Parameter::number("tip.ends", Station::Tip, "Ends", "", [0.0, 1.0, 0.01, 1.0], "How unevenly long the hairs are: 0 cut even, 1 worn and split.").idle(no_hairs),
    Parameter::number("tip.tuft_mm", Station::Tip, "Tufts", "mm", [0.3, 4.0, 0.1, 0.6], "Width in which wet hairs draw together.").by_ratio().idle(no_hairs),
    Parameter::number("tip.splay", Station::Tip, "Splay", "×", [0.0, 2.0, 0.05, 1.0], "How far hairs spread as they are pressed.").idle(no_hairs),
    Parameter::number("tip.blade_give", Station::Tip, "Give", "µm/gf", [0.1, 20.0, 0.1, 3.0], "How far a gf brings the blade closer to the ground: a limp blade gives way little by little, a stiff one cuts at once.").by_ratio().idle(no_blade),
    Parameter::number("tip.corner", Station::Tip, "Corner", "", [0.0, 1.0, 0.01, 0.0], "How far the blade stands on a corner when the pen leans along it: 0 it lies on its whole edge however the pen leans.").idle(no_blade),
];

/// How thick the edge of a blade is that is drawn over the sheet, mm (the paste study's).
const EDGE_MM: f64 = 0.16;

/// Half the width of the ferrule and of its thickness, mm.
pub fn halves(s: &Settings<'_>) -> [f64; 2] {
    let width = s.number("tip.width_mm");
    let outline = outline(s.chosen("tip.ferrule"));
    let thick = match outline {
        Outline { blade: true, .. } => EDGE_MM,
        Outline { round: true, .. } => width,
        _ => s.number("tip.thick_mm"),
    };
    [0.5 * width, 0.5 * thick]
}

/// Whether the tip is a blade.
pub fn is_blade(s: &Settings<'_>) -> bool {
    s.chosen::<Ferrule>("tip.ferrule") == Ferrule::Blade
}

pub fn no_hairs(s: &Settings<'_>) -> Option<&'static str> {
    is_blade(s).then_some("a blade has no hairs")
}

fn no_blade(s: &Settings<'_>) -> Option<&'static str> {
    (!is_blade(s)).then_some("this tip is no blade")
}
