//! Plain weave: warp and weft of twisted threads that pass over and under each other in turn, primed (dry study, "Weave").
//!
//! A thread's surface is `±crimp·cos(πs/p) + r·flat·√(1−u²) + twist·cos(2π(s/T + .55·asin u))`, `s` along it, `u` across
//! from −1 to 1; the higher of all threads shows; primer fills the gaps. Threads wander, differ in thickness and thicken to
//! slubs: without that a weave looks like a machine's drawing.

use super::super::recipe::Recipe;
use super::super::{PERIOD_MM, PITCH_MM, Region};
use super::thread::{Along, Walk};
use super::tooth::{Tooth, fill_in_place, smooth};
use crate::num;

/// Height that a thread rises and falls at each crossing, as a share of its pitch (µm for a mm).
const CRIMP: f64 = 0.04;
/// Half thickness of a pressed thread over half its width.
const FLAT: f64 = 0.24;
/// Half width of a thread over half its pitch.
const FULL: f64 = 0.78;
/// Height of the plies of a twisted thread, µm for a mm of its pitch; one turn for so many pitches.
const TWIST: f64 = 0.011;
const TURN: f64 = 0.8;

/// How far threads are crowded, as a share of their pitch, and over which length, mm.
const CROWD: f64 = 0.8;
const CROWD_MM: f64 = 14.0;
/// How far all threads bow, mm, and over which length, mm.
const BOW: f64 = 0.35;
const BOW_MM: f64 = 45.0;
/// Threads this far from a place may still pass over it.
const FARTHEST: i64 = 8;

pub(super) struct Weave {
    seed: u64,
    /// Threads in a period: warp (run down the sheet), weft (across).
    threads: [i64; 2],
    uneven: f32,
    primer: f32,
}

/// One thread over the pixels of a region, along it.
struct Thread {
    /// Middle, mm across.
    middle: Vec<f32>,
    /// Half width, mm.
    half: Vec<f32>,
    /// Height of its middle line, µm.
    rise: Vec<f32>,
    /// Half thickness, µm.
    thick: Vec<f32>,
    /// Phase of the twist, turns.
    turn: Vec<f32>,
}

impl Weave {
    pub(super) fn new(recipe: &Recipe, seed: u64) -> Self {
        let threads = ["warp_cm", "weft_cm"].map(|id| {
            let n = libm::round(recipe.number(id) * PERIOD_MM / 10.0) as i64;
            // An even number, so that over and under meet at the period.
            n + n.rem_euclid(2)
        });
        Self { seed, threads, uneven: recipe.number("uneven") as f32, primer: recipe.number("primer") as f32 }
    }

    /// Threads of one direction (0 warp, 1 weft) that pass over `from..to` mm across, at places along them.
    fn threads(&self, way: usize, across: [f64; 2], along: &[f64]) -> Vec<Thread> {
        let pitch = PERIOD_MM / self.threads[way] as f64;
        let cross = PERIOD_MM / self.threads[1 - way] as f64;
        let index = |mm: f64| f64::floor(mm / pitch) as i64;
        (index(across[0]) - FARTHEST..=index(across[1]) + FARTHEST)
            .filter_map(|n| self.thread(way, n, [pitch, cross], across, along))
            .collect()
    }

    /// How far threads of one direction are moved across, as a share of [`CROWD`] of their pitch.
    fn crowd(&self, way: usize) -> Walk {
        Along { seed: self.seed, stream: 57 + 10 * way as u64, over_mm: CROWD_MM }.thread(0)
    }

    /// How far all threads of one direction bow along them, as a share of [`BOW`].
    fn bow(&self, way: usize) -> Walk {
        Along { seed: self.seed, stream: 58 + 10 * way as u64, over_mm: BOW_MM }.thread(0)
    }

