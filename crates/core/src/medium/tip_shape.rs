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

/// Points of an outline.
const AROUND: usize = 72;

/// Points of a superellipse of half axes and an exponent about the pen's place, its width towards `direction` (radians), one end of it
/// longer than the other by a `slant` of the width; none of one that has no size.
pub fn superellipse([a, b]: [f64; 2], exponent: f64, slant: f64, direction: f64) -> Vec<[f64; 2]> {
    if a <= 0.0 || b <= 0.0 {
        return Vec::new();
    }
    let (cos, sin) = (libm::cos(direction), libm::sin(direction));
    let power = |v: f64| libm::copysign(libm::pow(v.abs(), 2.0 / exponent), v);
    (0..AROUND)
        .map(|i| {
            let t = std::f64::consts::TAU * i as f64 / AROUND as f64;
            let u = a * power(libm::cos(t));
            let v = b * power(libm::sin(t)) + slant * u;
            [u * cos - v * sin, u * sin + v * cos]
        })
        .collect()
}
