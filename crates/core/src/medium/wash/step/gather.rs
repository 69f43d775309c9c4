//! Gathers a tile with the cells around it. A neighbour that was already worked in this step is read from what was kept of its border.

use std::ops::Range;

use super::spans::shared;
use super::{MARGIN_X, MARGIN_Y, OWN, WIDE};
use crate::lanes::{LANES, Lanes, all};
use crate::medium::wash::blocks::{FOURS, TWOS};
use crate::sheet::TILE;

/// What a neighbour's plane was before the step: its lowest rows, and its rightmost columns.
#[derive(Debug, Clone)]
pub struct Border {
    lower: [f32; MARGIN_Y * TILE],
    right: [f32; MARGIN_X * TILE],
}

/// The border of each of some planes.
pub fn borders_of<'a>(planes: impl Iterator<Item = &'a [f32]>) -> Vec<Border> {
    planes
        .map(|plane| {
            let lower = plane[(TILE - MARGIN_Y) * TILE..].try_into().expect("its lowest rows");
            let mut right = [0.0; MARGIN_X * TILE];
            for (to, row) in right.chunks_exact_mut(MARGIN_X).zip(plane.chunks_exact(TILE)) {
                to.copy_from_slice(&row[TILE - MARGIN_X..]);
            }
            Border { lower, right }
        })
        .collect()
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

impl Around<'_> {
    /// Copies `width` values of row `y` from column `x` on.
    #[inline]
    fn row(self, x: usize, y: usize, to: &mut [f32]) {
        let width = to.len();
        match self {
            Around::None => to.fill(0.0),
            Around::Plane(plane) => to.copy_from_slice(&plane[y * TILE + x..y * TILE + x + width]),
            Around::Border(border) if y >= TILE - MARGIN_Y => {
                let from = (y + MARGIN_Y - TILE) * TILE + x;
                to.copy_from_slice(&border.lower[from..from + width]);
            }
            Around::Border(border) => {
                let from = y * MARGIN_X + x + MARGIN_X - TILE;
                to.copy_from_slice(&border.right[from..from + width]);
            }
        }
    }
}

