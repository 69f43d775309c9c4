//! A device profile: how a stylus turns the hand's force, lean and turn into what its driver reports.
//!
//! `p = ((F − F_on) / (F_full − F_on))^g`, rounded to the device's levels, models.md §1. The figures of the plain pen and of
//! the simulated ones are made up for the program: no device that exists.

use serde::{Deserialize, Serialize};

use super::path::{Path, Piece};
use super::{Gesture, Sample, angles};
use crate::error::{FieldError, Result, text, within};
use crate::num;

/// What a stylus and its driver do to a hand; forces in gf.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
pub struct DeviceProfile {
    pub name: String,
    /// Distinct pressure values the driver can report, 2..65536.
    pub levels: u32,
    /// Force at which the first level is reported, gf, 0..200.
    pub first_gf: f64,
    /// Force at which full pressure is reported, gf, above `first_gf`, at most 2000.
    pub full_gf: f64,
    /// Exponent of the force law, 0.2..5.
    pub exponent: f64,
    /// Reports a second, 10..2000.
    pub rate_hz: f64,
    /// Farthest lean from upright that is reported, degrees, 0..90; 0 where the pen has no tilt.
    pub tilt_range_deg: f64,
    /// Step of the reported tilts, degrees, 0..30; 0 for none.
    pub tilt_step_deg: f64,
    /// Whether the turn of the barrel is reported.
    pub barrel: bool,
    /// Standard deviation of the force that is reported, as a share of the range from first to full, 0..0.2.
    pub noise: f64,
}

impl Default for DeviceProfile {
    fn default() -> Self {
        Self {
            name: "Plain pen".into(),
            levels: 8192,
            first_gf: 4.0,
            full_gf: 400.0,
            exponent: 1.0,
            rate_hz: 200.0,
            tilt_range_deg: 90.0,
            tilt_step_deg: 0.0,
            barrel: true,
            noise: 0.0,
        }
    }
}

/// The styluses that ship with the program, to play a gesture through.
pub fn simulated() -> [DeviceProfile; 4] {
    let pen = |name: &str| DeviceProfile { name: name.into(), ..DeviceProfile::default() };
    [
        DeviceProfile {
            first_gf: 3.0,
            full_gf: 420.0,
            exponent: 0.9,
            rate_hz: 240.0,
            tilt_range_deg: 64.0,
            tilt_step_deg: 0.5,
            noise: 0.001,
            ..pen("Fine pen with tilt and barrel")
        },
        DeviceProfile {
            levels: 2048,
            first_gf: 26.0,
            full_gf: 520.0,
            exponent: 1.35,
            rate_hz: 133.0,
            tilt_range_deg: 60.0,
            tilt_step_deg: 1.0,
            barrel: false,
            noise: 0.003,
            ..pen("Stiff pen, late to begin")
        },
        DeviceProfile {
            levels: 1024,
            first_gf: 12.0,
            full_gf: 360.0,
            exponent: 0.75,
            rate_hz: 120.0,
            tilt_range_deg: 0.0,
            tilt_step_deg: 0.0,
            barrel: false,
            noise: 0.004,
            ..pen("Coarse pen without tilt")
        },
        DeviceProfile {
            levels: 4096,
            first_gf: 8.0,
            full_gf: 450.0,
            rate_hz: 60.0,
            tilt_range_deg: 60.0,
            tilt_step_deg: 5.0,
            barrel: false,
            noise: 0.025,
            ..pen("Restless pen, few reports")
        },
    ]
}

/// A number of the profile: what a screen and the schema must know of it.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, Serialize)]
pub struct Field {
    pub key: &'static str,
    pub label: &'static str,
    pub unit: &'static str,
    pub low: f64,
    pub high: f64,
    pub step: f64,
    pub help: &'static str,
    #[serde(skip)]
    of: fn(&DeviceProfile) -> f64,
}

