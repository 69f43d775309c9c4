//! A sanded ground: grains of grit of many sizes, set close in a binder (own design; sizes tuned by eye).

use super::super::fibres::Mat;
use super::super::noise::Band;
use super::super::recipe::Recipe;
use super::super::{PITCH_MM, Region};
use super::tooth::{Tooth, fill_in_place, smooth};

pub(super) struct Sand {
    grains: [Mat; 2],
    flow: Band,
    size: f64,
}

impl Sand {
    pub(super) fn new(recipe: &Recipe, seed: u64) -> Self {
        let d = recipe.number("grain_mm");
        let grains = |stream, size: f64, each: f64, height| Mat {
            seed,
            stream,
            // So many grains to the area of one.
            density: (each / (size * size)).min(120.0),
            length: [0.2 * size, 0.7 * size],
            width: 0.75 * size,
            direction: 0.0,
            height,
            depth: 1.1 * height,
            pitch: PITCH_MM,
        };
        Self {
            grains: [
                grains(1, d, 0.55, 1e3 * d as f32 * 0.3),
                grains(2, 0.62 * d, 0.8, 1e3 * d as f32 * 0.2),
            ],
            flow: Band::new(seed, 10, (9.0 * d).max(0.6), false),
            size: d,
        }
    }
}

impl Tooth for Sand {
    fn over(&self, region: Region) -> Vec<f32> {
        let um = 1e3 * self.size as f32;
        let mut out = smooth(0.02 / PITCH_MM, region, |grown| {
            let mut large = self.grains[0].over(grown);
            for (a, b) in large.iter_mut().zip(self.grains[1].over(grown)) {
                *a = a.max(b);
            }
            large
        });
        // The binder lies deeper in some places.
        for (h, f) in out.iter_mut().zip(self.flow.over(region)) {
            *h += 0.05 * um * f;
        }
        fill_in_place(&mut out, [-0.16 * um, 0.04 * um]);
        out
    }
}
