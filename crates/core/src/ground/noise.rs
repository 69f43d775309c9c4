//! Noise of one size: white noise from a hash, narrowed to a band of wavelengths.
//!
//! The band filter is a difference of two Gaussians applied two or three times: its response peaks at the wavelength and
//! is about 1.2 or 1 octave wide. It needs only near neighbours, so any piece of an unbounded paper can be made alone.

use super::region::half_to_full;
use super::{PERIOD_MM, PITCH_MM, Region};
use crate::blur;
use crate::num;

/// Band-limited noise of unit variance.
#[derive(Debug, Clone)]
pub struct Band {
    seed: u64,
    stream: u64,
    /// Cells of the coarse lattice in one period, across and down.
    cells: [i64; 2],
    sigma: f64,
    passes: usize,
    gain: f32,
}

/// Cells of the lattice per wavelength.
const CELLS_PER_WAVE: f64 = 6.0;

impl Band {
    /// Noise around `wavelength_mm`; `narrow` takes three passes instead of two.
    pub fn new(seed: u64, stream: u64, wavelength_mm: f64, narrow: bool) -> Self {
        Self::drawn_out(seed, stream, wavelength_mm, narrow, 1.0)
    }

    /// As [`Band::new`], the noise `stretch` times as long across the sheet as down it, of the same area.
    pub fn drawn_out(seed: u64, stream: u64, wavelength_mm: f64, narrow: bool, stretch: f64) -> Self {
        let down_mm = wavelength_mm / f64::sqrt(stretch);
        let cell = (down_mm / CELLS_PER_WAVE).max(PITCH_MM);
        let cells = [cell * stretch, cell].map(|c| libm::round(PERIOD_MM / c) as i64);
        let cell = PERIOD_MM / cells[1] as f64;
        // f²·exp(−2π²σ²f²) peaks at f = 1/(√2·π·σ).
        let sigma = down_mm / (std::f64::consts::SQRT_2 * std::f64::consts::PI) / cell;
        let passes = if narrow { 3 } else { 2 };
        let mut band = Self { seed, stream, cells, sigma, passes, gain: 1.0 };
        // The variance of filtered white noise is the sum of the squared impulse response.
        let reach = band.reach();
        let side = 2 * reach + 1;
        let mut impulse = vec![0.0; side * side];
        impulse[reach * side + reach] = 1.0;
        let power: f32 = band.narrow(impulse, side).iter().map(|v| v * v).sum();
        band.gain = 1.0 / power.sqrt();
        band
    }

    fn reach(&self) -> usize {
        self.passes * blur::reach(self.sigma * 1.15)
    }

    fn narrow(&self, mut values: Vec<f32>, width: usize) -> Vec<f32> {
        for _ in 0..self.passes {
            let fine = blur::gaussian(&values, width, self.sigma * 0.85);
            let coarse = blur::gaussian(&values, width, self.sigma * 1.15);
            values = fine.iter().zip(&coarse).map(|(a, b)| a - b).collect();
        }
        values
    }

