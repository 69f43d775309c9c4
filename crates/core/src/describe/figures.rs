//! Figures of a ground as a tool meets it.

use serde::Serialize;

use crate::ground::texture::{self, Texture};
use crate::ground::{Ground, PITCH_MM};
use crate::lanes;
use crate::relief::eye;
use crate::tool::Tool;

/// Points of the material-ratio curve.
const RATIO_POINTS: usize = 96;
/// Length of the height section, ground pixels (10 mm).
const SECTION: usize = 200;

/// How far away a picture on a wall is looked at, mm.
pub const AFAR_MM: f64 = 2000.0;

/// What a tool meets in a ground.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
pub struct GroundFigures {
    pub texture: Texture,
    /// Developed area over the flat one, %.
    pub sdr_percent: f64,
    /// Where the autocorrelation falls to 0.2, mm: the fastest and the slowest way; nothing where it does not within the sample.
    pub correlation_mm: [Option<f64>; 2],
    /// The shortest period that a normal eye sees from [`AFAR_MM`], mm.
    pub finest_period_mm: f64,
    /// `[share, height µm]`, highest first.
    pub material_ratio: Vec<[f64; 2]>,
    /// `[load, height of the plane µm]`.
    pub plane: Vec<[f64; 2]>,
    pub section_um: Vec<f32>,
    pub section_step_mm: f64,
}

/// What a tool meets in a ground.
pub fn ground(tool: &Tool, ground: &Ground) -> GroundFigures {
    let feel = tool.feel();
    let of = |id: &str, without: f32| {
        tool.medium.parameters().find(id).map_or(without, |p| tool.number(p.id) as f32)
    };
    let tooth = of("ground.tooth", 1.0);
    let bearing = ground.bearing(feel);
    let mut heights: Vec<f32> = bearing.heights().iter().map(|h| h * tooth).collect();
    let measured = texture::measure(&heights);
    heights.sort_by(f32::total_cmp);
    let count = heights.len();
    let ratio: Vec<[f64; 2]> = (0..=RATIO_POINTS)
        .map(|i| {
            let share = i as f64 / RATIO_POINTS as f64;
            let at = ((1.0 - share) * (count - 1) as f64) as usize;
            [share, f64::from(heights[at])]
        })
        .collect();
    // Only a dry tool stands on the peaks.
    let plane = bearing.plane(tooth, of("load.grit_um", 0.0), of("load.give_um", 0.0).max(1.0));
    let depths: Vec<[f64; 2]> = (0..=40)
        .map(|i| {
            let load = i as f32 / 40.0;
            [f64::from(load), f64::from(plane.at(lanes::all(load)).to_array()[0])]
        })
        .collect();
    let reference = ground.reference();
    let row = reference.region.width * (reference.region.height / 2);
    let sign = if feel.swap { -1.0 } else { 1.0 };
    let section: Vec<f32> =
        reference.height[row..row + SECTION].iter().map(|h| sign * tooth * (h - ground.level())).collect();
    let width = reference.region.width;
    let lengths = texture::correlation_lengths(&reference.height, width, PITCH_MM * feel.scale);
    GroundFigures {
        texture: measured,
        sdr_percent: texture::developed(&reference.height, width, 1000.0 * PITCH_MM),
        correlation_mm: lengths,
        finest_period_mm: eye::finest_period_mm(AFAR_MM),
        material_ratio: ratio,
        plane: depths,
        section_um: section,
        section_step_mm: PITCH_MM * feel.scale,
    }
}
