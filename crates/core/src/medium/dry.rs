//! Dry media: a stick meets the peaks of the tooth first and leaves powder there (models.md §5, dry study steps 1–4, 6).
//!
//! Per pixel under the tip, heights in µm:
//! - load `q = P/H`, plane `c(q)` ([`super::plane`]);
//! - `x = (z + h_g·γ + τ·face + β·m − c)/σ`, σ² the variance within the pixel: touched share `Φ(x)`, contact
//!   `φ = σ(G(x) − G(x − δ/σ))/δ`;
//! - `w = k·flow·e^(gγ(1 − .55φ))·φ·ds`, room `M = M₀·opacity·(1 + .25γ)·Φ(x)`;
//! - `dm = (M − m)(1 − e^(−w/M))`: the tooth fills and then takes no more.
//!
//! Constants without a source are tuned by eye in the study. Falling dust is not modelled yet.

use crate::ground::GroundTile;
use crate::num::{self, Normal};
use crate::paint::pigment::Powder;
use crate::sheet::{DRY_VALUES, HELD, KX, LAID, LOOSE, STROKE, SX, TILE};
use crate::tip::{Footprint, Profile};

use super::face::Face;
use super::plane::Plane;

/// Share of laid powder that raises the surface under the stick.
const RAISE: f32 = 0.45;
/// How much the grain varies the room for powder.
const ROOM_GRAIN: f32 = 0.25;
/// How much the worn face varies the deposit.
const FACE_GAIN: f32 = 0.11;
/// How far the grain's unevenness closes as contact closes.
const GRAIN_CLOSES: f32 = 0.55;

/// What a stick is, for a whole stroke.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stick {
    pub powder: Powder,
    /// H, gf/mm².
    pub hardness: f32,
    /// δ, µm.
    pub give: f32,
    /// k, µm per mm of travel.
    pub deposit: f32,
    /// M₀, µm.
    pub fill: f32,
    /// h_g, µm.
    pub grit: f32,
    /// g.
    pub grain: f32,
    /// τ, µm.
    pub face: f32,
    /// Share of powder that the paper holds.
    pub bound: f32,
    /// The stroke stays one even film instead of building up.
    pub even: bool,
}

/// The ground of one tile as one stick meets it: values that do not change from dab to dab, four a pixel.
#[derive(Debug, Clone)]
pub struct Contact {
    values: Vec<[f32; 4]>,
}

impl Contact {
    /// `tooth` scales the ground's heights; `grain_within` is the share of grain variance within a pixel.
    pub fn new(ground: &GroundTile, stick: &Stick, tooth: f32, grain_within: f32) -> Self {
        let fine = stick.grit * stick.grit * grain_within;
        let values = ground
            .height
            .iter()
            .zip(&ground.variance)
            .zip(&ground.grain)
            .map(|((h, v), g)| {
                let sigma = (tooth * tooth * v + fine).sqrt().max(0.05);
                [tooth * h + stick.grit * g, sigma, 1.0 / sigma, *g]
            })
            .collect();
        Self { values }
    }
}

/// One dab, ready to be laid on every tile it touches.
pub struct Dab<'a> {
    pub footprint: Footprint,
    pub profile: &'a Profile,
    pub plane: &'a Plane,
    pub stick: &'a Stick,
    pub face: &'a Face,
    /// Load at a pressure of 1 in the profile's scale.
    pub load: f32,
    /// Share of the deposit, and of the tooth, that may be laid.
    pub flow: f32,
    pub opacity: f32,
    /// Travel this dab stands for, mm.
    pub travel: f32,
    /// Share of a pixel that a tip thinner than it covers.
    pub thin: f32,
    /// Number of this stroke, for even films.
    pub stroke: f32,
    /// Length of the footprint along the way, mm: one full pass, for even films.
    pub pass: f32,
}

