//! Water over the sheet: the head drives it, paper drags on it, a line over dry paper holds until the film behind it is thick enough.

use super::spans::walk;
use super::{ACROSS, HIGH, Pace, Scratch, WIDE, full, packs, packs_in_place};
use crate::medium::wash::paper::{PaperTile, WALL_UM};
use crate::medium::wash::resist::CLOSED;
use crate::packs::{Lanes, Machine, PACK, Pack, larger, smaller, where_greater};

/// Share of the barrier that wet paper takes away, its least, and the least that is left of a line that curves.
const SOAKED: f32 = 0.97;
const LEAST_BARRIER_UM: f32 = 4.0;
/// How much more unevenly damp paper holds a line than dry, where it is full, and the least that is left of it: water that comes back into a wash goes
/// ahead in lobes (tuned by eye).
const CRIMPS: f32 = 3.0;
const LEAST_CRIMPED: f32 = 0.1;
const LEAST_ROUND: f32 = 0.15;
/// Film at which the paint's push is half of its most, squared, µm².
const PUSHES: f32 = 6400.0;
/// A cell gives at most so much of its water in a step, in whatever direction.
const GIVES: f32 = 0.36;
/// Under so much of a limit's square it is not reached, whatever is rounded.
const SURELY: f32 = 0.999;
/// Slower than this is still, cells a step.
const STILL: f32 = 1e-6;

/// One step of water on a gathered tile.
#[inline(never)]
pub fn flow_in_place(m: impl Machine, s: &mut Scratch, paper: &PaperTile, pace: &Pace) {
    m.run(
        #[inline(always)]
        move || flow_on(m, s, paper, *pace),
    );
}

/// `pace` is its own, as elsewhere in a step: what is written meanwhile cannot change it, so that it is read once and not at every pack.
#[inline(always)]
fn flow_on(m: impl Machine, s: &mut Scratch, paper: &PaperTile, pace: Pace) {
    s.clear_flow_in_place();
    heads_in_place(m, s, paper);
    speeds_in_place(m, s, paper, &pace);
    gives_in_place(m, s);
    fluxes_in_place(m, s);
    levels_in_place(m, s);
}

/// What goes through the left and the upper face of every cell.
#[inline(always)]
fn fluxes_in_place<M: Machine>(m: M, s: &mut Scratch) {
    let none = m.nought();
    for y in s.flows.rows(1..HIGH - 1) {
        let from = y * WIDE;
        let goes = |speed: [f32; PACK], before: [f32; PACK], here: M::Pack| {
            let (speed, before) = (m.of(speed), m.of(before));
            larger(speed, none) * before + smaller(speed, none) * here
        };
        let (u, v) = (packs(&s.u, from), packs(&s.v, from));
        let (here, left, upper) =
            (packs(&s.gives, from), packs(&s.gives, from - 1), packs(&s.gives, from - WIDE));
        let (flux_x, flux_y) = (packs_in_place(&mut s.flux_x, from), packs_in_place(&mut s.flux_y, from));
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let here = m.of(here[k]);
            flux_x[k] = goes(u[k], left[k], here).to_array();
            flux_y[k] = goes(v[k], upper[k], here).to_array();
        });
    }
}

/// What stands on every cell after it, and what of the cell it has reached.
#[inline(always)]
fn levels_in_place(m: impl Machine, s: &mut Scratch) {
    let none = m.nought();
    for y in s.flows.rows(2..HIGH - 2) {
        let from = y * WIDE;
        let (left, right) = (packs(&s.flux_x, from), packs(&s.flux_x, from + 1));
        let (upper, lower) = (packs(&s.flux_y, from), packs(&s.flux_y, from + WIDE));
        let (before, fill, barrier) = (packs(&s.on, from), packs(&s.fill, from), packs(&s.barrier, from));
        let (on_after, fill_after) =
            (packs_in_place(&mut s.on_after, from), packs_in_place(&mut s.fill_after, from));
        let whole = &s.whole[y * ACROSS..(y + 1) * ACROSS];
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let across = m.of(left[k]) - m.of(right[k]);
            let down = m.of(upper[k]) - m.of(lower[k]);
            let on = larger(m.of(before[k]) + (across + down), none);
            if whole[k] {
                on_after[k] = on.to_array();
                fill_after[k] = where_greater(on, m.all(0.0), m.all(1.0), m.all(0.0)).to_array();
                continue;
            }
            let reached = smaller(on / m.of(barrier[k]), m.all(1.0));
            let fill = where_greater(on, m.all(0.0), larger(m.of(fill[k]), reached), m.all(0.0));
            on_after[k] = on.to_array();
            fill_after[k] = fill.to_array();
        });
    }
}

