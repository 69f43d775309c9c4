//! A height map that was brought in, made to tile: its opposite edges are blended over a share of its shorter side.
//!
//! Two unlike surfaces blended by weights `w` and `1 − w` lose contrast; divided by `√(w² + (1−w)²)` about the mean, the
//! variance stays (Heitz & Neyret 2018, "High-Performance By-Example Noise", from memory).

use super::super::recipe::Recipe;
use super::super::{PITCH_MM, Region};
use super::tooth::Tooth;
use crate::error::{FieldError, Result};
use crate::image::{Grey, Images};

pub(super) struct Picture {
    width: usize,
    height: usize,
    /// One tile, µm.
    tile: Vec<f32>,
}

/// Longest side of a map on the sheet, ground pixels (204.8 mm).
const MOST_SIDE: usize = 4096;

impl Picture {
    pub(super) fn new(recipe: &Recipe, images: &Images) -> Result<Self> {
        let hash = recipe.image.as_deref().unwrap_or_default();
        let image = images.get("image", hash)?;
        let step = PITCH_MM / recipe.number("pitch_mm");
        let side = |px: usize| (px as f64 / step) as usize;
        let (w, h) = (side(image.width()), side(image.height()));
        if w < 8 || h < 8 || w > MOST_SIDE || h > MOST_SIDE {
            let mm = |px: usize| px as f64 * recipe.number("pitch_mm");
            let message = format!(
                "makes a map of {:.1} × {:.1} mm; a map must be 0.4 to {} mm long and wide",
                mm(image.width()),
                mm(image.height()),
                MOST_SIDE as f64 * PITCH_MM
            );
            return Err(FieldError::new("numbers.pitch_mm", message));
        }
        let depth = recipe.number("depth_um") as f32 / 65_535.0;
        let map: Vec<f32> = resampled(image, step, w, h).iter().map(|v| v * depth).collect();
        let join = ((recipe.number("join") * w.min(h) as f64) as usize).clamp(1, w.min(h) / 2);
        let mean = map.iter().map(|v| f64::from(*v)).sum::<f64>() / map.len() as f64;
        let (across, width) = joined(&map, w, join, mean as f32);
        let turned = transposed(&across, width);
        let (down, height) = joined(&turned, h, join, mean as f32);
        Ok(Self { width, height, tile: transposed(&down, height) })
    }
}

impl Tooth for Picture {
    fn over(&self, region: Region) -> Vec<f32> {
        let mut out = Vec::with_capacity(region.len());
        for j in 0..region.height as i64 {
            let row = (region.y + j).rem_euclid(self.height as i64) as usize * self.width;
            for i in 0..region.width as i64 {
                out.push(self.tile[row + (region.x + i).rem_euclid(self.width as i64) as usize]);
            }
        }
        out
    }
}

/// The image at `step` of its pixels a ground pixel: means over what a ground pixel covers, interpolated where that is less
/// than one pixel of the image.
fn resampled(image: &Grey, step: f64, w: usize, h: usize) -> Vec<f32> {
    let half = 0.5 * step.max(1.0);
    let spans = |count: usize, size: usize| -> Vec<(usize, Vec<f32>)> {
        (0..count)
            .map(|i| {
                let centre = (i as f64 + 0.5) * step;
                let (a, b) = ((centre - half).max(0.0), (centre + half).min(size as f64));
                let (first, last) = (f64::floor(a) as usize, (f64::ceil(b) as usize).min(size));
                let share = |k: usize| (b.min((k + 1) as f64) - a.max(k as f64)) / (b - a);
                (first, (first..last).map(|k| share(k) as f32).collect())
            })
            .collect()
    };
    let (columns, rows) = (spans(w, image.width()), spans(h, image.height()));
    let mut out = Vec::with_capacity(w * h);
    let mut line = vec![0.0_f32; image.width()];
    for (top, weights) in &rows {
        line.fill(0.0);
        for (k, weight) in weights.iter().enumerate() {
            let row = &image.values()[(top + k) * image.width()..][..image.width()];
            for (l, v) in line.iter_mut().zip(row) {
                *l += weight * f32::from(*v);
            }
        }
        out.extend(
            columns
                .iter()
                .map(|(left, weights)| weights.iter().zip(&line[*left..]).map(|(w, v)| w * v).sum::<f32>()),
        );
    }
    out
}

/// Rows whose last `join` values are blended into their first, and the rows' new length.
fn joined(map: &[f32], width: usize, join: usize, mean: f32) -> (Vec<f32>, usize) {
    let kept = width - join;
    let mut out = Vec::with_capacity(map.len() / width * kept);
    for row in map.chunks_exact(width) {
        for (i, v) in row[..kept].iter().enumerate() {
            out.push(if i < join {
                let w = (i as f32 + 0.5) / join as f32;
                let scale = 1.0 / (w * w + (1.0 - w) * (1.0 - w)).sqrt();
                mean + scale * (w * (v - mean) + (1.0 - w) * (row[kept + i] - mean))
            } else {
                *v
            });
        }
    }
    (out, kept)
}

fn transposed(map: &[f32], width: usize) -> Vec<f32> {
    let height = map.len() / width;
    let mut out = Vec::with_capacity(map.len());
    for i in 0..width {
        out.extend((0..height).map(|j| map[j * width + i]));
    }
    out
}
