//! Small numerics that must give the same bits everywhere: elementary functions in plain IEEE operations (so that they
//! vectorise), the normal distribution by table, and a counter-based hash instead of random state.

use std::sync::OnceLock;

/// `e^x` for f32. Relative error under 3e-7 for `x` in −87..87, clamped outside. Cephes-style range reduction and a
/// degree-6 polynomial.
#[inline(always)]
pub fn exp(x: f32) -> f32 {
    let x = x.clamp(-87.0, 87.0);
    // Adding and subtracting 1.5·2²³ rounds to the nearest integer without a branch.
    let n = (x * std::f32::consts::LOG2_E + 12_582_912.0) - 12_582_912.0;
    let r = (x - n * 0.693_359_4) + n * 2.121_944_4e-4;
    let p = 1.987_569_1e-4;
    let p = p * r + 1.398_2e-3;
    let p = p * r + 8.333_452e-3;
    let p = p * r + 4.166_579_6e-2;
    let p = p * r + 0.166_666_65;
    let p = p * r + 0.5;
    let p = p * r * r + r + 1.0;
    p * f32::from_bits(((n as i32 + 127) << 23) as u32)
}

/// Natural logarithm for positive normal f32; relative error under 1e-6 (atanh series on the mantissa).
#[inline(always)]
pub fn ln(x: f32) -> f32 {
    let bits = x.to_bits() as i32;
    // Split so that the mantissa lies in √½..√2.
    let e = (bits - 0x3f35_04f3) >> 23;
    let m = f32::from_bits((bits - (e << 23)) as u32);
    let s = (m - 1.0) / (m + 1.0);
    let s2 = s * s;
    let series = 2.0 * s * (1.0 + s2 * (1.0 / 3.0 + s2 * (0.2 + s2 * (1.0 / 7.0 + s2 * (1.0 / 9.0)))));
    e as f32 * std::f32::consts::LN_2 + series
}

/// `x^n` for `x ≥ 0`.
#[inline(always)]
pub fn pow(x: f32, n: f32) -> f32 {
    if x <= 1e-30 { 0.0 } else { exp(n * ln(x)) }
}

/// The standard normal distribution `Φ(x)` and `G(x) = x·Φ(x) + φ(x)`, the mean of `max(0, x + noise)`, by table.
pub struct Normal {
    /// `[Φ, G]` at steps of 1/[`NORMAL_STEPS`] from −[`NORMAL_REACH`].
    values: Vec<[f32; 2]>,
}

const NORMAL_REACH: f32 = 6.0;
const NORMAL_STEPS: f32 = 128.0;
const NORMAL_COUNT: usize = (2.0 * NORMAL_REACH * NORMAL_STEPS) as usize + 2;

impl Normal {
    /// The table; made once.
    pub fn table() -> &'static Normal {
        static TABLE: OnceLock<Normal> = OnceLock::new();
        TABLE.get_or_init(|| {
            let values = (0..NORMAL_COUNT).map(|i| {
                let x = i as f64 / f64::from(NORMAL_STEPS) - f64::from(NORMAL_REACH);
                let density = libm::exp(-0.5 * x * x) * 0.398_942_280_401_432_7;
                let share = 0.5 * libm::erfc(-x * std::f64::consts::FRAC_1_SQRT_2);
                [share as f32, (x * share + density) as f32]
            });
            Normal { values: values.collect() }
        })
    }

    /// `(Φ(x), G(x))`, errors under 1e-5.
    #[inline(always)]
    pub fn at(&self, x: f32) -> (f32, f32) {
        if x <= -NORMAL_REACH {
            return (0.0, 0.0);
        }
        if x >= NORMAL_REACH {
            return (1.0, x);
        }
        let u = (x + NORMAL_REACH) * NORMAL_STEPS;
        let i = u as usize;
        let f = u - i as f32;
        let [a, b] = [self.values[i], self.values[i + 1]];
        (a[0] + (b[0] - a[0]) * f, a[1] + (b[1] - a[1]) * f)
    }
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn elementary_functions_agree_with_libm() {
        for i in -860..=860 {
            let x = i as f32 * 0.1;
            let want = libm::exp(f64::from(x));
            assert!(((f64::from(exp(x)) - want) / want).abs() < 3e-7, "exp({x})");
        }
        for i in 1..4000 {
            let x = i as f32 * 0.013;
            let want = libm::log(f64::from(x));
            assert!((f64::from(ln(x)) - want).abs() < 1e-6 * want.abs().max(1.0), "ln({x})");
        }
    }

    #[test]
    fn normal_table_matches_its_definition() {
        let n = Normal::table();
        // Φ(1.96) = 0.9750021, Φ(1) = 0.8413447 (any table of the normal distribution).
        assert!((n.at(1.96).0 - 0.975_002_1).abs() < 1e-5);
        assert!((n.at(1.0).0 - 0.841_344_7).abs() < 1e-5);
        // G(0) is the density at 0.
        assert!((n.at(0.0).1 - 0.398_942_3).abs() < 1e-5);
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
