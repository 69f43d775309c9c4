//! What paste looks like over what lies under it: two films, each on the share of the pixel that it covers, over what has dried.

use super::blocks::{BAND_VALUES, BODY, BODY_COVER, BODY_UM, FILM_VALUES, FILMS, TOP, TOP_COVER, TOP_UM};
use super::drying::{DRIED, DRIED_VALUES, DRY_BODY_COVER, DRY_BODY_UM, DRY_TOP_COVER, DRY_TOP_UM, SEEN};
use crate::lanes::{LANES, all, four};
use crate::medium::Look;
use crate::paint::{BANDS, Spectrum, film};
use crate::sheet::Tile;

/// Shares of a pixel under this count as this.
const LEAST_COVER: f32 = 0.02;

/// Share of light that wet paint's surface throws back inside (tuned by eye; 0.4 to 0.6 for a perfect surface).
const INNER: f32 = 0.35;

/// A film so deep that what lies under it does not show: `√(K(K+2S))·X`; e^−12 of the light comes through both ways.
const DEEP: f32 = 6.0;

/// What a film looks like that hides all under it; nothing where it does not.
#[inline(always)]
fn hiding(bands: &[f32], cover: f32) -> Option<Spectrum> {
    if cover < 1.0 {
        return None;
    }
    let mut out = [0.0; BANDS];
    for b in (0..BANDS).step_by(LANES) {
        let (k, s) = (four(&bands[b..]), four(&bands[BANDS + b..]));
        let p = (k * (k + all(2.0) * s)).sqrt();
        if p.to_array().iter().any(|p| *p < DEEP) {
            return None;
        }
        out[b..b + LANES].copy_from_slice(&(s / (k + s + p)).to_array());
    }
    Some(out)
}

/// A film over what lies under it.
#[inline(always)]
fn over_in_place(bands: &[f32], cover: f32, under: &mut Spectrum) {
    let cover = cover.clamp(LEAST_COVER, 1.0);
    let deep = all(1.0 / cover);
    for b in (0..BANDS).step_by(LANES) {
        let below = four(&under[b..]);
        let film = film::over_lanes(four(&bands[b..]) * deep, four(&bands[BANDS + b..]) * deep, below);
        under[b..b + LANES].copy_from_slice(&(below + all(cover) * (film - below)).to_array());
    }
}

/// Gloss of paint that has dried, over that of wet paint (tuned by eye: oil sinks in).
const DRY_GLOSS: f32 = 0.45;

/// The bands of a pixel.
#[inline(always)]
fn bands_at(block: &[f32], index: usize) -> &[f32] {
    &block[index * BAND_VALUES..(index + 1) * BAND_VALUES]
}

/// Takes the light that would leave a surface and is thrown back inside into account, and how it shines.
#[inline(always)]
fn finish_in_place(look: &mut Look, covered: f32, gloss: f32) {
    look.laid = true;
    look.gloss += (gloss - look.gloss) * covered;
    // Light that would leave paint is thrown back inside at its surface (Saunderson 1942, the inner part alone).
    look.reflectance = look.reflectance.map(|r| (1.0 - INNER * covered) * r / (1.0 - INNER * covered * r));
}

/// Paste of one tile as it is looked at: what has dried, what lay there before the last stroke, what that laid.
pub struct Stack<'a> {
    dried: Option<&'a [f32]>,
    films: Option<(&'a [f32], &'a [f32], &'a [f32])>,
}

impl<'a> Stack<'a> {
    pub fn of(tile: &'a Tile) -> Self {
        let films = tile.block(&FILMS).zip(tile.block(&TOP).zip(tile.block(&BODY)));
        Self { dried: tile.block(&DRIED), films: films.map(|(films, (top, body))| (films, top, body)) }
    }

    /// Lays the paste of the pixel of an index over a reflectance; gives the shares that what has dried and what is wet cover.
    #[inline(always)]
    pub fn lay_in_place(&self, index: usize, reflectance: &mut Spectrum) -> [f32; 2] {
        let (mut dry, mut wet) = (0.0_f32, 0.0_f32);
        if let Some(dried) = self.dried {
            let d = &dried[index * DRIED_VALUES..(index + 1) * DRIED_VALUES];
            if d[DRY_TOP_UM] + d[DRY_BODY_UM] > 0.0 {
                dry = d[DRY_TOP_COVER].max(d[DRY_BODY_COVER]).min(1.0);
                reflectance.copy_from_slice(&d[SEEN..]);
            }
        }
        if let Some((films, top, body)) = self.films {
            let f = &films[index * FILM_VALUES..(index + 1) * FILM_VALUES];
            if f[TOP_UM] > 0.0
                && let Some(seen) = hiding(bands_at(top, index), f[TOP_COVER])
            {
                *reflectance = seen;
                return [dry, 1.0];
            }
            for (bands, um, cover) in [(body, BODY_UM, BODY_COVER), (top, TOP_UM, TOP_COVER)] {
                if f[um] > 0.0 {
                    over_in_place(bands_at(bands, index), f[cover], reflectance);
                    wet = wet.max(f[cover]).min(1.0);
                }
            }
        }
        [dry, wet]
    }
}

/// Lays paste over the looks of the pixels `from..` of a tile.
pub fn show_in_place(tile: &Tile, from: usize, looks: &mut [Look]) {
    let stack = Stack::of(tile);
    for (i, look) in looks.iter_mut().enumerate() {
        let [dry, wet] = stack.lay_in_place(from + i, &mut look.reflectance);
        let covered = dry.max(wet);
        if covered > 0.0 {
            finish_in_place(look, covered, (wet + DRY_GLOSS * (covered - wet)) / covered);
        }
    }
}
