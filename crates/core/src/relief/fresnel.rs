//! How much light a smooth surface throws back: Fresnel's formulas for a surface between air and a clear medium.
//!
//! `r_s = (cos θ − n·cos θ′)/(cos θ + n·cos θ′)`, `r_p = (n·cos θ − cos θ′)/(n·cos θ + cos θ′)` with `sin θ = n·sin θ′`; powers are
//! their squares, and light that is not polarised has the mean. ISO 2813 measures gloss against n = 1.567, which throws back
//! 0.1001 at 60°.

/// Power that is thrown back.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Reflected {
    pub s: f64,
    pub p: f64,
}

impl Reflected {
    /// Of light that is not polarised.
    pub fn mean(self) -> f64 {
        0.5 * (self.s + self.p)
    }
}

/// At an angle from the surface's normal whose cosine is `cosine` (0..1), on a medium of index `n` (1 and more).
pub fn reflected(n: f64, cosine: f64) -> Reflected {
    let cosine = cosine.clamp(0.0, 1.0);
    let inside = f64::sqrt(1.0 - (1.0 - cosine * cosine) / (n * n));
    let s = (cosine - n * inside) / (cosine + n * inside);
    let p = (n * cosine - inside) / (n * cosine + inside);
    Reflected { s: s * s, p: p * p }
}

/// As [`reflected`], at an angle in degrees from the normal.
pub fn reflected_at(n: f64, angle_deg: f64) -> Reflected {
    reflected(n, libm::cos(angle_deg.to_radians()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_standard_of_gloss_throws_back_a_tenth_at_60_degrees() {
        // ISO 2813; Brewster's angle of n = 1.5 by its definition.
        let at = reflected_at;
        assert!((at(1.567, 60.0).mean() - 0.1001).abs() < 5e-5);
        assert!((at(1.567, 20.0).mean() - 0.049_078_1).abs() < 1e-7);
        assert!(at(1.5, libm::atan(1.5).to_degrees()).p < 1e-15);
        assert!((at(1.5, 0.0).mean() - 0.04).abs() < 1e-12 && (at(1.5, 90.0).mean() - 1.0).abs() < 1e-9);
    }
}
