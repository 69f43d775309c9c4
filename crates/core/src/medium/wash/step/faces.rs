//! What goes through the faces of one row in a pair of steps, for any paint: shares of the strengths before and behind a face, and the paper's water.

use std::ops::Range;

use super::grid::Between;
use super::spans::{outside, shared, walk};
use super::{ACROSS, OWN, Pace, Scratch, Values, WIDE, packs, packs_in_place};
use crate::medium::wash::paper::PaperTile;
use crate::packs::{Lanes, Machine, PACK, Pack, larger, smaller, where_greater};

/// Fluxes under this are carried without the second order, µm.
const SLIGHT_UM: f32 = 0.01;
/// Water in the paper spreads so much where it is dry, of what it does where it is full.
const DRY_SOAKS: f32 = 0.03;
/// What stirs runs through no face more than so much as it does on the mean.
const STREAM_MOST: f32 = 2.0;

/// What is known of the cells or the faces of one row, with room for a look at the right neighbours.
pub type Row = Values<{ WIDE + PACK }>;
/// The packs of a row whose left faces are worked: those in the tile and one more.
pub const FACES: Range<usize> = OWN.start..OWN.end + 1;

/// What goes through the faces of a row, for any paint.
#[derive(Clone)]
pub struct Faces {
    /// Shares of the strength before and behind the face that cross it.
    pub before: Row,
    pub behind: Row,
    /// The same for its slope.
    pub slope_before: Row,
    pub slope_behind: Row,
    /// For what rolls, by how readily it does; and for what creeps.
    pub rolls_before: Row,
    pub rolls_behind: Row,
    pub creeps_before: Row,
    pub creeps_behind: Row,
    /// Water in the paper.
    pub soaks: Row,
    /// Anything of the second order, of rolling.
    pub has: [bool; 2],
    /// Packs at which paint may creep, as bits: nothing is said of the others.
    pub creeps: u32,
    /// Packs that anything may cross, and those that water on the sheet may.
    pub wets: Range<usize>,
    pub flows: Range<usize>,
}

impl Default for Faces {
    fn default() -> Self {
        let z = || Row::NOTHING;
        Self {
            before: z(),
            behind: z(),
            slope_before: z(),
            slope_behind: z(),
            rolls_before: z(),
            rolls_behind: z(),
            creeps_before: z(),
            creeps_behind: z(),
            soaks: z(),
            has: [false; 2],
            creeps: 0,
            wets: 0..0,
            flows: 0..0,
        }
    }
}

/// A row of faces, between cells and those `back` before them.
pub struct Line<'a, M: Machine, const LEFT: bool> {
    pub m: M,
    pub s: &'a Scratch,
    pub paper: &'a PaperTile,
    pub pace: &'a Pace,
    pub none: M::Pack,
    pub rolls: bool,
    pub y: usize,
    pub back: usize,
    pub drift: Between<'a, M, 4, LEFT>,
}

