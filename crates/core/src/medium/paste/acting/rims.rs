//! Paint that is squeezed out on both sides of the way: what the outermost hairs give up, laid in a strip beside them.

use super::pose::corner;
use super::settling::own_leaves;
use super::stepping::Front;
use super::{PasteTool, Step, sweep};
use crate::medium::paste::blocks::{STROKE, TOP_UM, blocks_of_in_place};
use crate::medium::paste::exchange::{heap, pixel_at};
use crate::medium::paste::noise::{along, constant, stream, toward};
use crate::num::smooth;
use crate::sheet::{Changed, Sheet, TILE};

/// Where in the strip paint lies highest, as a share of its width.
const PEAK: f32 = 0.3;
/// The most that is laid at a place, µm, and how much more where a furrow is cut; and what of it where the stroke itself lies
/// thicker than that.
const MOST_UM: f32 = 90.0;
const FURROW_UM: f32 = 400.0;
const BESIDE_UM: f32 = 25.0;
const OVER: f32 = 0.12;
/// A blade leaves such a share of its bead where it is lifted, in pieces so wide, mm, and no higher than this, µm.
const RIDGE_SHARE: f32 = 0.35;
const RIDGE_MM: f64 = 1.6;
const RIDGE_UM: f32 = 220.0;
/// Lanes beside the outermost that give as well, on either side.
const NEIGHBOURS: usize = 2;

impl PasteTool {
    /// Squeezes paint out and lays it, after a step.
    pub(super) fn rims_in_place(
        &mut self,
        (step, number): (&Step, f32),
        Front { lanes, tallies, .. }: &Front,
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) {
        let Some(from) = &step.from else { return };
        if self.make.rim + self.make.furrow <= 0.0 || step.travel < 1e-3 {
            return;
        }
        let way = [0, 1].map(|k| (step.to.pose.place[k] - from.pose.place[k]) / step.travel);
        // Leading lanes by their place across the way.
        let across = |k: usize| step.to.lanes[k][1] * way[0] - step.to.lanes[k][0] * way[1];
        let count = lanes.len();
        let leading = || (0..count).filter(|k| lanes[*k].is_some());
        let ends = [
            leading().min_by(|a, b| across(*a).total_cmp(&across(*b))),
            leading().max_by(|a, b| across(*a).total_cmp(&across(*b))),
        ];
        for (side, end) in ends.into_iter().enumerate() {
            let Some(end) = end else { continue };
            let wide = f64::from(self.make.shoulder_mm);
            let outwards = if side == 0 { -wide } else { wide };
            let beside: Vec<usize> = (0..=2 * NEIGHBOURS)
                .map(|i| (end + count + i - NEIGHBOURS) % count)
                .filter(|k| lanes[*k].is_some())
                .collect();
            let slip = step.slip(end);
            let touches = |k: usize| {
                let t = &tallies[k];
                if t.pixels > 0.0 {
                    t.contact / t.pixels
                } else {
                    self.brush.columns[self.brush.lanes[k].column].contact
                }
            };
            // All of them must touch, or a rim is drawn without a brush.
            // What a furrow throws out lies beside it however its edge touches.
            let least = if self.make.furrow > 0.0 {
                1.0
            } else {
                beside.iter().map(|k| touches(*k)).fold(1.0, f32::min)
            };
            let press = (step.to.pose.press / 3.0).clamp(0.0, 1.0) as f32;
            for k in &beside {
                let column = &mut self.brush.columns[self.brush.lanes[*k].column];
                let share = self.make.rim * 0.7 * toward(slip / 0.5);
                // What a brush of its own colour alone ploughs from below stays below.
                let of_body = if self.make.own < 1.0 { share } else { 0.0 };
                // Of what it gave so much again, of own and found as it gave them.
                let again = 0.55 * self.make.rim * press * tallies[*k].gave;
                let of_own = lanes[*k].as_ref().map_or(1.0, |l| l.of_own);
                let squeezed = [
                    column.bow_top.take(share),
                    column.bow_body.take(of_body),
                    own_leaves(&mut column.own, again * of_own, self.leaves.as_ref(), &mut self.brought),
                    column.found.take_volume(again * (1.0 - of_own)),
                ];
                squeezed.iter().for_each(|s| self.brush.rims[side].add(s));
            }
            let travel = self.brush.columns[self.brush.lanes[end].column].travel;
            let uneven = (1.0 + 1.5 * along(self.seed, stream::RIM, side, travel / 2.5)).clamp(0.05, 2.5);
            let lays = (toward(slip / 0.6) * uneven * smooth((least - 0.5) / 0.3)).min(0.9);
            let strip = [from.lanes[end], step.to.lanes[end]]
                .map(|p| [p, [p[0] - way[1] * outwards, p[1] + way[0] * outwards]]);
            let most = MOST_UM + FURROW_UM * self.make.furrow;
            self.heap_in_place(side, strip, [lays, most], number, sheet, changed);
            // What stays flows back.
            let back = self.brush.rims[side].take(toward(slip / 1.5));
            let column = &mut self.brush.columns[self.brush.lanes[end].column];
            if self.blade.is_some() { column.found.add(&back) } else { column.bow_top.add(&back) }
        }
    }

