//! The flat view: the colour of every pixel, without light or relief.

use crate::ground::Feel;
use crate::lanes::{self, LANES};
use crate::paint::colour::Display;
use crate::paint::{BANDS, Spectrum, film};
use crate::sheet::{COVER, DRY_VALUES, HELD, KX, LOOSE, Rect, SX, Sheet, TILE};

/// Unevenness of a dry film whose grain lies wholly within a pixel, for [`film::thin_for_unevenness`] (after the dry
/// study; set so that a sheet of half or double the resolution has the same tone, tested).
const UNEVEN: f32 = 0.75;
/// Shares of a pixel under this count as this: nobody sees a speck so small.
const LEAST_COVER: f32 = 0.01;

/// Reflectance of bare paper per band: a warm white (made for the demo; not a measured paper).
pub const PAPER: Spectrum = [0.840, 0.862, 0.876, 0.884, 0.890, 0.893, 0.895, 0.896];

/// Reflectance of a dry pixel: a film on the share that powder covers, paper beside it. `uneven`: unevenness of the film.
#[inline(always)]
pub fn reflectance(pixel: &[f32], uneven: f32) -> Spectrum {
    let cover = pixel[COVER].clamp(LEAST_COVER, 1.0);
    let deep = lanes::all(1.0 / cover);
    let mut out = [0.0; BANDS];
    for b in (0..BANDS).step_by(LANES) {
        let totals = |from: usize| lanes::four(&pixel[from + b..]) * deep;
        let (kx, sx) = film::thin_for_unevenness(totals(KX), totals(SX), uneven);
        let paper = lanes::four(&PAPER[b..]);
        let film = film::over_lanes(kx, sx, paper);
        out[b..b + LANES].copy_from_slice(&(paper + lanes::all(cover) * (film - paper)).to_array());
    }
    out
}

/// Writes `rect` of the sheet as RGBA, 4 bytes a pixel, row by row, into `out` (`4 × width × height` bytes). Bare paper
/// is drawn in its own colour.
pub fn rgba_in_place(sheet: &Sheet, rect: Rect, out: &mut [u8]) {
    let display = Display::shared();
    let bare = display.srgb8(&PAPER);
    let uneven = UNEVEN * sheet.grain_within(Feel::default());
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
                        colour = display.srgb8(&reflectance(pixel, uneven));
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
