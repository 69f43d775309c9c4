//! What paste looks like over what lies under it: two films, each on the share of the pixel that it covers.

use super::blocks::{BAND_VALUES, BODY, BODY_COVER, BODY_UM, FILM_VALUES, FILMS, TOP, TOP_COVER, TOP_UM};
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

/// Lays paste over the looks of the pixels `from..` of a tile.
pub fn show_in_place(tile: &Tile, from: usize, looks: &mut [Look]) {
    let (Some(films), Some(top), Some(body)) = (tile.block(&FILMS), tile.block(&TOP), tile.block(&BODY))
    else {
        return;
    };
    for (i, look) in looks.iter_mut().enumerate() {
        let index = from + i;
        let f = &films[index * FILM_VALUES..(index + 1) * FILM_VALUES];
        let bands = |block: &'_ [f32]| -> [f32; BAND_VALUES] {
            let mut out = [0.0; BAND_VALUES];
            out.copy_from_slice(&block[index * BAND_VALUES..(index + 1) * BAND_VALUES]);
            out
        };
        if f[BODY_UM] > 0.0 {
            over_in_place(&bands(body), f[BODY_COVER], &mut look.reflectance);
            look.laid = true;
        }
        if f[TOP_UM] > 0.0 {
            over_in_place(&bands(top), f[TOP_COVER], &mut look.reflectance);
            look.laid = true;
        }
        if look.laid && f[TOP_UM] + f[BODY_UM] > 0.0 {
            let wet = f[TOP_COVER].max(f[BODY_COVER]).min(1.0);
            look.gloss += (1.0 - look.gloss) * wet;
            // Light that would leave wet paint is thrown back inside at its surface (Saunderson 1942, the inner part alone).
            look.reflectance = look.reflectance.map(|r| (1.0 - INNER * wet) * r / (1.0 - INNER * wet * r));
        }
    }
}
