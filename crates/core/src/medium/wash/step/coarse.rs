//! What is computed on grids of four and of two cells: where paint drifts, how round the wet is, how humid the air over it.

use super::{Grid, Pace, at};
use crate::lanes::{LANES, all, larger};
use crate::medium::wash::blocks::{FOURS, TWOS};
use crate::sheet::TILE;

use super::gather::AROUND;

/// Strength of paint at which its pull is half of the most.
const PULLS: f32 = 0.03;

/// Sums over the cells of a node: of the paint's strength times water, of water, of the filled share. `strength`: strength times water of
/// every cell.
pub fn sums(strength: &[f32], on: &[f32], fill: &[f32]) -> [Vec<f32>; 3] {
    let sum = |plane: &[f32]| -> Vec<f32> {
        (0..FOURS * FOURS)
            .map(|node| {
                let from = (node / FOURS) * 4 * TILE + (node % FOURS) * 4;
                let p = |y: usize, x: usize| plane[from + y * TILE + x];
                // In an order that is the same whichever way the sheet is turned or mirrored: what is paired stays paired.
                let corners = (p(0, 0) + p(3, 3)) + (p(0, 3) + p(3, 0));
                let middle = (p(1, 1) + p(2, 2)) + (p(1, 2) + p(2, 1));
                let one = (p(0, 1) + p(1, 0)) + (p(3, 2) + p(2, 3));
                let other = (p(0, 2) + p(1, 3)) + (p(3, 1) + p(2, 0));
                (corners + middle) + (one + other)
            })
            .collect()
    };
    [sum(strength), sum(on), sum(fill)]
}

/// Binomial mean over 3 × 3 nodes of a grid with nodes around, for so much of it, what a node holds itself for the rest; its outermost are left out.
fn binomial(grid: &Grid, share: f32) -> Vec<f32> {
    let wide = grid.wide();
    let mut out = vec![0.0; wide * wide];
    for y in 1..wide - 1 {
        for x in 1..wide - 1 {
            let i = y * wide + x;
            let n = |dx: isize, dy: isize| grid.nodes[(i as isize + dx + dy * wide as isize) as usize];
            let sides = (n(-1, 0) + n(1, 0)) + (n(0, -1) + n(0, 1));
            let corners = (n(-1, -1) + n(1, 1)) + (n(1, -1) + n(-1, 1));
            let mean = 0.25 * n(0, 0) + (0.125 * sides + 0.0625 * corners);
            out[i] = n(0, 0) + share * (mean - n(0, 0));
        }
    }
    out
}

/// Roundness and drift on the nodes of a tile, from the sums of it and of those around.
pub fn grids_in_place(
    [paint, water, fill]: [&Grid; 3],
    drifts: &[f32],
    pace: &Pace,
    [round, drift_x, drift_y]: [&mut [f32]; 3],
) {
    let wide = fill.wide();
    let [paint_mean, water_mean] = [paint, water].map(|grid| binomial(grid, pace.drift_smooth));
    let fill_mean = binomial(fill, pace.round_smooth);
    // What pulls, and nothing where it is dry.
    let pulls: Vec<Option<f32>> = (0..wide * wide)
        .map(|i| {
            let s = paint_mean[i] / water_mean[i];
            (water.nodes[i] > 0.0 && water_mean[i] > 0.0).then(|| s / (s + PULLS))
        })
        .collect();
    for y in 0..FOURS {
        for x in 0..FOURS {
            let (node, i) = (y * FOURS + x, (y + AROUND) * wide + x + AROUND);
            round[node] = fill_mean[i] * (1.0 / 16.0);
            let by = (pace.drifts * drifts[node]).min(pace.drifts_steepest);
            let goes = |back: usize, aside: usize| {
                let [along, across] = slope_at(&pulls, i, back, aside).map(|slope| by * slope);
                along / (1.0 + (along * along + across * across).sqrt() / pace.drifts_most)
            };
            (drift_x[node], drift_y[node]) = (goes(1, wide), goes(wide, 1));
        }
    }
}

/// How a pull falls at the edge between a node and the one `back` before it, and how it falls along that edge, for two nodes' length; nothing where
/// one of the two is dry. The edges and not the nodes, since a pull that goes up and down from node to node would not be seen there, and stay.
fn slope_at(pulls: &[Option<f32>], i: usize, back: usize, aside: usize) -> [f32; 2] {
    let (Some(before), Some(behind)) = (pulls[i - back], pulls[i]) else { return [0.0; 2] };
    let fall = before - behind;
    let beside = |i: usize| pulls[i - back].zip(pulls[i]).map_or(fall, |(before, behind)| before - behind);
    let along = 2.0 * (0.25 * (beside(i - aside) + beside(i + aside)) + 0.5 * fall);
    let falls = |i: usize, here: f32| pulls[i - aside].unwrap_or(here) - pulls[i + aside].unwrap_or(here);
    [along, 0.5 * (falls(i - back, before) + falls(i, behind))]
}

/// Humidity over a tile after a turn, from that of it and of those around, over cells filled so far.
pub fn humidity(grid: &Grid, fill: &[f32], pace: &Pace) -> Vec<f32> {
    let wide = grid.wide();
    let mut out = vec![0.0; TWOS * TWOS];
    for y in 0..TWOS {
        for x in (0..TWOS).step_by(LANES) {
            let i = (y + AROUND) * wide + x + AROUND;
            let here = at(&grid.nodes, i);
            let around = (at(&grid.nodes, i - 1) + at(&grid.nodes, i + 1))
                + (at(&grid.nodes, i - wide) + at(&grid.nodes, i + wide));
            let filled: [f32; LANES] = std::array::from_fn(|k| {
                let at = 2 * y * TILE + 2 * (x + k);
                0.25 * ((fill[at] + fill[at + TILE + 1]) + (fill[at + 1] + fill[at + TILE]))
            });
            let filled = crate::lanes::four(&filled);
            let spreads = all(pace.humid_spreads) * (around - all(4.0) * here);
            let settles = all(pace.humid_settles) * (filled - here);
            super::put(&mut out, y * TWOS + x, larger(here + spreads + settles, all(0.0)));
        }
    }
    out
}
