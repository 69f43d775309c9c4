//! What media keep on a sheet: blocks of values, a layout each, declared by the medium that owns it.

use std::ops::Range;

use super::{Changed, Sheet};

/// Side of a tile, pixels.
pub const TILE: usize = 64;
/// Pixels of a tile.
pub const TILE_PIXELS: usize = TILE * TILE;

/// How a block is laid out. A medium declares its layouts as statics: a layout is known by where it stands in memory.
pub struct Layout {
    /// For people: «powder».
    pub name: &'static str,
    /// Place among all layouts of all media, from the ground up; no two have the same (tested).
    pub order: u8,
    /// Values of a pixel; they lie together (planes of their own measured 4–6 times slower for dabs).
    pub values: usize,
    /// Instead, all pixels' values of one kind lie together, row by row: for what is computed over whole tiles, four pixels at once.
    pub planes: bool,
    /// Values of the tile as a whole, after those of its pixels.
    pub beside: usize,
    /// Which values of a pixel are material: they make the checksum. The rest is what a medium must remember.
    pub material: Range<usize>,
    /// It only tells how the material of other blocks lies: by itself it is nothing.
    pub tells: bool,
    /// Which values of a pixel are height over what lies under it, µm, while they are fresh and once they have dried: what has
    /// dried is ground for what comes.
    pub fresh: &'static [usize],
    pub dried: &'static [usize],
    /// Which value of a pixel says when what is fresh there dries, minutes of [`super::Sheet::waited_min`].
    pub dries_at: Option<usize>,
    /// What moves while the hand rests; nothing for what stays as it was laid.
    pub clock: Option<&'static (dyn Clock + Sync)>,
}

impl Layout {
    /// Numbers of a block.
    pub fn len(&self) -> usize {
        TILE_PIXELS * self.values + self.beside
    }

    /// Where a value of a pixel lies in a block.
    #[inline]
    pub fn place(&self, pixel: usize, value: usize) -> usize {
        if self.planes { value * TILE_PIXELS + pixel } else { pixel * self.values + value }
    }

    pub fn is_empty(&self) -> bool {
        self.len() == 0
    }

    /// Whether it is the same declaration.
    pub fn is(&self, other: &Layout) -> bool {
        std::ptr::eq(self, other)
    }
}

impl std::fmt::Debug for Layout {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(self.name)
    }
}

/// How a clock goes that takes some steps together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Beat {
    /// Since which step of the sheet.
    pub since: u64,
    /// In turns of so many (0: it has not begun), each taken in so many parts.
    pub every: u64,
    pub parts: u64,
    /// How much longer, in parts of the sheet's steps, those were that were taken otherwise and still wait for something to come of them: of all that
    /// belong together, and of the last pair.
    pub longer: u64,
    pub longer_pair: u64,
}

/// What becomes of blocks with time, in steps of [`super::STEP_S`].
pub trait Clock {
    /// Whether anything would still move.
    fn busy(&self, sheet: &Sheet) -> bool;

    /// Whether nothing more would come of time than that it ends: what still goes on is not seen and leaves nothing.
    fn still(&self, _sheet: &Sheet) -> bool {
        false
    }

    /// Ends what still goes on, as time would.
    fn end_in_place(&self, _sheet: &mut Sheet) {}

    /// Makes the `n`-th piece of what it keeps of the paper under a sheet; false where there are not so many. Steps make what they
    /// need by themselves: it only takes them longer.
    fn prepare(&self, _sheet: &Sheet, _n: usize) -> bool {
        false
    }

    /// Makes a piece of what the next step needs of the paper; false where it has it all.
    fn prepare_step(&self, _sheet: &Sheet) -> bool {
        false
    }

    /// One step, of which [`Sheet::steps`] counts the number from 1; tells the tiles that changed.
    fn step_in_place(&self, sheet: &mut Sheet, changed: &mut Changed);
}
