//! What a leading lane does in a step: where its hair stands, what it would lay, how it meets what lies there, and what it gives back
//! of what it ploughed (the paste study's model, 5 to 7).

use super::PasteTool;
use super::brush::{Column, LANE_MM, Lane};
use crate::lanes::{self, Lanes};
use crate::medium::paste::blocks::Bands;
use crate::medium::paste::exchange::LaneStep;
use crate::medium::paste::make::Make;
use crate::medium::paste::noise::{along, stream, toward};
use crate::num::{self, smooth};
use crate::sheet::Sheet;

/// `1 − e^(−x)` of four.
fn reached(x: [f32; 4]) -> [f32; 4] {
    let all = Lanes::from(x.map(|v| -v));
    (lanes::all(1.0) - lanes::exp(all)).to_array()
}

/// Share of its width over which a lane gives back what it ploughed, at least.
const NARROWEST: f32 = 0.5;

/// Within this of a mark's edge is its side, mm.
const SIDE_MM: f32 = 0.35;

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

/// How a lane's hairs stand in a step: what follows from how they are pressed, what they hold and what lies under them.
struct Stand {
    /// How far they are pressed, over 3 mm, and that up to 1; w_i itself, mm as of hairs of 22 mm.
    p: f32,
    p1: f32,
    w_i: f32,
    /// How full they are (1 as they stay while fed), and how firm.
    full: f32,
    firm: f32,
    /// Unevenness of tuft and lane along the way, and how much more than the mean they lay.
    tn: f32,
    bn: f32,
    gain: f32,
    /// How far the stroke has begun, 0..1; how far the brush is lifting, 0..1; how firmly it has just landed.
    begun: f32,
    lift: f32,
    landing: f32,
    /// Mean ground and film under them, µm.
    ground: f32,
    film: f32,
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
        if let Some(blade) = self.blade {
            return self.blade_lane(&blade, k, place, part, moment, sheet);
        }
        let make = self.make;
        let Lane { alpha, column: at, .. } = self.brush.lanes[k];
        let half = self.brush.shape.half_mm[0] as f32;
        let sigma = slip + 0.25 * moment.press_rise;
        let own = self.brush.columns[at].own.volume;
        let found = self.brush.columns[at].found.volume;
        let share = make.own;
        let left = (share * own + (1.0 - share) * found) / share.max(1.0 - share);
        let stand = self.stand(k, place, sigma, left / self.outside(), moment, sheet);
        let column = &self.brush.columns[at];
        let Stand { p1, w_i, full, firm, lift, .. } = stand;

        let on_outline =
            if self.brush.shape.outline.round { k as f32 * LANE_MM as f32 } else { alpha as f32 * half };
        let lines = on_outline + 0.22 * self.brush.tufts[column.tuft].wander + 0.10 * stand.bn + 8.0;
        let from_edge = (1.0 - alpha.abs() as f32) * half;
        let reach = make.reach(&stand, column, from_edge < SIDE_MM);
        let lay = make.lay(&stand, column, moment.flow).min(0.7 * reach).max(0.0);

        // Length of contact that a pixel sees of the passage, and the way over which what is ploughed comes back.
        let length = ((0.3 * w_i).clamp(0.12, 1.6) + 0.1).min(0.25 + column.travel);
        let lambda =
            3.5 * make.keeps * (0.2 + 0.8 * p1) * (1.0 - 0.75 * lift) * (1.0 + make.dig * num::pow(p1, 4.0));
        let [cuts, gives, exchanges, back] = reached([
            length * make.cut * 0.5,
            length * make.give,
            length * make.exchange,
            sigma / lambda.max(0.2),
        ]);
        let back_body = toward(sigma / (1.8 * lambda.max(0.2)));
        let idle = make.idle_ends && eighth(alpha) > 0.7;
        // A lane that is squeezed between its neighbours gives back no more than over half of its own width: it would draw a wire.
        let per = if idle { 0.0 } else { 1.0 / area.max(NARROWEST * slip * LANE_MM as f32).max(1e-7) };
        let (unit_own, unit_found) = (self.unit_own(column), column.found.unit());
        let of_own =
            if left > 0.0 { share * own / (share * own + (1.0 - share) * found).max(1e-20) } else { 0.0 };
        let on = if idle { 0.0 } else { 1.0 };
        LaneStep {
            height: Lanes::from([
                make.height(&stand, column),
                make.line(&stand, column, moment.way),
                lines,
                lay,
            ]),
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
            gives: std::array::from_fn(|b| {
                unit_found[b] + (unit_own[b] - unit_found[b]) * lanes::all(of_own)
            }),
            top: column.bow_top.unit(),
            body: column.bow_body.unit(),
            level: stand.ground,
            of_own,
            left: part * left,
            left_top: part * column.bow_top.volume,
            left_body: part * column.bow_body.volume,
        }
    }

    /// K and S of a unit of a column's own paint as it leaves.
    pub(super) fn unit_own(&self, column: &Column) -> Bands {
        let unit = column.own.unit();
        self.leaves.as_ref().map_or(unit, |leaves| leaves.unit(&unit))
    }

    /// How its hairs stand; they remember it.
    fn stand(
        &mut self,
        k: usize,
        place: [f64; 2],
        sigma: f32,
        full: f32,
        moment: &Moment,
        sheet: &Sheet,
    ) -> Stand {
        let Lane { alpha, column, .. } = self.brush.lanes[k];
        let under = self.cells.at(place, moment.stroke, sheet, &mut self.lie);
        let column = &mut self.brush.columns[column];
        let (w, travel, kin) = (moment.w, column.travel, column.kin);
        // Ground and film under it follow over 0.8 mm.
        let felt = column.under.get_or_insert(under);
        let follows = toward(sigma / 0.8);
        felt[0] += (under[0] - felt[0]) * follows;
        felt[1] += (under[1] - felt[1]) * follows;
        let [ground, film] = *felt;
        let tn = self.brush.tufts[column.tuft].press;
        let bn = 0.81 * along(self.seed, stream::LANE_SLOW, kin, travel / 11.0)
            + 0.4 * along(self.seed, stream::LANE_FAST, kin, travel / 3.5);
        column.wavers = bn;
        let ends = self.bends.uneven_mm() as f32 / 0.3 * (22.0 / self.bends.length_mm()) as f32;
        let w_i = w + ends * (0.27 * column.uneven + 0.35 * column.tuft_uneven) - 0.25 * eighth(alpha)
            + ends.min(1.0) * 0.55 * (tn + 0.6 * bn) * (w / 3.0).clamp(0.25, 1.0);
        // Where it lands firmly it touches on its whole outline at once.
        let landing = 0.4 * (1.0 - smooth(travel / 1.2)) * smooth(w / 0.5);
        let p = (w_i / 3.0).max(landing);
        let p1 = p.clamp(0.0, 1.0);
        column.press += (p - column.press) * if travel < 0.01 { 1.0 } else { toward(sigma / 6.0) };
        let begun = smooth(moment.way / 4.0);
        let peak = strength(f64::from(moment.peak));
        let fallen = if peak > 0.0 { ((peak - strength(f64::from(w))) / peak).max(0.0) } else { 0.0 };
        let uneven = num::exp(0.75 * column.tuft_uneven + 0.55 * column.uneven);
        Stand {
            p,
            p1,
            w_i,
            full,
            firm: 1.0 - self.make.flatten * p1 * p1,
            tn,
            bn,
            gain: 1.0 + (uneven - 1.0) * (0.25 + 0.75 * begun),
            begun,
            lift: fallen * smooth(moment.way / 2.0),
            landing,
            ground,
            film,
        }
    }
}

