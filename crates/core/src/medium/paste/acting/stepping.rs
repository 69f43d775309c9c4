//! One step of the tip over the sheet: what each leading lane does, the pixels it sweeps, and what its hairs hold after it.

use super::brush::{LANE_MM, stream};
use super::loading::outside;
use super::pose::{Stance, corner};
use super::{PasteTool, Step, sweep};
use crate::lanes::{self, Lanes};
use crate::medium::paste::blocks::{BAND_VALUES, BODY, FILM_VALUES, FILMS, TOP};
use crate::medium::paste::exchange::{
    Done, LaneStep, PROFILE_MM, PROFILE_STEPS, Pixel, Profile, Stroke, Tally, meet,
};
use crate::medium::paste::noise::{self, along, step};
use crate::medium::paste::stuff::Stuff;
use crate::medium::{Acting, At, Mark};
use crate::num;
use crate::sheet::{Changed, Sheet, TILE};

/// `1 − e^(−x)` of four.
fn reached(x: [f32; 4]) -> [f32; 4] {
    let all = Lanes::from(x.map(|v| -v));
    (lanes::all(1.0) - lanes::exp(all)).to_array()
}

fn toward(x: f32) -> f32 {
    1.0 - num::exp(-x)
}

/// The line that hairs draw over 41 mm: scallops of mixed width, seen through pixels; the same for every stroke of a brush.
pub fn profile(seed: u64, pixel_mm: f32) -> Profile {
    let chance = |k: usize, stream: u64| num::unit(num::hash(seed, stream, k as i64, 7));
    let mut line = vec![0.0_f32; PROFILE_STEPS];
    let (mut at, mut k) = (0.0_f32, 0);
    let whole = PROFILE_STEPS as f32 * PROFILE_MM;
    while at < whole {
        let r = chance(k, stream::LENGTH + 200);
        let wide = (0.10 + 0.10 * r + 0.75 * r * r * r * chance(k, stream::LENGTH + 201).max(0.3))
            .min(whole - at + 0.1);
        let high = (0.35 + 0.45 * chance(k, stream::LENGTH + 202)) * (wide / 0.25).sqrt().min(1.6);
        let (from, to) =
            ((at / PROFILE_MM) as usize, (((at + wide) / PROFILE_MM) as usize).min(PROFILE_STEPS));
        for (i, v) in line.iter_mut().enumerate().take(to).skip(from) {
            let q = 2.0 * ((i as f32 + 0.5) * PROFILE_MM - at) / wide - 1.0;
            *v = high * q * q;
        }
        at += wide;
        k += 1;
    }
    let mean = line.iter().sum::<f32>() / line.len() as f32;
    let gap: Vec<f32> = line.iter().map(|v| v * v).collect();
    let mean_gap = gap.iter().sum::<f32>() / gap.len() as f32;
    let line = line.iter().map(|v| v - mean).collect();
    let gap = gap.iter().map(|v| v / mean_gap).collect();
    Profile { line: seen(seen(line, pixel_mm), pixel_mm), gap: seen(seen(gap, pixel_mm), pixel_mm) }
}

/// Blurred by a box of 1.6 pixels, round and round.
fn seen(values: Vec<f32>, pixel_mm: f32) -> Vec<f32> {
    let half = ((0.8 * pixel_mm / PROFILE_MM).round() as usize).min(PROFILE_STEPS / 4);
    let n = values.len();
    (0..n)
        .map(|i| (0..=2 * half).map(|d| values[(i + n + d - half) % n]).sum::<f32>() / (2 * half + 1) as f32)
        .collect()
}

/// Two of some, which are not the same.
fn pair<T>(all: &mut [T], a: usize, b: usize) -> [&mut T; 2] {
    let (low, high) = (a.min(b), a.max(b));
    let (head, tail) = all.split_at_mut(high);
    let (x, y) = (&mut head[low], &mut tail[0]);
    if a < b { [x, y] } else { [y, x] }
}

