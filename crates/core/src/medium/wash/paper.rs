//! What water feels of a ground: how it holds the line of the wet, how far it slows a film, how much it drinks, where its pits are.
//!
//! After the wash study (constants tuned by eye there, unsourced). All of it is made from the ground's heights and from white noise
//! blurred over lengths in mm, at the ground's own pitch, so that a finer sheet sees the same paper.

use std::cell::RefCell;
use std::collections::HashMap;
use std::rc::Rc;

use crate::blur;
use crate::ground::noise::{blurred_white, coarse_white};
use crate::ground::recipe::SIZED;
use crate::ground::region::half_to_full;
use crate::ground::sampled::Raster;
use crate::ground::{Feel, Ground, PITCH_MM, Region};
use crate::num;
use crate::sheet::{Sheet, TILE};

use super::blocks::FOURS;
use super::step::{Field, HIGH, MARGIN_X, MARGIN_Y, WIDE};

/// The paper under a tile and the cells around it, row by row of [`WIDE`].
pub struct PaperTile {
    /// Height as the head takes it, µm of water.
    pub head: Box<Field>,
    /// Root of how far it slows a film.
    pub drag: Box<Field>,
    /// How thick water must stand to go on over the dry, µm.
    pub barrier: Box<Field>,
    /// The same of such a paper all over, if it were even.
    pub even_barrier: f32,
    /// What it can drink, µm; nothing beyond the sheet's edge.
    pub room: Box<Field>,
    /// How fast it drinks beside a sized paper.
    pub drinks: f32,
    /// Pits under nought, ±1.27.
    pub pit: Box<Field>,
    /// How readily paint drifts over it, a node of four cells.
    pub drifts: Vec<f32>,
    /// Along whose levels paint is stirred, at the upper left corners of cells: through a face goes the difference of its ends.
    pub stream: Box<Field>,
}

impl PaperTile {
    /// Pits under nought, ±1.27, in a pixel of the tile.
    #[inline]
    pub fn pit_at(&self, x: usize, y: usize) -> f32 {
        self.pit[(y + MARGIN_Y) * WIDE + x + MARGIN_X]
    }
}

/// Height that counts in the head: of the ground without its finest tooth, as far as [`NEAR_MM`], over which water and clumps of pigment lie (tuned by
/// eye: with it granulating paint lies in creases, like threads).
const HEAD: f32 = 0.15;
/// What closes the sheet's edge, µm.
pub const WALL_UM: f32 = 1e9;
/// What paper drinks, µm, and how unevenly.
const ROOM_UM: f32 = 45.0;
const ROOM_VARIES: f32 = 0.22;
/// Barrier of dry paper on a straight line, µm, and how unevenly.
const BARRIER_UM: f32 = 300.0;
const BARRIER_VARIES: f32 = 0.2;

/// What sizing does, over that of a watercolour paper: waterleaf drinks so many times as fast, has so much more room, and holds the line of the
/// wet so much less, and the more unevenly, along its fibres (common practice, no source for the numbers: tuned by eye).
const DRINKS_MORE: f64 = 5.0;
const ROOM_MORE: f64 = 2.2;
const HOLDS_LESS: f64 = 0.04;
const VARIES_MORE: f64 = 3.5;

/// Streams of its noises.
const FIBRES: [(u64, f32, f32); 3] = [(301, 0.35, 0.5), (302, 1.0, 0.55), (303, 3.2, 0.45)];
const GRAIN: f32 = 0.35;
const PITS: [(u64, f32, f32); 4] = [(304, 0.34, 0.0), (305, 0.13, 0.28), (306, 0.34, 0.16), (307, 0.9, 0.08)];
/// And of that along which paint is stirred: how fast each stirs, of what there is to stir (tuned by eye: with more of the finest, paint curls like threads).
const STREAM: [(u64, f32, f32); 3] = [(308, 0.35, 0.3), (309, 0.7, 0.5), (310, 1.4, 0.6)];
/// White noise is blurred over so many times its length.
const BLUR: f64 = 0.36;
const SMOOTH_MM: f64 = 0.21;
const NEAR_MM: f64 = 0.11;
const FAR_MM: f64 = 0.55;

/// White noise blurred over a length, of unit variance. Wide blurs are made at a coarser pitch.
fn noise(stream: u64, mm: f32, region: Region) -> Vec<f32> {
    let sigma = BLUR * f64::from(mm) / PITCH_MM;
    if sigma < 3.0 {
        return blurred_white(0, stream, sigma, region);
    }
    if sigma < 12.0 {
        return coarse_white(0, stream, sigma, region);
    }
    let half = region.halved();
    let map = coarse_white(0, stream, sigma / 2.0, half);
    half_to_full(&map, half, region)
}

