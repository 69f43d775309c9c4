//! Paint settles into the paper and is lifted again.

use super::spans::shared;
use super::{MARGIN_X, MARGIN_Y, OWN, Pace, Scratch, WIDE, at, packs, put};
use crate::medium::wash::blocks::{BOUND, LOOSE, PAINT_PLANES, SWIMS};
use crate::medium::wash::paper::PaperTile;
use crate::medium::wash::pigments::InWater;
use crate::packs::{Lanes, Machine, PACK, Pack, larger, smaller, where_greater};
use crate::sheet::{TILE, TILE_PIXELS};

/// Film that slows settling and helps lifting, µm.
const DEPTH_UM: f32 = 4.0;
const LIFTS_UM: f32 = 10.0;
/// Lifting in still and, more, in moving water, 1/s.
const STILL_LIFTS: f32 = 0.02;
const FLOW_LIFTS: f32 = 0.5;
/// What lies there already and doubles the pull of clumping pigment half-way, µm.
const CLUMP_UM: f32 = 0.25;
/// In damp paper without a film so much settles a second; all of it once it is only so full.
const DAMP_SETTLES: f32 = 0.4;
const DAMP_FULL: f32 = 0.3;
/// Less than this that swims settles at once, under a film and in damp paper, where nothing brings more of it, µm. A thousandth of a µm of
/// paint tints nothing, and waiting for less would take as long as all that is seen.
const TRACE_UM: f32 = 1e-7;
const DAMP_TRACE_UM: f32 = 1e-3;

/// The three planes of a pigment in a tile.
fn planes(block: &mut [f32]) -> [&mut [f32]; PAINT_PLANES] {
    let (swims, rest) = block[..PAINT_PLANES * TILE_PIXELS].split_at_mut(TILE_PIXELS);
    let (loose, bound) = rest.split_at_mut(TILE_PIXELS);
    debug_assert_eq!([SWIMS, LOOSE, BOUND], [0, 1, 2]);
    [swims, loose, bound]
}

/// Lets a pigment of a tile settle and be lifted for two pairs of steps, under the water of a gathered tile after its flow.
#[inline(never)]
pub fn settle_in_place(
    m: impl Machine,
    s: &Scratch,
    paper: &PaperTile,
    pace: &Pace,
    pigment: &InWater,
    block: &mut [f32],
) {
    m.run(
        #[inline(always)]
        move || settle_on(m, s, paper, *pace, *pigment, block),
    );
}

#[inline(always)]
fn settle_on<M: Machine>(
    m: M,
    s: &Scratch,
    paper: &PaperTile,
    pace: Pace,
    pigment: InWater,
    block: &mut [f32],
) {
    let time = pace.settles_s;
    let [swims, loose, bound] = planes(block);
    let none = m.nought();
    // Under a film alone; damp paper has its own way.
    for row in s.flows.rows(MARGIN_Y..MARGIN_Y + TILE) {
        for pack in shared(&s.flows.row(row), &OWN) {
            let (y, x) = (row - MARGIN_Y, pack * PACK - MARGIN_X);
            let (i, k) = (row * WIDE + pack * PACK, y * TILE + x);
            let (q, d) = (at(m, swims, k), at(m, loose, k));
            if (q + d).eq(m.all(0.0)).is_all() {
                continue;
            }
            let on = at(m, &s.on_after, i);
            let film = where_greater(on, none, on / larger(at(m, &s.fill_after, i), m.all(1e-3)), none);
            let pits = m.all(pigment.pits) * at(m, &paper.pit, i);
            let clumps = m.all(1.0) + m.all(2.0 * pigment.clumps) * d / (d + m.all(CLUMP_UM));
            let pull = m.all(pigment.settles * time) / (film + m.all(DEPTH_UM))
                * larger(m.all(1.0) - pits, none)
                * clumps;
            let settles = q * (pull / (m.all(1.0) + pull));
            let flow =
                (at(m, &s.u, i) + at(m, &s.u, i + 1)).abs() + (at(m, &s.v, i) + at(m, &s.v, i + WIDE)).abs();
            let rate = m.all(STILL_LIFTS) + m.all(FLOW_LIFTS) * flow / (flow + m.all(pace.lifts_half));
            let lifts = rate * film / (film + m.all(LIFTS_UM))
                * m.all(pigment.lifts)
                * larger(m.all(1.0) + pits, none);
            let lifted = d * smaller(lifts * m.all(time), m.all(0.5));
            let under = |v: M::Pack| where_greater(film, none, v, none);
            let (settles, lifted) = (under(settles), under(lifted));
            put(swims, k, (q - settles) + lifted);
            put(loose, k, (d - lifted) + settles * m.all(1.0 - pigment.stains));
            put(bound, k, at(m, bound, k) + settles * m.all(pigment.stains));
        }
    }
}

/// What swims of a pigment settles where there is no film, for a pair of steps.
#[inline(never)]
pub fn settle_damp_in_place(
    m: impl Machine,
    s: &Scratch,
    paper: &PaperTile,
    pace: &Pace,
    pigment: &InWater,
    block: &mut [f32],
) {
    m.run(
        #[inline(always)]
        move || settle_damp_on(m, s, paper, *pace, *pigment, block),
    );
}

#[inline(always)]
fn settle_damp_on(
    m: impl Machine,
    s: &Scratch,
    paper: &PaperTile,
    pace: Pace,
    pigment: InWater,
    block: &mut [f32],
) {
    let some = m.all(DAMP_SETTLES * pace.dries_s);
    let [swims, loose, bound] = planes(block).map(|plane| plane.as_chunks_mut::<PACK>().0);
    // Nothing swims beyond what is wet, unless all of the tile is dry: then nothing of it goes unseen.
    for y in s.settled_rows() {
        let from = (y + MARGIN_Y) * WIDE;
        let (on, inside) = (packs(&s.on_after, from), packs(&s.in_after, from));
        let room = packs(&paper.room, from);
        let [swims, loose, bound] =
            [&mut *swims, &mut *loose, &mut *bound].map(|plane| &mut plane[y * OWN.len()..][..OWN.len()]);
        let span = if s.wets.is_none() { OWN } else { shared(&s.wets.row(y + MARGIN_Y), &OWN) };
        for pack in span {
            let k = pack - OWN.start;
            let (q, on) = (m.of(swims[k]), m.of(on[pack]));
            // Nothing swims there, or all of it goes on swimming under a film.
            let rests = q.eq(m.all(0.0)) | (on.gt(m.all(0.0)) & q.ge(m.all(TRACE_UM)));
            if rests.is_all() {
                continue;
            }
            let full = m.of(inside[pack]) / larger(m.of(room[pack]), m.all(1e-3));
            let damp = where_greater(m.all(DAMP_FULL), full, m.all(1.0), some);
            let damp = where_greater(m.all(DAMP_TRACE_UM), q, m.all(1.0), damp);
            let trace = where_greater(m.all(TRACE_UM), q, m.all(1.0), m.all(0.0));
            let share = where_greater(on, m.all(0.0), trace, damp);
            let settles = q * share;
            swims[k] = (q - settles).to_array();
            loose[k] = (m.of(loose[k]) + settles * m.all(1.0 - pigment.stains)).to_array();
            bound[k] = (m.of(bound[k]) + settles * m.all(pigment.stains)).to_array();
        }
    }
}
