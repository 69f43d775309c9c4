//! A sheet under raking light: the ground with everything that lies on it, its heights summed.

use super::raking::{self, Light};
use crate::ground::Feel;
use crate::sheet::{Rect, Sheet, TILE, TILE_PIXELS};

/// How far a pixel's normal looks: one neighbour on each side.
pub const LOOKS: usize = 1;

/// Heights of a rectangle of a sheet from the mean level of its bare ground, µm, row by row: the ground's and those of all media.
pub fn heights(sheet: &Sheet, rect: Rect) -> Vec<f32> {
    let width = rect.right - rect.left;
    let mut out = vec![0.0; width * (rect.bottom - rect.top)];
    let mut um = vec![0.0_f32; TILE_PIXELS];
    for ((tx, ty), [x0, y0, x1, y1]) in rect.tiles() {
        um.copy_from_slice(&sheet.ground_tile(tx, ty, Feel::default()).height);
        if let Some(tile) = sheet.tile(tx, ty) {
            tile.height_in_place(&mut um);
        }
        for y in y0..y1 {
            let to = (ty * TILE + y - rect.top) * width + tx * TILE + x0 - rect.left;
            out[to..to + x1 - x0].copy_from_slice(&um[y * TILE + x0..y * TILE + x1]);
        }
    }
    out
}

/// `rect` of a sheet as matt plaster under a light: RGBA, 4 bytes a pixel, row by row. It is what the whole sheet shows there: the
/// heights around it are read as far as normals look.
pub fn rgba(sheet: &Sheet, rect: Rect, depth: f64, light: Light) -> Vec<u8> {
    let wide = rect.grown(LOOKS, sheet.rect());
    let width = wide.right - wide.left;
    let lit = raking::rgba(&heights(sheet, wide), width, sheet.pixel_mm(), depth, light);
    let row = |y: usize| {
        let from = 4 * ((y - wide.top) * width + rect.left - wide.left);
        &lit[from..from + 4 * (rect.right - rect.left)]
    };
    (rect.top..rect.bottom).flat_map(|y| row(y).iter().copied()).collect()
}
