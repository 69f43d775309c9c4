//! The eight bands in which paint is computed, and their weights for the eye.
//!
//! `data/weights_8.csv`: eight reflectances to XYZ relative to the white and to linear sRGB; rows sum to 1, so that a flat
//! reflectance is neutral. Against 36 bands the colour error is ΔE00 0.07 in the median and 1.64 at most over 17,340
//! mixtures and films (figures of the data set, not re-measured here).

use std::sync::OnceLock;

pub const BANDS: usize = 8;

/// A value per band, from 438 nm to about 700 nm.
pub type Spectrum = [f32; BANDS];

/// Weights from reflectance: `x[b]` and so on.
#[derive(Debug, Clone, PartialEq)]
pub struct Weights {
    /// XYZ relative to the white point.
    pub xyz: [[f64; BANDS]; 3],
    /// Linear sRGB.
    pub rgb: [[f64; BANDS]; 3],
}

/// CIE XYZ of the white point that belongs to the weights (D65, 2° observer, Y = 100).
pub const WHITE: [f64; 3] = [95.0119, 100.0, 108.8161];

/// The table, read once.
pub fn weights() -> &'static Weights {
    static TABLE: OnceLock<Weights> = OnceLock::new();
    TABLE.get_or_init(|| {
        let mut w = Weights { xyz: [[0.0; BANDS]; 3], rgb: [[0.0; BANDS]; 3] };
        for (b, line) in include_str!("../../data/weights_8.csv").lines().skip(1).take(BANDS).enumerate() {
            let v: Vec<f64> = line
                .split(',')
                .skip(1)
                .map(|t| t.trim().parse().expect("weights_8.csv holds numbers"))
                .collect();
            for i in 0..3 {
                w.xyz[i][b] = v[i];
                w.rgb[i][b] = v[i + 3];
            }
        }
        w
    })
}
