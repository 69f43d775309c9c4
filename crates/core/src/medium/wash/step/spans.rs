//! Which part of each row is worked: where something is wet, and as far as it can come in a step.

use std::ops::Range;

use super::{ACROSS, HIGH, MARGIN_Y, WIDE, packs};
use crate::packs::{Lanes, Machine, PACK, Pack, Portable};
use crate::sheet::TILE;

/// Packs of a row that hold anything, as bits: the first and the last of them, whatever lies between.
pub type Wet = [u32; HIGH];

/// Which packs of a field are the first and the last to hold anything above nought.
pub fn wet_of(field: &[f32]) -> Wet {
    let mut out = [0; HIGH];
    for (y, bits) in out.iter_mut().enumerate() {
        let row = packs(field, y * WIDE);
        let none = Portable.all(0.0);
        let wet = |k: &usize| Portable.of(row[*k]).gt(none).is_any();
        let Some(first) = (0..ACROSS).find(wet) else { continue };
        let last = (first..ACROSS).rfind(wet).unwrap_or(first);
        *bits = 1 << first | 1 << last;
    }
    out
}

/// Of every row what it or one beside it holds.
fn beside(rows: &Wet) -> Wet {
    let mut out = *rows;
    for y in 1..HIGH {
        out[y] |= rows[y - 1];
        out[y - 1] |= rows[y];
    }
    out
}

/// From the first to the last of some packs and so many beside them.
fn stretch(bits: u32, beside: usize) -> [u8; 2] {
    if bits == 0 {
        return [0; 2];
    }
    let first = (bits.trailing_zeros() as usize).saturating_sub(beside);
    let end = ((u32::BITS - bits.leading_zeros()) as usize + beside).min(ACROSS);
    [first as u8, end as u8]
}

/// Those of some rows that are the tile's own, as they are counted in it.
fn own(rows: Range<usize>) -> Range<usize> {
    let [start, end] = [rows.start, rows.end].map(|y| y.saturating_sub(MARGIN_Y).min(TILE));
    start..end
}

/// Part of each row of a gathered tile.
#[derive(Debug, Clone)]
pub struct Spans {
    ends: [[u8; 2]; HIGH],
    rows: [usize; 2],
}

impl Spans {
    pub fn none() -> Self {
        Self { ends: [[0; 2]; HIGH], rows: [HIGH, 0] }
    }

    /// Around what is wet: it comes to the row beside it in a step, and to the pack. `looks`: so many rows farther, and the packs beside.
    pub fn around(wet: &Wet, looks: usize) -> Self {
        let rows = (0..looks).fold(beside(wet), |rows, _| beside(&rows));
        let packs = 1 + usize::from(looks > 0);
        let mut out = Self::none();
        for y in (0..HIGH).filter(|y| rows[*y] != 0) {
            out.ends[y] = stretch(rows[y], packs);
            out.rows = [out.rows[0].min(y), y + 1];
        }
        out
    }

    /// Whether it is nothing.
    pub fn is_none(&self) -> bool {
        self.rows[1] == 0
    }

    /// The packs of a row, at most [`ACROSS`].
    #[inline(always)]
    pub fn row(&self, y: usize) -> Range<usize> {
        let [first, end] = self.ends[y].map(|k| usize::from(k).min(ACROSS));
        first..end
    }

    /// From the first of some rows that has any to the last.
    pub fn rows(&self, within: Range<usize>) -> Range<usize> {
        let first = self.rows[0].clamp(within.start, within.end);
        first..self.rows[1].min(within.end).max(first)
    }

    /// The tile's own rows that have any, as they are counted in it.
    pub fn own_rows(&self) -> Range<usize> {
        own(self.rows(0..HIGH))
    }

    /// Leaves nothing of some fields outside of the stretches, as far as it is `seen`.
    pub fn clear_outside_in_place<const N: usize>(&self, seen: &Spans, mut fields: [&mut [f32]; N]) {
        for y in seen.rows(0..HIGH) {
            for part in outside(&seen.row(y), &self.row(y)) {
                for k in part {
                    for field in &mut fields {
                        field[y * WIDE + k * PACK..][..PACK].copy_from_slice(&[0.0; PACK]);
                    }
                }
            }
        }
    }
}

/// Walks a stretch of packs. Where it is the `whole` of what may be asked for, as in open water, the walk has a known length, which takes a ninth
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
    let [before, behind] = [shared(of, &(0..other.start)), shared(of, &(other.end..usize::MAX))];
    [before.start..before.end.max(before.start), behind.start..behind.end.max(behind.start)]
}
