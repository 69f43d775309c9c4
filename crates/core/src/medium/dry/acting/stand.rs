//! How a tip stands on the sheet under the pen: its half axes and its direction, as it lays and as it is looked at.

use std::f64::consts::TAU;

use crate::chain::{Qualities, Quality, Settings, Signals};
use crate::medium::TipShape;
use crate::tip::{Outline, Shape, TurnedBy};

/// Points of an outline.
const AROUND: usize = 72;

/// A tip that stands on the sheet.
pub(super) struct Stand {
    /// Half axes of the upright tip, and half of what its side adds along the length, mm.
    pub(super) half_length: f64,
    pub(super) half_width: f64,
    pub(super) half_side: f64,
    /// Direction of its length, radians from the right, clockwise.
    pub(super) angle: f64,
}

impl Stand {
    /// `width`, mm; `proportion`: length over width of an image that is the tip.
    pub(super) fn of(
        (outline, turned_by): (&Outline, TurnedBy),
        (width, proportion): (f64, Option<f64>),
        qualities: &Qualities,
        signals: &Signals,
    ) -> Self {
        let side = qualities.get(Quality::Side) * libm::sin(signals.tilt_deg.to_radians());
        let turned = match turned_by {
            TurnedBy::Lean => signals.lean_deg,
            TurnedBy::Barrel => signals.barrel_deg,
            TurnedBy::Heading => signals.heading_deg,
            // A side lies down along the lean; the tool's own angle turns it from there.
            TurnedBy::Bearing if side > 0.0 => signals.lean_deg,
            TurnedBy::Bearing => 0.0,
        };
        // A plain round end has no direction.
        let plain = outline.is_round() && proportion.is_none();
        let aspect = qualities.get(Quality::Aspect);
        let angle =
            if plain && side <= 0.0 && aspect <= 1.0 { 0.0 } else { qualities.get(Quality::Angle) + turned };
        Self {
            half_length: 0.5 * width * aspect * proportion.unwrap_or(1.0),
            half_width: 0.5 * width,
            half_side: 0.5 * side,
            angle: angle.to_radians(),
        }
    }

    /// Points of its rim about the pen's place, mm.
    fn rim(&self, outline: &Outline) -> Vec<[f64; 2]> {
        let (cos, sin) = (libm::cos(self.angle), libm::sin(self.angle));
        let whole = self.half_length + self.half_side;
        (0..AROUND)
            .map(|i| {
                let t = TAU * i as f64 / AROUND as f64;
                let [a, b] = outline.rim([libm::cos(t) as f32, libm::sin(t) as f32]).map(f64::from);
                let u = a * self.half_length + libm::copysign(self.half_side, a);
                let along = if whole > 0.0 { (u / whole) as f32 } else { 0.0 };
                let v = (b + f64::from(outline.aside_at(along))) * self.half_width;
                [u * cos - v * sin, u * sin + v * cos]
            })
            .collect()
    }
}

/// A tool's tip, held so, as it is when it is new; one that is an image as if that were square: images are not at hand here.
pub fn shape(tool: &Settings<'_>, qualities: &Qualities, signals: &Signals) -> TipShape {
    let outline = tool.chosen::<Shape>("tip.shape").outline();
    let width = (qualities.get(Quality::Width), None);
    let stand = Stand::of((&outline, tool.chosen("tip.angle_from")), width, qualities, signals);
    let rim = stand.rim(&outline);
    let force = qualities.get(Quality::Force).max(0.0);
    let presses = force > 0.0;
    TipShape {
        side: Vec::new(),
        held_at: [[0.0; 2]; 2],
        patch: if presses { rim.clone() } else { Vec::new() },
        section: rim,
        angle_deg: stand.angle.to_degrees(),
        force_gf: force,
        lowered_mm: 0.0,
        touching: if presses { 1.0 } else { 0.0 },
    }
}
