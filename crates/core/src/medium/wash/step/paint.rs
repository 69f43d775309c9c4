//! Paint goes with the sum of two steps' water, against what each cell held when the pair began; it drifts, mixes, rolls into hollows,
//! and creeps with the water in the paper. Water spreads in the paper by the same turn.

use super::{Field, HIGH, MARGIN_X, MARGIN_Y, Pace, Scratch, WIDE, at, cells, field, put};
use crate::lanes::{LANES, Lanes, all, larger, smaller, where_greater};
use crate::medium::wash::paper::PaperTile;
use crate::medium::wash::pigments::InWater;
use crate::sheet::TILE;

/// A pair of steps takes at most this share of what a cell held.
const HOLDS: f32 = 0.86;
/// Film at which drift is half of its most, squared, µm².
const DRIFTS: f32 = 3600.0;
/// Drift ends over this share of what flow leaves.
const LEAVES: f32 = 0.24;
/// Fluxes under this are carried without the second order, µm.
const SLIGHT_UM: f32 = 0.01;
/// Second order brings at most this share of what is there.
const STEEP: f32 = 0.2;
/// Water in the paper spreads so much where it is dry, of what it does where it is full.
const DRY_SOAKS: f32 = 0.03;
/// Share of the paint that goes with water in the paper.
const CREEPS: f32 = 0.25;

/// One pigment as it is carried.
pub struct Swimming {
    pub in_water: InWater,
    pub swims: Field,
    /// How strong it is in what a cell held.
    strength: Field,
    /// What came to cells of the row before from both sides, and from above, until what leaves them downwards is known.
    sideways: [f32; WIDE],
    above: [f32; WIDE],
}

impl Swimming {
    pub fn new(in_water: InWater) -> Self {
        Self { in_water, swims: field(), strength: field(), sideways: [0.0; WIDE], above: [0.0; WIDE] }
    }
}

/// What goes through the faces of a row, for any paint.
#[derive(Clone)]
struct Faces {
    /// Shares of the strength before and behind the face that cross it.
    before: [f32; WIDE],
    behind: [f32; WIDE],
    /// The same for its slope.
    slope_before: [f32; WIDE],
    slope_behind: [f32; WIDE],
    /// For what rolls, by how readily it does; and for what creeps.
    rolls_before: [f32; WIDE],
    rolls_behind: [f32; WIDE],
    creeps_before: [f32; WIDE],
    creeps_behind: [f32; WIDE],
    /// Water in the paper.
    soaks: [f32; WIDE],
    /// Anything of the second order, of rolling, of creeping.
    has: [bool; 3],
}

impl Default for Faces {
    fn default() -> Self {
        let z = [0.0; WIDE];
        Self {
            before: z,
            behind: z,
            slope_before: z,
            slope_behind: z,
            rolls_before: z,
            rolls_behind: z,
            creeps_before: z,
            creeps_behind: z,
            soaks: z,
            has: [false; 3],
        }
    }
}