/// Share of its width over which a lane gives back what it ploughed, at least.
const NARROWEST: f32 = 0.5;

/// What of a lane is the same for all its values in a step.
struct Moment {
    w: f32,
    peak: f32,
    way: f32,
    travel: f32,
    press_rise: f32,
    flow: f32,
    stroke: f32,
    sheet_mm: f64,
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

    /// What a leading lane does in a step (the study's model, 5 to 7).
    fn lane(
        &mut self,
        k: usize,
        place: [f64; 2],
        [slip, area, part]: [f32; 3],
        moment: &Moment,
        sheet: &Sheet,
    ) -> LaneStep {
        let make = self.make;
        let lane = self.brush.lanes[k];
        let under = self.cells.at(place, moment.stroke, sheet, &mut self.lie);
        let seed = self.seed;
        let [half, _] = self.brush.half_mm;
        let column = &mut self.brush.columns[lane.column];
        let (w, peak, way) = (moment.w, moment.peak, moment.way);
        let sigma = slip + 0.25 * moment.press_rise;
        // Ground and film under it follow over 0.8 mm.
        let felt = column.under.get_or_insert(under);
        let follows = toward(sigma / 0.8);
        felt[0] += (under[0] - felt[0]) * follows;
        felt[1] += (under[1] - felt[1]) * follows;
        let [ground, film] = *felt;
        let (travel, kin) = (column.travel, column.kin);
        let tuft = self.brush.tufts[column.tuft];
        let tn = tuft.press;
        let bn = 0.81 * along(seed, stream::LANE_SLOW, kin, travel / 11.0)
            + 0.4 * along(seed, stream::LANE_FAST, kin, travel / 3.5);
        column.wavers = bn;
        let square = (lane.alpha * lane.alpha) as f32;
        let edge = square * square * square * square;
        let ends = self.hair[4] as f32 / 0.3 * (22.0 / self.hair[2]) as f32;
        let w_i = w + ends * (0.27 * column.uneven + 0.35 * column.tuft_uneven) - 0.25 * edge
            + ends.min(1.0) * 0.55 * (tn + 0.6 * bn) * (w / 3.0).clamp(0.25, 1.0);
        // Where it lands firmly it touches on its whole outline at once.
        let landing = 0.4 * (1.0 - step(travel / 1.2)) * step(w / 0.5);
        let p = (w_i / 3.0).max(landing);
        let p1 = p.clamp(0.0, 1.0);
        column.press += (p - column.press) * if travel < 0.01 { 1.0 } else { toward(sigma / 6.0) };
        let lately = column.press;
        let (own, found) = (column.own.volume, column.found.volume);
        let share = make.own;
        let left = (share * own + (1.0 - share) * found) / share.max(1.0 - share);
        let full = left / outside();
        let bow = (column.bow_top.volume + column.bow_body.volume) / LANE_MM as f32;
        let a = step(way / 4.0);
        let lift = if peak > 0.0 {
            ((strength(f64::from(peak)) - strength(f64::from(w))) / strength(f64::from(peak)).max(1e-6))
                .max(0.0)
        } else {
            0.0
        } * step(way / 2.0);
        let ride = make.ride
            * ((0.35 + 0.58 * p * p).min(0.97) * (1.0 - 0.6 * full.min(1.0) * (1.0 - 0.35 * p).max(0.0))
                / (1.0 + bow / 4000.0))
                .min(0.97);
        let firm = 1.0 - make.flatten * p1 * p1;
        let gain =
            1.0 + (num::exp(0.75 * column.tuft_uneven + 0.55 * column.uneven) - 1.0) * (0.25 + 0.75 * a);
        let rides = 25.0 * (1.0 - 0.55 * p1) + 0.55 * p1 * ground + (1.0 - ride) * film;
        let zc = rides
            + 5.0
            + 45.0 * lift * full.min(1.5)
            + 36.0 * a * (1.0 + 1.2 * (1.0 - full).max(0.0)) * firm * (gain - 0.6 + 0.9 * tn + 0.35 * bn);
        let line = make.hair_um
            * (1.0 - 0.6 * (full / 2.5).min(1.0))
            * step(travel.min(1.5 * way) / 2.5)
            * firm
            * (0.8 + 0.8 * bn).max(0.15);
        let on_outline =
            if self.brush.outline.round { k as f32 * LANE_MM as f32 } else { (lane.alpha * half) as f32 };
        let place = on_outline + 0.22 * tuft.wander + 0.10 * bn + 8.0;
        let from_edge = (1.0 - lane.alpha.abs() as f32) * half as f32;
        let side = if from_edge < 0.35 { 1.0 } else { 0.0 };
        let on = step(w_i / 0.35).max(2.5 * landing).min(1.0) * (1.0 - 0.85 * side * step(0.45 + 1.1 * bn));
        let filled = full.min(1.3);
        let reach = make.reach_um / 165.0
            * (165.0 * num::pow(filled, 0.9) * (0.22 + 0.78 * p.max(lately)) + 12.0)
            * (1.0 + 0.5 * lift)
            * on
            + 45.0 * lift * full.min(1.5)
            - 30.0 * (1.0 - on);
        let lay = make.lay_um
            * moment.flow
            * full.min(1.5)
            * (1.45 - 0.75 * p1)
            * (0.65 + 0.35 * gain)
            * (0.2 + 0.8 * column.contact)
            * (1.0 + 0.35 * (1.0 - a))
            * (0.75 + 0.25 * step(travel))
            * (1.0 + 1.6 * lift)
            * (1.0 + 0.3 * (film / 80.0).min(1.0));
        let lay = lay.min(0.7 * reach).max(0.0);
        let length = ((0.3 * w_i).clamp(0.12, 1.6) + 0.1).min(0.25 + travel);
        let lambda = 3.5 * (0.2 + 0.8 * p1) * (1.0 - 0.75 * lift) * (1.0 + make.dig * num::pow(p1, 4.0));
        let [cuts, gives, exchanges, back] = reached([
            length * make.cut * 0.5,
            length * make.give,
            length * make.exchange,
            sigma / lambda.max(0.2),
        ]);
        let back_body = toward(sigma / (1.8 * lambda.max(0.2)));
        let idle = make.idle_ends && edge > 0.7;
        // A lane that is squeezed between its neighbours gives back no more than over a third of its own width: it would draw a wire.
        let per = if idle { 0.0 } else { 1.0 / area.max(NARROWEST * slip * LANE_MM as f32).max(1e-7) };
        let unit_own = column.own.unit();
        let unit_found = column.found.unit();
        let of_own =
            if left > 0.0 { share * own / (share * own + (1.0 - share) * found).max(1e-20) } else { 0.0 };
        let gives_unit =
            std::array::from_fn(|b| unit_found[b] + (unit_own[b] - unit_found[b]) * lanes::all(of_own));
        let on = if idle { 0.0 } else { 1.0 };
        LaneStep {
            height: Lanes::from([zc, line, place, lay]),
            passage: Lanes::from([
                if idle { -1e4 } else { reach },
                on * cuts * (0.25 + 0.75 * p1),
                on * gives,
                on * exchanges,
            ]),
            back: Lanes::from([
                (1.6 * full).min(1.0),
                firm,
                part * column.bow_top.volume * back * per,
                part * column.bow_body.volume * back_body * per,
            ]),
            gives: gives_unit,
            top: column.bow_top.unit(),
            body: column.bow_body.unit(),
            of_own,
            left: part * left,
            left_top: part * column.bow_top.volume,
            left_body: part * column.bow_body.volume,
        }
    }

