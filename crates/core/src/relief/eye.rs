//! How a sheet looks from afar: blurred by what the eye resolves.
//!
//! A normal eye tells apart lines that stand one minute of arc from each other's gap (30 periods to the degree; the definition
//! of visual acuity 1.0, ISO 8596, from memory). The blur is a Gaussian whose contrast at that period has fallen to a tenth.

use crate::paint::colour;

/// Angle that a normal eye resolves, radians: one minute of arc.
const MINUTE: f64 = std::f64::consts::PI / 180.0 / 60.0;
/// Contrast left at the finest period that is seen.
const LEFT: f64 = 0.1;

/// The shortest period on the sheet, mm, that a normal eye sees from `distance_mm`.
pub fn finest_period_mm(distance_mm: f64) -> f64 {
    2.0 * distance_mm * libm::tan(MINUTE)
}

/// Standard deviation of the eye's blur on the sheet, mm.
pub fn blur_mm(distance_mm: f64) -> f64 {
    // exp(−2π²σ²/λ²) = LEFT.
    let period = finest_period_mm(distance_mm);
    period / std::f64::consts::PI * f64::sqrt(-libm::log(LEFT) / 2.0)
}

/// Blurs 8-bit RGBA (`width` a row, pixels of `pixel_mm`) in linear light as an eye at `distance_mm` does; alpha stays.
pub fn from_afar_in_place(rgba: &mut [u8], width: usize, pixel_mm: f64, distance_mm: f64) {
    let sigma = blur_mm(distance_mm) / pixel_mm;
    let linear = colour::decoded();
    for c in 0..3 {
        let channel: Vec<f32> = rgba.chunks_exact(4).map(|p| linear[usize::from(p[c])]).collect();
        let blurred = crate::blur::gaussian(&channel, width, sigma);
        for (p, v) in rgba.chunks_exact_mut(4).zip(blurred) {
            p[c] = libm::round(255.0 * colour::encode(f64::from(v))).clamp(0.0, 255.0) as u8;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Relative contrast of vertical stripes of `period_mm` as seen from 2 m, at their fundamental.
    fn contrast(period_mm: f64) -> f64 {
        let pixel = 0.05;
        let (width, rows) = (1200, 4);
        let stripe = |x: usize| 0.5 + 0.4 * libm::sin(std::f64::consts::TAU * x as f64 * pixel / period_mm);
        let mut rgba = Vec::new();
        for _ in 0..rows {
            for x in 0..width {
                let v = (255.0 * colour::encode(stripe(x))) as u8;
                rgba.extend([v, v, v, 255]);
            }
        }
        from_afar_in_place(&mut rgba, width, pixel, 2000.0);
        let row: Vec<f64> =
            rgba[..4 * width].chunks_exact(4).map(|p| colour::decode(f64::from(p[0]) / 255.0)).collect();
        let middle = &row[300..900];
        let (low, high) = middle.iter().fold((1.0_f64, 0.0_f64), |(l, h), v| (l.min(*v), h.max(*v)));
        (high - low) / (high + low) / 0.8
    }

    #[test]
    fn stripes_fade_where_the_eye_can_no_longer_tell_them_apart() {
        let finest = finest_period_mm(2000.0);
        assert!((finest - 1.1636).abs() < 1e-3, "two minutes of arc at 2 m are {finest} mm");
        let (coarse, at, fine) = (contrast(8.0 * finest), contrast(finest), contrast(0.5 * finest));
        assert!(coarse > 0.9 && (at - 0.1).abs() < 0.02 && fine < 0.02, "{coarse} {at} {fine}");
    }
}
