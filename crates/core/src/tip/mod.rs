//! The tip: the footprint a tool presses on the sheet, and how closely dabs are set.

pub mod footprint;
pub mod spacing;

pub use footprint::{Footprint, PROFILE_ENTRIES, PROFILE_STEPS, Profile};
