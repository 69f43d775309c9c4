//! The ground under a sheet's tiles as a brush meets it, with what has dried on it.

use std::collections::HashMap;
use std::rc::Rc;

use crate::ground::Feel;
use crate::sheet::Sheet;

/// Heights, µm, and the version of what had dried there.
type Met = (u64, Rc<[f32]>);

/// Heights of tiles that were met.
pub struct Lie {
    tiles: HashMap<(usize, usize), Met>,
    feel: Feel,
    /// Depth of the tooth.
    tooth: f32,
}

impl Lie {
    pub fn new(feel: Feel, tooth: f32) -> Self {
        Self { tiles: HashMap::new(), feel, tooth }
    }

    /// Heights of a tile, made where a brush first comes, and anew where paint has dried on it.
    pub fn ground(&mut self, key: (usize, usize), sheet: &Sheet) -> Rc<[f32]> {
        let dried = sheet.tile(key.0, key.1).map_or(0, |t| t.dried_version());
        if let Some((version, heights)) = self.tiles.get(&key)
            && *version == dried
        {
            return heights.clone();
        }
        let mut heights: Vec<f32> =
            sheet.ground_tile(key.0, key.1, self.feel).height.iter().map(|h| self.tooth * h).collect();
        if let Some(tile) = sheet.tile(key.0, key.1).filter(|_| dried > 0) {
            tile.dried_in_place(&mut heights);
        }
        let heights: Rc<[f32]> = heights.into();
        self.tiles.insert(key, (dried, heights.clone()));
        heights
    }
}
