//! Gathers a tile with the cells around it. A neighbour that was already worked in this step is read from what was kept of its border.

use std::ops::Range;

use super::spans::shared;
use super::{MARGIN_X, MARGIN_Y, WIDE};
use crate::packs::Machine;
use crate::sheet::TILE;

/// What a neighbour's plane was before the step: its lowest rows, and its rightmost columns.
#[derive(Debug, Clone)]
pub struct Border {
    lower: [f32; MARGIN_Y * TILE],
    right: [f32; MARGIN_X * TILE],
}

impl Default for Border {
    fn default() -> Self {
        Self { lower: [0.0; MARGIN_Y * TILE], right: [0.0; MARGIN_X * TILE] }
    }
}

impl Border {
    /// Keeps those of a plane: `right`, `lower`: whether anybody looks there.
    pub fn keep_in_place(&mut self, plane: &[f32], [right, lower]: [bool; 2]) {
        if lower {
            self.lower.copy_from_slice(&plane[(TILE - MARGIN_Y) * TILE..]);
        }
        if right {
            let rows = plane.as_chunks::<TILE>().0;
            for (to, row) in self.right.as_chunks_mut::<MARGIN_X>().0.iter_mut().zip(rows) {
                *to = *row.last_chunk().expect("its last columns");
            }
        }
    }
}

/// A plane of a neighbour.
#[derive(Debug, Clone, Copy)]
pub enum Around<'a> {
    /// Nothing is wet there.
    None,
    /// As it is, or as its border was.
    Plane(&'a [f32]),
    Border(&'a Border),
}

/// Rows of a neighbour's plane, one after the other: where they begin, and how far they are apart.
#[derive(Clone, Copy)]
struct Lines<'a> {
    values: &'a [f32],
    apart: usize,
}

impl<'a> Around<'a> {
    /// Its rows from column `x` of row `y` on.
    fn lines(self, x: usize, y: usize) -> Lines<'a> {
        const NOTHING: [f32; TILE] = [0.0; TILE];
        match self {
            Around::None => Lines { values: &NOTHING, apart: 0 },
            Around::Plane(plane) => Lines { values: &plane[y * TILE + x..], apart: TILE },
            // Who is to its right asks for its rightmost columns, of whatever rows; anybody else for its lowest rows.
            Around::Border(border) if x == TILE - MARGIN_X => {
                Lines { values: &border.right[y * MARGIN_X..], apart: MARGIN_X }
            }
            Around::Border(border) => {
                Lines { values: &border.lower[(y + MARGIN_Y - TILE) * TILE + x..], apart: TILE }
            }
        }
    }
}

impl Lines<'_> {
    #[inline(always)]
    fn row<const WIDTH: usize>(&self, n: usize) -> &[f32; WIDTH] {
        self.values[n * self.apart..][..WIDTH].try_into().expect("as many as were asked for")
    }
}

/// Copies a row of a tile: in pieces of a known length, which is quicker than a call for all of it.
#[inline(always)]
pub fn copy_row(from: &[f32; TILE], to: &mut [f32; TILE]) {
    const PIECE: usize = TILE / 4;
    let (from, to) = (from.as_chunks::<PIECE>().0, to.as_chunks_mut::<PIECE>().0);
    to[0] = from[0];
    to[1] = from[1];
    to[2] = from[2];
    to[3] = from[3];
}

/// Fills some rows of a field from a tile's plane and those of its eight neighbours, row by row from the upper left (the fifth is the tile itself).
#[inline(never)]
pub fn gather_in_place(m: impl Machine, nine: [Around<'_>; 9], rows: Range<usize>, field: &mut [f32]) {
    m.run(
        #[inline(always)]
        move || copy_in_place(nine, rows, field),
    );
}

#[inline(always)]
fn copy_in_place(nine: [Around<'_>; 9], rows: Range<usize>, field: &mut [f32]) {
    const LAST: usize = MARGIN_Y + TILE;
    // Rows of the field, the tiles that they are read from, and where their first lies in those.
    let parts = [
        (0..MARGIN_Y, [0, 1, 2], TILE - MARGIN_Y),
        (MARGIN_Y..LAST, [3, 4, 5], 0),
        (LAST..LAST + MARGIN_Y, [6, 7, 8], 0),
    ];
    for (part, three, first) in parts {
        let part_rows = shared(&part, &rows);
        if part_rows.is_empty() {
            continue;
        }
        let from = first + part_rows.start - part.start;
        let [left, middle, right] = three.map(|k| nine[k]);
        let (left, middle, right) =
            (left.lines(TILE - MARGIN_X, from), middle.lines(0, from), right.lines(0, from));
        let fields = field[part_rows.start * WIDE..part_rows.end * WIDE].as_chunks_mut::<WIDE>().0;
        for (n, row) in fields.iter_mut().enumerate() {
            let (before, rest) = row.split_first_chunk_mut().expect("a margin");
            let (own, behind) = rest.split_first_chunk_mut().expect("a tile's row");
            *before = *left.row::<MARGIN_X>(n);
            copy_row(middle.row(n), own);
            behind.copy_from_slice(right.row::<MARGIN_X>(n));
        }
    }
}
