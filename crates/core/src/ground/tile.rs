//! The ground under a square of a sheet.

/// What a kept tile is known by: where it lies, how fine it is, and how the tool meets it.
pub type TileKey = ([u64; 5], u32, bool, i64, i64);

/// The ground under a square of sheet pixels. All vectors hold one value a pixel, row by row.
#[derive(Debug, Clone)]
pub struct GroundTile {
    /// Mean height over the pixel, µm, from the paper's mean level.
    pub height: Vec<f32>,
    /// Variance of height within the pixel, µm².
    pub variance: Vec<f32>,
    /// Grain, zero mean.
    pub grain: Vec<f32>,
}
