//! The sheet: material per pixel, in tiles that exist only where something was laid.
//!
//! What a pixel holds is the business of media: each declares the [`Layout`]s of its blocks, and a tile holds a block of a layout
//! once its medium has touched it. Tiles are copied on write, so that a snapshot or a step of undo copies none. The sheet numbers
//! its strokes and keeps its time.

mod changed;
mod layout;
mod surroundings;
mod tile;

use std::rc::Rc;

use sha2::{Digest, Sha256};

use crate::error::{FieldError, Result, within};
use crate::ground::sampled::Raster;
use crate::ground::{Feel, Ground, GroundTile};
use crate::num;

pub use changed::{Changed, Rect};
pub use layout::{Beat, Clock, Layout, TILE, TILE_PIXELS};
pub use surroundings::Surroundings;
pub use tile::Tile;

/// Largest side of a sheet, pixels.
pub const MOST_PIXELS: usize = 32_768;
/// Time of one step, s: whatever moves by itself moves in these.
pub const STEP_S: f64 = 1.0 / 60.0;

/// A sheet that is left to rest is waited for so many steps at the most: half an hour.
pub const LONGEST_REST: u64 = 30 * 60 * 60;
/// Steps that a resting sheet takes together.
const RESTS: u64 = 16;

/// What was on a sheet.
#[derive(Clone)]
pub struct Snapshot {
    tiles: Vec<Option<Rc<Tile>>>,
    clocked: Vec<(&'static Layout, Beat)>,
    strokes: u32,
    under: u32,
    steps: u64,
    waited_min: f64,
    version: u64,
}

/// A sheet of a ground.
pub struct Sheet {
    width: usize,
    height: usize,
    raster: Raster,
    ground: Rc<Ground>,
    tiles: Vec<Option<Rc<Tile>>>,
    /// Layouts with a clock that were ever touched here, and how each goes.
    clocked: Vec<(&'static Layout, Beat)>,
    /// Strokes laid since the sheet was made ready, and those before, that it lies on.
    strokes: u32,
    under: u32,
    /// Steps of time that went over it, and what was waited besides, min.
    steps: u64,
    waited_min: f64,
    surroundings: Surroundings,
    /// Counts changes of tiles; never goes back.
    version: u64,
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
            tiles: vec![None; count],
            clocked: Vec::new(),
            strokes: 0,
            under: 0,
            steps: 0,
            waited_min: 0.0,
            surroundings: Surroundings::default(),
            version: 0,
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

    /// Every pixel of it.
    pub fn rect(&self) -> Rect {
        Rect { left: 0, top: 0, right: self.width, bottom: self.height }
    }

    pub fn tile(&self, tx: usize, ty: usize) -> Option<&Tile> {
        self.tiles[ty * self.across() + tx].as_deref()
    }

    /// All tiles that there are.
    pub fn tiles(&self) -> impl Iterator<Item = &Tile> {
        self.tiles.iter().flatten().map(|t| &**t)
    }

    /// The tile to be changed, made if it is not there.
    pub fn tile_in_place(&mut self, tx: usize, ty: usize) -> &mut Tile {
        let index = ty * self.across() + tx;
        self.version += 1;
        let tile = Rc::make_mut(self.tiles[index].get_or_insert_default());
        tile.version = self.version;
        tile
    }

    /// Some tiles at once to be changed, made where they are not there; no two of `keys` are the same.
    pub fn tiles_in_place(&mut self, keys: &[(usize, usize)]) -> Vec<&mut Tile> {
        self.version += 1;
        let (across, version) = (self.across(), self.version);
        let mut order: Vec<usize> = (0..keys.len()).collect();
        order.sort_by_key(|i| (keys[*i].1, keys[*i].0));
        let mut out: Vec<Option<&mut Tile>> = keys.iter().map(|_| None).collect();
        let (mut rest, mut passed) = (self.tiles.as_mut_slice(), 0);
        for i in order {
            let index = keys[i].1 * across + keys[i].0;
            let (head, tail) = rest.split_at_mut(index + 1 - passed);
            (rest, passed) = (tail, index + 1);
            let tile = Rc::make_mut(head.last_mut().expect("a tile of the sheet").get_or_insert_default());
            tile.version = version;
            out[i] = Some(tile);
        }
        out.into_iter().flatten().collect()
    }

    /// Values of a layout at the pixel `(x, y)`, if it was ever touched in that tile; nothing of one that lies in planes.
    pub fn pixel(&self, layout: &Layout, x: usize, y: usize) -> Option<&[f32]> {
        let block = self.tile(x / TILE, y / TILE)?.block(layout)?;
        let at = layout.place((y % TILE) * TILE + x % TILE, 0);
        (!layout.planes).then(|| &block[at..at + layout.values])
    }

    /// The ground under a tile.
    pub fn ground_tile(&self, tx: usize, ty: usize, feel: Feel) -> Rc<GroundTile> {
        self.raster.kept_tile(&self.ground, feel, (tx * TILE) as i64, (ty * TILE) as i64, TILE)
    }

    /// Makes the `n`-th piece of the paper under this sheet's tiles, as a tool meets it; false where there are not so many.
    pub fn prepare_ground(&self, feel: Feel, n: usize) -> bool {
        let tiles = [self.across() * TILE, self.down() * TILE];
        self.ground.prepare(self.raster.ground_met(feel, [0, 0], tiles), n)
    }

    /// Makes a piece of what the next step of time needs of the paper; false where it has it all.
    pub fn prepare_step(&self) -> bool {
        self.clocks().any(|clock| clock.prepare_step(self))
    }

    /// Share of the grain's variance that lies within a pixel of this sheet.
    pub fn grain_within(&self, feel: Feel) -> f32 {
        self.ground.grain_within(self.raster.pixel_mm, feel)
    }

    /// Begins a stroke: its number since the sheet was made ready, from 0, which chance goes by, and its number among all
    /// strokes on the sheet, from 1, by which pixels know it.
    pub fn next_stroke(&mut self) -> (u32, u32) {
        let number = self.strokes;
        self.strokes += 1;
        (number, self.under + self.strokes)
    }

    /// Strokes laid since the sheet was made ready.
    pub fn strokes(&self) -> u32 {
        self.strokes
    }

    /// What was laid so far is what the sheet lies on: strokes are numbered anew from here, so that chance does not hang on how
    /// much lies under them.
    pub fn made_ready(&mut self) {
        self.under += self.strokes;
        self.strokes = 0;
    }

    /// Something on it would still move by itself.
    pub fn busy(&self) -> bool {
        self.clocks().any(|c| c.busy(self))
    }

    /// Steps of time that went over it, of [`STEP_S`].
    pub fn steps(&self) -> u64 {
        self.steps
    }

    /// What was waited on it between strokes, min: a day in a studio, of which nothing is seen but that paint dries. Strokes' own
    /// seconds do not count.
    pub fn waited_min(&self) -> f64 {
        self.waited_min
    }

    /// The room that it dries in, and how its board stands.
    pub fn surroundings(&self) -> Surroundings {
        self.surroundings
    }

    /// Brings it into another room, or tilts its board: from the next step on.
    ///
    /// # Errors
    /// What [`Surroundings::check`] refuses.
    pub fn bring_into(&mut self, surroundings: Surroundings) -> Result<()> {
        surroundings.check()?;
        self.surroundings = surroundings;
        Ok(())
    }

    /// Waits so many minutes.
    pub fn wait(&mut self, minutes: f64) {
        self.waited_min += minutes.max(0.0);
    }

    /// Lets so many steps of time go over it; tells what changed.
    pub fn advance(&mut self, steps: u64) -> Changed {
        let mut changed = Changed::default();
        self.advance_in_place(steps, &mut changed);
        changed
    }

    /// Lets time go over it until nothing moves by itself, but not longer than [`LONGEST_REST`].
    pub fn rest(&mut self) -> Changed {
        let mut changed = Changed::default();
        self.rest_for(LONGEST_REST, &mut changed);
        changed
    }

    /// Lets so many steps of time go over it, or fewer where nothing moves by itself any more.
    pub fn rest_for(&mut self, steps: u64, changed: &mut Changed) {
        let last = self.steps + steps;
        while self.steps < last && !self.rest_on(last - self.steps, changed) {}
    }

    /// Lets some steps of time go over it, `most` at the most; whether nothing moves by itself any more. It is the same whoever rests, and in
    /// whatever turns: a sheet at rest is found so at whole multiples of these steps, and its count goes on from a whole number of rests.
    pub fn rest_on(&mut self, most: u64, changed: &mut Changed) -> bool {
        self.advance_in_place((RESTS - self.steps % RESTS).min(most), changed);
        let clocks: Vec<_> = self.clocks().collect();
        if self.steps.is_multiple_of(RESTS) && clocks.iter().all(|c| c.still(self) || !c.busy(self)) {
            clocks.iter().for_each(|c| c.end_in_place(self));
        }
        if self.busy() {
            return false;
        }
        self.steps = self.steps.next_multiple_of(LONGEST_REST);
        true
    }

    /// As [`Sheet::advance`], for those who collect what changed.
    pub fn advance_in_place(&mut self, steps: u64, changed: &mut Changed) {
        for left in (0..steps).rev() {
            // Once everything rests, the remaining steps change nothing.
            if !self.busy() {
                self.steps += left + 1;
                return;
            }
            self.steps += 1;
            for clock in self.clocks().collect::<Vec<_>>() {
                clock.step_in_place(self, changed);
            }
        }
    }

    /// Tells that a layout with a clock was touched: from now on time goes over it.
    pub fn wind(&mut self, layout: &'static Layout) {
        if !self.clocked.iter().any(|(l, _)| l.is(layout)) {
            self.clocked.push((layout, Beat::default()));
            self.clocked.sort_by_key(|(l, _)| l.order);
        }
    }

    fn clocks(&self) -> impl Iterator<Item = &'static (dyn Clock + Sync)> {
        self.clocked.iter().filter_map(|(l, _)| l.clock)
    }

