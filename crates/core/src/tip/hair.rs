//! Hairs: what they are by nature, how a brush of them bends, and how much it holds.
//!
//! A hair is drawn over the sheet by its end, where friction holds it back: it bends as a cantilever whose load is the part of
//! the sheet's push that acts across it, `N·(μ·cos θ + sin θ)` for a brush tilted by θ. Of a brush that is lowered by w each hair
//! is shortened by w and its own unevenness of length; the pushes of all hairs make the pen's force.

use super::cantilever;
use crate::chain::choice::choices;
use crate::chain::{Choice, Settings};

choices! {
    /// What hairs are made of.
    pub enum Hair {
        Hog = "hog", "hog";
        Mongoose = "mongoose", "mongoose";
        Sable = "sable", "sable";
        SyntheticSoft = "synthetic-soft", "synthetic, soft";
        SyntheticFirm = "synthetic-firm", "synthetic, firm";
    }
}

/// Diameter, stiffness, ends and tufts of a kind of hair. Diameters and moduli from memory, order of magnitude only, wet (keratin
/// takes up water and gives about half as stiff a hair); ends and tufts are tuned by eye.
pub fn nature(hair: Hair) -> [(&'static str, f64); 4] {
    let [mm, gpa, ends, tuft] = match hair {
        Hair::Hog => [0.2, 2.5, 1.0, 0.6],
        Hair::Mongoose => [0.12, 1.9, 0.7, 0.7],
        Hair::Sable => [0.08, 1.8, 0.25, 1.6],
        Hair::SyntheticSoft => [0.09, 1.6, 0.35, 1.0],
        Hair::SyntheticFirm => [0.16, 3.0, 0.45, 0.8],
    };
    [("tip.hair_mm", mm), ("tip.hair_gpa", gpa), ("tip.ends", ends), ("tip.tuft_mm", tuft)]
}

/// All of them, for the table of natures.
pub fn all() -> impl Iterator<Item = (&'static str, [(&'static str, f64); 4])> {
    Hair::ALL.iter().zip(Hair::OPTIONS).map(|(hair, (name, _))| (*name, nature(*hair)))
}

/// Friction of a wet hair on paint and ground (tuned by eye: hairs trail at about the angle they should).
const FRICTION: f64 = 0.5;
/// gf in a N.
const GF_PER_N: f64 = 101.971_621;
/// Shares of the hairs' unevenness at which their pushes are summed.
const SAMPLES: [f64; 9] = [-1.2, -0.8, -0.5, -0.2, 0.0, 0.2, 0.5, 0.8, 1.2];
/// Steps of lowering, closer the less it is lowered: the force of a hair begins as its square root.
const STEPS: usize = 128;

/// How a brush bends under a force.
#[derive(Debug, Clone)]
pub struct Stiffness {
    /// Force, gf, at lowerings from `low` to `high` of the free length.
    force_gf: Vec<f64>,
    length_mm: f64,
    low: f64,
    high: f64,
}

impl Stiffness {
    /// Of `count` hairs, whose lengths differ by about `uneven_mm`, in a brush tilted by `tilt_deg`.
    pub fn new(hair_mm: f64, gpa: f64, length_mm: f64, count: f64, uneven_mm: f64, tilt_deg: f64) -> Self {
        let tilt = tilt_deg.clamp(0.0, 80.0).to_radians();
        // 1 GPa is 1000 N/mm².
        let stiff_n = 1e3 * gpa * cantilever::second_moment_mm4(hair_mm) / (length_mm * length_mm);
        let across = FRICTION * libm::cos(tilt) + libm::sin(tilt);
        let push = |share: f64| cantilever::load_at(share) * stiff_n / across * GF_PER_N;
        let (low, high) = (-1.2 * uneven_mm / length_mm, 0.6);
        let force = |w: f64| {
            let hairs = SAMPLES.iter().map(|s| (w + s * uneven_mm / length_mm).max(0.0));
            count * hairs.map(|q| if q > 0.0 { push(q) } else { 0.0 }).sum::<f64>() / SAMPLES.len() as f64
        };
        let at = |i: usize| i as f64 / STEPS as f64;
        let force_gf = (0..=STEPS).map(|i| force(low + (high - low) * at(i) * at(i))).collect();
        Self { force_gf, length_mm, low, high }
    }

    /// How far the ferrule is lowered towards the sheet from where the mean hair touches, mm, at a force.
    pub fn lowered_mm(&self, force_gf: f64) -> f64 {
        if force_gf <= 0.0 {
            return self.low * self.length_mm;
        }
        let i = self.force_gf.partition_point(|f| *f < force_gf).clamp(1, STEPS);
        let (a, b) = (self.force_gf[i - 1], self.force_gf[i]);
        let share = if b > a { ((force_gf - a) / (b - a)).min(1.0) } else { 0.0 };
        let u = (i as f64 - 1.0 + share) / STEPS as f64;
        (self.low + (self.high - self.low) * u * u) * self.length_mm
    }

