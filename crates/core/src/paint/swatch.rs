//! What a paint looks like: the four swatches by which a painter knows it.

use std::collections::BTreeMap;

use serde::Serialize;

use super::bands::Spectrum;
use super::colour::Display;
use super::film;
use super::pigment;
use crate::error::{Result, within};

/// Parts of titanium white to one of the paint in its tint.
const WHITE_PARTS: f64 = 9.0;
/// Thickness of the film on black and on white, mm: a thin even coat.
const FILM_MM: f64 = 0.04;
/// Reflectance of the black and the white of a drawdown card (tuned by eye: such cards are about 1 % and 80 %).
const CARD: [f64; 2] = [0.01, 0.8];

/// A paint as it looks, sRGB.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
pub struct Swatches {
    /// So thick that nothing shows through.
    pub masstone: [u8; 3],
    /// One part with nine of titanium white.
    pub tint: [u8; 3],
    /// A film of 40 µm on black, and on white.
    pub on_black: [u8; 3],
    pub on_white: [u8; 3],
}

/// Swatches of a mixture by parts, with a share of medium.
///
/// # Errors
/// Passes on what [`pigment::check_parts`] refuses; names `medium` where it is not 0 to 1.
pub fn of(parts: &BTreeMap<String, f64>, medium: f64) -> Result<Swatches> {
    pigment::check_parts(parts)?;
    within("medium", medium, 0.0, 1.0, "")?;
    let sum: f64 = parts.values().sum();
    let share = |white: f64| {
        let own = parts.iter().map(|(code, n)| (code.as_str(), n / sum * (1.0 - medium) / (1.0 + white)));
        pigment::mix(own.chain([("PW6", white / (1.0 + white))]))
    };
    let (k, s) = pigment::mix(parts.iter().map(|(code, n)| (code.as_str(), n / sum * (1.0 - medium))))?;
    let (tint_k, tint_s) = share(WHITE_PARTS)?;
    let display = Display::shared();
    let seen = |k: &[f64], s: &[f64], thick: f64, ground: f64| {
        let spectrum: Spectrum = std::array::from_fn(|b| film::reflectance(k[b], s[b], thick, ground) as f32);
        display.srgb8(&spectrum)
    };
    Ok(Swatches {
        masstone: seen(&k, &s, f64::INFINITY, 0.5),
        tint: seen(&tint_k, &tint_s, f64::INFINITY, 0.5),
        on_black: seen(&k, &s, FILM_MM, CARD[0]),
        on_white: seen(&k, &s, FILM_MM, CARD[1]),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_film_hides_black_as_its_paint_does() {
        let of = |code: &str| of(&[(code.to_owned(), 1.0)].into(), 0.0).expect("it ships");
        let light = |rgb: [u8; 3]| rgb.iter().map(|v| i32::from(*v)).sum::<i32>();
        // Titanium white hides; alizarin is a glaze (common practice, no source).
        let (white, glaze) = (of("PW6"), of("PR177"));
        let hides = |s: Swatches| f64::from(light(s.on_black)) / f64::from(light(s.on_white));
        assert!(hides(white) > 0.9 && hides(glaze) < 0.65, "{white:?} {glaze:?}");
        assert!(light(glaze.tint) > light(glaze.masstone) + 200, "{glaze:?}");
    }
}
