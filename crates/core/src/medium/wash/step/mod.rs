//! One step of water and paint, tile by tile.
//!
//! After the wash study: water goes every step, paint every other one, with the sum of both steps' water; every read is of the state
//! before the step. A tile is gathered with a few cells around it, worked row by row, a pack of cells at once, and put back.

#![allow(clippy::needless_range_loop)] // rows of many fields are walked side by side

mod coarse;
mod drying;
mod faces;
mod flow;
mod gather;
mod grid;
mod pace;
mod paint;
mod settling;
mod spans;

use std::ops::{Deref, DerefMut, Range};

use super::paper::PaperTile;
use crate::packs::{Lanes, Machine, PACK, Pack, larger, smaller};
use crate::sheet::TILE;

pub use coarse::{grids_in_place, humidity, sums};
pub use drying::{Air, dry_damp_in_place, dry_in_place};
pub use flow::flow_in_place;
pub use gather::{Around, Border, gather_in_place};
pub use grid::{Fours, LeftEdges, Twos, gather_nodes_in_place};
pub use pace::Pace;
pub use paint::{Swimming, carry_in_place};
pub use settling::{settle_damp_in_place, settle_in_place};
pub use spans::{Spans, hull, outside, shared};

/// Cells around a tile that are gathered with it, and what a row and all of it is then. Across it is a pack, so that the tile's own begin with one.
pub const MARGIN_X: usize = PACK;
pub const MARGIN_Y: usize = 3;
pub const WIDE: usize = TILE + 2 * MARGIN_X;
pub const HIGH: usize = TILE + 2 * MARGIN_Y;
pub const CELLS: usize = WIDE * HIGH;
/// Room behind the last cell, for reads of its right neighbours.
const SPARE: usize = 2 * PACK;

/// So many values, which begin as packs do: one that lay in two lines of the cache would take twice as long to read.
#[derive(Debug, Clone)]
#[repr(align(32))]
pub struct Values<const N: usize>([f32; N]);

/// Values of a tile and the cells around it.
pub type Field = Values<{ CELLS + SPARE }>;

impl<const N: usize> Values<N> {
    pub const NOTHING: Self = Self([0.0; N]);

    /// Of some values, nothing behind the last.
    pub fn of(values: impl IntoIterator<Item = f32>) -> Box<Self> {
        let mut out = Box::new(Self::NOTHING);
        out.iter_mut().zip(values).for_each(|(to, from)| *to = from);
        out
    }
}

impl<const N: usize> Deref for Values<N> {
    type Target = [f32];

    #[inline(always)]
    fn deref(&self) -> &[f32] {
        &self.0
    }
}

impl<const N: usize> DerefMut for Values<N> {
    #[inline(always)]
    fn deref_mut(&mut self) -> &mut [f32] {
        &mut self.0
    }
}

/// A pack of values from a place on.
#[inline(always)]
fn at<M: Machine>(m: M, values: &[f32], i: usize) -> M::Pack {
    m.of(values[i..i + PACK].try_into().expect("a pack of values"))
}

#[inline(always)]
fn put(values: &mut [f32], i: usize, pack: impl Pack) {
    values[i..i + PACK].copy_from_slice(&pack.to_array());
}

/// How full paper is, of what is in it and what it has room for, µm.
#[inline(always)]
fn full<M: Machine>(m: M, inside: M::Pack, room: M::Pack) -> M::Pack {
    smaller(inside / larger(room, m.all(1e-3)), m.all(1.0))
}

/// Packs of cells in a row.
pub const ACROSS: usize = WIDE / PACK;

/// The packs of a row that lie in the tile.
pub const OWN: Range<usize> = MARGIN_X / PACK..(MARGIN_X + TILE) / PACK;

/// A row of cells from a place on, a pack at a time: one look at the bounds for all of them.
#[inline(always)]
pub fn packs(values: &[f32], from: usize) -> &[[f32; PACK]; ACROSS] {
    values[from..from + WIDE].as_chunks().0.try_into().expect("a row of packs")
}

/// As [`packs`], to be written.
#[inline(always)]
pub fn packs_in_place(values: &mut [f32], from: usize) -> &mut [[f32; PACK]; ACROSS] {
    values[from..from + WIDE].as_chunks_mut().0.try_into().expect("a row of packs")
}

