//! The coarse grids of all tiles at work: where paint drifts, how round the wet is, how humid the air over it.

use std::rc::Rc;

use super::awake::Near;
use super::blocks::{
    Blocks, FILL, FILM, FOURS, HUMID, ON, ROUND, STIRS, SUM_FILL, SUM_PAINT, SUM_WATER, SWIMS, TWOS, plane,
};
use super::paper::PaperTile;
use super::pigments::TABLE;
use super::resist;
use super::step::{self, Fours, Pace, Twos};
use crate::sheet::TILE_PIXELS;

const NODES: usize = FOURS * FOURS;
/// Sums lie one after the other, and after the roundness drift and what stirs: they are written at once.
const _: () = assert!(SUM_FILL == SUM_PAINT + 2 * NODES && STIRS == ROUND + 3 * NODES);

/// Roundness, drift and stirring of every tile at work.
pub fn grids_in_place(blocks: &mut [Blocks<'_>], near: &Near, papers: &[Rc<PaperTile>], pace: &Pace) {
    // Where no water stands there is neither an edge nor a drift.
    let stands: Vec<bool> = blocks.iter().map(|b| b.water[FILM] > 0.0).collect();
    let mut pulling = vec![0.0; TILE_PIXELS];
    for (b, stands) in blocks.iter_mut().zip(&stands) {
        if !stands {
            b.water[SUM_PAINT..SUM_PAINT + 3 * NODES].fill(0.0);
            continue;
        }
        pulling_in_place(b, &mut pulling);
        b.water[SUM_PAINT..SUM_PAINT + NODES].copy_from_slice(&step::sums(&pulling));
        for (which, from) in [(ON, SUM_WATER), (FILL, SUM_FILL)] {
            let sums = step::sums(plane(b.water, which));
            b.water[from..from + NODES].copy_from_slice(&sums);
        }
    }
    let mut grids = [Fours::default(), Fours::default(), Fours::default()];
    for i in 0..blocks.len() {
        let nine = near.nine(i);
        if !nine.iter().flatten().any(|n| stands[*n]) {
            blocks[i].water[ROUND..ROUND + 4 * NODES].fill(0.0);
            continue;
        }
        for (grid, from) in grids.iter_mut().zip([SUM_PAINT, SUM_WATER, SUM_FILL]) {
            let nodes = nine.map(|n| n.map(|n| &blocks[n].water[from..from + NODES]));
            step::gather_nodes_in_place::<FOURS, _, _>(nodes, grid);
        }
        let [paint, water, fill] = &grids;
        let four: &mut [[f32; NODES]; 4] = blocks[i].water[ROUND..ROUND + 4 * NODES]
            .as_chunks_mut()
            .0
            .first_chunk_mut()
            .expect("four grids");
        step::grids_in_place([paint, water, fill], &papers[i].drifts, pace, four);
    }
}

/// What swims in a tile's water, times how readily it spreads.
fn pulling_in_place(b: &Blocks<'_>, strength: &mut [f32]) {
    strength.fill(0.0);
    for (number, block) in &b.paints {
        let spreads = TABLE[*number].spreads;
        strength.iter_mut().zip(plane(block, SWIMS)).for_each(|(s, q)| *s += spreads * q);
    }
    let water = plane(b.water, ON);
    // Salt and spirit drive paint off as a strong one would that spreads.
    if let Some(resist) = &b.resist {
        for (i, s) in strength.iter_mut().enumerate() {
            *s += resist::strength(resist, i) * water[i];
        }
    }
    // What swims where there is no film pulls nothing.
    strength.iter_mut().zip(water).for_each(|(s, on)| *s = if *on > 0.0 { *s } else { 0.0 });
}

/// A turn of the air's humidity over every tile at work.
pub fn humidity_in_place(blocks: &mut [Blocks<'_>], near: &Near, pace: &Pace) {
    const COUNT: usize = TWOS * TWOS;
    let mut grid = Twos::default();
    let after: Vec<[f32; COUNT]> = (0..blocks.len())
        .map(|i| {
            let nodes = near.nine(i).map(|n| n.map(|n| &blocks[n].water[HUMID..HUMID + COUNT]));
            step::gather_nodes_in_place::<TWOS, _, _>(nodes, &mut grid);
            step::humidity(&grid, plane(blocks[i].water, FILL), pace)
        })
        .collect();
    for (b, after) in blocks.iter_mut().zip(after) {
        b.water[HUMID..HUMID + COUNT].copy_from_slice(&after);
    }
}
