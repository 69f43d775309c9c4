//! Grounds: papers, canvases and boards as height maps in µm, measured as the trade measures surfaces.
//!
//! A ground is made from its [`recipe`], piece by piece where it is needed, from hashed noise, fibres and threads alone, so
//! that it needs no stored tile; it repeats only after [`PERIOD_MM`]. A height map that was brought in repeats after its own
//! size.

pub(crate) mod blur;
pub mod fibres;
mod make;
pub mod noise;
mod pieces;
pub mod recipe;
pub mod region;
pub mod sampled;
pub mod texture;
pub mod tint;

pub use pieces::{Ground, Patch};
pub use recipe::{Recipe, Surface};
pub use region::Region;
pub use sampled::{Bearing, Feel, GroundTile};

/// Pitch at which grounds are made, mm.
pub const PITCH_MM: f64 = 0.05;
/// A generated ground repeats after this many pixels of [`PITCH_MM`].
pub const PERIOD_PX: i64 = 8192;
/// A generated ground repeats after this many mm.
pub const PERIOD_MM: f64 = PITCH_MM * PERIOD_PX as f64;
