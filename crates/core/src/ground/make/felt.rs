//! Felted papers (cold-pressed and rough), tooth length λ: fibre impressions of the felt, rounded, with softer noise at λ and
//! 2.8 λ, a fine mat of paper fibres on top, peaks pressed flat and pits filled (dry study, "Felted").

use std::cell::OnceCell;

use super::super::REFERENCE;
use super::super::fibres::Mat;
use super::super::noise::Band;
use super::super::recipe::{Recipe, Surface};
use super::super::{PITCH_MM, Region};
use super::tooth::{Norm, Tooth, blurred, blurred_wide, fill_in_place, press_in_place, smooth, stretch};

/// Numbers of a felted paper: the study's table.
#[derive(Debug, Clone, Copy)]
struct Felt {
    amplitude: f32,
    middle: f32,
    slow: f32,
    fine_felt: f32,
    fibre: f32,
    rounding: f64,
    pits: bool,
    press: [f32; 2],
    fill: Option<[f32; 2]>,
}

const COLD: Felt = Felt {
    amplitude: 14.0,
    middle: 0.62,
    slow: 0.30,
    fine_felt: 0.42,
    fibre: 0.70,
    rounding: 0.055,
    pits: false,
    press: [20.0, 7.0],
    fill: Some([-38.0, 7.0]),
};

const ROUGH: Felt = Felt {
    amplitude: 32.0,
    middle: 0.66,
    slow: 0.36,
    fine_felt: 0.46,
    fibre: 0.85,
    rounding: 0.045,
    pits: true,
    press: [62.0, 16.0],
    fill: None,
};

pub(super) struct Felted {
    seed: u64,
    felt: Felt,
    tooth: f64,
    direction: f64,
    bands: [Band; 4],
    /// Of coarse and fine impressions, and of both together with the noise: found when first needed.
    norms: OnceCell<[Norm; 3]>,
}

impl Felted {
    pub(super) fn new(recipe: &Recipe, seed: u64) -> Self {
        let felt = if recipe.surface == Surface::Rough { ROUGH } else { COLD };
        let (l, direction) = (recipe.number("tooth_mm"), recipe.number("direction"));
        let band = |stream, mm, narrow| Band::drawn_out(seed, stream, mm, narrow, stretch(direction));
        let bands = [
            band(10, 0.95 * l, true),
            band(11, 2.8 * l, false),
            band(12, 0.62 * l, true),
            Band::new(seed, 13, 1.1, true),
        ];
        Self { seed, felt, tooth: l, direction, bands, norms: OnceCell::new() }
    }

    fn norms(&self) -> &[Norm; 3] {
        self.norms.get_or_init(|| {
            let region = Region::new(0, 0, REFERENCE, REFERENCE);
            let (coarse, fine) = (self.coarse(region), self.fine(region));
            let impressions = [Norm::of(&coarse), Norm::of(&fine)];
            [impressions[0], impressions[1], Norm::of(&self.body(impressions, &coarse, &fine, region))]
        })
    }

    fn mat(&self, stream: u64, density: f64, length: [f64; 2], width: f64) -> Mat {
        let (seed, direction) = (self.seed, self.direction);
        Mat { seed, stream, density, length, width, direction, height: 1.0, depth: 1.0, pitch: PITCH_MM }
    }

    fn coarse(&self, region: Region) -> Vec<f32> {
        let l = self.tooth;
        let mat = self.mat(1, 10.9 / (l * l), [0.7 * l, 2.0 * l], 0.17 * l);
        blurred(mat, self.felt.rounding * l, region)
    }

    fn fine(&self, region: Region) -> Vec<f32> {
        let l = self.tooth;
        let mat = self.mat(2, 27.0 / (l * l), [0.35 * l, 0.9 * l], 0.085 * l);
        blurred_wide(mat, 0.55 * self.felt.rounding * l, region)
    }

    fn body(
        &self,
        [of_coarse, of_fine]: [Norm; 2],
        coarse: &[f32],
        fine: &[f32],
        region: Region,
    ) -> Vec<f32> {
        let [middle, slow, ripple] = [0, 1, 2].map(|k: usize| self.bands[k].over(region));
        (0..region.len())
            .map(|i| {
                let patches = (0.5 + slow[i]).clamp(0.0, 1.0);
                -0.72 * of_coarse.apply(coarse[i]) + self.felt.middle * middle[i] + self.felt.slow * slow[i]
                    - self.felt.fine_felt * of_fine.apply(fine[i])
                    + 0.16 * ripple[i] * patches
            })
            .collect()
    }

    fn heights(&self, region: Region) -> Vec<f32> {
        let felt = &self.felt;
        let [of_coarse, of_fine, of_body] = *self.norms();
        let body = self.body([of_coarse, of_fine], &self.coarse(region), &self.fine(region), region);
        let mat = Mat { height: 6.5, depth: 16.0, ..self.mat(3, 10.0, [0.7, 2.8], 0.036) };
        let fibres = blurred(mat, 0.03, region);
        let pits = felt.pits.then(|| {
            smooth(0.06 / PITCH_MM, region, |grown| {
                self.bands[3].over(grown).iter().map(|v| (v - 1.0).max(0.0)).collect()
            })
        });
        let mut heights: Vec<f32> = (0..region.len())
            .map(|i| {
                let b = of_body.apply(body[i]);
                let bare = 1.0 - 0.65 * (0.5 - 0.35 * b).clamp(0.0, 1.0);
                // The mat's own mean level (about −7 µm) is not tooth.
                let mut h = felt.amplitude * b + felt.fibre * (fibres[i] + 7.0) * bare;
                if let Some(pits) = &pits {
                    h -= 15.0 * pits[i];
                }
                h
            })
            .collect();
        press_in_place(&mut heights, felt.press);
        if let Some(hollow) = felt.fill {
            fill_in_place(&mut heights, hollow);
        }
        heights
    }
}

impl Tooth for Felted {
    fn over(&self, region: Region) -> Vec<f32> {
        smooth(0.03 / PITCH_MM, region, |grown| self.heights(grown))
    }

    fn norms(&self) -> [Norm; 3] {
        *self.norms()
    }

    fn take_norms(&mut self, norms: [Norm; 3]) {
        self.norms = OnceCell::from(norms);
    }
}
