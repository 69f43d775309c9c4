//! A hair as a cantilever clamped in its ferrule and loaded at its end, however far it bends.
//!
//! Bisshopp & Drucker 1945: with the load `α = P·L²/(E·I)`, constant in direction and perpendicular to the unbent beam,
//! `θ″ = −α·cos θ`. Put `p² = (1 + sin θ₀)/2` for the slope θ₀ at the end and `sin φ₁ = 1/(p√2)`; then
//! `√α = K(p) − F(φ₁, p)`, the end lies at `x/L = √(2·sin θ₀/α)` along the unbent beam and
//! `y/L = 1 − 2(E(p) − E(φ₁, p))/√α` along the load. Integrals are taken in v with `sin φ = tanh v`, in which they stay smooth as p
//! nears 1. For small loads `y/L = α/3` (Euler and Bernoulli), with `I = π·d⁴/64` for a round hair.

use std::f64::consts::{FRAC_1_SQRT_2, PI};
use std::sync::OnceLock;

/// The end of a bent hair.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Bend {
    /// Displacement along the load, over the length.
    pub vertical: f64,
    /// Shortening along the unbent hair, over the length.
    pub horizontal: f64,
    /// Slope at the end, radians.
    pub slope: f64,
}

/// Largest load that is solved for; a hair lies flat long before.
pub const MOST_LOAD: f64 = 200.0;
/// Beyond this, what is left of the integrals is under 1e-12.
const FAR: f64 = 32.0;
/// Panels of Simpson's rule.
const PANELS: usize = 1200;
/// As many do for the table.
const COARSE_PANELS: usize = 240;

/// `(K − F, E(p) − E(φ₁, p))` for `1 − p² = q`.
fn integrals(q: f64, panels: usize) -> (f64, f64) {
    let p2 = 1.0 - q;
    let from = libm::atanh((FRAC_1_SQRT_2 / f64::sqrt(p2)).min(1.0 - 1e-16));
    let h = (FAR - from) / panels as f64;
    let at = |v: f64| {
        let (c, t) = (1.0 / libm::cosh(v), libm::tanh(v));
        // 1 − p²·tanh² = sech² + q·tanh².
        let root = f64::sqrt(c * c + q * t * t);
        (c / root, c * root)
    };
    let mut sum = (0.0, 0.0);
    for i in 0..=panels {
        let weight = if i == 0 || i == panels { 1.0 } else { [2.0, 4.0][i % 2] };
        let (k, e) = at(from + h * i as f64);
        sum = (sum.0 + weight * k, sum.1 + weight * e);
    }
    (sum.0 * h / 3.0, sum.1 * h / 3.0)
}

/// A hair at a load of 0 to [`MOST_LOAD`]; a greater one counts as that.
pub fn bend(load: f64) -> Bend {
    let load = load.clamp(0.0, MOST_LOAD);
    if load < 1e-4 {
        // Euler and Bernoulli; the shortening is ∫θ²/2 = α²/15.
        return Bend { vertical: load / 3.0, horizontal: load * load / 15.0, slope: 0.5 * load };
    }
    let wanted = f64::sqrt(load);
    // q falls from ½, for no load, towards 0 as e^(−2√α).
    let (mut low, mut high) = (-2.0 * wanted - 8.0, libm::log(0.5));
    for _ in 0..60 {
        let middle = 0.5 * (low + high);
        if integrals(libm::exp(middle), PANELS).0 > wanted { low = middle } else { high = middle }
    }
    let q = libm::exp(0.5 * (low + high));
    let sine = 1.0 - 2.0 * q;
    Bend {
        vertical: 1.0 - 2.0 * integrals(q, PANELS).1 / wanted,
        horizontal: 1.0 - f64::sqrt(2.0 * sine / load),
        slope: 0.5 * PI - libm::acos(sine),
    }
}

/// Second moment of area of a round hair of a diameter, mm⁴.
pub fn second_moment_mm4(diameter_mm: f64) -> f64 {
    PI * libm::pow(diameter_mm, 4.0) / 64.0
}

/// Loads by shortening, in steps of 1/[`STEPS`].
const STEPS: usize = 128;
/// The most a hair can shorten, over its length: it lies on the sheet.
pub const MOST_SHORTENING: f64 = 0.85;

/// The load at which a hair is shortened by `share` of its length, 0 to [`MOST_SHORTENING`]; linear between 1/128 of a length,
/// but as its square root near none, which it grows as.
pub fn load_at(share: f64) -> f64 {
    static TABLE: OnceLock<Vec<f64>> = OnceLock::new();
    let table = TABLE.get_or_init(|| {
        // α²/shortening is smooth where α is not.
        let of = |i: usize| {
            let q = 0.5 * libm::exp(-0.04 * i as f64);
            let load = libm::pow(integrals(q, COARSE_PANELS).0, 2.0);
            let share = 1.0 - f64::sqrt(2.0 * (1.0 - 2.0 * q) / load);
            (share, load * load / share)
        };
        let solved: Vec<(f64, f64)> = (1..).map(of).take_while(|s| s.0 < MOST_SHORTENING + 0.03).collect();
        let entry = |i: usize| {
            let share = i as f64 / STEPS as f64;
            let k = solved.partition_point(|s| s.0 < share).min(solved.len() - 1);
            if k == 0 {
                return 15.0;
            }
            let (a, b) = (solved[k - 1], solved[k]);
            a.1 + (b.1 - a.1) * (share - a.0) / (b.0 - a.0)
        };
        (0..=(MOST_SHORTENING * STEPS as f64) as usize + 2).map(entry).collect()
    });
    let share = share.clamp(0.0, MOST_SHORTENING);
    let u = share * STEPS as f64;
    let i = u as usize;
    f64::sqrt(share * (table[i] + (table[i + 1] - table[i]) * (u - i as f64)))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Bisshopp & Drucker 1945, as integrated to 30 digits.
    #[test]
    fn large_deflections_are_those_of_the_published_table() {
        for (load, vertical, horizontal, slope) in [
            (0.25, 0.0827459, 0.0041178, 0.1242924),
            (1.0, 0.3017208, 0.0564332, 0.4613519),
            (3.0, 0.6032534, 0.2544202, 0.9860169),
            (10.0, 0.810609, 0.5549956, 1.4302855),
        ] {
            let got = bend(load);
            assert!((got.vertical - vertical).abs() < 1e-6, "{load}: {got:?}");
            assert!((got.horizontal - horizontal).abs() < 1e-6, "{load}: {got:?}");
            assert!((got.slope - slope).abs() < 1e-6, "{load}: {got:?}");
            assert!((load_at(horizontal) / load - 1.0).abs() < 2e-3, "{load}: {}", load_at(horizontal));
        }
    }
}
