//! A curve: control points joined by monotone piecewise cubics.
//!
//! PCHIP: Fritsch & Carlson, SIAM J. Numer. Anal. 17 (1980) 238–246, with the weighted harmonic mean slopes of Fritsch &
//! Butland (1984). Between two points the curve never leaves their range; it is flat beyond its ends. x and y are shares
//! in 0..1. All in f64: near-flat parts lose pen levels in f32.

use serde::{Deserialize, Serialize};

use crate::error::{FieldError, Result};

/// The most control points of a curve.
pub const MOST_POINTS: usize = 64;

/// A checked curve with its slopes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "Vec<[f64; 2]>", into = "Vec<[f64; 2]>")]
pub struct Curve {
    points: Vec<[f64; 2]>,
    slopes: Vec<f64>,
}

impl Default for Curve {
    fn default() -> Self {
        Self { points: vec![[0.0, 0.0], [1.0, 1.0]], slopes: vec![1.0, 1.0] }
    }
}

impl Curve {
    /// A curve through 2 to [`MOST_POINTS`] points, x strictly rising, all numbers in 0..1.
    ///
    /// # Errors
    /// Names the point and the limit.
    pub fn new(points: Vec<[f64; 2]>) -> Result<Self> {
        if points.len() < 2 || points.len() > MOST_POINTS {
            let message = format!("a curve has 2 to {MOST_POINTS} points, got {}", points.len());
            return Err(FieldError::new("points", message));
        }
        for (i, p) in points.iter().enumerate() {
            for (axis, value) in ["x", "y"].iter().zip(p) {
                if !(value.is_finite() && (0.0..=1.0).contains(value)) {
                    let message = format!("{axis} must be a number from 0 to 1, got {value}");
                    return Err(FieldError::new(format!("points[{i}]"), message));
                }
            }
            if i > 0 && p[0] <= points[i - 1][0] {
                let message =
                    format!("x must rise from point to point: {} is not after {}", p[0], points[i - 1][0]);
                return Err(FieldError::new(format!("points[{i}]"), message));
            }
        }
        let slopes = slopes(&points);
        Ok(Self { points, slopes })
    }

    pub fn points(&self) -> &[[f64; 2]] {
        &self.points
    }

    /// Derivative at every control point.
    pub fn slopes(&self) -> &[f64] {
        &self.slopes
    }

    /// The curve at `x`; flat beyond the ends.
    pub fn at(&self, x: f64) -> f64 {
        let (first, last) = (self.points[0], self.points[self.points.len() - 1]);
        if x <= first[0] {
            return first[1];
        }
        if x >= last[0] {
            return last[1];
        }
        let i = self.points.partition_point(|p| p[0] <= x) - 1;
        let ([x0, y0], [x1, y1]) = (self.points[i], self.points[i + 1]);
        let h = x1 - x0;
        let t = (x - x0) / h;
        let secant = (y1 - y0) / h;
        // Newton form of the cubic Hermite polynomial, as stable as the points allow.
        let (d0, d1) = (self.slopes[i], self.slopes[i + 1]);
        let c2 = 3.0 * secant - 2.0 * d0 - d1;
        let c3 = d0 + d1 - 2.0 * secant;
        let s = t * h;
        y0 + s * (d0 + t * (c2 + t * c3))
    }
}

fn slopes(points: &[[f64; 2]]) -> Vec<f64> {
    let n = points.len();
    let h: Vec<f64> = points.windows(2).map(|w| w[1][0] - w[0][0]).collect();
    let d: Vec<f64> = points.windows(2).zip(&h).map(|(w, h)| (w[1][1] - w[0][1]) / h).collect();
    if n == 2 {
        return vec![d[0]; 2];
    }
    let mut m = vec![0.0; n];
    for i in 1..n - 1 {
        if d[i - 1] * d[i] > 0.0 {
            let w1 = 2.0 * h[i] + h[i - 1];
            let w2 = h[i] + 2.0 * h[i - 1];
            m[i] = (w1 + w2) / (w1 / d[i - 1] + w2 / d[i]);
        }
    }
    m[0] = end_slope(h[0], h[1], d[0], d[1]);
    m[n - 1] = end_slope(h[n - 2], h[n - 3], d[n - 2], d[n - 3]);
    m
}

/// One-sided three-point estimate, limited so that the end keeps the shape of the data.
fn end_slope(h0: f64, h1: f64, d0: f64, d1: f64) -> f64 {
    let m = ((2.0 * h0 + h1) * d0 - h0 * d1) / (h0 + h1);
    if m * d0 <= 0.0 {
        0.0
    } else if d0 * d1 <= 0.0 && m.abs() > 3.0 * d0.abs() {
        3.0 * d0
    } else {
        m
    }
}

impl TryFrom<Vec<[f64; 2]>> for Curve {
    type Error = FieldError;
    fn try_from(points: Vec<[f64; 2]>) -> Result<Self> {
        Self::new(points)
    }
}

impl From<Curve> for Vec<[f64; 2]> {
    fn from(curve: Curve) -> Self {
        curve.points
    }
}
