//! SVG (W3C Recommendation, SVG 1.1 second edition, 16 August 2011): the outlines of a drawing, as strokes.
//!
//! Paths and basic shapes are read with their transforms; fills, text, pictures and styles are not. Entities, document
//! types, references to other files and documents over the limits are refused before anything is expanded.

mod document;
mod length;
mod path;
mod shapes;

pub use document::{Drawing, read};

/// Largest document, bytes.
pub const MOST_BYTES: usize = 4 * 1024 * 1024;
/// Deepest nesting of elements.
pub const MOST_DEPTH: usize = 64;
/// Most segments of all paths together.
pub const MOST_SEGMENTS: usize = 100_000;
/// Farthest place, user units.
pub const FARTHEST: f64 = 1e7;