/// What every cell gives in a step, whichever way.
#[inline(always)]
fn gives_in_place(m: impl Machine, s: &mut Scratch) {
    let none = m.nought();
    for y in s.flows.rows(1..HIGH - 1) {
        let from = y * WIDE;
        let (left, right) = (packs(&s.u, from), packs(&s.u, from + 1));
        let (upper, lower) = (packs(&s.v, from), packs(&s.v, from + WIDE));
        let on = packs(&s.on, from);
        let gives = packs_in_place(&mut s.gives, from);
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let across = larger(m.of(right[k]), none) - smaller(m.of(left[k]), none);
            let down = larger(m.of(lower[k]), none) - smaller(m.of(upper[k]), none);
            let square = across * across + down * down;
            // Most cells give less than they may: nothing limits them.
            if square.lt(m.all(SURELY * GIVES * GIVES)).is_all() {
                gives[k] = on[k];
                continue;
            }
            let whole = square.sqrt();
            let share = smaller(m.all(GIVES) / larger(whole, m.all(STILL)), m.all(1.0));
            gives[k] = (share * m.of(on[k])).to_array();
        });
    }
}

/// Film, barrier and head of every cell; a barrier only where a line may be held.
#[inline(always)]
fn heads_in_place(m: impl Machine, s: &mut Scratch, paper: &PaperTile) {
    s.whole.fill(false);
    let per_even = 1.0 / paper.even_barrier;
    for y in s.flows.rows(0..HIGH) {
        let (from, round) = (y * WIDE, s.round.row(m, y));
        let (on, fill, inside, push) =
            (packs(&s.on, from), packs(&s.fill, from), packs(&s.inside, from), packs(&s.push, from));
        let mask = packs(&s.mask, from);
        let (room, holds, height) =
            (packs(&paper.room, from), packs(&paper.barrier, from), packs(&paper.head, from));
        let film = packs_in_place(&mut s.film, from);
        let (barrier, head) = (packs_in_place(&mut s.barrier, from), packs_in_place(&mut s.head, from));
        let whole = &mut s.whole[y * ACROSS..(y + 1) * ACROSS];
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let on = m.of(on[k]);
            let wet = on.gt(m.all(0.0));
            whole[k] = !s.masked && (wet & m.of(fill[k]).ge(m.all(1.0))).is_all();
            if whole[k] {
                // All of it is reached by water: it is as thick as it stands, and no line is held.
                let square = on * on;
                let pushed = on + m.of(push[k]) * square / (square + m.all(PUSHES));
                film[k] = on.to_array();
                head[k] = (m.of(height[k]) + pushed).to_array();
                continue;
            }
            let thick = wet.pick(on / larger(m.of(fill[k]), m.all(1e-3)), m.all(0.0));
            let filled = full(m, m.of(inside[k]), m.of(room[k]));
            let curved = larger(m.all(3.0) - m.all(4.0) * round.pack(k), m.all(LEAST_ROUND));
            let holds = m.of(holds[k]);
            let uneven = m.all(CRIMPS) * filled * (holds * m.all(per_even) - m.all(1.0));
            let crimped = larger(m.all(1.0) + uneven, m.all(LEAST_CRIMPED));
            let held = holds * (m.all(1.0) - m.all(SOAKED) * filled) * curved * crimped;
            let mut held = larger(held, m.all(LEAST_BARRIER_UM));
            if s.masked {
                held = where_greater(m.of(mask[k]), m.all(CLOSED), m.all(WALL_UM), held);
            }
            let square = thick * thick;
            let pushed = thick + m.of(push[k]) * square / (square + m.all(PUSHES));
            film[k] = thick.to_array();
            barrier[k] = held.to_array();
            head[k] = (m.of(height[k]) + wet.pick(pushed, held)).to_array();
        });
    }
}

