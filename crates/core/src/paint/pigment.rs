//! Pigments and mixtures: absorption K and scattering S per band, in mm⁻¹ at tube strength.
//!
//! The spectra in `data/pigments_8.csv` are approximations made for this project from memory of published absorption-band
//! positions; they are not measurements, and every place that shows them says so.

use std::sync::OnceLock;

use serde::Serialize;

use super::bands::{BANDS, Spectrum};
use crate::error::{FieldError, Result, within};

/// A coloured material.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Pigment {
    /// Colour-index code, for example `PBk6`.
    pub code: String,
    pub name: String,
    /// Absorption, mm⁻¹.
    pub k: [f64; BANDS],
    /// Scattering, mm⁻¹.
    pub s: [f64; BANDS],
}

/// All pigments that ship, in the order of the data.
pub fn all() -> &'static [Pigment] {
    static TABLE: OnceLock<Vec<Pigment>> = OnceLock::new();
    TABLE.get_or_init(|| {
        let mut out: Vec<Pigment> = Vec::new();
        for line in include_str!("../../data/pigments_8.csv").lines().filter(|l| !l.starts_with('#')).skip(1)
        {
            let cells: Vec<&str> = line.split(',').collect();
            let mut values = [0.0; BANDS];
            for (v, cell) in values.iter_mut().zip(&cells[4..]) {
                *v = cell.trim().parse().expect("pigments_8.csv holds numbers");
            }
            if cells[3] == "K" {
                out.push(Pigment {
                    code: cells[0].into(),
                    name: cells[1].into(),
                    k: values,
                    s: [0.0; BANDS],
                });
            } else {
                out.last_mut().expect("K comes before S").s = values;
            }
        }
        out
    })
}

/// The pigment with this colour-index code.
pub fn find(code: &str) -> Option<&'static Pigment> {
    all().iter().find(|p| p.code == code)
}

/// K and S per mm of a mixture of tube-strength paints by volume; what is missing to 1 is clear medium.
///
/// # Errors
/// Names an unknown pigment, a concentration outside 0..1, or a sum over 1.
pub fn mix<'a>(parts: impl IntoIterator<Item = (&'a str, f64)>) -> Result<([f64; BANDS], [f64; BANDS])> {
    let (mut k, mut s, mut sum) = ([0.0; BANDS], [0.0; BANDS], 0.0);
    for (code, c) in parts {
        let field = format!("concentrations.{code}");
        let pigment =
            find(code).ok_or_else(|| FieldError::new(&field, "is not a pigment of this program"))?;
        within(&field, c, 0.0, 1.0, "")?;
        sum += c;
        for b in 0..BANDS {
            k[b] += c * pigment.k[b];
            s[b] += c * pigment.s[b];
        }
    }
    if sum > 1.0 + 1e-9 {
        return Err(FieldError::new("concentrations", format!("add up to {sum}, more than 1")));
    }
    Ok((k, s))
}

/// A dry stick's powder: K and S per µm of packed powder.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Powder {
    pub k_um: Spectrum,
    pub s_um: Spectrum,
}

/// The powder of a stick named as `load.stick` names it.
///
/// Made as in the dry study: blacks take their absorption from the pigment and scatter as much as makes a closed layer
/// reflect R∞ (air lies between the grains); earths and whites are mixtures with more scatter than in oil. The factors and
/// R∞ are tuned by eye.
pub fn powder(stick: &str) -> Powder {
    let black = |code: &str, reflectance: f64| {
        let p = find(code).expect("the blacks ship with the program");
        let ratio = (1.0 - reflectance) * (1.0 - reflectance) / (2.0 * reflectance);
        (p.k, p.k.map(|k| k / ratio))
    };
    // Air between the grains scatters more than oil does.
    let airy = |parts: &[(&str, f64)], scatter: f64| {
        let (k, s) = mix(parts.iter().copied()).expect("shipped pigments");
        (k, s.map(|s| s * scatter))
    };
    let (k, s) = match stick {
        "compressed" => black("PBk6", 0.036),
        "sanguine" => airy(&[("PR101", 0.85), ("PW4", 0.15)], 1.5),
        // The softer the grade, the more graphite and the less clay: blacker (order of grades: common practice, no source).
        "graphite-2h" => black("PBk6", 0.18),
        "graphite-hb" => black("PBk6", 0.14),
        "graphite-2b" => black("PBk6", 0.108),
        "graphite-6b" => black("PBk6", 0.072),
        "pastel-blue" => airy(&[("PB29", 0.4), ("PBr7bu", 0.22), ("PW6", 0.38)], 1.3),
        "pastel-umber" => airy(&[("PBr7bu", 0.78), ("PBk9", 0.1), ("PW6", 0.12)], 1.3),
        "chalk" => {
            let white = find("PW6").expect("shipped pigment");
            let ochre = find("PY43").expect("shipped pigment");
            let mut out = (white.k.map(|k| k * 2.0), white.s.map(|s| s * 1.3));
            for b in 0..BANDS {
                out.0[b] += 0.012 * ochre.k[b];
                out.1[b] += 0.012 * ochre.s[b];
            }
            out
        }
        _ => black("PBk9", 0.055),
    };
    Powder { k_um: k.map(|v| (v * 1e-3) as f32), s_um: s.map(|v| (v * 1e-3) as f32) }
}
