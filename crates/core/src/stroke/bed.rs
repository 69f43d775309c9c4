//! A bed of charcoal for tools that move powder: a finger on bare paper would show nothing. Blocks of charcoal with bare
//! paper between, the same on every sheet of a ground, laid by the engine itself.

use std::rc::Rc;
use std::sync::OnceLock;

use super::Engine;
use crate::error::Result;
use crate::hand::{Hand, Sample, angles};
use crate::sheet::Sheet;
use crate::tool::Tool;

/// The stick the bed is laid with: soft, on its side.
const STICK: &str = r#"{"format": "saltmarsh.tool", "version": 2, "name": "bed", "medium": "dry", "action": "lay", "seed": 3,
    "parameters": {"touch.force_gf": 190, "tip.width_mm": 2.4, "tip.side_mm": 7.2, "load.stick": "charcoal"}}"#;
/// A block begins at these places of every period, mm, and is this long.
const BLOCKS: [f64; 2] = [5.0, 45.0];
const BLOCK_MM: f64 = 24.0;
const PERIOD_MM: f64 = 80.0;
/// Strokes are this far apart, mm; a stick's side is a little longer.
const ROW_MM: f64 = 6.0;
const SPEED_MM_S: f64 = 60.0;
const RATE_HZ: f64 = 100.0;

/// Lays the bed over a whole sheet.
///
/// # Errors
/// None of its own: what [`Engine::new`] refuses.
pub fn lay_in_place(sheet: &mut Sheet) -> Result<()> {
    static TOOL: OnceLock<Tool> = OnceLock::new();
    let tool = TOOL.get_or_init(|| Tool::parse(STICK).expect("the bed's own stick is valid (tested)"));
    let [left, top] = sheet.raster().origin_mm;
    let (right, bottom) =
        (left + sheet.width() as f64 * sheet.pixel_mm(), top + sheet.height() as f64 * sheet.pixel_mm());
    // Not as one gesture: a large sheet has more strokes than a gesture may hold.
    let mut engine = Engine::new(Rc::new(tool.clone()), Hand::default(), sheet)?;
    let mut clock = 0.0;
    let mut y = top + 4.0;
    while y < bottom {
        let first = libm::floor(left / PERIOD_MM) as i64;
        let last = libm::floor(right / PERIOD_MM) as i64;
        for period in first..=last {
            for block in BLOCKS {
                let from = period as f64 * PERIOD_MM + block;
                if from < right && from + BLOCK_MM > left {
                    engine.extend(&stroke(from, y, clock), sheet);
                    engine.lift(sheet);
                    clock += BLOCK_MM / SPEED_MM_S + 0.1;
                }
            }
        }
        y += ROW_MM;
    }
    Ok(())
}

/// One stroke, the stick leaning towards the painter.
fn stroke(x: f64, y: f64, begins: f64) -> Vec<Sample> {
    let (tilt_x, tilt_y) = angles::to_tilt(0.5, std::f64::consts::FRAC_PI_2);
    let count = (BLOCK_MM / SPEED_MM_S * RATE_HZ) as usize;
    let at = |i: usize| {
        let t = i as f64 / RATE_HZ;
        Sample { t: begins + t, x: x + SPEED_MM_S * t, y, pressure: 0.5, tilt_x, tilt_y, twist: 0.0 }
    };
    (0..=count).map(at).collect()
}
