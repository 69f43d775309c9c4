//! What every machine of its kind does: registers of four numbers, a pack of eight in two of them.

use super::{Lanes, Machine, PACK, Pack};

#[cfg(not(target_arch = "x86_64"))]
use wide::f32x4 as Numbers;
#[cfg(target_arch = "x86_64")]
use wide::f32x8 as Numbers;

/// Any machine.
#[derive(Debug, Clone, Copy)]
pub struct Portable;

impl Machine for Portable {
    type Pack = Numbers;

    #[inline(always)]
    fn run<R>(self, work: impl FnOnce() -> R) -> R {
        work()
    }

    #[inline(always)]
    fn all(self, value: f32) -> Numbers {
        Numbers::splat(value)
    }

    #[inline(always)]
    fn of(self, values: [f32; PACK]) -> Numbers {
        Numbers::from(values)
    }
}

impl Pack for Numbers {
    type Lanes = Numbers;

    #[inline(always)]
    fn to_array(self) -> [f32; PACK] {
        Numbers::to_array(self)
    }

    #[inline(always)]
    fn abs(self) -> Self {
        Numbers::abs(self)
    }

    #[inline(always)]
    fn sqrt(self) -> Self {
        Numbers::sqrt(self)
    }

    /// x86's own instruction takes the second where neither is larger, WebAssembly's the first: they are asked the other way round.
    #[inline(always)]
    fn larger(self, other: Self) -> Self {
        if cfg!(target_feature = "sse") { self.fast_max(other) } else { other.fast_max(self) }
    }

    #[inline(always)]
    fn smaller(self, other: Self) -> Self {
        if cfg!(target_feature = "sse") { self.fast_min(other) } else { other.fast_min(self) }
    }

    #[inline(always)]
    fn gt(self, other: Self) -> Numbers {
        self.simd_gt(other)
    }

    #[inline(always)]
    fn ge(self, other: Self) -> Numbers {
        self.simd_ge(other)
    }

    #[inline(always)]
    fn lt(self, other: Self) -> Numbers {
        self.simd_lt(other)
    }

    #[inline(always)]
    fn eq(self, other: Self) -> Numbers {
        self.simd_eq(other)
    }
}

impl Lanes<Numbers> for Numbers {
    #[inline(always)]
    fn pick(self, yes: Numbers, no: Numbers) -> Numbers {
        self.bitselect(yes, no)
    }

    #[inline(always)]
    fn is_all(self) -> bool {
        self.all()
    }

    #[inline(always)]
    fn is_any(self) -> bool {
        self.any()
    }
}
