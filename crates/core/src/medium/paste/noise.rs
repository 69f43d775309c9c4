//! Unevenness along a way: value noise of one number, ±1, of unit lattice.

use crate::num;

/// A hash as a number in −1..1.
#[inline]
fn even(bits: u64) -> f32 {
    2.0 * num::unit(bits) - 1.0
}

/// Constant ±1 of one hair or tuft.
pub fn constant(seed: u64, stream: u64, which: usize) -> f32 {
    even(num::hash(seed, stream, which as i64, 0))
}

/// Smooth noise at `x`, ±1.
#[inline]
pub fn along(seed: u64, stream: u64, which: usize, x: f32) -> f32 {
    let cell = x.floor();
    let t = x - cell;
    let at = |i: i64| even(num::hash(seed, stream, which as i64, cell as i64 + i));
    let s = t * t * t * (t * (t * 6.0 - 15.0) + 10.0);
    let a = at(0);
    a + (at(1) - a) * s
}

/// Smooth step of 0..1.
#[inline]
pub fn step(x: f32) -> f32 {
    let x = x.clamp(0.0, 1.0);
    x * x * (3.0 - 2.0 * x)
}
