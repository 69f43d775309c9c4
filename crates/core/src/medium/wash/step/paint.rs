//! Paint goes with the sum of two steps' water, against what each cell held when the pair began; it drifts, mixes, rolls into hollows,
//! and creeps with the water in the paper. Water spreads in the paper by the same turn.

use std::iter::once;
use std::ops::Range;

use super::grid::Between;
use super::spans::{hull, outside, shared, walk};
use super::{ACROSS, Field, HIGH, MARGIN_Y, OWN, Pace, Scratch, Spans, WIDE, field, fours, fours_in_place};
use crate::lanes::{LANES, Lanes, all, larger, nought, smaller, where_greater};
use crate::medium::wash::paper::PaperTile;
use crate::medium::wash::pigments::InWater;

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

/// What is known of the cells or the faces of one row, with room for a look at the right neighbours.
type Row = [f32; WIDE + LANES];
const NOTHING: Row = [0.0; WIDE + LANES];
/// The fours of a row whose left faces are worked: those in the tile and one more.
const FACES: Range<usize> = OWN.start..OWN.end + 1;

/// One pigment as it is carried.
pub struct Swimming {
    pub in_water: InWater,
    pub swims: Box<Field>,
    /// How strong it is in what a cell held.
    strength: Box<Field>,
    /// What came to cells of the row before from both sides, and from above, until what leaves them downwards is known.
    sideways: Box<Row>,
    above: Box<Row>,
    /// What crosses the faces that are worked.
    crosses: Box<Row>,
    /// How the strength falls down the columns at the cells of a row, behind four that are not asked for; which row that is, and where it is known.
    falls: Box<Row>,
    falls_at: (usize, Range<usize>),
    /// Slopes at the cells before the faces that are worked.
    slopes: Box<Row>,
}

impl Swimming {
    pub fn new(in_water: InWater) -> Self {
        let row = || Box::new(NOTHING);
        Self {
            in_water,
            swims: Box::new(field()),
            strength: Box::new(field()),
            sideways: row(),
            above: row(),
            crosses: row(),
            falls: row(),
            falls_at: (0, 0..0),
            slopes: row(),
        }
    }
}

/// What goes through the faces of a row, for any paint.
#[derive(Clone)]
struct Faces {
    /// Shares of the strength before and behind the face that cross it.
    before: Row,
    behind: Row,
    /// The same for its slope.
    slope_before: Row,
    slope_behind: Row,
    /// For what rolls, by how readily it does; and for what creeps.
    rolls_before: Row,
    rolls_behind: Row,
    creeps_before: Row,
    creeps_behind: Row,
    /// Water in the paper.
    soaks: Row,
    /// Anything of the second order, of rolling.
    has: [bool; 2],
    /// Fours at which paint may creep, as bits: nothing is said of the others.
    creeps: u32,
    /// Fours that anything may cross, and those that water on the sheet may.
    wets: Range<usize>,
    flows: Range<usize>,
}

impl Default for Faces {
    fn default() -> Self {
        let z = NOTHING;
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
            has: [false; 2],
            creeps: 0,
            wets: 0..0,
            flows: 0..0,
        }
    }
}

