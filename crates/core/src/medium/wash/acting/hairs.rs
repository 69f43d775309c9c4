//! Hairs across the tip: how differently they reach into the tooth, and how differently they are loaded.

use std::ops::Range;

use crate::lanes::{self, LANES, Lanes, all};
use crate::num;

/// A hair and what goes with it, mm across the pull; it changes over this length along it, mm (the wash study's).
const HAIR_MM: f64 = 0.115;
const DRIFTS_MM: f32 = 7.0;
/// Wet hairs hang together in locks so wide, mm: what is a hair's own counts so much, and what is common to a lock so much, in how far they reach and
/// in what they carry (squares add up to one; tuned by eye: without locks a stroke is even once a pixel is as wide as some hairs).
const LOCK_MM: f64 = 1.1;
const IN_REACH: [f32; 2] = [0.8, 0.6];
const IN_LOAD: [f32; 2] = [0.92, 0.39];
/// Streams of chance; those of locks stand behind them.
const REACHES: u64 = 310;
const WATER: u64 = 311;
const PAINT: u64 = 312;
const LOCKS: u64 = 330;
/// How far hairs that part wholly reach more or less, deviations of the paper's height.
const PARTS: f32 = 2.2;
/// How far the paper's fine tooth lifts it to the hairs, deviations of its height for one of pits (what a pixel's mean height no longer has), and over
/// what of it a touch goes from none to whole (both tuned by eye: without the tooth islands of a dry brush are crisp and even).
const TOOTH: f32 = 0.7;
const SOFT: f32 = 1.2;
/// Paper that is flatter than this meets a tip as if it were so rough, µm.
const LEAST_SQ_UM: f32 = 2.0;

/// Chances that are looked up anew reach so many hairs or locks farther than they must: a tip that is pressed down is soon wider.
const AHEAD: i64 = 8;

/// What hairs of a tool differ in.
#[derive(Debug, Clone, Copy)]
pub struct Hairs {
    seed: u64,
    lines: f32,
    water: f32,
    paint: f32,
}

/// Where hairs touch: so far to both sides of the tip's middle, after so much way, on pixels of a sheet, mm.
#[derive(Debug, Clone, Copy)]
pub struct Across {
    pub half_mm: f64,
    pub way_mm: f64,
    pub pixel_mm: f64,
}

/// How a tip touches in one place of its way, on paper whose heights deviate by `sq_um`, reaching so far; with the hairs from one end to the other.
pub struct Contact {
    sq_um: f32,
    reach: f32,
    hairs: Vec<Hair>,
}

/// What the hair over a place does.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hair {
    pub reaches: f32,
    pub film: f32,
    pub paint: f32,
}

/// What chance gives the hairs and the locks of a tool, for each thing that they do: kept from touch to touch, since it holds for a piece of the way.
#[derive(Debug, Clone, Default)]
pub struct Chances([[Ends; 2]; 3]);

/// Chance of some hairs, or locks, at both ends of a piece of the way.
#[derive(Debug, Clone, Default)]
struct Ends {
    piece: i64,
    first: i64,
    values: Vec<[f32; 2]>,
}

impl Ends {
    /// Of those asked for.
    fn of(&mut self, [seed, stream]: [u64; 2], piece: i64, which: Range<i64>) -> &[[f32; 2]] {
        let kept = self.first..self.first + self.values.len() as i64;
        if self.piece != piece || which.start < kept.start || which.end > kept.end {
            let wide = which.start - AHEAD..which.end + AHEAD;
            let at = |i: i64, end: i64| num::gaussian(num::hash(seed, stream, i, end)).clamp(-1.7, 1.7);
            let values = wide.clone().map(|i| [at(i, piece), at(i, piece + 1)]).collect();
            *self = Self { piece, first: wide.start, values };
        }
        &self.values[(which.start - self.first) as usize..][..(which.end - which.start) as usize]
    }
}

/// The lock before a hair, and how far the hair lies from it towards the next.
fn lock_of(hair: i64) -> (i64, f32) {
    let at = hair as f64 * HAIR_MM / LOCK_MM;
    let lock = f64::floor(at);
    (lock as i64, (at - lock) as f32)
}

/// How unevenly hairs of a `seed` from `-half` to `half` do a thing after so much way `x`, by so much: smooth noise along it, ±1.7, of each and of the locks it
/// lies between, each so much of it.
fn uneven(
    [own, common]: &mut [Ends; 2],
    [seed, stream]: [u64; 2],
    (by, shares): (f32, [f32; 2]),
    x: f32,
    half: i64,
) -> Vec<f32> {
    if by <= 0.0 {
        return vec![0.0; (2 * half + 1) as usize];
    }
    let piece = x.floor();
    let along = num::smooth(x - piece);
    let noise = |[a, b]: &[f32; 2]| a + (b - a) * along;
    let [first, last] = [-half, half].map(|hair| lock_of(hair).0);
    let locks = common.of([seed, stream + LOCKS], piece as i64, first..last + 2);
    let locks: Vec<f32> = locks.iter().map(noise).collect();
    let hairs = own.of([seed, stream], piece as i64, -half..half + 1);
    let of = |(hair, ends): (i64, &[f32; 2])| {
        let (lock, t) = lock_of(hair);
        let [a, b] = locks[(lock - first) as usize..][..2] else { unreachable!("two locks") };
        by * (shares[0] * noise(ends) + shares[1] * (a + (b - a) * num::smooth(t)))
    };
    (-half..=half).zip(hairs).map(of).collect()
}

