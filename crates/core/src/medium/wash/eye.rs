//! What watercolour looks like: a film of all its pigments on the share of the pixel that water reached, over what lies under it.

use super::blocks::{COVER, FILL, ON, PAINT_PLANES, WATER, pigments_of, plane};
use super::pigments;
use super::resist::{MASK, RESIST};
use crate::lanes::{LANES, Lanes, all, four};
use crate::medium::Look;
use crate::paint::{BANDS, film};
use crate::sheet::Tile;

/// Shares of a pixel under this count as this.
const LEAST_COVER: f32 = 0.02;
/// Film from which on standing water gleams as it can, µm.
const GLEAMS_UM: f32 = 25.0;
/// Gloss of standing water beside that of wet paint.
const GLOSS: f32 = 0.8;
/// Less paint than this is not seen, µm.
const SEEN_UM: f32 = 1e-6;

/// Dried latex: yellowish grey, half clear, with a sheen (tuned by eye).
const LATEX: [f32; BANDS] = [0.42, 0.46, 0.5, 0.56, 0.6, 0.61, 0.6, 0.6];
const LATEX_HIDES: f32 = 0.75;
const LATEX_GLOSS: f32 = 0.35;

/// Lays watercolour over the looks of the pixels `from..` of a tile.
pub fn show_in_place(tile: &Tile, from: usize, looks: &mut [Look]) {
    show_paint_in_place(tile, from, looks);
    if let Some(resist) = tile.block(&RESIST) {
        for (mask, look) in plane(resist, MASK)[from..].iter().zip(looks).filter(|(mask, _)| **mask > 0.0) {
            look.laid = true;
            look.gloss += (LATEX_GLOSS - look.gloss) * mask;
            for (seen, latex) in look.reflectance.iter_mut().zip(LATEX) {
                *seen += (latex - *seen) * LATEX_HIDES * mask;
            }
        }
    }
}

fn show_paint_in_place(tile: &Tile, from: usize, looks: &mut [Look]) {
    let Some(water) = tile.block(&WATER) else { return };
    let (on, fill, cover) = (plane(water, ON), plane(water, FILL), plane(water, COVER));
    let paints: Vec<(&[f32], &[[f32; BANDS]; 2])> =
        pigments_of(tile).map(|(number, block)| (block, pigments::bands(number))).collect();
    for (k, look) in looks.iter_mut().enumerate() {
        let i = from + k;
        let mut totals = [all(0.0); 4];
        let mut seen = false;
        for (block, [absorbs, scatters]) in &paints {
            let um: f32 = (0..PAINT_PLANES).map(|p| plane(block, p)[i]).sum();
            if um <= SEEN_UM {
                continue;
            }
            seen = true;
            for (h, total) in totals[..2].iter_mut().enumerate() {
                *total += all(um) * four(&absorbs[h * LANES..]);
            }
            for (h, total) in totals[2..].iter_mut().enumerate() {
                *total += all(um) * four(&scatters[h * LANES..]);
            }
        }
        if seen {
            // Where paint crept beyond the film it lies in all of the pixel.
            let share = if cover[i] > 0.0 { cover[i].clamp(LEAST_COVER, 1.0) } else { 1.0 };
            over_in_place(&totals, share, look);
        }
        if on[i] > 0.0 && fill[i] > 0.0 {
            let film = on[i] / fill[i];
            look.laid = true;
            look.gloss += (GLOSS * (film / GLEAMS_UM).min(1.0) - look.gloss) * fill[i].min(1.0);
        }
    }
}

fn over_in_place(totals: &[Lanes; 4], share: f32, look: &mut Look) {
    let deep = all(1.0 / share);
    look.laid = true;
    for h in 0..BANDS / LANES {
        let under = four(&look.reflectance[h * LANES..]);
        let film = film::over_lanes(totals[h] * deep, totals[2 + h] * deep, under);
        let seen = under + all(share) * (film - under);
        look.reflectance[h * LANES..(h + 1) * LANES].copy_from_slice(&seen.to_array());
    }
}
