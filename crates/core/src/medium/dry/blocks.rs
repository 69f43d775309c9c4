//! What dry media keep on a sheet.

use crate::paint::BANDS;
use crate::sheet::{Layout, Sheet, TILE, TILE_PIXELS, Tile};

/// All powder, whatever lies on top. Beside its pixels: the number of the only stick so far, 0 for none.
pub static POWDER: Layout = Layout {
    name: "powder",
    order: 10,
    values: POWDER_VALUES,
    planes: false,
    beside: 1,
    material: 0..POWDER_VALUES,
    tells: false,
    fresh: &[HELD, LOOSE],
    dried: &[],
    dries_at: None,
    clock: None,
};
/// Which powder lies on top: there only where powders of more than one stick lie.
pub static LAYER: Layout = Layout {
    name: "powder on top",
    order: 11,
    values: LAYER_VALUES,
    planes: false,
    beside: 0,
    material: 0..LAYER_VALUES,
    tells: true,
    fresh: &[],
    dried: &[],
    dries_at: None,
    clock: None,
};
/// Film laid as an image, over the powder ([`super::sheer`]).
pub static FILM: Layout = Layout {
    name: "film",
    order: 12,
    values: FILM_VALUES,
    planes: false,
    beside: 0,
    material: FILM_SHARE..FILM_VALUES,
    tells: false,
    fresh: &[],
    dried: &[],
    dries_at: None,
    clock: None,
};
/// What even strokes must remember of themselves.
pub static EVEN: Layout = Layout {
    name: "even strokes",
    order: 13,
    values: EVEN_VALUES,
    planes: false,
    beside: 0,
    material: 0..0,
    tells: true,
    fresh: &[],
    dried: &[],
    dries_at: None,
    clock: None,
};

pub const POWDER_VALUES: usize = 20;
/// Where a pixel's values lie: film totals KX and SX per band, then these.
pub const KX: usize = 0;
pub const SX: usize = BANDS;
/// Powder held by the paper, µm.
pub const HELD: usize = 16;
/// Loose powder, µm.
pub const LOOSE: usize = 17;
/// Share of the pixel that powder covers, 0..1.
pub const COVER: usize = 18;
/// How much of the tooth is worn off, µm.
pub const WEAR: usize = 19;

pub const EVEN_VALUES: usize = 2;
/// Powder laid by the stroke named in [`STROKE`], µm.
pub const LAID: usize = 0;
/// Number of the even stroke that last laid here.
pub const STROKE: usize = 1;

pub const LAYER_VALUES: usize = 3;
/// Number of the stick that lies on top ([`super::sticks::Stick::number`]), 0 for none.
pub const OWNER: usize = 0;
/// How much of the pixel's powder is that stick's and lies on top, µm, and the share of the pixel that it covers.
pub const TOP: usize = 1;
pub const TOP_COVER: usize = 2;

pub const FILM_VALUES: usize = 11;
/// Number of the stroke that last laid film here, and the share of the pixel that it gave.
pub const FILM_STROKE: usize = 0;
pub const FILM_STROKE_SHARE: usize = 1;
/// Share of the film before that stroke, then its colour (sRGB 0..1).
pub const FILM_BEFORE: usize = 2;
/// Share of the pixel that film covers, its colour, and how much of it powder hides.
pub const FILM_SHARE: usize = 6;
pub const FILM_COLOUR: usize = 7;
pub const FILM_HIDDEN: usize = 10;

/// Powder this thick, µm, covers where it lies: grains are about as large. Less covers as much less.
pub const GRAIN_UM: f32 = 1.0;
/// Share of laid powder that raises the surface under the stick.
pub const RAISE: f32 = 0.45;
/// Where the surface lies this many deviations below the stick nothing touches (a share of 3e-5).
pub const OUT_OF_REACH: f32 = -4.0;

/// The blocks that a dry dab acts on.
pub struct DryBlocks<'a> {
    /// [`POWDER_VALUES`] a pixel.
    pub powder: &'a mut [f32],
    /// [`EVEN_VALUES`] a pixel, for an even stroke.
    pub even: Option<&'a mut [f32]>,
    /// [`LAYER_VALUES`] a pixel, where more than one powder lies.
    pub layer: Option<&'a mut [f32]>,
    /// [`FILM_VALUES`] a pixel, where a film lies.
    pub film: Option<&'a mut [f32]>,
}

