//! Four numbers at once: the elementary functions that pixels need, in plain IEEE operations (add, multiply, divide, root,
//! compare, select), so that every platform gives the same bits.

use bytemuck::cast;
use wide::{f32x4, i32x4, u32x4};

/// How many numbers.
pub const LANES: usize = 4;

/// Four f32.
pub type Lanes = f32x4;

/// The same number in every lane.
#[inline(always)]
pub fn all(value: f32) -> Lanes {
    f32x4::splat(value)
}

/// The first four of some numbers.
#[inline(always)]
pub fn four(values: &[f32]) -> Lanes {
    Lanes::from([values[0], values[1], values[2], values[3]])
}

/// The larger of each pair; the second where neither is (two zeros of any sign, NaN). x86's own instruction takes the second
/// there, WebAssembly's the first: they are asked the other way round.
#[inline(always)]
pub fn larger(a: Lanes, b: Lanes) -> Lanes {
    if cfg!(target_feature = "sse") { a.fast_max(b) } else { b.fast_max(a) }
}

/// The smaller of each pair; the second where neither is.
#[inline(always)]
pub fn smaller(a: Lanes, b: Lanes) -> Lanes {
    if cfg!(target_feature = "sse") { a.fast_min(b) } else { b.fast_min(a) }
}

/// `yes` where `a > b`, else `no`.
#[inline(always)]
pub fn where_greater(a: Lanes, b: Lanes, yes: Lanes, no: Lanes) -> Lanes {
    a.simd_gt(b).bitselect(yes, no)
}

/// Whole and broken part of numbers from 0 to 2³¹: places in a table.
#[inline(always)]
pub fn split(u: Lanes) -> ([usize; LANES], Lanes) {
    let whole = u.fast_trunc_int();
    let [a, b, c, d] = whole.to_array();
    ([a as usize, b as usize, c as usize, d as usize], u - f32x4::from_i32x4(whole))
}

/// The entries of a table at four places.
#[inline(always)]
pub fn pick(table: &[f32], [a, b, c, d]: [usize; LANES]) -> Lanes {
    Lanes::from([table[a], table[b], table[c], table[d]])
}

/// A table between its entries, at places from 0 to its last but one.
#[inline(always)]
pub fn between(table: &[f32], u: Lanes) -> Lanes {
    let (i, f) = split(u);
    let a = pick(table, i);
    a + (pick(&table[1..], i) - a) * f
}

/// `e^x`. Relative error under 3e-7 for `x` in −87..87, clamped outside. Cephes-style range reduction and a degree-6
/// polynomial.
#[inline(always)]
pub fn exp(x: Lanes) -> Lanes {
    let x = smaller(larger(x, all(-87.0)), all(87.0));
    // Adding 1.5·2²³ rounds to the nearest integer and leaves it in the lowest bits.
    let shifted = x * all(std::f32::consts::LOG2_E) + all(12_582_912.0);
    let n = shifted - all(12_582_912.0);
    let r = (x - n * all(0.693_359_4)) + n * all(2.121_944_4e-4);
    let p = all(1.987_569_1e-4);
    let p = p * r + all(1.398_2e-3);
    let p = p * r + all(8.333_452e-3);
    let p = p * r + all(4.166_579_6e-2);
    let p = p * r + all(0.166_666_65);
    let p = p * r + all(0.5);
    let p = p * r * r + r + all(1.0);
    let bits: u32x4 = cast(shifted);
    let scale: f32x4 = cast((bits << 23) + u32x4::splat(0x3f80_0000));
    p * scale
}

