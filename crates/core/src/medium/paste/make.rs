//! The numbers of a tool's exchange with the sheet, from what it is tuned to. Constants without a source are the paste study's,
//! tuned by eye there.

use super::blocks::Bands;
use super::parameters::is_blade;
use super::stuff::Stuff;
use crate::chain::{Action, Qualities, Quality, Settings};
use crate::lanes::{LANES, Lanes, all};
use crate::medium::Amount;
use crate::num;
use crate::paint::{BANDS, pigment};

/// What a tool does at a place.
#[derive(Debug, Clone, Copy, Default)]
pub struct Make {
    /// ℓ, δ and A, µm.
    pub lay_um: f32,
    pub reach_um: f32,
    pub hair_um: f32,
    /// Share of the ride, and how far it flattens when firm.
    pub ride: f32,
    pub flatten: f32,
    /// How much longer a firm tip ploughs before it gives back.
    pub dig: f32,
    /// 1 over the contact lengths of giving, cutting and exchanging, 1/mm.
    pub give: f32,
    pub cut: f32,
    pub exchange: f32,
    /// The most film that is exchanged at a place, µm.
    pub exchange_um: f32,
    /// Shares of what is ploughed that come to the top, and into the hair.
    pub surfaces: f32,
    pub absorbs: f32,
    /// 1 over the ways of feeding and of carrying, 1/mm.
    pub feed: f32,
    pub carry: f32,
    /// Share of own against found paint.
    pub own: f32,
    /// Share of the outermost lanes' paint that is squeezed out.
    pub rim: f32,
    /// Share of what it would take that it takes even where it cannot replace it.
    pub takes_free: f32,
    /// Its end lanes do nothing (they would draw wires of old colour).
    pub idle_ends: bool,
    /// How much paint evens out between neighbouring lanes a mm.
    pub sideways: f32,
    /// How much longer than a brush it keeps what it ploughs before it comes back.
    pub keeps: f32,
    /// Share of what is cut off that goes to the sides, and how wide they are, mm.
    pub furrow: f32,
    pub shoulder_mm: f32,
    /// Slope up to which its paint stands, µm/mm.
    pub stand_um_mm: f32,
}

/// A tip that cuts takes most of what it meets within 0.15 mm, and keeps what it ploughs for about 30 mm (the paste study's furrow).
const CUTS: f32 = 13.3;
const KEEPS: f32 = 8.6;
/// So much of what is met that however unevenly lanes take it, none is left.
const ALL: f32 = 1e6;

/// What of a tool responses drive, as it is at a place.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mixing {
    pub pickup: f32,
    pub carry_mm: f32,
    pub drag: f32,
    pub own: f32,
    pub cut: f32,
    /// Share of medium in the paint; how much lighter and warmer it is than what was loaded, %.
    pub medium: f32,
    pub value: f32,
    pub warmth: f32,
}

impl Mixing {
    /// As the tool is tuned, without its responses.
    pub fn still(tool: &Settings<'_>) -> Self {
        let n = |id: &str| tool.number(id) as f32;
        Self {
            pickup: n("mix.pickup"),
            carry_mm: n("mix.carry_mm"),
            drag: n("mix.drag"),
            own: n("mix.own"),
            cut: n("mix.cut"),
            medium: n("load.medium"),
            value: n("load.value"),
            warmth: n("load.warmth"),
        }
    }

    pub fn of(qualities: &Qualities) -> Self {
        let n = |quality| qualities.get(quality) as f32;
        Self {
            pickup: n(Quality::Pickup),
            carry_mm: n(Quality::Carry).max(1.0),
            drag: n(Quality::Drag),
            own: n(Quality::Own),
            cut: n(Quality::Cut),
            medium: n(Quality::Medium),
            value: n(Quality::Value),
            warmth: n(Quality::Warmth),
        }
    }
}

