//! Water over the sheet: the head drives it, paper drags on it, a line over dry paper holds until the film behind it is thick enough.

use super::spans::walk;
use super::{ACROSS, HIGH, Pace, Scratch, WIDE, fours, fours_in_place, full};
use crate::lanes::{LANES, Lanes, all, larger, nought, smaller, where_greater};
use crate::medium::wash::paper::{PaperTile, WALL_UM};
use crate::medium::wash::resist::CLOSED;

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
pub fn flow_in_place(s: &mut Scratch, paper: &PaperTile, pace: &Pace) {
    s.clear_flow_in_place();
    heads_in_place(s, paper);
    speeds_in_place(s, paper, pace);
    gives_in_place(s);
    let none = nought();
    for y in s.flows.rows(1..HIGH - 1) {
        let from = y * WIDE;
        let goes = |speed: Lanes, before: Lanes, here: Lanes| {
            larger(speed, none) * before + smaller(speed, none) * here
        };
        let (u, v) = (fours(&s.u, from), fours(&s.v, from));
        let (here, left, upper) =
            (fours(&s.gives, from), fours(&s.gives, from - 1), fours(&s.gives, from - WIDE));
        let (flux_x, flux_y) = (fours_in_place(&mut s.flux_x, from), fours_in_place(&mut s.flux_y, from));
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let here = Lanes::from(here[k]);
            flux_x[k] = goes(Lanes::from(u[k]), Lanes::from(left[k]), here).to_array();
            flux_y[k] = goes(Lanes::from(v[k]), Lanes::from(upper[k]), here).to_array();
        });
    }
    for y in s.flows.rows(2..HIGH - 2) {
        let from = y * WIDE;
        let (left, right) = (fours(&s.flux_x, from), fours(&s.flux_x, from + 1));
        let (upper, lower) = (fours(&s.flux_y, from), fours(&s.flux_y, from + WIDE));
        let (before, fill, barrier) = (fours(&s.on, from), fours(&s.fill, from), fours(&s.barrier, from));
        let (on_after, fill_after) =
            (fours_in_place(&mut s.on_after, from), fours_in_place(&mut s.fill_after, from));
        let whole = &s.whole[y * ACROSS..(y + 1) * ACROSS];
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let across = Lanes::from(left[k]) - Lanes::from(right[k]);
            let down = Lanes::from(upper[k]) - Lanes::from(lower[k]);
            let on = larger(Lanes::from(before[k]) + (across + down), none);
            if whole[k] {
                on_after[k] = on.to_array();
                fill_after[k] = where_greater(on, all(0.0), all(1.0), all(0.0)).to_array();
                continue;
            }
            let reached = smaller(on / Lanes::from(barrier[k]), all(1.0));
            let fill = where_greater(on, all(0.0), larger(Lanes::from(fill[k]), reached), all(0.0));
            on_after[k] = on.to_array();
            fill_after[k] = fill.to_array();
        });
    }
}

/// What every cell gives in a step, whichever way.
fn gives_in_place(s: &mut Scratch) {
    let none = nought();
    for y in s.flows.rows(1..HIGH - 1) {
        let from = y * WIDE;
        let (left, right) = (fours(&s.u, from), fours(&s.u, from + 1));
        let (upper, lower) = (fours(&s.v, from), fours(&s.v, from + WIDE));
        let on = fours(&s.on, from);
        let gives = fours_in_place(&mut s.gives, from);
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let across = larger(Lanes::from(right[k]), none) - smaller(Lanes::from(left[k]), none);
            let down = larger(Lanes::from(lower[k]), none) - smaller(Lanes::from(upper[k]), none);
            let square = across * across + down * down;
            // Most cells give less than they may: nothing limits them.
            if square.simd_lt(all(SURELY * GIVES * GIVES)).all() {
                gives[k] = on[k];
                continue;
            }
            let whole = square.sqrt();
            let share = smaller(all(GIVES) / larger(whole, all(STILL)), all(1.0));
            gives[k] = (share * Lanes::from(on[k])).to_array();
        });
    }
}

/// Film, barrier and head of every cell; a barrier only where a line may be held.
fn heads_in_place(s: &mut Scratch, paper: &PaperTile) {
    s.whole.fill(false);
    let per_even = 1.0 / paper.even_barrier;
    for y in s.flows.rows(0..HIGH) {
        let (from, round) = (y * WIDE, s.round.row(y));
        let (on, fill, inside, push) =
            (fours(&s.on, from), fours(&s.fill, from), fours(&s.inside, from), fours(&s.push, from));
        let mask = fours(&s.mask, from);
        let (room, holds, height) =
            (fours(&paper.room, from), fours(&paper.barrier, from), fours(&paper.head, from));
        let film = fours_in_place(&mut s.film, from);
        let (barrier, head) = (fours_in_place(&mut s.barrier, from), fours_in_place(&mut s.head, from));
        let whole = &mut s.whole[y * ACROSS..(y + 1) * ACROSS];
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let on = Lanes::from(on[k]);
            let wet = on.simd_gt(all(0.0));
            whole[k] = !s.masked && (wet & Lanes::from(fill[k]).simd_ge(all(1.0))).all();
            if whole[k] {
                // All of it is reached by water: it is as thick as it stands, and no line is held.
                let square = on * on;
                let pushed = on + Lanes::from(push[k]) * square / (square + all(PUSHES));
                film[k] = on.to_array();
                head[k] = (Lanes::from(height[k]) + pushed).to_array();
                continue;
            }
            let thick = wet.bitselect(on / larger(Lanes::from(fill[k]), all(1e-3)), all(0.0));
            let filled = full(Lanes::from(inside[k]), Lanes::from(room[k]));
            let curved = larger(all(3.0) - all(4.0) * round.four(k), all(LEAST_ROUND));
            let holds = Lanes::from(holds[k]);
            let uneven = all(CRIMPS) * filled * (holds * all(per_even) - all(1.0));
            let crimped = larger(all(1.0) + uneven, all(LEAST_CRIMPED));
            let held = holds * (all(1.0) - all(SOAKED) * filled) * curved * crimped;
            let mut held = larger(held, all(LEAST_BARRIER_UM));
            if s.masked {
                held = where_greater(Lanes::from(mask[k]), all(CLOSED), all(WALL_UM), held);
            }
            let square = thick * thick;
            let pushed = thick + Lanes::from(push[k]) * square / (square + all(PUSHES));
            film[k] = thick.to_array();
            barrier[k] = held.to_array();
            head[k] = (Lanes::from(height[k]) + wet.bitselect(pushed, held)).to_array();
        });
    }
}

