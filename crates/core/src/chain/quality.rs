//! Qualities: things of a tool that responses can drive.

use serde::{Deserialize, Serialize};

/// A thing of the tool that a response can drive. Its own value (without a response) is the parameter that a medium declares
/// for it; a medium without such a parameter does not have the quality.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
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
    Pickup,
    Carry,
    Drag,
    Own,
    Cut,
    Medium,
    Value,
    Warmth,
    Water,
    Strength,
    Reach,
}

impl Quality {
    pub const ALL: [Quality; 27] = [
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
        Quality::Pickup,
        Quality::Carry,
        Quality::Drag,
        Quality::Own,
        Quality::Cut,
        Quality::Medium,
        Quality::Value,
        Quality::Warmth,
        Quality::Water,
        Quality::Strength,
        Quality::Reach,
    ];
    pub const COUNT: usize = Self::ALL.len();

    /// Position in [`Quality::ALL`].
    pub fn index(self) -> usize {
        self as usize
    }
}

/// Qualities at one place: a value each in the quality's unit, in the order of [`Quality::ALL`]; 0 for those that the tool's
/// medium does not have.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Qualities(pub [f64; Quality::COUNT]);

impl Qualities {
    pub fn get(&self, quality: Quality) -> f64 {
        self.0[quality.index()]
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn qualities_know_their_place() {
        assert!(Quality::ALL.iter().enumerate().all(|(i, q)| q.index() == i));
    }
}
