//! Gathers a tile with the cells around it. A neighbour that was already worked in this step is read from what was kept of its border.

use std::ops::Range;

use super::spans::shared;
use super::{ACROSS, MARGIN_X, MARGIN_Y, OWN, WIDE, fours_in_place};
use crate::lanes::{LANES, Lanes, all};
use crate::medium::wash::blocks::{FOURS, TWOS};
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
pub fn gather_in_place(nine: [Around<'_>; 9], rows: Range<usize>, field: &mut [f32]) {
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

/// Where a grid's values hold, and at which places of the cells they are asked for.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Stands {
    /// In the middles of the nodes; at the middles of cells.
    Middles,
    /// In the middles of the nodes' left or upper edges; at the same edges of cells.
    LeftEdges,
    UpperEdges,
}

/// Nodes of a coarse grid over a tile, with two more on every side.
#[derive(Debug, Clone)]
pub struct Grid {
    /// Cells of a node, nodes of the tile along a side.
    cells: usize,
    pub side: usize,
    pub nodes: Vec<f32>,
    stands: Stands,
    /// How far four cells from a node's first on lie between two nodes: the same at every node.
    shares: Lanes,
    /// Rows of nodes as cells look at them; which of them are known since the grid was filled, as bits.
    beside: Vec<Beside>,
    known: u64,
}

/// The nodes to the left and to the right of every four cells of a row. The same all along: nothing drifts, all is wet, or the air is even.
#[derive(Debug, Clone)]
struct Beside {
    left: [[f32; LANES]; ACROSS],
    right: [[f32; LANES]; ACROSS],
    even: bool,
}

/// Nodes around.
pub const AROUND: usize = 2;

impl Grid {
    pub fn fours() -> Self {
        Self::new(4, FOURS, Stands::Middles)
    }

    pub fn left_edges() -> Self {
        Self::new(4, FOURS, Stands::LeftEdges)
    }

    pub fn upper_edges() -> Self {
        Self::new(4, FOURS, Stands::UpperEdges)
    }

    pub fn twos() -> Self {
        Self::new(2, TWOS, Stands::Middles)
    }

    fn new(cells: usize, side: usize, stands: Stands) -> Self {
        let wide = side + 2 * AROUND;
        let share = |c: usize| {
            if stands == Stands::LeftEdges {
                return c as f32 / cells as f32;
            }
            let place = (c as f32 + 0.5) / cells as f32 - 0.5;
            (place - if place < 0.0 { -1.0 } else { 0.0 }) % 1.0
        };
        let shares = Lanes::from([share(0), share(1), share(2), share(3)]);
        let beside = Beside { left: [[0.0; LANES]; ACROSS], right: [[0.0; LANES]; ACROSS], even: false };
        Self {
            cells,
            side,
            nodes: vec![0.0; wide * wide],
            stands,
            shares,
            beside: vec![beside; wide],
            known: 0,
        }
    }

    pub fn wide(&self) -> usize {
        self.side + 2 * AROUND
    }

    /// Values at a `span` of fours of cells of a row of a field, linear between nodes.
    pub fn row_in_place(&mut self, y: usize, span: Range<usize>, out: &mut [f32; WIDE]) {
        let (cells, wide) = (self.cells, self.wide());
        // Places in nodes.
        let place = |cell: f32| (cell - MARGIN_Y as f32) / cells as f32 + AROUND as f32;
        let v = match self.stands {
            Stands::UpperEdges => place(y as f32),
            _ => place(y as f32 + 0.5) - 0.5,
        };
        let upper = (v as usize).min(wide - 2);
        let t = v - upper as f32;
        let out = fours_in_place(out, 0);
        let span = shared(&span, &(0..ACROSS));
        for row in [upper, upper + 1].into_iter().filter(|row| self.known >> row & 1 == 0) {
            let nodes = &self.nodes[row * wide..][..wide];
            spread_in_place(self.cells, self.stands, nodes, &mut self.beside[row]);
        }
        self.known |= 3 << upper;
        let (a, b) = (&self.beside[upper], &self.beside[upper + 1]);
        // What lies between equal nodes is as they are.
        let [first, second] = [0, 1].map(|row| self.nodes[(upper + row) * wide]);
        if a.even && b.even && first == second {
            return span.for_each(|k| out[k] = [first; LANES]);
        }
        let right = self.shares;
        let left = all(1.0) - right;
        let (upper_left, lower_right) = (left * all(1.0 - t), right * all(t));
        let (upper_right, lower_left) = (right * all(1.0 - t), left * all(t));
        let weights = [upper_left, lower_right, upper_right, lower_left];
        for k in span {
            let corners = [a.left[k], b.right[k], a.right[k], b.left[k]];
            out[k] = between(weights, corners.map(Lanes::from));
        }
    }
}

/// Spreads a row of nodes of so many cells.
fn spread_in_place(cells: usize, stands: Stands, nodes: &[f32], out: &mut Beside) {
    out.even = nodes.iter().all(|node| *node == nodes[0]);
    if stands == Stands::LeftEdges {
        for k in 0..ACROSS {
            let near: &[f32; 3] = nodes[AROUND - 2 + k..].first_chunk().expect("nodes around");
            (out.left[k], out.right[k]) = ([near[1]; LANES], [near[2]; LANES]);
        }
        return;
    }
    if cells == LANES {
        // The field begins a node before the tile's first.
        for k in 0..ACROSS {
            let near: &[f32; 3] = nodes[AROUND - 2 + k..].first_chunk().expect("nodes around");
            out.left[k] = [near[0], near[0], near[1], near[1]];
            out.right[k] = [near[1], near[1], near[2], near[2]];
        }
        return;
    }
    // Two nodes before it; the cells of the margin are not asked for.
    for k in OWN {
        let near: &[f32; 4] = nodes[2 * k - 1..].first_chunk().expect("nodes around");
        out.left[k] = [near[0], near[1], near[1], near[2]];
        out.right[k] = [near[1], near[2], near[2], near[3]];
    }
}

/// What lies across from each other is summed first: the same whichever way the sheet is turned.
#[inline(always)]
fn between(w: [Lanes; 4], corners: [Lanes; 4]) -> [f32; LANES] {
    ((w[0] * corners[0] + w[1] * corners[1]) + (w[2] * corners[2] + w[3] * corners[3])).to_array()
}

/// Fills a grid from the nodes of a tile and of its eight neighbours; nothing where one is not wet.
pub fn gather_nodes_in_place(nine: [Option<&[f32]>; 9], grid: &mut Grid) {
    grid.known = 0;
    // Rows of a known length are copied without a call.
    if grid.side == FOURS { nodes_in_place::<FOURS>(nine, grid) } else { nodes_in_place::<TWOS>(nine, grid) }
}

fn nodes_in_place<const SIDE: usize>(nine: [Option<&[f32]>; 9], grid: &mut Grid) {
    let wide = SIDE + 2 * AROUND;
    let parts = [(0, SIDE - AROUND, AROUND), (AROUND, 0, SIDE), (AROUND + SIDE, 0, AROUND)];
    for (three, (to, from, rows)) in nine.chunks_exact(3).zip(parts) {
        for k in 0..rows {
            let row = &mut grid.nodes[(to + k) * wide..][..wide];
            let of = |tile: Option<&[f32]>| -> [f32; SIDE] {
                tile.map_or([0.0; SIDE], |nodes| {
                    *nodes[(from + k) * SIDE..].first_chunk().expect("a row of nodes")
                })
            };
            let (before, rest) = row.split_first_chunk_mut::<AROUND>().expect("nodes around");
            let (own, behind) = rest.split_first_chunk_mut::<SIDE>().expect("the tile's nodes");
            before.copy_from_slice(&of(three[0])[SIDE - AROUND..]);
            *own = of(three[1]);
            behind.copy_from_slice(&of(three[2])[..AROUND]);
        }
    }
}
