//! Everything wet dries at once, where it is: water is gone, and what swam in it lies. Or it is sprayed: clear water comes on all that was ever
//! wet, and loosens what lies there as it goes on.

use super::awake::IS_WET;
use super::blocks::{
    BOUND, Blocks, COVER, DEEPEST, FILL, FILM, HAS_FILM, HUMID, IN, LOOSE, ON, PASSED_X, PASSED_Y, PUSH,
    SWIMS, SWIMS_SIDES, Sides, U, V, WATER, WET, WET_SIDES, plane, plane_in_place,
};
use super::pigments::TABLE;
use super::resist::{self, CLOSED, MASK};
use crate::sheet::{TILE_PIXELS, Tile};

/// Dries a tile.
pub fn dry_in_place(tile: &mut Tile) {
    if tile.block(&WATER).is_none() {
        return;
    }
    let Blocks { water, resist, paints } = Blocks::of_in_place(tile, true);
    if let Some(resist) = resist {
        resist::dry_in_place(resist);
    }
    [ON, IN, FILL, U, V, PASSED_X, PASSED_Y, PUSH]
        .into_iter()
        .for_each(|which| plane_in_place(water, which).fill(0.0));
    water[HUMID..].fill(0.0);
    for (number, block) in paints {
        let stains = TABLE[number].stains;
        for i in 0..TILE_PIXELS {
            let swims = std::mem::take(&mut block[SWIMS * TILE_PIXELS + i]);
            block[LOOSE * TILE_PIXELS + i] += swims * (1.0 - stains);
            block[BOUND * TILE_PIXELS + i] += swims * stains;
        }
        block[SWIMS_SIDES] = 0.0;
    }
}

/// A spray leaves so much water, µm.
const SPRAY_UM: f32 = 50.0;

/// Sprays what was ever wet of a tile.
pub fn spray_in_place(tile: &mut Tile) {
    if tile.block(&WATER).is_none() {
        return;
    }
    let Blocks { water, resist, .. } = Blocks::of_in_place(tile, false);
    for i in 0..TILE_PIXELS {
        let cover = water[COVER * TILE_PIXELS + i];
        let closed = resist.as_deref().is_some_and(|r| plane(r, MASK)[i] > CLOSED);
        if cover > 0.0 && !closed {
            water[ON * TILE_PIXELS + i] = water[ON * TILE_PIXELS + i].max(SPRAY_UM * cover);
            water[FILL * TILE_PIXELS + i] = water[FILL * TILE_PIXELS + i].max(cover);
        }
    }
    (water[WET], water[WET_SIDES], water[FILM]) = (IS_WET, Sides::ALL.keep(), HAS_FILM);
    water[DEEPEST] = f32::INFINITY;
}