/// Carries the paint of a gathered tile for a pair of steps, in place, and lets water spread in the paper. `rolls`: paint rolls in this pair.
/// Where no film stands nearby only the paper's water moves, and what creeps with it.
pub fn carry_in_place(s: &mut Scratch, paper: &PaperTile, pace: &Pace, rolls: bool, paints: &mut [Swimming]) {
    s.fill_paper_in_place(paper);
    s.wets.clear_outside_in_place(&s.by_wets, [&mut s.in_after[..]]);
    hold_in_place(s);
    for paint in paints.iter_mut() {
        paint.falls_at = (0, 0..0);
        strengths_in_place(s, paint);
    }
    let none = nought();
    let (mut across, mut down) = (Faces::default(), Faces::default());
    let (mut soaks_sideways, mut soaks_above) = (NOTHING, NOTHING);
    // A row on which nothing is wet, nor on those beside it, is crossed by nothing.
    let worked = s.wets.rows(MARGIN_Y..HIGH - MARGIN_Y);
    if worked.is_empty() {
        return;
    }
    for y in worked.start..=worked.end {
        let before = (y - 1) * WIDE;
        let above = |spans: &Spans| shared(&hull(spans.row(y - 1), spans.row(y)), &FACES);
        (down.wets, down.flows) = (above(&s.wets), above(&s.flows));
        Line { s, paper, pace, none, rolls, y, back: WIDE, drift: s.drift_y.row(y) }
            .faces_in_place(&mut down);
        let last = y == worked.end;
        if !last {
            (across.wets, across.flows) = (shared(&s.wets.row(y), &FACES), shared(&s.flows.row(y), &FACES));
            Line { s, paper, pace, none, rolls, y, back: 1, drift: s.drift_x.row(y) }
                .faces_in_place(&mut across);
        }
        let own = shared(&s.wets.row(y - 1), &OWN);
        // What the row before has left of the paper's water, and of each paint.
        if y > worked.start {
            let after = fours_in_place(&mut s.in_after, before);
            after.copy_from_slice(fours(&s.inside, before));
            left_in_place(after, own.clone(), [&soaks_sideways, &soaks_above], &down.soaks, none);
        }
        let own_now = shared(&s.wets.row(y), &OWN);
        between_in_place(&across.soaks, own_now.clone(), &mut soaks_sideways);
        let (from, to) = (fours(&down.soaks, 0), fours_in_place(&mut soaks_above, 0));
        own_now.clone().for_each(|k| to[k] = from[k]);
        let near = hull(s.flows.row(y), hull(s.flows.row(y - 1), s.flows.row(y + 1)));
        for paint in paints.iter_mut() {
            let shares = (CREEPS * paint.in_water.creeps, paint.in_water.rolls);
            cross_in_place(paint, &down, y, WIDE, shares, &s.held, &near);
            if y > worked.start {
                let Swimming { swims, sideways, above, crosses, .. } = paint;
                // Rounding alone can go under nought.
                left_in_place(
                    fours_in_place(&mut **swims, before),
                    own.clone(),
                    [sideways, above],
                    crosses,
                    none,
                );
            }
            if last {
                continue;
            }
            std::mem::swap(&mut paint.above, &mut paint.crosses);
            cross_in_place(paint, &across, y, 1, shares, &s.held, &near);
            between_in_place(&paint.crosses, own_now.clone(), &mut paint.sideways);
        }
    }
}

/// How strong a paint is in what each cell held; nothing where nothing is wet.
fn strengths_in_place(s: &Scratch, paint: &mut Swimming) {
    s.wets.clear_outside_in_place(&s.by_wets, [&mut paint.strength[..]]);
    for y in s.wets.rows(1..HIGH - 1) {
        let from = y * WIDE;
        let (held, inside) = (fours(&s.held, from), fours(&s.inside, from));
        let swims = fours(&*paint.swims, from);
        let out = fours_in_place(&mut *paint.strength, from);
        let mut in_water = |k: usize, carries: Lanes| {
            let strength = Lanes::from(swims[k]) / larger(carries, all(1e-3));
            out[k] = where_greater(carries, all(0.0), strength, all(0.0)).to_array();
        };
        let flows = s.flows.row(y);
        // Where only the paper is wet, its water carries.
        for k in outside(&s.wets.row(y), &flows).into_iter().flatten() {
            in_water(k, Lanes::from(inside[k]));
        }
        walk!(k in flows, whole 0..ACROSS, {
            let held = Lanes::from(held[k]);
            in_water(k, where_greater(held, all(0.0), held, Lanes::from(inside[k])));
        });
    }
}

/// What the `own` part of a row has left when what came from its sides and from above is in it, and what leaves it below is gone; never less
/// than nothing.
#[inline(always)]
fn left_in_place(
    row: &mut [[f32; LANES]; ACROSS],
    own: Range<usize>,
    [sideways, above]: [&Row; 2],
    below: &Row,
    none: Lanes,
) {
    let (sideways, above, below) = (fours(sideways, 0), fours(above, 0), fours(below, 0));
    walk!(k in shared(&own, &OWN), whole OWN, {
        let comes = Lanes::from(sideways[k]) + (Lanes::from(above[k]) - Lanes::from(below[k]));
        row[k] = larger(Lanes::from(row[k]) + comes, none).to_array();
    });
}

/// What comes to each cell of its `own` part of a row through its left and right face.
#[inline(always)]
fn between_in_place(crosses: &Row, own: Range<usize>, out: &mut Row) {
    let (left, right) = (fours(crosses, 0), fours(crosses, 1));
    let out = fours_in_place(out, 0);
    for k in shared(&own, &OWN) {
        out[k] = (Lanes::from(left[k]) - Lanes::from(right[k])).to_array();
    }
}

