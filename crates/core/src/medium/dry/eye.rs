//! What powder and films look like over what lies under them.

use super::blocks::{
    COVER, FILM, FILM_COLOUR, FILM_HIDDEN, FILM_SHARE, FILM_VALUES, HELD, KX, LAYER, LAYER_VALUES, LOOSE,
    OWNER, POWDER, POWDER_VALUES, SX, TOP, TOP_COVER,
};
use super::sticks;
use crate::lanes::{self, LANES};
use crate::medium::Look;
use crate::paint::{BANDS, Spectrum, film};
use crate::sheet::{TILE_PIXELS, Tile};

/// Unevenness of a dry film whose grain lies wholly within a pixel, for [`film::thin_for_unevenness`] (after the dry
/// study; set so that a sheet of half or double the resolution has the same tone, tested).
const UNEVEN: f32 = 0.83;
/// Shares of a pixel under this count as this: nobody sees a speck so small.
const LEAST_COVER: f32 = 0.01;

/// Reflectance of a dry pixel: a film on the share that powder covers, what lies under it beside it. `uneven`: unevenness of the
/// film.
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
    let mut below = [0.0; POWDER_VALUES];
    below.copy_from_slice(pixel);
    for b in 0..BANDS {
        below[KX + b] = (below[KX + b] - powder.k_um[b] * top[TOP]).max(0.0);
        below[SX + b] = (below[SX + b] - powder.s_um[b] * top[TOP]).max(0.0);
    }
    let under = reflectance(&below, bare, uneven);
    let mut film = [0.0; POWDER_VALUES];
    for b in 0..BANDS {
        film[KX + b] = powder.k_um[b] * top[TOP];
        film[SX + b] = powder.s_um[b] * top[TOP];
    }
    film[COVER] = top[TOP_COVER];
    reflectance(&film, &under, uneven)
}

/// Sheen of a stick by its number; none of none.
fn sheen(stick: f32) -> f32 {
    if stick > 0.0 { sticks::numbered(stick as u16).sheen } else { 0.0 }
}

/// Powder of one tile, as it is looked at.
pub struct Powdered<'a> {
    powder: &'a [f32],
    layer: Option<&'a [f32]>,
    uneven: f32,
    /// Sheen of the only stick so far.
    sheen: f32,
}

impl<'a> Powdered<'a> {
    /// Nothing where there is no powder. `grain_within`: share of the ground's grain that lies within a pixel.
    pub fn of(powder: Option<&'a [f32]>, layer: Option<&'a [f32]>, grain_within: f32) -> Option<Self> {
        let powder = powder?;
        let only = powder.get(TILE_PIXELS * POWDER_VALUES).map_or(0.0, |stick| sheen(*stick));
        Some(Self { powder, layer, uneven: UNEVEN * grain_within, sheen: only })
    }

    /// Lays the powder of the pixel of an index over a look.
    #[inline(always)]
    pub fn show_in_place(&self, index: usize, look: &mut Look) {
        let pixel = &self.powder[index * POWDER_VALUES..(index + 1) * POWDER_VALUES];
        if pixel[HELD] + pixel[LOOSE] <= 0.0 {
            return;
        }
        let top = self.layer.map(|l| &l[index * LAYER_VALUES..(index + 1) * LAYER_VALUES]);
        look.laid = true;
        let mut gleams = self.sheen;
        look.reflectance = match top {
            Some(top) if top[TOP] > 0.0 => {
                gleams = sheen(top[OWNER]);
                layered(pixel, top, &look.reflectance, self.uneven)
            }
            _ => reflectance(pixel, &look.reflectance, self.uneven),
        };
        // What the paper holds lies flat; what is loose lies every way.
        if gleams > 0.0 {
            let flat = pixel[HELD] / (pixel[HELD] + pixel[LOOSE]);
            look.gloss += (gleams * flat - look.gloss) * pixel[COVER].min(1.0);
        }
    }
}

/// Lays powder and films over the looks of the pixels `from..` of a tile.
pub fn show_in_place(tile: &Tile, from: usize, grain_within: f32, looks: &mut [Look]) {
    if let Some(powdered) = Powdered::of(tile.block(&POWDER), tile.block(&LAYER), grain_within) {
        for (i, look) in looks.iter_mut().enumerate() {
            powdered.show_in_place(from + i, look);
        }
    }
    if let Some(film) = tile.block(&FILM) {
        for (look, pixel) in looks.iter_mut().zip(film[from * FILM_VALUES..].chunks_exact(FILM_VALUES)) {
            if pixel[FILM_SHARE] > 0.0 {
                look.film = pixel[FILM_SHARE] * (1.0 - pixel[FILM_HIDDEN]);
                look.film_colour.copy_from_slice(&pixel[FILM_COLOUR..FILM_COLOUR + 3]);
            }
        }
    }
}