/// Fills some rows of a field from a tile's plane and those of its eight neighbours, row by row from the upper left (the fifth is the tile itself).
pub fn gather_in_place(nine: [Around<'_>; 9], rows: Range<usize>, field: &mut [f32]) {
    const LAST: usize = MARGIN_Y + TILE;
    for y in rows {
        let (three, from) = match y {
            0..MARGIN_Y => (&nine[..3], TILE - MARGIN_Y + y),
            MARGIN_Y..LAST => (&nine[3..6], y - MARGIN_Y),
            _ => (&nine[6..], y - LAST),
        };
        let row = &mut field[y * WIDE..(y + 1) * WIDE];
        three[0].row(TILE - MARGIN_X, from, &mut row[..MARGIN_X]);
        three[1].row(0, from, &mut row[MARGIN_X..MARGIN_X + TILE]);
        three[2].row(0, from, &mut row[MARGIN_X + TILE..]);
    }
}

/// Nodes of a coarse grid over a tile, with two more on every side.
#[derive(Debug, Clone)]
pub struct Grid {
    /// Cells of a node, nodes of the tile along a side.
    cells: usize,
    pub side: usize,
    pub nodes: Vec<f32>,
    /// How far four cells from a node's first on lie between two nodes, in the cells' middles and half a cell aside: the same at every node.
    shares: [Lanes; 2],
}

/// Nodes around.
pub const AROUND: usize = 2;

impl Grid {
    pub fn fours() -> Self {
        Self::new(4, FOURS)
    }

    pub fn twos() -> Self {
        Self::new(2, TWOS)
    }

    fn new(cells: usize, side: usize) -> Self {
        let wide = side + 2 * AROUND;
        let shares = [0.0, 0.5].map(|half| {
            let place = |c: usize| (c as f32 - half + 0.5) / cells as f32 - 0.5;
            let share = |c: usize| place(c) - if place(c) < 0.0 { -1.0 } else { 0.0 };
            Lanes::from([share(0), share(1), share(2), share(3) % 1.0])
        });
        Self { cells, side, nodes: vec![0.0; wide * wide], shares }
    }

    pub fn wide(&self) -> usize {
        self.side + 2 * AROUND
    }

    /// Values at a `span` of fours of cells of a row of a field, linear between nodes. `aside`, `above`: half a cell to the left of the cells'
    /// middles, half a cell above them.
    pub fn row_in_place(
        &self,
        y: usize,
        aside: bool,
        above: bool,
        span: Range<usize>,
        out: &mut [f32; WIDE],
    ) {
        let (cells, wide) = (self.cells, self.wide());
        let half = |is: bool| if is { 0.5 } else { 0.0 };
        // Places in nodes: a node lies in the middle of its cells.
        let v = (y as f32 - MARGIN_Y as f32 - half(above) + 0.5) / cells as f32 - 0.5 + AROUND as f32;
        let upper = (v as usize).min(wide - 2);
        let t = v - upper as f32;
        let both = &self.nodes[upper * wide..(upper + 2) * wide];
        // Nothing drifts, all is wet, or the air is the same all over: what lies between equal nodes is as they are.
        if both.iter().all(|node| *node == both[0]) {
            return out.fill(both[0]);
        }
        let (a, b) = both.split_at(wide);
        let right = self.shares[usize::from(aside)];
        let left = all(1.0) - right;
        let (upper_left, lower_right) = (left * all(1.0 - t), right * all(t));
        let (upper_right, lower_left) = (right * all(1.0 - t), left * all(t));
        let weights = [upper_left, lower_right, upper_right, lower_left];
        let out = out.as_chunks_mut::<LANES>().0;
        if cells == LANES {
            // The field begins a node before the tile's first.
            for k in span {
                let (a, b) = (&a[AROUND - 2 + k..][..3], &b[AROUND - 2 + k..][..3]);
                let l = |r: &[f32]| Lanes::from([r[0], r[0], r[1], r[1]]);
                let r = |r: &[f32]| Lanes::from([r[1], r[1], r[2], r[2]]);
                out[k] = between(weights, [l(a), r(b), r(a), l(b)]);
            }
            return;
        }
        // Two nodes before it; the cells of the margin are not asked for.
        for k in shared(&span, &OWN) {
            let (a, b) = (&a[2 * k - 1..][..4], &b[2 * k - 1..][..4]);
            let l = |r: &[f32]| Lanes::from([r[0], r[1], r[1], r[2]]);
            let r = |r: &[f32]| Lanes::from([r[1], r[2], r[2], r[3]]);
            out[k] = between(weights, [l(a), r(b), r(a), l(b)]);
        }
    }
}

/// What lies across from each other is summed first: the same whichever way the sheet is turned.
#[inline(always)]
fn between(w: [Lanes; 4], corners: [Lanes; 4]) -> [f32; LANES] {
    ((w[0] * corners[0] + w[1] * corners[1]) + (w[2] * corners[2] + w[3] * corners[3])).to_array()
}

/// Fills a grid from the nodes of a tile and of its eight neighbours; nothing where one is not wet.
pub fn gather_nodes_in_place(nine: [Option<&[f32]>; 9], grid: &mut Grid) {
    let (side, wide) = (grid.side, grid.wide());
    let spans = [(0, side - AROUND, AROUND), (AROUND, 0, side), (AROUND + side, 0, AROUND)];
    for (i, nodes) in nine.into_iter().enumerate() {
        let ((to_x, from_x, across), (to_y, from_y, down)) = (spans[i % 3], spans[i / 3]);
        for k in 0..down {
            let to = &mut grid.nodes[(to_y + k) * wide + to_x..][..across];
            match nodes {
                Some(nodes) => to.copy_from_slice(&nodes[(from_y + k) * side + from_x..][..across]),
                None => to.fill(0.0),
            }
        }
    }
}
