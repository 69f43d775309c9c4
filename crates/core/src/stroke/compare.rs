//! Two places of strokes side by side: what differs, most first.

use serde::Serialize;

use super::trace::DabTrace;
use crate::tool::parameter::Quality;

/// Ratios nearer to 1 than this are no difference.
const SAME: f64 = 0.004;
/// What counts as nothing beside a number of the same kind, as a share of the larger.
const FLOOR: f64 = 1e-3;

/// One factor at both places.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Difference {
    pub what: String,
    pub unit: &'static str,
    pub a: f64,
    pub b: f64,
    /// |ln| of the ratio, or of a whole turn's share for angles: how much they differ.
    pub weight: f64,
}

/// Compares two dabs, of one stroke or of two tools.
pub fn compare(a: &DabTrace, b: &DabTrace) -> Vec<Difference> {
    let (s, z) = (&a.signals, &b.signals);
    let mut out = Vec::new();
    let mut amount = |what: &str, unit, a: f64, b: f64| {
        let most = a.abs().max(b.abs());
        if most > 0.0 {
            let at_least = |v: f64| v.abs().max(FLOOR * most);
            let weight = libm::log(at_least(a) / at_least(b)).abs();
            out.push(Difference { what: what.to_owned(), unit, a, b, weight });
        }
    };
    amount("force of the hand", "gf", a.hand_gf, b.hand_gf);
    amount("pressure, calibrated", "", s.pressure, z.pressure);
    amount("tilt", "°", s.tilt_deg, z.tilt_deg);
    amount("speed", "mm/s", s.speed_mm_s, z.speed_mm_s);
    for quality in Quality::ALL {
        let p = quality.parameter();
        if quality != Quality::Angle {
            amount(
                &p.label.to_lowercase(),
                p.unit,
                a.qualities[quality.index()],
                b.qualities[quality.index()],
            );
        }
    }
    amount("footprint, length", "mm", a.length_mm, b.length_mm);
    amount("footprint, width", "mm", a.width_mm, b.width_mm);
    amount("load on the tooth", "", a.load, b.load);
    amount("touched", "", a.covered, b.covered);
    amount("tooth already full", "", a.full, b.full);
    amount("powder laid", "µm/mm", a.laid_um_per_mm, b.laid_um_per_mm);
    amount("powder picked up", "µm/mm", a.pickup_um_per_mm, b.pickup_um_per_mm);
    amount("thickest film", "µm", a.film_um, b.film_um);
    amount("lag of steadying", "mm", a.lag_mm, b.lag_mm);
    for (what, a, b) in [
        ("lean", s.lean_deg, z.lean_deg),
        ("barrel", s.barrel_deg, z.barrel_deg),
        ("angle", a.angle_deg, b.angle_deg),
    ] {
        let apart = (a - b).rem_euclid(360.0);
        out.push(Difference {
            what: what.to_owned(),
            unit: "°",
            a,
            b,
            weight: apart.min(360.0 - apart) / 180.0,
        });
    }
    out.retain(|d| d.weight > SAME);
    out.sort_by(|x, y| y.weight.total_cmp(&x.weight));
    out
}