/// Of the three parts of fibre noise: its deviation, and that of its blur (a Gaussian blur of blurred white noise keeps
/// σ²/(σ² + s²) of its variance).
fn deviations() -> [f32; 2] {
    let kept = |mm: f32| {
        let (sigma, smooth) = (BLUR * f64::from(mm), SMOOTH_MM);
        (sigma * sigma / (sigma * sigma + smooth * smooth)) as f32
    };
    let whole: f32 = FIBRES.iter().map(|(_, _, a)| a * a).sum::<f32>() + GRAIN * GRAIN;
    // Grain is as fine as a few tenths of a mm: about a twelfth of its variance outlasts the blur.
    let blurred: f32 = FIBRES.iter().map(|(_, mm, a)| a * a * kept(*mm)).sum::<f32>() + GRAIN * GRAIN / 12.0;
    [whole.sqrt(), blurred.sqrt()]
}

/// A ground as water feels it on a sheet of one pitch and place.
pub struct Paper {
    raster: Raster,
    size: [i64; 2],
    /// How much of what is uneven in it counts: 1, or 0 for a paper that is alike everywhere.
    uneven: f32,
    /// Deviation of its heights, and of their difference over near and far, µm.
    sq_um: f32,
    band_um: f32,
    tiles: RefCell<HashMap<(usize, usize), Rc<PaperTile>>>,
}

/// Tiles that are kept of all papers together (0.16 MB each): beyond, papers that were asked for longest ago go.
const MOST_TILES: usize = 600;
/// And of one paper, all of which may be wet at once: beyond, its tiles are made anew.
const MOST_OF_ONE: usize = 2048;

/// What a paper is known by: its ground, the sheet's pixels and corner, its size.
type Key = (String, [u64; 3], [usize; 2]);

thread_local! {
    /// The newest last.
    static KEPT: RefCell<Vec<(Key, Rc<Paper>)>> = const { RefCell::new(Vec::new()) };
}

impl Paper {
    /// The paper of a sheet; those asked for last are kept.
    pub fn of(sheet: &Sheet) -> Rc<Self> {
        let raster = sheet.raster();
        let place = [raster.pixel_mm, raster.origin_mm[0], raster.origin_mm[1]].map(f64::to_bits);
        let size = [sheet.width(), sheet.height()];
        let is = |(ground, at, of): &Key| *at == place && *of == size && ground == sheet.ground().key();
        KEPT.with_borrow_mut(|kept| {
            if let Some(at) = kept.iter().rposition(|(key, _)| is(key)) {
                kept[at..].rotate_left(1);
            } else {
                let paper = Rc::new(Self::new(sheet.ground(), raster, sheet));
                kept.push(((sheet.ground().key().to_owned(), place, size), paper));
                let mut tiles: usize = kept.iter().map(|(_, p)| p.tiles.borrow().len()).sum();
                while tiles > MOST_TILES && kept.len() > 1 {
                    tiles -= kept.remove(0).1.tiles.borrow().len();
                }
            }
            kept[kept.len() - 1].1.clone()
        })
    }

    fn new(ground: &Ground, raster: Raster, sheet: &Sheet) -> Self {
        let reference = ground.reference();
        let (heights, width) = (&reference.height, reference.region.width);
        let mean = heights.iter().map(|h| f64::from(*h)).sum::<f64>() / heights.len() as f64;
        let square = |values: &mut dyn Iterator<Item = f64>| {
            f64::sqrt(values.map(|v| v * v).sum::<f64>() / heights.len() as f64) as f32
        };
        let sq_um = square(&mut heights.iter().map(|h| f64::from(*h) - mean));
        let near = blur::gaussian(heights, width, NEAR_MM / PITCH_MM);
        let far = blur::gaussian(heights, width, FAR_MM / PITCH_MM);
        let band_um = square(&mut near.iter().zip(&far).map(|(a, b)| f64::from(a - b)));
        let size = [sheet.width() as i64, sheet.height() as i64];
        Self { raster, size, uneven: 1.0, sq_um, band_um, tiles: RefCell::default() }
    }

    /// A paper that is alike everywhere.
    #[cfg(test)]
    pub fn even(sheet: &Sheet) -> Self {
        Self { uneven: 0.0, ..Self::new(sheet.ground(), sheet.raster(), sheet) }
    }

    /// Deviation of its heights, µm.
    pub fn sq_um(&self) -> f32 {
        self.sq_um
    }

    /// Whether the paper under a tile is made.
    pub fn has(&self, key: (usize, usize)) -> bool {
        self.tiles.borrow().contains_key(&key)
    }

    /// The paper under a tile.
    pub fn tile(&self, ground: &Ground, (tx, ty): (usize, usize)) -> Rc<PaperTile> {
        if let Some(tile) = self.tiles.borrow().get(&(tx, ty)) {
            return tile.clone();
        }
        let tile = Rc::new(self.make(ground, (tx, ty)));
        let mut tiles = self.tiles.borrow_mut();
        if tiles.len() >= MOST_OF_ONE {
            tiles.clear();
        }
        tiles.insert((tx, ty), tile.clone());
        tile
    }

