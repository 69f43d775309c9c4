//! The worn face of a stick: unevenness across the way that persists along it and draws faint streaks.
//!
//! Amplitude falls as 1/f^0.75 across; each part persists 5 to 20 mm (dry study; weak on purpose: a gain of .28 looked like
//! wood).

use crate::lanes::{self, LANES, Lanes, all, larger, smaller};
use crate::num;

/// Finest step of the table across, mm.
const STEP_MM: f32 = 0.1;
const MOST_STEPS: usize = 256;
const STEPS: [f32; LANES] = [0.0, 1.0, 2.0, 3.0];
/// `(wavelength across mm, persistence along mm)`.
const PARTS: [(f32, f32); 4] = [(2.0, 20.0), (1.0, 12.0), (0.5, 8.0), (0.25, 5.0)];
/// Amplitude of each part: wavelength^0.75.
const AMPLITUDES: [f32; 4] = [1.681_792_8, 1.0, 0.594_603_56, 0.353_553_4];

/// Unevenness across the way at one place, zero mean, about unit variance.
#[derive(Debug, Clone, Default)]
pub struct Face {
    values: Vec<f32>,
    reach: f32,
    per_mm: f32,
    /// Place of the last value that is asked for.
    last: f32,
    /// Lattice values of one part between its two rows.
    between: Vec<f32>,
    /// Lattice values of each part on the two rows that the place lies between: the same for many dabs.
    rows: [[Row; 2]; PARTS.len()],
}

/// Lattice values of one part at one row along the way, from cell `-half` to `half`.
#[derive(Debug, Clone, Default)]
struct Row {
    key: Option<(u64, i64)>,
    values: Vec<f32>,
}

impl Row {
    fn fill_in_place(&mut self, seed: u64, part: usize, row: i64, half: i64) {
        let count = (2 * half + 1) as usize;
        if self.key == Some((seed, row)) && self.values.len() >= count {
            return;
        }
        // A little wider than asked, so that a footprint that grows does not ask again at once. Always the same cells: what a
        // cell holds does not depend on how many there are.
        let half = half + half / 2 + 2;
        self.key = Some((seed, row));
        self.values.clear();
        self.values.extend((-half..=half).map(|i| num::gaussian(num::hash(seed, 50 + part as u64, i, row))));
    }

    /// Values from cell `-half` on.
    fn from(&self, half: i64) -> &[f32] {
        &self.values[self.values.len() / 2 - half as usize..]
    }
}

impl Face {
    /// Fills the table for offsets −`reach`..`reach` mm at `distance` mm along.
    pub fn fill_in_place(&mut self, seed: u64, reach: f32, distance: f32) {
        let count = ((2.0 * reach / STEP_MM) as usize + 2).min(MOST_STEPS);
        let step = 2.0 * reach / (count - 1) as f32;
        self.reach = reach;
        self.per_mm = 1.0 / step;
        self.last = (count - 1) as f32;
        self.values.clear();
        // One more than are between; whole lanes.
        self.values.resize((count + 1).next_multiple_of(LANES), 0.0);
        let mut power = 0.0;
        for (k, ((wave, along), amplitude)) in PARTS.iter().zip(AMPLITUDES).enumerate() {
            // Lattice noise smoothed by a cosine-like blend loses about half its variance.
            power += amplitude * amplitude * 0.55;
            let place = distance / along;
            let row = place.floor();
            let f = num::smooth(place - row);
            let per_cell = 2.0 / wave;
            let half = (reach * per_cell) as i64 + 2;
            let [near, far] = &mut self.rows[k];
            // Going on along the way, what was far becomes near.
            if far.key == Some((seed, row as i64)) {
                std::mem::swap(near, far);
            }
            near.fill_in_place(seed, k, row as i64, half);
            far.fill_in_place(seed, k, row as i64 + 1, half);
            // The place lies between both rows everywhere alike.
            let cells = near.from(half).iter().zip(far.from(half)).map(|(a, b)| a + (b - a) * f);
            self.between.clear();
            self.between.extend(cells.take(2 * half as usize + 1));
            for first in (0..self.values.len()).step_by(LANES) {
                // From cell −half, so that it is positive and a cast rounds down.
                let at = ((all(first as f32) + Lanes::from(STEPS)) * all(step) - all(reach)) * all(per_cell)
                    + all(half as f32);
                let at = smaller(at, all((2 * half - 1) as f32));
                let (i, g) = lanes::split(at);
                let g = g * g * (all(3.0) - all(2.0) * g);
                let (left, right) = (lanes::pick(&self.between, i), lanes::pick(&self.between[1..], i));
                let sum = lanes::four(&self.values[first..]) + all(amplitude) * (left + (right - left) * g);
                self.values[first..first + LANES].copy_from_slice(&sum.to_array());
            }
        }
        let gain = 1.0 / power.sqrt();
        self.values.iter_mut().for_each(|v| *v *= gain);
    }

    /// Unevenness at four places, `across` mm from the middle.
    #[inline(always)]
    pub fn at(&self, across: Lanes) -> Lanes {
        let u = smaller(larger((across + all(self.reach)) * all(self.per_mm), Lanes::ZERO), all(self.last));
        lanes::between(&self.values, u)
    }
}