    /// How the clock of a layout goes; it has not begun where none of it was ever touched.
    pub fn beat(&self, layout: &Layout) -> Beat {
        self.clocked.iter().find(|(l, _)| l.is(layout)).map_or(Beat::default(), |(_, beat)| *beat)
    }

    /// The clock of a layout that was touched goes so from now on.
    pub fn set_beat(&mut self, layout: &Layout, beat: Beat) {
        self.clocked.iter_mut().filter(|(l, _)| l.is(layout)).for_each(|(_, goes)| *goes = beat);
    }

    /// Everything on the sheet, to go back to. Copies no tile.
    pub fn snapshot(&self) -> Snapshot {
        Snapshot {
            tiles: self.tiles.clone(),
            clocked: self.clocked.clone(),
            strokes: self.strokes,
            under: self.under,
            steps: self.steps,
            waited_min: self.waited_min,
            version: self.version,
        }
    }

    /// Goes back to a snapshot of this sheet, or of one of the same size.
    pub fn restore(&mut self, snapshot: &Snapshot) {
        self.tiles.clone_from(&snapshot.tiles);
        self.clocked.clone_from(&snapshot.clocked);
        // Another sheet may have counted further: what changes from here on is newer than all of it.
        self.version = self.version.max(snapshot.version);
        (self.strokes, self.under, self.steps) = (snapshot.strokes, snapshot.under, snapshot.steps);
        self.waited_min = snapshot.waited_min;
    }

