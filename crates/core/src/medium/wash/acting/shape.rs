//! A wet tip to be looked at: where it touches under a pen.

use super::prints;
use crate::chain::{Qualities, Quality, Settings, Signals};
use crate::medium::wash::parameters::{self, Form};
use crate::medium::{TipShape, superellipse};
use crate::tip::TurnedBy;
use crate::tip::hair::{self, Bends};

/// A tool's tip, held so.
pub fn shape(tool: &Settings<'_>, qualities: &Qualities, signals: &Signals) -> TipShape {
    let form: Form = tool.chosen("tip.form");
    let half = parameters::halves(tool);
    let direction = tool.chosen::<TurnedBy>("tip.angle_from").direction(qualities, signals);
    let force_gf = qualities.get(Quality::Force).max(0.0);
    let lowered = if parameters::has_hairs(tool) {
        bends(tool).lowered_mm(force_gf, signals.tilt_deg).max(0.0)
    } else {
        0.0
    };
    let axes = axes(tool, form, half, lowered);
    let exponent = prints::exponent(form);
    TipShape {
        side: Vec::new(),
        held_at: [[0.0; 2]; 2],
        patch: superellipse(axes, exponent, 0.0, direction),
        section: superellipse(half, exponent, 0.0, direction),
        angle_deg: direction.to_degrees(),
        force_gf,
        lowered_mm: lowered,
        touching: if axes[0] > 0.0 { 1.0 } else { 0.0 },
    }
}

/// How its hairs bend.
pub fn bends(tool: &Settings<'_>) -> Bends {
    let n = |id: &str| tool.number(id);
    Bends::new([
        n("tip.hair_mm"),
        n("tip.hair_gpa"),
        n("tip.hair_length_mm"),
        n("tip.hair_count"),
        hair::uneven_mm(tool),
    ])
}

/// Half axes of its print, mm, lowered so far.
fn axes(tool: &Settings<'_>, form: Form, half: [f64; 2], lowered_mm: f64) -> [f64; 2] {
    if !parameters::has_hairs(tool) {
        return half;
    }
    prints::half_axes(form, half, tool.number("tip.hair_length_mm"), tool.number("tip.splay"), lowered_mm)
}
