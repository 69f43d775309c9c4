//! Grounds: papers as height maps in µm, measured as the trade measures surfaces.
//!
//! A paper is generated piece by piece where it is needed, from hashed noise and fibres alone, so that it needs no stored
//! tile; it repeats only after [`PERIOD_MM`].

mod blur;
pub mod fibres;
mod maker;
pub mod noise;
pub mod paper;
pub mod region;
pub mod sampled;
pub mod texture;

pub use paper::{Ground, Paper};
pub use region::Region;
pub use sampled::{Bearing, Feel, GroundTile};

/// Pitch at which papers are generated, mm.
pub const PITCH_MM: f64 = 0.05;
/// A paper repeats after this many pixels of [`PITCH_MM`].
pub const PERIOD_PX: i64 = 8192;
/// A paper repeats after this many mm.
pub const PERIOD_MM: f64 = PITCH_MM * PERIOD_PX as f64;
