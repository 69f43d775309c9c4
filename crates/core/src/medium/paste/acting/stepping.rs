//! One step of the tip over the sheet: what each leading lane does, the pixels it sweeps, and what its hairs hold after it.

use super::leading::{Moment, strength};
use super::pose::{Stance, corner};
use super::{PasteTool, Step, sweep};
use crate::medium::paste::blocks::blocks_of_in_place;
use crate::medium::paste::exchange::{Done, LaneStep, Stroke, Tally, meet, pixel_at};
use crate::medium::{Acting, At, Mark};
use crate::sheet::{Changed, Sheet, TILE};

/// Two of some, which are not the same.
fn pair<T>(all: &mut [T], a: usize, b: usize) -> [&mut T; 2] {
    let (low, high) = (a.min(b), a.max(b));
    let (head, tail) = all.split_at_mut(high);
    let (x, y) = (&mut head[low], &mut tail[0]);
    if a < b { [x, y] } else { [y, x] }
}

/// The front of a step: the triangles that its leading sides sweep, what each lane does there, and what it gave and took.
pub(super) struct Front {
    triangles: Vec<Triangle>,
    /// A lane that does not lead does nothing.
    pub(super) lanes: Vec<Option<LaneStep>>,
    pub(super) tallies: Vec<Tally>,
}

/// A part of what the side from a lane to the next sweeps.
struct Triangle {
    lane: usize,
    corners: [sweep::Corner; 3],
    /// Share of the next lane at the corners.
    shares: [f32; 3],
}

impl PasteTool {
    /// Sweeps a step over the sheet; gives what it did, summed over so many pixels.
    pub(super) fn sweep_in_place(
        &mut self,
        step: &Step,
        at: &At,
        flow: f32,
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) -> (Done, usize) {
        let Some(from) = &step.from else { return (Done::default(), 0) };
        let moment = Moment {
            w: step.to.pose.press as f32,
            peak: self.peak as f32,
            way: self.way_mm as f32,
            travel: step.travel as f32,
            press_rise: (strength(step.to.pose.press) - strength(from.pose.press)).max(0.0),
            flow,
            stroke: at.known_as as f32,
            sheet_mm: sheet.pixel_mm(),
        };
        if let Some(open_min) = self.open_min {
            self.brush.dries_min = self.brush.dries_min.max((sheet.waited_min() + open_min) as f32);
        }
        let mut front = self.front(from, step, &moment, sheet);
        let (done, visits) = self.visit_in_place(&mut front, &moment, sheet, changed);
        let way = [0, 1].map(|k| step.to.pose.place[k] - from.pose.place[k]);
        let across = |[x, y]: [f64; 2]| y * way[0] - x * way[1];
        let leading = || front.lanes.iter().enumerate().filter_map(|(k, lane)| lane.as_ref().map(|l| (k, l)));
        // What it takes up along the way it leaves again.
        self.brush.dries_min =
            front.tallies.iter().fold(self.brush.dries_min, |latest, t| latest.max(t.dries_min));
        leading().for_each(|(k, lane)| self.give_up(k, lane.of_own, &front.tallies[k]));
        for (k, _) in leading() {
            let side = usize::from(across(step.to.lanes[k]) > across(step.to.pose.place));
            self.take_up((k, side), step.slip(k) + 0.25 * moment.press_rise, &front.tallies[k]);
        }
        self.rims_in_place((step, moment.stroke), &front, sheet, changed);
        self.even_out(&front.lanes, moment.travel);
        if std::mem::take(&mut self.lifts) {
            if self.blade.is_some() && self.make.give > 0.0 {
                self.ridge_in_place((step, moment.stroke), sheet, changed);
            }
            self.brush.lift();
            (self.stance, self.way_mm) = (None, 0.0);
        }
        (done, visits)
    }

