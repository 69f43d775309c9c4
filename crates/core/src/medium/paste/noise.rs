//! Unevenness along a way: value noise of one number, ±1, of unit lattice.

use crate::num;

/// Streams of chance.
pub mod stream {
    pub const LENGTH: u64 = 40;
    pub const TUFT_LENGTH: u64 = 41;
    pub const SURFACES: u64 = 42;
    pub const ABSORBS: u64 = 43;
    pub const RAGGED: u64 = 44;
    pub const TUFT_SLOW: u64 = 45;
    pub const TUFT_FAST: u64 = 46;
    pub const LANE_SLOW: u64 = 47;
    pub const LANE_FAST: u64 = 48;
    pub const WANDER_SLOW: u64 = 49;
    pub const WANDER_FAST: u64 = 50;
    pub const LOAD: u64 = 53;
    pub const RIM: u64 = 54;
    pub const HAIRS: u64 = 55;
    pub const STREAKS: u64 = 56;
    pub const SCALLOPS: u64 = 57;
    pub const SCALLOP_WIDTHS: u64 = 58;
    pub const SCALLOP_HEIGHTS: u64 = 59;
    pub const BLADE: u64 = 60;
    pub const BLADE_FINE: u64 = 61;
    pub const BLADE_BROAD: u64 = 62;
    pub const BEAD: u64 = 63;
    pub const BEAD_FINE: u64 = 64;
    pub const TORN: u64 = 65;
    pub const TORN_FINE: u64 = 66;
    pub const STRAY_VALUE: u64 = 67;
    pub const STRAY_WARMTH: u64 = 68;
}

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

/// Smooth noise over two dimensions, ±1.
pub fn across(seed: u64, stream: u64, a: f32, x: f32) -> f32 {
    let cell = a.floor();
    let at = |i: i64| along(seed, stream, (cell as i64 + i + 10_000) as usize, x);
    let near = at(0);
    near + (at(1) - near) * num::smooth(a - cell)
}

/// How much of something is reached over a way of so many of its lengths: `1 − e^(−x)`.
#[inline]
pub fn toward(x: f32) -> f32 {
    1.0 - num::exp(-x)
}
