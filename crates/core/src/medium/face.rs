//! The worn face of a stick: unevenness across the way that persists along it and draws faint streaks.
//!
//! Amplitude falls as 1/f^0.75 across; each part persists 5 to 20 mm (dry study; weak on purpose: a gain of .28 looked like
//! wood).

use crate::num;

/// Finest step of the table across, mm.
const STEP_MM: f32 = 0.1;
const SHIFT: f32 = 4096.0;
const MOST_STEPS: usize = 256;
/// `(wavelength across mm, persistence along mm)`.
const PARTS: [(f32, f32); 4] = [(2.0, 20.0), (1.0, 12.0), (0.5, 8.0), (0.25, 5.0)];

/// Unevenness across the way at one place, zero mean, about unit variance.
#[derive(Debug, Clone, Default)]
pub struct Face {
    values: Vec<f32>,
    reach: f32,
    per_mm: f32,
}

impl Face {
    /// Fills the table for offsets −`reach`..`reach` mm at `distance` mm along.
    pub fn fill_in_place(&mut self, seed: u64, reach: f32, distance: f32) {
        let count = ((2.0 * reach / STEP_MM) as usize + 2).min(MOST_STEPS);
        let step = 2.0 * reach / (count - 1) as f32;
        self.reach = reach;
        self.per_mm = 1.0 / step;
        self.values.clear();
        self.values.resize(count + 1, 0.0);
        let mut power = 0.0;
        for (k, (wave, along)) in PARTS.iter().enumerate() {
            // Lattice noise smoothed by a cosine-like blend loses about half its variance.
            let amplitude = num::pow(*wave, 0.75);
            power += amplitude * amplitude * 0.55;
            let row = distance / along;
            let j = row.floor();
            let f = smooth(row - j);
            let cell = wave * 0.5;
            let value = |i: i64, j: i64| num::gaussian(num::hash(seed, 50 + k as u64, i, j));
            let (mut last, mut ends) = (i64::MIN, [0.0; 2]);
            for (n, out) in self.values.iter_mut().enumerate() {
                // Shifted to stay positive, so that a cast rounds down.
                let at = (n as f32 * step - reach) / cell + SHIFT;
                let key = at as i64;
                let i = key as f32;
                if key != last {
                    last = key;
                    ends = [0, 1].map(|d| {
                        let (a, b) = (value(key + d, j as i64), value(key + d, j as i64 + 1));
                        a + (b - a) * f
                    });
                }
                *out += amplitude * (ends[0] + (ends[1] - ends[0]) * smooth(at - i));
            }
        }
        let gain = 1.0 / power.sqrt();
        self.values.iter_mut().for_each(|v| *v *= gain);
    }

    /// Unevenness at `across` mm from the middle.
    #[inline(always)]
    pub fn at(&self, across: f32) -> f32 {
        let u = ((across + self.reach) * self.per_mm).clamp(0.0, (self.values.len() - 2) as f32);
        let i = u as usize;
        self.values[i] + (self.values[i + 1] - self.values[i]) * (u - i as f32)
    }
}

fn smooth(t: f32) -> f32 {
    t * t * (3.0 - 2.0 * t)
}
