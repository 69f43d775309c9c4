//! What is computed on grids of four and of two cells: where paint drifts, how round the wet is, how humid the air over it.

use super::grid::AROUND;
use super::{Fours, Pace, Twos};
use crate::lanes::{LANES, Lanes, all, larger, smaller};
use crate::medium::wash::blocks::{FOURS, TWOS};
use crate::sheet::TILE;

/// Strength of paint at which its pull is half of the most.
const PULLS: f32 = 0.03;

/// Nodes of a tile and of those around, along a side.
const ACROSS: usize = Fours::WIDE;
/// Where fours of nodes begin that together are all of a row but its first and last; the last two of them overlap.
const FROM: [usize; 5] = [1, 5, 9, 13, ACROSS - 1 - LANES];

/// Values of the nodes of a tile; and of those around too.
pub type Nodes = [f32; FOURS * FOURS];
type WithAround = [f32; ACROSS * ACROSS];

/// Sums of a tile's plane over the cells of every node, in an order that is the same whichever way the sheet is turned or mirrored: what is paired stays
/// paired.
pub fn sums(plane: &[f32]) -> Nodes {
    let mut out = [0.0; FOURS * FOURS];
    let rows = plane.as_chunks::<TILE>().0.as_chunks::<4>().0;
    for (rows, out) in rows.iter().zip(out.as_chunks_mut::<FOURS>().0) {
        for from in (0..FOURS).step_by(LANES) {
            // Of four nodes the cells of each row, one lane a node.
            let mut p = [[all(0.0); 4]; 4];
            for (p, row) in p.iter_mut().zip(rows) {
                let nodes: &[[f32; LANES]; LANES] =
                    row.as_chunks().0[from..].first_chunk().expect("four nodes");
                *p = Lanes::transpose([nodes[0].into(), nodes[1].into(), nodes[2].into(), nodes[3].into()]);
            }
            let corners = (p[0][0] + p[3][3]) + (p[0][3] + p[3][0]);
            let middle = (p[1][1] + p[2][2]) + (p[1][2] + p[2][1]);
            let one = (p[0][1] + p[1][0]) + (p[3][2] + p[2][3]);
            let other = (p[0][2] + p[1][3]) + (p[3][1] + p[2][0]);
            put(out, from, (corners + middle) + (one + other));
        }
    }
    out
}

/// Binomial mean over 3 × 3 nodes of a grid with nodes around, for so much of it, what a node holds itself for the rest; its outermost are left out.
fn binomial(grid: &Fours, share: f32) -> WithAround {
    let mut out = [0.0; ACROSS * ACROSS];
    for i in (1..ACROSS - 1).flat_map(|y| FROM.map(|x| y * ACROSS + x)) {
        let n = |i: usize| at(&grid.nodes, i);
        let (upper, here, lower) = (i - ACROSS, n(i), i + ACROSS);
        let sides = (n(i - 1) + n(i + 1)) + (n(upper) + n(lower));
        let corners = (n(upper - 1) + n(lower + 1)) + (n(upper + 1) + n(lower - 1));
        let mean = all(0.25) * here + (all(0.125) * sides + all(0.0625) * corners);
        put(&mut out, i, here + all(share) * (mean - here));
    }
    out
}

/// Roundness, drift and stirring on the nodes of a tile, from the sums of it and of those around.
pub fn grids_in_place(
    [paint, water, fill]: [&Fours; 3],
    drifts: &[f32],
    pace: &Pace,
    [round, drift_x, drift_y, stirs]: &mut [Nodes; 4],
) {
    let [paint_mean, water_mean] = [paint, water].map(|grid| binomial(grid, pace.drift_smooth));
    let fill_mean = binomial(fill, pace.round_smooth);
    // What pulls; not a number where it is dry.
    let mut pulls = [f32::NAN; ACROSS * ACROSS];
    for i in (1..ACROSS - 1).flat_map(|y| FROM.map(|x| y * ACROSS + x)) {
        let (water, mean) = (at(&water.nodes, i), at(&water_mean, i));
        let s = at(&paint_mean, i) / mean;
        let wet = water.simd_gt(all(0.0)) & mean.simd_gt(all(0.0));
        put(&mut pulls, i, wet.bitselect(s / (s + all(PULLS)), all(f32::NAN)));
    }
    for node in (0..FOURS * FOURS).step_by(LANES) {
        let i = (node / FOURS + AROUND) * ACROSS + node % FOURS + AROUND;
        put(round, node, at(&fill_mean, i) * all(1.0 / 16.0));
        let by = smaller(all(pace.drifts) * at(drifts, node), all(pace.drifts_steepest));
        let goes = |back: usize, aside: usize| {
            let [along, across] = slope_at(&pulls, i, back, aside).map(|slope| by * slope);
            let square = along * along + across * across;
            let steep = square.sqrt();
            let slower = all(1.0) + steep / all(pace.drifts_most);
            let share = square / (slower * (square + all(pace.drifts_quiet * pace.drifts_quiet)));
            [along * share, steep * share]
        };
        let ([x, by_left], [y, by_upper]) = (goes(1, ACROSS), goes(ACROSS, 1));
        put(drift_x, node, x);
        put(drift_y, node, y);
        let over = all(0.5) * (by_left + by_upper) - all(pace.stirs_over);
        put(stirs, node, smaller(larger(over, all(0.0)), all(pace.stirs_most)));
    }
}

