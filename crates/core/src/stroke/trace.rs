//! The trace: every factor along one stroke, recorded by the code that laid it.

use serde::{Deserialize, Serialize};

use crate::chain::Signals;
use crate::medium::{Balance, Column, column};
use crate::said::Said;
use crate::touch::Factor;

/// One contact of a stroke: a dab.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
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
    /// Travel that this dab stands for, mm.
    pub travel_mm: f64,
    /// What the tool's medium tells of it: a value a column, in their order.
    pub values: Vec<f64>,
}

/// What every trace tells of a dab, whatever the medium: declared once, with how it is read.
pub type Common = (Column, fn(&DabTrace) -> f64);

/// Of the hand and the way, then of the footprint.
pub static COMMON: [Common; 25] = [
    (Column::place("pass", "Pass", ""), |d| f64::from(d.pass)),
    (Column::place("at_mm", "Travel", "mm"), |d| d.at_mm),
    (Column::place("x_mm", "Place across", "mm"), |d| d.x_mm),
    (Column::place("y_mm", "Place down", "mm"), |d| d.y_mm),
    (Column::place("raw_pressure", "Pressure, raw", ""), |d| d.signals.raw_pressure),
    (Column::new("pressure", "Pressure, calibrated", ""), |d| d.signals.pressure),
    (Column::new("hand_gf", "Force of the hand", "gf"), |d| d.hand_gf),
    (Column::new("hardest_press", "Hardest press", ""), |d| d.signals.hardest_press),
    (Column::new("tilt_deg", "Tilt", "°"), |d| d.signals.tilt_deg),
    (Column::turn("lean_deg", "Lean"), |d| d.signals.lean_deg),
    (Column::turn("barrel_deg", "Barrel"), |d| d.signals.barrel_deg),
    (Column::new("speed_mm_s", "Speed", "mm/s"), |d| d.signals.speed_mm_s),
    (Column::place("heading_deg", "Heading", "°"), |d| d.signals.heading_deg),
    (Column::place("distance_mm", "Distance in this pass", "mm"), |d| d.signals.distance_mm),
    (Column::place("time_s", "Time in this pass", "s"), |d| d.signals.time_s),
    (Column::share("paint_left", "Paint left"), |d| d.signals.paint_left),
    (Column::place("chance_dab", "Chance per dab", ""), |d| d.signals.chance_dab),
    (Column::place("chance_stroke", "Chance per stroke", ""), |d| d.signals.chance_stroke),
    (Column::new("lag_mm", "Lag of steadying", "mm"), |d| d.lag_mm),
    (Column::place("lag_ms", "Lag of steadying, in time", "ms"), |d| d.lag_ms),
    (Column::new("length_mm", "Footprint, length", "mm"), |d| d.length_mm),
    (Column::new("width_mm", "Footprint, width", "mm"), |d| d.width_mm),
    (Column::turn("angle_deg", "Angle"), |d| d.angle_deg),
    (Column::place("area_mm2", "Footprint, area", "mm²"), |d| d.area_mm2),
    (Column::place("travel_mm", "Travel of this dab", "mm"), |d| d.travel_mm),
];

/// All dabs of a gesture in the order in which they were laid.
#[derive(Debug, Clone, PartialEq, Default, Serialize)]
pub struct Trace {
    pub dabs: Vec<DabTrace>,
    /// What the medium tells of every dab.
    pub columns: &'static [Column],
    pub balance: Balance,
    /// Why the stroke was not laid to its end; nothing where it was.
    pub cut: Option<Said>,
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

    /// The value of the column named `id` at a dab.
    ///
    /// # Panics
    /// Where the medium declares no such column.
    pub fn value(&self, dab: &DabTrace, id: &str) -> f64 {
        column::value(self.columns, &dab.values, id).unwrap_or_else(|| panic!("{id} is a column"))
    }

    /// The values of a column, dab by dab.
    ///
    /// # Panics
    /// Where the medium declares no such column.
    pub fn values<'a>(&'a self, id: &'a str) -> impl Iterator<Item = f64> + 'a {
        self.dabs.iter().map(move |d| self.value(d, id))
    }
}