/// A tile's water with the cells around it, and what is computed of it. Its fields lie one behind the other, so that one address serves a loop for all that
/// it reads: half a MB, to be kept in a box.
pub struct Scratch {
    pub on: Field,
    pub inside: Field,
    pub fill: Field,
    pub u: Field,
    pub v: Field,
    pub push: Field,
    pub passed_x: Field,
    pub passed_y: Field,
    /// Film thickness, the head, the barrier.
    pub film: Field,
    pub head: Field,
    pub barrier: Field,
    /// Which packs of cells are wet all over, none of it masked.
    pub whole: [bool; ACROSS * HIGH],
    /// What a cell gives, and what goes through the faces in this step.
    pub gives: Field,
    pub flux_x: Field,
    pub flux_y: Field,
    /// The water that a cell held when the pair began, the share of its outflow that is held back, how far it drifts.
    pub held: Field,
    pub keeps: Field,
    pub adrift: Field,
    /// How much of it is stirred, and in which rows any may be: of the others nothing is said.
    pub stirred: Field,
    pub stirs_at: [bool; HIGH],
    /// How full the paper is.
    pub full: Field,
    /// Water after this step's flow, and the share it has reached.
    pub on_after: Field,
    pub fill_after: Field,
    pub in_after: Field,
    /// Local roundness, drift across and down, how it stirs, humidity, with nodes around.
    pub round: Fours,
    pub drift_x: LeftEdges,
    pub drift_y: Fours,
    pub stirs: Fours,
    pub humid: Twos,
    /// What masking fluid closes; `masked`: some of it does.
    pub mask: Field,
    pub masked: bool,
    /// Where water stands on the sheet, and where any is on it or in it, with what it can come to in a step.
    pub flows: Spans,
    pub wets: Spans,
    /// What is looked at from there.
    pub by_flows: Spans,
    pub by_wets: Spans,
}

impl Default for Scratch {
    fn default() -> Self {
        Self {
            on: Field::NOTHING,
            inside: Field::NOTHING,
            fill: Field::NOTHING,
            u: Field::NOTHING,
            v: Field::NOTHING,
            push: Field::NOTHING,
            passed_x: Field::NOTHING,
            passed_y: Field::NOTHING,
            film: Field::NOTHING,
            head: Field::NOTHING,
            barrier: Field::NOTHING,
            whole: [false; ACROSS * HIGH],
            gives: Field::NOTHING,
            flux_x: Field::NOTHING,
            flux_y: Field::NOTHING,
            held: Field::NOTHING,
            keeps: Field::NOTHING,
            adrift: Field::NOTHING,
            stirred: Field::NOTHING,
            stirs_at: [false; HIGH],
            full: Field::NOTHING,
            on_after: Field::NOTHING,
            fill_after: Field::NOTHING,
            in_after: Field::NOTHING,
            round: Fours::default(),
            drift_x: LeftEdges::default(),
            drift_y: Fours::upper_edges(),
            stirs: Fours::default(),
            humid: Twos::default(),
            mask: Field::NOTHING,
            masked: false,
            flows: Spans::none(),
            wets: Spans::none(),
            by_flows: Spans::none(),
            by_wets: Spans::none(),
        }
    }
}

impl Scratch {
    /// Finds where water on a gathered tile moves, and what is seen from there.
    pub fn find_flows_in_place(&mut self) {
        let on = spans::wet_of(&self.on[..]);
        (self.flows, self.by_flows) = (Spans::around(&on, 0), Spans::around(&on, 1));
        self.wets = self.flows.clone();
    }

    /// Finds where water on a gathered tile or in its paper is worked too; `stands`: some stands on it or around it.
    pub fn find_wets_in_place(&mut self, stands: bool) {
        let mut wet = spans::wet_of(&self.inside[..]);
        (self.flows, self.by_flows) = (Spans::none(), Spans::none());
        if stands {
            let on = spans::wet_of(&self.on[..]);
            (self.flows, self.by_flows) = (Spans::around(&on, 0), Spans::around(&on, 1));
            wet.iter_mut().zip(on).for_each(|(wet, on)| *wet |= on);
        }
        (self.wets, self.by_wets) = (Spans::around(&wet, 0), Spans::around(&wet, 2));
        // Nothing is worked; what swims settles all over.
        if self.wets.is_none() {
            [&mut self.on_after, &mut self.in_after].into_iter().for_each(|field| field.fill(0.0));
        }
    }