/// Natural logarithm of positive normal numbers; relative error under 1e-6 (atanh series on the mantissa).
#[inline(always)]
pub fn ln(x: Lanes) -> Lanes {
    let bits: i32x4 = cast(x);
    // Split so that the mantissa lies in √½..√2.
    let e = (bits - i32x4::splat(0x3f35_04f3)) >> 23;
    let m: f32x4 = cast(bits - (e << 23));
    let s = (m - all(1.0)) / (m + all(1.0));
    let s2 = s * s;
    let series =
        all(1.0) + s2 * (all(1.0 / 3.0) + s2 * (all(0.2) + s2 * (all(1.0 / 7.0) + s2 * all(1.0 / 9.0))));
    f32x4::from_i32x4(e) * all(std::f32::consts::LN_2) + all(2.0) * s * series
}

/// The standard normal distribution `Φ(x)`, and `G(x) = x·Φ(x) + φ(x)`, the mean of `max(0, x + noise)`. Absolute error
/// under 2e-6 for |x| under 11. Abramowitz & Stegun (1964) 26.2.17, coefficients from memory, checked by test.
#[inline(always)]
pub fn normal(x: Lanes) -> (Lanes, Lanes) {
    let a = smaller(x.abs(), all(12.0));
    let density = all(0.398_942_3) * exp(all(-0.5) * a * a);
    let t = all(1.0) / (all(1.0) + all(0.231_641_9) * a);
    let p = all(1.330_274_5);
    let p = p * t - all(1.821_255_9);
    let p = p * t + all(1.781_477_9);
    let p = p * t - all(0.356_563_78);
    let p = p * t + all(0.319_381_54);
    let tail = density * t * p;
    let share = x.simd_ge(all(0.0)).bitselect(all(1.0) - tail, tail);
    (share, larger(x * share + density, all(0.0)))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn elementary_functions_agree_with_libm() {
        for i in -860..=860 {
            let x = i as f32 * 0.1;
            let (got, want) = (f64::from(exp(all(x)).to_array()[3]), libm::exp(f64::from(x)));
            assert!(((got - want) / want).abs() < 3e-7, "exp({x}) = {got}, want {want}");
        }
        for i in 1..4000 {
            let x = i as f32 * 0.013;
            let (got, want) = (f64::from(ln(all(x)).to_array()[2]), libm::log(f64::from(x)));
            assert!((got - want).abs() < 1e-6 * want.abs().max(1.0), "ln({x}) = {got}, want {want}");
        }
    }

    #[test]
    fn normal_distribution_agrees_with_libm() {
        for i in -1100..=1100 {
            let x = i as f32 * 0.01;
            let wide = f64::from(x);
            let share = 0.5 * libm::erfc(-wide * std::f64::consts::FRAC_1_SQRT_2);
            let mean = wide * share + libm::exp(-0.5 * wide * wide) / f64::sqrt(std::f64::consts::TAU);
            let (got_share, got_mean) = normal(all(x));
            let (got_share, got_mean) =
                (f64::from(got_share.to_array()[0]), f64::from(got_mean.to_array()[1]));
            assert!((got_share - share).abs() < 1e-6, "Φ({x}) = {got_share}, want {share}");
            assert!((got_mean - mean).abs() < 2e-6, "G({x}) = {got_mean}, want {mean}");
        }
    }

    /// The same bits everywhere, of zeros too (the comparison with the browser runs this through every tool).
    #[test]
    fn of_two_zeros_the_second_is_taken() {
        let bits = |v: Lanes| v.to_array()[0].to_bits();
        for (a, b) in [(0.0_f32, -0.0_f32), (-0.0, 0.0)] {
            assert_eq!(bits(larger(all(a), all(b))), b.to_bits(), "larger of {a:?} and {b:?}");
            assert_eq!(bits(smaller(all(a), all(b))), b.to_bits(), "smaller of {a:?} and {b:?}");
        }
    }

    #[test]
    fn lanes_do_not_mix() {
        let x = Lanes::from([0.1, -2.0, 30.0, 0.0]);
        let one_by_one: Vec<f32> = x.to_array().iter().map(|v| exp(all(*v)).to_array()[0]).collect();
        assert_eq!(exp(x).to_array().to_vec(), one_by_one);
    }
}
