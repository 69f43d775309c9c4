//! The shape of a tip under the pen, to be looked at: from the side as it bends, and from below where it touches.

use serde::Serialize;

/// A tip as it is held, mm.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct TipShape {
    /// From the side, in the plane of the lean: lines from where hairs (or a blade) are held to their ends; along the sheet, away
    /// from where the pen leans to, and height over the sheet.
    pub side: Vec<Vec<[f64; 2]>>,
    /// The edge that holds them, from the side.
    pub held_at: [[f64; 2]; 2],
    /// From below, about the pen's place on the sheet: where it touches, and the section of what holds it.
    pub patch: Vec<[f64; 2]>,
    pub section: Vec<[f64; 2]>,
    /// Direction of its width, degrees from the right, clockwise.
    pub angle_deg: f64,
    pub force_gf: f64,
    /// How far the force lowers it; of a blade, its gap over the ground.
    pub lowered_mm: f64,
    /// Share of the hairs that touch.
    pub touching: f64,
}
