//! What paste keeps on a sheet: two films a pixel, what lay there before this stroke (the body) and what the stroke laid (the top).
//!
//! A film is a volume, the share of the pixel that it covers, and K and S of its paint times that volume in every band: mixing
//! two bits of paint is then an addition. Both films live on after the stroke; the next stroke's first touch of a pixel merges
//! them.

use super::drying::{DRIED, DRY_BODY, DRY_BODY_UM, DRY_TOP, DRY_TOP_UM};
use crate::lanes::{LANES, Lanes, four};
use crate::medium::Amount;
use crate::paint::BANDS;
use crate::sheet::{Layout, Sheet, Tile};

/// Bands of the film that the last stroke laid, and of what was there before it: K·X, then S·X.
pub static TOP: Layout = bands_of("paste on top", 20);
pub static BODY: Layout = bands_of("paste below", 21);

pub(super) const fn bands_of(name: &'static str, order: u8) -> Layout {
    Layout {
        name,
        order,
        values: BAND_VALUES,
        planes: false,
        beside: 0,
        material: 0..BAND_VALUES,
        tells: true,
        fresh: &[],
        dried: &[],
        dries_at: None,
        clock: None,
    }
}

/// Volumes and covers of both, and the stroke that laid the top.
pub static FILMS: Layout = Layout {
    name: "paste",
    order: 22,
    values: FILM_VALUES,
    planes: false,
    beside: 0,
    material: 0..STROKE,
    tells: false,
    fresh: &[TOP_UM, BODY_UM],
    dried: &[],
    dries_at: Some(DRIES_MIN),
    clock: None,
};

pub const BAND_VALUES: usize = 2 * BANDS;
/// Vectors of four that a film's bands fill.
pub const VECTORS: usize = BAND_VALUES / LANES;

pub const FILM_VALUES: usize = 6;
/// Volumes, µm over the pixel, and the shares of it that they cover.
pub const TOP_UM: usize = 0;
pub const TOP_COVER: usize = 1;
pub const BODY_UM: usize = 2;
pub const BODY_COVER: usize = 3;
/// When both dry, minutes of what was waited on the sheet.
pub const DRIES_MIN: usize = 4;
/// Number of the stroke that laid the top, from 1.
pub const STROKE: usize = 5;

/// The blocks of a tile that paste acts on, made where they are not there: top, body and films.
pub fn blocks_of_in_place(tile: &mut Tile) -> [&mut [f32]; 3] {
    let all = [&TOP, &BODY, &FILMS];
    all.into_iter().for_each(|l| tile.make_in_place(l));
    tile.blocks_in_place(all).map(|b| b.expect("it was made"))
}

/// K·X and S·X of a film, four bands at a time.
pub type Bands = [Lanes; VECTORS];

/// Those of a pixel.
#[inline(always)]
pub fn bands(values: &[f32]) -> Bands {
    std::array::from_fn(|i| four(&values[i * LANES..]))
}

/// Writes them.
#[inline(always)]
pub fn put_bands(values: &mut [f32], bands: &Bands) {
    for (to, from) in values.chunks_exact_mut(LANES).zip(bands) {
        to.copy_from_slice(&from.to_array());
    }
}

/// All paste on a sheet.
pub fn on_sheet(sheet: &Sheet) -> Amount {
    let mut out = Amount::default();
    for tile in sheet.tiles() {
        let volumes = [(&FILMS, TOP_UM), (&FILMS, BODY_UM), (&DRIED, DRY_TOP_UM), (&DRIED, DRY_BODY_UM)];
        for (layout, at) in volumes {
            let pixels = tile.block(layout).into_iter().flat_map(|b| b.chunks_exact(layout.values));
            out.mm3 += pixels.map(|pixel| f64::from(pixel[at])).sum::<f64>();
        }
        for pixel in [&TOP, &BODY, &DRY_TOP, &DRY_BODY]
            .into_iter()
            .filter_map(|l| tile.block(l))
            .flat_map(|b| b.chunks_exact(BAND_VALUES))
        {
            for b in 0..BANDS {
                out.k[b] += f64::from(pixel[b]);
                out.s[b] += f64::from(pixel[BANDS + b]);
            }
        }
    }
    let mm2 = sheet.pixel_mm() * sheet.pixel_mm();
    // Volumes are in µm; K and S are per µm, so that a film's totals are plain numbers.
    Amount { mm3: out.mm3 * 1e-3 * mm2, k: out.k.map(|v| v * mm2), s: out.s.map(|v| v * mm2) }
}
