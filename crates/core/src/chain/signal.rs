//! Signals: what of the hand can drive a quality.

use serde::{Deserialize, Serialize};

/// An input of the hand, as a response names it.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Signal {
    Pressure,
    HardestPress,
    Tilt,
    Lean,
    Barrel,
    Speed,
    Heading,
    Distance,
    Time,
    PaintLeft,
    ChancePerDab,
    ChancePerStroke,
}

/// What a signal comes from.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Source {
    /// How the hand holds the pen.
    Hand,
    /// How and how far it moves.
    Way,
    /// What is in the tool.
    Tool,
    /// A throw: how a quality strays.
    Chance,
}

/// What a screen must know of a signal.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct SignalInfo {
    pub signal: Signal,
    pub source: Source,
    pub label: &'static str,
    pub unit: &'static str,
    /// Range a new response starts with, in `unit`.
    pub low: f64,
    pub high: f64,
    /// The widest range a response may name.
    pub least: f64,
    pub most: f64,
    /// Whether the two ends are the same state (an angle).
    pub periodic: bool,
    pub help: &'static str,
}

impl Signal {
    pub const ALL: [Signal; 12] = [
        Signal::Pressure,
        Signal::HardestPress,
        Signal::Tilt,
        Signal::Lean,
        Signal::Barrel,
        Signal::Speed,
        Signal::Heading,
        Signal::Distance,
        Signal::Time,
        Signal::PaintLeft,
        Signal::ChancePerDab,
        Signal::ChancePerStroke,
    ];

    pub fn info(self) -> SignalInfo {
        let (label, unit, low, high, most, periodic, help) = match self {
            Self::Pressure => {
                ("pressure", "", 0.0, 1.0, 1.0, false, "How hard the pen presses, after calibration.")
            }
            Self::HardestPress => (
                "hardest press",
                "",
                0.0,
                1.0,
                1.0,
                false,
                "The hardest press so far in this stroke; it never falls again.",
            ),
            Self::Tilt => ("tilt", "°", 0.0, 70.0, 90.0, false, "How far the pen leans from upright."),
            Self::Lean => ("lean", "°", 0.0, 360.0, 360.0, true, "The direction in which the pen leans."),
            Self::Barrel => ("barrel", "°", 0.0, 360.0, 360.0, true, "How far the barrel is turned."),
            Self::Speed => {
                ("speed", "mm/s", 0.0, 300.0, 5000.0, false, "How fast the tip moves over the sheet.")
            }
            Self::Heading => ("heading", "°", 0.0, 360.0, 360.0, true, "The direction of travel."),
            Self::Distance => {
                ("distance", "mm", 0.0, 100.0, 100_000.0, false, "Travel since the pen touched down.")
            }
            Self::Time => ("time", "s", 0.0, 2.0, 3600.0, false, "Time since the pen touched down."),
            Self::PaintLeft => (
                "paint left",
                "",
                0.0,
                1.0,
                1.0,
                false,
                "What the tool holds, of what it can hold. A stick does not run out: it has 1 always.",
            ),
            Self::ChancePerDab => (
                "chance per dab",
                "",
                0.0,
                1.0,
                1.0,
                false,
                "A new throw for every dab, from the tool's seed.",
            ),
            Self::ChancePerStroke => (
                "chance per stroke",
                "",
                0.0,
                1.0,
                1.0,
                false,
                "One throw for a whole stroke, from the tool's seed.",
            ),
        };
        let source = match self {
            Self::Pressure | Self::HardestPress | Self::Tilt | Self::Lean | Self::Barrel => Source::Hand,
            Self::Speed | Self::Heading | Self::Distance | Self::Time => Source::Way,
            Self::PaintLeft => Source::Tool,
            Self::ChancePerDab | Self::ChancePerStroke => Source::Chance,
        };
        SignalInfo { signal: self, source, label, unit, low, high, least: 0.0, most, periodic, help }
    }
}

/// Value of every signal at one place of a stroke, in the units of [`Signal::info`].
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
pub struct Signals {
    /// As the driver reports it, before calibration.
    pub raw_pressure: f64,
    pub pressure: f64,
    pub hardest_press: f64,
    pub tilt_deg: f64,
    pub lean_deg: f64,
    pub barrel_deg: f64,
    pub speed_mm_s: f64,
    pub heading_deg: f64,
    pub distance_mm: f64,
    pub time_s: f64,
    /// What the tool holds, of what it can hold; 1 for a stick.
    #[serde(default)]
    pub paint_left: f64,
    pub chance_dab: f64,
    pub chance_stroke: f64,
}

impl Signals {
    pub fn get(&self, signal: Signal) -> f64 {
        match signal {
            Signal::Pressure => self.pressure,
            Signal::HardestPress => self.hardest_press,
            Signal::Tilt => self.tilt_deg,
            Signal::Lean => self.lean_deg,
            Signal::Barrel => self.barrel_deg,
            Signal::Speed => self.speed_mm_s,
            Signal::Heading => self.heading_deg,
            Signal::Distance => self.distance_mm,
            Signal::Time => self.time_s,
            Signal::PaintLeft => self.paint_left,
            Signal::ChancePerDab => self.chance_dab,
            Signal::ChancePerStroke => self.chance_stroke,
        }
    }
}