const fn field(
    (key, label, unit): (&'static str, &'static str, &'static str),
    [low, high, step]: [f64; 3],
    of: fn(&DeviceProfile) -> f64,
    help: &'static str,
) -> Field {
    Field { key, label, unit, low, high, step, help, of }
}

/// The numbers of a profile and their limits.
pub static FIELDS: [Field; 8] = [
    field(
        ("levels", "Levels", ""),
        [2.0, 65_536.0, 1.0],
        |p| f64::from(p.levels),
        "Distinct pressures the driver reports.",
    ),
    field(
        ("first_gf", "Force at first contact", "gf"),
        [0.0, 200.0, 0.5],
        |p| p.first_gf,
        "Force at which the first level is reported.",
    ),
    field(
        ("full_gf", "Force at full scale", "gf"),
        [1.0, 2000.0, 1.0],
        |p| p.full_gf,
        "Force at which full pressure is reported; above that of first contact.",
    ),
    field(
        ("exponent", "Force law, exponent", ""),
        [0.2, 5.0, 0.01],
        |p| p.exponent,
        "1 reports force as it is; under 1 light touches are raised.",
    ),
    field(("rate_hz", "Reports", "Hz"), [10.0, 2000.0, 1.0], |p| p.rate_hz, "Reports a second."),
    field(
        ("tilt_range_deg", "Tilt up to", "°"),
        [0.0, 90.0, 1.0],
        |p| p.tilt_range_deg,
        "Farthest lean that is reported; 0 for none.",
    ),
    field(
        ("tilt_step_deg", "Tilt in steps of", "°"),
        [0.0, 30.0, 0.5],
        |p| p.tilt_step_deg,
        "Step of the reported tilts.",
    ),
    field(
        ("noise", "Noise of the force", "×"),
        [0.0, 0.2, 0.001],
        |p| p.noise,
        "Standard deviation of the reported force, as a share of the range.",
    ),
];

impl DeviceProfile {
    /// # Errors
    /// Names the field and the limit.
    pub fn check(&self) -> Result<()> {
        text("name", &self.name, 1, 80)?;
        for field in &FIELDS {
            within(field.key, (field.of)(self), field.low, field.high, field.unit)?;
        }
        if self.full_gf <= self.first_gf {
            return Err(FieldError::new("full_gf", "must lie above the force of first contact"));
        }
        Ok(())
    }

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

    /// What this stylus would have reported of a gesture that `recorder` recorded: the same hand, other ears. Reports of no
    /// pressure are no contact: a pass may come out shorter, split, or not at all. `seed` gives the noise.
    ///
    /// # Errors
    /// Where the hand never presses hard enough for this stylus, and where the reports would be more than a gesture holds.
    pub fn play(&self, gesture: &Gesture, recorder: &Self, seed: u64) -> Result<Gesture> {
        self.check()?;
        let mut passes = Vec::new();
        let mut reports = 0;
        for pass in gesture.passes() {
            let mut touching = Vec::new();
            for sample in self.hear(pass, recorder, seed, &mut reports)? {
                if sample.pressure > 0.0 {
                    touching.push(sample);
                } else if !touching.is_empty() {
                    passes.push(std::mem::take(&mut touching));
                }
            }
            if !touching.is_empty() {
                passes.push(touching);
            }
        }
        if passes.is_empty() {
            let message = format!(
                "{} reports nothing under {} gf, and the hand never presses harder",
                self.name, self.first_gf
            );
            return Err(FieldError::new("first_gf", message));
        }
        Gesture::new(passes)
    }

    /// The reports of one pass, those without pressure too.
    fn hear(&self, pass: &[Sample], recorder: &Self, seed: u64, reports: &mut i64) -> Result<Vec<Sample>> {
        let (Some(first), Some(last)) = (pass.first(), pass.last()) else { return Ok(Vec::new()) };
        let most = super::gesture::MOST_SAMPLES;
        let count = ((last.t - first.t) * self.rate_hz).floor() as usize + 1;
        if *reports as usize + count > most {
            return Err(FieldError::new("rate_hz", format!("would give more than {most} reports")));
        }
        let mut path = Path::default();
        let mut pieces: Vec<Piece> = pass.iter().filter_map(|s| path.push(s)).collect();
        pieces.extend(path.lift().0);
        let mut at = 0;
        let mut out = Vec::with_capacity(count);
        // The lift is reported too, whenever it comes.
        let times = (0..count).map(|k| first.t + k as f64 / self.rate_hz).chain([last.t]);
        for t in times.filter(|t| *t <= last.t) {
            if out.last().is_some_and(|s: &Sample| t - s.t < 1e-6) {
                continue;
            }
            while at + 1 < pieces.len() && pieces[at].end_s() < t {
                at += 1;
            }
            let heard = match pieces.get(at) {
                Some(piece) => piece.sample_at(t),
                None => *first,
            };
            out.push(self.report(&heard, t, recorder, num::hash(seed, 70, *reports, 0)));
            *reports += 1;
        }
        Ok(out)
    }

    fn report(&self, hand: &Sample, t: f64, recorder: &Self, chance: u64) -> Sample {
        let noise = self.noise * (self.full_gf - self.first_gf) * f64::from(num::gaussian(chance));
        let force = recorder.force_gf(hand.pressure);
        let pressure = if force > 0.0 { self.pressure(force + noise) } else { 0.0 };
        let (tilt_x, tilt_y) = self.tilt(hand.tilt_x, hand.tilt_y);
        Sample { t, pressure, tilt_x, tilt_y, twist: if self.barrel { hand.twist } else { 0.0 }, ..*hand }
    }

    /// Tilts as reported: held within the range, keeping their direction, then stepped.
    fn tilt(&self, tilt_x: f64, tilt_y: f64) -> (f64, f64) {
        let (altitude, azimuth) = angles::to_spherical(tilt_x, tilt_y);
        let least = (90.0 - self.tilt_range_deg).to_radians();
        let (x, y) = if altitude < least { angles::to_tilt(least, azimuth) } else { (tilt_x, tilt_y) };
        if self.tilt_step_deg == 0.0 || self.tilt_range_deg == 0.0 {
            return if self.tilt_range_deg == 0.0 { (0.0, 0.0) } else { (x, y) };
        }
        let step = |v: f64| (libm::round(v / self.tilt_step_deg) * self.tilt_step_deg).clamp(-90.0, 90.0);
        (step(x), step(y))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn force_law_inverts_within_one_level() {
        let pen = DeviceProfile {
            levels: 2048,
            first_gf: 18.0,
            full_gf: 350.0,
            exponent: 0.7,
            ..Default::default()
        };
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
