//! Usable levels: how many of a pen's levels still make a difference behind a curve.

use serde::Serialize;

use crate::chain::Curve;
use crate::hand::Calibration;

/// Outputs closer than this count as the same.
const SAME: f64 = 1e-12;

/// What a curve leaves of a device's levels.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Levels {
    /// Levels that differ in output from a neighbour.
    pub usable_levels: usize,
    /// Different outputs in all.
    pub distinct_outputs: usize,
    /// Largest step between neighbouring levels, as a share of the output.
    pub max_step: f64,
    /// The level below that step (the lowest, where several are as large).
    pub max_step_at: usize,
}

/// Runs every level `k` of `levels` (at `k / (levels − 1)`) through `curve`.
pub fn usable(curve: &Curve, levels: u32) -> Levels {
    usable_of(levels, |x| curve.at(x))
}

/// As [`usable`], through a device's calibration first, and then the part `input` of its output that the curve is laid over.
pub fn usable_through(calibration: &Calibration, input: [f64; 2], curve: &Curve, levels: u32) -> Levels {
    usable_of(levels, |x| {
        curve.at(((calibration.apply(x) - input[0]) / (input[1] - input[0])).clamp(0.0, 1.0))
    })
}

fn usable_of(levels: u32, output: impl Fn(f64) -> f64) -> Levels {
    let top = f64::from(levels.max(2) - 1);
    let y: Vec<f64> = (0..levels.max(2)).map(|k| output(f64::from(k) / top)).collect();
    let mut live = vec![false; y.len()];
    let (mut max_step, mut max_step_at) = (0.0, 0);
    for k in 0..y.len() - 1 {
        let step = (y[k + 1] - y[k]).abs();
        if step > SAME {
            live[k] = true;
            live[k + 1] = true;
        }
        if step > max_step + 1e-14 {
            max_step = step;
            max_step_at = k;
        }
    }
    let mut sorted = y;
    sorted.sort_by(f64::total_cmp);
    let distinct_outputs = 1 + sorted.windows(2).filter(|w| w[1] - w[0] > SAME).count();
    Levels { usable_levels: live.iter().filter(|l| **l).count(), distinct_outputs, max_step, max_step_at }
}
