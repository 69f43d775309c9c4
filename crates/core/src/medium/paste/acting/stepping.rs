//! One step of the tip over the sheet: what each leading lane does, the pixels it sweeps, and what its hairs hold after it.

use super::leading::{Moment, strength};
use super::pose::{Stance, corner};
use super::{PasteTool, Step, sweep};
use crate::medium::paste::blocks::{BAND_VALUES, BODY, FILM_VALUES, FILMS, TOP};
use crate::medium::paste::exchange::{Done, LaneStep, Pixel, Stroke, Tally, meet};
use crate::medium::{Acting, At, Mark};
use crate::sheet::{Changed, Sheet, TILE};

/// Two of some, which are not the same.
fn pair<T>(all: &mut [T], a: usize, b: usize) -> [&mut T; 2] {
    let (low, high) = (a.min(b), a.max(b));
    let (head, tail) = all.split_at_mut(high);
    let (x, y) = (&mut head[low], &mut tail[0]);
    if a < b { [x, y] } else { [y, x] }
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
        let mut done = Done::default();
        let Some(from) = &step.from else { return (done, 0) };
        let (pixel, origin) = (sheet.pixel_mm(), sheet.raster().origin_mm);
        let on_lattice = |s: &Stance| -> Vec<sweep::Corner> {
            s.lanes.iter().map(|p| corner(*p, origin, pixel)).collect()
        };
        let (before, now) = (on_lattice(from), on_lattice(&step.to));
        let count = now.len();
        let quad = |k: usize| {
            let next = (k + 1) % count;
            sweep::triangles([before[k], before[next]], [now[k], now[next]])
        };
        // Area that each lane sweeps, mm²: half of what lies on either side.
        let mm2 = (pixel / sweep::LATTICE) * (pixel / sweep::LATTICE) * 0.25;
        let mut areas = vec![0.0_f32; count];
        for k in 0..count {
            let area = quad(k).iter().map(|(t, _)| sweep::leads(*t)).sum::<i64>();
            let half = (area as f64 * mm2) as f32;
            areas[k] += half;
            areas[(k + 1) % count] += half;
        }
        let moment = Moment {
            w: step.to.pose.press as f32,
            peak: self.peak as f32,
            way: self.way_mm as f32,
            travel: step.travel as f32,
            press_rise: (strength(step.to.pose.press) - strength(from.pose.press)).max(0.0),
            flow,
            stroke: at.known_as as f32,
            sheet_mm: pixel,
        };
        // A column that leads on both sides, as where the tip lands, shares what it has between them.
        let mut leading = vec![0_u8; self.brush.columns.len()];
        for (lane, area) in self.brush.lanes.iter().zip(&areas) {
            leading[lane.column] += u8::from(*area > 0.0);
        }
        let mut lane_steps: Vec<Option<LaneStep>> = Vec::with_capacity(count);
        for k in 0..count {
            let slip =
                libm::hypot(step.to.lanes[k][0] - from.lanes[k][0], step.to.lanes[k][1] - from.lanes[k][1])
                    as f32;
            let leads = areas[k] > 0.0;
            let part = 1.0 / f32::from(leading[self.brush.lanes[k].column].max(1));
            let place = step.to.lanes[k];
            lane_steps.push(leads.then(|| self.lane(k, place, [slip, areas[k], part], &moment, sheet)));
        }
        let mut tallies = vec![Tally::NONE; count];
        let visits =
            self.visit_in_place(&quad, &mut lane_steps, &mut tallies, &moment, sheet, changed, &mut done);
        for k in 0..count {
            if let Some(LaneStep { of_own, .. }) = lane_steps[k] {
                let slip = libm::hypot(
                    step.to.lanes[k][0] - from.lanes[k][0],
                    step.to.lanes[k][1] - from.lanes[k][1],
                ) as f32;
                self.settle(k, slip + 0.25 * moment.press_rise, of_own, &tallies[k]);
            }
        }
        self.rims_in_place((step, moment.stroke), &lane_steps, &tallies, sheet, changed);
        self.even_out(&lane_steps, moment.travel);
        if std::mem::take(&mut self.lifts) {
            self.brush.lift();
            (self.stance, self.way_mm) = (None, 0.0);
        }
        (done, visits)
    }

    /// Exchanges with every pixel that the leading sides sweep.
    #[allow(clippy::too_many_arguments)]
    fn visit_in_place(
        &mut self,
        quad: &impl Fn(usize) -> [([sweep::Corner; 3], [f32; 3]); 2],
        lane_steps: &mut [Option<LaneStep>],
        tallies: &mut [Tally],
        moment: &Moment,
        sheet: &mut Sheet,
        changed: &mut Changed,
        done: &mut Done,
    ) -> usize {
        let size = [sheet.width(), sheet.height()];
        let count = lane_steps.len();
        // The tiles that sides lie over.
        let mut boxes: Vec<((usize, usize), [usize; 4])> = Vec::new();
        for k in 0..count {
            for (corners, _) in quad(k) {
                if sweep::leads(corners) == 0 {
                    continue;
                }
                let Some(rect) = sweep::bounds(corners, size) else { continue };
                for (key, window) in rect.tiles() {
                    match boxes.iter_mut().rev().find(|(b, _)| *b == key) {
                        Some((_, b)) => {
                            *b = [
                                b[0].min(window[0]),
                                b[1].min(window[1]),
                                b[2].max(window[2]),
                                b[3].max(window[3]),
                            ];
                        }
                        None => boxes.push((key, window)),
                    }
                }
            }
        }
        if boxes.is_empty() {
            return 0;
        }
        boxes.iter().for_each(|(key, window)| changed.tile(*key, *window));
        let keys: Vec<(usize, usize)> = boxes.iter().map(|b| b.0).collect();
        let heights: Vec<_> = keys.iter().map(|key| self.lie.ground(*key, sheet)).collect();
        let stroke = Stroke {
            profile: &self.profile,
            number: moment.stroke,
            pixel_mm2: (moment.sheet_mm * moment.sheet_mm) as f32,
            exchange_um: self.make.exchange_um,
            gives_first: self.make.gives_first,
        };
        let mut blocks: Vec<_> = sheet
            .tiles_in_place(&keys)
            .into_iter()
            .map(|tile| {
                [&TOP, &BODY, &FILMS].into_iter().for_each(|l| tile.make_in_place(l));
                tile.blocks_in_place([&TOP, &BODY, &FILMS]).map(|b| b.expect("it was made"))
            })
            .collect();
        let mut visits = 0;
        let mut here = 0;
        for k in 0..count {
            let next = (k + 1) % count;
            for (corners, shares) in quad(k) {
                if sweep::leads(corners) == 0 {
                    continue;
                }
                let [Some(i), Some(j)] = pair(lane_steps, k, next) else { continue };
                let [ti, tj] = pair(tallies, k, next);
                sweep::pixels(corners, shares, size, |x, y, u| {
                    let key = (x / TILE, y / TILE);
                    if keys[here] != key {
                        here = keys.iter().position(|k| *k == key).expect("its tile was found before");
                    }
                    let index = (y % TILE) * TILE + x % TILE;
                    let [top, body, films] = &mut blocks[here];
                    let pixel = Pixel {
                        top: &mut top[index * BAND_VALUES..(index + 1) * BAND_VALUES],
                        body: &mut body[index * BAND_VALUES..(index + 1) * BAND_VALUES],
                        films: &mut films[index * FILM_VALUES..(index + 1) * FILM_VALUES],
                        ground: heights[here][index],
                    };
                    let one = meet(pixel, [&mut *i, &mut *j], [&mut *ti, &mut *tj], u, &stroke);
                    done.laid += one.laid;
                    done.taken += one.taken;
                    done.contact += one.contact;
                    done.touched += one.touched;
                    done.height += one.height;
                    visits += 1;
                });
            }
        }
        visits
    }

    /// What the step was, for the trace.
    pub(super) fn mark(&self, at: &At, step: Option<&Step>, done: &Done, visits: usize) -> Mark {
        let axes = step.map_or([0.0; 2], |s| s.to.axes);
        let press = step.map_or(0.0, |s| s.to.pose.press.max(0.0));
        let pixels = visits.max(1) as f32;
        let travel = step.map_or(0.0, |s| s.travel);
        let own: f32 = self.brush.columns.iter().map(|c| c.own.volume).sum();
        let found: f32 = self.brush.columns.iter().map(|c| c.found.volume).sum();
        Mark {
            x_mm: at.place.x,
            y_mm: at.place.y,
            length_mm: 2.0 * axes[0],
            width_mm: 2.0 * axes[1],
            angle_deg: self.direction(at).to_degrees().rem_euclid(360.0),
            area_mm2: std::f64::consts::PI * axes[0] * axes[1],
            travel_mm: travel,
            values: vec![
                press * self.hair[2] / 22.0,
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
