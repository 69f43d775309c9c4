//! What of a tip lays: an image or a field of specks over its box, sampled with mipmaps.
//!
//! Levels halve by means of four; between levels and between texels the value is interpolated, so that neither a small move
//! nor a small change of size jumps.

use crate::blur;
use crate::chain::choice::choices;
use crate::error::Result;
use crate::image::{Grey, Images};
use crate::lanes::{self, LANES, Lanes, all, larger, smaller};
use crate::num;

/// Longest side that is kept, texels: a tip on the sheet is rarely larger.
const MOST_SIDE: usize = 2048;

choices! {
    /// How an image is turned over.
    pub enum Flip {
        None = "none", "as it is";
        Along = "along", "end for end";
        Across = "across", "side for side";
        Both = "both", "both";
    }
}

/// How an image is made ready for a tip. Shares are of its width.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Making {
    pub flip_along: bool,
    pub flip_across: bool,
    pub invert: bool,
    /// Values at and below `low` become 0, at and above `high` 1; where `high` is not above `low`, all that lies above `low`
    /// becomes 1.
    pub low: f32,
    pub high: f32,
    pub blur: f64,
    /// Fades out to the rim over this share.
    pub feather: f32,
}

struct Level {
    width: usize,
    height: usize,
    /// Texels of a row with its rim, and all rows.
    stride: usize,
    rimmed: Vec<f32>,
}

/// Values 0..1 over a box.
pub struct Mask {
    levels: Vec<Level>,
    /// Whether it repeats beyond its box.
    tiles: bool,
}

impl Mask {
    /// An image made ready. `tiles`: it repeats beyond its box.
    pub fn of_image(image: &Grey, making: &Making, tiles: bool) -> Self {
        let (mut width, mut height) = (image.width(), image.height());
        let mut values: Vec<f32> = image.values().iter().map(|v| f32::from(*v) / 65_535.0).collect();
        while width.max(height) > MOST_SIDE {
            (values, width, height) = halved(&values, width, height);
        }
        let span = making.high - making.low;
        for v in &mut values {
            *v = if span > 0.0 {
                ((*v - making.low) / span).clamp(0.0, 1.0)
            } else {
                f32::from(u8::from(*v > making.low))
            };
            if making.invert {
                *v = 1.0 - *v;
            }
        }
        if making.flip_along {
            values.chunks_exact_mut(width).for_each(<[f32]>::reverse);
        }
        if making.flip_across {
            let rows: Vec<Vec<f32>> = values.chunks_exact(width).rev().map(<[f32]>::to_vec).collect();
            values = rows.concat();
        }
        if making.blur > 0.0 {
            values = blur::gaussian(&values, width, making.blur * width as f64);
        }
        if making.feather > 0.0 {
            feather_in_place(&mut values, width, height, making.feather * width.min(height) as f32);
        }
        Self::pyramid(values, width, height, tiles)
    }

    /// The image that `field` of a tool names.
    ///
    /// # Errors
    /// Names `field` where the image is not here.
    pub fn named(field: &str, hash: &str, images: &Images, making: &Making, tiles: bool) -> Result<Self> {
        Ok(Self::of_image(images.get(field, hash)?, making, tiles))
    }

    /// Specks in a round: `count` spots of a diameter of `size` (share of the round's), which differ by `spread` (0..1); the
    /// greater `crowd` (0..1), the closer to the middle.
    pub fn of_specks(seed: u64, count: usize, size: f32, spread: f32, crowd: f32) -> Self {
        let side = SPECK_SIDE;
        let mut values = vec![0.0_f32; side * side];
        let half = side as f32 * 0.5;
        for n in 0..count as i64 {
            let draw = |k: i64| num::unit(num::hash(seed, 77, n, k));
            // √ spreads evenly over the round; a higher power crowds towards the middle.
            let far = num::pow(draw(0), 0.5 + 1.5 * crowd);
            let turn = f64::from(draw(1)) * std::f64::consts::TAU;
            let radius =
                (0.5 * size * (1.0 + spread * (2.0 * draw(2) - 1.0)).max(0.1) * side as f32).max(0.5);
            let place = far * (half - radius).max(0.0);
            let (cx, cy) = (half + place * libm::cos(turn) as f32, half + place * libm::sin(turn) as f32);
            let span =
                |c: f32| ((c - radius - 1.0).max(0.0) as usize, ((c + radius + 2.0) as usize).min(side));
            let ((x0, x1), (y0, y1)) = (span(cx), span(cy));
            for y in y0..y1 {
                for x in x0..x1 {
                    let (dx, dy) = (x as f32 + 0.5 - cx, y as f32 + 0.5 - cy);
                    let cover = (radius + 0.5 - (dx * dx + dy * dy).sqrt()).clamp(0.0, 1.0);
                    let cell = &mut values[y * side + x];
                    *cell = cell.max(cover);
                }
            }
        }
        Self::pyramid(values, side, side, false)
    }

    fn pyramid(mut values: Vec<f32>, mut width: usize, mut height: usize, tiles: bool) -> Self {
        let mut levels = vec![Level::new(width, height, &values, tiles)];
        while width.max(height) > 1 {
            (values, width, height) = halved(&values, width, height);
            levels.push(Level::new(width, height, &values, tiles));
        }
        Self { levels, tiles }
    }

    /// Length over width.
    pub fn proportion(&self) -> f32 {
        self.levels[0].width as f32 / self.levels[0].height as f32
    }

