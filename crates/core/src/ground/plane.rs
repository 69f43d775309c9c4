//! How deep a flat stick sinks into the tooth.
//!
//! The stick lies on the peaks as on an elastic bed: at load `q = P/H` the plane stands at height c where
//! `∫_c^∞ Smr(z) dz = q·δ` (dry study, step 2). The contact set is `{h ≥ c}`, so the covered share is the material ratio
//! Smr(c). A rigid `min(1, P/H)` closes rough and smooth paper at the same force, which is wrong to the eye.

use crate::lanes::{self, LANES, Lanes, all, larger, smaller};

/// Loads above this are as good as this: the tooth is closed.
const MOST_LOAD: f32 = 4.0;
const ENTRIES: usize = 512;
/// Halvings that find how much higher a plane stands.
const RAISING_STEPS: usize = 20;

/// Height of the plane for every load.
#[derive(Debug, Clone)]
pub struct Plane {
    level: Vec<f32>,
    /// Mean contact at every load ([`Plane::contact`]); never falls.
    contact: Vec<f32>,
    /// Loads by contact: the other way round.
    loads: Vec<f32>,
    /// δ, µm.
    give: f32,
}

impl Plane {
    /// From heights (µm) of a fair sample of the ground as the stick meets it, the deviation `spread_um` of what is finer
    /// than the sample, and the stick's give δ in µm.
    pub fn new(heights: impl Iterator<Item = f32>, spread_um: f32, give_um: f32) -> Self {
        const BIN: f32 = 0.25;
        const HALF: usize = 4000;
        let mut counts = vec![0_u32; 2 * HALF + 1];
        let mut total = 0_u32;
        for h in heights {
            let bin = ((h / BIN).round() as i64 + HALF as i64).clamp(0, 2 * HALF as i64) as usize;
            counts[bin] += 1;
            total += 1;
        }
        let spread = spread_um.max(0.05);
        let used: Vec<(f32, f32)> = counts
            .iter()
            .enumerate()
            .filter(|(_, n)| **n > 0)
            .map(|(i, n)| ((i as f32 - HALF as f32) * BIN, *n as f32 / total as f32))
            .collect();
        // E(c) = mean of max(0, h − c): falls as c rises.
        let excess = |c: f32| -> f32 {
            let mut sum = Lanes::ZERO;
            for chunk in used.chunks(LANES) {
                let mut height = [c - 100.0 * spread; LANES];
                let mut weight = [0.0; LANES];
                for (i, (h, w)) in chunk.iter().enumerate() {
                    (height[i], weight[i]) = (*h, *w);
                }
                let above = (Lanes::from(height) - all(c)) * all(1.0 / spread);
                sum += Lanes::from(weight) * lanes::normal(above).1;
            }
            spread * sum.to_array().iter().sum::<f32>()
        };
        let top = used.last().map_or(0.0, |u| u.0) + 6.0 * spread;
        // Walk down from the highest peak and note where each wanted excess is met.
        let step = (0.02 * (top - used.first().map_or(0.0, |u| u.0))).clamp(0.1, 1.0);
        let mut level = Vec::with_capacity(ENTRIES + 2);
        let (mut c, mut e) = (top, 0.0_f32);
        for i in 0..ENTRIES + 2 {
            let want = load(i) * give_um;
            let (mut next_c, mut next_e) = (c, e);
            while next_e < want {
                (c, e) = (next_c, next_e);
                next_c = c - step;
                next_e = excess(next_c);
            }
            let share = if next_e > e { (want - e) / (next_e - e) } else { 0.0 };
            level.push(c + (next_c - c) * share);
        }
        let contact = contacts(&level, give_um);
        let loads = (0..INVERSE + 2).map(|i| load_at(&contact, i as f32 / INVERSE as f32)).collect();
        Self { level, contact, loads, give: give_um }
    }

    /// Mean contact over the ground at loads, 0..1.
    #[inline(always)]
    pub fn contact(&self, q: Lanes) -> Lanes {
        lanes::between(&self.contact, place(q))
    }

