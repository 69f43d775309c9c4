//! What a strip of the proof sheet may lie on, as media declare it: data, laid by the engine itself.

use serde::Serialize;

/// One thing that strips may lie on.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Under {
    pub id: &'static str,
    pub label: &'static str,
    /// What is laid over the whole sheet first, one after the other; nothing leaves it bare.
    #[serde(skip)]
    pub laid: &'static [Blocks],
    /// It has dried before anything comes upon it.
    #[serde(skip)]
    pub dry: bool,
}

/// Blocks of straight strokes with bare ground between, the same on every sheet of a ground.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Blocks {
    /// The tool document they are laid with.
    pub tool: &'static str,
    /// Where blocks begin in every period, and how long they are, mm.
    pub begin_mm: &'static [f64],
    pub long_mm: f64,
    pub period_mm: f64,
    /// The first stroke lies so far from the sheet's upper edge, the next so far apart, mm.
    pub first_mm: f64,
    pub row_mm: f64,
    pub speed_mm_s: f64,
    /// The pen's pressure, 0..1, and its altitude, radians, leaning towards the painter.
    pub pressure: f64,
    pub altitude: f64,
}
