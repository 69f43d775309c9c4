//! The colour of a bare ground: pulp or primer, dyed with pigments.
//!
//! White pulp is given by its reflectance and a scattering of its own; a dye adds its K and S (Kubelka–Munk, infinitely thick
//! layer). Recipes of the dyes are made for the demo, not measured papers.

use std::sync::OnceLock;

use crate::paint::{BANDS, Spectrum, film, pigment};

/// A dye: its pigments by volume in the pulp at full strength.
#[derive(Debug, Clone, Copy)]
pub struct Tint {
    pub name: &'static str,
    parts: &'static [(&'static str, f64)],
}

/// What grounds may be dyed with; the first is undyed.
pub const TINTS: [Tint; 8] = [
    Tint { name: "white", parts: &[] },
    Tint { name: "cream", parts: &[("PY43", 0.02)] },
    Tint { name: "buff", parts: &[("PY43", 0.06), ("PBr7bu", 0.05)] },
    Tint { name: "reed", parts: &[("PY43", 0.1), ("PBk9", 0.03), ("PB29", 0.02)] },
    Tint { name: "blue-grey", parts: &[("PB29", 0.06), ("PBk9", 0.06)] },
    Tint { name: "grey", parts: &[("PBk9", 0.09)] },
    Tint { name: "umber", parts: &[("PBr7bu", 0.35), ("PY43", 0.06)] },
    Tint { name: "black", parts: &[("PBk9", 0.9)] },
];

/// Reflectance of undyed pulp per band: a warm white (made for the demo; not a measured paper).
pub const PULP: Spectrum = [0.840, 0.862, 0.876, 0.884, 0.890, 0.893, 0.895, 0.896];
/// Scattering of pulp, mm⁻¹ (tuned by eye: a sheet of 0.2 mm hides what lies under it).
const PULP_SCATTER: f64 = 40.0;

/// The tint of this name.
pub fn find(name: &str) -> Option<&'static Tint> {
    static TABLE: OnceLock<[Tint; 8]> = OnceLock::new();
    TABLE.get_or_init(|| TINTS).iter().find(|t| t.name == name)
}

/// Reflectance of a ground dyed with `tint` at `strength` 0..1.
pub fn reflectance(tint: &Tint, strength: f64) -> Spectrum {
    if tint.parts.is_empty() || strength == 0.0 {
        return PULP;
    }
    let (k, s) = pigment::mix(tint.parts.iter().map(|(code, c)| (*code, c * strength)))
        .expect("dyes are made of shipped pigments (tested)");
    let mut out = PULP;
    for b in 0..BANDS {
        let r = f64::from(PULP[b]);
        let own = PULP_SCATTER * (1.0 - r) * (1.0 - r) / (2.0 * r);
        out[b] = film::reflectance(own + k[b], PULP_SCATTER + s[b], f64::INFINITY, 0.0) as f32;
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_dye_darkens_with_its_strength() {
        for tint in &TINTS[1..] {
            let mean = |strength| reflectance(tint, strength).iter().sum::<f32>() / BANDS as f32;
            let (none, half, full) = (mean(0.0), mean(0.5), mean(1.0));
            assert!(none > half && half > full && full > 0.0, "{}: {none} {half} {full}", tint.name);
        }
    }
}