/// What each cell held when the pair began, and how much of its outflow it can give.
fn hold_in_place(s: &mut Scratch) {
    let none = nought();
    let fields = [&mut s.held, &mut s.keeps, &mut s.adrift];
    s.flows.clear_outside_in_place(&s.by_flows, fields.map(|field| &mut field[..]));
    for y in s.flows.rows(1..HIGH - 1) {
        let from = y * WIDE;
        // Through the left and right, the upper and lower faces; in the first step and in this one.
        let passed_x = [fours(&s.passed_x, from), fours(&s.passed_x, from + 1)];
        let passed_y = [fours(&s.passed_y, from), fours(&s.passed_y, from + WIDE)];
        let flux_x = [fours(&s.flux_x, from), fours(&s.flux_x, from + 1)];
        let flux_y = [fours(&s.flux_y, from), fours(&s.flux_y, from + WIDE)];
        let (on, film) = (fours(&s.on, from), fours(&s.film, from));
        let (holds, keeps) = (fours_in_place(&mut s.held, from), fours_in_place(&mut s.keeps, from));
        let adrift = fours_in_place(&mut s.adrift, from);
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let two = |of: [&[[f32; LANES]; ACROSS]; 2]| of.map(|row| Lanes::from(row[k]));
            let ([left, right], [upper, lower]) = (two(passed_x), two(passed_y));
            let ([q_left, q_right], [q_upper, q_lower]) = (two(flux_x), two(flux_y));
            let on = Lanes::from(on[k]);
            let began = on - ((left - right) + (upper - lower));
            let held = where_greater(on, none, larger(began, all(0.25) * on), none);
            let leaves = |before: Lanes, behind: Lanes| larger(behind, none) - smaller(before, none);
            let out = (leaves(left, right) + leaves(upper, lower))
                + (leaves(q_left, q_right) + leaves(q_upper, q_lower));
            let film = Lanes::from(film[k]);
            let square = film * film;
            let most = all(HOLDS) * held;
            let (left, free) = (most - out, larger(all(LEAVES) * held, all(1e-12)));
            holds[k] = held.to_array();
            // A cell that gives little gives all that it is asked for, and lets all drift.
            if left.simd_ge(free).all() {
                keeps[k] = [1.0; LANES];
                adrift[k] = (held * square / (square + all(DRIFTS))).to_array();
                continue;
            }
            let free = smaller(larger(left / free, none), all(1.0));
            keeps[k] = smaller(most / larger(out, all(1e-12)), all(1.0)).to_array();
            adrift[k] = (held * square / (square + all(DRIFTS)) * free).to_array();
        });
    }
}

/// A row of faces, between cells and those `back` before them.
struct Line<'a, const LEFT: bool> {
    s: &'a Scratch,
    paper: &'a PaperTile,
    pace: &'a Pace,
    none: Lanes,
    rolls: bool,
    y: usize,
    back: usize,
    drift: Between<'a, 4, LEFT>,
}

