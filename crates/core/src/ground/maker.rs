//! How the three papers are made, after the dry study: felted (cold-pressed and rough) and hot-pressed. All amplitudes and
//! lengths are tuned by eye there, not measured on real papers; heights in µm, lengths in mm.
//!
//! Felted with tooth length λ: fibre impressions of the felt, rounded, with softer noise at λ and 2.8 λ, a fine mat of
//! paper fibres on top, peaks pressed flat and pits filled. Where the study used noise on one stored tile, this uses noise
//! that can be made piece by piece ([`super::noise`]).

use super::fibres::Mat;
use super::noise::{Band, blurred_white, coarse_white};
use super::paper::{GRAIN_WITHIN_PIXEL, Paper, REFERENCE};
use super::region::half_to_full;
use super::{PITCH_MM, Region, blur};
use crate::num;

/// Mean and inverse deviation that bring a map to zero mean and unit variance.
#[derive(Debug, Clone, Copy, Default)]
struct Norm {
    mean: f32,
    scale: f32,
}

impl Norm {
    fn of(values: &[f32]) -> Self {
        let n = values.len() as f64;
        let mean = values.iter().map(|v| f64::from(*v)).sum::<f64>() / n;
        let variance =
            values.iter().map(|v| (f64::from(*v) - mean) * (f64::from(*v) - mean)).sum::<f64>() / n;
        Self { mean: mean as f32, scale: (1.0 / libm::sqrt(variance)) as f32 }
    }

    #[inline]
    fn apply(self, v: f32) -> f32 {
        (v - self.mean) * self.scale
    }
}