    /// The loads at which the mean contact is this.
    #[inline(always)]
    pub fn load_for(&self, contact: Lanes) -> Lanes {
        let contact = smaller(larger(contact, Lanes::ZERO), all(1.0));
        lanes::between(&self.loads, contact.sqrt() * all(INVERSE as f32))
    }

    /// How much higher it stands at the load `q` where the ground under the tip lies higher by `over`, µm, each for as much of the
    /// footprint as the next: what lies higher bears more, so that the mean load is `q` again.
    pub fn raised_by(&self, over: &[f32], q: f32) -> f32 {
        let (mut low, mut high) =
            over.iter().fold((f32::INFINITY, f32::NEG_INFINITY), |(low, high), v| (v.min(low), v.max(high)));
        let q = q.clamp(0.0, MOST_LOAD);
        let level = self.at(all(q)).to_array()[0];
        let borne = |raised: f32| {
            over.iter().map(|v| self.load_of(level + raised - v)).sum::<f32>() / over.len() as f32
        };
        for _ in 0..RAISING_STEPS {
            let middle = 0.5 * (low + high);
            if borne(middle) > q { low = middle } else { high = middle }
        }
        0.5 * (low + high)
    }

    /// The load at which it stands at a height, µm: past all that is in the table, as on a closed tooth.
    fn load_of(&self, height: f32) -> f32 {
        let last = ENTRIES;
        if height <= self.level[last] {
            return MOST_LOAD + (self.level[last] - height) / self.give;
        }
        let i = self.level[..last].partition_point(|l| *l > height);
        if i == 0 {
            return 0.0;
        }
        let (above, below) = (self.level[i - 1], self.level[i]);
        load(i - 1) + (load(i) - load(i - 1)) * (above - height) / (above - below)
    }

    /// Heights of the plane in µm at loads `q = P/H`.
    #[inline(always)]
    pub fn at(&self, q: Lanes) -> Lanes {
        lanes::between(&self.level, place(q))
    }
}

/// Where loads stand in a table.
#[inline(always)]
fn place(q: Lanes) -> Lanes {
    let q = smaller(larger(q, Lanes::ZERO), all(MOST_LOAD));
    (q * all(1.0 / MOST_LOAD)).sqrt() * all(ENTRIES as f32)
}

/// Mean contact at the load of every entry: with E(c) the mean of max(0, h − c), a place is in contact as far as it reaches into the
/// give δ over the plane, (E(c) − E(c + δ))/δ; and E(c) = q·δ is what the plane is made of, so that E(c + δ)/δ is the load whose
/// plane stands δ higher.
fn contacts(level: &[f32], give_um: f32) -> Vec<f32> {
    let mut most = 0.0_f32;
    let mut higher = 0;
    (0..level.len())
        .map(|i| {
            let wanted = level[i] + give_um;
            // Levels fall as loads rise: so does the entry that stands so much higher.
            while higher + 1 < level.len() && level[higher + 1] >= wanted {
                higher += 1;
            }
            let (a, b) = (level[higher], level[(higher + 1).min(level.len() - 1)]);
            let share = if a > b { ((a - wanted) / (a - b)).clamp(0.0, 1.0) } else { 0.0 };
            let beyond = if level[0] < wanted {
                0.0
            } else {
                load(higher) + (load(higher + 1) - load(higher)) * share
            };
            most = most.max(load(i) - beyond).min(1.0);
            most
        })
        .collect()
}

/// Entries of the table of loads by contact: even steps of its root.
const INVERSE: usize = 256;

/// The load at which contact is the square of `root`.
fn load_at(contact: &[f32], root: f32) -> f32 {
    let wanted = root * root;
    let above = contact.partition_point(|c| *c < wanted).clamp(1, ENTRIES);
    let (a, b) = (contact[above - 1], contact[above]);
    let share = if b > a { ((wanted - a) / (b - a)).clamp(0.0, 1.0) } else { 1.0 };
    let s = (above as f32 - 1.0 + share) / ENTRIES as f32;
    MOST_LOAD * s * s
}

/// The load of entry `i`: squares, so that light touches are finely stepped.
fn load(i: usize) -> f32 {
    let s = i as f32 / ENTRIES as f32;
    MOST_LOAD * s * s
}