/// Four values from a place on.
#[inline(always)]
pub fn at(values: &[f32], i: usize) -> Lanes {
    let four: [f32; LANES] = values[i..i + LANES].try_into().expect("four values");
    Lanes::from(four)
}

#[inline(always)]
fn put(values: &mut [f32], i: usize, four: Lanes) {
    values[i..i + LANES].copy_from_slice(&four.to_array());
}

/// What is known, else something other.
#[inline(always)]
fn known_or(value: Lanes, other: Lanes) -> Lanes {
    value.simd_eq(value).bitselect(value, other)
}

/// How a pull falls at the edges between four nodes and those `back` before them, and how it falls along these edges, for two nodes' length; nothing where
/// one of the two is dry. The edges and not the nodes, since a pull that goes up and down from node to node would not be seen there, and stay.
#[inline(always)]
fn slope_at(pulls: &WithAround, i: usize, back: usize, aside: usize) -> [Lanes; 2] {
    let pull = |i: usize| at(pulls, i);
    let fall = pull(i - back) - pull(i);
    let beside = |i: usize| known_or(pull(i - back) - pull(i), fall);
    let along = all(2.0) * (all(0.25) * (beside(i - aside) + beside(i + aside)) + all(0.5) * fall);
    let falls = |i: usize| known_or(pull(i - aside), pull(i)) - known_or(pull(i + aside), pull(i));
    let across = all(0.5) * (falls(i - back) + falls(i));
    [along, across].map(|slope| fall.simd_eq(fall).bitselect(slope, all(0.0)))
}

/// Humidity over a tile after a turn, from that of it and of those around, over cells filled so far.
pub fn humidity(grid: &Twos, fill: &[f32], pace: &Pace) -> [f32; TWOS * TWOS] {
    const WIDE: usize = Twos::WIDE;
    let mut out = [0.0; TWOS * TWOS];
    let cells = fill.as_chunks::<TILE>().0.as_chunks::<2>().0;
    for (y, (cells, out)) in cells.iter().zip(out.as_chunks_mut::<TWOS>().0).enumerate() {
        for x in (0..TWOS).step_by(LANES) {
            let i = (y + AROUND) * WIDE + x + AROUND;
            let here = at(&grid.nodes, i);
            let around = (at(&grid.nodes, i - 1) + at(&grid.nodes, i + 1))
                + (at(&grid.nodes, i - WIDE) + at(&grid.nodes, i + WIDE));
            let [upper, lower] = [&cells[0], &cells[1]].map(|row| by_twos(row, 2 * x));
            let filled = all(0.25) * ((upper[0] + lower[1]) + (upper[1] + lower[0]));
            let spreads = all(pace.humid_spreads) * (around - all(4.0) * here);
            let settles = all(pace.humid_settles) * (filled - here);
            put(out, x, larger(here + spreads + settles, all(0.0)));
        }
    }
    out
}

/// The first and the second cells of four pairs of a row.
#[inline(always)]
fn by_twos(row: &[f32; TILE], from: usize) -> [Lanes; 2] {
    let c: &[f32; 2 * LANES] = row[from..].first_chunk().expect("four pairs");
    [Lanes::from([c[0], c[2], c[4], c[6]]), Lanes::from([c[1], c[3], c[5], c[7]])]
}
