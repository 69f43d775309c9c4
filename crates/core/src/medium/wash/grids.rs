//! The coarse grids of all tiles at work: where paint drifts, how round the wet is, how humid the air over it.

use std::rc::Rc;

use super::awake::Near;
use super::blocks::{
    Blocks, DRIFT_X, FILL, FOURS, HUMID, ON, ROUND, SUM_FILL, SUM_PAINT, SUM_WATER, SWIMS, TWOS, plane,
};
use super::paper::PaperTile;
use super::pigments::TABLE;
use super::resist;
use super::step::{self, Grid, Pace};
use crate::sheet::TILE_PIXELS;

const NODES: usize = FOURS * FOURS;
/// The drift lies after the roundness: both are written at once.
const _: () = assert!(ROUND + NODES == DRIFT_X);

/// Roundness and drift of every tile at work.
pub fn grids_in_place(blocks: &mut [Blocks<'_>], near: &Near, papers: &[Rc<PaperTile>], pace: &Pace) {
    let mut strength = vec![0.0_f32; TILE_PIXELS];
    for b in blocks.iter_mut() {
        strength.fill(0.0);
        for (number, block) in &b.paints {
            let spreads = TABLE[*number].spreads;
            strength.iter_mut().zip(plane(block, SWIMS)).for_each(|(s, q)| *s += spreads * q);
        }
        // Salt and spirit drive paint off as a strong one would that spreads.
        if let Some(resist) = &b.resist {
            let water = plane(b.water, ON);
            for (i, s) in strength.iter_mut().enumerate() {
                *s += resist::strength(resist, i) * water[i];
            }
        }
        // What swims where there is no film pulls nothing.
        strength.iter_mut().zip(plane(b.water, ON)).for_each(|(s, on)| *s = if *on > 0.0 { *s } else { 0.0 });
        let [paint, water, fill] = step::sums(&strength, plane(b.water, ON), plane(b.water, FILL));
        b.water[SUM_PAINT..SUM_PAINT + NODES].copy_from_slice(&paint);
        b.water[SUM_WATER..SUM_WATER + NODES].copy_from_slice(&water);
        b.water[SUM_FILL..SUM_FILL + NODES].copy_from_slice(&fill);
    }
    let mut grids = [Grid::fours(), Grid::fours(), Grid::fours()];
    for i in 0..blocks.len() {
        for (grid, from) in grids.iter_mut().zip([SUM_PAINT, SUM_WATER, SUM_FILL]) {
            let nodes = near.nine(i).map(|n| n.map(|n| &blocks[n].water[from..from + NODES]));
            step::gather_nodes_in_place(nodes, grid);
        }
        let [paint, water, fill] = &grids;
        let (round, rest) = blocks[i].water[ROUND..ROUND + 3 * NODES].split_at_mut(NODES);
        let (x, y) = rest.split_at_mut(NODES);
        step::grids_in_place([paint, water, fill], &papers[i].drifts, pace, [round, x, y]);
    }
}

/// A turn of the air's humidity over every tile at work.
pub fn humidity_in_place(blocks: &mut [Blocks<'_>], near: &Near, pace: &Pace) {
    const COUNT: usize = TWOS * TWOS;
    let mut grid = Grid::twos();
    let after: Vec<Vec<f32>> = (0..blocks.len())
        .map(|i| {
            let nodes = near.nine(i).map(|n| n.map(|n| &blocks[n].water[HUMID..HUMID + COUNT]));
            step::gather_nodes_in_place(nodes, &mut grid);
            step::humidity(&grid, plane(blocks[i].water, FILL), pace)
        })
        .collect();
    for (b, after) in blocks.iter_mut().zip(after) {
        b.water[HUMID..HUMID + COUNT].copy_from_slice(&after);
    }
}
