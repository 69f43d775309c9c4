//! Hot-pressed paper: a pressed mat of fibres under cloudy formation and few small pits (dry study, "Hot").

use super::super::Region;
use super::super::fibres::Mat;
use super::super::noise::Band;
use super::super::recipe::Recipe;
use super::tooth::{Tooth, blurred, press_in_place, pressed_fibres, stretch};

/// The study's tooth length, mm: sizes below are made for it.
const STUDY_TOOTH_MM: f64 = 1.4;

pub(super) struct Hot {
    mat: Mat,
    /// Four octaves of cloud, two of unevenness, pits.
    bands: [Band; 7],
}

impl Hot {
    pub(super) fn new(recipe: &Recipe, seed: u64) -> Self {
        let size = recipe.number("tooth_mm") / STUDY_TOOTH_MM;
        let direction = recipe.number("direction");
        let band = |stream, mm: f64, narrow| {
            Band::drawn_out(seed, stream, (mm * size).max(0.2), narrow, stretch(direction))
        };
        let bands = [
            band(10, 7.0, true),
            band(11, 3.4, true),
            band(12, 1.7, true),
            band(13, 0.85, true),
            band(14, 1.4, false),
            band(15, 0.55, false),
            Band::new(seed, 16, 0.32, true),
        ];
        let mat = pressed_fibres(seed, direction);
        Self { mat, bands }
    }
}

impl Tooth for Hot {
    fn over(&self, region: Region) -> Vec<f32> {
        let fibres = blurred(self.mat, 0.045, region);
        let b: Vec<Vec<f32>> = self.bands.iter().map(|band| band.over(region)).collect();
        // Cloudy formation: octaves with amplitude f^−1.1, brought to unit variance.
        let weights = [1.0_f32, 0.466, 0.218, 0.101];
        let all = weights.iter().map(|w| w * w).sum::<f32>().sqrt();
        let mut heights: Vec<f32> = (0..region.len())
            .map(|i| {
                let cloud: f32 = (0..4).map(|k| weights[k] * b[k][i]).sum::<f32>() / all;
                let pits = 12.0 * (b[6][i] - 1.55).max(0.0);
                0.8 * (fibres[i] + 7.0) * 0.25 + 1.2 * cloud + 1.1 * b[4][i] + 0.8 * b[5][i] - pits
            })
            .collect();
        press_in_place(&mut heights, [3.0, 2.6]);
        heights
    }
}
