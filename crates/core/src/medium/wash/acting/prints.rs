//! Where a tip touches: the outline of its hairs, a sponge's face, a drop.

use std::ops::Range;

use super::hairs::{Across, Contact};
use crate::ground::sampled::Raster;
use crate::medium::paste::blocks::{BODY_UM, FILM_VALUES, FILMS, TOP_UM};
use crate::medium::wash::blocks::plane;
use crate::medium::wash::lay::Cell;
use crate::medium::wash::paper::PaperTile;
use crate::medium::wash::resist::{MASK, RESIST};
use crate::medium::{At, Travel};
use crate::num;
use crate::sheet::{Rect, Sheet, TILE, Tile};

/// Free length that half axes go by, mm, and the lowering at which a round brush has opened, of such a length.
const FREE_MM: f64 = 22.0;
const ROUND_OPENS_MM: f64 = 5.0;
const MOP_OPENS_MM: f64 = 3.5;
const FLAT_OPENS_MM: f64 = 3.2;
/// A point touches in this share of its width at least.
const POINT: f64 = 0.04;
/// Half axes are laid as if they were at least so many pixels.
const THINNEST: f64 = 0.7;
/// What is covered between two prints is looked at in so many places.
const SWEPT: i32 = 4;
/// What dissolves is felt so many times as far as it falls and so much farther, mm, the less the farther (tuned by eye: felt where it falls alone it
/// drives paint off in squares of the grid on which paint spreads).
const DISSOLVES: f64 = 2.0;
const AROUND_MM: f64 = 1.0;
/// It goes ahead in rays: so much of its reach is left between them at the least, and so many of them there are at once, and how much each counts (tuned by eye).
const BETWEEN_RAYS: f64 = 0.3;
const RAYS: [(f64, f64); 4] = [(3.0, 0.4), (5.0, 0.7), (8.0, 0.9), (13.0, 0.7)];
const RAYS_MOST: f64 = 1.4;
/// Holes of a sponge, mm.
const HOLES_MM: [f64; 2] = [1.6, 0.5];
/// Streams of chance.
const PLACE: u64 = 320;
const SIZE: u64 = 322;
const SPONGE: u64 = 324;
const RAY: u64 = 326;

/// What touches the sheet.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Face {
    Round,
    Mop,
    Flat,
    Sponge,
    Drops,
    /// The point of a nib; its straight edge.
    Point,
    Edge,
}

impl Face {
    /// Half axes of the print of a brush of hairs `length_mm` long, lowered so far, mm.
    pub fn half_axes(self, [half, thick]: [f64; 2], length_mm: f64, splay: f64, lowered_mm: f64) -> [f64; 2] {
        let w = FREE_MM * lowered_mm.max(0.0) / length_mm;
        if w <= 0.0 {
            return [0.0; 2];
        }
        let spread = 1.0 + 0.9 * splay * w / FREE_MM;
        let round = |opens: f64| {
            let share = (w / opens).min(1.0);
            let a = half * (POINT + (1.0 - POINT) * libm::pow(share, 0.8)) * spread.min(1.3);
            [a, a]
        };
        match self {
            Face::Flat => {
                let s = (w / FLAT_OPENS_MM).min(1.0);
                [half * spread, thick * s * s * (3.0 - 2.0 * s) * (0.75 + 0.25 * (w / 3.0).min(1.5))]
            }
            Face::Mop => round(MOP_OPENS_MM),
            _ => round(ROUND_OPENS_MM),
        }
    }

    /// Exponent of the superellipse of a print.
    pub fn exponent(self) -> f64 {
        if matches!(self, Face::Flat | Face::Edge) { 8.0 } else { 2.0 }
    }
}

/// One print.
#[derive(Debug, Clone)]
pub struct Print {
    face: Face,
    seed: u64,
    middle: [f64; 2],
    axes: [f64; 2],
    direction: f64,
    /// It goes along, or is pressed on; direction of the pull, and travel, mm.
    goes: bool,
    heading: f64,
    way_mm: f64,
    /// What it went since the print before and covers on the way, mm: a corner that is set down again and again leaves teeth.
    swept_mm: f64,
    exponent: f64,
    /// Share of its width that is bare in the middle.
    gap: f64,
    /// It dissolves in the water around it: to this share of its reach at the least.
    dissolves: Option<f64>,
    chance: f64,
    /// Of this print, for a sponge.
    number: i64,
}

