//! How the trade measures a surface: ISO 25178-2 height parameters, areal material ratio, developed area and
//! autocorrelation length.

use crate::num;
use serde::Serialize;

/// Height parameters; lengths in µm.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Texture {
    /// Arithmetical mean height, root mean square height.
    pub sa_um: f64,
    pub sq_um: f64,
    /// Skewness and kurtosis.
    pub ssk: f64,
    pub sku: f64,
    /// Highest peak, deepest pit (both positive) and their sum.
    pub sp_um: f64,
    pub sv_um: f64,
    pub sz_um: f64,
}

/// Measures heights (µm) about their mean; every height counts alike.
pub fn measure<T: Copy + Into<f64>>(heights: &[T]) -> Texture {
    let n = heights.len() as f64;
    let mean = heights.iter().map(|h| (*h).into()).sum::<f64>() / n;
    let (mut sa, mut m2, mut m3, mut m4) = (0.0, 0.0, 0.0, 0.0);
    let (mut low, mut high) = (f64::MAX, f64::MIN);
    for h in heights {
        let d = (*h).into() - mean;
        sa += d.abs();
        m2 += d * d;
        m3 += d * d * d;
        m4 += d * d * d * d;
        low = low.min(d);
        high = high.max(d);
    }
    let (sa, m2, m3, m4) = (sa / n, m2 / n, m3 / n, m4 / n);
    let sq = f64::sqrt(m2);
    // A flat map is neither skewed nor peaked.
    let over = |sum: f64, power: f64| if power > 0.0 { sum / power } else { 0.0 };
    Texture {
        sa_um: sa,
        sq_um: sq,
        ssk: over(m3, sq * m2),
        sku: over(m4, m2 * m2),
        sp_um: high,
        sv_um: -low,
        sz_um: high - low,
    }
}

/// Areal material ratio Smr(c): the share of heights at or over `c` (Abbott & Firestone 1933).
pub fn material_ratio<T: Copy + Into<f64>>(heights: &[T], c: f64) -> f64 {
    heights.iter().filter(|h| (**h).into() >= c).count() as f64 / heights.len() as f64
}

/// Developed area over the flat one, Sdr, in %: every cell of four heights as the mean of its two triangulations. `width` a
/// row; `step_um` from one height to the next.
pub fn developed<T: Copy + Into<f64>>(heights: &[T], width: usize, step_um: f64) -> f64 {
    let rows = heights.len() / width;
    let at = |x: usize, y: usize| heights[y * width + x].into();
    let triangle = |dx: f64, dy: f64| 0.5 * step_um * f64::sqrt(step_um * step_um + dx * dx + dy * dy);
    let mut area = 0.0;
    for y in 0..rows - 1 {
        for x in 0..width - 1 {
            let (a, b, c, d) = (at(x, y), at(x + 1, y), at(x, y + 1), at(x + 1, y + 1));
            area += 0.5 * (triangle(b - a, c - a) + triangle(d - c, d - b));
            area += 0.5 * (triangle(b - a, d - b) + triangle(d - c, c - a));
        }
    }
    let flat = step_um * step_um * ((rows - 1) * (width - 1)) as f64;
    100.0 * (area - flat) / flat
}

/// Takes the least-squares plane out of a map, `width` a row.
pub fn levelled(heights: &[f64], width: usize) -> Vec<f64> {
    let rows = heights.len() / width;
    let n = heights.len() as f64;
    let (cx, cy) = ((width as f64 - 1.0) / 2.0, (rows as f64 - 1.0) / 2.0);
    let mean = heights.iter().sum::<f64>() / n;
    let (mut zx, mut zy) = (0.0, 0.0);
    for (i, h) in heights.iter().enumerate() {
        zx += (h - mean) * ((i % width) as f64 - cx);
        zy += (h - mean) * ((i / width) as f64 - cy);
    }
    // On a full grid x and y are uncorrelated; Σ(x − cx)² of one row is w(w² − 1)/12.
    let squares =
        |side: usize, other: usize| other as f64 * side as f64 * ((side * side) as f64 - 1.0) / 12.0;
    let (a, b) = (zx / squares(width, rows).max(1e-30), zy / squares(rows, width).max(1e-30));
    let plane = |i: usize| a * ((i % width) as f64 - cx) + b * ((i / width) as f64 - cy);
    heights.iter().enumerate().map(|(i, h)| h - mean - plane(i)).collect()
}

