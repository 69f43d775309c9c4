//! Dry media: a stick meets the peaks of the tooth first and leaves powder there (models.md §5, dry study steps 1–4, 6).
//!
//! Per pixel under the tip, heights in µm:
//! - load `q = P/H`, plane `c(q)` ([`crate::ground::plane`]), raised by β·m of a layer that lies everywhere under the tip: a closed
//!   tooth is met as bare paper is;
//! - `x = (z + h_g·γ + τ·face + β·m − c)/σ`, σ² the variance within the pixel: touched share `Φ(x)`, contact
//!   `φ = σ(G(x) − G(x − δ/σ))/δ`;
//! - `w = k·flow·e^(g′γ − g′²v/2)·φ·ds` with `g′ = g(1 − .55φ)`, v the variance of γ between pixels, room `M = M₀·opacity·(1 + gγ/3)·Φ(x)`;
//! - `dm = (M − m)(1 − e^(−w/M))`: the tooth fills and then takes no more.
//!
//! Constants without a source are tuned by eye in the study. What crumbles off falls as dust ([`super::dust`]).

use crate::lanes::{self, LANES, Lanes, all, larger, smaller};
use crate::paint::BANDS;

use super::blocks::{
    COVER, DryBlocks, EVEN_VALUES, FILM_VALUES, HELD, KX, LAID, LAYER_VALUES, LOOSE, OUT_OF_REACH,
    POWDER_VALUES, RAISE, STROKE, SX, WEAR,
};
use super::done::Done;
use super::dust::Dust;
use super::entry::Entering;
use super::laying::{Laying, Powdering};
use super::press::{Contact, Dab, GRAIN_CLOSES, Part, Pressed, Reach, each};
use super::sheer;
use super::top::top_in_place;

/// How much the worn face varies the deposit, per µm of its unevenness (the study's .11 at τ = 3.2 µm).
const FACE_GAIN: f32 = 0.034;
/// Where less powder than this has room, none is laid, µm.
const LEAST_ROOM: f32 = 1e-5;
/// What lies on four neighbouring pixels, µm.
struct There {
    held: Lanes,
    /// What of it this (even) stroke laid itself.
    before: Lanes,
    /// How much of the tooth is worn off.
    worn: Lanes,
}

/// What a dab does to four pixels.
#[derive(Default)]
struct Outcome {
    touched: Lanes,
    contact: Lanes,
    full: Lanes,
    laid: Lanes,
    /// What empty tooth would have taken, µm.
    worn: Lanes,
}

