//! What surfaces are made with: the tooth of one surface, and how heights are pressed, filled and smoothed.

use super::super::fibres::Mat;
use super::super::region::half_to_full;
use super::super::{PITCH_MM, Region};
use crate::blur;
use crate::lanes::{self, LANES, Lanes, all, smaller};

/// The tooth of one surface, before it is brought to its roughness.
pub(super) trait Tooth {
    /// Heights, µm, over a region.
    fn over(&self, region: Region) -> Vec<f32>;

    /// What it found on the reference patch to make itself even; as many as [`Norm::default`] where it needs nothing.
    fn norms(&self) -> [Norm; 3] {
        [Norm::default(); 3]
    }

    /// Takes what [`Tooth::norms`] gave of a tooth of the same recipe, so that nothing is found anew.
    fn take_norms(&mut self, _: [Norm; 3]) {}
}

/// How many times as long as wide the tooth is drawn out at a `direction` of 0..0.9.
pub(super) fn stretch(direction: f64) -> f64 {
    1.0 + 4.0 * direction
}

/// Presses peaks softly below `level`: `P − k·ln(1 + e^((P−h)/k))`.
pub(super) fn press_in_place(heights: &mut [f32], [level, k]: [f32; 2]) {
    each_four_in_place(heights, |h| pressed(h, level, k));
}

/// Its mirror: fills hollows softly up to `level`.
pub(super) fn fill_in_place(heights: &mut [f32], [level, k]: [f32; 2]) {
    each_four_in_place(heights, |h| -pressed(-h, -level, k));
}

fn pressed(h: Lanes, level: f32, k: f32) -> Lanes {
    let over = smaller((all(level) - h) / all(k), all(60.0));
    all(level) - all(k) * lanes::ln(all(1.0) + lanes::exp(over))
}

fn each_four_in_place(values: &mut [f32], change: impl Fn(Lanes) -> Lanes) {
    let (fours, rest) = values.as_chunks_mut::<LANES>();
    fours.iter_mut().for_each(|v| *v = change(Lanes::from(*v)).to_array());
    for v in rest {
        *v = change(all(*v)).to_array()[0];
    }
}

/// The mat of long fine fibres of a pressed sheet (dry study, "Hot").
pub(super) fn pressed_fibres(seed: u64, direction: f64) -> Mat {
    Mat {
        seed,
        stream: 3,
        density: 16.0,
        length: [1.0, 3.6],
        width: 0.03,
        direction,
        height: 4.5,
        depth: 15.0,
        pitch: PITCH_MM,
    }
}

/// A mat of fibres, blurred.
pub(super) fn blurred(mat: Mat, sigma_mm: f64, region: Region) -> Vec<f32> {
    let sigma = sigma_mm / mat.pitch;
    smooth(sigma, region, |grown| mat.over(grown))
}

/// A mat of wide fibres, made at twice the pitch and interpolated: a quarter of the work, and nothing in it is finer.
pub(super) fn blurred_wide(mut mat: Mat, sigma_mm: f64, region: Region) -> Vec<f32> {
    mat.pitch = 2.0 * PITCH_MM;
    let half = region.halved();
    let map = blurred(mat, sigma_mm, half);
    half_to_full(&map, half, region)
}

/// What `make` gives over a region, blurred by `sigma` pixels.
pub(super) fn smooth(sigma: f64, region: Region, make: impl FnOnce(Region) -> Vec<f32>) -> Vec<f32> {
    let margin = blur::reach(sigma);
    let grown = region.grown(margin);
    blur::gaussian_within(&make(grown), grown.width, sigma, margin)
}

/// Mean and inverse deviation that bring a map to zero mean and unit variance.
#[derive(Debug, Clone, Copy, Default)]
pub(in crate::ground) struct Norm {
    pub mean: f32,
    pub scale: f32,
}

impl Norm {
    pub(super) fn of(values: &[f32]) -> Self {
        let n = values.len() as f64;
        let mean = values.iter().map(|v| f64::from(*v)).sum::<f64>() / n;
        let variance =
            values.iter().map(|v| (f64::from(*v) - mean) * (f64::from(*v) - mean)).sum::<f64>() / n;
        Self { mean: mean as f32, scale: (1.0 / f64::sqrt(variance.max(1e-12))) as f32 }
    }

    #[inline]
    pub(super) fn apply(self, v: f32) -> f32 {
        (v - self.mean) * self.scale
    }
}