    /// Mean value over the box.
    pub fn mean(&self) -> f32 {
        self.levels.last().map_or(0.0, |l| l.texel(0, 0))
    }

    /// The level at which one texel is as large as a pixel, as a broken number; `texels` of the first level to a pixel.
    pub fn level_for(&self, texels: f32) -> f32 {
        // Bilinear between texels already softens by about half a texel.
        let level = num::ln((texels * 0.75).max(1.0)) * std::f32::consts::LOG2_E;
        level.clamp(0.0, (self.levels.len() - 1) as f32)
    }

    /// Texels along the length.
    pub fn width(&self) -> f32 {
        self.levels[0].width as f32
    }

    /// Values at four places of the box, −1..1 along and across; 0 beyond it, unless it tiles.
    #[inline]
    pub fn at(&self, along: Lanes, across: Lanes, level: f32) -> Lanes {
        let whole = level as usize;
        let share = level - whole as f32;
        let fine = self.levels[whole].at(along, across, self.tiles);
        if share <= 0.0 || whole + 1 >= self.levels.len() {
            return fine;
        }
        let coarse = self.levels[whole + 1].at(along, across, self.tiles);
        fine + (coarse - fine) * all(share)
    }

    /// The steepest step between neighbouring texels of the rim, and where no texel of the rim lays anything, 0: what will show
    /// as a line where the tip ends.
    pub fn hard_rim(&self) -> f32 {
        let level = &self.levels[0];
        let (width, height) = (level.width, level.height);
        let row = |y: usize| (0..width).map(|x| level.texel(x, y)).fold(0.0, f32::max);
        let column = |x: usize| (0..height).map(|y| level.texel(x, y)).fold(0.0, f32::max);
        row(0).max(row(height - 1)).max(column(0)).max(column(width - 1))
    }
}

/// Side of a field of specks, texels.
const SPECK_SIDE: usize = 256;

impl Level {
    /// A level of values with a rim about it: nothing, or what lies at the opposite side where it tiles.
    fn new(width: usize, height: usize, values: &[f32], tiles: bool) -> Self {
        let stride = width + RIM_BEFORE + RIM_AFTER;
        let mut rimmed = Vec::with_capacity(stride * (height + RIM_BEFORE + RIM_AFTER));
        for y in 0..height + RIM_BEFORE + RIM_AFTER {
            for x in 0..stride {
                let (x, y) = (x + width - RIM_BEFORE, y + height - RIM_BEFORE);
                let inside = (width..2 * width).contains(&x) && (height..2 * height).contains(&y);
                let value = values[(y % height) * width + x % width];
                rimmed.push(if inside || tiles { value } else { 0.0 });
            }
        }
        Self { width, height, stride, rimmed }
    }

    /// A texel.
    fn texel(&self, x: usize, y: usize) -> f32 {
        self.rimmed[(y + RIM_BEFORE) * self.stride + x + RIM_BEFORE]
    }

    #[inline(always)]
    fn at(&self, along: Lanes, across: Lanes, tiles: bool) -> Lanes {
        let place = |v: Lanes, side: usize| {
            let side = side as f32;
            let x = (v + all(1.0)) * all(0.5 * side) - all(0.5);
            let x = if tiles {
                x - (x * all(1.0 / side)).floor() * all(side)
            } else {
                // Beyond the box by a texel nothing is left.
                smaller(larger(x, all(-1.0)), all(side))
            };
            lanes::split(x + all(RIM_BEFORE as f32))
        };
        let ((ix, fx), (iy, fy)) = (place(along, self.width), place(across, self.height));
        let s = self.stride;
        let corner: [usize; LANES] =
            [iy[0] * s + ix[0], iy[1] * s + ix[1], iy[2] * s + ix[2], iy[3] * s + ix[3]];
        let pick = |offset: usize| -> Lanes { lanes::pick(&self.rimmed[offset..], corner) };
        let (a, b) = (pick(0), pick(1));
        let (c, d) = (pick(self.stride), pick(self.stride + 1));
        let (top, bottom) = (a + (b - a) * fx, c + (d - c) * fx);
        top + (bottom - top) * fy
    }
}

/// Texels of the rim before and after a row or column: as many as a place on its edge reaches.
const RIM_BEFORE: usize = 1;
const RIM_AFTER: usize = 3;

/// Means of two by two; an odd last row or column is counted twice.
fn halved(values: &[f32], width: usize, height: usize) -> (Vec<f32>, usize, usize) {
    let (w, h) = (width.div_ceil(2), height.div_ceil(2));
    let at = |x: usize, y: usize| values[y.min(height - 1) * width + x.min(width - 1)];
    let mut out = Vec::with_capacity(w * h);
    for y in 0..h {
        for x in 0..w {
            let (x, y) = (2 * x, 2 * y);
            out.push(0.25 * (at(x, y) + at(x + 1, y) + at(x, y + 1) + at(x + 1, y + 1)));
        }
    }
    (out, w, h)
}

/// Fades values out over `reach` texels from the rim, as a smooth step.
fn feather_in_place(values: &mut [f32], width: usize, height: usize, reach: f32) {
    for (i, v) in values.iter_mut().enumerate() {
        let (x, y) = (i % width, i / width);
        let rim = x.min(width - 1 - x).min(y).min(height - 1 - y) as f32 + 0.5;
        *v *= num::smooth(rim / reach.max(1e-6));
    }
}
