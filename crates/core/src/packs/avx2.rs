//! x86-64 of the third level (AVX2): registers of eight numbers.

use fearless_simd::prelude::*;
use fearless_simd::x86::Avx2;
use fearless_simd::{f32x8, mask32x8};

use super::{Lanes, Machine, PACK, Pack};

impl Machine for Avx2 {
    type Pack = f32x8<Self>;

    #[inline(always)]
    fn run<R>(self, work: impl FnOnce() -> R) -> R {
        self.vectorize(work)
    }

    #[inline(always)]
    fn all(self, value: f32) -> f32x8<Self> {
        f32x8::splat(self, value)
    }

    #[inline(always)]
    fn of(self, values: [f32; PACK]) -> f32x8<Self> {
        f32x8::load_array(self, values)
    }
}

impl Pack for f32x8<Avx2> {
    type Lanes = mask32x8<Avx2>;

    #[inline(always)]
    fn to_array(self) -> [f32; PACK] {
        SimdBase::to_array(self)
    }

    #[inline(always)]
    fn abs(self) -> Self {
        SimdBase::abs(self)
    }

    #[inline(always)]
    fn sqrt(self) -> Self {
        SimdFloat::sqrt(self)
    }

    #[inline(always)]
    fn larger(self, other: Self) -> Self {
        self.max(other)
    }

    #[inline(always)]
    fn smaller(self, other: Self) -> Self {
        self.min(other)
    }

    #[inline(always)]
    fn gt(self, other: Self) -> mask32x8<Avx2> {
        self.simd_gt(other)
    }

    #[inline(always)]
    fn ge(self, other: Self) -> mask32x8<Avx2> {
        self.simd_ge(other)
    }

    #[inline(always)]
    fn lt(self, other: Self) -> mask32x8<Avx2> {
        self.simd_lt(other)
    }

    #[inline(always)]
    fn eq(self, other: Self) -> mask32x8<Avx2> {
        self.simd_eq(other)
    }
}

impl Lanes<f32x8<Avx2>> for mask32x8<Avx2> {
    #[inline(always)]
    fn pick(self, yes: f32x8<Avx2>, no: f32x8<Avx2>) -> f32x8<Avx2> {
        self.select(yes, no)
    }

    #[inline(always)]
    fn is_all(self) -> bool {
        self.all_true()
    }

    #[inline(always)]
    fn is_any(self) -> bool {
        self.any_true()
    }
}
