//! The flat view: the colour of every pixel, without light or relief.

use crate::paint::colour::Display;
use crate::paint::{BANDS, Spectrum, film};
use crate::sheet::{DRY_VALUES, HELD, KX, LOOSE, Rect, SX, Sheet, TILE};

/// Unevenness of a dry film within a pixel, for [`film::thin_for_unevenness_in_place`] (dry study, set on one strip).
const UNEVEN: f32 = 0.15;

/// Reflectance of bare paper per band: a warm white (made for the demo; not a measured paper).
pub const PAPER: Spectrum = [0.840, 0.862, 0.876, 0.884, 0.890, 0.893, 0.895, 0.896];

/// Reflectance of a dry pixel over the paper.
#[inline(always)]
pub fn reflectance(pixel: &[f32]) -> Spectrum {
    let (mut kx, mut sx) = ([0.0; BANDS], [0.0; BANDS]);
    kx.copy_from_slice(&pixel[KX..KX + BANDS]);
    sx.copy_from_slice(&pixel[SX..SX + BANDS]);
    film::thin_for_unevenness_in_place(&mut kx, &mut sx, UNEVEN);
    film::over(&kx, &sx, &PAPER)
}

/// Writes `rect` of the sheet as RGBA, 4 bytes a pixel, row by row, into `out` (`4 × width × height` bytes). Bare paper
/// is drawn in its own colour.
pub fn rgba_in_place(sheet: &Sheet, rect: Rect, out: &mut [u8]) {
    let display = Display::shared();
    let bare = display.srgb8(&PAPER);
    let width = rect.right - rect.left;
    for y in rect.top..rect.bottom {
        let row = &mut out[(y - rect.top) * width * 4..(y - rect.top + 1) * width * 4];
        let mut x = rect.left;
        while x < rect.right {
            let end = ((x / TILE + 1) * TILE).min(rect.right);
            let block = sheet.tile(x / TILE, y / TILE).and_then(|t| t.dry.as_ref());
            for px in x..end {
                let mut colour = bare;
                if let Some(block) = block {
                    let at = ((y % TILE) * TILE + px % TILE) * DRY_VALUES;
                    let pixel = &block[at..at + DRY_VALUES];
                    if pixel[HELD] + pixel[LOOSE] > 0.0 {
                        colour = display.srgb8(&reflectance(pixel));
                    }
                }
                let o = (px - rect.left) * 4;
                row[o..o + 3].copy_from_slice(&colour);
                row[o + 3] = 255;
            }
            x = end;
        }
    }
}

/// The whole sheet as RGBA.
pub fn rgba(sheet: &Sheet) -> Vec<u8> {
    let mut out = vec![0; sheet.width() * sheet.height() * 4];
    let rect = Rect { left: 0, top: 0, right: sheet.width(), bottom: sheet.height() };
    rgba_in_place(sheet, rect, &mut out);
    out
}
