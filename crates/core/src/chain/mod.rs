//! The language of the chain of causes: stations, signals, qualities, curves, and how what can be tuned is declared.
//!
//! A leaf: it knows no room above it. Media declare their parameters in these words, the tool document is read by them, and
//! acting parts read their values through [`Settings`].

pub mod choice;
pub mod curve;
pub mod parameter;
pub mod quality;
pub mod settings;
pub mod signal;

use serde::{Deserialize, Serialize};

pub use choice::Choice;
pub use curve::Curve;
pub use parameter::{Kind, Parameter, Parameters, Value};
pub use quality::{Qualities, Quality};
pub use settings::Settings;
pub use signal::{Signal, Signals};

/// The chain of causes, in the order in which they act.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
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

/// What a tool does.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Action {
    /// Leaves what it is loaded with.
    Lay,
    /// Takes up and gives back: finger, stump, chamois.
    Blend,
    /// Takes up and keeps: kneaded eraser.
    Lift,
    /// Rubs off, tooth and all: hard eraser.
    Cut,
    /// Makes what lies loose held: fixative.
    Fix,
    /// Drives off what is wet: salt, spirit.
    Repel,
}

impl Action {
    pub const ALL: [Action; 6] =
        [Action::Lay, Action::Blend, Action::Lift, Action::Cut, Action::Fix, Action::Repel];
}
