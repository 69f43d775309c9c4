//! Water over the sheet: the head drives it, paper drags on it, a line over dry paper holds until the film behind it is thick enough.

use super::{HIGH, Pace, Scratch, WIDE, at, cells, put};
use crate::lanes::{LANES, Lanes, all, larger, smaller, where_greater};
use crate::medium::wash::paper::{PaperTile, WALL_UM};
use crate::medium::wash::resist::CLOSED;

/// Share of the barrier that wet paper takes away, its least, and the least that is left of a line that curves.
const SOAKED: f32 = 0.97;
const LEAST_BARRIER_UM: f32 = 4.0;
const LEAST_ROUND: f32 = 0.15;
/// Film at which the paint's push is half of its most, squared, µm².
const PUSHES: f32 = 6400.0;
/// A cell gives at most so much of its water in a step, in whatever direction.
const GIVES: f32 = 0.32;
/// Slower than this is still, cells a step.
const STILL: f32 = 1e-6;

/// One step of water on a gathered tile.
pub fn flow_in_place(s: &mut Scratch, paper: &PaperTile, pace: &Pace) {
    s.find_rows_in_place();
    heads_in_place(s, paper);
    speeds_in_place(s, paper, pace);
    for i in cells(s.worked(1..HIGH - 1)) {
        let none = all(0.0);
        let across = larger(-at(&*s.u, i), none) + larger(at(&*s.u, i + 1), none);
        let down = larger(-at(&*s.v, i), none) + larger(at(&*s.v, i + WIDE), none);
        let whole = (across * across + down * down).sqrt();
        let gives = smaller(all(GIVES) / larger(whole, all(STILL)), all(1.0));
        put(&mut *s.gives, i, gives * at(&*s.on, i));
    }
    for i in cells(s.worked(1..HIGH - 1)) {
        let goes = |speed: Lanes, before: Lanes, here: Lanes| {
            larger(speed, all(0.0)) * before + smaller(speed, all(0.0)) * here
        };
        let here = at(&*s.gives, i);
        put(&mut *s.flux_x, i, goes(at(&*s.u, i), at(&*s.gives, i - 1), here));
        put(&mut *s.flux_y, i, goes(at(&*s.v, i), at(&*s.gives, i - WIDE), here));
    }
    for i in cells(s.worked(2..HIGH - 2)) {
        let across = at(&*s.flux_x, i) - at(&*s.flux_x, i + 1);
        let down = at(&*s.flux_y, i) - at(&*s.flux_y, i + WIDE);
        let on = larger(at(&*s.on, i) + (across + down), all(0.0));
        let reached = smaller(on / at(&*s.barrier, i), all(1.0));
        let fill = where_greater(on, all(0.0), larger(at(&*s.fill, i), reached), all(0.0));
        put(&mut *s.on_after, i, on);
        put(&mut *s.fill_after, i, fill);
    }
}

/// Film, barrier and head of every cell.
fn heads_in_place(s: &mut Scratch, paper: &PaperTile) {
    let mut round = [0.0; WIDE];
    for y in s.worked(0..HIGH) {
        s.round.row_in_place(y, false, false, &mut round);
        for x in (0..WIDE).step_by(LANES) {
            let i = y * WIDE + x;
            let (on, fill) = (at(&*s.on, i), at(&*s.fill, i));
            let wet = on.simd_gt(all(0.0));
            let film = wet.bitselect(on / larger(fill, all(1e-3)), all(0.0));
            let full = smaller(at(&*s.inside, i) / larger(at(&paper.room, i), all(1e-3)), all(1.0));
            let curved = larger(all(3.0) - all(4.0) * at(&round, x), all(LEAST_ROUND));
            let barrier = at(&paper.barrier, i) * (all(1.0) - all(SOAKED) * full) * curved;
            let mut barrier = larger(barrier, all(LEAST_BARRIER_UM));
            if s.masked {
                barrier = where_greater(at(&*s.mask, i), all(CLOSED), all(WALL_UM), barrier);
            }
            let square = film * film;
            let pushed = film + at(&*s.push, i) * square / (square + all(PUSHES));
            put(&mut *s.film, i, film);
            put(&mut *s.full, i, full);
            put(&mut *s.barrier, i, barrier);
            put(&mut *s.head, i, at(&paper.head, i) + wet.bitselect(pushed, barrier));
        }
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
    /// Its speed after a step.
    #[inline(always)]
    fn speed(&self, before: Lanes, slope: f32, pace: &Pace) -> Lanes {
        let none = all(0.0);
        let pull = all(pace.head) * (self.head[0] - self.head[1]) + all(slope);
        let mean = all(0.5) * (self.film[0] + self.film[1]);
        let square = mean * mean;
        let speed = (before + pull) * square / (square + all(pace.drag) * self.drag * self.drag);
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
}

/// Speeds through the left and the upper face of every cell.
fn speeds_in_place(s: &mut Scratch, paper: &PaperTile, pace: &Pace) {
    for i in cells(s.worked(1..HIGH)) {
        let face = |j: usize| Face {
            head: [at(&*s.head, j), at(&*s.head, i)],
            film: [at(&*s.film, j), at(&*s.film, i)],
            fill: [at(&*s.fill, j), at(&*s.fill, i)],
            drag: all(0.5) * (at(&paper.drag, j) + at(&paper.drag, i)),
        };
        let u = face(i - 1).speed(at(&*s.u, i), pace.slope[0], pace);
        let v = face(i - WIDE).speed(at(&*s.v, i), pace.slope[1], pace);
        put(&mut *s.u, i, u);
        put(&mut *s.v, i, v);
    }
}