    /// Takes everything off the sheet.
    pub fn wipe(&mut self) {
        self.tiles.iter_mut().for_each(|t| *t = None);
        self.clocked.clear();
        (self.strokes, self.under, self.steps, self.waited_min) = (0, 0, 0, 0.0);
    }

    /// Bytes of material held.
    pub fn bytes(&self) -> usize {
        self.tiles().flat_map(Tile::blocks).map(|(_, values)| size_of_val(values)).sum()
    }

    /// SHA-256 over the material of every tile that holds any, in hexadecimal: equal sheets have equal sums, bit for bit.
    pub fn checksum(&self) -> String {
        let mut hash = Sha256::new();
        hash.update((self.width as u64).to_le_bytes());
        hash.update((self.height as u64).to_le_bytes());
        hash.update(self.raster.pixel_mm.to_le_bytes());
        for (i, tile) in self.tiles.iter().enumerate() {
            let Some(tile) = tile else { continue };
            if tile.blocks().filter(|(l, _)| !l.tells).all(|(l, b)| material(l, b).all(|v| *v == 0.0)) {
                continue;
            }
            hash.update((i as u64).to_le_bytes());
            for (layout, block) in tile.blocks() {
                for value in material(layout, block) {
                    hash.update(value.to_le_bytes());
                }
            }
        }
        num::hex(&hash.finalize())
    }
}

/// The values of a block that are material.
fn material<'a>(layout: &'static Layout, block: &'a [f32]) -> impl Iterator<Item = &'a f32> {
    let pixels = &block[..TILE_PIXELS * layout.values];
    // Planes are one run of values each; those of pixels are as many runs as there are pixels.
    let (run, within) = if layout.planes {
        (pixels.len().max(1), TILE_PIXELS * layout.material.start..TILE_PIXELS * layout.material.end)
    } else {
        (layout.values, layout.material.clone())
    };
    pixels.chunks_exact(run).flat_map(move |p| &p[within.clone()])
}