/// What a tool makes of its mixing, wherever it is.
#[derive(Debug, Clone, Copy)]
pub struct Maker {
    action: Action,
    blade: bool,
    /// Medium is added as the paint leaves.
    thins: bool,
    /// What does not hang on its mixing.
    still: Make,
}

impl Maker {
    pub fn new(tool: &Settings<'_>) -> Self {
        let n = |id: &str| tool.number(id) as f32;
        let still = Make {
            lay_um: n("relief.lay_um"),
            reach_um: n("relief.reach_um"),
            hair_um: n("relief.hair_um"),
            ride: n("relief.ride"),
            give: 1.0 / n("mix.give_mm"),
            exchange_um: 14.0,
            feed: 1.0 / n("mix.feed_mm"),
            rim: n("relief.rim"),
            keeps: 1.0,
            furrow: n("relief.furrow"),
            shoulder_mm: n("relief.shoulder_mm"),
            stand_um_mm: n("relief.stand_um_mm"),
            ..Make::default()
        };
        Self {
            action: tool.action,
            blade: is_blade(tool),
            thins: tool.action == Action::Lay && tool.is_driven(Quality::Medium),
            still,
        }
    }

    /// How its own paint is changed as it leaves; nothing where it leaves as it was loaded.
    pub fn leaves(&self, mixing: Mixing) -> Option<Leaves> {
        let paint = if self.thins { 1.0 - mixing.medium.clamp(0.0, 0.8) } else { 1.0 };
        let [value, warmth] = [mixing.value, mixing.warmth].map(|percent| 0.01 * percent);
        let plain = self.action != Action::Lay || (paint == 1.0 && value == 0.0 && warmth == 0.0);
        (!plain).then(|| Leaves { paint, tint: tint(value, warmth) })
    }

    pub fn make(&self, mixing: Mixing) -> Make {
        let thin = 1.0 - 0.75 * if self.action == Action::Lay { mixing.medium } else { 0.0 };
        let still = Make {
            lay_um: self.still.lay_um * thin,
            hair_um: self.still.hair_um * thin,
            stand_um_mm: self.still.stand_um_mm * thin,
            sideways: 3.3 * (1.0 + 3.0 * (1.0 - thin)),
            ..self.still
        };
        if self.blade {
            return self.blade_make(still);
        }
        let Mixing { pickup, carry_mm, drag, own, cut, .. } = mixing;
        let base = Make {
            flatten: cut,
            dig: 16.0 * (cut - 0.35).max(0.0),
            cut: 8.0 * drag,
            exchange: pickup / 0.25 / 45.0,
            // A brush that gives its own colour alone lets none of what it ploughs come up.
            surfaces: if own < 1.0 { 0.14 * pickup } else { 0.0 },
            absorbs: 0.06 * pickup,
            carry: 1.0 / carry_mm,
            own,
            ..still
        };
        match self.action {
            // The less it gives of its own, the more it is a blender.
            Action::Lay => base.toward(&base.blending(pickup, drag), (1.0 - 2.0 * base.own).max(0.0)),
            // What it has is what it found.
            Action::Blend => Make { own: 0.0, idle_ends: true, ..base.blending(pickup, drag) },
            Action::Cut => Make {
                lay_um: 0.0,
                hair_um: 0.0,
                give: 0.0,
                exchange: 0.0,
                cut: CUTS,
                flatten: (0.65 + cut).min(1.0),
                surfaces: 1.0,
                absorbs: 0.0,
                own: 1.0,
                rim: 0.0,
                keeps: KEEPS,
                ..base
            },
            _ => Make {
                exchange: pickup / 0.25 / 2.0,
                exchange_um: 25.0,
                surfaces: (4.0 * pickup).min(1.0),
                absorbs: 2.4 * pickup,
                own: 1.0,
                lay_um: 0.0,
                rim: 0.0,
                takes_free: 1.0,
                ..base
            },
        }
    }
}

