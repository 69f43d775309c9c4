//! A calibration proposed from a few light, normal and firm marks of the painter's own.
//!
//! What a mark weighs is its steady part: the median of the reports over half of its strongest. Full output comes at the
//! force of the firm marks, so that nobody has to press harder than they do when they mean it; output begins at half of the
//! lightest marks, and rises gently through them. The shares of output for light and normal marks are common practice, no
//! source.

use serde::Serialize;

use super::{Calibration, DeviceProfile};
use crate::chain::Curve;
use crate::error::{FieldError, Result};
use crate::said::Said;

/// Output of the painter's light and normal marks.
const LIGHT_OUTPUT: f64 = 0.1;
const NORMAL_OUTPUT: f64 = 0.45;
/// Output begins at this share of the lightest marks.
const BEGIN: f64 = 0.5;
/// Marks of two kinds must differ by this much of the device's range to be told apart.
const APART: f64 = 0.015;
/// A pen at this share of its range is at its end.
const AT_THE_END: f64 = 0.985;

/// What is proposed, and why.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Proposal {
    pub calibration: Calibration,
    /// Shares of the device's range: where output begins; what light, normal and firm marks weigh.
    pub begins: f64,
    pub light: f64,
    pub normal: f64,
    pub firm: f64,
    /// The same in gf, in that order.
    pub forces_gf: [f64; 4],
    pub sentence: Said,
}

/// Proposes a calibration. A mark is its reported pressures (0..1) from touching down to lifting.
///
/// # Errors
/// Names the kind of marks (`light`, `normal`, `firm`) that is missing, or cannot be told from the lighter kind.
pub fn propose(
    light: &[Vec<f64>],
    normal: &[Vec<f64>],
    firm: &[Vec<f64>],
    profile: &DeviceProfile,
) -> Result<Proposal> {
    let [light, normal, firm] =
        [("light", light), ("normal", normal), ("firm", firm)].map(|(kind, marks)| weigh(kind, marks));
    let (light, normal, firm) = (light?, normal?, firm?);
    for (kind, weight, lighter, below) in
        [("normal", &normal, "light", &light), ("firm", &firm, "normal", &normal)]
    {
        if weight.middle < below.middle + APART {
            return Err(FieldError::new(
                kind,
                format!("these marks press no harder than the {lighter} ones"),
            ));
        }
    }
    let least = 1.0 / f64::from(profile.levels - 1);
    let begins = (BEGIN * light.low).max(least).min(light.middle - least);
    let full = firm.middle.min(1.0);
    let points =
        vec![[begins, 0.0], [light.middle, LIGHT_OUTPUT], [normal.middle, NORMAL_OUTPUT], [full, 1.0]];
    let calibration = Calibration { curve: Curve::new(points)? };
    let forces_gf = [begins, light.middle, normal.middle, full].map(|p| profile.force_gf(p));
    let [begin_gf, light_gf, _, full_gf] = forces_gf;
    let sentence = if full >= AT_THE_END {
        Said::new(
            "Your firm marks reach the end of what the pen reports ({{full}} gf), so full output stays there; light marks of {{light}} gf fade in from {{begin}} gf.",
        )
    } else {
        Said::new("Your firm marks stay near {{full}} gf, {{share}} % of the pen's range: full output comes there; light marks of {{light}} gf fade in from {{begin}} gf.")
            .count("share", 100.0 * full, 0)
    };
    let sentence = sentence.count("full", full_gf, 0).count("light", light_gf, 0).count("begin", begin_gf, 0);
    Ok(Proposal {
        calibration,
        begins,
        light: light.middle,
        normal: normal.middle,
        firm: firm.middle,
        forces_gf,
        sentence,
    })
}

/// What the marks of one kind weigh, as shares of the range.
struct Weight {
    /// Median over the marks of their steady parts.
    middle: f64,
    /// The lightest tenth of all steady reports.
    low: f64,
}

fn weigh(kind: &str, marks: &[Vec<f64>]) -> Result<Weight> {
    let steady: Vec<Vec<f64>> =
        marks.iter().map(|mark| steady_part(mark)).filter(|s| !s.is_empty()).collect();
    if steady.is_empty() {
        return Err(FieldError::new(kind, "at least one mark is needed"));
    }
    let middle = quantile(steady.iter().map(|s| quantile(s.clone(), 0.5)).collect(), 0.5);
    Ok(Weight { middle, low: quantile(steady.concat(), 0.1) })
}

/// The reports over half of the mark's strongest: without its landing and lifting.
fn steady_part(mark: &[f64]) -> Vec<f64> {
    let reports: Vec<f64> = mark.iter().copied().filter(|p| *p > 0.0).collect();
    if reports.is_empty() {
        return reports;
    }
    let strongest = quantile(reports.clone(), 0.95);
    reports.into_iter().filter(|p| *p >= 0.5 * strongest).collect()
}

fn quantile(mut values: Vec<f64>, share: f64) -> f64 {
    values.sort_by(f64::total_cmp);
    values[((values.len() - 1) as f64 * share).round() as usize]
}
