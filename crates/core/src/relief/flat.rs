//! The flat view: the colour of every pixel, without light or relief.

use crate::medium::eye::luminance;
use crate::medium::{Eye, Look};
use crate::sheet::{Rect, Sheet, TILE};

/// Gives the looks of a rectangle's pixels row by row, in runs within tiles; nothing for a run of bare ground.
fn runs(sheet: &Sheet, eye: &Eye<'_>, rect: Rect, mut see: impl FnMut([usize; 2], usize, Option<&[Look]>)) {
    let mut looks = [eye.ground(); TILE];
    for y in rect.top..rect.bottom {
        let mut x = rect.left;
        while x < rect.right {
            let end = ((x / TILE + 1) * TILE).min(rect.right);
            let run = sheet.tile(x / TILE, y / TILE).map(|tile| {
                let looks = &mut looks[..end - x];
                eye.look_in_place(tile, (y % TILE) * TILE + x % TILE, looks);
                &*looks
            });
            see([x, y], end - x, run);
            x = end;
        }
    }
}

/// Writes `rect` of the sheet as RGBA, 4 bytes a pixel, row by row, into `out` (`4 × width × height` bytes). Bare ground
/// is drawn in its own colour.
pub fn rgba_in_place(sheet: &Sheet, rect: Rect, out: &mut [u8]) {
    let eye = Eye::on(sheet);
    let width = rect.right - rect.left;
    runs(sheet, &eye, rect, |[x, y], count, looks| {
        let from = ((y - rect.top) * width + x - rect.left) * 4;
        for (i, pixel) in out[from..from + 4 * count].chunks_exact_mut(4).enumerate() {
            let colour = looks.map_or(eye.bare(), |looks| eye.colour(&looks[i]));
            pixel[..3].copy_from_slice(&colour);
            pixel[3] = 255;
        }
    });
}

/// Share of the bare ground's light (Y) that what lies there takes away, in 1/65535, pixel by pixel.
pub fn taken_light(sheet: &Sheet, rect: Rect) -> Vec<u16> {
    let eye = Eye::on(sheet);
    let whole = luminance(sheet.ground().bare());
    let mut out = Vec::with_capacity((rect.right - rect.left) * (rect.bottom - rect.top));
    runs(sheet, &eye, rect, |_, count, looks| {
        for i in 0..count {
            let left = looks.map_or(1.0, |looks| eye.light(&looks[i]) / whole);
            out.push(((1.0 - left).clamp(0.0, 1.0) * 65_535.0).round() as u16);
        }
    });
    out
}

/// The whole sheet as RGBA.
pub fn rgba(sheet: &Sheet) -> Vec<u8> {
    let mut out = vec![0; sheet.width() * sheet.height() * 4];
    rgba_in_place(sheet, sheet.rect(), &mut out);
    out
}
