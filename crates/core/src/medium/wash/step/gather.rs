//! Gathers a tile with the cells around it. A neighbour that was already worked in this step is read from what was kept of its border.

use std::ops::Range;

use super::spans::shared;
use super::{MARGIN_X, MARGIN_Y, WIDE};
use crate::lanes::{LANES, Lanes, all};
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

/// Nodes of a coarse grid over a tile, of so many `CELLS` a side, with two more on every side. Their values hold in their middles, or in those of
/// their left edges (`LEFT`) or of their upper ones; they are asked for at the middles of cells, or of the same edges of cells.
#[derive(Debug, Clone)]
pub struct Grid<const CELLS: usize, const LEFT: bool> {
    /// Row by row; with room behind the last, for reads of four at once.
    pub nodes: Box<[f32]>,
    upper: bool,
    /// How far four cells from a node's first on lie between two nodes: the same at every node.
    shares: Lanes,
}

/// Grids of four and of two cells, and one of four whose values hold at left edges.
pub type Fours = Grid<4, false>;
pub type LeftEdges = Grid<4, true>;
pub type Twos = Grid<2, false>;

/// Nodes around.
pub const AROUND: usize = 2;

impl Fours {
    pub fn upper_edges() -> Self {
        Self { upper: true, ..Self::default() }
    }
}

impl<const CELLS: usize, const LEFT: bool> Default for Grid<CELLS, LEFT> {
    fn default() -> Self {
        let share = |c: usize| {
            if LEFT {
                return c as f32 / CELLS as f32;
            }
            let place = (c as f32 + 0.5) / CELLS as f32 - 0.5;
            (place - if place < 0.0 { -1.0 } else { 0.0 }) % 1.0
        };
        let shares = Lanes::from([share(0), share(1), share(2), share(3)]);
        let nodes = vec![0.0; Self::WIDE * Self::WIDE + LANES].into_boxed_slice();
        Self { nodes, upper: false, shares }
    }
}

impl<const CELLS: usize, const LEFT: bool> Grid<CELLS, LEFT> {
    const SIDE: usize = TILE / CELLS;
    /// Nodes along a side with those around.
    pub const WIDE: usize = Self::SIDE + 2 * AROUND;

    /// A row of cells of a field between the nodes above and below it.
    #[inline(always)]
    pub fn row(&self, y: usize) -> Between<'_, CELLS, LEFT> {
        // Places in nodes.
        let place = |cell: f32| (cell - MARGIN_Y as f32) / CELLS as f32 + AROUND as f32;
        let v = if self.upper { place(y as f32) } else { place(y as f32 + 0.5) - 0.5 };
        let upper = (v as usize).min(Self::WIDE - 2);
        let t = v - upper as f32;
        let right = self.shares;
        let left = all(1.0) - right;
        let rows = [upper, upper + 1].map(|row| &self.nodes[row * Self::WIDE..][..Self::WIDE + LANES]);
        Between {
            rows,
            across: [left * all(1.0 - t), right * all(t)],
            against: [right * all(1.0 - t), left * all(t)],
        }
    }
}

/// A row of cells between two rows of nodes.
#[derive(Debug, Clone, Copy)]
pub struct Between<'a, const CELLS: usize, const LEFT: bool> {
    rows: [&'a [f32]; 2],
    /// Weights of the upper left and the lower right node, of the upper right and the lower left.
    across: [Lanes; 2],
    against: [Lanes; 2],
}

impl<const CELLS: usize, const LEFT: bool> Between<'_, CELLS, LEFT> {
    /// Values at four cells of the row, linear between nodes. On a grid of two cells those of the margin are not asked for.
    #[inline(always)]
    pub fn four(&self, k: usize) -> Lanes {
        // The field begins a node before the tile's first, or two.
        let [upper, lower] = self.rows.map(|row| {
            let from = if CELLS == LANES { k } else { 2 * k - 1 };
            let near: &[f32; LANES] = row[from..].first_chunk().expect("nodes around");
            let sides = match (LEFT, CELLS == LANES) {
                (true, _) => [[near[1]; LANES], [near[2]; LANES]],
                (_, true) => [[near[0], near[0], near[1], near[1]], [near[1], near[1], near[2], near[2]]],
                _ => [[near[0], near[1], near[1], near[2]], [near[1], near[2], near[2], near[3]]],
            };
            sides.map(Lanes::from)
        });
        // What lies across from each other is summed first: the same whichever way the sheet is turned.
        (self.across[0] * upper[0] + self.across[1] * lower[1])
            + (self.against[0] * upper[1] + self.against[1] * lower[0])
    }
}

/// Fills a grid from the nodes of a tile and of its eight neighbours; nothing where one is not wet. `SIDE`: its own along a side.
pub fn gather_nodes_in_place<const SIDE: usize, const CELLS: usize, const LEFT: bool>(
    nine: [Option<&[f32]>; 9],
    grid: &mut Grid<CELLS, LEFT>,
) {
    const { assert!(SIDE * CELLS == TILE) };
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