/// What holds a face between two cells.
struct Face {
    head: [Lanes; 2],
    film: [Lanes; 2],
    fill: [Lanes; 2],
    drag: Lanes,
}

impl Face {
    /// What pulls at it, and its speed after a step if nothing but the paper holds it.
    #[inline(always)]
    fn free(&self, before: Lanes, slope: f32, pace: &Pace) -> [Lanes; 2] {
        let pull = all(pace.head) * (self.head[0] - self.head[1]) + all(slope);
        let mean = all(0.5) * (self.film[0] + self.film[1]);
        let square = mean * mean;
        [pull, (before + pull) * square / (square + all(pace.drag) * self.drag * self.drag)]
    }

    /// Its speed after a step.
    #[inline(always)]
    fn speed(&self, before: Lanes, slope: f32, pace: &Pace, none: Lanes) -> Lanes {
        let [pull, speed] = self.free(before, slope, pace);
        let forth = speed.simd_gt(none);
        let pick = |two: &[Lanes; 2]| (forth.bitselect(two[0], two[1]), forth.bitselect(two[1], two[0]));
        let ((film, film_to), (fill, fill_to)) = (pick(&self.film), pick(&self.fill));
        // A dry cell gives nothing, and takes only what is pulled into it.
        let takes = film_to.simd_gt(none) | (speed * pull).simd_gt(none);
        let flows = film.simd_gt(none) & takes;
        let open = smaller(larger(all(2.0) * fill - all(1.0), none) + all(2.0) * fill_to, all(1.0));
        let most = all(pace.line) + all(pace.wet) * larger(all(2.0) * fill_to - all(1.0), none);
        let speed = larger(smaller(speed * open, most), -most);
        let flows = flows & speed.abs().simd_ge(all(STILL));
        flows.bitselect(speed, none)
    }

    /// The same to the bit where all cells on both sides are wet all over: nothing closes it.
    #[inline(always)]
    fn speed_in_water(&self, before: Lanes, slope: f32, pace: &Pace) -> Lanes {
        let [_, speed] = self.free(before, slope, pace);
        let most = all(pace.line) + all(pace.wet);
        let speed = larger(smaller(speed, most), -most);
        speed.abs().simd_ge(all(STILL)).bitselect(speed, all(0.0))
    }
}

/// A row of cells, those to their left, those above them.
fn three(values: &[f32], from: usize) -> [&[[f32; LANES]; ACROSS]; 3] {
    [fours(values, from), fours(values, from - 1), fours(values, from - WIDE)]
}

/// Speeds through the left and the upper face of every cell.
fn speeds_in_place(s: &mut Scratch, paper: &PaperTile, pace: &Pace) {
    let none = nought();
    for y in s.flows.rows(1..HIGH) {
        let from = y * WIDE;
        let (head, film) = (three(&s.head, from), three(&s.film, from));
        let (fill, drag) = (three(&s.fill, from), three(&paper.drag, from));
        let (u, v) = (fours_in_place(&mut s.u, from), fours_in_place(&mut s.v, from));
        let whole = &s.whole;
        walk!(k in s.flows.row(y), whole 0..ACROSS, {
            let face = |back: usize| {
                let two =
                    |of: &[&[[f32; LANES]; ACROSS]; 3]| [Lanes::from(of[back][k]), Lanes::from(of[0][k])];
                let [drag_before, drag_here] = two(&drag);
                Face {
                    head: two(&head),
                    film: two(&film),
                    fill: two(&fill),
                    drag: all(0.5) * (drag_before + drag_here),
                }
            };
            let here = y * ACROSS + k;
            // To the left of a row's first four lies no cell of it.
            let (left, upper) = (k > 0 && whole[here - 1], whole[here - ACROSS]);
            let speed = |face: Face, before: [f32; LANES], slope: f32, other: bool| {
                let before = Lanes::from(before);
                let speed = if whole[here] && other {
                    face.speed_in_water(before, slope, pace)
                } else {
                    face.speed(before, slope, pace, none)
                };
                speed.to_array()
            };
            u[k] = speed(face(1), u[k], pace.slope[0], left);
            v[k] = speed(face(2), v[k], pace.slope[1], upper);
        });
    }
}
