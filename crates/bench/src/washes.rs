//! What a step of water costs: 512² pixels of the wash study's pitch, wet all over or in part, against a memcpy of the wet cells' bytes in
//! the same run.

use std::rc::Rc;

use saltmarsh_core::ground::{Ground, Surface};
use saltmarsh_core::medium::wash::blocks::{
    COVER, FILL, FILM, HAS_FILM, ON, PAINT_PLANES, PIGMENTS, SWIMS, SWIMS_SIDES, WATER, WATER_PLANES, WET,
    WET_SIDES,
};
use saltmarsh_core::medium::wash::pigments;
use saltmarsh_core::sheet::{Sheet, TILE, TILE_PIXELS};
use serde::Serialize;

use super::Clock;

const SIDE: usize = 512;
const PITCH_MM: f64 = 0.085;
/// Pairs of steps that are taken together, and how often; the median counts, and for what two programs take the fastest: what else the machine does
/// only makes them slower, the one of more instructions more so.
const PAIRS: u64 = 4;
const RUNS: usize = 9;
/// Steps of the sheet's clock for one of water at this pitch.
const EVERY: u64 = 2;
/// Bytes a wet cell in the copy that the wash study's ratios (2.7 with one pigment, 3.8 with four) are over.
const STUDY_BYTES: usize = 77;
/// Near every side of its tile.
const ALL_SIDES: f32 = 15.0;

/// A sheet that is wet so far.
#[derive(Debug, Serialize)]
pub struct Wash {
    pub pigments: usize,
    /// Share of the sheet that is wet.
    pub wet: f64,
    /// ms for a step, and in the fastest run.
    pub ms: f64,
    pub fastest_ms: f64,
    /// The first over a copy of the wet cells' bytes, and over the copy that the wash study measured itself by, whatever is painted.
    pub to_copy: f64,
    pub to_study_copy: f64,
    /// Bytes that the sheet holds for a wet cell.
    pub bytes_a_cell: f64,
}

/// Wets the upper rows of a sheet.
fn wet(share: f64, paints: &[&str]) -> Sheet {
    let ground = Rc::new(Ground::generated(Surface::ColdPressed));
    let mut sheet = Sheet::new(ground, SIDE, SIDE, PITCH_MM, [0.0; 2]).expect("a sheet");
    let rows = (SIDE as f64 * share) as usize;
    for (tx, ty) in (0..rows.div_ceil(TILE)).flat_map(|ty| (0..SIDE / TILE).map(move |tx| (tx, ty))) {
        let tile = sheet.tile_in_place(tx, ty);
        let cells = TILE * (rows - ty * TILE).min(TILE);
        // A film that is uneven, so that nothing can be left out.
        let film = |i: usize| {
            120.0 + 20.0 * libm::sin(0.1 * (i % TILE) as f64) * libm::cos(0.07 * (i / TILE) as f64)
        };
        let water = tile.block_in_place(&WATER);
        for i in 0..cells {
            water[ON * TILE_PIXELS + i] = film(i) as f32;
            water[FILL * TILE_PIXELS + i] = 1.0;
            water[COVER * TILE_PIXELS + i] = 1.0;
        }
        (water[WET], water[WET_SIDES], water[FILM]) = (1.0, ALL_SIDES, HAS_FILM);
        for code in paints {
            let pigment = &PIGMENTS[pigments::number(code, pigments::Vehicle::Gum).expect("a pigment")];
            let block = tile.block_in_place(pigment);
            (0..cells).for_each(|i| block[SWIMS * TILE_PIXELS + i] = 0.01 * film(i) as f32);
            block[SWIMS_SIDES] = ALL_SIDES;
        }
    }
    sheet.wind(&WATER);
    sheet
}

/// All of them.
pub fn all(clock: Clock<'_>) -> Vec<Wash> {
    const PAINTS: [&str; 4] = ["PB15:3", "PB29", "PY43", "PV19"];
    let cases = [(1, 1.0), (2, 1.0), (4, 1.0), (1, 0.5), (4, 0.5), (1, 0.17), (4, 0.17), (1, 0.0)];
    cases.into_iter().map(|(count, share)| measure(share, &PAINTS[..count], clock)).collect()
}

fn measure(share: f64, paints: &[&str], clock: Clock<'_>) -> Wash {
    let mut sheet = wet(share, paints);
    sheet.advance(8 * EVERY);
    let cells = (SIDE as f64 * share) as usize * SIDE;
    let bytes_a_cell = if cells > 0 { sheet.bytes() as f64 / cells as f64 } else { 0.0 };
    let planes = WATER_PLANES + PAINT_PLANES * paints.len();
    let of_bytes = |bytes: usize| vec![1_u8; bytes * cells.max(1)];
    let (from, study_from) = (of_bytes(size_of::<f32>() * planes), of_bytes(STUDY_BYTES));
    let (mut to, mut study_to) = (from.clone(), study_from.clone());
    let (mut steps, mut copies, mut study_copies) = (Vec::new(), Vec::new(), Vec::new());
    for _ in 0..RUNS {
        let start = clock();
        sheet.advance(2 * PAIRS * EVERY);
        steps.push((clock() - start) / (2 * PAIRS) as f64);
        let pairs = [(&from, &mut to, &mut copies), (&study_from, &mut study_to, &mut study_copies)];
        for (from, to, times) in pairs {
            let start = clock();
            to.copy_from_slice(from);
            times.push(clock() - start);
            assert_eq!(to[0], 1);
        }
    }
    let middle = |times: &mut Vec<f64>| {
        times.sort_by(f64::total_cmp);
        times[times.len() / 2]
    };
    let (ms, copy, study_copy) = (middle(&mut steps), middle(&mut copies), middle(&mut study_copies));
    let over = |copy: f64| if share > 0.0 { ms / copy } else { 0.0 };
    Wash {
        pigments: paints.len(),
        wet: share,
        ms,
        fastest_ms: steps[0],
        to_copy: over(copy),
        to_study_copy: over(study_copy),
        bytes_a_cell,
    }
}