/// What a dab did, added up over its pixels.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Done {
    /// Sum of cover over pixels.
    pub cover: f32,
    /// Cover-weighted sums: load, touched share Φ, contact φ, share of the room that was full before.
    pub load: f32,
    pub touched: f32,
    pub contact: f32,
    pub full: f32,
    /// Powder laid, µm × pixels.
    pub laid: f32,
    /// Thickest film under the tip, µm.
    pub thickest: f32,
}

/// Lays `dab` on the pixels of one tile. `left`, `top`: sheet pixel of the tile's corner. `window`: pixels of the tile to
/// visit, `[x0, y0, x1, y1)`.
#[allow(clippy::too_many_arguments)]
pub fn lay_in_place(
    block: &mut [f32],
    contact: &Contact,
    dab: &Dab<'_>,
    corner_mm: [f32; 2],
    pixel: f32,
    [x0, y0, x1, y1]: [usize; 4],
    done: &mut Done,
) {
    let normal = Normal::table();
    let stick = dab.stick;
    let f = &dab.footprint;
    let inverse_give = 1.0 / stick.give;
    let travel = if stick.even { dab.pass } else { dab.travel };
    let rate = stick.deposit * dab.flow * travel * dab.thin;
    for y in y0..y1 {
        let dy = corner_mm[1] + (y as f32 + 0.5) * pixel - f.y;
        for x in x0..x1 {
            let dx = corner_mm[0] + (x as f32 + 0.5) * pixel - f.x;
            let inside = f.at(dx, dy, pixel);
            if inside.cover <= 0.0 {
                continue;
            }
            let index = y * TILE + x;
            let [height, sigma, inverse_sigma, grain] = contact.values[index];
            let load = dab.load * dab.profile.at(inside.r2);
            done.cover += inside.cover;
            done.load += inside.cover * load;
            let face = dab.face.at(dy * f.travel_cos - dx * f.travel_sin);
            let at = index * DRY_VALUES;
            let pixel_values = &mut block[at..at + DRY_VALUES];
            let held = pixel_values[HELD] + pixel_values[LOOSE];
            let z = height + stick.face * face + RAISE * held;
            let t = (z - dab.plane.at(load)) * inverse_sigma;
            if t < -5.0 {
                continue;
            }
            let touched = normal.distribution(t);
            let deep = stick.give * inverse_sigma;
            let phi = sigma * (normal.ramp(t) - normal.ramp(t - deep)) * inverse_give;
            let room = stick.fill * dab.opacity * (1.0 + ROOM_GRAIN * grain).max(0.1) * touched;
            done.touched += inside.cover * touched;
            done.contact += inside.cover * phi;
            if room <= 1e-6 {
                continue;
            }
            done.full += inside.cover * touched * (held / room).min(1.0);
            let sheds = num::exp(stick.grain * grain * (1.0 - GRAIN_CLOSES * phi))
                * (1.0 + FACE_GAIN * face).max(0.0);
            let want = rate * phi * sheds * inside.cover;
            let mut laid = (room - held).max(0.0) * (1.0 - num::exp(-want / room));
            if stick.even {
                // One film for the whole stroke: a later dab only tops it up to what one pass gives.
                let before = if pixel_values[STROKE] == dab.stroke { pixel_values[LAID] } else { 0.0 };
                let under = held - before;
                let target = (room - under).max(0.0) * (1.0 - num::exp(-want / room));
                laid = (target - before).max(0.0);
                pixel_values[LAID] = before + laid;
                pixel_values[STROKE] = dab.stroke;
            }
            if laid <= 0.0 {
                continue;
            }
            for b in 0..8 {
                pixel_values[KX + b] += stick.powder.k_um[b] * laid;
            }
            for b in 0..8 {
                pixel_values[SX + b] += stick.powder.s_um[b] * laid;
            }
            pixel_values[HELD] += laid * stick.bound;
            pixel_values[LOOSE] += laid * (1.0 - stick.bound);
            done.laid += laid;
            done.thickest = done.thickest.max(held + laid);
        }
    }
}
