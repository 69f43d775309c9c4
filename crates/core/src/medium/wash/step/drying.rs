//! What dries: water leaves for the air and into the paper, a film that is too thin is gone.

use super::spans::{outside, shared};
use super::{MARGIN_X, MARGIN_Y, OWN, Pace, Scratch, Swimming, WIDE, at, full, put};
use crate::medium::wash::paper::PaperTile;
use crate::medium::wash::resist;
use crate::packs::{Lanes, Machine, PACK, Pack, larger, smaller, where_greater};
use crate::sheet::TILE;

/// What the air takes of a film in humid and, more, in dry air, µm/s.
const EVAPORATES: f32 = 1.5;
const DRY_AIR: f32 = 14.0;
/// What dry paper drinks of a film, µm/s, and what the air takes out of bare damp paper.
const DRINKS: f32 = 0.8;
const DRIES: f32 = 1.0;
/// A film thinner than this over what it covers is gone, µm.
const BREAKS_UM: f32 = 0.125;
/// Most push of strong paint, µm, and the strength at which it is half of that.
const PUSH_UM: f32 = 40.0;
const PUSH_STRENGTH: f32 = 0.02;

/// How the air takes water.
#[derive(Debug, Clone, Copy)]
pub struct Air {
    /// Times what it takes in the study's room.
    pub takes: f32,
    /// Every place dries alike: no faster at the edge (a control).
    pub even: bool,
}

impl Default for Air {
    fn default() -> Self {
        Self { takes: 1.0, even: false }
    }
}

/// Lets a gathered tile dry for a pair of steps, after its flow.
#[inline(never)]
pub fn dry_in_place(
    m: impl Machine,
    s: &mut Scratch,
    paper: &PaperTile,
    pace: &Pace,
    air: Air,
    paints: &[Swimming],
    resist: Option<&mut [f32]>,
) {
    let pair = pace.dries_s;
    m.run(
        #[inline(always)]
        || {
            dry_damp_on(m, s, paper, pair, air);
            dry_films_on(m, s, paper, pair, air, paints);
        },
    );
    if let Some(resist) = resist {
        driven_off_in_place(s, pair, resist);
    }
}

#[inline(always)]
fn dry_films_on(
    m: impl Machine,
    s: &mut Scratch,
    paper: &PaperTile,
    pair: f32,
    air: Air,
    paints: &[Swimming],
) {
    let none = m.nought();
    for y in s.flows.rows(MARGIN_Y..MARGIN_Y + TILE) {
        let span = shared(&s.flows.row(y), &OWN);
        let humid = s.humid.row(m, y);
        for k in span {
            let i = y * WIDE + k * PACK;
            let (on, inside, fill) = (at(m, &s.on_after, i), at(m, &s.in_after, i), at(m, &s.fill_after, i));
            let room = at(m, &paper.room, i);
            let full = full(m, inside, room);
            let dry = if air.even { none } else { larger(m.all(1.0) - humid.pack(k), none) };
            let air_takes = m.all(EVAPORATES * air.takes * pair) * fill * (m.all(1.0) + m.all(DRY_AIR) * dry);
            let drunk = smaller(
                m.all(DRINKS * paper.drinks * pair) * fill * (m.all(1.0) - full),
                larger(room - inside, none),
            );
            let drunk = smaller(drunk, on);
            let left = larger(on - drunk - air_takes, none);
            let wet = on.gt(none);
            let inside = wet.pick(inside + drunk, larger(inside - bare(m, full, air, pair), none));
            // What is too thin to hold together goes into the paper, as far as it has room.
            let breaks = m.all(BREAKS_UM) * fill;
            let gone = wet & breaks.gt(left);
            let taken = smaller(left, larger(room - inside, none));
            let inside = gone.pick(inside + taken, inside);
            let left = gone.pick(none, left);
            let fill = where_greater(left, none, fill, none);
            let mut strength = none;
            for paint in paints {
                strength += m.all(paint.in_water.spreads) * at(m, &paint.swims, i);
            }
            let strength = strength / larger(left, m.all(1e-3));
            let push = m.all(PUSH_UM) * strength / (strength + m.all(PUSH_STRENGTH));
            put(&mut s.on_after, i, left);
            put(&mut s.in_after, i, inside);
            put(&mut s.fill_after, i, fill);
            put(&mut s.push, i, where_greater(left, none, push, none));
        }
    }
}

/// What [`dry_in_place`] does where no film stands nearby: the air takes of what is in the paper. Nothing stands on it afterwards either.
#[inline(never)]
pub fn dry_damp_in_place(m: impl Machine, s: &mut Scratch, paper: &PaperTile, pace: &Pace, air: Air) {
    let pair = pace.dries_s;
    m.run(
        #[inline(always)]
        move || dry_damp_on(m, s, paper, pair, air),
    );
}

#[inline(always)]
fn dry_damp_on(m: impl Machine, s: &mut Scratch, paper: &PaperTile, pair: f32, air: Air) {
    let none = m.nought();
    for y in s.wets.rows(MARGIN_Y..MARGIN_Y + TILE) {
        for part in outside(&shared(&s.wets.row(y), &OWN), &s.flows.row(y)) {
            for x in part.map(|k| k * PACK) {
                let i = y * WIDE + x;
                let inside = at(m, &s.in_after, i);
                let bare = bare(m, full(m, inside, at(m, &paper.room, i)), air, pair);
                put(&mut s.in_after, i, larger(inside - bare, none));
            }
        }
    }
}

/// What the air takes out of bare paper in some seconds.
#[inline(always)]
fn bare<M: Machine>(m: M, full: M::Pack, air: Air, seconds: f32) -> M::Pack {
    m.all(DRIES * air.takes * seconds) * (m.all(0.1) + m.all(0.9) * full)
}

/// Salt and spirit push the water that stands over them, and salt drinks of it.
fn driven_off_in_place(s: &mut Scratch, seconds: f32, resist: &mut [f32]) {
    let rows = s.flows.rows(MARGIN_Y..MARGIN_Y + TILE).map(|y| (y, shared(&s.flows.row(y), &OWN)));
    for (y, x) in rows.flat_map(|(y, span)| (span.start * PACK..span.end * PACK).map(move |x| (y, x))) {
        let (i, k) = (y * WIDE + x, (y - MARGIN_Y) * TILE + x - MARGIN_X);
        let push = resist::push_um(resist, k);
        if push == 0.0 || s.on_after[i] == 0.0 {
            continue;
        }
        s.push[i] += push;
        let drinks = resist::pass_in_place(resist, k, seconds);
        // What is drunk to the end is gone as a film that breaks is.
        s.on_after[i] = (s.on_after[i] - drinks).max(0.0);
        if s.on_after[i] == 0.0 {
            (s.fill_after[i], s.push[i]) = (0.0, 0.0);
        }
    }
}
