//! The sheet: material per pixel, in tiles that exist only where something was laid.
//!
//! A tile is made of blocks, one a medium, each made when that medium first touches the tile; inside a block a pixel's
//! values lie together (planes of their own measured 4–6 times slower for dabs).

use std::cell::RefCell;
use std::rc::Rc;

use sha2::{Digest, Sha256};

use crate::error::{FieldError, Result, within};
use crate::ground::sampled::Raster;
use crate::ground::{Feel, Ground, GroundTile, PITCH_MM, Region};
use crate::paint::BANDS;

/// Side of a tile, pixels.
pub const TILE: usize = 64;
/// Pixels of a tile.
pub const TILE_PIXELS: usize = TILE * TILE;
/// Largest side of a sheet, pixels.
pub const MOST_PIXELS: usize = 32_768;

/// Values a pixel has in a dry block.
pub const DRY_VALUES: usize = 20;
/// Where a dry pixel's values lie: film totals KX and SX per band, then these.
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

/// Values a pixel has in the block of even strokes.
pub const EVEN_VALUES: usize = 2;
/// Powder laid by the stroke named in [`STROKE`], µm.
pub const LAID: usize = 0;
/// Number of the even stroke that last laid here.
pub const STROKE: usize = 1;

/// Values a pixel has in the block of layers: there only where powders of more than one stick lie.
pub const LAYER_VALUES: usize = 3;
/// Number of the stick that lies on top ([`crate::paint::sticks::number_of`]), 0 for none.
pub const OWNER: usize = 0;
/// How much of the pixel's powder is that stick's and lies on top, µm, and the share of the pixel that it covers.
pub const TOP: usize = 1;
pub const TOP_COVER: usize = 2;

/// Values a pixel has in the block of films laid as images ([`crate::medium::sheer`]).
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

/// The blocks that a dry dab acts on.
pub struct DryBlocks<'a> {
    /// [`TILE_PIXELS`] × [`DRY_VALUES`]: all powder, whatever lies on top.
    pub dry: &'a mut [f32],
    /// [`TILE_PIXELS`] × [`EVEN_VALUES`], for an even stroke.
    pub even: Option<&'a mut [f32]>,
    /// [`TILE_PIXELS`] × [`LAYER_VALUES`], where more than one powder lies.
    pub layer: Option<&'a mut [f32]>,
    /// [`TILE_PIXELS`] × [`FILM_VALUES`], where a film lies.
    pub film: Option<&'a mut [f32]>,
}

/// One tile: a block for each medium that has touched it.
#[derive(Debug, Clone, Default)]
pub struct Tile {
    /// [`TILE_PIXELS`] × [`DRY_VALUES`] values.
    pub dry: Option<Box<[f32]>>,
    /// What even strokes must remember of themselves: [`TILE_PIXELS`] × [`EVEN_VALUES`] values. Not material: no part of
    /// the checksum.
    pub even: Option<Box<[f32]>>,
    /// Which powder lies on top: [`TILE_PIXELS`] × [`LAYER_VALUES`] values, once there is more than one.
    pub layer: Option<Box<[f32]>>,
    /// Film laid as an image: [`TILE_PIXELS`] × [`FILM_VALUES`] values. Lies over the powder.
    pub film: Option<Box<[f32]>>,
    /// Number of the only stick so far; 0 for none.
    pub powder: u16,
}

fn block_in_place(block: &mut Option<Box<[f32]>>, values: usize) -> &mut [f32] {
    block.get_or_insert_with(|| vec![0.0; TILE_PIXELS * values].into_boxed_slice())
}

impl Tile {
    /// The dry block, made if it is not there; for an even stroke its own block too. `powder`: number of the stick that will
    /// lay, 0 where powder is only moved.
    pub fn dry_blocks_in_place(&mut self, even: bool, powder: u16) -> DryBlocks<'_> {
        if self.powder == 0 {
            self.powder = powder;
        } else if powder != 0 && powder != self.powder && self.layer.is_none() {
            let layer = block_in_place(&mut self.layer, LAYER_VALUES);
            layer.chunks_exact_mut(LAYER_VALUES).for_each(|p| p[OWNER] = f32::from(self.powder));
        }
        DryBlocks {
            dry: block_in_place(&mut self.dry, DRY_VALUES),
            even: if even { Some(block_in_place(&mut self.even, EVEN_VALUES)) } else { None },
            layer: self.layer.as_deref_mut(),
            film: self.film.as_deref_mut(),
        }
    }

    /// Takes the block of films out, made if it is not there: it is worked on with the rest of the tile in view.
    pub fn take_film(&mut self) -> Box<[f32]> {
        self.film.take().unwrap_or_else(|| vec![0.0; TILE_PIXELS * FILM_VALUES].into_boxed_slice())
    }
}

