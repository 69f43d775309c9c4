//! A wet tip to be looked at: where it touches under a pen.

use super::make::Make;
use crate::chain::{Qualities, Quality, Settings, Signals};
use crate::medium::{TipShape, superellipse};
use crate::tip::hair::{self, Bends};

/// A tool's tip, held and moved so.
pub fn shape(mut make: Make, qualities: &Qualities, signals: &Signals) -> TipShape {
    let direction = make.turned_by.direction(qualities, signals);
    let force_gf = qualities.get(Quality::Force).max(0.0);
    // A nib that is not moved is shown as it opens when it is pulled.
    let moves = signals.speed_mm_s > 0.0;
    let pulled = if moves { libm::sin(signals.heading_deg.to_radians() - direction) } else { 1.0 };
    let (axes, lowered_mm) = make.axes(force_gf, signals.tilt_deg, pulled);
    let exponent = make.face.exponent();
    TipShape {
        side: Vec::new(),
        held_at: [[0.0; 2]; 2],
        patch: superellipse(axes, exponent, 0.0, direction),
        section: superellipse(make.half_mm, exponent, 0.0, direction),
        angle_deg: direction.to_degrees(),
        force_gf,
        lowered_mm,
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
