//! What a leading lane does in a step: where its hair stands, what it would lay, how it meets what lies there, and what it gives back
//! of what it ploughed (the paste study's model, 5 to 7).

use super::PasteTool;
use super::brush::LANE_MM;
use super::loading::outside;
use crate::lanes::{self, Lanes};
use crate::medium::paste::exchange::LaneStep;
use crate::medium::paste::noise::{along, step, stream, toward};
use crate::num;
use crate::sheet::Sheet;

/// `1 − e^(−x)` of four.
fn reached(x: [f32; 4]) -> [f32; 4] {
    let all = Lanes::from(x.map(|v| -v));
    (lanes::all(1.0) - lanes::exp(all)).to_array()
}

/// Share of its width over which a lane gives back what it ploughed, at least.
const NARROWEST: f32 = 0.5;

/// What is the same for all lanes in a step.
pub(super) struct Moment {
    /// How far the brush is lowered now, and was at the most lately, as of hairs of 22 mm.
    pub(super) w: f32,
    pub(super) peak: f32,
    /// Way of the pass and of this step, mm.
    pub(super) way: f32,
    pub(super) travel: f32,
    /// By how much the study's P has risen.
    pub(super) press_rise: f32,
    /// Share of what it would lay.
    pub(super) flow: f32,
    /// Number by which pixels know the stroke, and side of a pixel, mm.
    pub(super) stroke: f32,
    pub(super) sheet_mm: f64,
}

impl PasteTool {
    /// What lane `k` does, whose hairs' ends stand at `place` and have slipped so far over an area, with a part of what their column has.
    pub(super) fn lane(
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
        let [half, _] = self.brush.shape.half_mm;
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
        let on_outline = if self.brush.shape.outline.round {
            k as f32 * LANE_MM as f32
        } else {
            (lane.alpha * half) as f32
        };
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
        // A lane that is squeezed between its neighbours gives back no more than over half of its own width: it would draw a wire.
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
}

/// The study's P for a press of so many mm: w = 5 P^0.8 − 0.35.
pub(super) fn strength(press: f64) -> f32 {
    num::pow(((press + 0.35) / 5.0).max(0.0) as f32, 1.25)
}
