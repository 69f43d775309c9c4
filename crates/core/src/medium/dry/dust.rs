//! Falling dust: what a crumbling stick wears off and does not leave in contact (dry study step 5).
//!
//! A dab sheds `f_d·k·φ²·ds`, and `min(.35, 1.2f_d)` of what its full tooth would not take (3f_d in the study: here that
//! made a veil); a pool is carried along and falls over a length ℓ_d into hollows where the grain is coarse (γ > 1.1): rare
//! specks. More, or dust everywhere, looked like pepper.

use crate::lanes::{Lanes, all, larger};
use crate::paint::BANDS;
use crate::paint::pigment::Powder;
use crate::sheet::Rect;

use super::blocks::{
    COVER, DryBlocks, FILM_VALUES, GRAIN_UM, HELD, KX, LAYER_VALUES, LOOSE, POWDER_VALUES, SX,
};
use super::sheer;
use super::top::top_in_place;

/// Grain that catches dust, and contact under which a place is a hollow.
const CATCHES: f32 = 1.1;
const HOLLOW: f32 = 0.05;
/// Most that falls on one pixel at once, µm.
const MOST_UM: f64 = 0.5;
/// And where the stroke ends and leaves what it still carries; the rest is blown away.
const MOST_LEFT_UM: f64 = 0.8;
/// Share of what does not adhere that becomes dust, for a friability of f_d.
const LOST: f32 = 1.2;
const MOST_LOST: f32 = 0.35;

/// A tile of the sheet, and the first value of a pixel in its block.
type Spot = ((usize, usize), usize);

/// What a stroke sheds and carries.
#[derive(Debug, Default)]
pub struct Dust {
    /// f_d, and ℓ_d in mm.
    friable: f32,
    over_mm: f32,
    /// µm × pixels.
    pool: f64,
    /// Where it may fall: tile, and first value of a pixel in its block; and where the dab before might have let it fall.
    spots: Vec<Spot>,
    before: Vec<Spot>,
    /// Pixels of the dabs of both.
    within: [Option<Rect>; 2],
}

impl Dust {
    /// Nothing for a stick that sheds none.
    pub fn new(friable: f32, over_mm: f32) -> Option<Self> {
        (friable > 0.0).then(|| Self { friable, over_mm, ..Self::default() })
    }

    /// The stroke ends: the next one lets dust fall only where it goes itself.
    pub fn end(&mut self) {
        self.spots.clear();
        self.before.clear();
        self.within = [None; 2];
    }

    /// Pixels that dust may fall on.
    pub fn within(&self) -> Option<Rect> {
        self.within.into_iter().flatten().reduce(Rect::union)
    }

    /// µm × pixels that have not fallen yet.
    pub fn pool(&self) -> f64 {
        self.pool
    }

    /// A new dab: where the last one lay counts only where this one finds no hollow.
    pub fn begin(&mut self, rect: Rect) {
        if !self.spots.is_empty() {
            std::mem::swap(&mut self.spots, &mut self.before);
            self.within[1] = self.within[0];
        }
        self.within[0] = Some(rect);
        self.spots.clear();
    }

    /// Sheds from four pixels: `worn` is what full contact would lay (µm), `laid` what was.
    #[inline(always)]
    pub(super) fn shed(&mut self, worn: Lanes, phi: Lanes, laid: Lanes) {
        let lost = (LOST * self.friable).min(MOST_LOST);
        let dust = all(self.friable) * worn * phi + all(lost) * larger(worn - laid, Lanes::ZERO);
        self.pool += f64::from(dust.to_array().iter().sum::<f32>());
    }

    /// Takes note of a place where dust may fall.
    #[inline(always)]
    pub(super) fn note(&mut self, tile: (usize, usize), at: usize, grain: f32, phi: f32) {
        if grain > CATCHES && phi < HOLLOW {
            self.spots.push((tile, at));
        }
    }

    /// Lets dust fall after `travel` mm; what is left of it where that is infinite. `blocks` gives those of a tile.
    pub fn fall_in_place(
        &mut self,
        travel: f32,
        powder: &Powder,
        bound: (f32, f32),
        mut blocks: impl FnMut((usize, usize), &mut dyn for<'b> FnMut(DryBlocks<'b>)),
    ) {
        let earlier = self.spots.is_empty();
        let spots = std::mem::take(if earlier { &mut self.before } else { &mut self.spots });
        if spots.is_empty() || self.pool <= 0.0 {
            *(if earlier { &mut self.before } else { &mut self.spots }) = spots;
            return;
        }
        let (number, held) = bound;
        let share = f64::from(1.0 - libm::expf(-travel / self.over_mm));
        let most = if travel.is_finite() { MOST_UM } else { MOST_LEFT_UM };
        let each = (self.pool * share / spots.len() as f64).min(most) as f32;
        let mut fell = 0.0;
        for of_tile in spots.chunk_by(|a, b| a.0 == b.0) {
            blocks(of_tile[0].0, &mut |DryBlocks { powder: block, mut layer, mut film, .. }| {
                for &(_, at) in of_tile {
                    let cell = &mut block[at..at + POWDER_VALUES];
                    let before = f64::from(cell[LOOSE]);
                    cell[LOOSE] += each * (1.0 - held);
                    let held_before = f64::from(cell[HELD]);
                    cell[HELD] += each * held;
                    for b in 0..BANDS {
                        cell[KX + b] += powder.k_um[b] * each;
                        cell[SX + b] += powder.s_um[b] * each;
                    }
                    let cover = ((cell[LOOSE] + cell[HELD]) / GRAIN_UM).min(1.0);
                    cell[COVER] = cell[COVER].max(cover);
                    if let Some(layer) = layer.as_deref_mut() {
                        let top = at / POWDER_VALUES * LAYER_VALUES;
                        top_in_place(&mut layer[top..top + LAYER_VALUES], number, each, cover);
                    }
                    if let Some(film) = film.as_deref_mut() {
                        let at = at / POWDER_VALUES * FILM_VALUES;
                        sheer::hide_in_place(&mut film[at..at + FILM_VALUES], cover, each);
                    }
                    fell += f64::from(cell[LOOSE]) - before + f64::from(cell[HELD]) - held_before;
                }
            });
        }
        *(if earlier { &mut self.before } else { &mut self.spots }) = spots;
        self.pool -= fell;
    }
}
