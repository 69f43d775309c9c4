//! Two places of strokes side by side: what differs, most first.

use serde::Serialize;

use super::trace::{COMMON, DabTrace};
use crate::chain::Quality;
use crate::medium::{Medium, Reading};

/// Ratios nearer to 1 than this are no difference.
const SAME: f64 = 0.004;
/// What counts as nothing beside a number of the same kind, as a share of the larger.
const FLOOR: f64 = 1e-3;

/// One factor at both places.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Difference {
    pub what: String,
    pub unit: &'static str,
    pub a: f64,
    pub b: f64,
    /// |ln| of the ratio, or of a whole turn's share for angles: how much they differ.
    pub weight: f64,
}

/// Compares two dabs of tools of one medium, of one stroke or of two tools: all that is not place or time.
pub fn compare(medium: &dyn Medium, a: &DabTrace, b: &DabTrace) -> Vec<Difference> {
    let mut out = Vec::new();
    let mut add = |label: &str, unit, kind, a: f64, b: f64| {
        let weight = match kind {
            Reading::Place => return,
            Reading::Turn => {
                let apart = (a - b).rem_euclid(360.0);
                apart.min(360.0 - apart) / 180.0
            }
            Reading::Amount | Reading::Share => {
                let most = a.abs().max(b.abs());
                if most == 0.0 {
                    return;
                }
                let at_least = |v: f64| v.abs().max(FLOOR * most);
                libm::log(at_least(a) / at_least(b)).abs()
            }
        };
        out.push(Difference { what: label.to_lowercase(), unit, a, b, weight });
    };
    for (column, value) in &COMMON {
        add(column.label, column.unit, column.kind, value(a), value(b));
    }
    for quality in Quality::ALL {
        let Some(p) = medium.parameters().of_quality(quality) else { continue };
        // The angle of the footprint says it with what turned it.
        if quality != Quality::Angle {
            let of = |d: &DabTrace| d.qualities.get(quality.index()).copied().unwrap_or(0.0);
            add(p.label, p.unit, Reading::Amount, of(a), of(b));
        }
    }
    for (column, (a, b)) in medium.columns().iter().zip(a.values.iter().zip(&b.values)) {
        add(column.label, column.unit, column.kind, *a, *b);
    }
    out.retain(|d| d.weight > SAME);
    out.sort_by(|x, y| y.weight.total_cmp(&x.weight));
    out
}