    /// The noise over a region of ground pixels.
    pub fn over(&self, region: Region) -> Vec<f32> {
        let [per_x, per_y] = self.cells.map(|c| c as f64 * PITCH_MM / PERIOD_MM);
        let margin = self.reach() as i64 + 2;
        let first = |px: i64, per_px: f64| f64::floor((px as f64 + 0.5) * per_px) as i64 - margin;
        let count = |px: usize, per_px: f64| f64::ceil(px as f64 * per_px) as i64 + 2 * margin + 2;
        let (gx, gy) = (first(region.x, per_x), first(region.y, per_y));
        let (gw, gh) = (count(region.width, per_x) as usize, count(region.height, per_y) as usize);
        let white = white(self.seed, self.stream, Region::new(gx, gy, gw, gh), self.cells);
        let lattice = self.narrow(white, gw);

        let taps = |start: i64, px: i64, per_px: f64| {
            let at = (px as f64 + 0.5) * per_px;
            let cell = f64::floor(at);
            (cell as i64 - start - 1, catmull_rom((at - cell) as f32))
        };
        let columns: Vec<_> = (0..region.width as i64).map(|i| taps(gx, region.x + i, per_x)).collect();
        let mut across = vec![0.0_f32; region.width * gh];
        for (row, out) in lattice.chunks_exact(gw).zip(across.chunks_exact_mut(region.width)) {
            for (o, (start, w)) in out.iter_mut().zip(&columns) {
                let s = &row[*start as usize..*start as usize + 4];
                *o = w[0] * s[0] + w[1] * s[1] + w[2] * s[2] + w[3] * s[3];
            }
        }
        let mut out = vec![0.0_f32; region.len()];
        for (j, target) in out.chunks_exact_mut(region.width).enumerate() {
            let (start, w) = taps(gy, region.y + j as i64, per_y);
            for (k, w) in w.iter().enumerate() {
                let row = (start as usize + k) * region.width;
                let w = w * self.gain;
                for (o, v) in target.iter_mut().zip(&across[row..row + region.width]) {
                    *o += w * v;
                }
            }
        }
        out
    }
}

pub(super) fn catmull_rom(t: f32) -> [f32; 4] {
    let (t2, t3) = (t * t, t * t * t);
    [
        0.5 * (-t3 + 2.0 * t2 - t),
        0.5 * (3.0 * t3 - 5.0 * t2 + 2.0),
        0.5 * (-3.0 * t3 + 4.0 * t2 + t),
        0.5 * (t3 - t2),
    ]
}

/// As [`blurred_white`], for blurs of two pixels and more: made at twice the pitch and interpolated.
pub fn coarse_white(seed: u64, stream: u64, sigma_px: f64, region: Region) -> Vec<f32> {
    let half = region.halved();
    // Interpolation blurs by about 0.43 wide pixels more and takes that share of the variance.
    let sigma = f64::sqrt(sigma_px * sigma_px / 4.0 - 0.19);
    let gain = (sigma_px / (2.0 * sigma)) as f32;
    let map = blurred_white_on(seed, stream, sigma, half, super::PERIOD_PX / 2);
    let mut out = half_to_full(&map, half, region);
    out.iter_mut().for_each(|v| *v *= gain);
    out
}

/// White noise of unit variance at every ground pixel, blurred by `sigma_px` and brought back to unit variance.
pub fn blurred_white(seed: u64, stream: u64, sigma_px: f64, region: Region) -> Vec<f32> {
    blurred_white_on(seed, stream, sigma_px, region, super::PERIOD_PX)
}

fn blurred_white_on(seed: u64, stream: u64, sigma_px: f64, region: Region, period: i64) -> Vec<f32> {
    let margin = if sigma_px > 0.0 { blur::reach(sigma_px) } else { 0 };
    let grown = region.grown(margin);
    let white = white(seed, stream, grown, [period; 2]);
    if margin == 0 {
        return white;
    }
    // ∫(Gaussian²) = 1/(4πσ²).
    let gain = f64::sqrt(4.0 * std::f64::consts::PI) * sigma_px;
    let mut out = blur::gaussian_within(&white, grown.width, sigma_px, margin);
    for v in &mut out {
        *v *= gain as f32;
    }
    out
}

/// White noise of unit variance at every cell of a region, the same after `period` cells across and down.
fn white(seed: u64, stream: u64, region: Region, period: [i64; 2]) -> Vec<f32> {
    // Of columns once, not at every cell: a remainder takes as long as the noise.
    let columns: Vec<i64> = (region.x..).take(region.width).map(|x| x.rem_euclid(period[0])).collect();
    let rows = (region.y..).take(region.height).map(|y| y.rem_euclid(period[1]));
    let mut out = Vec::with_capacity(region.len());
    for y in rows {
        out.extend(columns.iter().map(|x| num::gaussian(num::hash(seed, stream, *x, y))));
    }
    out
}