    /// A thread at places `along` it; nothing where it passes by `across`.
    fn thread(
        &self,
        way: usize,
        line: i64,
        [pitch, cross]: [f64; 2],
        across: [f64; 2],
        along: &[f64],
    ) -> Option<Thread> {
        let n = line.rem_euclid(self.threads[way]);
        let stream = 50 + 10 * way as u64;
        let u = self.uneven;
        let noise =
            |k: u64, over_mm: f64, n: i64| Along { seed: self.seed, stream: stream + k, over_mm }.thread(n);
        let (mut wander, mut sway) = (noise(0, 2.6, n), noise(1, 23.0, n / 4));
        let (mut size, mut slub) = (noise(2, 1.7, n), noise(3, 13.0, n));
        // Threads stand closer in one place than in another, and all bow together: no two places of a canvas are alike.
        let middle = (line as f64 + 0.5) * pitch;
        let place = (middle + CROWD * pitch * f64::from(self.crowd(way).at(middle))) as f32;
        let near = (across[0] - 2.0 * pitch - 4.0 * BOW) as f32..(across[1] + 2.0 * pitch + 4.0 * BOW) as f32;
        if !near.contains(&place) {
            return None;
        }
        let own = num::gaussian(num::hash(self.seed, stream + 5, n, 0));
        let start = num::unit(num::hash(self.seed, stream + 6, n, 0));
        // Which of the threads that cross is at `s`, counted from their first: where they are crowded, crossings are too.
        let mut crowd = self.crowd(1 - way);
        let bowed = BOW * f64::from(self.bow(1 - way).at(f64::from(place)));
        let mut crossing = |s: f64| (s - CROWD * cross * f64::from(crowd.at(s)) - bowed) / cross;
        let mut bow = self.bow(way);
        // Warp passes over where the sum of both counts is even, weft where it is odd.
        let odd = ((line + way as i64).rem_euclid(2) as f64) * std::f64::consts::PI;
        let half = (0.5 * pitch * FULL) as f32;
        let flat = (1e3 * FLAT) as f32;
        let mut out = Thread {
            middle: Vec::new(),
            half: Vec::new(),
            rise: Vec::new(),
            thick: Vec::new(),
            turn: Vec::new(),
        };
        for s in along {
            // A slub: a long thick place on few threads.
            let thick = (slub.at(*s) - 1.4).max(0.0);
            let size = size.at(*s);
            let width = 1.0 + u * (0.07 * own + 0.09 * size + 0.3 * thick);
            let stray = u * pitch as f32 * (0.07 * wander.at(*s) + 0.10 * sway.at(*s) + 0.05 * own);
            let phase = std::f64::consts::PI * (crossing(*s) - 0.5) + odd;
            out.middle.push(place + (BOW * f64::from(bow.at(*s))) as f32 + stray);
            out.half.push(half * width.clamp(0.6, 1.7));
            out.rise.push((1e3 * CRIMP * cross * libm::cos(phase)) as f32 * (1.0 + 0.25 * u * own));
            out.thick.push(half * flat * width.clamp(0.6, 1.9));
            out.turn.push((s / (TURN * pitch)) as f32 + start + 0.25 * size);
        }
        Some(out)
    }

    fn heights(&self, region: Region) -> Vec<f32> {
        let mm = |px: i64| (px as f64 + 0.5) * PITCH_MM;
        let columns: Vec<f64> = (0..region.width as i64).map(|i| mm(region.x + i)).collect();
        let rows: Vec<f64> = (0..region.height as i64).map(|j| mm(region.y + j)).collect();
        let ends = |mm: &[f64]| [mm[0], mm[mm.len() - 1]];
        // Gaps go far down; primer decides how far they show.
        let mut out = vec![-400.0_f32; region.len()];
        for way in 0..2 {
            let (across, along) = if way == 0 { (&columns, &rows) } else { (&rows, &columns) };
            let pitch = (PERIOD_MM / self.threads[way] as f64) as f32;
            let ply = 1e3 * TWIST as f32 * pitch;
            for thread in self.threads(way, ends(across), along) {
                for (k, _) in along.iter().enumerate() {
                    let (middle, half) = (thread.middle[k], thread.half[k]);
                    let first = across.partition_point(|m| (*m as f32) <= middle - half);
                    for (i, m) in across.iter().enumerate().skip(first) {
                        let u = (*m as f32 - middle) / half;
                        if u >= 1.0 {
                            break;
                        }
                        let round = (1.0 - u * u).max(0.0).sqrt();
                        let twist = cos_turns(thread.turn[k] + 0.55 * asin(u));
                        let h = thread.rise[k] + thread.thick[k] * round + ply * twist * round;
                        let at = if way == 0 { k * region.width + i } else { i * region.width + k };
                        if h > out[at] {
                            out[at] = h;
                        }
                    }
                }
            }
        }
        // Primer stands in the gaps, and sinks a little into the deep ones.
        let pitch = 0.5e3 * PERIOD_MM as f32 * (1.0 / self.threads[0] as f32 + 1.0 / self.threads[1] as f32);
        let level = pitch * (-0.045 + 0.11 * self.primer);
        fill_in_place(&mut out, [level, 0.012 * pitch]);
        out
    }
}

impl Tooth for Weave {
    fn over(&self, region: Region) -> Vec<f32> {
        // Primer rounds what it covers.
        let sigma = (0.03 + 0.05 * f64::from(self.primer)) / PITCH_MM;
        smooth(sigma, region, |grown| self.heights(grown))
    }
}

/// `cos(2π·t)`.
fn cos_turns(t: f32) -> f32 {
    libm::cosf((t - t.floor()) * std::f32::consts::TAU)
}

/// `asin(u)` within 0.07 rad, 0 and ±π/2 exact: where on a thread's round the twist stands needs no more.
fn asin(u: f32) -> f32 {
    u * (1.0 + u * u * (std::f32::consts::FRAC_PI_2 - 1.0))
}
