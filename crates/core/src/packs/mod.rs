//! Packs: so many numbers at once as fit a register of the machine, found while the program runs. In plain IEEE operations, lane by lane, so that every
//! machine gives the same bits.
//!
//! What is generic over a [`Machine`] must be inlined into what it [`Machine::run`]s (`#[inline(always)]`): only there the compiler may use the machine's own
//! instructions.

#[cfg(target_arch = "x86_64")]
mod avx2;
mod portable;

use std::hint::black_box;
use std::ops::{Add, AddAssign, BitAnd, BitOr, Div, Mul, Neg, Sub};

pub use portable::Portable;

/// How many numbers are a pack.
pub const PACK: usize = if cfg!(target_arch = "x86_64") { 8 } else { 4 };

/// A kind of machine, and the proof that this is one.
pub trait Machine: Copy {
    type Pack: Pack;

    /// Does work with the instructions of this machine.
    fn run<R>(self, work: impl FnOnce() -> R) -> R;

    /// The same number in every lane.
    fn all(self, value: f32) -> Self::Pack;

    fn of(self, values: [f32; PACK]) -> Self::Pack;

    /// Nought in every lane, hidden from the compiler: of a nought that it knows it makes [`larger`] and [`smaller`] a comparison and a mask, two instructions
    /// of WebAssembly where one would do.
    #[inline(always)]
    fn nought(self) -> Self::Pack {
        self.all(black_box(0.0))
    }
}

/// Numbers that are worked at once.
pub trait Pack:
    Copy
    + Neg<Output = Self>
    + Add<Output = Self>
    + Sub<Output = Self>
    + Mul<Output = Self>
    + Div<Output = Self>
    + AddAssign
{
    type Lanes: Lanes<Self>;

    fn to_array(self) -> [f32; PACK];
    fn abs(self) -> Self;
    fn sqrt(self) -> Self;
    /// As [`larger`] and [`smaller`].
    fn larger(self, other: Self) -> Self;
    fn smaller(self, other: Self) -> Self;
    /// In which lanes it is greater than the other, at least as great, less, equal; nowhere where one of them is not a number.
    fn gt(self, other: Self) -> Self::Lanes;
    fn ge(self, other: Self) -> Self::Lanes;
    fn lt(self, other: Self) -> Self::Lanes;
    fn eq(self, other: Self) -> Self::Lanes;
}

/// Some lanes of a pack.
pub trait Lanes<P>: Copy + BitAnd<Output = Self> + BitOr<Output = Self> {
    /// `yes` in these lanes, `no` in the others.
    fn pick(self, yes: P, no: P) -> P;
    fn is_all(self) -> bool;
    fn is_any(self) -> bool;
}

/// The larger of each pair; the second where neither is (two zeros of any sign, not a number).
#[inline(always)]
pub fn larger<P: Pack>(a: P, b: P) -> P {
    a.larger(b)
}

/// The smaller of each pair; the second where neither is.
#[inline(always)]
pub fn smaller<P: Pack>(a: P, b: P) -> P {
    a.smaller(b)
}

/// `yes` where `a > b`, else `no`.
#[inline(always)]
pub fn where_greater<P: Pack>(a: P, b: P, yes: P, no: P) -> P {
    a.gt(b).pick(yes, no)
}

/// A machine with registers that hold a pack, if this is one: the processor is asked the first time, and its answer kept. [`Portable`] goes everywhere.
pub fn wide() -> Option<impl Machine> {
    #[cfg(target_arch = "x86_64")]
    return fearless_simd::Level::new().as_avx2();
    #[cfg(not(target_arch = "x86_64"))]
    return None::<Portable>;
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Every operation against what `f32` itself does, in every lane, of ordinary numbers, zeros of both signs and what is not a number.
    fn agrees_with_single_numbers<M: Machine>(m: M) {
        const VALUES: [f32; 9] = [0.0, -0.0, 1.5, -2.25, 1e-20, -3e20, f32::NAN, f32::INFINITY, 7.0];
        let lanes = |from: usize| std::array::from_fn(|k| VALUES[(from + k) % VALUES.len()]);
        for (i, j) in (0..VALUES.len()).flat_map(|i| (0..VALUES.len()).map(move |j| (i, j))) {
            let (a, b): ([f32; PACK], [f32; PACK]) = (lanes(i), lanes(j));
            let (x, y) = (m.of(a), m.of(b));
            let is = |what: &str, got: M::Pack, want: fn(f32, f32) -> f32| {
                for (k, got) in got.to_array().into_iter().enumerate() {
                    let want = want(a[k], b[k]);
                    let same = got.to_bits() == want.to_bits() || got.is_nan() && want.is_nan();
                    assert!(same, "{what} of {} and {}: {got}, want {want}", a[k], b[k]);
                }
            };
            is("sum", x + y, |a, b| a + b);
            is("difference", x - y, |a, b| a - b);
            is("product", x * y, |a, b| a * b);
            is("ratio", x / y, |a, b| a / b);
            is("opposite", -x, |a, _| -a);
            is("size", x.abs(), |a, _| a.abs());
            is("root", x.sqrt(), |a, _| a.sqrt());
            is("larger", larger(x, y), |a, b| if a > b { a } else { b });
            is("smaller", smaller(x, y), |a, b| if a < b { a } else { b });
            let pick = |lanes: <M::Pack as Pack>::Lanes| lanes.pick(x, y);
            is("greater", pick(x.gt(y)), |a, b| if a > b { a } else { b });
            is("as great", pick(x.ge(y)), |a, b| if a >= b { a } else { b });
            is("less", pick(x.lt(y)), |a, b| if a < b { a } else { b });
            is("equal", pick(x.eq(y)), |a, b| if a == b { a } else { b });
            is("both", pick(x.ge(y) & x.lt(m.all(2.0))), |a, b| if a >= b && a < 2.0 { a } else { b });
            is("either", pick(x.gt(y) | x.eq(m.all(7.0))), |a, b| if a > b || a == 7.0 { a } else { b });
            let greater = a.iter().zip(&b).filter(|(a, b)| a > b).count();
            assert_eq!(x.gt(y).is_any(), greater > 0, "{a:?} > {b:?} anywhere");
            assert_eq!(x.gt(y).is_all(), greater == PACK, "{a:?} > {b:?} everywhere");
        }
        assert!(m.all(2.0).gt(m.nought()).is_all());
    }

    #[test]
    fn packs_do_what_single_numbers_do() {
        agrees_with_single_numbers(Portable);
        if let Some(wide) = wide() {
            agrees_with_single_numbers(wide);
        }
    }
}
