//! Powder under water: it soaks, and what lay loose settles between the fibres, as under a little fixative (common practice, no source).

use super::lay::Cell;
use crate::medium::dry::blocks::{HELD, LOOSE, POWDER, POWDER_VALUES};
use crate::sheet::Tile;

/// Share of loose powder that one wet touch sets (tuned by eye).
const SETS: f32 = 0.12;

/// Soaks the powder under a wet touch, where there is any: none is lost.
pub fn soak_in_place(tile: &mut Tile, cells: &[Cell]) {
    if tile.block(&POWDER).is_none() {
        return;
    }
    let powder = tile.block_in_place(&POWDER);
    for cell in cells {
        let pixel = &mut powder[cell.index * POWDER_VALUES..][..POWDER_VALUES];
        let set = SETS * cell.share.min(1.0) * pixel[LOOSE];
        pixel[LOOSE] -= set;
        pixel[HELD] += set;
    }
}
