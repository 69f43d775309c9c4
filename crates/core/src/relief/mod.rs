//! From material to what the eye sees.

pub mod eye;
pub mod flat;
pub mod raking;
