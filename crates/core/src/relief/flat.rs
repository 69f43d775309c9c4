//! The flat view: the colour of every pixel, without light or relief.

use crate::ground::Feel;
use crate::lanes::{self, LANES};
use crate::paint::colour::{self, Display};
use crate::paint::sticks;
use crate::paint::{BANDS, Spectrum, film};
use crate::sheet::{
    COVER, DRY_VALUES, HELD, KX, LAYER_VALUES, LOOSE, OWNER, Rect, SX, Sheet, TILE, TOP, TOP_COVER,
};

/// Unevenness of a dry film whose grain lies wholly within a pixel, for [`film::thin_for_unevenness`] (after the dry
/// study; set so that a sheet of half or double the resolution has the same tone, tested).
const UNEVEN: f32 = 0.75;
/// Shares of a pixel under this count as this: nobody sees a speck so small.
const LEAST_COVER: f32 = 0.01;

/// Reflectance of a dry pixel: a film on the share that powder covers, bare ground beside it. `uneven`:
/// unevenness of the film.
#[inline(always)]
pub fn reflectance(pixel: &[f32], bare: &Spectrum, uneven: f32) -> Spectrum {
    let cover = pixel[COVER].clamp(LEAST_COVER, 1.0);
    let deep = lanes::all(1.0 / cover);
    let mut out = [0.0; BANDS];
    for b in (0..BANDS).step_by(LANES) {
        let totals = |from: usize| lanes::four(&pixel[from + b..]) * deep;
        let (kx, sx) = film::thin_for_unevenness(totals(KX), totals(SX), uneven);
        let paper = lanes::four(&bare[b..]);
        let film = film::over_lanes(kx, sx, paper);
        out[b..b + LANES].copy_from_slice(&(paper + lanes::all(cover) * (film - paper)).to_array());
    }
    out
}

/// Reflectance of a dry pixel where one powder lies on others: what is below, and over it a film of what is on top.
#[inline(always)]
fn layered(pixel: &[f32], top: &[f32], bare: &Spectrum, uneven: f32) -> Spectrum {
    let powder = sticks::numbered(top[OWNER] as u16);
    let mut below = [0.0; DRY_VALUES];
    below.copy_from_slice(pixel);
    for b in 0..BANDS {
        below[KX + b] = (below[KX + b] - powder.k_um[b] * top[TOP]).max(0.0);
        below[SX + b] = (below[SX + b] - powder.s_um[b] * top[TOP]).max(0.0);
    }
    let under = reflectance(&below, bare, uneven);
    let mut film = [0.0; DRY_VALUES];
    for b in 0..BANDS {
        film[KX + b] = powder.k_um[b] * top[TOP];
        film[SX + b] = powder.s_um[b] * top[TOP];
    }
    film[COVER] = top[TOP_COVER];
    reflectance(&film, &under, uneven)
}

/// Writes `rect` of the sheet as RGBA, 4 bytes a pixel, row by row, into `out` (`4 × width × height` bytes). Bare ground
/// is drawn in its own colour.
pub fn rgba_in_place(sheet: &Sheet, rect: Rect, out: &mut [u8]) {
    let display = Display::shared();
    let ground = sheet.ground().bare();
    let bare = display.srgb8(ground);
    let uneven = UNEVEN * sheet.grain_within(Feel::default());
    let width = rect.right - rect.left;
    for y in rect.top..rect.bottom {
        let row = &mut out[(y - rect.top) * width * 4..(y - rect.top + 1) * width * 4];
        let mut x = rect.left;
        while x < rect.right {
            let end = ((x / TILE + 1) * TILE).min(rect.right);
            let tile = sheet.tile(x / TILE, y / TILE);
            let block = tile.and_then(|t| t.dry.as_ref());
            let layer = tile.and_then(|t| t.layer.as_ref());
            for px in x..end {
                let mut colour = bare;
                if let Some(block) = block {
                    let at = ((y % TILE) * TILE + px % TILE) * DRY_VALUES;
                    let pixel = &block[at..at + DRY_VALUES];
                    if pixel[HELD] + pixel[LOOSE] > 0.0 {
                        let at = ((y % TILE) * TILE + px % TILE) * LAYER_VALUES;
                        let top = layer.map(|l| &l[at..at + LAYER_VALUES]);
                        colour = display.srgb8(&shown(pixel, top, ground, uneven));
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

/// Reflectance of a dry pixel with what lies on top of it, if that is known apart.
#[inline(always)]
fn shown(pixel: &[f32], top: Option<&[f32]>, bare: &Spectrum, uneven: f32) -> Spectrum {
    match top {
        Some(top) if top[TOP] > 0.0 => layered(pixel, top, bare, uneven),
        _ => reflectance(pixel, bare, uneven),
    }
}

/// Share of the bare ground's light (Y) that what lies there takes away, in 1/65535, pixel by pixel.
pub fn taken_light(sheet: &Sheet, rect: Rect) -> Vec<u16> {
    let ground = sheet.ground().bare();
    let uneven = UNEVEN * sheet.grain_within(Feel::default());
    let light = |r: &Spectrum| colour::xyz(&r.map(f64::from))[1];
    let whole = light(ground);
    let mut out = Vec::with_capacity((rect.right - rect.left) * (rect.bottom - rect.top));
    for y in rect.top..rect.bottom {
        for x in rect.left..rect.right {
            let pixel = sheet.dry_pixel(x, y).filter(|p| p[HELD] + p[LOOSE] > 0.0);
            let left = pixel.map_or(1.0, |p| light(&shown(p, sheet.top_pixel(x, y), ground, uneven)) / whole);
            out.push(((1.0 - left).clamp(0.0, 1.0) * 65_535.0).round() as u16);
        }
    }
    out
}

/// The whole sheet as RGBA.
pub fn rgba(sheet: &Sheet) -> Vec<u8> {
    let mut out = vec![0; sheet.width() * sheet.height() * 4];
    let rect = Rect { left: 0, top: 0, right: sheet.width(), bottom: sheet.height() };
    rgba_in_place(sheet, rect, &mut out);
    out
}
