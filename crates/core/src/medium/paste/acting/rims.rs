//! Paint that is squeezed out on both sides of the way: what the outermost hairs give up, laid in a strip beside them.

use super::pose::corner;
use super::{PasteTool, Step, sweep};
use crate::medium::paste::blocks::{BAND_VALUES, BODY, FILM_VALUES, FILMS, STROKE, TOP, TOP_UM};
use crate::medium::paste::exchange::{LaneStep, Pixel, Tally, heap};
use crate::medium::paste::noise::{along, step, stream, toward};
use crate::sheet::{Changed, Sheet, TILE};

/// Width of the strip, mm, and where in it paint lies highest, as a share of it.
const WIDE_MM: f64 = 0.35;
const PEAK: f32 = 0.3;
/// The most that is laid at a place, µm; and what of it where the stroke itself lies thicker than that.
const MOST_UM: f32 = 90.0;
const BESIDE_UM: f32 = 25.0;
const OVER: f32 = 0.12;
/// Lanes beside the outermost that give as well, on either side.
const NEIGHBOURS: usize = 2;

impl PasteTool {
    /// Squeezes paint out and lays it, after a step.
    pub(super) fn rims_in_place(
        &mut self,
        (move_, number): (&Step, f32),
        lane_steps: &[Option<LaneStep>],
        tallies: &[Tally],
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) {
        let Some(from) = &move_.from else { return };
        if self.make.rim <= 0.0 || move_.travel < 1e-3 {
            return;
        }
        let way = [0, 1].map(|k| (move_.to.pose.place[k] - from.pose.place[k]) / move_.travel);
        // Leading lanes by their place across the way.
        let across = |k: usize| move_.to.lanes[k][1] * way[0] - move_.to.lanes[k][0] * way[1];
        let count = lane_steps.len();
        let leading = || (0..count).filter(|k| lane_steps[*k].is_some());
        let ends = [
            leading().min_by(|a, b| across(*a).total_cmp(&across(*b))),
            leading().max_by(|a, b| across(*a).total_cmp(&across(*b))),
        ];
        for (side, end) in ends.into_iter().enumerate() {
            let Some(end) = end else { continue };
            let outwards = if side == 0 { -WIDE_MM } else { WIDE_MM };
            let beside: Vec<usize> = (0..=2 * NEIGHBOURS)
                .map(|i| (end + count + i - NEIGHBOURS) % count)
                .filter(|k| lane_steps[*k].is_some())
                .collect();
            let slip = libm::hypot(
                move_.to.lanes[end][0] - from.lanes[end][0],
                move_.to.lanes[end][1] - from.lanes[end][1],
            ) as f32;
            let touches = |k: usize| {
                let t = &tallies[k];
                if t.pixels > 0.0 {
                    t.contact / t.pixels
                } else {
                    self.brush.columns[self.brush.lanes[k].column].contact
                }
            };
            // All of them must touch, or a rim is drawn without a brush.
            let least = beside.iter().map(|k| touches(*k)).fold(1.0, f32::min);
            let press = (move_.to.pose.press / 3.0).clamp(0.0, 1.0) as f32;
            for k in &beside {
                let column = &mut self.brush.columns[self.brush.lanes[*k].column];
                let share = self.make.rim * 0.7 * toward(slip / 0.5);
                // What a brush of its own colour alone ploughs from below stays below.
                let of_body = if self.make.own < 1.0 { share } else { 0.0 };
                let squeezed = [
                    column.bow_top.take(share),
                    column.bow_body.take(of_body),
                    column.own.take_volume(0.55 * self.make.rim * press * tallies[*k].gave),
                ];
                squeezed.iter().for_each(|s| self.brush.rims[side].add(s));
            }
            let travel = self.brush.columns[self.brush.lanes[end].column].travel;
            let uneven = (1.0 + 1.5 * along(self.seed, stream::RIM, side, travel / 2.5)).clamp(0.05, 2.5);
            let lays = (toward(slip / 0.6) * uneven * step((least - 0.5) / 0.3)).min(0.9);
            let strip = [from.lanes[end], move_.to.lanes[end]]
                .map(|p| [p, [p[0] - way[1] * outwards, p[1] + way[0] * outwards]]);
            self.heap_in_place(side, strip, lays, number, sheet, changed);
            // What stays flows back.
            let back = self.brush.rims[side].take(toward(slip / 1.5));
            self.brush.columns[self.brush.lanes[end].column].bow_top.add(&back);
        }
    }

    /// Lays a share of a rim in a strip from one pair of places to another.
    fn heap_in_place(
        &mut self,
        side: usize,
        [from, to]: [[[f64; 2]; 2]; 2],
        share: f32,
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
                let tile = sheet.tile_in_place(key.0, key.1);
                [&TOP, &BODY, &FILMS].into_iter().for_each(|l| tile.make_in_place(l));
                let [top, body, films] =
                    tile.blocks_in_place([&TOP, &BODY, &FILMS]).map(|b| b.expect("it was made"));
                let index = (y % TILE) * TILE + x % TILE;
                let films = &mut films[index * FILM_VALUES..(index + 1) * FILM_VALUES];
                let thick = films[STROKE] == number && films[TOP_UM] > BESIDE_UM;
                let um = (height * profile).min(MOST_UM) * if thick { OVER } else { 1.0 };
                let um = um.min(left / mm2);
                if um <= 0.0 {
                    return;
                }
                left -= um * mm2;
                changed.tile(key, [x % TILE, y % TILE, x % TILE + 1, y % TILE + 1]);
                let place = index * BAND_VALUES..(index + 1) * BAND_VALUES;
                let pixel =
                    Pixel { top: &mut top[place.clone()], body: &mut body[place], films, ground: 0.0 };
                heap(pixel, um, &unit, number);
            });
        }
        self.brush.rims[side].take_volume(rim.volume - left.max(0.0));
    }
}
