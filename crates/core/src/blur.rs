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
        add_weighted_in_place(out, &weights, |k| &padded[k..k + width]);
    }
    let mut out = vec![0.0_f32; values.len()];
    for (y, target) in out.chunks_exact_mut(width).enumerate() {
        add_weighted_in_place(target, &weights, |k| {
            let from = (y + k).saturating_sub(radius).min(height - 1);
            &across[from * width..(from + 1) * width]
        });
    }
    out
}

/// As [`gaussian`], of all but `margin` pixels along the border; `margin` is the blur's [`reach`] or more.
pub fn gaussian_within(values: &[f32], width: usize, sigma: f64, margin: usize) -> Vec<f32> {
    let weights = kernel(sigma);
    let spare = margin - weights.len() / 2;
    let (inner, high) = (width - 2 * margin, values.len() / width - 2 * margin);
    let mut across = vec![0.0_f32; inner * (high + weights.len() - 1)];
    for (row, out) in values.chunks_exact(width).skip(spare).zip(across.chunks_exact_mut(inner)) {
        add_weighted_in_place(out, &weights, |k| &row[spare + k..]);
    }
    let mut out = vec![0.0_f32; inner * high];
    for (y, target) in out.chunks_exact_mut(inner).enumerate() {
        add_weighted_in_place(target, &weights, |k| &across[(y + k) * inner..]);
    }
    out
}

/// So many rows are added at once.
const TOGETHER: usize = 8;

/// Adds the first values of rows, each by its weight, one row after the other.
fn add_weighted_in_place<'a>(out: &mut [f32], weights: &[f32], row: impl Fn(usize) -> &'a [f32]) {
    let (many, rest) = weights.as_chunks::<TOGETHER>();
    for (n, weights) in many.iter().enumerate() {
        add_in_place(out, *weights, std::array::from_fn(|k| row(n * TOGETHER + k)));
    }
    for (n, weight) in rest.iter().enumerate() {
        add_in_place(out, [*weight], [row(many.len() * TOGETHER + n)]);
    }
}

fn add_in_place<const N: usize>(out: &mut [f32], weights: [f32; N], rows: [&[f32]; N]) {
    let rows = rows.map(|row| &row[..out.len()]);
    for (i, value) in out.iter_mut().enumerate() {
        *value = weights.iter().zip(&rows).fold(*value, |sum, (w, row)| sum + w * row[i]);
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::ground::Region;
    use crate::num;

    #[test]
    fn the_middle_of_a_blur_is_that_of_the_whole() {
        let (middle, sigma) = (Region::new(0, 0, 21, 13), 2.3);
        for margin in [reach(sigma), reach(sigma) + 3] {
            let whole = middle.grown(margin);
            let values: Vec<f32> =
                (0..whole.len() as i64).map(|i| num::gaussian(num::hash(5, 1, i, 0))).collect();
            let within = gaussian_within(&values, whole.width, sigma, margin);
            let cut = middle.cut(&gaussian(&values, whole.width, sigma), margin);
            assert!(within.iter().map(|v| v.to_bits()).eq(cut.iter().map(|v| v.to_bits())), "{margin}");
        }
    }

    #[test]
    fn a_point_spreads_by_the_deviation_asked_for() {
        let (side, sigma) = (61, 4.0);
        let mut point = vec![0.0; side * side];
        point[30 * side + 30] = 1.0;
        let spread = gaussian(&point, side, sigma);
        let square = |i: usize| (i as f64 - 30.0) * (i as f64 - 30.0);
        let sum: f64 = spread.iter().map(|v| f64::from(*v)).sum();
        let [across, down] = [|i: usize| i % 61, |i: usize| i / 61]
            .map(|at| spread.iter().enumerate().map(|(i, v)| square(at(i)) * f64::from(*v)).sum::<f64>());
        assert!((sum - 1.0).abs() < 1e-5, "{sum}");
        // Of a normal distribution cut off at 3 σ: 1 − 6φ(3)/(2Φ(3) − 1) of its variance.
        for variance in [across, down] {
            assert!((variance / (0.973 * sigma * sigma) - 1.0).abs() < 0.01, "{variance}");
        }
    }
}
