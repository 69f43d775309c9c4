//! The flat view: the colour of every pixel, without light or relief.

use crate::ground::Feel;
use crate::lanes::{self, LANES};
use crate::medium::sheer;
use crate::paint::colour::{self, Display};
use crate::paint::sticks;
use crate::paint::{BANDS, Spectrum, film};
use crate::sheet::{
    COVER, DRY_VALUES, FILM_SHARE, FILM_VALUES, HELD, KX, LAYER_VALUES, LOOSE, OWNER, Rect, SX, Sheet, TILE,
    TOP, TOP_COVER, Tile,
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

/// How pixels of one sheet are shown.
pub struct Eye<'a> {
    display: &'static Display,
    ground: &'a Spectrum,
    bare: [u8; 3],
    uneven: f32,
}

impl<'a> Eye<'a> {
    /// `grain_within`: share of the grain's variance that lies within a pixel ([`Sheet::grain_within`]).
    pub fn new(ground: &'a Spectrum, grain_within: f32) -> Self {
        let display = Display::shared();
        Self { display, ground, bare: display.srgb8(ground), uneven: UNEVEN * grain_within }
    }

    pub fn on(sheet: &'a Sheet) -> Self {
        Self::new(sheet.ground().bare(), sheet.grain_within(Feel::default()))
    }

    /// Reflectance of the powder at an index of a tile; nothing where there is none.
    #[inline(always)]
    fn powder(&self, tile: &Tile, index: usize) -> Option<Spectrum> {
        let pixel = &tile.dry.as_ref()?[index * DRY_VALUES..(index + 1) * DRY_VALUES];
        let top = tile.layer.as_ref().map(|l| &l[index * LAYER_VALUES..(index + 1) * LAYER_VALUES]);
        (pixel[HELD] + pixel[LOOSE] > 0.0).then(|| shown(pixel, top, self.ground, self.uneven))
    }

    /// sRGB of ground and powder at an index of a tile, without any film.
    #[inline(always)]
    pub fn without_film(&self, tile: &Tile, index: usize) -> [u8; 3] {
        self.powder(tile, index).map_or(self.bare, |r| self.display.srgb8(&r))
    }

    /// sRGB of what a pixel shows.
    #[inline(always)]
    fn colour(&self, tile: &Tile, index: usize) -> [u8; 3] {
        let under = self.without_film(tile, index);
        match film_of(tile, index) {
            None => under,
            Some(film) => sheer::shown(film, sheer::encoded(under)).map(|v| libm::round(v * 255.0) as u8),
        }
    }

    /// Light (Y) of what a pixel shows, of a perfect white.
    fn light(&self, tile: &Tile, index: usize) -> f64 {
        if film_of(tile, index).is_some() {
            return colour::luminance(sheer::encoded(self.colour(tile, index)));
        }
        luminance(&self.powder(tile, index).unwrap_or(*self.ground))
    }
}

fn film_of(tile: &Tile, index: usize) -> Option<&[f32]> {
    let film = &tile.film.as_ref()?[index * FILM_VALUES..(index + 1) * FILM_VALUES];
    (film[FILM_SHARE] > 0.0).then_some(film)
}

/// Writes `rect` of the sheet as RGBA, 4 bytes a pixel, row by row, into `out` (`4 × width × height` bytes). Bare ground
/// is drawn in its own colour.
pub fn rgba_in_place(sheet: &Sheet, rect: Rect, out: &mut [u8]) {
    let eye = Eye::on(sheet);
    let width = rect.right - rect.left;
    for y in rect.top..rect.bottom {
        let row = &mut out[(y - rect.top) * width * 4..(y - rect.top + 1) * width * 4];
        let mut x = rect.left;
        while x < rect.right {
            let end = ((x / TILE + 1) * TILE).min(rect.right);
            let tile = sheet.tile(x / TILE, y / TILE);
            for px in x..end {
                let index = (y % TILE) * TILE + px % TILE;
                let colour = tile.map_or(eye.bare, |tile| eye.colour(tile, index));
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

fn luminance(reflectance: &Spectrum) -> f64 {
    colour::xyz(&reflectance.map(f64::from))[1]
}

/// Share of the bare ground's light (Y) that what lies there takes away, in 1/65535, pixel by pixel.
pub fn taken_light(sheet: &Sheet, rect: Rect) -> Vec<u16> {
    let eye = Eye::on(sheet);
    let whole = luminance(eye.ground);
    let mut out = Vec::with_capacity((rect.right - rect.left) * (rect.bottom - rect.top));
    for y in rect.top..rect.bottom {
        for x in rect.left..rect.right {
            let tile = sheet.tile(x / TILE, y / TILE);
            let left = tile.map_or(1.0, |t| eye.light(t, (y % TILE) * TILE + x % TILE) / whole);
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