    /// Leaves nothing of what is worked out of water's flow where it is looked at.
    fn clear_flow_in_place(&mut self) {
        let seen =
            [&mut self.u, &mut self.v, &mut self.gives, &mut self.flux_x, &mut self.flux_y, &mut self.film];
        self.flows.clear_outside_in_place(&self.by_flows, seen.map(|field| &mut field[..]));
        self.flows.clear_outside_in_place(&self.wets, [&mut self.on_after[..]]);
    }

    /// As after a flow, where nothing stands on a gathered tile nor around it.
    pub fn nothing_flows_in_place(&mut self) {
        self.flows.clear_outside_in_place(&self.wets, [&mut self.on_after[..]]);
    }

    /// The tile's own rows in which paint may swim.
    pub fn settled_rows(&self) -> Range<usize> {
        if self.wets.is_none() { 0..TILE } else { self.wets.own_rows() }
    }

    /// Of water on the tile itself: the deepest, the fastest that runs through a cell, and how near it comes to swinging in the usual step where it covers
    /// cells whole. A line that goes ahead into a cell, or a little that is held back at one, is as few cells in a step however long.
    #[inline(never)]
    pub fn most<M: Machine>(&self, m: M, [film, speed]: [f32; 2]) -> [f32; 3] {
        m.run(
            #[inline(always)]
            move || {
                let (film, speed) = (m.all(film), m.all(speed));
                let (none, all) = (m.nought(), m.all(1.0));
                let [mut deepest, mut fastest, mut swings] = [m.all(0.0); 3];
                for y in self.flows.rows(MARGIN_Y..MARGIN_Y + TILE) {
                    let from = y * WIDE;
                    let [on, films, fill, u, v] =
                        [&self.on, &self.film, &self.fill, &self.u, &self.v].map(|field| packs(field, from));
                    let (right, lower) = (packs(&self.u, from + 1), packs(&self.v, from + WIDE));
                    for k in shared(&self.flows.row(y), &OWN) {
                        let thick = m.of(films[k]);
                        let (left, right, upper, lower) =
                            (m.of(u[k]), m.of(right[k]), m.of(v[k]), m.of(lower[k]));
                        let ways =
                            |[ahead, against]: [M::Pack; 2]| larger(ahead, none) - smaller(against, none);
                        let comes = ways([left, right]) + ways([upper, lower]);
                        let goes = ways([right, left]) + ways([lower, upper]);
                        let runs = larger(left.abs(), upper.abs());
                        (deepest, fastest) =
                            (larger(m.of(on[k]), deepest), larger(smaller(comes, goes), fastest));
                        // Cell by cell: whether a pack is wet all over goes by how many the machine works at once.
                        let whole = m.of(fill[k]).ge(all);
                        swings = larger(whole.pick(thick * film + runs * speed, none), swings);
                    }
                }
                [deepest, fastest, swings].map(|most| most.to_array().into_iter().fold(0.0, f32::max))
            },
        )
    }

    /// How full the paper is.
    #[inline(always)]
    fn fill_paper_in_place(&mut self, m: impl Machine, paper: &PaperTile) {
        self.wets.clear_outside_in_place(&self.by_wets, [&mut self.full[..]]);
        for y in self.wets.rows(0..HIGH) {
            let from = y * WIDE;
            let (inside, room) = (packs(&self.inside, from), packs(&paper.room, from));
            let filled = packs_in_place(&mut self.full, from);
            for k in self.wets.row(y) {
                filled[k] = full(m, m.of(inside[k]), m.of(room[k])).to_array();
            }
        }
    }
}

/// Puts a field into a tile's plane where it was worked, and nothing elsewhere in those rows.
#[inline(never)]
pub fn keep(m: impl Machine, field: &[f32], spans: &Spans, plane: &mut [f32]) {
    m.run(
        #[inline(always)]
        move || put_back_in_place(field, spans, plane),
    );
}

#[inline(always)]
fn put_back_in_place(field: &[f32], spans: &Spans, plane: &mut [f32]) {
    let rows = spans.own_rows();
    let from = &field.as_chunks::<WIDE>().0[MARGIN_Y..][rows.clone()];
    for ((y, from), to) in rows.clone().zip(from).zip(&mut plane.as_chunks_mut::<TILE>().0[rows]) {
        gather::copy_row(from[MARGIN_X..].first_chunk().expect("a tile's row"), to);
        let to = to.as_chunks_mut::<PACK>().0;
        let others = outside(&OWN, &shared(&spans.row(y + MARGIN_Y), &OWN));
        others.into_iter().flatten().for_each(|k| to[k - OWN.start] = [0.0; PACK]);
    }
}
