//! How the trade measures a surface: ISO 25178-2 height parameters.

use serde::Serialize;

/// Height parameters; lengths in µm.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Texture {
    pub sa_um: f64,
    pub sq_um: f64,
    pub ssk: f64,
    pub sku: f64,
    pub sz_um: f64,
}

/// Measures heights (µm) about their mean.
pub fn measure(heights: &[f32]) -> Texture {
    let n = heights.len() as f64;
    let mean = heights.iter().map(|h| f64::from(*h)).sum::<f64>() / n;
    let (mut sa, mut m2, mut m3, mut m4) = (0.0, 0.0, 0.0, 0.0);
    let (mut low, mut high) = (f64::MAX, f64::MIN);
    for h in heights {
        let d = f64::from(*h) - mean;
        sa += d.abs();
        m2 += d * d;
        m3 += d * d * d;
        m4 += d * d * d * d;
        low = low.min(d);
        high = high.max(d);
    }
    let (sa, m2, m3, m4) = (sa / n, m2 / n, m3 / n, m4 / n);
    let sq = libm::sqrt(m2);
    Texture { sa_um: sa, sq_um: sq, ssk: m3 / (sq * m2), sku: m4 / (m2 * m2), sz_um: high - low }
}
