//! Separable Gaussian blur; values beyond the border are those of the border.

/// Weights of a Gaussian of `sigma` pixels, out to 3 σ, adding up to 1.
fn kernel(sigma: f64) -> Vec<f32> {
    let radius = f64::ceil(3.0 * sigma) as i64;
    let raw: Vec<f64> =
        (-radius..=radius).map(|i| libm::exp(-0.5 * (i * i) as f64 / (sigma * sigma))).collect();
    let sum: f64 = raw.iter().sum();
    raw.iter().map(|w| (w / sum) as f32).collect()
}

/// How far a blur of `sigma` pixels reaches.
pub fn reach(sigma: f64) -> usize {
    f64::ceil(3.0 * sigma) as usize
}

/// Blurs `values` (`width` a row) by `sigma` pixels.
pub fn gaussian(values: &[f32], width: usize, sigma: f64) -> Vec<f32> {
    if sigma <= 0.0 {
        return values.to_vec();
    }
    let weights = kernel(sigma);
    let radius = weights.len() / 2;
    let height = values.len() / width;
    let mut across = vec![0.0_f32; values.len()];
    let mut padded = vec![0.0_f32; width + 2 * radius];
    for (row, out) in values.chunks_exact(width).zip(across.chunks_exact_mut(width)) {
        padded[..radius].fill(row[0]);
        padded[radius..radius + width].copy_from_slice(row);
        padded[radius + width..].fill(row[width - 1]);
        for (k, w) in weights.iter().enumerate() {
            for (o, v) in out.iter_mut().zip(&padded[k..k + width]) {
                *o += w * v;
            }
        }
    }
    let mut out = vec![0.0_f32; values.len()];
    for y in 0..height {
        let target = &mut out[y * width..(y + 1) * width];
        for (k, w) in weights.iter().enumerate() {
            let from = (y + k).saturating_sub(radius).min(height - 1);
            for (o, v) in target.iter_mut().zip(&across[from * width..(from + 1) * width]) {
                *o += w * v;
            }
        }
    }
    out
}