impl Make {
    /// z_c without hair lines, µm: loaded rides, starved digs.
    fn height(&self, s: &Stand, column: &Column) -> f32 {
        let bow = (column.bow_top.volume + column.bow_body.volume) / LANE_MM as f32;
        let carried =
            (0.35 + 0.58 * s.p * s.p).min(0.97) * (1.0 - 0.6 * s.full.min(1.0) * (1.0 - 0.35 * s.p).max(0.0));
        let ride = self.ride * (carried / (1.0 + bow / 4000.0)).min(0.97);
        25.0 * (1.0 - 0.55 * s.p1)
            + 0.55 * s.p1 * s.ground
            + (1.0 - ride) * s.film
            + 5.0
            + 45.0 * s.lift * s.full.min(1.5)
            + 36.0
                * s.begun
                * (1.0 + 1.2 * (1.0 - s.full).max(0.0))
                * s.firm
                * (s.gain - 0.6 + 0.9 * s.tn + 0.35 * s.bn)
    }

    /// A, the depth of hair lines, µm, `way` mm into the stroke.
    fn line(&self, s: &Stand, column: &Column, way: f32) -> f32 {
        self.hair_um
            * (1.0 - 0.6 * (s.full / 2.5).min(1.0))
            * smooth(column.travel.min(1.5 * way) / 2.5)
            * s.firm
            * (0.8 + 0.8 * s.bn).max(0.15)
    }

    /// δ, how far paint reaches under the hairs, µm; at the side of the mark contact is lost now and then.
    fn reach(&self, s: &Stand, column: &Column, side: bool) -> f32 {
        let lost = if side { 0.85 * smooth(0.45 + 1.1 * s.bn) } else { 0.0 };
        let on = smooth(s.w_i / 0.35).max(2.5 * s.landing).min(1.0) * (1.0 - lost);
        self.reach_um / 165.0
            * (165.0 * num::pow(s.full.min(1.3), 0.9) * (0.22 + 0.78 * s.p.max(column.press)) + 12.0)
            * (1.0 + 0.5 * s.lift)
            * on
            + 45.0 * s.lift * s.full.min(1.5)
            - 30.0 * (1.0 - on)
    }

    /// ℓ, the paint that hairs would leave under them, µm.
    fn lay(&self, s: &Stand, column: &Column, flow: f32) -> f32 {
        self.lay_um
            * flow
            * s.full.min(1.5)
            * (1.45 - 0.75 * s.p1)
            * (0.65 + 0.35 * s.gain)
            * (0.2 + 0.8 * column.contact)
            * (1.0 + 0.35 * (1.0 - s.begun))
            * (0.75 + 0.25 * smooth(column.travel))
            * (1.0 + 1.6 * s.lift)
            * (1.0 + 0.3 * (s.film / 80.0).min(1.0))
    }
}

/// The eighth power of a place on the outline: its ends alone.
fn eighth(alpha: f64) -> f32 {
    let square = (alpha * alpha) as f32;
    square * square * square * square
}

/// The study's P for a press of so many mm: w = 5 P^0.8 − 0.35.
pub(super) fn strength(press: f64) -> f32 {
    num::pow(((press + 0.35) / 5.0).max(0.0) as f32, 1.25)
}