/// Where the autocorrelation falls to 0.2 the fastest and the slowest way, mm (ISO 25178-2: the autocorrelation length Sal is the
/// shortest distance from the origin to the border of the central lobe, in whatever direction; the longest says how far the
/// surface is drawn out). Nothing where it does not fall so far within half the map; 0 for a flat map. `width` a row.
pub fn correlation_lengths(heights: &[f32], width: usize, step_mm: f64) -> [Option<f64>; 2] {
    let correlation = Correlation::of(heights, width);
    if correlation.power <= 0.0 {
        return [Some(0.0); 2];
    }
    let lobe = correlation.lobe();
    let (Some(fast), slow) = lobe else { return [None, None] };
    [Some(fast * step_mm), slow.map(|lags| lags * step_mm)]
}

/// ISO 25178-2 takes the length at which the autocorrelation has fallen to this.
const FALLS_TO: f64 = 0.2;
/// Every so many rows are looked at: a fair sample, and quick.
const ROWS_APART: usize = 8;

/// The autocorrelation of a map at whole lags.
struct Correlation<'a> {
    heights: &'a [f32],
    width: usize,
    rows: usize,
    mean: f64,
    power: f64,
}

impl<'a> Correlation<'a> {
    fn of(heights: &'a [f32], width: usize) -> Self {
        let n = heights.len() as f64;
        let mean = heights.iter().map(|h| f64::from(*h)).sum::<f64>() / n;
        let power = heights.iter().map(|h| (f64::from(*h) - mean) * (f64::from(*h) - mean)).sum::<f64>() / n;
        Self { heights, width, rows: heights.len() / width.max(1), mean, power }
    }

    /// At a lag of `x` (of any sign) and `y` (not negative) pixels.
    fn at(&self, [x, y]: [i64; 2]) -> f64 {
        let (from, to) = ((-x).max(0) as usize, (self.width as i64 - x.max(0)) as usize);
        let mut sum = 0.0;
        let mut count = 0.0;
        for row in (0..self.rows - y as usize).step_by(ROWS_APART) {
            let (a, b) =
                (&self.heights[row * self.width..], &self.heights[(row + y as usize) * self.width..]);
            let moved = &b[(from as i64 + x) as usize..(to as i64 + x) as usize];
            for (h, other) in a[from..to].iter().zip(moved) {
                sum += (f64::from(*h) - self.mean) * (f64::from(*other) - self.mean);
            }
            count += (to - from) as f64;
        }
        sum / count / self.power
    }

    /// Shortest and longest distance, pixels, from the origin to the border of the central lobe: the lags about the origin at which
    /// the correlation has not fallen yet. Nothing for the longest where the lobe reaches half the map, and for both where all of
    /// its border does.
    fn lobe(&self) -> (Option<f64>, Option<f64>) {
        let half = [(self.width / 2) as i64, (self.rows / 2) as i64];
        let (mut known, mut inside) = (std::collections::HashMap::new(), vec![[0_i64, 0_i64]]);
        known.insert([0, 0], 1.0);
        let (mut fast, mut slow, mut open) = (f64::MAX, 0.0_f64, false);
        while let Some(lag @ [x, y]) = inside.pop() {
            let here = known[&lag];
            for [dx, dy] in [[1, 0], [-1, 0], [0, 1], [0, -1]] {
                // The correlation is the same at the opposite lag: half of the plane says all.
                let next = if y + dy < 0 { [-(x + dx), -(y + dy)] } else { [x + dx, y + dy] };
                if next[0].abs() >= half[0] || next[1] >= half[1] {
                    open = true;
                    continue;
                }
                let seen = known.contains_key(&next);
                let there = *known.entry(next).or_insert_with(|| self.at(next));
                if there < FALLS_TO {
                    let part = (here - FALLS_TO) / (here - there);
                    let (bx, by) = (x as f64 + part * dx as f64, y as f64 + part * dy as f64);
                    let far = num::hypot(bx, by);
                    (fast, slow) = (fast.min(far), slow.max(far));
                } else if !seen {
                    inside.push(next);
                }
            }
        }
        if fast < f64::MAX { (Some(fast), (!open).then_some(slow)) } else { (None, None) }
    }
}