impl<'a> DryBlocks<'a> {
    /// Those of a tile: its powder, made if there is none; for an `even` stroke its own block too. `stick`: number of the stick
    /// that will lay, 0 where powder is only moved.
    pub fn of_in_place(tile: &'a mut Tile, even: bool, stick: u16) -> Self {
        tile.make_in_place(&POWDER);
        let only = &mut tile.block_in_place(&POWDER)[TILE_PIXELS * POWDER_VALUES];
        let before = *only;
        if before == 0.0 {
            *only = f32::from(stick);
        } else if stick != 0 && f32::from(stick) != before && tile.block(&LAYER).is_none() {
            let layer = tile.block_in_place(&LAYER);
            layer.chunks_exact_mut(LAYER_VALUES).for_each(|p| p[OWNER] = before);
        }
        if even {
            tile.make_in_place(&EVEN);
        }
        let [powder, own, layer, film] = tile.blocks_in_place([&POWDER, &EVEN, &LAYER, &FILM]);
        let powder = &mut powder.expect("it was made")[..TILE_PIXELS * POWDER_VALUES];
        Self { powder, even: if even { own } else { None }, layer, film }
    }
}

/// Powder at pixels that lie close together: the tile of the last one is known.
pub struct Feeler<'a> {
    sheet: &'a Sheet,
    /// Number of an even stroke whose own powder is not felt.
    even: Option<f32>,
    tile: Option<(usize, usize)>,
    powder: Option<&'a [f32]>,
    own: Option<&'a [f32]>,
}

impl<'a> Feeler<'a> {
    pub fn on(sheet: &'a Sheet, even: Option<f32>) -> Self {
        Self { sheet, even, tile: None, powder: None, own: None }
    }

    /// Powder at the pixel `(x, y)`, µm, without that of the even stroke; 0 beyond the sheet.
    pub fn um(&mut self, x: usize, y: usize) -> f32 {
        if x >= self.sheet.width() || y >= self.sheet.height() {
            return 0.0;
        }
        let key = (x / TILE, y / TILE);
        if self.tile != Some(key) {
            let tile = self.sheet.tile(key.0, key.1);
            self.tile = Some(key);
            self.powder = tile.and_then(|t| t.block(&POWDER));
            self.own = self.even.and(tile).and_then(|t| t.block(&EVEN));
        }
        let index = (y % TILE) * TILE + x % TILE;
        let all =
            self.powder.map_or(0.0, |b| b[index * POWDER_VALUES + HELD] + b[index * POWDER_VALUES + LOOSE]);
        let laid = |e: &[f32]| {
            let own = self.even == Some(e[index * EVEN_VALUES + STROKE]);
            if own { e[index * EVEN_VALUES + LAID] } else { 0.0 }
        };
        all - self.own.map_or(0.0, laid)
    }
}

/// Powder on a sheet, mm³: loose and held.
pub fn powder_mm3(sheet: &Sheet) -> f64 {
    on_sheet(sheet).mm3
}

/// All powder on a sheet, with its colour.
pub fn on_sheet(sheet: &Sheet) -> crate::medium::Amount {
    let mut out = crate::medium::Amount::default();
    for block in sheet.tiles().filter_map(|t| t.block(&POWDER)) {
        for p in block[..TILE_PIXELS * POWDER_VALUES].chunks_exact(POWDER_VALUES) {
            out.mm3 += f64::from(p[HELD]) + f64::from(p[LOOSE]);
            for b in 0..BANDS {
                out.k[b] += f64::from(p[KX + b]);
                out.s[b] += f64::from(p[SX + b]);
            }
        }
    }
    let mm2 = sheet.pixel_mm() * sheet.pixel_mm();
    // Thickness is in µm; film totals are K and S per µm times µm.
    crate::medium::Amount { mm3: out.mm3 * 1e-3 * mm2, k: out.k.map(|v| v * mm2), s: out.s.map(|v| v * mm2) }
}