    /// The force at a lowering, gf.
    pub fn force_gf(&self, lowered_mm: f64) -> f64 {
        let share = (lowered_mm / self.length_mm - self.low) / (self.high - self.low);
        let u = STEPS as f64 * f64::sqrt(share.clamp(0.0, 1.0));
        let i = (u as usize).min(STEPS - 1);
        self.force_gf[i] + (self.force_gf[i + 1] - self.force_gf[i]) * (u - i as f64)
    }
}

/// How often the ferrule's tilt is told apart, degrees.
const TILT_STEP: f64 = 5.0;

/// How a brush bends, by steps of its tilt: each is found when it is first held so.
#[derive(Debug, Clone)]
pub struct Bends {
    /// Diameter (mm), modulus (GPa), free length (mm) and number of the hairs, and how unevenly long they are (mm).
    hair: [f64; 5],
    by_tilt: Vec<Option<Stiffness>>,
}

impl Bends {
    pub fn new(hair: [f64; 5]) -> Self {
        Self { hair, by_tilt: Vec::new() }
    }

    /// Free length of its hairs, mm.
    pub fn length_mm(&self) -> f64 {
        self.hair[2]
    }

    /// How unevenly long they are, mm.
    pub fn uneven_mm(&self) -> f64 {
        self.hair[4]
    }

    /// How far a force lowers the ferrule, mm, in a brush tilted so.
    pub fn lowered_mm(&mut self, force_gf: f64, tilt_deg: f64) -> f64 {
        let u = tilt_deg.clamp(0.0, 80.0) / TILT_STEP;
        let i = u as usize;
        if self.by_tilt.len() <= i + 1 {
            self.by_tilt.resize(i + 2, None);
        }
        let [mm, gpa, length, count, uneven] = self.hair;
        let mut at = |i: usize| {
            self.by_tilt[i]
                .get_or_insert_with(|| Stiffness::new(mm, gpa, length, count, uneven, i as f64 * TILT_STEP))
                .lowered_mm(force_gf)
        };
        let (low, high) = (at(i), at(i + 1));
        low + (high - low) * (u - i as f64)
    }
}

/// How much paint hairs hold over those of hog: scaly natural hair more than smooth filament (common practice, no source for the
/// numbers).
fn holding(hair: Hair) -> f64 {
    match hair {
        Hair::Hog => 1.0,
        Hair::Mongoose => 1.1,
        Hair::Sable => 1.3,
        Hair::SyntheticSoft => 0.9,
        Hair::SyntheticFirm => 0.8,
    }
}

/// How much a brush can hold, mm³: the room between its hairs over the part of them that paint fills (tuned by eye after the
/// paste study: 20 mm³ for a mm of a hog flat 4 mm thick with hairs of 22 mm).
pub fn holds_mm3(hair: Hair, [width_mm, thick_mm]: [f64; 2], length_mm: f64, round: bool) -> f64 {
    let section = width_mm * thick_mm * if round { std::f64::consts::FRAC_PI_4 } else { 1.0 };
    0.23 * holding(hair) * section * length_mm
}

/// Unevenness of the lengths of hairs, mm.
pub fn uneven_mm(tool: &Settings<'_>) -> f64 {
    0.3 * tool.number("tip.ends") * tool.number("tip.hair_length_mm") / 22.0
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_force_lowers_a_brush_to_where_its_hairs_push_back_as_much() {
        let brush = Stiffness::new(0.18, 2.0, 22.0, 220.0, 0.3, 20.0);
        for force in [0.5, 2.0, 10.0, 30.0, 60.0] {
            let back = brush.force_gf(brush.lowered_mm(force));
            assert!((back / force - 1.0).abs() < 0.01, "{force} gf: {back}");
        }
        // Hairs of one length share the force: each bends as the beam solved forwards for its part of it.
        let even = Stiffness::new(0.2, 2.5, 22.0, 300.0, 0.0, 20.0);
        let across = 0.5 * libm::cos(20.0_f64.to_radians()) + libm::sin(20.0_f64.to_radians());
        for force in [2.0, 10.0, 40.0] {
            let newton = force / 101.971_621 / 300.0 * across;
            let load = newton * 22.0 * 22.0 / (2500.0 * std::f64::consts::PI * libm::pow(0.2, 4.0) / 64.0);
            let want = 22.0 * cantilever::bend(load).horizontal;
            let got = even.lowered_mm(force);
            assert!((got / want - 1.0).abs() < 0.01, "{force} gf: {got} mm for {want}");
        }
        // Twice as many hairs, twice the force; a hair twice as thick is 16 times as stiff.
        let w = brush.lowered_mm(10.0);
        let twice = Stiffness::new(0.18, 2.0, 22.0, 440.0, 0.3, 20.0);
        assert!((twice.force_gf(w) / 20.0 - 1.0).abs() < 0.01);
        let thick = Stiffness::new(0.36, 2.0, 22.0, 220.0, 0.3, 20.0);
        assert!((thick.force_gf(w) / 160.0 - 1.0).abs() < 0.01);
    }
}
