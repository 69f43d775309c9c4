//! Pigments and mixtures: absorption K and scattering S per band, in mm⁻¹ at tube strength.
//!
//! The spectra in `data/pigments_8.csv` are approximations made for this project from memory of published absorption-band
//! positions; they are not measurements, and every place that shows them says so.

use std::collections::BTreeMap;
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

/// Pigments in one mixture at most, and parts of one.
pub const MOST_PIGMENTS: usize = 8;
pub const MOST_PARTS: f64 = 1000.0;

/// Checks a mixture by parts.
///
/// # Errors
/// Names a pigment that there is not, or parts that are not from 0 to [`MOST_PARTS`]; refuses more than [`MOST_PIGMENTS`] pigments,
/// and a mixture without any.
pub fn check_parts(parts: &BTreeMap<String, f64>) -> Result<()> {
    for (code, n) in parts {
        find(code).ok_or_else(|| FieldError::new(code, "is not a pigment of this program"))?;
        within(code, *n, 0.0, MOST_PARTS, "parts")?;
    }
    if parts.len() > MOST_PIGMENTS {
        return Err(FieldError::new("", format!("at most {MOST_PIGMENTS} pigments, got {}", parts.len())));
    }
    if parts.values().sum::<f64>() <= 0.0 {
        return Err(FieldError::new("", "must hold some parts of a pigment"));
    }
    Ok(())
}

/// A dry stick's powder: K and S per µm of packed powder.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Powder {
    pub k_um: Spectrum,
    pub s_um: Spectrum,
    /// How far it gleams where it lies flat: 0 matt, 1 as wet paint.
    pub sheen: f32,
}
