//! What paste looks like over what lies under it: two films, each on the share of the pixel that it covers.

use super::blocks::{
    BAND_VALUES, BODY, BODY_COVER, BODY_UM, DRIED, DRY, DRY_COVER, DRY_UM, FILM_VALUES, FILMS, TOP,
    TOP_COVER, TOP_UM,
};
use crate::lanes::{LANES, all, four};
use crate::medium::Look;
use crate::paint::{BANDS, Spectrum, film};
use crate::sheet::Tile;

/// Shares of a pixel under this count as this.
const LEAST_COVER: f32 = 0.02;

/// Share of light that wet paint's surface throws back inside (tuned by eye; 0.4 to 0.6 for a perfect surface).
const INNER: f32 = 0.35;

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

/// Lays paste over the looks of the pixels `from..` of a tile: what has dried, what lay there before the last stroke, what that laid.
pub fn show_in_place(tile: &Tile, from: usize, looks: &mut [Look]) {
    let dry = tile.block(&DRIED).zip(tile.block(&DRY));
    let wet = tile.block(&FILMS).zip(tile.block(&TOP).zip(tile.block(&BODY)));
    for (i, look) in looks.iter_mut().enumerate() {
        let index = from + i;
        let mut dried = 0.0;
        if let Some((films, bands)) = dry {
            let f = &films[index * 2..(index + 1) * 2];
            if f[DRY_UM] > 0.0 {
                dried = f[DRY_COVER].min(1.0);
                over_in_place(bands_at(bands, index), f[DRY_COVER], &mut look.reflectance);
                look.laid = true;
            }
        }
        let mut covered = 0.0;
        if let Some((films, (top, body))) = wet {
            let f = &films[index * FILM_VALUES..(index + 1) * FILM_VALUES];
            for (bands, um, cover) in [(body, BODY_UM, BODY_COVER), (top, TOP_UM, TOP_COVER)] {
                if f[um] > 0.0 {
                    over_in_place(bands_at(bands, index), f[cover], &mut look.reflectance);
                    covered = f32::max(covered, f[cover]).min(1.0);
                }
            }
        }
        if covered > 0.0 || dried > 0.0 {
            let most = covered.max(dried);
            finish_in_place(look, most, (covered + DRY_GLOSS * (most - covered)) / most);
        }
    }
}
