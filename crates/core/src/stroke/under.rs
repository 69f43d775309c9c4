//! Lays what a strip lies on, with the engine itself.

use std::rc::Rc;

use super::Engine;
use crate::chain::Action;
use crate::error::Result;
use crate::hand::{Hand, Sample, angles};
use crate::medium::under::Blocks;
use crate::medium::{Turn, Under, turn_in_place};
use crate::sheet::Sheet;
use crate::tip::Shelf;
use crate::tool::Tool;

/// Reports a second of the hand that lays it, and its pause from stroke to stroke, s.
const RATE_HZ: f64 = 100.0;
const PAUSE_S: f64 = 0.1;

/// Lays it over a whole sheet, which is then ready: strokes are numbered from here.
///
/// # Errors
/// None of its own: what [`Engine::new`] refuses.
pub fn lay_in_place(under: &Under, sheet: &mut Sheet) -> Result<()> {
    for blocks in under.laid {
        lay_blocks_in_place(blocks, sheet)?;
    }
    if under.dry {
        turn_in_place(Turn::Dry, sheet);
    }
    sheet.made_ready();
    Ok(())
}

/// Whether a part of a sheet may be laid without the rest: nothing lies under it, and the tool brings to each place what it brings to
/// all. Within a level of 255 on average it is what the whole shows there (`core-tests`): a side that reaches beyond the part knows only of
/// the powder within it. `under`: what it lies on, as [`crate::medium::Medium::under`] takes it.
///
/// # Errors
/// Names `under` where the medium declares no such thing.
pub fn stands_alone(tool: &Tool, under: Option<&str>) -> Result<bool> {
    let under = tool.medium.under(tool.action, under)?;
    Ok(under.laid.is_empty() && tool.action == Action::Lay && !tool.medium.lays_wet())
}

fn lay_blocks_in_place(blocks: &Blocks, sheet: &mut Sheet) -> Result<()> {
    let tool = Rc::new(Tool::parse(blocks.tool)?);
    let [left, top] = sheet.raster().origin_mm;
    let (right, bottom) =
        (left + sheet.width() as f64 * sheet.pixel_mm(), top + sheet.height() as f64 * sheet.pixel_mm());
    // Not as one gesture: a large sheet has more strokes than a gesture may hold.
    let (shelf, mut carried) = (Shelf::default(), None);
    let mut y = top + blocks.first_mm;
    while y < bottom {
        let mut engine = Engine::with(tool.clone(), Hand::default(), sheet, &shelf, carried.as_ref())?;
        let mut clock = 0.0;
        let period = |mm: f64| f64::floor(mm / blocks.period_mm) as i64;
        for period in period(left)..=period(right) {
            for begin in blocks.begin_mm {
                let from = period as f64 * blocks.period_mm + begin;
                if from < right && from + blocks.long_mm > left {
                    engine.extend(&stroke(blocks, from, y, clock), sheet)?;
                    engine.lift(sheet);
                    clock += blocks.long_mm / blocks.speed_mm_s + PAUSE_S;
                }
            }
        }
        carried = Some(engine.carried());
        y += blocks.row_mm;
    }
    Ok(())
}

/// One stroke, the tool leaning towards the painter.
fn stroke(blocks: &Blocks, x: f64, y: f64, begins: f64) -> Vec<Sample> {
    let (tilt_x, tilt_y) = angles::to_tilt(blocks.altitude, std::f64::consts::FRAC_PI_2);
    let count = (blocks.long_mm / blocks.speed_mm_s * RATE_HZ) as usize;
    let at = |i: usize| {
        let t = i as f64 / RATE_HZ;
        Sample {
            t: begins + t,
            x: x + blocks.speed_mm_s * t,
            y,
            pressure: blocks.pressure,
            tilt_x,
            tilt_y,
            twist: 0.0,
        }
    };
    (0..=count).map(at).collect()
}