/// What holds a face between two cells.
struct Face<M: Machine> {
    m: M,
    head: [M::Pack; 2],
    film: [M::Pack; 2],
    fill: [M::Pack; 2],
    drag: M::Pack,
}

impl<M: Machine> Face<M> {
    /// Its speed after a step; `whole`: all cells on both sides are wet all over.
    #[inline(always)]
    fn speed(&self, whole: bool, before: M::Pack, slope: f32, pace: &Pace, none: M::Pack) -> M::Pack {
        let m = self.m;
        // If nothing but the paper holds it.
        let pull = m.all(pace.head) * (self.head[0] - self.head[1]) + m.all(slope);
        let mean = m.all(0.5) * (self.film[0] + self.film[1]);
        let square = mean * mean;
        let speed = (before + pull) * square / (square + m.all(pace.drag) * self.drag * self.drag);
        if whole {
            // Nothing closes it: the same to the bit.
            let most = m.all(pace.line) + m.all(pace.wet);
            let speed = larger(smaller(speed, most), -most);
            return speed.abs().ge(m.all(STILL)).pick(speed, m.all(0.0));
        }
        let forth = speed.gt(none);
        let pick = |two: &[M::Pack; 2]| (forth.pick(two[0], two[1]), forth.pick(two[1], two[0]));
        let ((film, film_to), (fill, fill_to)) = (pick(&self.film), pick(&self.fill));
        // A dry cell gives nothing, and takes only what is pulled into it.
        let takes = film_to.gt(none) | (speed * pull).gt(none);
        let flows = film.gt(none) & takes;
        let open = smaller(larger(m.all(2.0) * fill - m.all(1.0), none) + m.all(2.0) * fill_to, m.all(1.0));
        let most = m.all(pace.line) + m.all(pace.wet) * larger(m.all(2.0) * fill_to - m.all(1.0), none);
        let speed = larger(smaller(speed * open, most), -most);
        let flows = flows & speed.abs().ge(m.all(STILL));
        flows.pick(speed, none)
    }
}

/// A row of cells, those to their left, those above them.
#[inline(always)]
fn three(values: &[f32], from: usize) -> [&[[f32; PACK]; ACROSS]; 3] {
    [packs(values, from), packs(values, from - 1), packs(values, from - WIDE)]
}

/// Speeds through the left and the upper face of every cell.
#[inline(always)]
fn speeds_in_place<M: Machine>(m: M, s: &mut Scratch, paper: &PaperTile, pace: &Pace) {
    let none = m.nought();
    for y in s.flows.rows(1..HIGH) {
        let from = y * WIDE;
        let (head, film) = (three(&s.head, from), three(&s.film, from));
        let (fill, drag) = (three(&s.fill, from), three(&paper.drag, from));
        let (u, v) = (packs_in_place(&mut s.u, from), packs_in_place(&mut s.v, from));
        let whole = &s.whole;
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let face = |back: usize| {
                let two =
                    |of: &[&[[f32; PACK]; ACROSS]; 3]| [m.of(of[back][k]), m.of(of[0][k])];
                let [drag_before, drag_here] = two(&drag);
                Face {
                    m,
                    head: two(&head),
                    film: two(&film),
                    fill: two(&fill),
                    drag: m.all(0.5) * (drag_before + drag_here),
                }
            };
            let here = y * ACROSS + k;
            // To the left of a row's first pack lies no cell of it.
            let (left, upper) = (k > 0 && whole[here - 1], whole[here - ACROSS]);
            let [in_left, in_upper] = [whole[here] && left, whole[here] && upper];
            u[k] = face(1).speed(in_left, m.of(u[k]), pace.slope[0], pace, none).to_array();
            v[k] = face(2).speed(in_upper, m.of(v[k]), pace.slope[1], pace, none).to_array();
        });
    }
}
