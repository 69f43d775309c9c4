//! InkML (W3C Recommendation, 20 September 2011): gestures in and out.
//!
//! [`read`] decodes a document to traces of numbers; [`to_gesture`] makes a gesture of them; [`write`](write()) writes one.
//! Entities, document types and documents over the limits are refused before anything is expanded.

mod channel;
mod document;
mod gesture;
mod points;

pub use channel::Channel;
pub use document::{Document, Refused, Trace, read};
pub use gesture::{to_gesture, to_gestures, write, write_all};

/// Largest document, bytes.
pub const MOST_BYTES: usize = 16 * 1024 * 1024;
/// Most points in all traces of a document.
pub const MOST_POINTS: usize = saltmarsh_core::hand::gesture::MOST_SAMPLES;
/// Most traces, and most formats, sources and contexts together.
pub const MOST_TRACES: usize = 20_000;
pub const MOST_DEFINITIONS: usize = 1000;
/// Most channels of a format.
pub const MOST_CHANNELS: usize = 32;
/// Deepest nesting of elements.
pub const MOST_DEPTH: usize = 64;
