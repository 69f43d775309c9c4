//! A device profile: how a stylus turns the hand's force into the number its driver reports.
//!
//! `p = ((F − F_on) / (F_full − F_on))^g`, models.md §1. The default values are starting values, tuned by eye: a pen that
//! begins to report at a few gram-force and is at full scale at 400 gf.

use serde::{Deserialize, Serialize};

/// Force law of a stylus; forces in gf.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct DeviceProfile {
    /// Distinct pressure values the driver can report.
    pub levels: u32,
    /// Force at which the first level is reported, gf.
    pub first_gf: f64,
    /// Force at which full pressure is reported, gf.
    pub full_gf: f64,
    /// Exponent of the force law.
    pub exponent: f64,
}

impl Default for DeviceProfile {
    fn default() -> Self {
        Self { levels: 8192, first_gf: 4.0, full_gf: 400.0, exponent: 1.0 }
    }
}

impl DeviceProfile {
    /// Force in gf behind a reported pressure in 0..1; 0 where nothing is reported.
    pub fn force_gf(&self, pressure: f64) -> f64 {
        if pressure <= 0.0 {
            return 0.0;
        }
        self.first_gf + (self.full_gf - self.first_gf) * libm::pow(pressure.min(1.0), 1.0 / self.exponent)
    }

    /// Reported pressure in 0..1 for a force in gf, rounded to the device's levels.
    pub fn pressure(&self, force_gf: f64) -> f64 {
        let share = ((force_gf - self.first_gf) / (self.full_gf - self.first_gf)).clamp(0.0, 1.0);
        let top = f64::from(self.levels - 1);
        libm::round(libm::pow(share, self.exponent) * top) / top
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn force_law_inverts_within_one_level() {
        let pen = DeviceProfile { levels: 2048, first_gf: 18.0, full_gf: 350.0, exponent: 0.7 };
        for i in 1..=40 {
            let force = 18.0 + i as f64 * 8.3;
            let back = pen.force_gf(pen.pressure(force));
            assert!(
                (pen.pressure(back) - pen.pressure(force)).abs() < 1e-12,
                "{force} gf came back as {back} gf"
            );
            assert!((back - force).abs() < 2.0, "{force} gf came back as {back} gf");
        }
        assert_eq!(pen.pressure(5.0), 0.0);
        assert_eq!(pen.pressure(900.0), 1.0);
    }
}
