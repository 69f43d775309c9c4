//! Descriptions for screens, as plain data.

use saltmarsh_core::ground::recipe::{self, Surface};
use saltmarsh_core::ground::{Ground, PITCH_MM, texture, tint};
use saltmarsh_core::hand::{Signal, profile};
use saltmarsh_core::lanes;
use saltmarsh_core::paint::colour::Display;
use saltmarsh_core::paint::sticks;
use saltmarsh_core::relief::eye;
use saltmarsh_core::technique;
use saltmarsh_core::tool::parameter::{PARAMETERS, Quality};
use saltmarsh_core::tool::{Action, Tool};
use serde_json::{Value, json};

/// Parameters, qualities (with the parameter that is their own value), signals, the program's styluses and techniques.
pub fn declarations() -> Value {
    let qualities: Vec<Value> =
        Quality::ALL.iter().map(|q| json!({"quality": q, "parameter": q.parameter().id})).collect();
    let signals: Vec<_> = Signal::ALL.iter().map(|s| s.info()).collect();
    let surfaces: Vec<_> = Surface::ALL.iter().map(|s| json!({"surface": s, "label": s.label()})).collect();
    let display = Display::shared();
    let tints: Vec<_> = tint::TINTS
        .iter()
        .map(|t| json!({"tint": t.name, "srgb8": display.srgb8(&tint::reflectance(t, 1.0))}))
        .collect();
    let sticks: Vec<_> = sticks::STICKS
        .iter()
        .map(|(stick, _)| {
            let nature: serde_json::Map<String, Value> =
                sticks::nature(stick).iter().map(|(id, v)| ((*id).to_owned(), json!(v))).collect();
            json!({"stick": stick, "nature": nature})
        })
        .collect();
    json!({"sticks": sticks, "surfaces": surfaces, "ground_numbers": recipe::NUMBERS, "tints": tints, "parameters": PARAMETERS, "qualities": qualities, "signals": signals,
        "techniques": technique::all(),
        "samples": {"lay": technique::sample(Action::Lay), "move": technique::sample(Action::Blend)},
        "simulated_styluses": profile::simulated(), "profile_fields": profile::FIELDS})
}

/// Points of the material-ratio curve.
const RATIO_POINTS: usize = 96;
/// Length of the height section, ground pixels (10 mm).
const SECTION: usize = 200;

/// How far away a picture on a wall is looked at, mm.
pub const AFAR_MM: f64 = 2000.0;

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
    let width = reference.region.width;
    let lengths = texture::correlation_lengths(&reference.height, width, PITCH_MM * feel.scale);
    json!({
        "texture": measured,
        "sdr_percent": texture::developed(&reference.height, width, 1000.0 * PITCH_MM),
        "correlation_mm": lengths,
        "finest_period_mm": eye::finest_period_mm(AFAR_MM),
        "material_ratio": ratio,
        "plane": depths,
        "section_um": section,
        "section_step_mm": PITCH_MM * feel.scale,
    })
}