/// A rectangle of sheet pixels, `right` and `bottom` not included.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Rect {
    pub left: usize,
    pub top: usize,
    pub right: usize,
    pub bottom: usize,
}

impl Rect {
    pub fn union(self, other: Rect) -> Rect {
        Rect {
            left: self.left.min(other.left),
            top: self.top.min(other.top),
            right: self.right.max(other.right),
            bottom: self.bottom.max(other.bottom),
        }
    }
}

/// What was on a sheet.
pub struct Snapshot(Vec<Option<Tile>>);

/// A sheet of a ground.
pub struct Sheet {
    width: usize,
    height: usize,
    raster: Raster,
    ground: Rc<Ground>,
    tiles: Vec<Option<Tile>>,
    /// Shares of the grain within a pixel, by scale of the tooth.
    grain_within: RefCell<Vec<(f64, f32)>>,
}

impl Sheet {
    /// An empty sheet of `width × height` pixels of `pixel_mm`, its corner at `origin_mm` on the ground.
    ///
    /// # Errors
    /// Names the side that is not 1 to [`MOST_PIXELS`], or a pixel that is not 0.005 to 5 mm.
    pub fn new(
        ground: Rc<Ground>,
        width: usize,
        height: usize,
        pixel_mm: f64,
        origin_mm: [f64; 2],
    ) -> Result<Self> {
        for (name, side) in [("width", width), ("height", height)] {
            if side == 0 || side > MOST_PIXELS {
                return Err(FieldError::new(name, format!("must be 1 to {MOST_PIXELS} pixels, got {side}")));
            }
        }
        within("pixel_mm", pixel_mm, 0.005, 5.0, "mm")?;
        within("origin_mm", origin_mm[0], -1e5, 1e5, "mm")?;
        within("origin_mm", origin_mm[1], -1e5, 1e5, "mm")?;
        let count = width.div_ceil(TILE) * height.div_ceil(TILE);
        let raster = Raster { pixel_mm, origin_mm };
        Ok(Self {
            width,
            height,
            raster,
            ground,
            tiles: (0..count).map(|_| None).collect(),
            grain_within: RefCell::default(),
        })
    }

    pub fn width(&self) -> usize {
        self.width
    }

    pub fn height(&self) -> usize {
        self.height
    }

    pub fn pixel_mm(&self) -> f64 {
        self.raster.pixel_mm
    }

    pub fn raster(&self) -> Raster {
        self.raster
    }

    pub fn ground(&self) -> &Rc<Ground> {
        &self.ground
    }

    /// Tiles across.
    pub fn across(&self) -> usize {
        self.width.div_ceil(TILE)
    }

    /// Tiles down.
    pub fn down(&self) -> usize {
        self.height.div_ceil(TILE)
    }

    pub fn tile(&self, tx: usize, ty: usize) -> Option<&Tile> {
        self.tiles[ty * self.across() + tx].as_ref()
    }

    /// The tile, made if it is not there.
    pub fn tile_in_place(&mut self, tx: usize, ty: usize) -> &mut Tile {
        let index = ty * self.across() + tx;
        self.tiles[index].get_or_insert_with(Tile::default)
    }

    /// The ground under a tile.
    pub fn ground_tile(&self, tx: usize, ty: usize, feel: Feel) -> Rc<GroundTile> {
        self.raster.kept_tile(&self.ground, feel, (tx * TILE) as i64, (ty * TILE) as i64, TILE)
    }

    /// Makes the `n`-th piece of the paper under this sheet, as a tool meets it; false where there are not so many.
    pub fn prepare_ground(&self, feel: Feel, n: usize) -> bool {
        let place = |mm: f64| libm::floor(mm / feel.scale / PITCH_MM) as i64;
        let [x, y] = self.raster.origin_mm;
        let (left, top) = (place(x), place(y));
        let right = place(x + self.width as f64 * self.raster.pixel_mm) + 1;
        let bottom = place(y + self.height as f64 * self.raster.pixel_mm) + 1;
        self.ground.prepare(Region::new(left, top, (right - left) as usize, (bottom - top) as usize), n)
    }