    fn make(&self, ground: &Ground, (tx, ty): (usize, usize)) -> PaperTile {
        let start = [(tx * TILE) as i64 - MARGIN_X as i64, (ty * TILE) as i64 - MARGIN_Y as i64];
        let [height, fibre, smooth, pit, stream] = self.fields(ground, start);
        let inside = |i: usize| {
            let at = [start[0] + (i % WIDE) as i64, start[1] + (i / WIDE) as i64];
            (0..2).all(|k| (0..self.size[k]).contains(&at[k]))
        };
        let cells = 0..WIDE * HIGH;
        // From sized paper to waterleaf it goes by ratios, and on beyond it.
        let bare = (SIZED - ground.recipe().sizing()) / SIZED;
        let sized = |times: f64| libm::pow(times, bare) as f32;
        let (room, holds) = (ROOM_UM * sized(ROOM_MORE), BARRIER_UM * sized(HOLDS_LESS));
        let varies = BARRIER_VARIES * sized(VARIES_MORE);
        let drag = Field::of(smooth.iter().map(|n| num::exp(0.65 * n)));
        let mut drifts = vec![0.0; FOURS * FOURS];
        for (node, to) in drifts.iter_mut().enumerate() {
            let (x, y) = (MARGIN_X + 4 * (node % FOURS), MARGIN_Y + 4 * (node / FOURS));
            let sum: f32 = (0..16).map(|i| drag[(y + i / 4) * WIDE + x + i % 4]).sum();
            let mean = sum / 16.0;
            *to = (1.0 / (mean * mean)).clamp(0.1, 6.0);
        }
        PaperTile {
            head: Field::of(cells.clone().map(|i| if inside(i) { HEAD * height[i] } else { WALL_UM })),
            barrier: Field::of(smooth.iter().map(|n| holds * (1.0 - varies * n).max(0.2))),
            even_barrier: holds,
            room: Field::of(
                cells.map(|i| if inside(i) { room * (1.0 + ROOM_VARIES * fibre[i]).max(0.2) } else { 0.0 }),
            ),
            drag,
            drinks: sized(DRINKS_MORE),
            pit: Field::of(pit),
            drifts,
            stream: Field::of(stream),
        }
    }

    /// Heights without the finest tooth, fibre noise, its blur, pits and the stream, averaged over the sheet's pixels.
    fn fields(&self, ground: &Ground, [x, y]: [i64; 2]) -> [Vec<f32>; 5] {
        let size = [WIDE, HIGH];
        let feel = Feel::default();
        let [deviation, smooth_deviation] = deviations();
        let depth = (self.sq_um / 14.0).clamp(0.15, 1.0);
        let region = self.raster.ground_under(feel, [x, y], size);
        let near_far = blur::reach(FAR_MM / PITCH_MM);
        let wide = region.grown(near_far);
        let patch = ground.patch(wide);
        let [near, far] = [NEAR_MM, FAR_MM]
            .map(|mm| blur::gaussian_within(&patch.height, wide.width, mm / PITCH_MM, near_far));
        let mut pit: Vec<f32> = near
            .iter()
            .zip(&far)
            .map(|(a, b)| 0.42 * depth * ((a - b) / self.band_um.max(0.05)).clamp(-2.2, 2.2))
            .collect();
        for (which, (stream, mm, amplitude)) in PITS.into_iter().enumerate() {
            let values = noise(stream, mm, region);
            for (p, v) in pit.iter_mut().zip(values) {
                if which == 0 { *p *= 1.0 + 0.45 * v } else { *p += amplitude * v }
            }
        }
        pit.iter_mut().for_each(|p| *p = p.clamp(-1.27, 1.27));
        let margin = blur::reach(SMOOTH_MM / PITCH_MM);
        let grown = region.grown(margin);
        let mut fibre: Vec<f32> = ground.patch(grown).grain.iter().map(|g| GRAIN * g).collect();
        for (stream, mm, amplitude) in FIBRES {
            for (f, v) in fibre.iter_mut().zip(noise(stream, mm, grown)) {
                *f += amplitude * v;
            }
        }
        let smooth = blur::gaussian_within(&fibre, grown.width, SMOOTH_MM / PITCH_MM, margin);
        let scaled = |values: &[f32], by: f32| -> Vec<f32> { values.iter().map(|v| v / by).collect() };
        let (fibre, smooth) =
            (scaled(&region.cut(&fibre, margin), deviation), scaled(&smooth, smooth_deviation));
        let level = ground.level();
        let height: Vec<f32> = near.iter().map(|h| h - level).collect();
        let mut stream = vec![0.0; region.width * region.height];
        for (number, mm, stirs) in STREAM {
            // Blurred over σ it rises by 1/√2σ on the mean.
            let rises = std::f32::consts::SQRT_2 * BLUR as f32 * mm / self.raster.pixel_mm as f32;
            for (s, v) in stream.iter_mut().zip(noise(number, mm, region)) {
                *s += stirs * rises * v;
            }
        }
        [height, fibre, smooth, pit, stream].map(|values| {
            let mut out = self.raster.averaged(feel, [x, y], size, &values);
            out.iter_mut().for_each(|v| *v *= self.uneven);
            out
        })
    }
}
