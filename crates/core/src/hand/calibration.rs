//! Calibration: one curve per device, in front of every tool.

use serde::{Deserialize, Serialize};

use super::DeviceProfile;
use crate::chain::Curve;

/// The device-wide pressure curve; the identity unless the painter has set one.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Calibration {
    #[cfg_attr(feature = "types", ts(type = "[number, number][]"))]
    pub curve: Curve,
}

impl Calibration {
    /// Calibrated pressure in 0..1 from the driver's 0..1.
    pub fn apply(&self, pressure: f64) -> f64 {
        self.curve.at(pressure).clamp(0.0, 1.0)
    }

    /// The least force in gf that `profile` reports as something the curve turns into `output` (0..1) or more; nothing where no
    /// level does.
    pub fn force_for(&self, profile: &DeviceProfile, output: f64) -> Option<f64> {
        let top = f64::from(profile.levels - 1);
        (1..profile.levels)
            .map(|k| f64::from(k) / top)
            .find(|p| self.apply(*p) >= output - 1e-9)
            .map(|p| profile.force_gf(p))
    }
}
