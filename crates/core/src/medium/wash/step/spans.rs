//! Which part of each row is worked: where something is wet, and as far as it can come in a step.

use std::ops::Range;

use super::{ACROSS, HIGH, WIDE, fours};
use crate::lanes::{LANES, Lanes, all};

/// Rows above and below, and fours to both sides, that what is wet can come to in a step.
const ROWS: usize = 2;
const FOURS: usize = 1;

/// A stretch of fours in every row of a gathered tile; empty where nothing is wet nearby.
#[derive(Debug, Clone)]
pub struct Spans {
    ends: [[u8; 2]; HIGH],
    rows: [usize; 2],
}

/// Which fours of a row hold anything, as bits.
pub type Wet = [u32; HIGH];

/// Which fours of a field hold anything above nought.
pub fn wet_of(field: &[f32]) -> Wet {
    std::array::from_fn(|y| {
        let row = fours(field, y * WIDE);
        (0..ACROSS).fold(0, |bits, k| bits | u32::from(Lanes::from(row[k]).simd_gt(all(0.0)).any()) << k)
    })
}

impl Spans {
    pub fn none() -> Self {
        Self { ends: [[0; 2]; HIGH], rows: [0; 2] }
    }

    /// Around what is wet.
    pub fn around(wet: &Wet) -> Self {
        let mut out = Self::none();
        out.rows = [HIGH, 0];
        for y in 0..HIGH {
            let near = &wet[y.saturating_sub(ROWS)..(y + ROWS + 1).min(HIGH)];
            let bits = near.iter().fold(0, |all, row| all | row);
            if bits == 0 {
                continue;
            }
            let first = (bits.trailing_zeros() as usize).saturating_sub(FOURS);
            let end = ((u32::BITS - bits.leading_zeros()) as usize + FOURS).min(ACROSS);
            out.ends[y] = [first as u8, end as u8];
            out.rows = [out.rows[0].min(y), y + 1];
        }
        out
    }

    /// The fours of a row, at most [`ACROSS`].
    #[inline(always)]
    pub fn row(&self, y: usize) -> Range<usize> {
        let [first, end] = self.ends[y].map(|k| usize::from(k).min(ACROSS));
        first..end
    }

    /// From the first of some rows that has any to the last.
    pub fn rows(&self, within: Range<usize>) -> Range<usize> {
        let first = self.rows[0].max(within.start);
        first..self.rows[1].min(within.end).max(first)
    }

    /// Leaves nothing of a field outside of the rows' stretches.
    pub fn clear_outside_in_place(&self, field: &mut [f32]) {
        for (ends, row) in self.ends.iter().zip(field[..HIGH * WIDE].as_chunks_mut::<WIDE>().0) {
            match *ends {
                [0, end] if usize::from(end) == ACROSS => {}
                [_, 0] => *row = [0.0; WIDE],
                [first, end] => {
                    let keeps = u32::from(first)..u32::from(end);
                    for (k, four) in row.as_chunks_mut::<LANES>().0.iter_mut().enumerate() {
                        *four = four.map(|v| if keeps.contains(&(k as u32)) { v } else { 0.0 });
                    }
                }
            }
        }
    }
}

/// Walks a stretch of fours. Where it is the `whole` of what may be asked for, as in open water, the walk has a known length, which takes a ninth
/// fewer instructions.
macro_rules! walk {
    ($k:ident in $span:expr, whole $whole:expr, $body:block) => {
        let span = $span;
        if span == $whole {
            for $k in $whole $body
        } else {
            for $k in span $body
        }
    };
}
pub(super) use walk;

/// Both of two stretches and what lies between them.
pub fn hull(a: Range<usize>, b: Range<usize>) -> Range<usize> {
    if a.is_empty() {
        return b;
    }
    if b.is_empty() { a } else { a.start.min(b.start)..a.end.max(b.end) }
}

/// What two stretches share; it ends with both of them, so that who walks it is known to stay in them.
#[inline(always)]
pub fn shared(a: &Range<usize>, b: &Range<usize>) -> Range<usize> {
    a.start.max(b.start)..a.end.min(b.end)
}

/// What of a stretch lies before another, and what behind it.
pub fn outside(of: &Range<usize>, other: &Range<usize>) -> [Range<usize>; 2] {
    if other.is_empty() {
        return [of.clone(), 0..0];
    }
    [shared(of, &(0..other.start)), shared(of, &(other.end..usize::MAX))]
}
