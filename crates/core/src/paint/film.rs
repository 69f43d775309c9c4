//! A film over a ground: Kubelka–Munk in a form that stays stable in f32.
//!
//! Kubelka 1948. With `p = √(K(K+2S))`, `E = e^(−2pX)`, `u = (1−E)/((1+E)p)`, `D = 1 + (K+S)u`:
//! over black `R0 = S·u/D`, transmitted twice `T² = 4E/((1+E)D)²`, over a ground `R = R0 + T²·Rg/(1 − R0·Rg)`. The
//! textbook coth form fails in f32 for a third of extreme inputs. Layers compose: the R of one is the Rg of the next.

use super::bands::{BANDS, Spectrum};
use crate::num;

/// Reflectance of a film with totals `kx`, `sx` over a ground reflectance, in f64. `thickness` infinite: the limit R∞.
pub fn reflectance(k: f64, s: f64, thickness: f64, ground: f64) -> f64 {
    let p = libm::sqrt(k * (k + 2.0 * s));
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
    for b in 0..BANDS {
        let (k, s) = (kx[b], sx[b]);
        let p = (k * (k + 2.0 * s)).sqrt();
        let y = p.min(40.0);
        let e = num::exp(-2.0 * y);
        // tanh(y)/y by its series where 1 − E would cancel.
        let near = 1.0 - y * y * (1.0 / 3.0 - y * y * (2.0 / 15.0));
        let far = (1.0 - e) / ((1.0 + e) * p.max(1e-12));
        let u = if y < 0.05 { near } else { far };
        let d = 1.0 + (k + s) * u;
        let r0 = s * u / d;
        let q = 2.0 / ((1.0 + e) * d);
        let t2 = q * q * e;
        out[b] = r0 + t2 * ground[b] / (1.0 - r0 * ground[b]).max(1e-7);
    }
    out
}

/// How a film of uneven thickness within a pixel counts, as a film of even thickness:
/// `X_eff = (X₁/ν)·ln(1 + ν·X/X₁)` with `X₁ = 1/(2K+S)`; ν is the unevenness (dry study, tuned by eye). In place.
#[inline(always)]
pub fn thin_for_unevenness_in_place(kx: &mut Spectrum, sx: &mut Spectrum, unevenness: f32) {
    for b in 0..BANDS {
        let depth = 2.0 * kx[b] + sx[b];
        let t = unevenness * depth;
        let share = if t < 1e-3 { 1.0 - 0.5 * t } else { num::ln(1.0 + t) / t };
        kx[b] *= share;
        sx[b] *= share;
    }
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
