//! Hairs across the tip: how differently they reach into the tooth, and how differently they are loaded.

use crate::num;

/// A hair and what goes with it, mm across the pull; it changes over this length along it, mm (the wash study's).
const HAIR_MM: f64 = 0.115;
const DRIFTS_MM: f32 = 7.0;
/// Streams of chance.
const REACHES: u64 = 310;
const WATER: u64 = 311;
const PAINT: u64 = 312;
/// How far hairs that part wholly reach more or less, deviations of the paper's height.
const PARTS: f32 = 2.2;
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

impl Contact {
    /// The hairs from `-half_mm` to `half_mm` across the pull, after so much way: the mean of those within a pixel.
    pub fn across(&self, half_mm: f64, way_mm: f64, pixel_mm: f64) -> Vec<Hair> {
        let within = (f64::ceil(0.5 * pixel_mm / HAIR_MM - 0.5).max(0.0)) as usize;
        let half = f64::ceil(half_mm / HAIR_MM) as i64 + 1 + within as i64;
        let x = way_mm as f32 / DRIFTS_MM;
        let h = &self.hairs;
        let single: Vec<Hair> = (-half..=half)
            .map(|i| {
                let n = |stream: u64, by: f32| if by > 0.0 { by * noise(h.seed, stream, i, x) } else { 0.0 };
                Hair {
                    reaches: PARTS * n(REACHES, h.lines),
                    film: num::exp(0.6 * n(WATER, h.water)),
                    paint: num::exp(0.8 * n(PAINT, h.paint)),
                }
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

    /// Share of a cell of some height that is touched, µm from the mean level (the wash study's form).
    #[inline]
    pub fn share(&self, height_um: f32, hair: &Hair) -> f32 {
        let level = 2.0 - 5.0 * self.reach;
        let x = (height_um / self.sq_um + hair.reaches - level) / 0.45 + 0.5;
        let x = x.clamp(0.0, 1.0);
        x * x * (3.0 - 2.0 * x)
    }
}
