//! The way of a generated movement: shapes made from a parameter, or an outline drawn elsewhere, cut into legs at corners.

use serde::{Deserialize, Serialize};

use crate::error::{FieldError, Result};
use crate::num;

/// Points of a way's shape.
const POINTS: usize = 2000;
/// A hand comes to rest where the way turns by more than this, degrees (tuned by eye).
const CORNER_DEG: f64 = 35.0;
/// The most points an outline may have.
pub const MOST_POINTS: usize = 200_000;

/// What shape the way has.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Way {
    Line,
    Arc,
    Wave,
    Loops,
    Zigzag,
    /// An outline that is given beside the movement.
    Outline,
}

/// Strokes of a drawing as polylines: `[x, y]`, x to the right, y towards the painter, any one unit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(transparent)]
pub struct Outline {
    pub strokes: Vec<Vec<[f64; 2]>>,
}

/// A piece of the way between two places of rest.
pub(super) struct Leg {
    points: Vec<[f64; 2]>,
    /// Length of the way up to each point.
    along: Vec<f64>,
}

impl Leg {
    fn new(points: Vec<[f64; 2]>) -> Self {
        let mut sum = 0.0;
        let mut along = vec![0.0];
        for w in points.windows(2) {
            sum += num::hypot(w[1][0] - w[0][0], w[1][1] - w[0][1]);
            along.push(sum);
        }
        Self { points, along }
    }

    pub(super) fn length(&self) -> f64 {
        *self.along.last().unwrap_or(&0.0)
    }

    pub(super) fn points(&self) -> &[[f64; 2]] {
        &self.points
    }

    /// The place `s` along.
    pub(super) fn at(&self, s: f64) -> [f64; 2] {
        let i = self.along.partition_point(|v| *v < s).clamp(1, self.points.len() - 1);
        let (a, b) = (self.along[i - 1], self.along[i]);
        let f = if b > a { ((s - a) / (b - a)).clamp(0.0, 1.0) } else { 0.0 };
        let at = |c: usize| self.points[i - 1][c] + (self.points[i][c] - self.points[i - 1][c]) * f;
        [at(0), at(1)]
    }
}

impl Outline {
    /// The strokes that have a length, each as its legs.
    ///
    /// # Errors
    /// No stroke with a length, more than [`MOST_POINTS`] points, or a point that is not finite.
    pub(super) fn legs(&self) -> Result<Vec<Vec<Leg>>> {
        let count: usize = self.strokes.iter().map(Vec::len).sum();
        if count > MOST_POINTS {
            return Err(FieldError::new("outline", format!("at most {MOST_POINTS} points, got {count}")));
        }
        if self.strokes.iter().flatten().flatten().any(|v| !v.is_finite() || v.abs() > 1e9) {
            return Err(FieldError::new("outline", "has a place that is not a number, or is too far out"));
        }
        let strokes: Vec<Vec<Leg>> = self.strokes.iter().map(|s| cut(s)).filter(|s| !s.is_empty()).collect();
        if strokes.is_empty() {
            return Err(FieldError::new("outline", "holds no line that has a length"));
        }
        Ok(strokes)
    }
}

/// Cuts a stroke at its corners; points that do not move on are left out.
fn cut(stroke: &[[f64; 2]]) -> Vec<Leg> {
    let mut points: Vec<[f64; 2]> = stroke.to_vec();
    points.dedup();
    let mut legs = Vec::new();
    let mut leg: Vec<[f64; 2]> = Vec::new();
    for (i, &p) in points.iter().enumerate() {
        leg.push(p);
        if i == 0 || i + 1 == points.len() {
            continue;
        }
        let heading = |a: [f64; 2], b: [f64; 2]| libm::atan2(b[1] - a[1], b[0] - a[0]);
        let turn = heading(p, points[i + 1]) - heading(points[i - 1], p);
        let turn = libm::atan2(libm::sin(turn), libm::cos(turn)).abs();
        if turn > CORNER_DEG.to_radians() {
            legs.push(Leg::new(std::mem::replace(&mut leg, vec![p])));
        }
    }
    if leg.len() > 1 {
        legs.push(Leg::new(leg));
    }
    legs
}

impl Way {
    /// One stroke as its legs, about one unit wide; nothing for an outline.
    pub(super) fn legs(self) -> Vec<Vec<Leg>> {
        let count = match self {
            Way::Outline => return Vec::new(),
            Way::Zigzag => 9,
            _ => 1,
        };
        let leg = |n: i32| {
            let at = |i: usize| (f64::from(n) + i as f64 / POINTS as f64) / f64::from(count);
            Leg::new((0..=POINTS).map(|i| self.point(at(i))).collect())
        };
        vec![(0..count).map(leg).collect()]
    }

    /// A place of the shape, u from 0 to 1.
    fn point(self, u: f64) -> [f64; 2] {
        use std::f64::consts::{PI, TAU};
        match self {
            Way::Line | Way::Outline => [u, 0.0],
            Way::Arc => {
                let a = PI * (1.0 / 3.0 * (2.0 * u - 1.0) - 0.5);
                [0.577_35 * libm::cos(a) + 0.5, 0.577_35 * (libm::sin(a) + 0.5)]
            }
            Way::Wave => [u, 0.07 * libm::sin(TAU * 1.5 * u)],
            Way::Loops => {
                [u - 0.09 * libm::sin(TAU * 7.0 * u), 0.07 * (1.0 - libm::cos(TAU * 7.0 * u)) - 0.07]
            }
            Way::Zigzag => {
                let v = (u * 9.0).min(8.999_999);
                let leg = f64::floor(v);
                let up = if leg as i32 % 2 == 0 { v - leg } else { 1.0 - (v - leg) };
                [u, 0.12 * (up - 0.5)]
            }
        }
    }
}
