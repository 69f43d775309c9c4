//! Laid paper: the ridges that the mould's wires leave, crossed by chain lines, in a felted sheet (dry study, "Laid"). Laid
//! lines run across the sheet, chain lines down it.

use super::super::fibres::Mat;
use super::super::noise::Band;
use super::super::recipe::Recipe;
use super::super::{PERIOD_MM, PITCH_MM, Region};
use super::thread::Along;
use super::tooth::{Tooth, blurred, press_in_place, pressed_fibres, stretch};
use crate::num;

/// Wires wander by this much, mm, over this length, mm.
const WANDER_MM: f64 = 0.05;
const WANDER_OVER_MM: f64 = 9.0;
/// Wires stand closer in one place than in another: how far, as a share of their pitch, and over which length, mm.
const CROWD: f64 = 0.5;
const CROWD_MM: f64 = 18.0;
/// Chain lines: depth µm, half width mm.
const CHAIN_UM: f32 = 8.0;
const CHAIN_MM: f64 = 0.34;

pub(super) struct Laid {
    seed: u64,
    lines: i64,
    chains: i64,
    mat: Mat,
    felt: [Band; 2],
}

impl Laid {
    pub(super) fn new(recipe: &Recipe, seed: u64) -> Self {
        let direction = recipe.number("direction");
        let band = |stream, mm| Band::drawn_out(seed, stream, mm, false, stretch(direction));
        let per_period = |id: &str| (libm::round(PERIOD_MM / recipe.number(id)) as i64).max(1);
        let mat = pressed_fibres(seed, direction);
        Self {
            seed,
            lines: per_period("line_mm"),
            chains: per_period("chain_mm"),
            mat,
            felt: [band(10, 1.3), band(11, 3.2)],
        }
    }
}

impl Tooth for Laid {
    fn over(&self, region: Region) -> Vec<f32> {
        let fibres = blurred(self.mat, 0.045, region);
        let [near, far] = [0, 1].map(|k: usize| self.felt[k].over(region));
        let mm = |px: i64| (px as f64 + 0.5) * PITCH_MM;
        let pitch = PERIOD_MM / self.lines as f64;
        let columns: Vec<f64> = (0..region.width as i64).map(|i| mm(region.x + i)).collect();
        let chain: Vec<f32> = columns.iter().map(|x| self.chain(*x)).collect();
        // The wires of the lines that pass, with what lies beside them.
        let first = f64::floor(mm(region.y) / pitch) as i64 - 4;
        let last = f64::floor(mm(region.y + region.height as i64) / pitch) as i64 + 4;
        let wires: Vec<Vec<[f32; 2]>> = (first..=last).map(|line| self.wire(line, &columns)).collect();
        let mut crowd = Along { seed: self.seed, stream: 45, over_mm: CROWD_MM }.thread(0);
        let mut out = Vec::with_capacity(region.len());
        for j in 0..region.height {
            let y = mm(region.y + j as i64);
            let drift = CROWD * f64::from(crowd.at(y));
            for (i, chain) in chain.iter().enumerate() {
                // From one wire's ridge its strength passes over into the next one's.
                let at_line = y / pitch + drift;
                let line = f64::floor(at_line) as i64;
                let n = (line - first) as usize;
                let ([wander, own], [_, next]) = (wires[n][i], wires[n + 1][i]);
                let turn = (at_line - line as f64 - f64::from(wander) / pitch) as f32;
                let share = turn.clamp(0.0, 1.0);
                let strength = own + (next - own) * share * share * (3.0 - 2.0 * share);
                let t = turn * std::f32::consts::TAU;
                let ridge = 6.2 * (cos(t) + 0.28 * cos(2.0 * t)) * strength;
                let at = j * region.width + i;
                let felt = 2.9 * near[at] + 2.0 * far[at] + 0.7 * (fibres[at] + 7.0);
                out.push(ridge + felt - chain);
            }
        }
        press_in_place(&mut out, [13.0, 4.0]);
        out
    }
}

impl Laid {
    /// How deep the chain lines press at `x` mm.
    fn chain(&self, x: f64) -> f32 {
        let pitch = PERIOD_MM / self.chains as f64;
        let line = f64::floor(x / pitch);
        // Chains stand a little unevenly.
        let stray = |line: f64| {
            let n = (line as i64).rem_euclid(self.chains);
            0.4 * f64::from(num::gaussian(num::hash(self.seed, 42, n, 0)))
        };
        (-1..=1)
            .map(|k| {
                let line = line + f64::from(k);
                let d = (x - (line + 0.5) * pitch - stray(line)) / CHAIN_MM;
                CHAIN_UM * num::exp((-0.5 * d * d).max(-60.0) as f32)
            })
            .sum()
    }

    /// How far a wire wanders (mm) and how strong its ridge is, at each of `columns` (mm). The strength of a whole sheet
    /// changes slowly, so that neighbours differ little.
    fn wire(&self, line: i64, columns: &[f64]) -> Vec<[f32; 2]> {
        let n = line.rem_euclid(self.lines);
        let own = 1.0 + 0.13 * num::gaussian(num::hash(self.seed, 41, n, 0));
        let mut wander = Along { seed: self.seed, stream: 43, over_mm: WANDER_OVER_MM }.thread(0);
        let mut strength = Along { seed: self.seed, stream: 44, over_mm: 5.0 }.thread(n);
        columns
            .iter()
            .map(|x| {
                let s = own * (1.0 + 0.3 * strength.at(*x));
                [WANDER_MM as f32 * wander.at(*x), s.max(0.2)]
            })
            .collect()
    }
}

fn cos(t: f32) -> f32 {
    libm::cosf(t)
}