/// Carries the paint of a gathered tile for a pair of steps, in place, and lets water spread in the paper. `rolls`: paint rolls in this pair.
pub fn carry_in_place(s: &mut Scratch, paper: &PaperTile, pace: &Pace, rolls: bool, paints: &mut [Swimming]) {
    hold_in_place(s);
    for paint in paints.iter_mut() {
        // Nothing swims where nothing is wet.
        paint.strength.fill(0.0);
        for i in cells(s.worked(1..HIGH - 1)) {
            let held = at(&*s.held, i);
            // Where only the paper is wet, its water carries.
            let carries = where_greater(held, all(0.0), held, at(&*s.inside, i));
            let strength = at(&*paint.swims, i) / larger(carries, all(1e-3));
            put(&mut *paint.strength, i, where_greater(carries, all(0.0), strength, all(0.0)));
        }
    }
    let (mut across, mut down) = (Faces::default(), Faces::default());
    let (mut drift_x, mut drift_y) = ([0.0; WIDE], [0.0; WIDE]);
    let (mut soaks_sideways, mut soaks_above) = ([0.0; WIDE], [0.0; WIDE]);
    // A row on which nothing is wet, nor on those beside it, is crossed by nothing.
    let worked = s.worked(MARGIN_Y..HIGH - MARGIN_Y);
    if worked.is_empty() {
        return;
    }
    for y in worked.start..=worked.end {
        s.drift_x.row_in_place(y, true, false, &mut drift_x);
        s.drift_y.row_in_place(y, false, true, &mut drift_y);
        faces_in_place(s, paper, pace, rolls, y, WIDE, &drift_y, &mut down);
        let last = y == worked.end;
        if !last {
            faces_in_place(s, paper, pace, rolls, y, 1, &drift_x, &mut across);
        }
        // What the row before has left of the paper's water, and of each paint.
        for x in (MARGIN_X..MARGIN_X + TILE).step_by(LANES) {
            let i = y * WIDE + x;
            if y > worked.start {
                let comes = at(&soaks_sideways, x) + (at(&soaks_above, x) - at(&down.soaks, x));
                put(&mut *s.in_after, i - WIDE, larger(at(&*s.inside, i - WIDE) + comes, all(0.0)));
            }
            put(&mut soaks_sideways, x, at(&across.soaks, x) - at(&across.soaks, x + 1));
            put(&mut soaks_above, x, at(&down.soaks, x));
        }
        for paint in paints.iter_mut() {
            let (creeps, rolling) = (CREEPS * paint.in_water.creeps, paint.in_water.rolls);
            let mut downwards = [0.0; WIDE];
            let mut sideways = [0.0; WIDE];
            cross_in_place(paint, &down, y, WIDE, (creeps, rolling), &mut downwards, &*s.held);
            if y > worked.start {
                for x in (MARGIN_X..MARGIN_X + TILE).step_by(LANES) {
                    let comes = at(&paint.sideways, x) + (at(&paint.above, x) - at(&downwards, x));
                    let i = (y - 1) * WIDE + x;
                    // Rounding alone can go under nought.
                    let rest = larger(at(&*paint.swims, i) + comes, all(0.0));
                    put(&mut *paint.swims, i, rest);
                }
            }
            if last {
                continue;
            }
            cross_in_place(paint, &across, y, 1, (creeps, rolling), &mut sideways, &*s.held);
            for x in (MARGIN_X..MARGIN_X + TILE).step_by(LANES) {
                put(&mut paint.sideways, x, at(&sideways, x) - at(&sideways, x + 1));
                put(&mut paint.above, x, at(&downwards, x));
            }
        }
    }
}

/// What each cell held when the pair began, and how much of its outflow it can give.
fn hold_in_place(s: &mut Scratch) {
    for i in cells(s.worked(1..HIGH - 1)) {
        let none = all(0.0);
        let (left, right) = (at(&*s.passed_x, i), at(&*s.passed_x, i + 1));
        let (upper, lower) = (at(&*s.passed_y, i), at(&*s.passed_y, i + WIDE));
        let on = at(&*s.on, i);
        let began = on - ((left - right) + (upper - lower));
        let held = where_greater(on, none, larger(began, all(0.25) * on), none);
        let leaves = |before: Lanes, behind: Lanes| larger(-before, none) + larger(behind, none);
        let (q_left, q_right) = (at(&*s.flux_x, i), at(&*s.flux_x, i + 1));
        let (q_upper, q_lower) = (at(&*s.flux_y, i), at(&*s.flux_y, i + WIDE));
        let out = (leaves(left, right) + leaves(upper, lower))
            + (leaves(q_left, q_right) + leaves(q_upper, q_lower));
        let keeps = smaller(all(HOLDS) * held / larger(out, all(1e-12)), all(1.0));
        let square = at(&*s.film, i) * at(&*s.film, i);
        let left_over = (all(HOLDS) * held - out) / larger(all(LEAVES) * held, all(1e-12));
        let free = smaller(larger(left_over, none), all(1.0));
        put(&mut *s.held, i, held);
        put(&mut *s.keeps, i, keeps);
        put(&mut *s.adrift, i, held * square / (square + all(DRIFTS)) * free);
    }
}

