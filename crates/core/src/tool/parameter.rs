//! Every parameter, declared once: station, unit, range, step, default and help. Validation, the browser's controls, the
//! JSON Schema and the docs all read these declarations.

use serde::{Deserialize, Serialize};

pub use super::table::PARAMETERS;

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
    /// The hash of an image; empty for none.
    Image,
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
    ScatterAlong,
    Count,
    Grain,
    Tooth,
    Depth,
    LeastDepth,
}

impl Quality {
    pub const ALL: [Quality; 16] = [
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
        Quality::ScatterAlong,
        Quality::Count,
        Quality::Grain,
        Quality::Tooth,
        Quality::Depth,
        Quality::LeastDepth,
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
        _ => unreachable!("qualities are numbers (tested)"),
    }
}

/// The declaration named `id`.
pub fn find(id: &str) -> Option<&'static Parameter> {
    PARAMETERS.iter().find(|p| p.id == id)
}

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
                Kind::Switch { .. } | Kind::Image => {}
            }
        }
    }
}
