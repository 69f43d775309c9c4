//! A film over a ground: Kubelka–Munk in a form that stays stable in f32.
//!
//! Kubelka 1948. With `p = √(K(K+2S))`, `E = e^(−2pX)`, `u = (1−E)/((1+E)p)`, `D = 1 + (K+S)u`:
//! over black `R0 = S·u/D`, transmitted twice `T² = 4E/((1+E)D)²`, over a ground `R = R0 + T²·Rg/(1 − R0·Rg)`. The
//! textbook coth form fails in f32 for a third of extreme inputs. Layers compose: the R of one is the Rg of the next.

use super::bands::{BANDS, Spectrum};
use crate::lanes::{self, LANES, Lanes, all, larger, smaller, where_greater};

/// Reflectance of a film with totals `kx`, `sx` over a ground reflectance, in f64. `thickness` infinite: the limit R∞.
pub fn reflectance(k: f64, s: f64, thickness: f64, ground: f64) -> f64 {
    let p = f64::sqrt(k * (k + 2.0 * s));
    if thickness.is_infinite() {
        let sum = k + s + p;
        return if sum == 0.0 { ground } else { s / sum };
    }
    let y = (p * thickness).min(40.0);
    let e = libm::exp(-2.0 * y);
    let u = if y < 1e-4 { thickness * (1.0 - y * y / 3.0) } else { -libm::expm1(-2.0 * y) / ((1.0 + e) * p) };
    let d = 1.0 + (k + s) * u;
    let r0 = s * u / d;
    let t = 2.0 * libm::exp(-y) / ((1.0 + e) * d);
    r0 + t * t * ground / (1.0 - r0 * ground).max(1e-7)
}

/// The same for all bands at once in f32, from film totals (thickness 1): what pixels use. Absolute error under 2e-5
/// against [`reflectance`] (tested).
#[inline(always)]
pub fn over(kx: &Spectrum, sx: &Spectrum, ground: &Spectrum) -> Spectrum {
    let mut out = [0.0; BANDS];
    for b in (0..BANDS).step_by(LANES) {
        let of = |values: &Spectrum| lanes::four(&values[b..]);
        out[b..b + LANES].copy_from_slice(&over_lanes(of(kx), of(sx), of(ground)).to_array());
    }
    out
}

/// As [`over`], for four bands.
#[inline(always)]
pub fn over_lanes(k: Lanes, s: Lanes, ground: Lanes) -> Lanes {
    let one = all(1.0);
    let p = (k * (k + all(2.0) * s)).sqrt();
    let y = smaller(p, all(40.0));
    let e = lanes::exp(all(-2.0) * y);
    // tanh(y)/y by its series where 1 − E would cancel.
    let near = one - y * y * (all(1.0 / 3.0) - y * y * all(2.0 / 15.0));
    let far = (one - e) / ((one + e) * larger(p, all(1e-12)));
    let u = where_greater(all(0.05), y, near, far);
    let d = one + (k + s) * u;
    let r0 = s * u / d;
    let q = all(2.0) / ((one + e) * d);
    r0 + q * q * e * ground / larger(one - r0 * ground, all(1e-7))
}

/// Depth `X/X₁` at which a film is half as uneven: powder that fills the tooth lies evenly (tuned by eye).
const EVENS_OUT: f32 = 8.0;

/// How a film of uneven thickness within a pixel counts, as a film of even thickness:
/// `X_eff = (X₁/ν′)·ln(1 + ν′·X/X₁)` with `X₁ = 1/(2K+S)`, as for gamma-distributed thickness of relative variance ν′; ν′
/// falls from `unevenness` for thin films as `1/(1 + X/8X₁)` (form from the dry study, tuned by eye). Gives film totals.
#[inline(always)]
pub fn thin_for_unevenness(kx: Lanes, sx: Lanes, unevenness: f32) -> (Lanes, Lanes) {
    let depth = all(2.0) * kx + sx;
    let t = all(unevenness) * depth / (all(1.0) + depth * all(1.0 / EVENS_OUT));
    let thin = all(1.0) - all(0.5) * t;
    let share = where_greater(all(1e-3), t, thin, lanes::ln(all(1.0) + t) / larger(t, all(1e-3)));
    (kx * share, sx * share)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn worked_values_of_the_film_formula() {
        // Reference colour data, "Worked values": K 10, S 10 mm⁻¹, X 0.05 mm and two more.
        let cases = [
            (10.0, 10.0, 0.05, 0.0, 0.223_380_8),
            (10.0, 10.0, 0.05, 1.0, 0.424_735_4),
            (200.0, 5.0, 0.01, 0.0, 0.011_994_6),
            (200.0, 5.0, 0.01, 1.0, 0.028_784_0),
            (0.0, 100.0, 0.05, 0.0, 0.833_333_3),
        ];
        for (k, s, x, ground, want) in cases {
            let got = reflectance(k, s, x, ground);
            assert!((got - want).abs() < 1e-6, "K {k} S {s} X {x} over {ground}: {got}, want {want}");
        }
        // K/S of R∞ = 0.1 is 4.05.
        assert!((reflectance(4.05, 1.0, f64::INFINITY, 0.5) - 0.1).abs() < 1e-12);
    }

    #[test]
    fn pixel_form_follows_the_exact_form_from_thin_to_opaque() {
        for ki in 0..40 {
            for si in 0..40 {
                let k = libm::pow(10.0, f64::from(ki) * 0.2 - 6.0);
                let s = libm::pow(10.0, f64::from(si) * 0.2 - 6.0);
                for ground in [0.0, 0.3, 0.9] {
                    let want = reflectance(k, s, 1.0, ground);
                    let got = over(&[k as f32; 8], &[s as f32; 8], &[ground as f32; 8])[0];
                    assert!(
                        (f64::from(got) - want).abs() < 2e-5,
                        "K {k} S {s} over {ground}: {got} want {want}"
                    );
                }
            }
        }
    }
}
