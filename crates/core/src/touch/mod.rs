//! Touch: responses that link a signal of the hand to a quality of the tool through a curve.

pub mod levels;
pub mod parameters;
pub mod response;

pub use response::{Combine, Factor, Response};
