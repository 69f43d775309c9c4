//! A film laid as an image over whatever lies there, by a blend mode (models.md §6: "even film" tools; W3C Compositing and
//! Blending Level 1): no powder, and no contact.
//!
//! A film is a colour and its share of the pixel, in sRGB as it is shown. A stroke of it is even: its share `s` is the most that
//! any of its dabs gives. With the backdrop `Cb`, what the pixel showed before the stroke, and the film's colour `Cs`, the pixel
//! shows `(1 − s)·Cb + s·B(Cb, Cs)`. Powder that comes to lie there afterwards hides it, and uncovers it where it is taken again; a
//! cutting eraser takes it off.

use crate::lanes::{self, LANES, Lanes};
use crate::medium::eye::{encoded, over};
use crate::paint::blend::Blend;
use crate::paint::colour::Display;
use crate::paint::film;
use crate::paint::pigment::Powder;
use crate::paint::{BANDS, Spectrum};

use super::blocks::{
    FILM_BEFORE, FILM_COLOUR, FILM_HIDDEN, FILM_SHARE, FILM_STROKE, FILM_STROKE_SHARE, FILM_VALUES,
};
use super::done::Done;
use super::laying::Laying;
use super::press::{Contact, Dab, Part, Reach};

/// So much powder, µm, hides half of a film under it: grains are about as large.
const HIDES_UM: f32 = 1.0;

/// What a film is, for a whole stroke.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sheer {
    pub blend: Blend,
    /// Its colour in full, sRGB 0..1.
    pub colour: [f64; 3],
}

impl Sheer {
    /// A film of the colour that a stick's powder has where it lies thick.
    pub fn of(powder: &Powder, blend: Blend) -> Self {
        const THICK_UM: f32 = 1000.0;
        let thick = |v: &Spectrum| v.map(|v| v * THICK_UM);
        let full = film::over(&thick(&powder.k_um), &thick(&powder.s_um), &[1.0; BANDS]);
        Self { blend, colour: encoded(Display::shared().srgb8(&full)) }
    }
}

/// Powder was laid over a film: `cover` of the pixel, `laid` µm.
#[inline(always)]
pub fn hide_in_place(pixel: &mut [f32], cover: f32, laid: f32) {
    pixel[FILM_HIDDEN] += (1.0 - pixel[FILM_HIDDEN]) * cover * laid / (laid + HIDES_UM);
}

/// Of the powder that may lie over a film, this share stays.
#[inline(always)]
pub fn bare_in_place(pixel: &mut [f32], stays: f32) {
    pixel[FILM_HIDDEN] *= stays;
}

/// A cutting eraser takes a share of a film off.
#[inline(always)]
pub fn cut_in_place(pixel: &mut [f32], share: f32) {
    pixel[FILM_SHARE] *= 1.0 - share;
}

/// Lays a film on the pixels of a part of a tile; `under` gives what the pixel of an index shows without any film.
pub fn lay_in_place(
    block: &mut [f32],
    under: impl Fn(usize) -> [f64; 3],
    sheer: &Sheer,
    contact: &Contact,
    (dab, laying): (&Dab<'_>, &Laying<'_>),
    part: Part<'_>,
    done: &mut Done,
) {
    let Some(entering) = &laying.entering else { return };
    let most = laying.opacity * dab.flow.min(1.0) * dab.thin;
    Reach::new(dab, part).visit(|first, _, press| {
        let rank: Lanes = lanes::four(&contact.rank[first..]);
        let share = entering.share(rank, press.load);
        let (shares, covers, loads) = (share.to_array(), press.cover.to_array(), press.load.to_array());
        for i in 0..LANES {
            done.cover += covers[i];
            done.load += covers[i] * loads[i];
            done.contact += covers[i] * shares[i];
            done.touched += if shares[i] > 0.0 { covers[i] } else { 0.0 };
            let wanted = most * shares[i] * covers[i];
            if wanted > 0.0 {
                let at = (first + i) * FILM_VALUES;
                let cell = &mut block[at..at + FILM_VALUES];
                bring_in_place(cell, wanted, laying.stroke, sheer, || under(first + i));
            }
        }
    });
}

/// Brings the present stroke's share of a pixel up to `wanted`.
fn bring_in_place(cell: &mut [f32], wanted: f32, stroke: f32, sheer: &Sheer, under: impl Fn() -> [f64; 3]) {
    if cell[FILM_STROKE] != stroke {
        cell[FILM_STROKE] = stroke;
        cell[FILM_STROKE_SHARE] = 0.0;
        cell[FILM_BEFORE] = cell[FILM_SHARE] * (1.0 - cell[FILM_HIDDEN]);
        cell.copy_within(FILM_COLOUR..FILM_COLOUR + 3, FILM_BEFORE + 1);
        cell[FILM_HIDDEN] = 0.0;
    }
    if wanted <= cell[FILM_STROKE_SHARE] {
        return;
    }
    cell[FILM_STROKE_SHARE] = wanted;
    let (s, before) = (f64::from(wanted), f64::from(cell[FILM_BEFORE]));
    let old = [1, 2, 3].map(|c: usize| cell[FILM_BEFORE + c]);
    let blended = sheer.blend.colour(over(under(), before, &old), sheer.colour);
    let share = s + before * (1.0 - s);
    cell[FILM_SHARE] = share as f32;
    for c in 0..3 {
        let mixed = s * blended[c] + (1.0 - s) * before * f64::from(old[c]);
        cell[FILM_COLOUR + c] = (mixed / share) as f32;
    }
}
