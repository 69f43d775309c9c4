//! How much of a medium there is: its volume, and for paint what it absorbs and scatters in every band.

use std::ops::{Add, AddAssign, Mul, Sub};

use serde::Serialize;

use crate::paint::colour::Display;
use crate::paint::{BANDS, film};

/// A volume with its colour.
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

    /// What it looks like where it lies so thick that nothing shines through, sRGB; nothing of next to nothing.
    pub fn masstone(&self) -> Option<[u8; 3]> {
        let per = |total: f64| (total / self.mm3).max(0.0);
        let thick = || {
            std::array::from_fn(|b| {
                film::reflectance(per(self.k[b]), per(self.s[b]), f64::INFINITY, 0.5) as f32
            })
        };
        (self.mm3 > 1e-6).then(|| Display::shared().srgb8(&thick()))
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
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize)]
pub struct Balance {
    /// Came out of the tool's own store: a stick, a loaded brush.
    pub brought: Amount,
    /// Was in the tool before, from strokes before this gesture, and is in it now.
    pub held_before: Amount,
    pub held: Amount,
    /// What of that the tool found on the sheet.
    pub found: Amount,
    /// Left the sheet for good: crumbs, what was blown away.
    pub gone: Amount,
}

impl Balance {
    /// What the sheet gained.
    pub fn gained(&self) -> Amount {
        self.brought + self.held_before - self.held - self.gone
    }
}
