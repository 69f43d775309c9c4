//! Everything wet dries at once, where it is: water is gone, and what swam in it lies.

use super::blocks::{
    BOUND, FILL, HUMID, IN, LOOSE, ON, PASSED_X, PASSED_Y, PIGMENTS, PUSH, SWIMS, SWIMS_SIDES, U, V, WATER,
    WET_SIDES, plane_in_place,
};
use super::pigments::TABLE;
use crate::sheet::{TILE_PIXELS, Tile};

/// Dries a tile.
pub fn dry_in_place(tile: &mut Tile) {
    if tile.block(&WATER).is_none() {
        return;
    }
    let first = PIGMENTS[0].order;
    let is = |order: u8| order >= first && usize::from(order - first) < PIGMENTS.len();
    for (layout, block) in tile.some_in_place(|l| l.is(&WATER) || is(l.order)) {
        if layout.is(&WATER) {
            [ON, IN, FILL, U, V, PASSED_X, PASSED_Y, PUSH]
                .into_iter()
                .for_each(|which| plane_in_place(block, which).fill(0.0));
            block[HUMID..=WET_SIDES].fill(0.0);
            continue;
        }
        let stains = TABLE[usize::from(layout.order - first)].stains;
        for i in 0..TILE_PIXELS {
            let swims = std::mem::take(&mut block[SWIMS * TILE_PIXELS + i]);
            block[LOOSE * TILE_PIXELS + i] += swims * (1.0 - stains);
            block[BOUND * TILE_PIXELS + i] += swims * stains;
        }
        block[SWIMS_SIDES] = 0.0;
    }
}
