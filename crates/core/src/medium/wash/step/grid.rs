//! Coarse grids over a tile, with nodes of those around, and what lies between their nodes.

use std::array;

use bytemuck::cast;

use super::MARGIN_Y;
use super::coarse::at;
use crate::lanes::{LANES, all};
use crate::packs::{Machine, PACK};
use crate::sheet::TILE;

/// Nodes of a coarse grid over a tile, of so many `CELLS` a side, with two more on every side. Their values hold in their middles, or in those of
/// their left edges (`LEFT`) or of their upper ones; they are asked for at the middles of cells, or of the same edges of cells.
#[derive(Debug, Clone)]
pub struct Grid<const CELLS: usize, const LEFT: bool> {
    /// Row by row; with room behind the last, for reads of a pack at once.
    pub nodes: Box<[f32]>,
    upper: bool,
    /// How far the cells of a pack from a node's first on lie between two nodes: the same at every node.
    shares: [f32; PACK],
}

/// Grids of four and of two cells, and one of four whose values hold at left edges.
pub type Fours = Grid<4, false>;
pub type LeftEdges = Grid<4, true>;
pub type Twos = Grid<2, false>;

/// Nodes around: those of four cells that lie under the margin of a tile, and one more.
pub const AROUND: usize = 1 + PACK / 4;

impl Fours {
    pub fn upper_edges() -> Self {
        Self { upper: true, ..Self::default() }
    }
}

impl<const CELLS: usize, const LEFT: bool> Default for Grid<CELLS, LEFT> {
    fn default() -> Self {
        let share = |c: usize| {
            let c = c % CELLS;
            if LEFT {
                return c as f32 / CELLS as f32;
            }
            let place = (c as f32 + 0.5) / CELLS as f32 - 0.5;
            (place - if place < 0.0 { -1.0 } else { 0.0 }) % 1.0
        };
        let nodes = vec![0.0; Self::WIDE * Self::WIDE + PACK].into_boxed_slice();
        Self { nodes, upper: false, shares: array::from_fn(share) }
    }
}

impl<const CELLS: usize, const LEFT: bool> Grid<CELLS, LEFT> {
    const SIDE: usize = TILE / CELLS;
    /// Nodes along a side with those around.
    pub const WIDE: usize = Self::SIDE + 2 * AROUND;

    /// A row of cells of a field between the nodes above and below it.
    #[inline(always)]
    pub fn row<M: Machine>(&self, m: M, y: usize) -> Between<'_, M, CELLS, LEFT> {
        // Places in nodes.
        let place = |cell: f32| (cell - MARGIN_Y as f32) / CELLS as f32 + AROUND as f32;
        let v = if self.upper { place(y as f32) } else { place(y as f32 + 0.5) - 0.5 };
        let upper = (v as usize).min(Self::WIDE - 2);
        let t = v - upper as f32;
        let right = m.of(self.shares);
        let left = m.all(1.0) - right;
        let (s, t) = (m.all(1.0 - t), m.all(t));
        let rows = [upper, upper + 1].map(|row| &self.nodes[row * Self::WIDE..][..Self::WIDE + PACK]);
        Between { m, rows, across: [left * s, right * t], against: [right * s, left * t] }
    }
}

/// Nodes that are read for a pack of cells.
const NEAR: usize = PACK + 2;

/// A row of cells between two rows of nodes.
#[derive(Clone, Copy)]
pub struct Between<'a, M: Machine, const CELLS: usize, const LEFT: bool> {
    m: M,
    rows: [&'a [f32]; 2],
    /// Weights of the upper left and the lower right node, of the upper right and the lower left.
    across: [M::Pack; 2],
    against: [M::Pack; 2],
}

impl<M: Machine, const CELLS: usize, const LEFT: bool> Between<'_, M, CELLS, LEFT> {
    /// Whether the row lies between nodes of which one is above nought.
    #[inline(always)]
    pub fn is_any(&self) -> bool {
        self.rows.iter().any(|row| row[..Grid::<CELLS, LEFT>::WIDE].iter().any(|node| *node > 0.0))
    }

    /// Values at a pack of cells of the row, linear between nodes. On a grid of two cells those of the margin are not asked for.
    #[inline(always)]
    pub fn pack(&self, k: usize) -> M::Pack {
        // The node in which the pack begins, and the one before it: the field begins a pack before the tile.
        let from = AROUND + k * (PACK / CELLS) - PACK / CELLS - 1;
        let [upper, lower] = self.rows.map(|row| {
            let near: &[f32; NEAR] = row[from..].first_chunk().expect("nodes around");
            // Of every four cells of the pack the nodes to their left and to their right.
            let fours = |right: usize| {
                self.m.of(cast(array::from_fn::<_, { PACK / LANES }, _>(|four| {
                    let first = four * (LANES / CELLS) + right;
                    if LEFT {
                        return all(near[first + 1]);
                    }
                    let from_node = |n: usize| at(near, n);
                    // Two cells lie between the same nodes, or each between the next.
                    let next = usize::from(CELLS != LANES);
                    from_node(first).unpack_lo(from_node(first + next))
                })))
            };
            [fours(0), fours(1)]
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

#[cfg(test)]
mod tests {
    use super::super::{MARGIN_X, OWN};
    use super::*;
    use crate::packs::{Pack, Portable};

    /// What rises evenly over the nodes does so between them, wherever their values hold and whatever their number: as far from it as rounding goes.
    fn rises_evenly<const CELLS: usize, const LEFT: bool>(mut grid: Grid<CELLS, LEFT>) {
        let rises = |x: f32, y: f32| 3.0 + 0.25 * x - 0.5 * y;
        // From the tile's corner, in cells: where nodes and cells hold their values.
        let (in_node, in_cell) = (0.5 * CELLS as f32, 0.5);
        let across = |middle: f32| if LEFT { 0.0 } else { middle };
        let down = |middle: f32| if grid.upper { 0.0 } else { middle };
        let wide = Grid::<CELLS, LEFT>::WIDE;
        let first = -((AROUND * CELLS) as f32);
        let node = |n: usize| first + (n * CELLS) as f32;
        grid.nodes = (0..wide * wide + PACK)
            .map(|i| rises(node(i % wide) + across(in_node), node(i / wide) + down(in_node)))
            .collect();
        for (y, k) in (0..TILE).flat_map(|y| OWN.map(move |k| (y, k))) {
            for (lane, got) in
                Pack::to_array(grid.row(Portable, y + MARGIN_Y).pack(k)).into_iter().enumerate()
            {
                let x = k * PACK + lane - MARGIN_X;
                let want = rises(x as f32 + across(in_cell), y as f32 + down(in_cell));
                assert!((got - want).abs() < 1e-4, "{CELLS} cells, at {x} {y}: {got}, want {want}");
            }
        }
    }

    #[test]
    fn between_nodes_it_rises_as_evenly_as_over_them() {
        rises_evenly(Fours::default());
        rises_evenly(Fours::upper_edges());
        rises_evenly(LeftEdges::default());
        rises_evenly(Twos::default());
    }
}