    /// Where a blade is lifted, a part of its bead stays behind as a torn ridge.
    pub(super) fn ridge_in_place(
        &mut self,
        (step, number): (&Step, f32),
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) {
        let heading = step.to.pose.heading;
        let lanes = &step.to.lanes;
        let count = lanes.len();
        // The lanes of the leading side, from one end to the other.
        let pieces = ((self.brush.shape.half_mm[0] * 2.0 / RIDGE_MM) as usize).max(1);
        for piece in 0..pieces {
            let from = 2.0 * piece as f64 / pieces as f64 - 1.0;
            let to = from + 2.0 / pieces as f64;
            let within: Vec<usize> = (0..count)
                .filter(|k| {
                    let lane = &self.brush.lanes[*k];
                    (from..to).contains(&lane.alpha)
                        && lane.beta > 0.0
                        && self.brush.columns[lane.column].contact > 0.5
                })
                .collect();
            let (Some(first), Some(last)) = (within.first(), within.last()) else { continue };
            if first == last {
                continue;
            }
            for k in &within {
                let column = &mut self.brush.columns[self.brush.lanes[*k].column];
                let left = [column.own.take(RIDGE_SHARE), column.found.take(RIDGE_SHARE)];
                left.iter().for_each(|part| self.brush.rims[0].add(part));
            }
            let torn = 0.55 + 0.35 * f64::from(constant(self.seed, stream::RIM, piece));
            // Up to the next piece.
            let before = first.checked_sub(1).filter(|k| self.brush.lanes[*k].beta > 0.0).unwrap_or(*first);
            let strip = [before, *last].map(|k| {
                let p = lanes[k];
                [p, [p[0] + torn * libm::cos(heading), p[1] + torn * libm::sin(heading)]]
            });
            self.heap_in_place(0, strip, [1.0, RIDGE_UM], number, sheet, changed);
        }
    }

    /// Lays a share of a rim in a strip from one pair of places to another.
    fn heap_in_place(
        &mut self,
        side: usize,
        [from, to]: [[[f64; 2]; 2]; 2],
        [share, most_um]: [f32; 2],
        number: f32,
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) {
        let (pixel, origin) = (sheet.pixel_mm(), sheet.raster().origin_mm);
        let on_lattice = |p: [f64; 2]| corner(p, origin, pixel);
        let (mut from, mut to) = (from.map(on_lattice), to.map(on_lattice));
        let turned =
            |t: &[([sweep::Corner; 3], [f32; 3]); 2]| t.iter().map(|(c, _)| sweep::leads(*c)).sum::<i64>();
        let mut triangles = sweep::triangles(from, to);
        let mut outwards = true;
        if turned(&triangles) == 0 {
            (from, to) = ([from[1], from[0]], [to[1], to[0]]);
            triangles = sweep::triangles(from, to);
            outwards = false;
        }
        let area = turned(&triangles) as f64 * 0.5 * (pixel / sweep::LATTICE) * (pixel / sweep::LATTICE);
        let mm2 = (pixel * pixel) as f32;
        let rim = self.brush.rims[side];
        if area < 1e-6 || rim.volume <= 0.0 || share <= 0.0 {
            return;
        }
        // A triangle of twice the mean height.
        let height = 2.0 * rim.volume * share / area as f32;
        let unit = rim.unit();
        // What a furrow throws out is heaped on what it threw there before.
        let heaps = self.make.furrow > 0.0;
        let (levelling, dries_min) = (&mut self.levelling, self.brush.dries_min);
        let size = [sheet.width(), sheet.height()];
        let mut left = rim.volume;
        for (corners, shares) in triangles {
            if sweep::leads(corners) == 0 {
                continue;
            }
            sweep::pixels(corners, shares, size, |x, y, u| {
                let out = if outwards { u } else { 1.0 - u };
                let profile = if out < PEAK { out / PEAK } else { (1.0 - out) / (1.0 - PEAK) };
                let key = (x / TILE, y / TILE);
                let mut blocks = blocks_of_in_place(sheet.tile_in_place(key.0, key.1));
                let pixel = pixel_at(&mut blocks, (y % TILE) * TILE + x % TILE, 0.0);
                let thick = !heaps && pixel.films[STROKE] == number && pixel.films[TOP_UM] > BESIDE_UM;
                let um = (height * profile).min(most_um) * if thick { OVER } else { 1.0 };
                let um = um.min(left / mm2);
                if um <= 0.0 {
                    return;
                }
                left -= um * mm2;
                levelling.touched(&[key], number);
                changed.tile(key, [x % TILE, y % TILE, x % TILE + 1, y % TILE + 1]);
                heap(pixel, um, &unit, dries_min, number);
            });
        }
        self.brush.rims[side].take_volume(rim.volume - left.max(0.0));
    }
}
