//! How the ground enters a tool that lays: by contact, as sticks do, or as images are textured.
//!
//! Image-like tools do not press: each place lays a share `m` of what the tool gives. With the rank `r` of a place, the share
//! of the ground that lies below it (0 the deepest hollow, 1 the highest peak), depth `d` and load `q` (0..1):
//! multiplied `1 − d(1 − r)` (fading with the pressure at a soft edge), subtracted `q − d(1 − r)`, limited by height: all where `r` lies over `1 − q`, and `1 − d` below.
//! Never under the least depth that is asked for.

use crate::chain::choice::choices;
use crate::lanes::{Lanes, all, larger, smaller};

choices! {
    /// How the ground enters.
    pub enum Entry {
        Contact = "contact", "by contact: peaks first";
        Multiplied = "multiplied", "multiplied, as an image";
        Subtracted = "subtracted", "subtracted, as an image";
        Height = "height", "limited by height, as an image";
    }
}

/// How steep the limit by height is: it passes from none to all over this share of the ground.
const SOFT: f32 = 0.08;

/// An image-like entry at one dab.
#[derive(Debug, Clone, Copy)]
pub struct Entering {
    pub entry: Entry,
    pub depth: f32,
    pub least: f32,
    /// Mean load under the tip: a soft edge fades a multiplied tool too.
    pub mean_load: f32,
}

impl Entering {
    /// The share that four places lay, of their ranks and the load there.
    #[inline(always)]
    pub(super) fn share(&self, rank: Lanes, load: Lanes) -> Lanes {
        let (one, depth) = (all(1.0), all(self.depth));
        let q = smaller(load, one);
        let m = match self.entry {
            Entry::Contact | Entry::Multiplied => {
                let edge = smaller(load * all(1.0 / self.mean_load.max(1e-9)), one);
                return larger(one - depth * (one - rank), all(self.least)) * edge;
            }
            Entry::Subtracted => q - depth * (one - rank),
            Entry::Height => {
                // Centred so that, over all ranks, the share q is filled.
                let over = (rank - (one - q)) * all(1.0 / SOFT) + all(0.5);
                let filled = smaller(larger(over, Lanes::ZERO), one);
                filled + (one - filled) * (one - depth)
            }
        };
        smaller(larger(m, all(self.least)), one)
    }
}

/// Heights of even shares of a ground, to rank places by.
#[derive(Debug, Clone)]
pub struct Ranks {
    /// Height (µm) under which `i/STEPS` of the ground lies.
    quantiles: Vec<f32>,
}

const STEPS: usize = 256;

impl Ranks {
    /// From a fair sample of heights.
    pub fn of(heights: &[f32]) -> Self {
        let mut sorted = heights.to_vec();
        sorted.sort_by(f32::total_cmp);
        let last = (sorted.len() - 1) as f32;
        Self { quantiles: (0..=STEPS).map(|i| sorted[(last * i as f32 / STEPS as f32) as usize]).collect() }
    }

    /// Share of the ground that lies below a height.
    pub fn rank(&self, height: f32) -> f32 {
        let above = self.quantiles.partition_point(|q| *q < height);
        if above == 0 || above > STEPS {
            return if above == 0 { 0.0 } else { 1.0 };
        }
        let (a, b) = (self.quantiles[above - 1], self.quantiles[above]);
        let within = if b > a { (height - a) / (b - a) } else { 0.5 };
        (above as f32 - 1.0 + within) / STEPS as f32
    }
}
