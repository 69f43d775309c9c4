//! From material to what the eye sees.

pub mod flat;