/// The cells of a print in one tile, with how many lie under it and how many are touched.
pub struct Cells {
    pub cells: Vec<Cell>,
    pub under: f64,
    pub touched: f64,
}

impl Print {
    pub fn of(face: Face, seed: u64, at: &At, axes: [f64; 2], direction: f64) -> Self {
        let number = (i64::from(at.stroke) << 24) + i64::from(at.contact);
        Self {
            face,
            seed,
            middle: [at.place.x, at.place.y],
            axes,
            direction,
            goes: face != Face::Drops && matches!(at.travel, Travel::Mm(_)),
            heading: at.signals.heading_deg.to_radians(),
            way_mm: at.way_mm(),
            swept_mm: match at.travel {
                Travel::Mm(mm) if face == Face::Edge => mm,
                _ => 0.0,
            },
            exponent: face.exponent(),
            gap: 0.0,
            dissolves: None,
            chance: f64::from(num::unit(num::hash(seed, PLACE + 1, number, 0))),
            number,
        }
    }

    /// A drop somewhere on a field, `most_mm` across at the most.
    pub fn drop(seed: u64, at: &At, field_mm: f64, most_mm: f64) -> Self {
        let print = Self::of(Face::Drops, seed, at, [0.0; 2], 0.0);
        let chance = |stream: u64, k: i64| f64::from(num::unit(num::hash(seed, stream, print.number, k)));
        let turn = std::f64::consts::TAU * chance(PLACE, 1);
        let far = field_mm * f64::sqrt(chance(PLACE, 2));
        // Many small ones to one that is large.
        let radius = 0.5 * most_mm * (0.12 + 0.88 * libm::pow(chance(SIZE, 0), 3.0));
        let middle = [print.middle[0] + far * libm::cos(turn), print.middle[1] + far * libm::sin(turn)];
        Self { middle, axes: [radius; 2], ..print }
    }

    /// The same, split: a share of its width is bare in the middle.
    pub fn split(self, gap: f64) -> Self {
        Self { gap, ..self }
    }

    /// The same of what dissolves; a grain in `rays`.
    pub fn dissolving(self, rays: bool) -> Self {
        let least = if rays { BETWEEN_RAYS } else { 1.0 };
        Self { dissolves: Some(least), axes: self.axes.map(|axis| DISSOLVES * axis + AROUND_MM), ..self }
    }

    pub fn axes(&self) -> [f64; 2] {
        self.axes
    }

    pub fn middle(&self) -> [f64; 2] {
        self.middle
    }

    /// Where hairs touch in it.
    pub fn across(&self, pixel_mm: f64) -> Across {
        let [a, b] = self.laid_axes(pixel_mm);
        Across { half_mm: num::hypot(a, b), way_mm: self.way_mm, pixel_mm }
    }

    /// Half axes as they are laid.
    fn laid_axes(&self, pixel_mm: f64) -> [f64; 2] {
        self.axes.map(|axis| axis.max(THINNEST * pixel_mm))
    }

    pub fn direction(&self) -> f64 {
        self.direction
    }

    /// A number of 0..1 of its own.
    pub fn chance(&self) -> f64 {
        self.chance
    }

    /// The pixels it may touch; nothing where it touches none.
    pub fn bounds(&self, sheet: &Sheet) -> Option<Rect> {
        let [a, b] = self.axes;
        if a <= 0.0 || b <= 0.0 {
            return None;
        }
        let (cos, sin) = (libm::cos(self.direction).abs(), libm::sin(self.direction).abs());
        let half = [a * cos + b * sin, a * sin + b * cos];
        let raster = sheet.raster();
        let size = [sheet.width(), sheet.height()];
        let edge = |k: usize, mm: f64| (mm - raster.origin_mm[k]) / raster.pixel_mm;
        let low = |k: usize| (f64::floor(edge(k, self.middle[k] - half[k])) - 1.0).max(0.0) as usize;
        let high = |k: usize| {
            let v = f64::ceil(edge(k, self.middle[k] + half[k])) + 1.0;
            if v <= 0.0 { 0 } else { (v as usize).min(size[k]) }
        };
        let rect = Rect { left: low(0), top: low(1), right: high(0), bottom: high(1) };
        (rect.left < rect.right && rect.top < rect.bottom).then_some(rect)
    }

