//! How a tool meets its ground.

use crate::chain::Settings;

/// How a tool meets the ground, for a whole stroke.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Feel {
    /// Size of the tooth, 1 as made.
    pub scale: f64,
    /// Peaks and hollows changed round.
    pub swap: bool,
    /// Share of the swells that the tip follows, 0..1.
    pub follow: f32,
    /// Length of those swells, mm.
    pub follow_mm: f64,
}

impl Default for Feel {
    fn default() -> Self {
        Self { scale: 1.0, swap: false, follow: 0.0, follow_mm: 0.8 }
    }
}

impl Feel {
    /// As a tool is tuned ([`super::parameters`]).
    pub fn of(tool: &Settings<'_>) -> Self {
        Self {
            scale: tool.number("ground.scale"),
            swap: tool.switch("ground.swap"),
            follow: tool.number("ground.follow") as f32,
            follow_mm: tool.number("ground.follow_mm"),
        }
    }
}
