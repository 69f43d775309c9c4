//! Paint goes with the sum of two steps' water, against what each cell held when the pair began; it drifts, mixes, rolls into hollows,
//! and creeps with the water in the paper. Water spreads in the paper by the same turn.

use std::iter::once;
use std::ops::Range;

use super::faces::{FACES, Faces, Line, Row};
use super::spans::{hull, outside, shared, walk};
use super::{ACROSS, Field, HIGH, MARGIN_Y, OWN, Pace, Scratch, Spans, WIDE, packs, packs_in_place};
use crate::medium::wash::paper::PaperTile;
use crate::medium::wash::pigments::InWater;
use crate::packs::{Lanes, Machine, PACK, Pack, larger, smaller, where_greater};

/// A pair of steps takes at most this share of what a cell held.
const HOLDS: f32 = 0.86;
/// Film at which drift is half of its most, squared, µm².
const DRIFTS: f32 = 3600.0;
/// Drift ends over this share of what flow leaves.
const LEAVES: f32 = 0.24;
/// So much of what a cell held is kept for stirring, once drift has its share.
const STIRS: f32 = 0.24;
/// Second order brings at most this share of what is there.
const STEEP: f32 = 0.2;
/// Share of the paint that goes with water in the paper.
const CREEPS: f32 = 0.25;

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
    /// How the strength falls down the columns at the cells of a row, behind a pack that is not asked for; which row that is, and where it is known.
    falls: Box<Row>,
    falls_at: (usize, Range<usize>),
    /// Slopes at the cells before the faces that are worked.
    slopes: Box<Row>,
}

impl Swimming {
    pub fn new(in_water: InWater) -> Self {
        let row = || Box::new(Row::NOTHING);
        Self {
            in_water,
            swims: Box::new(Field::NOTHING),
            strength: Box::new(Field::NOTHING),
            sideways: row(),
            above: row(),
            crosses: row(),
            falls: row(),
            falls_at: (0, 0..0),
            slopes: row(),
        }
    }
}

/// Carries the paint of a gathered tile for a pair of steps, in place, and lets water spread in the paper. `rolls`: paint rolls in this pair.
/// Where no film stands nearby only the paper's water moves, and what creeps with it.
#[inline(never)]
pub fn carry_in_place(
    m: impl Machine,
    s: &mut Scratch,
    paper: &PaperTile,
    pace: &Pace,
    rolls: bool,
    paints: &mut [Swimming],
) {
    m.run(
        #[inline(always)]
        move || carry_on(m, s, paper, *pace, rolls, paints),
    );
}

