//! The trace: every factor along one stroke, recorded by the code that laid it.

use serde::{Deserialize, Serialize};

use super::qualities::Values;
use crate::hand::Signals;
use crate::medium::dry::Done;
use crate::touch::Factor;

/// One dab of a stroke.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
pub struct DabTrace {
    /// Which pass of the gesture, and travel over all passes, mm.
    pub pass: u32,
    pub at_mm: f64,
    /// Place on the sheet, mm.
    pub x_mm: f64,
    pub y_mm: f64,
    pub signals: Signals,
    /// Force that the hand pressed the pen with, gf (from the device profile).
    pub hand_gf: f64,
    /// How far steadying keeps the tip behind the pen: mm, and ms at the pen's speed.
    pub lag_mm: f64,
    pub lag_ms: f64,
    /// Every quality in its unit, in the order of `Quality::ALL`.
    pub qualities: Vec<f64>,
    /// What each response did.
    pub factors: Vec<Factor>,
    /// Footprint: length and width in mm, direction of its length in degrees, area in mm².
    pub length_mm: f64,
    pub width_mm: f64,
    pub angle_deg: f64,
    pub area_mm2: f64,
    /// Mean load P/H under the tip, and the load a press at the responses' most would give.
    pub load: f64,
    pub full_load: f64,
    /// Share of the footprint where stick and paper touch.
    pub covered: f64,
    /// Mean contact where they touch and beside, 0..1.
    pub contact: f64,
    /// Share of the tooth, where touched, that was full before this dab.
    pub full: f64,
    /// Powder laid under the tip by this dab, mean in µm per mm of travel.
    pub laid_um_per_mm: f64,
    /// Powder taken up from under the tip, likewise.
    pub pickup_um_per_mm: f64,
    /// Thickest film under the tip, µm.
    pub film_um: f64,
    /// Travel that this dab stands for, mm.
    pub travel_mm: f64,
}

/// The geometry the engine chose for a dab.
pub struct Placed {
    pub pass: u32,
    pub at_mm: f64,
    pub x_mm: f64,
    pub y_mm: f64,
    pub hand_gf: f64,
    pub lag_mm: f64,
    pub lag_ms: f64,
    pub length_mm: f64,
    pub width_mm: f64,
    pub angle_deg: f64,
    pub area_mm2: f64,
    pub full_load: f64,
    pub travel_mm: f64,
}

impl DabTrace {
    pub fn new(
        placed: &Placed,
        signals: Signals,
        values: &Values,
        factors: Vec<Factor>,
        done: &Done,
    ) -> Self {
        let mean = |sum: f32| if done.cover > 0.0 { f64::from(sum) / f64::from(done.cover) } else { 0.0 };
        let touched = f64::from(done.touched);
        Self {
            pass: placed.pass,
            at_mm: placed.at_mm,
            x_mm: placed.x_mm,
            y_mm: placed.y_mm,
            signals,
            hand_gf: placed.hand_gf,
            lag_mm: placed.lag_mm,
            lag_ms: placed.lag_ms,
            qualities: values.0.to_vec(),
            factors,
            length_mm: placed.length_mm,
            width_mm: placed.width_mm,
            angle_deg: placed.angle_deg,
            area_mm2: placed.area_mm2,
            load: mean(done.load),
            full_load: placed.full_load,
            covered: mean(done.touched),
            contact: mean(done.contact),
            full: if touched > 0.0 { f64::from(done.full) / touched } else { 0.0 },
            laid_um_per_mm: if placed.travel_mm > 0.0 { mean(done.laid) / placed.travel_mm } else { 0.0 },
            pickup_um_per_mm: if placed.travel_mm > 0.0 { mean(done.taken) / placed.travel_mm } else { 0.0 },
            film_um: f64::from(done.thickest),
            travel_mm: placed.travel_mm,
        }
    }
}

/// All dabs of a gesture in the order in which they were laid.
#[derive(Debug, Clone, PartialEq, Default, Serialize)]
pub struct Trace {
    pub dabs: Vec<DabTrace>,
    pub balance: Balance,
}

/// Where the powder of a gesture came from and went, mm³. What the sheet gained is `from_stick − in_tool − dust`.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize)]
pub struct Balance {
    pub from_stick_mm3: f64,
    pub in_tool_mm3: f64,
    pub dust_mm3: f64,
}

impl Trace {
    /// Length of the way, mm.
    pub fn length_mm(&self) -> f64 {
        self.dabs.last().map_or(0.0, |d| d.at_mm)
    }

    /// The dab nearest to `at_mm` of travel.
    pub fn nearest(&self, at_mm: f64) -> Option<&DabTrace> {
        let i = self.dabs.partition_point(|d| d.at_mm < at_mm);
        let candidates = [i.checked_sub(1), Some(i)];
        candidates
            .into_iter()
            .flatten()
            .filter_map(|i| self.dabs.get(i))
            .min_by(|a, b| (a.at_mm - at_mm).abs().total_cmp(&(b.at_mm - at_mm).abs()))
    }
}
