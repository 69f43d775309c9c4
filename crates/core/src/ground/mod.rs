//! Grounds: papers, canvases and boards as height maps in µm, measured as the trade measures surfaces.
//!
//! A ground is made from its [`recipe`], piece by piece where it is needed, from hashed noise, fibres and threads alone, so
//! that it needs no stored tile; it repeats only after [`PERIOD_MM`]. A height map that was brought in repeats after its own
//! size.

mod bearing;
mod feel;
pub mod fibres;
mod make;
pub mod noise;
pub mod parameters;
mod patch;
mod pieces;
pub mod plane;
pub mod recipe;
pub mod region;
pub mod sampled;
mod stored;
pub mod texture;
mod tile;
pub mod tint;

pub use bearing::Bearing;
pub use feel::Feel;
pub use patch::Patch;
pub use pieces::Ground;
pub use recipe::{Recipe, Surface};
pub use region::Region;
pub use tile::GroundTile;

/// Pitch at which grounds are made, mm.
pub const PITCH_MM: f64 = 0.05;
/// A generated ground repeats after this many pixels of [`PITCH_MM`].
pub const PERIOD_PX: i64 = 8192;
/// A generated ground repeats after this many mm.
pub const PERIOD_MM: f64 = PITCH_MM * PERIOD_PX as f64;
/// Variance of the grain that lies within a ground pixel (the finest of its three parts, averaged over 0.05 mm).
pub(crate) const GRAIN_WITHIN_PIXEL: f32 = 0.28;
/// Roughness within a ground pixel, µm: the part of the 2.6 µm fine roughness that is finer than the pitch.
pub(crate) const FINE_UM: f32 = 1.4;

/// Side of the reference patch on which means and deviations are taken, ground pixels (25.6 mm).
const REFERENCE: usize = 512;
