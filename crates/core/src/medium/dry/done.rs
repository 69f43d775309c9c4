//! What a dab did.

/// What a dab did, added up over its pixels.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Done {
    /// Sum of cover over pixels.
    pub cover: f32,
    /// Cover-weighted sums: load, touched share Φ, contact φ, share of the room that was full before.
    pub load: f32,
    pub touched: f32,
    pub contact: f32,
    pub full: f32,
    /// Powder laid, and taken up, µm × pixels.
    pub laid: f32,
    pub taken: f32,
    /// Thickest film under the tip, µm.
    pub thickest: f32,
}