/// `e` to the power of so much of each of some values.
fn exps(by: f32, mut values: Vec<f32>) -> Vec<f32> {
    for some in values.chunks_mut(LANES) {
        let mut four = [0.0; LANES];
        four[..some.len()].copy_from_slice(some);
        let four = lanes::exp(all(by) * Lanes::from(four)).to_array();
        some.copy_from_slice(&four[..some.len()]);
    }
    values
}

impl Hairs {
    /// How differently they reach, and are loaded with water and with paint.
    pub fn new(seed: u64, lines: f64, [water, paint]: [f64; 2]) -> Self {
        Self { seed, lines: lines as f32, water: water as f32, paint: paint as f32 }
    }

    /// On paper whose heights deviate by `sq_um`, reaching so far: of the hairs within a pixel the mean.
    pub fn contact(&self, sq_um: f32, reach: f32, across: Across, chances: &mut Chances) -> Contact {
        let within = (f64::ceil(0.5 * across.pixel_mm / HAIR_MM - 0.5).max(0.0)) as usize;
        let half = f64::ceil(across.half_mm / HAIR_MM) as i64 + 1 + within as i64;
        let x = across.way_mm as f32 / DRIFTS_MM;
        let Chances([reaches, water, paint]) = chances;
        let reaches = uneven(reaches, [self.seed, REACHES], (self.lines, IN_REACH), x, half);
        let water = uneven(water, [self.seed, WATER], (self.water, IN_LOAD), x, half);
        let paint = uneven(paint, [self.seed, PAINT], (self.paint, IN_LOAD), x, half);
        let loads = exps(0.6, water).into_iter().zip(exps(0.8, paint));
        let single = reaches.into_iter().zip(loads);
        let single: Vec<Hair> =
            single.map(|(r, (film, paint))| Hair { reaches: PARTS * r, film, paint }).collect();
        let mean = |hairs: &[Hair]| {
            let of = |part: fn(&Hair) -> f32| hairs.iter().map(part).sum::<f32>() / hairs.len() as f32;
            Hair { reaches: of(|h| h.reaches), film: of(|h| h.film), paint: of(|h| h.paint) }
        };
        let hairs = if within == 0 { single } else { single.windows(2 * within + 1).map(mean).collect() };
        Contact { sq_um: sq_um.max(LEAST_SQ_UM), reach, hairs }
    }
}

impl Contact {
    /// What hairs do so far from the tip's middle, mm across the pull.
    #[inline]
    pub fn hair(&self, mm: f64) -> Hair {
        let hairs = &self.hairs;
        let u = (mm / HAIR_MM + (hairs.len() / 2) as f64).clamp(0.0, (hairs.len() - 2) as f64);
        let i = u as usize;
        let t = (u - i as f64) as f32;
        let (a, b) = (&hairs[i], &hairs[i + 1]);
        let mix = |a: f32, b: f32| a + (b - a) * t;
        Hair { reaches: mix(a.reaches, b.reaches), film: mix(a.film, b.film), paint: mix(a.paint, b.paint) }
    }

    /// Share of a cell of some height that is touched, µm from the mean level, its pits under nought (the wash study's form).
    #[inline]
    pub fn share(&self, height_um: f32, pit: f32, hair: &Hair) -> f32 {
        let level = 2.0 - 5.0 * self.reach;
        let x = (height_um / self.sq_um + TOOTH * pit + hair.reaches - level) / SOFT + 0.5;
        num::smooth(x)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Wider and narrower, farther on and back: whatever was looked up before.
    #[test]
    fn hairs_touch_alike_whatever_a_tip_touched_before() {
        let hairs = Hairs::new(3, 0.8, [0.5, 0.3]);
        let mut kept = Chances::default();
        for (half_mm, way_mm) in
            [(0.3, 0.0), (2.0, 0.4), (1.9, 6.9), (1.9, 7.1), (9.0, 7.2), (0.5, 30.0), (2.0, 0.4)]
        {
            let across = Across { half_mm, way_mm, pixel_mm: 0.1 };
            let again = hairs.contact(9.0, 0.5, across, &mut kept).hairs;
            let fresh = hairs.contact(9.0, 0.5, across, &mut Chances::default()).hairs;
            assert_eq!(again, fresh, "{half_mm} mm wide after {way_mm} mm");
            assert!(fresh.iter().any(|hair| *hair != fresh[0]), "they differ");
        }
    }
}
