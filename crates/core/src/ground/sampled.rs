//! A ground as the pixels of a sheet see it.

use std::rc::Rc;

use super::feel::Feel;
use super::tile::GroundTile;
use super::{FINE_UM, GRAIN_WITHIN_PIXEL, Ground, PITCH_MM, Patch, Region};
use crate::blur;

/// Sheet pixels of `pixel_mm` over a ground, first pixel centre half a pixel from `origin_mm`.
#[derive(Debug, Clone, Copy)]
pub struct Raster {
    pub pixel_mm: f64,
    pub origin_mm: [f64; 2],
}

impl Raster {
    /// The ground under `side × side` sheet pixels from pixel `(x, y)`.
    pub fn tile(&self, ground: &Ground, feel: Feel, x: i64, y: i64, side: usize) -> GroundTile {
        self.area(ground, feel, [x, y], [side, side])
    }

    /// The ground under `wide × high` sheet pixels from pixel `(x, y)`.
    pub fn area(
        &self,
        ground: &Ground,
        feel: Feel,
        [x, y]: [i64; 2],
        [wide, high]: [usize; 2],
    ) -> GroundTile {
        let step = self.pixel_mm / feel.scale / PITCH_MM;
        let [columns, rows] = self.spans_of(feel, [x, y], [wide, high]);
        let ((left, width), (top, height)) = (bounds(&columns), bounds(&rows));
        let region = Region::new(left, top, width, height);
        let margin = margin(feel);
        let grown = region.grown(margin);
        let patch = ground.patch(grown);

        let level = ground.level();
        let mut heights: Vec<f32> = patch.height.iter().map(|h| h - level).collect();
        if margin > 0 {
            let swells = blur::gaussian(&heights, grown.width, feel.follow_mm / PITCH_MM);
            for (h, s) in heights.iter_mut().zip(swells) {
                *h -= feel.follow * s;
            }
            heights = region.cut(&heights, margin);
        }
        let grain = if margin > 0 { region.cut(&patch.grain, margin) } else { patch.grain };
        let squares: Vec<f32> = heights.iter().map(|h| h * h).collect();
        let mean = average(&heights, width, &columns, &rows);
        let square = average(&squares, width, &columns, &rows);
        let sign = if feel.swap { -1.0 } else { 1.0 };
        let fine = FINE_UM * FINE_UM * fine_share(step);
        GroundTile {
            variance: mean.iter().zip(&square).map(|(m, s)| (s - m * m).max(0.0) + fine).collect(),
            height: mean.iter().map(|m| m * sign).collect(),
            grain: average(&grain, width, &columns, &rows),
        }
    }

    /// The ground pixels under `wide × high` sheet pixels from pixel `(x, y)`.
    pub fn ground_under(&self, feel: Feel, [x, y]: [i64; 2], [wide, high]: [usize; 2]) -> Region {
        let ((left, width), (top, height)) =
            self.spans_of(feel, [x, y], [wide, high]).each_ref().map(|s| bounds(s)).into();
        Region::new(left, top, width, height)
    }

    /// The ground pixels that a tool meets there: with those that tell how far it follows the ground's swells.
    pub fn ground_met(&self, feel: Feel, place: [i64; 2], size: [usize; 2]) -> Region {
        self.ground_under(feel, place, size).grown(margin(feel))
    }

    /// Values on the ground pixels of [`Raster::ground_under`], averaged over the sheet pixels.
    pub fn averaged(&self, feel: Feel, place: [i64; 2], size: [usize; 2], values: &[f32]) -> Vec<f32> {
        let [columns, rows] = self.spans_of(feel, place, size);
        average(values, bounds(&columns).1, &columns, &rows)
    }

    fn spans_of(&self, feel: Feel, [x, y]: [i64; 2], [wide, high]: [usize; 2]) -> [Vec<Span>; 2] {
        let step = self.pixel_mm / feel.scale / PITCH_MM;
        let origin = |k: usize| self.origin_mm[k] / feel.scale / PITCH_MM;
        [spans(origin(0), x, step, wide), spans(origin(1), y, step, high)]
    }

