//! Small numerics that must give the same bits everywhere: elementary functions of one number, and a counter-based hash
//! instead of random state.

use std::fmt::Write as _;

use crate::lanes;

/// `e^x`: one lane of [`lanes::exp`].
#[inline]
pub fn exp(x: f32) -> f32 {
    lanes::exp(lanes::all(x)).to_array()[0]
}

/// Natural logarithm of a positive normal number: one lane of [`lanes::ln`].
#[inline]
pub fn ln(x: f32) -> f32 {
    lanes::ln(lanes::all(x)).to_array()[0]
}

/// `x^n` for `x ≥ 0`.
#[inline]
pub fn pow(x: f32, n: f32) -> f32 {
    if x <= 1e-30 { 0.0 } else { exp(n * ln(x)) }
}

/// `√(x² + y²)` without needless overflow, as `libm` gives it, with the processor's own root: `libm` works roots out bit by bit where its
/// compiler knows none.
#[inline]
pub fn hypot(x: f64, y: f64) -> f64 {
    let (x, y) = (x.abs(), y.abs());
    let (long, short) = if x > y { (x, y) } else { (y, x) };
    // What is out of the common range, or has no number in it, is left to the library.
    if !(long < 1e100 && short > 1e-100 && short > 1e-15 * long) {
        return libm::hypot(x, y);
    }
    // High and low part of a square (Dekker 1971).
    let square = |v: f64| {
        let split = v * 134_217_729.0;
        let high = v - split + split;
        let low = v - high;
        (v * v, high * high - v * v + 2.0 * high * low + low * low)
    };
    let ((long, long_low), (short, short_low)) = (square(long), square(short));
    (short_low + long_low + short + long).sqrt()
}

/// Counter-based hash: the same four numbers always give the same 64 bits (SplitMix64 finaliser, Steele, Lea & Flood 2014).
#[inline]
pub fn hash(seed: u64, stream: u64, a: i64, b: i64) -> u64 {
    let mut z = seed
        .wrapping_add(stream.wrapping_mul(0x9e37_79b9_7f4a_7c15))
        .wrapping_add((a as u64).wrapping_mul(0xd1b5_4a32_d192_ed03))
        .wrapping_add((b as u64).wrapping_mul(0x8cb9_2ba7_2f3d_8dd7));
    z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    z ^ (z >> 31)
}

/// The top 24 bits of a hash as a number in 0..1.
#[inline]
pub fn unit(bits: u64) -> f32 {
    (bits >> 40) as f32 * (1.0 / 16_777_216.0)
}

/// Zero mean, unit variance, nearly normal: the sum of the four 16-bit quarters of a hash (Irwin–Hall, n = 4).
#[inline]
pub fn gaussian(bits: u64) -> f32 {
    let sum = (bits & 0xffff) + ((bits >> 16) & 0xffff) + ((bits >> 32) & 0xffff) + (bits >> 48);
    // Mean 4·(2¹⁶−1)/2; variance of one quarter is (2¹⁶)²/12.
    (sum as f32 - 131_070.0) * (1.732_050_8 / 65_536.0)
}

/// From 0 to 1 as `t` goes there, level at both ends: `3t² - 2t³`, of what is nearest in 0..1.
#[inline]
pub fn smooth(t: f32) -> f32 {
    let t = t.clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

/// Bytes in hexadecimal, two digits each.
pub fn hex(bytes: &[u8]) -> String {
    bytes.iter().fold(String::with_capacity(2 * bytes.len()), |mut out, b| {
        let _ = write!(out, "{b:02x}");
        out
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn hypotenuses_are_those_of_the_library() {
        let some = |k: i64| {
            let wide = f64::from(unit(hash(3, 1, k, 0))) * 60.0 - 30.0;
            f64::from(gaussian(hash(3, 2, k, 0))) * libm::pow(10.0, wide)
        };
        let edges = [0.0, -0.0, 1.0, 1e-300, 1e300, 5e-324, f64::INFINITY, f64::NAN];
        let pairs = edges.iter().flat_map(|a| edges.map(|b| (*a, b)));
        for (x, y) in pairs.chain((0..200_000).map(|k| (some(2 * k), some(2 * k + 1)))) {
            assert_eq!(hypot(x, y).to_bits(), libm::hypot(x, y).to_bits(), "{x} {y}");
        }
    }

    #[test]
    fn hashed_noise_has_unit_variance() {
        let n = 40_000;
        let (mut sum, mut square) = (0.0_f64, 0.0_f64);
        for i in 0..n {
            let g = f64::from(gaussian(hash(7, 1, i, -i)));
            sum += g;
            square += g * g;
        }
        let mean = sum / n as f64;
        assert!(mean.abs() < 0.02, "mean {mean}");
        assert!((square / n as f64 - 1.0).abs() < 0.03, "variance {}", square / n as f64);
    }
}