    /// What a lane's hairs hold after a step: what they gave is gone, what they took goes where it goes, and they are fed.
    fn settle(&mut self, k: usize, sigma: f32, of_own: f32, tally: &Tally) {
        let make = self.make;
        let seed = self.seed;
        let lane = self.brush.lanes[k];
        let column = &mut self.brush.columns[lane.column];
        let share = make.own;
        column.own.take_volume(tally.gave * of_own);
        column.found.take_volume(tally.gave * (1.0 - of_own));
        column.bow_top.take_volume(tally.gave_top);
        column.bow_body.take_volume(tally.gave_body);
        if tally.pixels > 0.0 {
            column.contact += (tally.contact / tally.pixels - column.contact) * toward(sigma / 1.5);
        }
        let (tn, bn) = (self.brush.tufts[column.tuft].press, column.wavers);
        let tuft = noise::constant(seed, stream::SURFACES, column.tuft);
        let surfaces = (make.surfaces * num::exp(2.0 * tuft + 1.3 * tn + 1.6 * bn)).min(1.0);
        let mut top = tally.top;
        let mut body = tally.body;
        top.add(&body.take(surfaces));
        let absorbed = (make.absorbs * num::exp(1.3 * column.absorbs)).min(1.0);
        column.found.add(&tally.exchanged);
        column.found.add(&top.take(absorbed));
        column.bow_top.add(&top);
        column.bow_body.add(&body);
        // Found paint goes on into the belly, and paint of the belly comes out.
        let belly = &mut self.brush.bellies[column.belly];
        belly.found.add(&column.found.take(toward(sigma * make.carry)));
        let [a, b] = [belly.paints[0].volume, belly.paints[1].volume];
        let found = if share >= 1.0 { 0.0 } else { belly.found.volume };
        let has = a + b + found;
        let lacks = outside() * num::pow(has / belly.full.max(1e-6), 0.6).min(1.3) - column.own.volume;
        if lacks > 0.0 && has > 0.0 {
            let part = (lacks * toward(sigma * make.feed) / has).min(0.5);
            if self.endless {
                let [p, q] = [belly.paints[0], belly.paints[1]];
                for paint in [p, q] {
                    column.own.add_share(&paint, part);
                    self.brought += Stuff {
                        volume: paint.volume * part,
                        bands: paint.bands.map(|v| v * lanes::all(part)),
                    }
                    .amount();
                }
            } else {
                for paint in &mut belly.paints {
                    column.own.add(&paint.take(part));
                }
                if share < 1.0 {
                    column.own.add(&belly.found.take(part));
                }
            }
        }
    }