    /// What it touches of a window of a tile. `height`: of the ground under the tile, µm, and its `paper`; without a `contact` it meets all of it.
    /// `masked`: masking fluid keeps it off.
    pub fn cells(
        &self,
        raster: Raster,
        ((tx, ty), [x0, y0, x1, y1]): ((usize, usize), [usize; 4]),
        (height, paper): (&[f32], &PaperTile),
        contact: Option<&Contact>,
        (tile, masked): (Option<&Tile>, bool),
    ) -> Cells {
        let mut out = Cells { cells: Vec::new(), under: 0.0, touched: 0.0 };
        let (cos, sin) = (libm::cos(self.direction), libm::sin(self.direction));
        let (along, aside) = (libm::cos(self.heading), libm::sin(self.heading));
        // A print that is thinner than a pixel covers a share of it, wherever it lies on it: what goes along covers the pixels of its way by
        // how wide it is across that, what is pressed on by its area.
        let [a, b] = self.laid_axes(raster.pixel_mm);
        let turned = self.heading - self.direction;
        let across = |a: f64, b: f64| num::hypot(a * libm::sin(turned), b * libm::cos(turned));
        let thin = if self.goes {
            across(self.axes[0], self.axes[1]) / across(a, b)
        } else {
            self.axes[0] / a * (self.axes[1] / b)
        } as f32;
        let soft = raster.pixel_mm;
        let surely = self.surely([a, b], soft);
        let of_axes = |dx: f64, dy: f64| [(dx * cos + dy * sin) / a, (dy * cos - dx * sin) / b];
        // Water runs off paste, wet or dry as oil is.
        let oily = tile.and_then(|t| t.block(&FILMS));
        let mask = tile.filter(|_| masked).and_then(|t| t.block(&RESIST)).map(|b| plane(b, MASK));
        for y in y0..y1 {
            for x in x0..x1 {
                let index = y * TILE + x;
                let mm = |k: usize, n: usize| {
                    raster.origin_mm[k] + (n as f64 + 0.5) * raster.pixel_mm - self.middle[k]
                };
                let (dx, dy) = (mm(0, tx * TILE + x), mm(1, ty * TILE + y));
                let [p, q] = of_axes(dx, dy);
                let square = p * p + q * q;
                if square > surely.end {
                    continue;
                }
                let mut inwards = if square < surely.start {
                    f64::INFINITY
                } else {
                    self.inwards([a, b], [p, q], [dx, dy])
                };
                if self.swept_mm > 0.0 && inwards < 0.5 * soft && inwards > -2.0 * (soft + self.swept_mm) {
                    for k in 1..SWEPT {
                        let back = self.swept_mm * f64::from(k) / f64::from(SWEPT);
                        let (dx, dy) = (dx + back * along, dy + back * aside);
                        inwards = inwards.max(self.inwards([a, b], of_axes(dx, dy), [dx, dy]));
                    }
                }
                let mut cover = thin * (inwards / soft + 0.5).clamp(0.0, 1.0) as f32;
                if let Some(least) = self.dissolves {
                    let reach = a * (least + (1.0 - least) * self.ray(dx, dy));
                    let near = 1.0 - ((dx * dx + dy * dy) / (reach * reach)).min(1.0) as f32;
                    cover *= near * near;
                }
                if cover <= 0.0 {
                    continue;
                }
                out.under += f64::from(cover);
                if p.abs() < self.gap {
                    continue;
                }
                let Some(contact) = contact else {
                    out.touched += f64::from(cover);
                    out.cells.push(Cell { index, share: cover, film: 1.0, paint: 1.0 });
                    continue;
                };
                let film =
                    oily.map_or(0.0, |f| f[index * FILM_VALUES + TOP_UM] + f[index * FILM_VALUES + BODY_UM]);
                if film > 0.0 {
                    continue;
                }
                let hair = contact.hair(dy * along - dx * aside);
                let holes = if self.face == Face::Sponge { self.sponge(dx, dy) } else { 1.0 };
                let bare = mask.map_or(1.0, |m| 1.0 - m[index]);
                let share = cover * holes * bare * contact.share(height[index], paper.pit_at(x, y), &hair);
                if share > 1e-3 {
                    out.touched += f64::from(share);
                    out.cells.push(Cell { index, share, film: hair.film, paint: hair.paint });
                }
            }
        }
        out
    }

    /// How far it goes in rays towards a place, 0..1 from between two of them to the end of the longest.
    fn ray(&self, dx: f64, dy: f64) -> f64 {
        let towards = libm::atan2(dy, dx);
        let waves = RAYS.iter().zip(0..).map(|((count, size), k)| {
            let turn =
                std::f64::consts::TAU * f64::from(num::unit(num::hash(self.seed, RAY, self.number, k)));
            size * libm::cos(count * towards + turn)
        });
        0.5 - 0.5 * (waves.sum::<f64>() / RAYS_MOST).clamp(-1.0, 1.0)
    }

