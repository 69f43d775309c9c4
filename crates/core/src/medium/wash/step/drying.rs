//! What dries: water leaves for the air and into the paper, a film that is too thin is gone.

use super::spans::{outside, shared};
use super::{MARGIN_X, MARGIN_Y, OWN, Pace, Scratch, Swimming, WIDE, at, full, put};
use crate::lanes::{LANES, Lanes, all, larger, nought, smaller, where_greater};
use crate::medium::wash::paper::PaperTile;
use crate::medium::wash::resist;
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
pub fn dry_in_place(
    s: &mut Scratch,
    paper: &PaperTile,
    pace: &Pace,
    air: Air,
    paints: &[Swimming],
    resist: Option<&mut [f32]>,
) {
    let pair = 2.0 * pace.dt;
    dry_damp_in_place(s, paper, pace, air);
    let none = nought();
    for y in s.flows.rows(MARGIN_Y..MARGIN_Y + TILE) {
        let span = shared(&s.flows.row(y), &OWN);
        let humid = s.humid.row(y);
        for k in span {
            let i = y * WIDE + k * LANES;
            let (on, inside, fill) = (at(&s.on_after, i), at(&s.in_after, i), at(&s.fill_after, i));
            let room = at(&paper.room, i);
            let full = full(inside, room);
            let dry = if air.even { none } else { larger(all(1.0) - humid.four(k), none) };
            let air_takes = all(EVAPORATES * air.takes * pair) * fill * (all(1.0) + all(DRY_AIR) * dry);
            let drunk = smaller(
                all(DRINKS * paper.drinks * pair) * fill * (all(1.0) - full),
                larger(room - inside, none),
            );
            let drunk = smaller(drunk, on);
            let left = larger(on - drunk - air_takes, none);
            let wet = on.simd_gt(none);
            let inside = wet.bitselect(inside + drunk, larger(inside - bare(full, air, pair), none));
            // What is too thin to hold together goes into the paper, as far as it has room.
            let breaks = all(BREAKS_UM) * fill;
            let gone = wet & breaks.simd_gt(left);
            let taken = smaller(left, larger(room - inside, none));
            let inside = gone.bitselect(inside + taken, inside);
            let left = gone.bitselect(none, left);
            let fill = where_greater(left, none, fill, none);
            let mut strength = none;
            for paint in paints {
                strength += all(paint.in_water.spreads) * at(&*paint.swims, i);
            }
            let strength = strength / larger(left, all(1e-3));
            let push = all(PUSH_UM) * strength / (strength + all(PUSH_STRENGTH));
            put(&mut s.on_after, i, left);
            put(&mut s.in_after, i, inside);
            put(&mut s.fill_after, i, fill);
            put(&mut s.push, i, where_greater(left, none, push, none));
        }
    }
    if let Some(resist) = resist {
        driven_off_in_place(s, pair, resist);
    }
}

/// What [`dry_in_place`] does where no film stands nearby: the air takes of what is in the paper. Nothing stands on it afterwards either.
pub fn dry_damp_in_place(s: &mut Scratch, paper: &PaperTile, pace: &Pace, air: Air) {
    let (pair, none) = (2.0 * pace.dt, nought());
    for y in s.wets.rows(MARGIN_Y..MARGIN_Y + TILE) {
        for part in outside(&shared(&s.wets.row(y), &OWN), &s.flows.row(y)) {
            for x in part.map(|k| k * LANES) {
                let i = y * WIDE + x;
                let inside = at(&s.in_after, i);
                let bare = bare(full(inside, at(&paper.room, i)), air, pair);
                put(&mut s.in_after, i, larger(inside - bare, none));
            }
        }
    }
}

/// What the air takes out of bare paper in some seconds.
#[inline(always)]
fn bare(full: Lanes, air: Air, seconds: f32) -> Lanes {
    all(DRIES * air.takes * seconds) * (all(0.1) + all(0.9) * full)
}

/// Salt and spirit push the water that stands over them, and salt drinks of it.
fn driven_off_in_place(s: &mut Scratch, seconds: f32, resist: &mut [f32]) {
    let rows = s.flows.rows(MARGIN_Y..MARGIN_Y + TILE).map(|y| (y, shared(&s.flows.row(y), &OWN)));
    for (y, x) in rows.flat_map(|(y, span)| (span.start * LANES..span.end * LANES).map(move |x| (y, x))) {
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
