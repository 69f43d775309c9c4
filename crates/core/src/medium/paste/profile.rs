//! The line that hairs draw into paint, and how far they leave gaps: scallops of mixed width across the brush.

use super::noise::stream;
use crate::num;

/// The line that hairs draw, and how far it leaves gaps, at a step of the profile.
pub struct Profile {
    line: Vec<f32>,
    gap: Vec<f32>,
}

/// Steps of the profile's table, and their length, mm.
const STEPS: usize = 2048;
const STEP_MM: f32 = 0.02;

impl Profile {
    /// Both at a place across the brush, mm.
    #[inline(always)]
    pub fn at(&self, mm: f32) -> (f32, f32) {
        let u = mm * (1.0 / STEP_MM);
        let whole = u.floor();
        let i = (whole as i32 as usize) & (STEPS - 1);
        let j = (i + 1) & (STEPS - 1);
        let f = u - whole;
        (self.line[i] + (self.line[j] - self.line[i]) * f, self.gap[i] + (self.gap[j] - self.gap[i]) * f)
    }

    /// Over 41 mm, seen through pixels; the same for every stroke of a brush. `uneven`: how far widths differ, 0 all alike, 1 as in
    /// the study.
    pub fn new(seed: u64, uneven: f32, pixel_mm: f32) -> Self {
        let chance = |k: usize, stream: u64| num::unit(num::hash(seed, stream, k as i64, 7));
        let width = |k: usize| {
            let r = 0.5 + (chance(k, stream::SCALLOPS) - 0.5) * uneven;
            0.10 + 0.10 * r + 0.75 * r * r * r * chance(k, stream::SCALLOP_WIDTHS).max(0.3)
        };
        let mut line = vec![0.0_f32; STEPS];
        let (mut at, mut k) = (0.0_f32, 0);
        let whole = STEPS as f32 * STEP_MM;
        while at < whole {
            let wide = width(k).min(whole - at + 0.1);
            let high = (0.35 + 0.45 * chance(k, stream::SCALLOP_HEIGHTS)) * (wide / 0.25).sqrt().min(1.6);
            let (from, to) = ((at / STEP_MM) as usize, (((at + wide) / STEP_MM) as usize).min(STEPS));
            for (i, v) in line.iter_mut().enumerate().take(to).skip(from) {
                let q = 2.0 * ((i as f32 + 0.5) * STEP_MM - at) / wide - 1.0;
                *v = high * q * q;
            }
            at += wide;
            k += 1;
        }
        let mean = line.iter().sum::<f32>() / line.len() as f32;
        let gap: Vec<f32> = line.iter().map(|v| v * v).collect();
        let mean_gap = gap.iter().sum::<f32>() / gap.len() as f32;
        let line = line.iter().map(|v| v - mean).collect();
        let gap = gap.iter().map(|v| v / mean_gap).collect();
        Self { line: seen(seen(line, pixel_mm), pixel_mm), gap: seen(seen(gap, pixel_mm), pixel_mm) }
    }
}

/// Blurred by a box of 1.6 pixels, round and round.
fn seen(values: Vec<f32>, pixel_mm: f32) -> Vec<f32> {
    let half = ((0.8 * pixel_mm / STEP_MM).round() as usize).min(STEPS / 4);
    let n = values.len();
    (0..n)
        .map(|i| (0..=2 * half).map(|d| values[(i + n + d - half) % n]).sum::<f32>() / (2 * half + 1) as f32)
        .collect()
}
