//! How a side that lies down presses along its length: hardest at the end that its point is on, least where the stick rises to
//! the hand (dry study, step 1).

use super::Footprint;
use crate::lanes::{self, LANES, Lanes, all, larger, smaller};

/// How much of the bite goes into an even fall along the side, and how much into the border itself.
const FALLS: f32 = 0.6;
const BORDER: f32 = 0.9;
/// How far the border's share reaches, mm (the dry study's `e^(−d/.35 mm)`).
const BORDER_MM: f32 = 0.35;
const STEPS: usize = 62;
const ENTRIES: usize = (STEPS + 2).next_multiple_of(LANES);

/// Pressure along a side that lies down, over its mean.
pub struct Bite {
    along: [f32; ENTRIES],
}

impl Bite {
    /// `bite`: 0 as hard all along, 1 the most. Nothing where there is no bite: an upright tip has no such end.
    pub fn of(bite: f32, footprint: &Footprint) -> Option<Self> {
        let half = footprint.half_side + footprint.half_length;
        let bite = bite * footprint.half_side / half.max(1e-6);
        if bite <= 0.0 {
            return None;
        }
        let border = |from_end: f32| libm::expf(-from_end / BORDER_MM);
        let mean = BORDER_MM / (2.0 * half) * (1.0 - border(2.0 * half));
        let mut along = [0.0; ENTRIES];
        for (i, share) in along.iter_mut().enumerate() {
            let s = (i as f32 / STEPS as f32).min(1.0);
            let falls = FALLS * (1.0 - 2.0 * s);
            *share = 1.0 + bite * (falls + BORDER * (border(2.0 * half * s) - mean));
        }
        Some(Self { along })
    }

    /// At four places along the whole length, −1 (the point's end) to 1.
    #[inline(always)]
    pub fn at(&self, along: Lanes) -> Lanes {
        let along = (along + all(1.0)) * all(0.5 * STEPS as f32);
        lanes::between(&self.along, smaller(larger(along, Lanes::ZERO), all(STEPS as f32)))
    }

    /// The most of it.
    pub fn most(&self) -> f32 {
        self.along[0]
    }
}