    /// Share of the grain's variance that lies within a pixel of this sheet.
    pub fn grain_within(&self, feel: Feel) -> f32 {
        let mut kept = self.grain_within.borrow_mut();
        if let Some((_, share)) = kept.iter().find(|(scale, _)| *scale == feel.scale) {
            return *share;
        }
        let share = self.raster.grain_within(&self.ground, feel);
        kept.truncate(7);
        kept.insert(0, (feel.scale, share));
        share
    }

    /// Everything on the sheet, to go back to.
    pub fn snapshot(&self) -> Snapshot {
        Snapshot(self.tiles.clone())
    }

    /// Goes back to a snapshot of this sheet.
    pub fn restore(&mut self, snapshot: &Snapshot) {
        self.tiles.clone_from(&snapshot.0);
    }

    /// Powder on the sheet, mm³: loose and held.
    pub fn powder_mm3(&self) -> f64 {
        let blocks = self.tiles.iter().flatten().filter_map(|t| t.dry.as_ref());
        let pixels = blocks.flat_map(|b| b.chunks_exact(DRY_VALUES));
        let um: f64 = pixels.map(|p| f64::from(p[HELD]) + f64::from(p[LOOSE])).sum();
        um * 1e-3 * self.pixel_mm() * self.pixel_mm()
    }

    /// Takes everything off the sheet.
    pub fn wipe(&mut self) {
        self.tiles.iter_mut().for_each(|t| *t = None);
    }

    /// Values of the dry pixel at `(x, y)`, if anything was ever laid in its tile.
    pub fn dry_pixel(&self, x: usize, y: usize) -> Option<&[f32]> {
        let block = self.tile(x / TILE, y / TILE)?.dry.as_ref()?;
        let at = ((y % TILE) * TILE + x % TILE) * DRY_VALUES;
        Some(&block[at..at + DRY_VALUES])
    }

    /// Powder at `(x, y)`, µm, without that of the even stroke of this number; 0 beyond the sheet.
    pub fn powder_um(&self, x: usize, y: usize, even: Option<f32>) -> f32 {
        if x >= self.width || y >= self.height {
            return 0.0;
        }
        let Some(tile) = self.tile(x / TILE, y / TILE) else { return 0.0 };
        let index = (y % TILE) * TILE + x % TILE;
        let all =
            tile.dry.as_ref().map_or(0.0, |d| d[index * DRY_VALUES + HELD] + d[index * DRY_VALUES + LOOSE]);
        let own = even.zip(tile.even.as_ref()).map_or(0.0, |(stroke, e)| {
            if e[index * EVEN_VALUES + STROKE] == stroke { e[index * EVEN_VALUES + LAID] } else { 0.0 }
        });
        all - own
    }

    /// What lies on top at `(x, y)`: the number of its stick, µm, and the share it covers; nothing where only one powder lies in
    /// the tile.
    pub fn top_pixel(&self, x: usize, y: usize) -> Option<&[f32]> {
        let layer = self.tile(x / TILE, y / TILE)?.layer.as_ref()?;
        let at = ((y % TILE) * TILE + x % TILE) * LAYER_VALUES;
        Some(&layer[at..at + LAYER_VALUES])
    }

    /// Bytes of material held.
    pub fn bytes(&self) -> usize {
        self.tiles
            .iter()
            .flatten()
            .flat_map(|t| [&t.dry, &t.even, &t.layer, &t.film])
            .flatten()
            .map(|b| b.len() * 4)
            .sum()
    }

    /// SHA-256 over the material of every tile that holds any, in hexadecimal: equal sheets have equal sums, bit for bit.
    pub fn checksum(&self) -> String {
        let mut hash = Sha256::new();
        hash.update((self.width as u64).to_le_bytes());
        hash.update((self.height as u64).to_le_bytes());
        hash.update(self.raster.pixel_mm.to_le_bytes());
        for (i, tile) in self.tiles.iter().enumerate() {
            let of = |block: fn(&Tile) -> &Option<Box<[f32]>>| {
                tile.as_ref().and_then(|t| block(t).as_deref()).unwrap_or_default()
            };
            let (dry, layer) = (of(|t| &t.dry), of(|t| &t.layer));
            let film = of(|t| &t.film).chunks_exact(FILM_VALUES).flat_map(|p| &p[FILM_SHARE..]);
            if dry.iter().chain(film.clone()).all(|v| *v == 0.0) {
                continue;
            }
            hash.update((i as u64).to_le_bytes());
            for value in dry.iter().chain(layer).chain(film) {
                hash.update(value.to_le_bytes());
            }
        }
        hash.finalize().iter().map(|b| format!("{b:02x}")).collect()
    }
}