/// Lays on the pixels of a part of a tile. `dust`: the tile's place, and what falls.
pub fn lay_in_place(
    DryBlocks { powder: block, mut even, mut layer, mut film }: DryBlocks<'_>,
    contact: &Contact,
    (dab, laying): (&Dab<'_>, &Laying<'_>),
    part: Part<'_>,
    mut dust: Option<((usize, usize), &mut Dust)>,
    done: &mut Done,
) {
    let exchange = Exchange::new(dab, laying);
    let mut sums = [Lanes::ZERO; 6];
    Reach::new(dab, part).visit(|first, _, press| {
        let cells = &mut block[first * POWDER_VALUES..(first + LANES) * POWDER_VALUES];
        let mut own = even.as_deref_mut().map(|e| &mut e[first * EVEN_VALUES..(first + LANES) * EVEN_VALUES]);
        let there = There {
            held: each(|i| cells[i * POWDER_VALUES + HELD] + cells[i * POWDER_VALUES + LOOSE]),
            before: own.as_deref().map_or(Lanes::ZERO, |o| {
                each(|i| {
                    if o[i * EVEN_VALUES + STROKE] == laying.stroke { o[i * EVEN_VALUES + LAID] } else { 0.0 }
                })
            }),
            worn: each(|i| cells[i * POWDER_VALUES + WEAR]),
        };
        let outcome = exchange.lay(&press, &there, contact, first);
        let add = [all(1.0), press.load, outcome.touched, outcome.contact, outcome.full];
        for (sum, v) in sums.iter_mut().zip(add) {
            *sum += press.cover * v;
        }
        sums[5] += outcome.laid;
        if let Some((tile, dust)) = dust.as_mut() {
            dust.shed(outcome.worn, outcome.contact, outcome.laid);
            let (cover, phi) = (press.cover.to_array(), outcome.contact.to_array());
            for i in 0..LANES {
                if cover[i] > 0.5 {
                    dust.note(*tile, (first + i) * POWDER_VALUES, contact.grain[first + i], phi[i]);
                }
            }
        }
        let (laid, held) = (outcome.laid.to_array(), there.held.to_array());
        let (cover, before) = ((outcome.touched * press.cover).to_array(), there.before.to_array());
        for i in 0..LANES {
            // A dab that adds nothing to its own even film may still bring it to more of the pixel.
            if laid[i] <= 0.0 && before[i] <= 0.0 {
                continue;
            }
            if let Some(layer) = layer.as_deref_mut() {
                let at = (first + i) * LAYER_VALUES;
                top_in_place(&mut layer[at..at + LAYER_VALUES], laying.stick.number, laid[i], cover[i]);
            }
            if let Some(film) = film.as_deref_mut() {
                let at = (first + i) * FILM_VALUES;
                sheer::hide_in_place(&mut film[at..at + FILM_VALUES], cover[i], laid[i]);
            }
            add_in_place(
                &mut cells[i * POWDER_VALUES..(i + 1) * POWDER_VALUES],
                laying.stick,
                laid[i],
                cover[i],
            );
            done.thickest = done.thickest.max(held[i] + laid[i]);
            if let Some(own) = own.as_deref_mut() {
                own[i * EVEN_VALUES + LAID] = before[i] + laid[i];
                own[i * EVEN_VALUES + STROKE] = laying.stroke;
            }
        }
    });
    let [cover, load, touched, contact, full, laid] = sums.map(|lanes| lanes.to_array().iter().sum::<f32>());
    done.cover += cover;
    done.load += load;
    done.touched += touched;
    done.contact += contact;
    done.full += full;
    done.laid += laid;
}

/// Powder onto one pixel.
#[inline(always)]
fn add_in_place(cell: &mut [f32], stick: &Powdering, laid: f32, cover: f32) {
    for b in 0..BANDS {
        cell[KX + b] += stick.powder.k_um[b] * laid;
    }
    for b in 0..BANDS {
        cell[SX + b] += stick.powder.s_um[b] * laid;
    }
    cell[HELD] += laid * stick.bound;
    cell[LOOSE] += laid * (1.0 - stick.bound);
    // Peaks that a light dab touches are among those that a firm one does: shares do not add.
    cell[COVER] = cell[COVER].max(cover);
}

/// Powder that four pixels can take in all, µm, and its inverse.
struct Room {
    um: Lanes,
    inverse: Lanes,
}

impl Room {
    #[inline(always)]
    fn of(um: Lanes) -> Self {
        Self { um, inverse: all(1.0) / larger(um, all(LEAST_ROOM)) }
    }

    /// What of it is free before an even stroke's own powder.
    #[inline(always)]
    fn gap(&self, there: &There) -> Lanes {
        larger(self.um - there.held + there.before, Lanes::ZERO)
    }

    /// The outcome where a pass `fills` so much of the gap: a later dab of an even stroke only tops its film up to that.
    #[inline(always)]
    fn filled(&self, there: &There, fills: Lanes, outcome: Outcome) -> Outcome {
        let laid = larger(fills - there.before, Lanes::ZERO);
        Outcome {
            full: outcome.touched * smaller(there.held * self.inverse, all(1.0)),
            laid: lanes::where_greater(self.um, all(LEAST_ROOM), laid, Lanes::ZERO),
            ..outcome
        }
    }
}

/// The numbers of a dab's exchange that are the same for all pixels.
struct Exchange {
    face_um: Lanes,
    face_gain: Lanes,
    give: Lanes,
    inverse_give: Lanes,
    rate: Lanes,
    fill: Lanes,
    entering: Option<Entering>,
}