#[inline(always)]
fn carry_on(
    m: impl Machine,
    s: &mut Scratch,
    paper: &PaperTile,
    pace: Pace,
    rolls: bool,
    paints: &mut [Swimming],
) {
    s.fill_paper_in_place(m, paper);
    s.wets.clear_outside_in_place(&s.by_wets, [&mut s.in_after[..]]);
    hold_in_place(m, s);
    for paint in paints.iter_mut() {
        paint.falls_at = (0, 0..0);
        strengths_in_place(m, s, paint);
    }
    let none = m.nought();
    let (mut across, mut down) = (Faces::default(), Faces::default());
    let (mut soaks_sideways, mut soaks_above) = (Row::NOTHING, Row::NOTHING);
    // A row on which nothing is wet, nor on those beside it, is crossed by nothing.
    let worked = s.wets.rows(MARGIN_Y..HIGH - MARGIN_Y);
    if worked.is_empty() {
        return;
    }
    for y in worked.start..=worked.end {
        let before = (y - 1) * WIDE;
        let above = |spans: &Spans| shared(&hull(spans.row(y - 1), spans.row(y)), &FACES);
        (down.wets, down.flows) = (above(&s.wets), above(&s.flows));
        Line { m, s, paper, pace: &pace, none, rolls, y, back: WIDE, drift: s.drift_y.row(m, y) }
            .faces_in_place(&mut down);
        let last = y == worked.end;
        if !last {
            (across.wets, across.flows) = (shared(&s.wets.row(y), &FACES), shared(&s.flows.row(y), &FACES));
            Line { m, s, paper, pace: &pace, none, rolls, y, back: 1, drift: s.drift_x.row(m, y) }
                .faces_in_place(&mut across);
        }
        let own = shared(&s.wets.row(y - 1), &OWN);
        // What the row before has left of the paper's water, and of each paint.
        if y > worked.start {
            let after = packs_in_place(&mut s.in_after, before);
            after.copy_from_slice(packs(&s.inside, before));
            left_in_place(m, after, own.clone(), [&soaks_sideways, &soaks_above], &down.soaks, none);
        }
        let own_now = shared(&s.wets.row(y), &OWN);
        between_in_place(m, &across.soaks, own_now.clone(), &mut soaks_sideways);
        let (from, to) = (packs(&down.soaks, 0), packs_in_place(&mut soaks_above, 0));
        own_now.clone().for_each(|k| to[k] = from[k]);
        let near = hull(s.flows.row(y), hull(s.flows.row(y - 1), s.flows.row(y + 1)));
        for paint in paints.iter_mut() {
            let shares = (CREEPS * paint.in_water.creeps, paint.in_water.rolls);
            cross_in_place(m, paint, &down, [y, WIDE], shares, &s.held, &near);
            if y > worked.start {
                let Swimming { swims, sideways, above, crosses, .. } = paint;
                // Rounding alone can go under nought.
                let row = packs_in_place(swims, before);
                left_in_place(m, row, own.clone(), [sideways, above], crosses, none);
            }
            if last {
                continue;
            }
            std::mem::swap(&mut paint.above, &mut paint.crosses);
            cross_in_place(m, paint, &across, [y, 1], shares, &s.held, &near);
            between_in_place(m, &paint.crosses, own_now.clone(), &mut paint.sideways);
        }
    }
}

/// How strong a paint is in what each cell held; nothing where nothing is wet.
#[inline(always)]
fn strengths_in_place<M: Machine>(m: M, s: &Scratch, paint: &mut Swimming) {
    s.wets.clear_outside_in_place(&s.by_wets, [&mut paint.strength[..]]);
    for y in s.wets.rows(1..HIGH - 1) {
        let from = y * WIDE;
        let (held, inside) = (packs(&s.held, from), packs(&s.inside, from));
        let swims = packs(&paint.swims, from);
        let out = packs_in_place(&mut paint.strength, from);
        let mut in_water = |k: usize, carries: M::Pack| {
            let strength = m.of(swims[k]) / larger(carries, m.all(1e-3));
            out[k] = where_greater(carries, m.all(0.0), strength, m.all(0.0)).to_array();
        };
        let flows = s.flows.row(y);
        // Where only the paper is wet, its water carries.
        for k in outside(&s.wets.row(y), &flows).into_iter().flatten() {
            in_water(k, m.of(inside[k]));
        }
        walk!(k in flows, whole 0..ACROSS, {
            let held = m.of(held[k]);
            in_water(k, where_greater(held, m.all(0.0), held, m.of(inside[k])));
        });
    }
}

/// What the `own` part of a row has left when what came from its sides and from above is in it, and what leaves it below is gone; never less
/// than nothing.
#[inline(always)]
fn left_in_place<M: Machine>(
    m: M,
    row: &mut [[f32; PACK]; ACROSS],
    own: Range<usize>,
    [sideways, above]: [&Row; 2],
    below: &Row,
    none: M::Pack,
) {
    let (sideways, above, below) = (packs(sideways, 0), packs(above, 0), packs(below, 0));
    walk!(k in shared(&own, &OWN), whole OWN, {
        let comes = m.of(sideways[k]) + (m.of(above[k]) - m.of(below[k]));
        row[k] = larger(m.of(row[k]) + comes, none).to_array();
    });
}

/// What comes to each cell of its `own` part of a row through its left and right face.
#[inline(always)]
fn between_in_place(m: impl Machine, crosses: &Row, own: Range<usize>, out: &mut Row) {
    let (left, right) = (packs(crosses, 0), packs(crosses, 1));
    let out = packs_in_place(out, 0);
    for k in shared(&own, &OWN) {
        out[k] = (m.of(left[k]) - m.of(right[k])).to_array();
    }
}