    /// Squared distance from the middle, in half axes, under which a place surely lies within, and over which outside, of an outline that is `soft`, mm.
    fn surely(&self, [a, b]: [f64; 2], soft: f64) -> Range<f64> {
        if self.exponent != 2.0 || self.swept_mm > 0.0 {
            return 0.0..f64::INFINITY;
        }
        // To its middle it is no nearer than by the shorter axis; with room for what is rounded.
        let half = (0.5 + 1e-6) * soft / a.min(b);
        let within = (1.0 - half).max(0.0);
        within * within..(1.0 + half) * (1.0 + half)
    }

    /// Distance of a place, given in half axes `[a, b]` and in mm from the middle, from the outline, along the way to its middle: positive within, mm.
    fn inwards(&self, [a, b]: [f64; 2], [p, q]: [f64; 2], [dx, dy]: [f64; 2]) -> f64 {
        let r = if self.exponent == 2.0 {
            f64::sqrt(p * p + q * q)
        } else {
            libm::pow(
                libm::pow(p.abs(), self.exponent) + libm::pow(q.abs(), self.exponent),
                1.0 / self.exponent,
            )
        };
        if r > 1e-9 { num::hypot(dx, dy) * (1.0 / r - 1.0) } else { a.min(b) }
    }

    /// Share that a sponge's face leaves open: it presses differently each time.
    fn sponge(&self, dx: f64, dy: f64) -> f32 {
        let noise = |k: usize| {
            let (u, v) = (dx / HOLES_MM[k] + 1000.0, dy / HOLES_MM[k] + 1000.0);
            let (i, j) = (f64::floor(u), f64::floor(v));
            let smooth = |t: f64| t * t * (3.0 - 2.0 * t);
            let (s, t) = (smooth(u - i) as f32, smooth(v - j) as f32);
            let at = |di: i64, dj: i64| {
                num::gaussian(num::hash(
                    self.seed,
                    SPONGE + k as u64,
                    i as i64 + di,
                    (j as i64 + dj) * 65_536 + self.number,
                ))
            };
            let (top, low) = (at(0, 0) + (at(1, 0) - at(0, 0)) * s, at(0, 1) + (at(1, 1) - at(0, 1)) * s);
            top + (low - top) * t
        };
        num::smooth((noise(0) + 0.6 * noise(1) - 0.25) * 2.5 + 0.5)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Slender prints too, from thinner than a pixel to 60 pixels wide.
    #[test]
    fn what_surely_lies_in_a_print_or_out_of_it_is_covered_wholly_or_not_at_all() {
        let soft = 0.25;
        let chance = |stream: u64, k: i64| f64::from(num::unit(num::hash(5, stream, k, 0)));
        let round = Print {
            face: Face::Round,
            seed: 0,
            middle: [0.0; 2],
            axes: [0.0; 2],
            direction: 0.0,
            goes: true,
            heading: 0.0,
            way_mm: 0.0,
            swept_mm: 0.0,
            exponent: 2.0,
            gap: 0.0,
            dissolves: None,
            chance: 0.0,
            number: 0,
        };
        let (mut within, mut without, mut asked) = (0, 0, 0);
        for k in 0..200_000 {
            let [a, b] = [1, 2].map(|stream| soft * (0.7 + 30.0 * libm::pow(chance(stream, k), 3.0)));
            let surely = round.surely([a, b], soft);
            // At the outline most are asked for: there the two ways must meet.
            let turn = std::f64::consts::TAU * chance(3, k);
            let far = 1.0 + (2.0 * chance(4, k) - 1.0) * (0.1 + 1.4 * soft / a.min(b));
            let [p, q] = [far * libm::cos(turn), far * libm::sin(turn)];
            let cover = round.inwards([a, b], [p, q], [a * p, b * q]) / soft + 0.5;
            let square = p * p + q * q;
            if square < surely.start {
                assert!(cover >= 1.0, "{cover} of {a} × {b} at {p}, {q}");
                within += 1;
            } else if square > surely.end {
                assert!(cover <= 0.0, "{cover} of {a} × {b} at {p}, {q}");
                without += 1;
            } else {
                asked += 1;
            }
        }
        assert!(within > 10_000 && without > 10_000 && asked > 10_000, "{within} {without} {asked}");
    }
}