impl<M: Machine, const LEFT: bool> Line<'_, M, LEFT> {
    /// What crosses the faces towards the cells before them.
    #[inline(always)]
    pub fn faces_in_place(&self, out: &mut Faces) {
        let (wets, flows) = (out.wets.clone(), out.flows.clone());
        // Nothing comes to the last cell from beyond.
        if let Some(beyond) = packs_in_place(&mut out.soaks, 0).get_mut(wets.end) {
            *beyond = [0.0; PACK];
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
        let Line { m, s, paper, pace: &pace, none, rolls, y, back, drift } = *self;
        let (passed, flux, speeds) =
            if back == 1 { (&s.passed_x, &s.flux_x, &s.u) } else { (&s.passed_y, &s.flux_y, &s.v) };
        let here = y * WIDE;
        let (passed, flux, speeds) =
            (packs(&passed[..], here), packs(&flux[..], here), packs(&speeds[..], here));
        let held = two_of(&s.held, here, back);
        let (adrift, keeps) = (two_of(&s.adrift, here, back), two_of(&s.keeps, here, back));
        let (on, inside) = (two_of(&s.on, here, back), two_of(&s.inside, here, back));
        let (full, room) = (two_of(&s.full, here, back), two_of(&paper.room, here, back));
        let head = two_of(&paper.head, here, back);
        // The stream at both ends of a face: what stirs runs along its levels.
        let stirred = two_of(&s.stirred, here, back);
        let (one, other) = if back == 1 { (here, here + WIDE) } else { (here + 1, here) };
        let (one, other) = (packs(&paper.stream, one), packs(&paper.stream, other));
        let stirs = s.stirs_at[y] && (back == 1 || s.stirs_at[y - 1]);
        let (mut sloped, mut rolled) = (none, none);
        let [before, behind] = [&mut out.before, &mut out.behind].map(|row| packs_in_place(row, 0));
        let [slope_before, slope_behind] =
            [&mut out.slope_before, &mut out.slope_behind].map(|row| packs_in_place(row, 0));
        let [rolls_before, rolls_behind] =
            [&mut out.rolls_before, &mut out.rolls_behind].map(|row| packs_in_place(row, 0));
        let [creeps_before, creeps_behind] =
            [&mut out.creeps_before, &mut out.creeps_behind].map(|row| packs_in_place(row, 0));
        let (soaked, creeping) = (packs_in_place(&mut out.soaks, 0), &mut out.creeps);
        walk!(k in shared(&part, &FACES), whole FACES, {
            let both = |of: [&[[f32; PACK]; ACROSS]; 2]| of.map(|row| m.of(row[k]));
            if FILM {
                let [held_j, held_i] = both(held);
                let [adrift_j, adrift_i] = both(adrift);
                let [keeps_j, keeps_i] = both(keeps);
                let mut drifts = drift.pack(k) * smaller(adrift_j, adrift_i);
                if stirs {
                    let [stirred_j, stirred_i] = both(stirred);
                    let runs = m.of(other[k]) - m.of(one[k]);
                    let runs = smaller(larger(runs, m.all(-STREAM_MOST)), m.all(STREAM_MOST));
                    drifts += runs * smaller(stirred_j, stirred_i);
                }
                let whole = m.of(passed[k]) + m.of(flux[k]) + drifts;
                let forth = larger(whole, none) * keeps_j;
                let mixes = m.all(pace.mixes) * smaller(held_j, held_i);
                let back_ = smaller(whole, none) * keeps_i;
                before[k] = (forth + mixes).to_array();
                behind[k] = (back_ - mixes).to_array();
                let corrects = larger(m.all(0.5) - m.of(speeds[k]).abs(), none);
                let corrects = where_greater(whole.abs(), m.all(SLIGHT_UM), corrects, none);
                let (sloped_before, sloped_behind) = (forth * corrects, back_ * corrects);
                sloped += sloped_before - sloped_behind;
                slope_before[k] = sloped_before.to_array();
                slope_behind[k] = sloped_behind.to_array();
                if rolls {
                    // Heights of the paper: the head takes a share of them.
                    let [head_j, head_i] = both(head);
                    let fall = (head_j - head_i) * m.all(1.0 / 0.15);
                    let wet = smaller(held_j, held_i).gt(none);
                    let share =
                        smaller(larger(m.all(pace.rolls) * fall, m.all(-pace.rolls_most)), m.all(pace.rolls_most));
                    let share = wet.pick(share, none);
                    rolled += share.abs();
                    rolls_before[k] = larger(share, none).to_array();
                    rolls_behind[k] = smaller(share, none).to_array();
                }
            }
            let [full_j, full_i] = both(full);
            let [room_j, room_i] = both(room);
            let mean = m.all(0.5) * (full_j + full_i);
            let soaks = m.all(pace.soaks)
                * (m.all(DRY_SOAKS) + m.all(1.0 - DRY_SOAKS) * mean * mean)
                * smaller(room_j, room_i)
                * (full_j - full_i);
            soaked[k] = soaks.to_array();
            // Beyond the film paint goes with the paper's water; from under a film, with its share.
            let ([on_j, on_i], [inside_j, inside_i]) = (both(on), both(inside));
            let film_both = smaller(on_j, on_i).gt(none);
            if FILM && film_both.is_all() {
                continue;
            }
            let (crept_before, crept_behind) = if !FILM {
                (larger(soaks, none), smaller(soaks, none))
            } else {
                let creeps = |on: M::Pack, inside: M::Pack, flow: M::Pack| {
                    let share = where_greater(on, none, on / larger(on + inside, m.all(1e-3)), m.all(1.0));
                    film_both.pick(none, flow * share)
                };
                (creeps(on_j, inside_j, larger(soaks, none)), creeps(on_i, inside_i, smaller(soaks, none)))
            };
            *creeping |= 1 << k;
            creeps_before[k] = crept_before.to_array();
            creeps_behind[k] = crept_behind.to_array();
        });
        let any = |sum: M::Pack| sum.gt(none).is_any();
        [FILM && any(sloped), FILM && rolls && any(rolled)]
    }
}

/// The cells before the faces of a row, `back` from those behind them, and these.
#[inline(always)]
fn two_of(values: &[f32], here: usize, back: usize) -> [&[[f32; PACK]; ACROSS]; 2] {
    [packs(values, here - back), packs(values, here)]
}
