//! Where a sheet lies: the air of the room that takes its water, and the slope of its board.

use serde::{Deserialize, Serialize};

use crate::error::{Result, within};

/// The room and the board.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields, default)]
pub struct Surroundings {
    /// Temperature of the room, °C, and its relative humidity, %.
    pub celsius: f64,
    pub humidity: f64,
    /// How far the board is tilted, °, and which way it falls: ° clockwise from the right, 90 towards the painter.
    pub tilt_deg: f64,
    pub falls_deg: f64,
}

impl Default for Surroundings {
    fn default() -> Self {
        Self { celsius: 20.0, humidity: 50.0, tilt_deg: 0.0, falls_deg: 90.0 }
    }
}

/// Saturation pressure of water vapour, hPa (Magnus formula with Alduchov & Eskridge's 1996 coefficients, from memory; 23.3 hPa at 20 °C).
fn saturation_hpa(celsius: f64) -> f64 {
    6.1094 * libm::exp(17.625 * celsius / (celsius + 243.04))
}

impl Surroundings {
    /// # Errors
    /// Names the value and its limits: 0 to 45 °C, 0 to 100 %, a tilt of 0 to 75°, a direction of 0 to 360°.
    pub fn check(&self) -> Result<()> {
        within("celsius", self.celsius, 0.0, 45.0, "°C")?;
        within("humidity", self.humidity, 0.0, 100.0, "%")?;
        within("tilt_deg", self.tilt_deg, 0.0, 75.0, "°")?;
        within("falls_deg", self.falls_deg, 0.0, 360.0, "°")?;
        Ok(())
    }

    /// How much faster water leaves for the air than at 20 °C and 50 %: as the vapour that the air still takes (Dalton).
    pub fn dries(&self) -> f64 {
        let takes = |celsius: f64, humidity: f64| saturation_hpa(celsius) * (1.0 - 0.01 * humidity);
        let usual = Self::default();
        takes(self.celsius, self.humidity) / takes(usual.celsius, usual.humidity)
    }

    /// Tangent of the slope, across and down the sheet; exactly nought on a level board and along its axes.
    pub fn slope(&self) -> [f64; 2] {
        let steep = libm::tan(self.tilt_deg.to_radians());
        let direction = self.falls_deg.to_radians();
        [libm::cos(direction), libm::sin(direction)].map(|v| if v.abs() < 1e-9 { 0.0 } else { steep * v })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn warm_dry_air_takes_more_and_a_level_board_pulls_nowhere() {
        let room =
            |celsius: f64, humidity: f64| Surroundings { celsius, humidity, ..Default::default() }.dries();
        assert_eq!(room(20.0, 50.0), 1.0);
        // Saturation pressures of steam tables: 12.3 hPa at 10 °C, 42.5 hPa at 30 °C (from memory).
        assert!((room(30.0, 50.0) / room(10.0, 50.0) - 42.5 / 12.3).abs() < 0.05);
        assert_eq!(room(20.0, 100.0), 0.0);
        assert_eq!(Surroundings::default().slope(), [0.0, 0.0]);
        let down = Surroundings { tilt_deg: 45.0, ..Default::default() }.slope();
        assert!(down[0] == 0.0 && (down[1] - 1.0).abs() < 1e-12, "{down:?}");
        assert!(Surroundings { tilt_deg: 80.0, ..Default::default() }.check().is_err());
    }
}
