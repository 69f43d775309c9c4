//! What keeps water off or drives it away: masking fluid, salt and spirit.
//!
//! Masking fluid closes a cell until it is rubbed off, and keeps sticks and what rubs powder from the paper too.
//! Spirit lowers the tension of the surface it falls on, so that water and what swims in it
//! flee from it (Marangoni's effect, after its description in textbooks; the numbers are tuned by eye), and is soon gone; around salt they
//! do so for as long as it is wet, and it drinks.

use super::blocks::{ON, WATER, any, plane};
use super::lay::Cell;
use crate::sheet::{Layout, TILE_PIXELS, Tile};

/// Share of a cell under masking fluid; salt and spirit in it, 0..1.
pub static RESIST: Layout = Layout {
    name: "resist",
    order: 101,
    values: PLANES,
    planes: true,
    beside: 0,
    material: 0..PLANES,
    tells: false,
    fresh: &[],
    dried: &[],
    dries_at: None,
    clock: None,
};

const PLANES: usize = 3;
pub const MASK: usize = 0;
pub const SALT: usize = 1;
pub const SPIRIT: usize = 2;

/// From this share on masking fluid closes a cell.
pub const CLOSED: f32 = 0.5;
/// What salt and spirit push in the head, µm, and how they count as paint that spreads (strength).
const PUSH_UM: f32 = 10.0;
const SPREADS: [f32; 2] = [0.6, 0.2];
/// They are dissolved or gone after about so long in water, s.
const LASTS_S: [f32; 2] = [150.0, 20.0];
/// What a grain of salt drinks, µm/s.
const SALT_DRINKS: f32 = 1.2;

/// Lays masking fluid, salt or spirit on cells: never less than is there. Fluid does not hold on what is wet.
pub fn lay_in_place(tile: &mut Tile, cells: &[Cell], which: usize, dose: f32) {
    let wet: Vec<bool> = {
        let water = tile.block(&WATER);
        cells.iter().map(|c| water.is_some_and(|w| plane(w, ON)[c.index] > 0.0)).collect()
    };
    let block = tile.block_in_place(&RESIST);
    for (cell, wet) in cells.iter().zip(wet) {
        if which == MASK && wet {
            continue;
        }
        let there = &mut block[which * TILE_PIXELS + cell.index];
        *there = there.max((dose * cell.share).min(1.0));
    }
}

/// Share of each pixel that masking fluid leaves bare; nothing where none lies in the tile.
pub fn bare_of(tile: &Tile) -> Option<Vec<f32>> {
    let mask = plane(tile.block(&RESIST)?, MASK);
    any(mask).then(|| mask.iter().map(|share| 1.0 - share).collect())
}

/// Rubs masking fluid off cells: it comes away whole where it is met at all.
pub fn rub_in_place(tile: &mut Tile, cells: &[Cell]) {
    if tile.block(&RESIST).is_none() {
        return;
    }
    let block = tile.block_in_place(&RESIST);
    cells.iter().for_each(|cell| block[MASK * TILE_PIXELS + cell.index] = 0.0);
}

/// What is dry holds no salt and no spirit; they are brushed off.
pub fn dry_in_place(block: &mut [f32]) {
    block[SALT * TILE_PIXELS..].fill(0.0);
}

/// Whether any salt or spirit lies in a tile.
pub fn drives(block: &[f32]) -> bool {
    any(&block[SALT * TILE_PIXELS..])
}

/// How strongly salt and spirit in a cell push, µm of head.
pub fn push_um(block: &[f32], i: usize) -> f32 {
    PUSH_UM * block[SALT * TILE_PIXELS + i] + PUSH_UM * block[SPIRIT * TILE_PIXELS + i]
}

/// Strength of the paint that would spread as they do.
pub fn strength(block: &[f32], i: usize) -> f32 {
    SPREADS[0] * block[SALT * TILE_PIXELS + i] + SPREADS[1] * block[SPIRIT * TILE_PIXELS + i]
}

/// A wet cell for some time, s: what salt drinks, µm, and both become less.
pub fn pass_in_place(block: &mut [f32], i: usize, seconds: f32) -> f32 {
    let drinks = SALT_DRINKS * seconds * block[SALT * TILE_PIXELS + i];
    for (which, lasts) in [SALT, SPIRIT].into_iter().zip(LASTS_S) {
        let left = &mut block[which * TILE_PIXELS + i];
        *left = (*left * (1.0 - seconds / lasts)).max(0.0);
        if *left < 1e-3 {
            *left = 0.0;
        }
    }
    drinks
}
