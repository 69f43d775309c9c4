//! A ground, made piece by piece where it is looked at, and what has been learnt of it.

use std::cell::{Cell, RefCell};
use std::collections::HashMap;
use std::hash::Hash;
use std::rc::Rc;

use super::bearing::Bearing;
use super::feel::Feel;
use super::make::{Maker, Raw};
use super::patch::Patch;
use super::recipe::{Recipe, Surface};
use super::stored::Stored;
use super::tile::{GroundTile, TileKey};
use super::{PITCH_MM, REFERENCE, Region, sampled, tint};
use crate::error::Result;
use crate::image::Images;
use crate::paint::Spectrum;
use crate::recent::Recent;

/// Side of the pieces that are kept, ground pixels.
pub(super) const PIECE: i64 = 256;
/// Pieces kept at most (256 KiB each).
const MOST_PIECES: usize = 288;
/// Sampled tiles kept at most (48 KiB each).
const MOST_TILES: usize = 768;
/// Heights are kept in so many steps to the µm: the finest in which the ground's highest and lowest places, with room to spare,
/// can be told (±341, ±682, ±1365, ±2730 µm).
const HEIGHT_STEPS: [f32; 4] = [96.0, 48.0, 24.0, 12.0];
/// Room beyond the highest and lowest place of the reference patch.
const ROOM: f32 = 1.5;
/// Grain is kept in 1/4096.
const GRAIN_STEPS: f32 = 4096.0;

pub(super) type Piece = Rc<(Vec<i16>, Vec<i16>)>;
/// Values with the time of their last use.
type Kept<K, V> = RefCell<HashMap<K, (u64, V)>>;

/// Side of the patch on which the highest and lowest place are looked for, ground pixels.
const SPAN: usize = 128;

/// The steps in which heights up to `most` µm from nought are kept.
fn steps_for(most: f32) -> f32 {
    let fits = |steps: &&f32| ROOM * most * **steps < 32_767.0;
    *HEIGHT_STEPS.iter().find(fits).unwrap_or(&HEIGHT_STEPS[HEIGHT_STEPS.len() - 1])
}

/// A ground, with what has been made of it so far.
pub struct Ground {
    recipe: Recipe,
    key: String,
    /// Reflectance of the bare surface.
    bare: Spectrum,
    maker: Maker,
    /// Of these steps is a µm of the kept heights.
    height_steps: f32,
    /// The reference patch, for statistics.
    reference: Patch,
    level: f32,
    /// The last few ways in which tools met this ground.
    bearings: Recent<Feel, Rc<Bearing>, 8>,
    /// How much of the grain lies within sheet pixels of so many ground pixels.
    grain_within: Recent<f64, f32, 8>,
    pieces: Kept<(i64, i64), Piece>,
    tiles: Kept<TileKey, Rc<GroundTile>>,
    clock: Cell<u64>,
    /// Pieces that were made, not given.
    made: Cell<usize>,
}

impl Ground {
    /// A ground, ready to be sampled. Makes its reference patch (about a tenth of a second).
    ///
    /// # Errors
    /// What [`Recipe::check`] refuses, or an image that is not among `images`.
    pub fn new(recipe: &Recipe, images: &Images) -> Result<Self> {
        Self::begin(recipe, images, None)
    }

    /// As [`Ground::new`], from what [`Ground::stored`] gave of a ground of the same recipe, by the same program: nothing of it is made again.
    ///
    /// # Errors
    /// As [`Ground::new`]; names `stored` where that is not whole.
    pub fn from_stored(recipe: &Recipe, images: &Images, stored: &[u8]) -> Result<Self> {
        Self::begin(recipe, images, Some(Stored::read(&recipe.key(), stored)?))
    }

    /// About the heights of a ground over a region, µm, without anything else being made of it: for a look at one that may change at once.
    ///
    /// # Errors
    /// As [`Ground::new`].
    pub fn sketch(recipe: &Recipe, images: &Images, region: Region) -> Result<Vec<f32>> {
        recipe.check()?;
        Maker::sketch(recipe, images, region)
    }

    /// A ground that differs from this one in its colour or its sizing alone, with all that was made of this one; nothing where more is different.
    pub fn dyed(&self, recipe: &Recipe, images: &Images) -> Option<Result<Self>> {
        if recipe.relief_key() != self.recipe.relief_key() {
            return None;
        }
        let pieces: Vec<_> =
            self.pieces.borrow().iter().map(|(place, (_, piece))| (*place, piece.clone())).collect();
        let made = pieces.len();
        let shared = Stored { fits: self.maker.fits(), height_steps: self.height_steps, pieces };
        let ground = Self::begin(recipe, images, Some(shared));
        // It is worth storing as if it had been made.
        Some(ground.inspect(|g| g.made.set(made)))
    }

