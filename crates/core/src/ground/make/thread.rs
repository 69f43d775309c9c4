//! What changes along a thread or wire: smooth noise of one dimension.

use super::super::PERIOD_MM;
use super::super::noise::catmull_rom;
use crate::num;

/// Noise of zero mean and about unit variance along threads, periodic with the ground.
pub(super) struct Along {
    pub seed: u64,
    pub stream: u64,
    /// Length over which it changes, mm.
    pub over_mm: f64,
}

impl Along {
    /// The noise of thread `n` at `s` mm along it.
    pub(super) fn at(&self, n: i64, s: f64) -> f32 {
        let cells = (libm::round(PERIOD_MM / self.over_mm) as i64).max(1);
        let at = s / PERIOD_MM * cells as f64;
        let cell = libm::floor(at);
        let w = catmull_rom((at - cell) as f32);
        let value = |k: i64| num::gaussian(num::hash(self.seed, self.stream, n, k.rem_euclid(cells)));
        let cell = cell as i64;
        // Interpolation keeps about 0.76 of the variance.
        1.15 * (w[0] * value(cell - 1) + w[1] * value(cell) + w[2] * value(cell + 1) + w[3] * value(cell + 2))
    }
}
