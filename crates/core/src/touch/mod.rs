//! Touch: curves, and responses that link a signal of the hand to a quality of the tool.

pub mod curve;
pub mod levels;
pub mod response;

pub use curve::Curve;
pub use response::{Combine, Factor, Response};