    fn begin(recipe: &Recipe, images: &Images, stored: Option<Stored>) -> Result<Self> {
        recipe.check()?;
        let region = Region::new(0, 0, REFERENCE, REFERENCE);
        let side = PIECE as usize;
        let (maker, raw) = match &stored {
            Some(stored) => (Maker::new(recipe, images, Some(stored.fits))?, Vec::new()),
            None => Maker::found(recipe, images, side)?,
        };
        let steps = |raw: &Raw| {
            let heights = maker.brought(raw.corner(side, SPAN));
            steps_for(heights.iter().fold(0.0_f32, |m, h| m.max(h.abs())))
        };
        let height_steps = stored.as_ref().map(|s| s.height_steps).or(raw.first().map(steps));
        let nothing = Patch { region, height: Vec::new(), grain: Vec::new() };
        let tint = tint::find(&recipe.tint).expect("checked above");
        let mut ground = Self {
            key: recipe.key(),
            bare: tint::reflectance(tint, recipe.number("dye")),
            recipe: recipe.clone(),
            height_steps: height_steps.expect("it was stored, or made just now"),
            maker,
            reference: nothing,
            level: 0.0,
            bearings: Recent::default(),
            grain_within: Recent::default(),
            pieces: RefCell::default(),
            tiles: RefCell::default(),
            clock: Cell::default(),
            made: Cell::default(),
        };
        for (i, raw) in (0..).zip(raw) {
            let across = REFERENCE as i64 / PIECE;
            ground.add((i % across, i / across), raw);
        }
        for (key, piece) in stored.into_iter().flat_map(|s| s.pieces) {
            ground.keep(&ground.pieces, key, piece, MOST_PIECES);
        }
        // From pieces, so that the reference shows exactly what a sheet shows, rounding included.
        ground.reference = ground.patch(region);
        let sum: f64 = ground.reference.height.iter().map(|h| f64::from(*h)).sum();
        ground.level = (sum / region.len() as f64) as f32;
        Ok(ground)
    }

    /// What has been made of it so far, for [`Ground::from_stored`]: of its pieces at most `most` (256 KiB each), those used last.
    pub fn stored(&self, most: usize) -> Vec<u8> {
        let pieces = self.pieces.borrow();
        let mut newest: Vec<_> = pieces.iter().collect();
        newest.sort_by_key(|(place, (used, _))| (std::cmp::Reverse(*used), **place));
        let pieces =
            newest.into_iter().take(most).map(|(place, (_, piece))| (*place, piece.clone())).collect();
        Stored { fits: self.maker.fits(), height_steps: self.height_steps, pieces }.write(&self.key)
    }

    /// How many pieces have been made of it; those that were stored are not counted.
    pub fn made(&self) -> usize {
        self.made.get()
    }

    /// A surface with its defaults.
    ///
    /// # Panics
    /// For [`Surface::Image`], which needs its image.
    pub fn generated(surface: Surface) -> Self {
        Self::new(&Recipe::of(surface), &Images::default()).expect("a generated surface needs no image")
    }

    pub fn recipe(&self) -> &Recipe {
        &self.recipe
    }

    /// Equal for equal surfaces: [`Recipe::key`].
    pub fn key(&self) -> &str {
        &self.key
    }

    /// Reflectance of the bare surface per band.
    pub fn bare(&self) -> &Spectrum {
        &self.bare
    }

    /// A patch on which the ground's statistics are taken: 25.6 × 25.6 mm.
    pub fn reference(&self) -> &Patch {
        &self.reference
    }

    /// Mean level of the ground, µm, so that depth scales about it.
    pub fn level(&self) -> f32 {
        self.level
    }

    /// Statistics of this ground as a tool meets it; the last few are kept.
    pub fn bearing(&self, feel: Feel) -> Rc<Bearing> {
        self.bearings.of(feel, || Rc::new(Bearing::new(&self.reference, self.level, feel)))
    }

    /// Share of the grain's variance that lies within sheet pixels of `pixel_mm`.
    pub fn grain_within(&self, pixel_mm: f64, feel: Feel) -> f32 {
        let step = pixel_mm / feel.scale / PITCH_MM;
        self.grain_within.of(step, || sampled::grain_within(&self.reference, step))
    }

