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
use crate::paint::BANDS;
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

/// The ground of one tile as one stick meets it: what does not change from dab to dab.
#[derive(Debug, Clone)]
pub struct Contact {
    pixels: Vec<ContactPixel>,
}

#[derive(Debug, Clone, Copy)]
struct ContactPixel {
    /// Height with the stick's grit on it, µm.
    height: f32,
    /// Deviation within the pixel, µm, and its inverse.
    sigma: f32,
    inverse_sigma: f32,
    /// `e^(gγ)`, and how far it falls to `e^(.45gγ)` as contact closes.
    sheds: f32,
    sheds_fall: f32,
    /// `1 + .25γ`.
    room: f32,
}

impl Contact {
    /// `tooth` scales the ground's heights; `grain_within` is the share of grain variance within a pixel.
    pub fn new(ground: &GroundTile, stick: &Stick, tooth: f32, grain_within: f32) -> Self {
        let fine = stick.grit * stick.grit * grain_within;
        let pixel = |((h, v), g): ((&f32, &f32), &f32)| {
            let sigma = (tooth * tooth * v + fine).sqrt().max(0.05);
            let open = num::exp(stick.grain * g);
            let closed = num::exp(stick.grain * g * (1.0 - GRAIN_CLOSES));
            ContactPixel {
                height: tooth * h + stick.grit * g,
                sigma,
                inverse_sigma: 1.0 / sigma,
                sheds: open,
                sheds_fall: closed - open,
                room: (1.0 + ROOM_GRAIN * g).max(0.1),
            }
        };
        Self { pixels: ground.height.iter().zip(&ground.variance).zip(&ground.grain).map(pixel).collect() }
    }
}

const PRESS_STEPS: usize = 96;

/// Load and plane across a footprint, by squared relative radius.
pub struct Press {
    values: [[f32; 2]; PRESS_STEPS + 2],
}

impl Press {
    /// `load`: load at a pressure of 1 in the profile's scale.
    pub fn new(profile: &Profile, plane: &Plane, load: f32) -> Self {
        let values = std::array::from_fn(|i| {
            let load = load * profile.at((i as f32 / PRESS_STEPS as f32).min(1.0));
            [load, plane.at(load)]
        });
        Self { values }
    }

    #[inline(always)]
    fn at(&self, r2: f32) -> (f32, f32) {
        let u = r2.min(1.0) * PRESS_STEPS as f32;
        let i = u as usize;
        let f = u - i as f32;
        let [a, b] = [self.values[i], self.values[i + 1]];
        (a[0] + (b[0] - a[0]) * f, a[1] + (b[1] - a[1]) * f)
    }
}

/// One dab, ready to be laid on every tile it touches.
pub struct Dab<'a> {
    pub footprint: Footprint,
    pub press: &'a Press,
    pub stick: &'a Stick,
    pub face: &'a Face,
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

/// Lays `dab` on the pixels of one tile. `corner_mm`: place of the tile's corner on the sheet. `window`: pixels of the tile
/// to visit, `[x0, y0, x1, y1)`.
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
    let (inner, outer) = f.rim(pixel);
    let ahead = [0.25 * f.travel * f.travel_cos, 0.25 * f.travel * f.travel_sin];
    let inverse_give = 1.0 / stick.give;
    let travel = if stick.even { dab.pass } else { dab.travel };
    let rate = stick.deposit * dab.flow * travel * dab.thin;
    let mut sum = *done;
    for y in y0..y1 {
        let dy = corner_mm[1] + (y as f32 + 0.5) * pixel - f.y;
        let row = &contact.pixels[y * TILE..(y + 1) * TILE];
        let values = &mut block[y * TILE * DRY_VALUES..(y + 1) * TILE * DRY_VALUES];
        for x in x0..x1 {
            let dx = corner_mm[0] + (x as f32 + 0.5) * pixel - f.x;
            // The dab is two halves of its travel: the ripple of dabs twice as close, for one visit of the pixel.
            let (r2_a, r2_b) =
                (f.radius2(dx - ahead[0], dy - ahead[1]), f.radius2(dx + ahead[0], dy + ahead[1]));
            if r2_a.min(r2_b) >= outer {
                continue;
            }
            let (load_a, level_a) = dab.press.at(r2_a);
            let (load_b, level_b) = dab.press.at(r2_b);
            let (cover, load, level) = if r2_a.max(r2_b) <= inner {
                (1.0, 0.5 * (load_a + load_b), 0.5 * (level_a + level_b))
            } else {
                let a = f.cover(dx - ahead[0], dy - ahead[1], pixel);
                let b = f.cover(dx + ahead[0], dy + ahead[1], pixel);
                if a + b <= 0.0 {
                    continue;
                }
                let share = a / (a + b);
                (0.5 * (a + b), load_b + (load_a - load_b) * share, level_b + (level_a - level_b) * share)
            };
            sum.cover += cover;
            sum.load += cover * load;
            let ground = &row[x];
            let face = dab.face.at(dy * f.travel_cos - dx * f.travel_sin);
            let cell = &mut values[x * DRY_VALUES..(x + 1) * DRY_VALUES];
            let held = cell[HELD] + cell[LOOSE];
            let z = ground.height + stick.face * face + RAISE * held;
            let t = (z - level) * ground.inverse_sigma;
            if t < -5.0 {
                continue;
            }
            let (touched, above) = normal.at(t);
            let (_, deep) = normal.at(t - stick.give * ground.inverse_sigma);
            let phi = ground.sigma * (above - deep) * inverse_give;
            let room = stick.fill * dab.opacity * ground.room * touched;
            sum.touched += cover * touched;
            sum.contact += cover * phi;
            if room <= 1e-6 {
                continue;
            }
            sum.full += cover * touched * (held / room).min(1.0);
            let sheds = (ground.sheds + ground.sheds_fall * phi) * (1.0 + FACE_GAIN * face).max(0.0);
            let share = 1.0 - num::exp(-rate * phi * sheds * cover / room);
            let mut laid = (room - held).max(0.0) * share;
            if stick.even {
                // One film for the whole stroke: a later dab only tops it up to what one pass gives.
                let before = if cell[STROKE] == dab.stroke { cell[LAID] } else { 0.0 };
                laid = ((room - held + before).max(0.0) * share - before).max(0.0);
                cell[LAID] = before + laid;
                cell[STROKE] = dab.stroke;
            }
            if laid <= 0.0 {
                continue;
            }
            for b in 0..BANDS {
                cell[KX + b] += stick.powder.k_um[b] * laid;
            }
            for b in 0..BANDS {
                cell[SX + b] += stick.powder.s_um[b] * laid;
            }
            cell[HELD] += laid * stick.bound;
            cell[LOOSE] += laid * (1.0 - stick.bound);
            sum.laid += laid;
            sum.thickest = sum.thickest.max(held + laid);
        }
    }
    *done = sum;
}
