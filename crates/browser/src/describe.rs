//! Descriptions for screens, as plain data.

use saltmarsh_core::ground::{Ground, texture};
use saltmarsh_core::hand::{Signal, profile};
use saltmarsh_core::lanes;
use saltmarsh_core::tool::Tool;
use saltmarsh_core::tool::parameter::{PARAMETERS, Quality};
use serde_json::{Value, json};

/// Parameters, qualities (with the parameter that is their own value), signals, and the styluses of the program.
pub fn declarations() -> Value {
    let qualities: Vec<Value> =
        Quality::ALL.iter().map(|q| json!({"quality": q, "parameter": q.parameter().id})).collect();
    let signals: Vec<_> = Signal::ALL.iter().map(|s| s.info()).collect();
    json!({"parameters": PARAMETERS, "qualities": qualities, "signals": signals,
        "simulated_styluses": profile::simulated(), "profile_fields": profile::FIELDS})
}

/// Points of the material-ratio curve.
const RATIO_POINTS: usize = 96;
/// Length of the height section, ground pixels (10 mm).
const SECTION: usize = 200;

/// What a tool meets in a ground.
pub fn ground(tool: &Tool, ground: &Ground) -> Value {
    let feel = tool.feel();
    let tooth = tool.number("ground.tooth") as f32;
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
    let plane = bearing.plane(tooth, tool.number("load.grit_um") as f32, tool.number("load.give_um") as f32);
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
    json!({
        "texture": measured,
        "material_ratio": ratio,
        "plane": depths,
        "section_um": section,
        "section_step_mm": saltmarsh_core::ground::PITCH_MM * feel.scale,
    })
}
