//! How a sharp point wears.

use crate::chain::{Action, Settings};
use crate::medium::dry::parameters::Sharpened;

/// A point.
#[derive(Debug, Clone, Copy)]
pub struct Point {
    /// Width of the worn point over the sharp one.
    blunt: f64,
    /// Travel over which most of it is worn, mm.
    blunt_mm: f64,
    /// Sharpened before each stroke.
    each_stroke: bool,
}

impl Point {
    /// As a tool is tuned; only what lays wears.
    pub fn of(tool: &Settings<'_>) -> Self {
        Self {
            blunt: if tool.action == Action::Lay { tool.number("load.blunt") } else { 1.0 },
            blunt_mm: tool.number("load.blunt_mm"),
            each_stroke: tool.chosen::<Sharpened>("load.sharpen") == Sharpened::BeforeStroke,
        }
    }

    /// Width over that of the sharp point after `stroke_mm` of this stroke and `before_mm` of those before it.
    pub fn width(&self, before_mm: f64, stroke_mm: f64) -> f64 {
        if self.blunt <= 1.0 {
            return 1.0;
        }
        let travelled = if self.each_stroke { stroke_mm } else { before_mm + stroke_mm };
        1.0 + (self.blunt - 1.0) * (1.0 - libm::exp(-travelled / self.blunt_mm))
    }
}