impl Maker {
    /// A blade takes all that it meets, and it goes into its bead.
    fn blade_make(&self, still: Make) -> Make {
        let lays = self.action == Action::Lay;
        Make {
            cut: 1.0,
            give: if matches!(self.action, Action::Lay | Action::Blend) { 1.0 } else { 0.0 },
            surfaces: ALL,
            absorbs: ALL,
            own: 0.5,
            rim: if lays { still.rim } else { 0.0 },
            takes_free: 1.0,
            sideways: 0.25,
            ..still
        }
    }
}

impl Make {
    /// As a brush that brings nothing and moves what it finds.
    fn blending(self, pickup: f32, drag: f32) -> Self {
        Self {
            exchange: pickup / 0.25 / 0.8,
            exchange_um: 25.0,
            cut: 1.6 * drag,
            surfaces: (4.0 * pickup).min(1.0),
            absorbs: 0.2 * pickup,
            rim: 0.0,
            takes_free: 1.0,
            ..self
        }
    }

    /// Between two that differ in how they exchange.
    fn toward(self, other: &Self, share: f32) -> Self {
        let mix = |a: f32, b: f32| a + (b - a) * share;
        Self {
            exchange: mix(self.exchange, other.exchange),
            exchange_um: mix(self.exchange_um, other.exchange_um),
            cut: mix(self.cut, other.cut),
            surfaces: mix(self.surfaces, other.surfaces),
            absorbs: mix(self.absorbs, other.absorbs),
            rim: mix(self.rim, other.rim),
            takes_free: mix(self.takes_free, other.takes_free),
            ..self
        }
    }
}

/// How a tool's own paint is changed as it leaves: medium is added, and its recipe shifts.
#[derive(Debug, Clone, Copy)]
pub struct Leaves {
    /// Share of the paint in what leaves; the rest is medium, which neither absorbs nor scatters.
    pub paint: f32,
    tint: Bands,
}

impl Leaves {
    /// K and S of a unit of what leaves, from those of a unit of the paint.
    #[inline]
    pub fn unit(&self, paint: &Bands) -> Bands {
        std::array::from_fn(|b| paint[b] * self.tint[b] * all(self.paint))
    }

    /// What leaves where so much was taken from the hair, and what came to it besides.
    pub fn leave(&self, taken: &Stuff) -> (Stuff, Amount) {
        let bands = std::array::from_fn(|b| taken.bands[b] * self.tint[b]);
        let leaves = Stuff { volume: taken.volume / self.paint, bands };
        (leaves, leaves.amount() - taken.amount())
    }
}

/// A recipe that strays by 1 % absorbs about so many times that less.
const STRAYS: f32 = 4.0;

/// What K and S of a paint are multiplied by where its recipe strays: by shares, lighter (it absorbs less) and warmer (it absorbs
/// less of long waves than of short ones).
pub fn tint(value: f32, warmth: f32) -> Bands {
    let band = |b: usize| {
        if b >= BANDS || (value == 0.0 && warmth == 0.0) {
            return 1.0;
        }
        // −1 in the band of the shortest waves, 1 in that of the longest.
        let long = 2.0 * b as f32 / (BANDS - 1) as f32 - 1.0;
        num::exp(-STRAYS * (value + warmth * long))
    };
    std::array::from_fn(|i| Lanes::from(std::array::from_fn(|j| band(i * LANES + j))))
}

/// K and S of a mixture for each µm, thinned by so much medium.
///
/// # Panics
/// For a mixture that a checked tool cannot have.
pub fn mixture(parts: &[(&str, f64)], medium: f64) -> Bands {
    let sum: f64 = parts.iter().map(|p| p.1).sum();
    let share = (1.0 - medium) / sum;
    let (k, s) = pigment::mix(parts.iter().map(|(code, n)| (*code, n * share))).expect("a checked mixture");
    let all: Vec<f32> = k.iter().chain(&s).map(|v| (v * 1e-3) as f32).collect();
    std::array::from_fn(|i| Lanes::from(std::array::from_fn(|j| all[i * LANES + j])))
}
