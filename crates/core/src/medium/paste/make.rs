//! The numbers of a tool's exchange with the sheet, from what it is tuned to. Constants without a source are the paste study's,
//! tuned by eye there.

use super::blocks::Bands;
use crate::chain::{Action, Settings};
use crate::lanes::{LANES, Lanes};
use crate::paint::pigment;

/// What a tool does, for a whole stroke.
#[derive(Debug, Clone, Copy)]
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
}

impl Make {
    pub fn of(tool: &Settings<'_>) -> Self {
        let n = |id: &str| tool.number(id) as f32;
        let lays = tool.action == Action::Lay;
        let thin = 1.0 - 0.75 * if lays { n("load.medium") } else { 0.0 };
        let (pickup, drag, cut) = (n("mix.pickup"), n("mix.drag"), n("mix.cut"));
        let base = Self {
            lay_um: n("relief.lay_um") * thin,
            reach_um: n("relief.reach_um"),
            hair_um: n("relief.hair_um") * thin,
            ride: n("relief.ride"),
            flatten: cut,
            dig: 16.0 * (cut - 0.35).max(0.0),
            give: 1.0 / n("mix.give_mm"),
            cut: 8.0 * drag,
            exchange: pickup / 0.25 / 45.0,
            exchange_um: 14.0,
            // A brush that gives its own colour alone lets none of what it ploughs come up.
            surfaces: if n("mix.own") < 1.0 { 0.14 * pickup } else { 0.0 },
            absorbs: 0.06 * pickup,
            feed: 1.0 / n("mix.feed_mm"),
            carry: 1.0 / n("mix.carry_mm"),
            own: n("mix.own"),
            rim: n("relief.rim"),
            takes_free: 0.0,
            idle_ends: false,
            sideways: 3.3 * (1.0 + 3.0 * (1.0 - thin)),
        };
        match tool.action {
            // The less it gives of its own, the more it is a blender.
            Action::Lay => base.toward(&base.blending(pickup, drag), (1.0 - 2.0 * base.own).max(0.0)),
            // What it has is what it found.
            Action::Blend => Self { own: 0.0, idle_ends: true, ..base.blending(pickup, drag) },
            _ => Self {
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