impl<const LEFT: bool> Line<'_, LEFT> {
    /// What crosses the faces towards the cells before them.
    #[inline(always)]
    fn faces_in_place(&self, out: &mut Faces) {
        let (wets, flows) = (out.wets.clone(), out.flows.clone());
        // Nothing comes to the last cell from beyond.
        if let Some(beyond) = fours_in_place(&mut out.soaks, 0).get_mut(wets.end) {
            *beyond = [0.0; LANES];
        }
        out.creeps = 0;
        out.has = self.part_in_place::<true>(flows.clone(), out);
        for part in outside(&wets, &flows).into_iter().filter(|part| !part.is_empty()) {
            self.part_in_place::<false>(part, out);
        }
    }

    /// The same for a part of them; what it has of the second order, of rolling. Without a `FILM` nearby nothing moves but the paper's water.
    #[inline(always)]
    fn part_in_place<const FILM: bool>(&self, part: Range<usize>, out: &mut Faces) -> [bool; 2] {
        let Line { s, paper, pace, none, rolls, y, back, drift } = *self;
        let (passed, flux, speeds) =
            if back == 1 { (&s.passed_x, &s.flux_x, &s.u) } else { (&s.passed_y, &s.flux_y, &s.v) };
        let here = y * WIDE;
        let (passed, flux, speeds) =
            (fours(&passed[..], here), fours(&flux[..], here), fours(&speeds[..], here));
        let held = two_of(&s.held, here, back);
        let (adrift, keeps) = (two_of(&s.adrift, here, back), two_of(&s.keeps, here, back));
        let (on, inside) = (two_of(&s.on, here, back), two_of(&s.inside, here, back));
        let (full, room) = (two_of(&s.full, here, back), two_of(&paper.room, here, back));
        let head = two_of(&paper.head, here, back);
        let (mut sloped, mut rolled) = (none, none);
        let [before, behind] = [&mut out.before, &mut out.behind].map(|row| fours_in_place(row, 0));
        let [slope_before, slope_behind] =
            [&mut out.slope_before, &mut out.slope_behind].map(|row| fours_in_place(row, 0));
        let [rolls_before, rolls_behind] =
            [&mut out.rolls_before, &mut out.rolls_behind].map(|row| fours_in_place(row, 0));
        let [creeps_before, creeps_behind] =
            [&mut out.creeps_before, &mut out.creeps_behind].map(|row| fours_in_place(row, 0));
        let (soaked, creeping) = (fours_in_place(&mut out.soaks, 0), &mut out.creeps);
        walk!(k in shared(&part, &FACES), whole FACES, {
            let both = |of: [&[[f32; LANES]; ACROSS]; 2]| of.map(|row| Lanes::from(row[k]));
            if FILM {
                let [held_j, held_i] = both(held);
                let [adrift_j, adrift_i] = both(adrift);
                let [keeps_j, keeps_i] = both(keeps);
                let drifts = drift.four(k) * smaller(adrift_j, adrift_i);
                let whole = Lanes::from(passed[k]) + Lanes::from(flux[k]) + drifts;
                let forth = larger(whole, none) * keeps_j;
                let mixes = all(pace.mixes) * smaller(held_j, held_i);
                let back_ = smaller(whole, none) * keeps_i;
                before[k] = (forth + mixes).to_array();
                behind[k] = (back_ - mixes).to_array();
                let corrects = larger(all(0.5) - Lanes::from(speeds[k]).abs(), none);
                let corrects = where_greater(whole.abs(), all(SLIGHT_UM), corrects, none);
                let (sloped_before, sloped_behind) = (forth * corrects, back_ * corrects);
                sloped += sloped_before - sloped_behind;
                slope_before[k] = sloped_before.to_array();
                slope_behind[k] = sloped_behind.to_array();
                if rolls {
                    // Heights of the paper: the head takes a share of them.
                    let [head_j, head_i] = both(head);
                    let fall = (head_j - head_i) * all(1.0 / 0.15);
                    let wet = smaller(held_j, held_i).simd_gt(none);
                    let share =
                        smaller(larger(all(pace.rolls) * fall, all(-pace.rolls_most)), all(pace.rolls_most));
                    let share = wet.bitselect(share, none);
                    rolled += share.abs();
                    rolls_before[k] = larger(share, none).to_array();
                    rolls_behind[k] = smaller(share, none).to_array();
                }
            }
            let [full_j, full_i] = both(full);
            let [room_j, room_i] = both(room);
            let mean = all(0.5) * (full_j + full_i);
            let soaks = all(pace.soaks)
                * (all(DRY_SOAKS) + all(1.0 - DRY_SOAKS) * mean * mean)
                * smaller(room_j, room_i)
                * (full_j - full_i);
            soaked[k] = soaks.to_array();
            // Beyond the film paint goes with the paper's water; from under a film, with its share.
            let ([on_j, on_i], [inside_j, inside_i]) = (both(on), both(inside));
            let film_both = smaller(on_j, on_i).simd_gt(none);
            if FILM && film_both.all() {
                continue;
            }
            let (crept_before, crept_behind) = if !FILM {
                (larger(soaks, none), smaller(soaks, none))
            } else {
                let creeps = |on: Lanes, inside: Lanes, flow: Lanes| {
                    let share = where_greater(on, none, on / larger(on + inside, all(1e-3)), all(1.0));
                    film_both.bitselect(none, flow * share)
                };
                (creeps(on_j, inside_j, larger(soaks, none)), creeps(on_i, inside_i, smaller(soaks, none)))
            };
            *creeping |= 1 << k;
            creeps_before[k] = crept_before.to_array();
            creeps_behind[k] = crept_behind.to_array();
        });
        let any = |sum: Lanes| sum.to_array().iter().any(|v| *v > 0.0);
        [FILM && any(sloped), FILM && rolls && any(rolled)]
    }
}

/// The cells before the faces of a row, `back` from those behind them, and these.
#[inline(always)]
fn two_of(values: &[f32], here: usize, back: usize) -> [&[[f32; LANES]; ACROSS]; 2] {
    [fours(values, here - back), fours(values, here)]
}

