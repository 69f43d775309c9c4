//! Paste that has dried: it no longer mixes, so what it looked like is kept as it was seen, and is what lies under all that comes.
//! Its films are kept beside it, for the balance and for making it wet again.

use super::blocks::{
    BAND_VALUES, BODY, BODY_COVER, BODY_UM, DRIES_MIN, FILM_VALUES, FILMS, STROKE, TOP, TOP_COVER, TOP_UM,
    bands_of,
};
use super::eye::Stack;
use crate::medium::Look;
use crate::paint::{BANDS, Spectrum};
use crate::sheet::{Layout, TILE_PIXELS, Tile};

/// Bands of the film that lay on top when it dried, and of all that lay below.
pub static DRY_TOP: Layout = bands_of("paste dried on top", 17);
pub static DRY_BODY: Layout = bands_of("paste dried below", 18);
/// Volumes and covers of both, and their reflectance with all that lies under them.
pub static DRIED: Layout = Layout {
    name: "dried paste",
    order: 19,
    values: DRIED_VALUES,
    planes: false,
    beside: 0,
    material: 0..SEEN,
    tells: false,
    fresh: &[],
    dried: &[DRY_TOP_UM, DRY_BODY_UM],
    dries_at: None,
    clock: None,
};

pub const DRIED_VALUES: usize = SEEN + BANDS;
pub const DRY_TOP_UM: usize = 0;
pub const DRY_TOP_COVER: usize = 1;
pub const DRY_BODY_UM: usize = 2;
pub const DRY_BODY_COVER: usize = 3;
pub const SEEN: usize = 4;

/// Whether anything wet lies on a pixel.
fn is_wet(film: &[f32]) -> bool {
    film[TOP_UM] > 0.0 || film[BODY_UM] > 0.0
}

/// Moves the bands of one film to another's.
fn move_bands(from: &mut [f32], to: &mut [f32]) {
    to.iter_mut().zip(from).for_each(|(to, from)| *to += std::mem::take(from));
}

/// The bands of a pixel.
fn of(block: &mut [f32], index: usize) -> &mut [f32] {
    &mut block[index * BAND_VALUES..(index + 1) * BAND_VALUES]
}

/// Lets everything wet on a tile that dries `until_min` dry where it lies. `under`: looks of the tile's pixels without paste.
pub fn dry_in_place(tile: &mut Tile, under: &[Look], until_min: f32) {
    let dries = |film: &[f32]| is_wet(film) && film[DRIES_MIN] <= until_min;
    if tile.block(&FILMS).is_none_or(|films| !films.chunks_exact(FILM_VALUES).any(dries)) {
        return;
    }
    let stack = Stack::of(tile);
    let seen: Vec<Spectrum> = (0..TILE_PIXELS)
        .map(|index| {
            let mut reflectance = under[index].reflectance;
            stack.lay_in_place(index, &mut reflectance);
            reflectance
        })
        .collect();
    [&DRY_TOP, &DRY_BODY, &DRIED].into_iter().for_each(|l| tile.make_in_place(l));
    let [top, body, films, dry_top, dry_body, dried] = tile
        .blocks_in_place([&TOP, &BODY, &FILMS, &DRY_TOP, &DRY_BODY, &DRIED])
        .map(|b| b.expect("it was made"));
    let pixels = films.chunks_exact_mut(FILM_VALUES).zip(dried.chunks_exact_mut(DRIED_VALUES));
    for (index, (film, dry)) in pixels.enumerate().filter(|(_, (film, _))| dries(film)) {
        // What had dried before lies below all of it.
        move_bands(of(dry_top, index), of(dry_body, index));
        move_bands(of(body, index), of(dry_body, index));
        move_bands(of(top, index), of(dry_top, index));
        dry[DRY_BODY_UM] += dry[DRY_TOP_UM] + film[BODY_UM];
        dry[DRY_BODY_COVER] = dry[DRY_BODY_COVER].max(dry[DRY_TOP_COVER]).max(film[BODY_COVER]);
        (dry[DRY_TOP_UM], dry[DRY_TOP_COVER]) = (film[TOP_UM], film[TOP_COVER]);
        dry[SEEN..].copy_from_slice(&seen[index]);
        film[..STROKE].fill(0.0);
    }
}

/// Makes what has dried on a tile wet again, and so until a time: as it was where nothing wet lies over it, else below that.
pub fn wet_in_place(tile: &mut Tile, until_min: f32) {
    if tile.block(&DRIED).is_none() {
        return;
    }
    let [top, body, films, dry_top, dry_body, dried] = tile
        .blocks_in_place([&TOP, &BODY, &FILMS, &DRY_TOP, &DRY_BODY, &DRIED])
        .map(|b| b.expect("it was made"));
    let pixels = films.chunks_exact_mut(FILM_VALUES).zip(dried.chunks_exact_mut(DRIED_VALUES));
    for (index, (film, dry)) in pixels.enumerate() {
        let [top_um, top_cover, body_um, body_cover] = [0, 1, 2, 3].map(|i| std::mem::take(&mut dry[i]));
        if top_um + body_um > 0.0 {
            film[DRIES_MIN] = film[DRIES_MIN].max(until_min);
        }
        if is_wet(film) {
            move_bands(of(dry_top, index), of(body, index));
            film[BODY_UM] += top_um;
            film[BODY_COVER] = film[BODY_COVER].max(top_cover);
        } else {
            move_bands(of(dry_top, index), of(top, index));
            (film[TOP_UM], film[TOP_COVER]) = (top_um, top_cover);
        }
        move_bands(of(dry_body, index), of(body, index));
        film[BODY_UM] += body_um;
        film[BODY_COVER] = film[BODY_COVER].max(body_cover);
    }
}
