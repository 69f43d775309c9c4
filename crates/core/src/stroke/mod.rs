//! A stroke: what a tool makes of a gesture.

pub mod advice;
pub mod compare;
pub mod drives;
pub mod engine;
mod pass;
pub mod reason;
mod timing;
pub mod trace;
pub mod under;

use std::rc::Rc;

pub use engine::Engine;
pub use trace::{DabTrace, Trace};

use crate::error::Result;
use crate::hand::{Gesture, Hand};
use crate::sheet::Sheet;
use crate::tip::Shelf;
use crate::tool::Tool;

/// Runs a whole gesture with a tool that needs no image on a sheet, and lets it rest until nothing moves by itself.
///
/// # Errors
/// Passes on what [`Engine::with`] refuses.
pub fn run(tool: &Tool, hand: &Hand, gesture: &Gesture, sheet: &mut Sheet) -> Result<Trace> {
    run_with(tool, hand, gesture, sheet, &Shelf::default())
}

/// As [`run`], for tools that need images.
///
/// # Errors
/// Passes on what [`Engine::with`] refuses.
pub fn run_with(
    tool: &Tool,
    hand: &Hand,
    gesture: &Gesture,
    sheet: &mut Sheet,
    shelf: &Shelf,
) -> Result<Trace> {
    let mut engine = Engine::with(Rc::new(tool.clone()), hand.clone(), sheet, shelf, None)?;
    for pass in gesture.passes() {
        engine.extend(pass, sheet)?;
        engine.lift(sheet);
    }
    // What is looked at is what stays.
    sheet.rest();
    Ok(engine.into_trace())
}
