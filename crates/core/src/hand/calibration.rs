//! Calibration: one curve per device, in front of every tool.

use serde::{Deserialize, Serialize};

use crate::touch::Curve;

/// The device-wide pressure curve; the identity unless the painter has set one.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
pub struct Calibration {
    pub curve: Curve,
}

impl Calibration {
    /// Calibrated pressure in 0..1 from the driver's 0..1.
    pub fn apply(&self, pressure: f64) -> f64 {
        self.curve.at(pressure).clamp(0.0, 1.0)
    }
}