impl Exchange {
    fn new(dab: &Dab<'_>, laying: &Laying<'_>) -> Self {
        let stick = laying.stick;
        let travel = if stick.even { laying.pass } else { dab.travel };
        Self {
            face_um: all(stick.face),
            face_gain: all(FACE_GAIN * stick.face),
            give: all(stick.give),
            inverse_give: all(1.0 / stick.give),
            rate: all(stick.deposit * dab.flow * travel * dab.thin),
            fill: all(stick.fill * laying.opacity),
            entering: laying.entering,
        }
    }

    /// The exchange itself, for four pixels from pixel `first` of the tile.
    #[inline(always)]
    fn lay(&self, press: &Pressed, there: &There, contact: &Contact, first: usize) -> Outcome {
        if let Some(entering) = &self.entering {
            return self.lay_as_image(entering, press, there, contact, first);
        }
        let ground = |values: &[f32]| -> Lanes { lanes::four(&values[first..]) };
        let one = all(1.0);
        let inverse_sigma = ground(&contact.inverse_sigma);
        // An even stroke is one film: what it laid itself neither lifts it nor fills the tooth before it.
        let lifted = all(RAISE) * (there.held - there.before);
        let z = ground(&contact.height) + self.face_um * press.face + lifted - there.worn;
        let t = (z - press.level) * inverse_sigma;
        if !t.simd_gt(all(OUT_OF_REACH)).any() {
            return Outcome::default();
        }
        let (touched, above) = lanes::normal(t);
        let (through, deep) = lanes::normal(t - self.give * inverse_sigma);
        let phi = larger(ground(&contact.sigma) * (above - deep) * self.inverse_give, Lanes::ZERO);
        let room = Room::of(self.fill * ground(&contact.room) * touched * press.cover);
        // ∂φ/∂z ÷ φ, with ∂φ/∂z = (Φ(t) − Φ(t − δ/σ))/δ.
        let slope = (touched - through) * self.inverse_give / larger(phi, all(1e-6));
        // Within a pixel too it is the high grains that touch, and they shed more: weighting by `e^(gγ)` lifts heights by
        // g·cov(z, γ). To first order in that.
        let tilt = one + all(contact.tilt) * (one - all(GRAIN_CLOSES) * phi) * slope;
        let sheds = ground(&contact.sheds) + ground(&contact.sheds_fall) * phi;
        let sheds = sheds * larger(one + self.face_gain * press.face, Lanes::ZERO);
        let worn = self.rate * phi * sheds * larger(tilt, Lanes::ZERO) * press.cover;
        let work = worn * room.inverse;
        let gap = room.gap(there);
        let share = one - lanes::exp(-work);
        // What is laid lifts the surface under the rest of the dab: contact at half of it, so that few wide dabs lay what
        // many close ones do.
        let lift = smaller(all(0.5 * RAISE) * gap * share * slope, one);
        let share = smaller(share + (one - share) * work * lift, one);
        room.filled(there, gap * share, Outcome { touched, contact: phi, worn, ..Outcome::default() })
    }

    /// The exchange of a tool that the ground enters as an image.
    #[inline]
    fn lay_as_image(
        &self,
        entering: &Entering,
        press: &Pressed,
        there: &There,
        contact: &Contact,
        first: usize,
    ) -> Outcome {
        let ground = |values: &[f32]| -> Lanes { lanes::four(&values[first..]) };
        let one = all(1.0);
        let share = entering.share(ground(&contact.rank), press.load);
        let room = Room::of(self.fill * share);
        let worn = self.rate * share * ground(&contact.sheds) * press.cover;
        let fills = room.gap(there) * (one - lanes::exp(-(worn * room.inverse)));
        let touched = lanes::where_greater(share, Lanes::ZERO, one, Lanes::ZERO);
        room.filled(there, fills, Outcome { touched, contact: share, worn, ..Outcome::default() })
    }
}