/// What each cell held when the pair began, and how much of its outflow it can give.
#[inline(always)]
fn hold_in_place<M: Machine>(m: M, s: &mut Scratch) {
    let none = m.nought();
    let fields = [&mut s.held, &mut s.keeps, &mut s.adrift, &mut s.stirred];
    s.flows.clear_outside_in_place(&s.by_flows, fields.map(|field| &mut field[..]));
    s.stirs_at = [false; HIGH];
    for y in s.flows.rows(1..HIGH - 1) {
        let from = y * WIDE;
        let stirs = s.stirs.row(m, y);
        let stirs_any = stirs.is_any();
        s.stirs_at[y] = stirs_any;
        // Through the left and right, the upper and lower faces; in the first step and in this one.
        let passed_x = [packs(&s.passed_x, from), packs(&s.passed_x, from + 1)];
        let passed_y = [packs(&s.passed_y, from), packs(&s.passed_y, from + WIDE)];
        let flux_x = [packs(&s.flux_x, from), packs(&s.flux_x, from + 1)];
        let flux_y = [packs(&s.flux_y, from), packs(&s.flux_y, from + WIDE)];
        let (on, film) = (packs(&s.on, from), packs(&s.film, from));
        let (holds, keeps) = (packs_in_place(&mut s.held, from), packs_in_place(&mut s.keeps, from));
        let adrift = packs_in_place(&mut s.adrift, from);
        let stirred = packs_in_place(&mut s.stirred, from);
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let two = |of: [&[[f32; PACK]; ACROSS]; 2]| of.map(|row| m.of(row[k]));
            let ([left, right], [upper, lower]) = (two(passed_x), two(passed_y));
            let ([q_left, q_right], [q_upper, q_lower]) = (two(flux_x), two(flux_y));
            let on = m.of(on[k]);
            let began = on - ((left - right) + (upper - lower));
            let held = where_greater(on, none, larger(began, m.all(0.25) * on), none);
            let leaves = |before: M::Pack, behind: M::Pack| larger(behind, none) - smaller(before, none);
            let out = (leaves(left, right) + leaves(upper, lower))
                + (leaves(q_left, q_right) + leaves(q_upper, q_lower));
            let film = m.of(film[k]);
            let square = film * film;
            let most = m.all(HOLDS) * held;
            let (left, free) = (most - out, larger(m.all(LEAVES) * held, m.all(1e-12)));
            holds[k] = held.to_array();
            let drifts = held * square / (square + m.all(DRIFTS));
            if stirs_any {
                let rest = (left - free) / larger(m.all(STIRS) * held, m.all(1e-12));
                let rest = smaller(larger(rest, none), m.all(1.0));
                stirred[k] = (drifts * rest * stirs.pack(k)).to_array();
            }
            // A cell that gives little gives all that it is asked for, and lets all drift.
            if left.ge(free).is_all() {
                keeps[k] = [1.0; PACK];
                adrift[k] = drifts.to_array();
                continue;
            }
            let free = smaller(larger(left / free, none), m.all(1.0));
            keeps[k] = smaller(most / larger(out, m.all(1e-12)), m.all(1.0)).to_array();
            adrift[k] = (drifts * free).to_array();
        });
    }
}

/// Slope of a paint's strength at a cell, the harmonic mean of its two differences where they agree.
#[inline(always)]
fn slope<M: Machine>(m: M, before: M::Pack, here: M::Pack, behind: M::Pack) -> M::Pack {
    let (a, b) = (here - before, behind - here);
    let product = a * b;
    where_greater(product, m.all(0.0), m.all(2.0) * product / (a + b), m.all(0.0))
}

