//! How much of a medium there is: its volume, and for paint what it absorbs and scatters in every band.

use std::ops::{Add, AddAssign, Mul, Sub};

use serde::Serialize;

use crate::paint::BANDS;

/// A volume with its colour.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize)]
pub struct Amount {
    /// mm³.
    pub mm3: f64,
    /// K and S of the paint times its volume, band by band: mm² each.
    pub k: [f64; BANDS],
    pub s: [f64; BANDS],
}

impl Amount {
    /// Every number of it, the volume first.
    pub fn all(&self) -> impl Iterator<Item = f64> {
        std::iter::once(self.mm3).chain(self.k).chain(self.s)
    }

    fn with(self, other: Self, join: impl Fn(f64, f64) -> f64) -> Self {
        Self {
            mm3: join(self.mm3, other.mm3),
            k: std::array::from_fn(|b| join(self.k[b], other.k[b])),
            s: std::array::from_fn(|b| join(self.s[b], other.s[b])),
        }
    }
}

impl Add for Amount {
    type Output = Self;
    fn add(self, other: Self) -> Self {
        self.with(other, |a, b| a + b)
    }
}

impl AddAssign for Amount {
    fn add_assign(&mut self, other: Self) {
        *self = *self + other;
    }
}

impl Sub for Amount {
    type Output = Self;
    fn sub(self, other: Self) -> Self {
        self.with(other, |a, b| a - b)
    }
}

impl Mul<f64> for Amount {
    type Output = Self;
    fn mul(self, by: f64) -> Self {
        self.with(self, |a, _| a * by)
    }
}

/// Where the material of a gesture came from and went. What the sheet gained is `brought + held_before − held − gone`.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize)]
pub struct Balance {
    /// Came out of the tool's own store: a stick, a loaded brush.
    pub brought: Amount,
    /// Was in the tool before, from strokes before this gesture, and is in it now.
    pub held_before: Amount,
    pub held: Amount,
    /// Left the sheet for good: crumbs, what was blown away.
    pub gone: Amount,
}

impl Balance {
    /// What the sheet gained.
    pub fn gained(&self) -> Amount {
        self.brought + self.held_before - self.held - self.gone
    }
}
