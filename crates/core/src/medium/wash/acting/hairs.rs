//! Hairs across the tip: how differently they reach into the tooth, and how differently they are loaded.

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

/// What hairs of a tool differ in.
#[derive(Debug, Clone, Copy)]
pub struct Hairs {
    seed: u64,
    lines: f32,
    water: f32,
    paint: f32,
}

/// How a tip touches in one place of its way.
pub struct Contact {
    hairs: Hairs,
    sq_um: f32,
    reach: f32,
}

/// What the hair over a place does.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hair {
    pub reaches: f32,
    pub film: f32,
    pub paint: f32,
}

impl Hairs {
    /// How differently they reach, and are loaded with water and with paint.
    pub fn new(seed: u64, lines: f64, [water, paint]: [f64; 2]) -> Self {
        Self { seed, lines: lines as f32, water: water as f32, paint: paint as f32 }
    }

    /// On paper whose heights deviate by `sq_um`, reaching so far.
    pub fn contact(&self, sq_um: f32, reach: f32) -> Contact {
        Contact { hairs: *self, sq_um: sq_um.max(LEAST_SQ_UM), reach }
    }
}

/// Smooth noise along a way, ±1.7, of one hair.
fn noise(seed: u64, stream: u64, which: i64, x: f32) -> f32 {
    let cell = x.floor();
    let t = x - cell;
    let at = |i: i64| num::gaussian(num::hash(seed, stream, which, cell as i64 + i)).clamp(-1.7, 1.7);
    let s = t * t * (3.0 - 2.0 * t);
    let a = at(0);
    a + (at(1) - a) * s
}

/// The lock before a hair, and how far the hair lies from it towards the next.
fn lock_of(hair: i64) -> (i64, f32) {
    let at = hair as f64 * HAIR_MM / LOCK_MM;
    let lock = f64::floor(at);
    (lock as i64, (at - lock) as f32)
}

/// How unevenly hairs do one thing after so much way: smooth noise of each and of the locks it lies between, each so much of it.
struct Uneven {
    seed: u64,
    stream: u64,
    x: f32,
    by: f32,
    shares: [f32; 2],
    /// Of every lock, from this one on.
    first: i64,
    locks: Vec<f32>,
}

impl Uneven {
    /// Of the hairs from `-half` to `half`.
    fn of(seed: u64, stream: u64, x: f32, by: f32, shares: [f32; 2], half: i64) -> Self {
        let [first, last] = [-half, half].map(|hair| lock_of(hair).0);
        let locks = if by > 0.0 { first..last + 2 } else { 0..0 };
        let locks = locks.map(|lock| noise(seed, stream + LOCKS, lock, x)).collect();
        Self { seed, stream, x, by, shares, first, locks }
    }

    fn at(&self, hair: i64) -> f32 {
        if self.by <= 0.0 {
            return 0.0;
        }
        let (lock, t) = lock_of(hair);
        let beside = &self.locks[(lock - self.first) as usize..];
        let (s, a) = (t * t * (3.0 - 2.0 * t), beside[0]);
        let [own, common] = self.shares;
        self.by * (own * noise(self.seed, self.stream, hair, self.x) + common * (a + (beside[1] - a) * s))
    }
}

impl Contact {
    /// The hairs from `-half_mm` to `half_mm` across the pull, after so much way: the mean of those within a pixel.
    pub fn across(&self, half_mm: f64, way_mm: f64, pixel_mm: f64) -> Vec<Hair> {
        let within = (f64::ceil(0.5 * pixel_mm / HAIR_MM - 0.5).max(0.0)) as usize;
        let half = f64::ceil(half_mm / HAIR_MM) as i64 + 1 + within as i64;
        let x = way_mm as f32 / DRIFTS_MM;
        let h = &self.hairs;
        let of = |stream: u64, by: f32, shares: [f32; 2]| Uneven::of(h.seed, stream, x, by, shares, half);
        let reaches = of(REACHES, h.lines, IN_REACH);
        let (water, paint) = (of(WATER, h.water, IN_LOAD), of(PAINT, h.paint, IN_LOAD));
        let single: Vec<Hair> = (-half..=half)
            .map(|i| Hair {
                reaches: PARTS * reaches.at(i),
                film: num::exp(0.6 * water.at(i)),
                paint: num::exp(0.8 * paint.at(i)),
            })
            .collect();
        if within == 0 {
            return single;
        }
        let mean = |hairs: &[Hair]| {
            let of = |part: fn(&Hair) -> f32| hairs.iter().map(part).sum::<f32>() / hairs.len() as f32;
            Hair { reaches: of(|h| h.reaches), film: of(|h| h.film), paint: of(|h| h.paint) }
        };
        single.windows(2 * within + 1).map(mean).collect()
    }

    /// The place of a distance across the pull among [`Contact::across`].
    #[inline]
    pub fn between(hairs: &[Hair], mm: f64) -> Hair {
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
        let x = x.clamp(0.0, 1.0);
        x * x * (3.0 - 2.0 * x)
    }
}