    /// As [`Raster::tile`]; the ground keeps the last tiles, so that sheets of the same place share them.
    pub fn kept_tile(&self, ground: &Ground, feel: Feel, x: i64, y: i64, side: usize) -> Rc<GroundTile> {
        let place = [self.pixel_mm, self.origin_mm[0], self.origin_mm[1], feel.scale, feel.follow_mm];
        let key = (place.map(f64::to_bits), feel.follow.to_bits(), feel.swap, x, y);
        ground.kept_tile(key, || self.tile(ground, feel, x, y, side))
    }
}

/// Ground pixels around a place that a tool meets with it: as far as the blur reaches, or tiles would not join.
fn margin(feel: Feel) -> usize {
    if feel.follow > 0.0 { blur::reach(feel.follow_mm / PITCH_MM) } else { 0 }
}

/// Share of the grain's variance that lies within a sheet pixel of `step` ground pixels.
pub(super) fn grain_within(reference: &Patch, step: f64) -> f32 {
    let width = reference.region.width;
    let side = (((width as f64 - 2.0) / step) as usize).clamp(1, 512);
    let columns = spans(0.0, 0, step, side);
    let means = average(&reference.grain, width, &columns, &columns);
    let shown = means.iter().map(|v| f64::from(*v) * f64::from(*v)).sum::<f64>() / means.len() as f64;
    (1.0 - shown as f32).max(GRAIN_WITHIN_PIXEL * fine_share(step))
}

/// What of the roughness below the ground's pitch lies within a sheet pixel of `step` ground pixels.
fn fine_share(step: f64) -> f32 {
    (step as f32).min(1.0)
}

/// The ground pixels that one sheet pixel averages, in one direction.
struct Span {
    first: i64,
    weights: Vec<f32>,
}

/// The first of the ground pixels that some sheet pixels average, and how many there are.
fn bounds(spans: &[Span]) -> (i64, usize) {
    let last = &spans[spans.len() - 1];
    (spans[0].first, (last.first + last.weights.len() as i64 - spans[0].first) as usize)
}

fn spans(origin: f64, start: i64, step: f64, count: usize) -> Vec<Span> {
    // A sheet pixel finer than the ground averages one ground pixel's width: linear interpolation.
    let half = 0.5 * step.max(1.0);
    (0..count as i64)
        .map(|i| {
            let centre = origin + ((start + i) as f64 + 0.5) * step;
            let (a, b) = (centre - half, centre + half);
            let first = f64::floor(a) as i64;
            let last = f64::ceil(b) as i64;
            let share = |k: i64| ((b.min((k + 1) as f64) - a.max(k as f64)) / (2.0 * half)).max(0.0) as f32;
            Span { first, weights: (first..last).map(share).collect() }
        })
        .collect()
}

fn average(values: &[f32], width: usize, columns: &[Span], rows: &[Span]) -> Vec<f32> {
    let (left, top) = (columns[0].first, rows[0].first);
    let height = values.len() / width;
    let mut across = vec![0.0_f32; columns.len() * height];
    for (row, out) in values.chunks_exact(width).zip(across.chunks_exact_mut(columns.len())) {
        for (o, span) in out.iter_mut().zip(columns) {
            let from = (span.first - left) as usize;
            *o = span.weights.iter().zip(&row[from..]).map(|(w, v)| w * v).sum();
        }
    }
    let mut out = vec![0.0_f32; columns.len() * rows.len()];
    for (target, span) in out.chunks_exact_mut(columns.len()).zip(rows) {
        for (k, w) in span.weights.iter().enumerate() {
            let from = ((span.first - top) as usize + k) * columns.len();
            for (o, v) in target.iter_mut().zip(&across[from..from + columns.len()]) {
                *o += w * v;
            }
        }
    }
    out
}