/// Slope of a paint's strength at a cell, the harmonic mean of its two differences where they agree.
#[inline(always)]
fn slope(before: Lanes, here: Lanes, behind: Lanes) -> Lanes {
    let (a, b) = (here - before, behind - here);
    let product = a * b;
    where_greater(product, all(0.0), all(2.0) * product / (a + b), all(0.0))
}

/// Slopes of a paint's strength at some cells of a row, towards the cells `back` before them; behind four places that are not asked for.
#[inline(always)]
fn slopes_in_place(strength: &[f32], y: usize, back: usize, span: Range<usize>, out: &mut Row) {
    let here = y * WIDE;
    let [before, middle, behind] = [here - back, here, here + back].map(|from| fours(strength, from));
    let out = fours_in_place(out, LANES);
    for k in shared(&(0..ACROSS), &span) {
        let four = slope(Lanes::from(before[k]), Lanes::from(middle[k]), Lanes::from(behind[k]));
        out[k] = four.to_array();
    }
}

/// How much of a paint crosses the faces of a row. `near`: where water stands in it and in those beside it.
#[inline(always)]
fn cross_in_place(
    paint: &mut Swimming,
    faces: &Faces,
    y: usize,
    back: usize,
    (creeps, rolling): (f32, f32),
    held: &[f32],
    near: &Range<usize>,
) {
    let Swimming { strength, crosses, falls, falls_at, slopes, .. } = paint;
    let strength = &strength[..];
    let here = y * WIDE;
    // Before the face and behind it.
    let cells = [here - back, here].map(|from| fours(strength, from));
    let held = [here - back, here].map(|from| fours(held, from));
    let row = |values| fours(values, 0);
    let (before, behind) = (row(&faces.before), row(&faces.behind));
    let out = fours_in_place(&mut **crosses, 0);
    let of = |k: usize, c: usize| Lanes::from(cells[c][k]);
    let (flows, wets) = (shared(&faces.flows, &FACES), shared(&faces.wets, &FACES));
    // Nothing comes to the last cell from beyond.
    let beyond = wets.end..FACES.end.min(wets.end + 1);
    outside(&wets, &flows).into_iter().chain(once(beyond)).flatten().for_each(|k| out[k] = [0.0; LANES]);
    if faces.has[0] {
        let [ups, downs] = if back == 1 {
            slopes_in_place(strength, y, 1, flows.start - 1..flows.end, slopes);
            [fours(&**slopes, LANES - 1), fours(&**slopes, LANES)]
        } else {
            std::mem::swap(slopes, falls);
            if falls_at.0 != y - 1 || hull(falls_at.1.clone(), flows.clone()) != falls_at.1 {
                slopes_in_place(strength, y - 1, WIDE, flows.clone(), slopes);
            }
            slopes_in_place(strength, y, WIDE, near.clone(), falls);
            *falls_at = (y, near.clone());
            [fours(&**slopes, LANES), fours(&**falls, LANES)]
        };
        let (slope_before, slope_behind) = (row(&faces.slope_before), row(&faces.slope_behind));
        walk!(k in flows.clone(), whole FACES, {
            let (j, i) = (of(k, 0), of(k, 1));
            let up = smaller(Lanes::from(ups[k]), all(STEEP) * j);
            let down = larger(Lanes::from(downs[k]), all(-STEEP) * i);
            let more = Lanes::from(slope_before[k]) * up - Lanes::from(slope_behind[k]) * down;
            out[k] = (j * Lanes::from(before[k]) + i * Lanes::from(behind[k]) + more).to_array();
        });
    } else {
        walk!(k in flows.clone(), whole FACES, {
            out[k] = (of(k, 0) * Lanes::from(before[k]) + of(k, 1) * Lanes::from(behind[k])).to_array();
        });
    }
    if faces.has[1] {
        let (before, behind) = (row(&faces.rolls_before), row(&faces.rolls_behind));
        walk!(k in flows, whole FACES, {
            let (q_j, q_i) = (of(k, 0) * Lanes::from(held[0][k]), of(k, 1) * Lanes::from(held[1][k]));
            let more = all(rolling) * (q_j * Lanes::from(before[k]) + q_i * Lanes::from(behind[k]));
            out[k] = (Lanes::from(out[k]) + more).to_array();
        });
    }
    if faces.creeps != 0 {
        let (before, behind) = (row(&faces.creeps_before), row(&faces.creeps_behind));
        for k in wets.filter(|k| faces.creeps & 1 << k != 0) {
            let goes = of(k, 0) * Lanes::from(before[k]) + of(k, 1) * Lanes::from(behind[k]);
            out[k] = (Lanes::from(out[k]) + all(creeps) * goes).to_array();
        }
    }
}
