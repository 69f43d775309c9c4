//! A piece of a ground.

use super::Region;

/// Heights and grain over a region.
#[derive(Debug, Clone)]
pub struct Patch {
    pub region: Region,
    /// µm.
    pub height: Vec<f32>,
    /// Grain of the surface, zero mean; what a pixel of [`PITCH_MM`] shows of a field of unit variance.
    pub grain: Vec<f32>,
}