    /// What is ploughed runs sideways: lanes beside one another on the front even it out.
    fn even_out(&mut self, lane_steps: &[Option<LaneStep>], travel: f32) {
        let share = 0.5 * toward(self.make.sideways * travel);
        let count = lane_steps.len();
        for k in 0..count {
            let next = (k + 1) % count;
            if lane_steps[k].is_none() || lane_steps[next].is_none() {
                continue;
            }
            let (i, j) = (self.brush.lanes[k].column, self.brush.lanes[next].column);
            if i == j {
                continue;
            }
            let columns = &mut self.brush.columns;
            for which in 0..2 {
                let bow = |c: &super::brush::Column| if which == 0 { c.bow_top } else { c.bow_body };
                let (a, b) = (bow(&columns[i]), bow(&columns[j]));
                let moved = 0.5 * share * (a.volume - b.volume).abs();
                if moved <= 0.0 {
                    continue;
                }
                let (from, to) = if a.volume > b.volume { (i, j) } else { (j, i) };
                let source =
                    if which == 0 { &mut columns[from].bow_top } else { &mut columns[from].bow_body };
                let part = source.take_volume(moved);
                let target = if which == 0 { &mut columns[to].bow_top } else { &mut columns[to].bow_body };
                target.add(&part);
            }
        }
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

/// The study's P for a press of so many mm: w = 5 P^0.8 − 0.35.
fn strength(press: f64) -> f32 {
    num::pow(((press + 0.35) / 5.0).max(0.0) as f32, 1.25)
}