/// Numbers of a felted paper: the study's table.
#[derive(Debug, Clone, Copy)]
struct Felt {
    tooth: f64,
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

enum Kind {
    Felted { felt: Felt, coarse: Norm, fine: Norm, body: Norm },
    Hot,
}

/// Makes any region of one paper.
pub(super) struct Maker {
    seed: u64,
    kind: Kind,
    bands: Vec<Band>,
}

impl Maker {
    pub(super) fn new(paper: Paper) -> Self {
        let cold = Felt {
            tooth: 1.55,
            amplitude: 14.0,
            middle: 0.62,
            slow: 0.30,
            fine_felt: 0.42,
            fibre: 0.70,
            rounding: 0.055,
            pits: false,
            press: [20.0, 7.0],
            fill: Some([38.0, 7.0]),
        };
        let rough = Felt {
            tooth: 2.5,
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
        match paper {
            Paper::ColdPressed => Self::felted(0x51a7, cold),
            Paper::Rough => Self::felted(0x3e0d, rough),
            Paper::HotPressed => {
                let seed = 0x7a11;
                let sizes = [
                    (7.0, true),
                    (3.4, true),
                    (1.7, true),
                    (0.85, true),
                    (1.4, false),
                    (0.55, false),
                    (0.32, true),
                ];
                let bands =
                    sizes.iter().enumerate().map(|(i, s)| Band::new(seed, 10 + i as u64, s.0, s.1)).collect();
                Self { seed, kind: Kind::Hot, bands }
            }
        }
    }

    fn felted(seed: u64, felt: Felt) -> Self {
        let l = felt.tooth;
        let bands = vec![
            Band::new(seed, 10, 0.95 * l, true),
            Band::new(seed, 11, 2.8 * l, false),
            Band::new(seed, 12, 0.62 * l, true),
            Band::new(seed, 13, 1.1, true),
        ];
        let mut maker = Self {
            seed,
            kind: Kind::Felted {
                felt,
                coarse: Norm::default(),
                fine: Norm::default(),
                body: Norm::default(),
            },
            bands,
        };
        let region = Region::new(0, 0, REFERENCE, REFERENCE);
        let (coarse_map, fine_map) = (maker.coarse(&felt, region), maker.fine(&felt, region));
        let (coarse, fine) = (Norm::of(&coarse_map), Norm::of(&fine_map));
        let body = Norm::of(&maker.body(&felt, (coarse, &coarse_map), (fine, &fine_map), region));
        maker.kind = Kind::Felted { felt, coarse, fine, body };
        maker
    }

    fn mat(&self, stream: u64, density: f64, length: [f64; 2], width: f64, height: f32, depth: f32) -> Mat {
        Mat { seed: self.seed, stream, density, length, width, height, depth, pitch: PITCH_MM }
    }

    fn blurred(mat: Mat, sigma_mm: f64, region: Region) -> Vec<f32> {
        let sigma = sigma_mm / mat.pitch;
        let margin = blur::reach(sigma);
        let grown = region.grown(margin);
        region.cut(&blur::gaussian(&mat.over(grown), grown.width, sigma), margin)
    }

    /// A mat of wide fibres, made at twice the pitch and interpolated: a quarter of the work, and nothing in it is finer.
    fn blurred_wide(mut mat: Mat, sigma_mm: f64, region: Region) -> Vec<f32> {
        mat.pitch = 2.0 * PITCH_MM;
        let half = region.halved();
        let map = Self::blurred(mat, sigma_mm, half);
        half_to_full(&map, half, region)
    }

    fn coarse(&self, felt: &Felt, region: Region) -> Vec<f32> {
        let l = felt.tooth;
        Self::blurred(
            self.mat(1, 10.9 / (l * l), [0.7 * l, 2.0 * l], 0.17 * l, 1.0, 1.0),
            felt.rounding * l,
            region,
        )
    }

    fn fine(&self, felt: &Felt, region: Region) -> Vec<f32> {
        let l = felt.tooth;
        let mat = self.mat(2, 27.0 / (l * l), [0.35 * l, 0.9 * l], 0.085 * l, 1.0, 1.0);
        Self::blurred_wide(mat, 0.55 * felt.rounding * l, region)
    }

    fn body(&self, felt: &Felt, coarse: (Norm, &[f32]), fine: (Norm, &[f32]), region: Region) -> Vec<f32> {
        let ((coarse, coarse_map), (fine, fine_map)) = (coarse, fine);
        let (middle, slow, ripple) =
            (self.bands[0].over(region), self.bands[1].over(region), self.bands[2].over(region));
        (0..region.len())
            .map(|i| {
                let patches = (0.5 + slow[i]).clamp(0.0, 1.0);
                -0.72 * coarse.apply(coarse_map[i]) + felt.middle * middle[i] + felt.slow * slow[i]
                    - felt.fine_felt * fine.apply(fine_map[i])
                    + 0.16 * ripple[i] * patches
            })
            .collect()
    }

    /// Heights (µm) and grain over a region.
    pub(super) fn make(&self, region: Region) -> (Vec<f32>, Vec<f32>) {
        let margin = 6;
        let grown = region.grown(margin);
        let mut height = match &self.kind {
            Kind::Felted { felt, coarse, fine, body } => {
                self.felted_height(felt, *coarse, *fine, *body, grown)
            }
            Kind::Hot => self.hot_height(grown),
        };
        if let Kind::Felted { .. } = self.kind {
            height = blur::gaussian(&height, grown.width, 0.03 / PITCH_MM);
        }
        let mut height = region.cut(&height, margin);
        // Fine roughness, 2.6 µm in all; what is finer than the pitch is FINE_UM.
        for (h, r) in height.iter_mut().zip(blurred_white(self.seed, 30, 1.4, region)) {
            *h += 2.2 * r;
        }
        // Grain .75·G.014 + .6·G.05 + .45·G.13 of white noise, unit variance in all; the first part is finer than a pixel
        // and shows about half of its variance.
        let (fine, middle, coarse) = (
            blurred_white(self.seed, 31, 0.0, region),
            blurred_white(self.seed, 32, 1.0, region),
            coarse_white(self.seed, 33, 2.6, region),
        );
        let all = (0.75_f32 * 0.75 + 0.6 * 0.6 + 0.45 * 0.45).sqrt();
        let shown = (0.75 * 0.75 - GRAIN_WITHIN_PIXEL * all * all).sqrt();
        let grain =
            (0..region.len()).map(|i| (shown * fine[i] + 0.6 * middle[i] + 0.45 * coarse[i]) / all).collect();
        (height, grain)
    }

    fn felted_height(&self, felt: &Felt, coarse: Norm, fine: Norm, norm: Norm, region: Region) -> Vec<f32> {
        let (coarse_map, fine_map) = (self.coarse(felt, region), self.fine(felt, region));
        let body = self.body(felt, (coarse, &coarse_map), (fine, &fine_map), region);
        let fibres = Self::blurred(self.mat(3, 10.0, [0.7, 2.8], 0.036, 6.5, 16.0), 0.03, region);
        let pits = felt.pits.then(|| {
            let margin = blur::reach(0.06 / PITCH_MM);
            let grown = region.grown(margin);
            let deep: Vec<f32> = self.bands[3].over(grown).iter().map(|v| (v - 1.0).max(0.0)).collect();
            region.cut(&blur::gaussian(&deep, grown.width, 0.06 / PITCH_MM), margin)
        });
        (0..region.len())
            .map(|i| {
                let b = norm.apply(body[i]);
                let bare = 1.0 - 0.65 * (0.5 - 0.35 * b).clamp(0.0, 1.0);
                // The mat's own mean level (about −7 µm) is not tooth.
                let mut h = felt.amplitude * b + felt.fibre * (fibres[i] + 7.0) * bare;
                if let Some(pits) = &pits {
                    h -= 15.0 * pits[i];
                }
                h = press(h, felt.press);
                match felt.fill {
                    Some([level, k]) => -press(-h, [level, k]),
                    None => h,
                }
            })
            .collect()
    }

    fn hot_height(&self, region: Region) -> Vec<f32> {
        let fibres = Self::blurred(self.mat(3, 16.0, [1.0, 3.6], 0.03, 4.5, 15.0), 0.045, region);
        let b: Vec<Vec<f32>> = self.bands.iter().map(|band| band.over(region)).collect();
        // Cloudy formation: octaves with amplitude f^−1.1, brought to unit variance.
        let weights = [1.0_f32, 0.466, 0.218, 0.101];
        let all = weights.iter().map(|w| w * w).sum::<f32>().sqrt();
        (0..region.len())
            .map(|i| {
                let cloud: f32 = (0..4).map(|k| weights[k] * b[k][i]).sum::<f32>() / all;
                let pits = 7.0 * (b[6][i] - 1.55).max(0.0);
                let h = 0.8 * (fibres[i] + 7.0) * 0.25 + 1.2 * cloud + 1.1 * b[4][i] + 0.8 * b[5][i] - pits;
                press(h, [3.0, 2.6])
            })
            .collect()
    }
}

/// Presses peaks softly below `level`: `P − k·ln(1 + e^((P−h)/k))`.
fn press(h: f32, [level, k]: [f32; 2]) -> f32 {
    level - k * num::ln(1.0 + num::exp((level - h) / k))
}
