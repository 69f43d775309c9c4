//! How the trade measures a surface: ISO 25178-2 height parameters, areal material ratio, developed area and
//! autocorrelation length.

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
    let sq = libm::sqrt(m2);
    Texture {
        sa_um: sa,
        sq_um: sq,
        ssk: m3 / (sq * m2),
        sku: m4 / (m2 * m2),
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
    let triangle = |dx: f64, dy: f64| 0.5 * step_um * libm::sqrt(step_um * step_um + dx * dx + dy * dy);
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

/// Where the autocorrelation along x and along y falls to 0.2 first (mm): the shorter is the autocorrelation length Sal, the
/// longer says how far the surface is drawn out. Nothing where it does not fall so far within half the map.
pub fn correlation_lengths(heights: &[f32], width: usize, step_mm: f64) -> [Option<f64>; 2] {
    let rows = heights.len() / width;
    let mean = heights.iter().map(|h| f64::from(*h)).sum::<f64>() / heights.len() as f64;
    let power: f64 = heights.iter().map(|h| (f64::from(*h) - mean) * (f64::from(*h) - mean)).sum::<f64>()
        / heights.len() as f64;
    let falls = |lags: usize, far: &dyn Fn(usize) -> f64| {
        let mut before = 1.0;
        for lag in 1..lags {
            let now = far(lag);
            if now < FALLS_TO {
                return Some((lag as f64 - 1.0 + (before - FALLS_TO) / (before - now)) * step_mm);
            }
            before = now;
        }
        None
    };
    let d = |i: usize| f64::from(heights[i]) - mean;
    // Every fourth line: a fair sample, and quick.
    let across = |lag: usize| {
        let (mut sum, mut n) = (0.0, 0.0);
        for y in (0..rows).step_by(4) {
            for x in 0..width - lag {
                sum += d(y * width + x) * d(y * width + x + lag);
                n += 1.0;
            }
        }
        sum / n / power
    };
    let down = |lag: usize| {
        let (mut sum, mut n) = (0.0, 0.0);
        for y in 0..rows - lag {
            for x in (0..width).step_by(4) {
                sum += d(y * width + x) * d((y + lag) * width + x);
                n += 1.0;
            }
        }
        sum / n / power
    };
    [falls(width / 2, &across), falls(rows / 2, &down)]
}

/// ISO 25178-2 takes the length at which the autocorrelation has fallen to this.
const FALLS_TO: f64 = 0.2;