/// What crosses the faces of a row towards the cells `back` before them.
#[inline(always)]
#[allow(clippy::too_many_arguments)] // one call for each direction
fn faces_in_place(
    s: &Scratch,
    paper: &PaperTile,
    pace: &Pace,
    rolls: bool,
    y: usize,
    back: usize,
    drift: &[f32; WIDE],
    out: &mut Faces,
) {
    let none = all(0.0);
    let (passed, flux, speeds) =
        if back == 1 { (&s.passed_x, &s.flux_x, &s.u) } else { (&s.passed_y, &s.flux_y, &s.v) };
    let (mut sloped, mut rolled, mut crept) = (none, none, none);
    for x in (MARGIN_X..=MARGIN_X + TILE).step_by(LANES) {
        let (i, j) = (y * WIDE + x, y * WIDE + x - back);
        let (held_j, held_i) = (at(&*s.held, j), at(&*s.held, i));
        let drifts = at(drift, x) * smaller(at(&*s.adrift, j), at(&*s.adrift, i));
        let whole = at(&**passed, i) + at(&**flux, i) + drifts;
        let forth = larger(whole, none) * at(&*s.keeps, j);
        let mixes = all(pace.mixes) * smaller(held_j, held_i);
        let back_ = smaller(whole, none) * at(&*s.keeps, i);
        put(&mut out.before, x, forth + mixes);
        put(&mut out.behind, x, back_ - mixes);
        let corrects = larger(all(0.5) - at(&**speeds, i).abs(), none);
        let corrects = where_greater(whole.abs(), all(SLIGHT_UM), corrects, none);
        let (slope_before, slope_behind) = (forth * corrects, back_ * corrects);
        sloped += slope_before - slope_behind;
        put(&mut out.slope_before, x, slope_before);
        put(&mut out.slope_behind, x, slope_behind);
        if rolls {
            // Heights of the paper: the head takes a share of them.
            let fall = (at(&paper.head, j) - at(&paper.head, i)) * all(1.0 / 0.15);
            let both = smaller(held_j, held_i).simd_gt(none);
            let share = smaller(larger(all(pace.rolls) * fall, all(-pace.rolls_most)), all(pace.rolls_most));
            let share = both.bitselect(share, none);
            rolled += share.abs();
            put(&mut out.rolls_before, x, larger(share, none));
            put(&mut out.rolls_behind, x, smaller(share, none));
        }
        let (full_j, full_i) = (at(&*s.full, j), at(&*s.full, i));
        let mean = all(0.5) * (full_j + full_i);
        let room = smaller(at(&paper.room, j), at(&paper.room, i));
        let soaks = all(pace.soaks)
            * (all(DRY_SOAKS) + all(1.0 - DRY_SOAKS) * mean * mean)
            * room
            * (full_j - full_i);
        put(&mut out.soaks, x, soaks);
        // Beyond the film paint goes with the paper's water; from under a film, with its share.
        let film_both = smaller(at(&*s.on, j), at(&*s.on, i)).simd_gt(none);
        let creeps = |k: usize, flow: Lanes| {
            let (on, inside) = (at(&*s.on, k), at(&*s.inside, k));
            let share = where_greater(on, none, on / larger(on + inside, all(1e-3)), all(1.0));
            film_both.bitselect(none, flow * share)
        };
        let (creeps_before, creeps_behind) =
            (creeps(j, larger(soaks, none)), creeps(i, smaller(soaks, none)));
        crept += creeps_before - creeps_behind;
        put(&mut out.creeps_before, x, creeps_before);
        put(&mut out.creeps_behind, x, creeps_behind);
    }
    let any = |sum: Lanes| sum.to_array().iter().any(|v| *v > 0.0);
    out.has = [any(sloped), rolls && any(rolled), any(crept)];
}

/// Slope of a paint's strength at a cell, the harmonic mean of its two differences where they agree.
#[inline(always)]
fn slope(strength: &[f32], i: usize, back: usize) -> Lanes {
    let here = at(strength, i);
    let (a, b) = (here - at(strength, i - back), at(strength, i + back) - here);
    let product = a * b;
    where_greater(product, all(0.0), all(2.0) * product / (a + b), all(0.0))
}

/// How much of a paint crosses the faces of a row.
#[inline(always)]
fn cross_in_place(
    paint: &Swimming,
    faces: &Faces,
    y: usize,
    back: usize,
    (creeps, rolling): (f32, f32),
    out: &mut [f32; WIDE],
    held: &[f32],
) {
    let strength = &paint.strength[..];
    for x in (MARGIN_X..=MARGIN_X + TILE).step_by(LANES) {
        let (i, j) = (y * WIDE + x, y * WIDE + x - back);
        let (before, behind) = (at(strength, j), at(strength, i));
        let mut crosses = before * at(&faces.before, x) + behind * at(&faces.behind, x);
        if faces.has[0] {
            let up = smaller(slope(strength, j, back), all(STEEP) * before);
            let down = larger(slope(strength, i, back), all(-STEEP) * behind);
            crosses += at(&faces.slope_before, x) * up - at(&faces.slope_behind, x) * down;
        }
        if faces.has[1] {
            let (q_j, q_i) = (before * at(held, j), behind * at(held, i));
            crosses += all(rolling) * (q_j * at(&faces.rolls_before, x) + q_i * at(&faces.rolls_behind, x));
        }
        if faces.has[2] {
            let goes = before * at(&faces.creeps_before, x) + behind * at(&faces.creeps_behind, x);
            crosses += all(creeps) * goes;
        }
        put(out, x, crosses);
    }
}
