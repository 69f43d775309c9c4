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
    /// The noise of thread `n`.
    pub(super) fn thread(self, n: i64) -> Walk {
        let cells = (libm::round(PERIOD_MM / self.over_mm) as i64).max(1);
        Walk { noise: self, n, cells, around: i64::MIN, values: [0.0; 4] }
    }
}

/// The noise of one thread, place after place: what it hangs between is worked out anew only where it changes.
pub(super) struct Walk {
    noise: Along,
    n: i64,
    cells: i64,
    /// The cell that `values` are around.
    around: i64,
    values: [f32; 4],
}

impl Walk {
    /// The noise at `s` mm along the thread.
    pub(super) fn at(&mut self, s: f64) -> f32 {
        let at = s / PERIOD_MM * self.cells as f64;
        let cell = f64::floor(at);
        let w = catmull_rom((at - cell) as f32);
        let cell = cell as i64;
        if cell != self.around {
            self.around = cell;
            self.values = [-1, 0, 1, 2].map(|k| {
                let place = (cell + k).rem_euclid(self.cells);
                num::gaussian(num::hash(self.noise.seed, self.noise.stream, self.n, place))
            });
        }
        let v = &self.values;
        // Interpolation keeps about 0.76 of the variance.
        1.15 * (w[0] * v[0] + w[1] * v[1] + w[2] * v[2] + w[3] * v[3])
    }
}
