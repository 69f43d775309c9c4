//! A blade over the sheet: it does not bend to what lies there but stands at a gap over it, takes all that stands higher and lays
//! what its bead reaches (the paste study's knife).

use super::PasteTool;
use super::brush::LANE_MM;
use super::leading::Moment;
use crate::chain::{Qualities, Quality, Settings, Signals};
use crate::lanes::{self, Lanes};
use crate::medium::paste::exchange::LaneStep;
use crate::medium::paste::noise::{across, along, constant, stream};
use crate::medium::paste::parameters::is_blade;
use crate::num::smooth;
use crate::sheet::Sheet;

/// How far a blade follows the ground under it.
const FOLLOWS: f32 = 0.15;
/// Over the lowest ground it stands so high without force, µm.
const STANDS_UM: f32 = 25.0;
/// A bead of a square mm reaches so many times as far down as a brush is said to reach.
const BEAD_REACHES: f32 = 4.2;
/// Way over which the torn beginning of a stroke closes, mm, and how far torn sides fray.
const BEGINS_MM: f32 = 0.3;
const FRAYS_MM: f32 = 0.12;
/// Beyond this slope a blade that stands on its corner is as good as upright.
const STEEPEST: f64 = 3.0;
/// A blade that rises so much across stands on its corner half, µm/mm.
const STEEP_UM_MM: f32 = 50.0;

/// A blade: what it is, and how it is held at the moment.
#[derive(Debug, Clone, Copy)]
pub struct Blade {
    most_um: f64,
    give: f64,
    corner: f64,
    /// Gap over the ground at its lowest place, µm; and how far it rises across, µm/mm, towards one side.
    gap_um: f32,
    rises: f32,
}

impl Blade {
    /// A tool's; nothing where it has hairs.
    pub fn of(tool: &Settings<'_>) -> Option<Self> {
        let n = |id: &str| tool.number(id);
        is_blade(tool).then(|| Self {
            most_um: n("relief.lay_um"),
            give: n("tip.blade_give"),
            corner: n("tip.corner"),
            gap_um: 0.0,
            rises: 0.0,
        })
    }

    /// Holds it so, its width in a direction (radians); gives how firmly it is pressed, as a brush is lowered: 3 where its gap is
    /// closed, below 0 where it does not touch.
    pub fn hold(&mut self, qualities: &Qualities, signals: &Signals, direction: f64) -> f64 {
        let force = qualities.get(Quality::Force);
        if force <= 0.0 {
            return -0.1;
        }
        let open = libm::exp(-self.give * force / self.most_um.max(1.0));
        self.gap_um = (self.most_um * open) as f32;
        // The side towards which the pen leans comes down.
        let along = libm::cos(signals.lean_deg.to_radians() - direction);
        let slope = self.corner * libm::tan(signals.tilt_deg.clamp(0.0, 80.0).to_radians()) * along;
        self.rises = (-1e3 * slope.clamp(-STEEPEST, STEEPEST)) as f32;
        3.0 * (1.0 - open) + 0.05
    }
}

impl Blade {
    /// Gap over the ground at its lowest place, mm.
    pub fn gap_mm(&self) -> f64 {
        1e-3 * f64::from(self.gap_um)
    }

    /// How far it stands on its corner, 0..1.
    pub fn cornered(&self) -> f32 {
        self.rises.abs() / (self.rises.abs() + STEEP_UM_MM)
    }

    /// How far the blade's middle lies from the pen along its width, as a share of half of it: the pen presses on the corner.
    pub fn aside(&self) -> f64 {
        f64::from(self.rises.signum() * self.cornered())
    }
}

impl PasteTool {
    /// What lane `k` of a blade does, with a part of what its column has.
    pub(super) fn blade_lane(
        &mut self,
        blade: &Blade,
        k: usize,
        place: [f64; 2],
        part: f32,
        moment: &Moment,
        sheet: &Sheet,
    ) -> LaneStep {
        let make = self.make;
        let lane = self.brush.lanes[k];
        let [ground, _] = self.cells.at(place, moment.stroke, sheet, &mut self.lie);
        let half = self.brush.shape.half_mm[0] as f32;
        let column = &self.brush.columns[lane.column];
        let (a, s, seed) = (lane.alpha as f32 * half, column.travel, self.seed);
        let uneven = 1.0
            + 0.1 * across(seed, stream::BLADE, a / 0.7, s / 9.0)
            + 0.07 * across(seed, stream::BLADE_FINE, a / 0.3, s / 25.0)
            + 0.12 * across(seed, stream::BLADE_BROAD, a / 4.0, s / 6.0);
        let rises = blade.rises.abs() * (half + a * blade.rises.signum());
        let height = STANDS_UM * (1.0 - FOLLOWS) + FOLLOWS * ground + blade.gap_um * uneven + rises;
        let has = column.own.volume + column.found.volume;
        // The bead before the blade, µm·mm: thousands of them are a square mm.
        let bead = has / LANE_MM as f32 * 1e-3;
        // A corner is pressed on too hard to fray.
        let frays = 1.0 - blade.cornered();
        let beads = 1.0
            + frays
                * (0.5 * across(seed, stream::BEAD, a / 1.2, s / 1.6)
                    + 0.35 * across(seed, stream::BEAD_FINE, a / 0.4, s / 0.6));
        let from_end = half - a.abs();
        let side = usize::from(a > 0.0);
        let frayed =
            along(seed, stream::TORN, side, s / 1.1) + 0.6 * along(seed, stream::TORN_FINE, side, s / 0.35);
        let closed = smooth(from_end / (FRAYS_MM + 0.5 * frayed.max(0.0) * frays) + 0.6);
        // Its beginning is torn.
        let torn = 0.6 + 0.35 * constant(seed, stream::RAGGED, k);
        let covers = closed * smooth((s - torn) / BEGINS_MM + 0.5);
        let reach = BEAD_REACHES * make.reach_um * bead.max(0.0).sqrt() * beads.max(0.05) * covers
            - 30.0 * (1.0 - covers);
        let of_own = if has > 0.0 { column.own.volume / has } else { 0.0 };
        let (unit_own, unit_found) = (self.unit_own(column), column.found.unit());
        LaneStep {
            height: Lanes::from([height, 0.0, a + 8.0, 0.0]),
            passage: Lanes::from([reach, make.cut, make.give, 0.0]),
            back: Lanes::from([0.0, 0.0, 0.0, 0.0]),
            gives: std::array::from_fn(|b| {
                unit_found[b] + (unit_own[b] - unit_found[b]) * lanes::all(of_own)
            }),
            top: column.bow_top.unit(),
            body: column.bow_body.unit(),
            level: ground,
            of_own,
            left: part * has,
            left_top: 0.0,
            left_body: 0.0,
        }
    }
}