    /// The ground over any region.
    pub fn patch(&self, region: Region) -> Patch {
        let mut out = Patch { region, height: vec![0.0; region.len()], grain: vec![0.0; region.len()] };
        let last = |start: i64, size: usize| (start + size as i64 - 1).div_euclid(PIECE);
        for py in region.y.div_euclid(PIECE)..=last(region.y, region.height) {
            for px in region.x.div_euclid(PIECE)..=last(region.x, region.width) {
                let piece = self.piece(px, py);
                let (x0, y0) = (px * PIECE, py * PIECE);
                let left = region.x.max(x0);
                let right = (region.x + region.width as i64).min(x0 + PIECE);
                for y in region.y.max(y0)..(region.y + region.height as i64).min(y0 + PIECE) {
                    let from = ((y - y0) * PIECE + left - x0) as usize;
                    let to = (y - region.y) as usize * region.width + (left - region.x) as usize;
                    let n = (right - left) as usize;
                    for k in 0..n {
                        out.height[to + k] = f32::from(piece.0[from + k]) * (1.0 / self.height_steps);
                        out.grain[to + k] = f32::from(piece.1[from + k]) * (1.0 / GRAIN_STEPS);
                    }
                }
            }
        }
        out
    }

    /// Makes the `n`-th of the pieces that hold a region of ground pixels, row by row, if it is not there; false where there
    /// are not so many. For preparing a sheet bit by bit.
    pub fn prepare(&self, region: Region, n: usize) -> bool {
        let (left, top) = (region.x.div_euclid(PIECE), region.y.div_euclid(PIECE));
        let across = (region.x + region.width as i64 - 1).div_euclid(PIECE) - left + 1;
        let down = (region.y + region.height as i64 - 1).div_euclid(PIECE) - top + 1;
        let n = n as i64;
        if n >= across * down || across * down > MOST_PIECES as i64 {
            return false;
        }
        self.piece(left + n % across, top + n / across);
        true
    }

    fn piece(&self, px: i64, py: i64) -> Piece {
        let key = match self.maker.period().map(|p| p / PIECE) {
            Some(across) => (px.rem_euclid(across), py.rem_euclid(across)),
            None => (px, py),
        };
        if let Some(piece) = self.recall(&self.pieces, &key) {
            return piece;
        }
        self.add(
            key,
            self.maker.raw(Region::new(key.0 * PIECE, key.1 * PIECE, PIECE as usize, PIECE as usize)),
        )
    }

    /// Makes the piece of a place out of what it is made of.
    fn add(&self, key: (i64, i64), raw: Raw) -> Piece {
        let region = Region::new(key.0 * PIECE, key.1 * PIECE, PIECE as usize, PIECE as usize);
        self.made.set(self.made.get() + 1);
        let (height, grain) = self.maker.finished(raw, region);
        let keep = |values: &[f32], steps: f32| -> Vec<i16> {
            values.iter().map(|v| (v * steps).round().clamp(-32_768.0, 32_767.0) as i16).collect()
        };
        let piece = Rc::new((keep(&height, self.height_steps), keep(&grain, GRAIN_STEPS)));
        self.keep(&self.pieces, key, piece.clone(), MOST_PIECES);
        piece
    }

    /// A sampled tile, made if it is not kept.
    pub(super) fn kept_tile(&self, key: TileKey, make: impl FnOnce() -> GroundTile) -> Rc<GroundTile> {
        if let Some(tile) = self.recall(&self.tiles, &key) {
            return tile;
        }
        let tile = Rc::new(make());
        self.keep(&self.tiles, key, tile.clone(), MOST_TILES);
        tile
    }

    fn recall<K: Hash + Eq, V: Clone>(&self, kept: &Kept<K, V>, key: &K) -> Option<V> {
        self.clock.set(self.clock.get() + 1);
        let mut kept = kept.borrow_mut();
        let (used, value) = kept.get_mut(key)?;
        *used = self.clock.get();
        Some(value.clone())
    }

    /// Keeps a value; the one that was not asked for longest makes room.
    fn keep<K: Hash + Eq + Copy, V>(&self, kept: &Kept<K, V>, key: K, value: V, most: usize) {
        let mut kept = kept.borrow_mut();
        if kept.len() >= most
            && let Some(oldest) = kept.iter().min_by_key(|(_, (used, _))| *used).map(|(k, _)| *k)
        {
            kept.remove(&oldest);
        }
        kept.insert(key, (self.clock.get(), value));
    }
}