/// Slopes of a paint's strength at some cells of a row, towards the cells `back` before them; behind a pack that is not asked for.
#[inline(always)]
fn slopes_in_place(
    m: impl Machine,
    strength: &[f32],
    y: usize,
    back: usize,
    span: Range<usize>,
    out: &mut Row,
) {
    let here = y * WIDE;
    let [before, middle, behind] = [here - back, here, here + back].map(|from| packs(strength, from));
    let out = packs_in_place(out, PACK);
    for k in shared(&(0..ACROSS), &span) {
        out[k] = slope(m, m.of(before[k]), m.of(middle[k]), m.of(behind[k])).to_array();
    }
}

/// How much of a paint crosses the faces of a row. `near`: where water stands in it and in those beside it.
#[inline(always)]
fn cross_in_place(
    m: impl Machine,
    paint: &mut Swimming,
    faces: &Faces,
    [y, back]: [usize; 2],
    (creeps, rolling): (f32, f32),
    held: &[f32],
    near: &Range<usize>,
) {
    let Swimming { strength, crosses, falls, falls_at, slopes, .. } = paint;
    let strength = &strength[..];
    let here = y * WIDE;
    // Before the face and behind it.
    let cells = [here - back, here].map(|from| packs(strength, from));
    let held = [here - back, here].map(|from| packs(held, from));
    let row = |values| packs(values, 0);
    let (before, behind) = (row(&faces.before), row(&faces.behind));
    let out = packs_in_place(crosses, 0);
    let of = |k: usize, c: usize| m.of(cells[c][k]);
    let (flows, wets) = (shared(&faces.flows, &FACES), shared(&faces.wets, &FACES));
    // Nothing comes to the last cell from beyond.
    let beyond = wets.end..FACES.end.min(wets.end + 1);
    outside(&wets, &flows).into_iter().chain(once(beyond)).flatten().for_each(|k| out[k] = [0.0; PACK]);
    if faces.has[0] {
        let [ups, downs] = if back == 1 {
            slopes_in_place(m, strength, y, 1, flows.start - 1..flows.end, slopes);
            [packs(slopes, PACK - 1), packs(slopes, PACK)]
        } else {
            std::mem::swap(slopes, falls);
            if falls_at.0 != y - 1 || hull(falls_at.1.clone(), flows.clone()) != falls_at.1 {
                slopes_in_place(m, strength, y - 1, WIDE, flows.clone(), slopes);
            }
            slopes_in_place(m, strength, y, WIDE, near.clone(), falls);
            *falls_at = (y, near.clone());
            [packs(slopes, PACK), packs(falls, PACK)]
        };
        let (slope_before, slope_behind) = (row(&faces.slope_before), row(&faces.slope_behind));
        walk!(k in flows.clone(), whole FACES, {
            let (j, i) = (of(k, 0), of(k, 1));
            let up = smaller(m.of(ups[k]), m.all(STEEP) * j);
            let down = larger(m.of(downs[k]), m.all(-STEEP) * i);
            let more = m.of(slope_before[k]) * up - m.of(slope_behind[k]) * down;
            out[k] = (j * m.of(before[k]) + i * m.of(behind[k]) + more).to_array();
        });
    } else {
        walk!(k in flows.clone(), whole FACES, {
            out[k] = (of(k, 0) * m.of(before[k]) + of(k, 1) * m.of(behind[k])).to_array();
        });
    }
    if faces.has[1] {
        let (before, behind) = (row(&faces.rolls_before), row(&faces.rolls_behind));
        walk!(k in flows, whole FACES, {
            let (q_j, q_i) = (of(k, 0) * m.of(held[0][k]), of(k, 1) * m.of(held[1][k]));
            let more = m.all(rolling) * (q_j * m.of(before[k]) + q_i * m.of(behind[k]));
            out[k] = (m.of(out[k]) + more).to_array();
        });
    }
    if faces.creeps != 0 {
        let (before, behind) = (row(&faces.creeps_before), row(&faces.creeps_behind));
        for k in wets.filter(|k| faces.creeps & 1 << k != 0) {
            let goes = of(k, 0) * m.of(before[k]) + of(k, 1) * m.of(behind[k]);
            out[k] = (m.of(out[k]) + m.all(creeps) * goes).to_array();
        }
    }
}
