//! Paint as a tip holds it.

use super::blocks::{Bands, VECTORS};
use crate::lanes::{LANES, Lanes, all};
use crate::medium::Amount;
use crate::paint::BANDS;

/// An amount of paint: its volume in µm·mm² (a thousandth of a mm³), and K and S times that volume.
#[derive(Debug, Clone, Copy)]
pub struct Stuff {
    pub volume: f32,
    pub bands: Bands,
}

impl Stuff {
    pub const NONE: Self = Self { volume: 0.0, bands: [Lanes::ZERO; VECTORS] };

    /// So much of a paint of K and S per µm.
    pub fn of(volume: f32, unit: &Bands) -> Self {
        Self { volume, bands: unit.map(|v| v * all(volume)) }
    }

    /// K and S of a unit of it; nothing of nothing.
    #[inline(always)]
    pub fn unit(&self) -> Bands {
        let by = if self.volume > 1e-12 { all(1.0 / self.volume) } else { Lanes::ZERO };
        self.bands.map(|v| v * by)
    }

    #[inline(always)]
    pub fn add(&mut self, other: &Self) {
        self.volume += other.volume;
        for (a, b) in self.bands.iter_mut().zip(&other.bands) {
            *a += *b;
        }
    }

    /// Adds a share of another, which keeps what it has.
    #[inline(always)]
    pub fn add_share(&mut self, other: &Self, share: f32) {
        self.volume += other.volume * share;
        for (a, b) in self.bands.iter_mut().zip(&other.bands) {
            *a += *b * all(share);
        }
    }

    /// So much of it.
    pub fn share(&self, share: f32) -> Self {
        Self { volume: self.volume * share, bands: self.bands.map(|v| v * all(share)) }
    }

    /// Takes a share of it out.
    #[inline(always)]
    pub fn take(&mut self, share: f32) -> Self {
        let out = Self { volume: self.volume * share, bands: self.bands.map(|v| v * all(share)) };
        self.volume -= out.volume;
        for (a, b) in self.bands.iter_mut().zip(&out.bands) {
            *a -= *b;
        }
        out
    }

    /// Takes a volume out, or all of it where it has less.
    pub fn take_volume(&mut self, volume: f32) -> Self {
        if volume >= self.volume {
            std::mem::replace(self, Self::NONE)
        } else {
            self.take(volume / self.volume)
        }
    }

    /// In mm³ and mm².
    pub fn amount(&self) -> Amount {
        let band = |from: usize| -> [f64; BANDS] {
            std::array::from_fn(|b| f64::from(self.bands[(from + b) / LANES].to_array()[(from + b) % LANES]))
        };
        Amount { mm3: f64::from(self.volume) * 1e-3, k: band(0), s: band(BANDS) }
    }
}
