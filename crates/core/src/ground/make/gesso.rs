//! A gessoed board: brushed coats across each other, rubbed down, with the fine grain of chalk (own design, tuned by eye).

use super::super::Region;
use super::super::noise::Band;
use super::super::recipe::Recipe;
use super::tooth::{Tooth, press_in_place, stretch};

pub(super) struct Gesso {
    /// Marks of the last coat and of the one under it, drags, pinholes, chalk.
    last: [Band; 2],
    under: Band,
    pinholes: Band,
    chalk: Band,
    rubbed: f32,
}

impl Gesso {
    pub(super) fn new(recipe: &Recipe, seed: u64) -> Self {
        let (mark, direction) = (recipe.number("tooth_mm"), recipe.number("direction"));
        let along = stretch(direction) * 2.2;
        let band = |stream, mm, stretch| Band::drawn_out(seed, stream, mm, false, stretch);
        Self {
            // Of the same width for any direction: a mark drawn out keeps its hairs' spacing.
            last: [band(10, mark * f64::sqrt(along), along), band(11, 0.45 * mark * f64::sqrt(along), along)],
            under: band(12, 1.4 * mark, 1.0 / along),
            pinholes: band(13, 0.4, 1.0),
            chalk: band(14, 0.35, 1.0),
            rubbed: recipe.number("rubbed") as f32,
        }
    }
}

impl Tooth for Gesso {
    fn over(&self, region: Region) -> Vec<f32> {
        let [coarse, hairs] = [0, 1].map(|k: usize| self.last[k].over(region));
        let (under, pinholes, chalk) =
            (self.under.over(region), self.pinholes.over(region), self.chalk.over(region));
        let mut heights: Vec<f32> =
            (0..region.len()).map(|i| 4.0 * coarse[i] + 2.2 * hairs[i] + 1.8 * under[i]).collect();
        // Rubbing down takes the ridges off first.
        press_in_place(&mut heights, [8.0 - 8.5 * self.rubbed, 1.2]);
        for (h, (chalk, pinholes)) in heights.iter_mut().zip(chalk.iter().zip(&pinholes)) {
            *h = *h + 0.8 * chalk - 4.0 * (pinholes - 2.0).max(0.0);
        }
        heights
    }
}