    /// What leads in a step, and what it would do.
    fn front(&mut self, from: &Stance, step: &Step, moment: &Moment, sheet: &Sheet) -> Front {
        let (pixel, origin) = (sheet.pixel_mm(), sheet.raster().origin_mm);
        let on_lattice = |s: &Stance| -> Vec<sweep::Corner> {
            s.lanes.iter().map(|p| corner(*p, origin, pixel)).collect()
        };
        let (before, now) = (on_lattice(from), on_lattice(&step.to));
        let count = now.len();
        let mut triangles = Vec::with_capacity(count);
        // Area that each lane sweeps, mm²: half of what lies on either side.
        let mm2 = (pixel / sweep::LATTICE) * (pixel / sweep::LATTICE) * 0.25;
        let mut areas = vec![0.0_f32; count];
        for lane in 0..count {
            let next = (lane + 1) % count;
            for (corners, shares) in sweep::triangles([before[lane], before[next]], [now[lane], now[next]]) {
                let area = sweep::leads(corners);
                if area > 0 {
                    let half = (area as f64 * mm2) as f32;
                    areas[lane] += half;
                    areas[next] += half;
                    triangles.push(Triangle { lane, corners, shares });
                }
            }
        }
        // A column that leads on both sides, as where the tip lands, shares what it has between them.
        let mut leading = vec![0_u8; self.brush.columns.len()];
        for (lane, area) in self.brush.lanes.iter().zip(&areas) {
            leading[lane.column] += u8::from(*area > 0.0);
        }
        let lane = |k: usize| {
            let part = 1.0 / f32::from(leading[self.brush.lanes[k].column].max(1));
            let place = step.to.lanes[k];
            (areas[k] > 0.0).then(|| self.lane(k, place, [step.slip(k), areas[k], part], moment, sheet))
        };
        Front { triangles, lanes: (0..count).map(lane).collect(), tallies: vec![Tally::NONE; count] }
    }

    /// Exchanges with every pixel that the front sweeps; gives what it did, summed over so many pixels.
    fn visit_in_place(
        &mut self,
        Front { triangles, lanes, tallies }: &mut Front,
        moment: &Moment,
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) -> (Done, usize) {
        let size = [sheet.width(), sheet.height()];
        let mut under = Changed::default();
        triangles.iter().filter_map(|t| sweep::bounds(t.corners, size)).for_each(|rect| under.rect(rect));
        let keys: Vec<(usize, usize)> = under.tiles().collect();
        under.rects().for_each(|rect| changed.rect(rect));
        self.levelling.touched(&keys, moment.stroke);
        let heights: Vec<_> = keys.iter().map(|key| self.lie.ground(*key, sheet)).collect();
        let stroke = Stroke {
            profile: &self.profile,
            number: moment.stroke,
            dries_min: self.brush.dries_min,
            pixel_mm2: (moment.sheet_mm * moment.sheet_mm) as f32,
            exchange_um: self.make.exchange_um,
            takes_free: self.make.takes_free,
            bridges: self.blade.map_or(0.0, |b| b.cornered()),
        };
        let mut blocks: Vec<_> = sheet.tiles_in_place(&keys).into_iter().map(blocks_of_in_place).collect();
        let (mut done, mut visits, mut here) = (Done::default(), 0, 0);
        let count = lanes.len();
        for Triangle { lane, corners, shares } in triangles {
            let next = (*lane + 1) % count;
            let [Some(i), Some(j)] = pair(lanes, *lane, next) else { continue };
            let [ti, tj] = pair(tallies, *lane, next);
            sweep::pixels(*corners, *shares, size, |x, y, u| {
                let key = (x / TILE, y / TILE);
                if keys[here] != key {
                    here = keys.iter().position(|k| *k == key).expect("its tile was found before");
                }
                let index = (y % TILE) * TILE + x % TILE;
                let pixel = pixel_at(&mut blocks[here], index, heights[here][index]);
                done.add(&meet(pixel, [&mut *i, &mut *j], [&mut *ti, &mut *tj], u, &stroke));
                visits += 1;
            });
        }
        (done, visits)
    }

    /// What the step was, for the trace, on a sheet whose corner lies at `origin`.
    pub(super) fn mark(
        &self,
        at: &At,
        step: Option<&Step>,
        (done, visits): (&Done, usize),
        origin: [f64; 2],
    ) -> Mark {
        let axes = step.map_or([0.0; 2], |s| s.to.axes);
        let press = step.map_or(0.0, |s| s.to.pose.press.max(0.0));
        let pixels = visits.max(1) as f32;
        let travel = step.map_or(0.0, |s| s.travel);
        // A blade on its corner lies aside of the pen.
        let [x, y] = step.map_or([at.place.x, at.place.y], |s| s.to.pose.place);
        let own: f32 = self.brush.columns.iter().map(|c| c.own.volume).sum();
        let found: f32 = self.brush.columns.iter().map(|c| c.found.volume).sum();
        Mark {
            x_mm: x - origin[0],
            y_mm: y - origin[1],
            length_mm: 2.0 * axes[0],
            width_mm: 2.0 * axes[1],
            angle_deg: self.direction(at).to_degrees().rem_euclid(360.0),
            area_mm2: self.brush.shape.outline.area() * axes[0] * axes[1],
            travel_mm: travel,
            values: vec![
                press * self.bends.length_mm() / 22.0,
                f64::from(done.touched / pixels),
                f64::from(done.contact / pixels),
                f64::from(done.laid / pixels),
                f64::from(done.taken / pixels),
                f64::from(done.height / pixels),
                Acting::paint_left(self),
                f64::from(found / (own + found).max(1e-12)),
            ],
        }
    }
}
