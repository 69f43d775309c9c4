//! What a step takes of a tile and of those around it, and puts back into the tile.

use std::ops::Range;

use super::awake::{BESIDE, IS_WET, REACH};
use super::blocks::{
    Blocks, COVER, DEEPEST, DRIFT_X, DRIFT_Y, FASTEST, FILL, FILM, FOURS, HAS_FILM, HUMID, IN, MOVES_END,
    MOVES_FROM, ON, PASSED_X, PASSED_Y, PUSH, ROUND, STIRS, SWIMS, SWIMS_SIDES, SWINGS, Sides, TWOS, U, V,
    WET, WET_SIDES, any, plane, plane_in_place,
};
use super::paper::PaperTile;
use super::pigments::TABLE;
use super::resist::{self, MASK};
use super::step::{self, Around, Border, Field, HIGH, MARGIN_Y, OWN, Pace, Scratch, Spans, Swimming, WIDE};
use crate::packs::{Machine, PACK, Pack, larger};
use crate::sheet::TILE;

const NODES: usize = FOURS * FOURS;
/// Of how near water came to swinging so much is kept from one pair of steps to the next.
const SWUNG: f32 = 0.97;

/// What a tile was like along its lower and right border before the step, once it was worked.
#[derive(Default)]
pub struct Old {
    kept: bool,
    water: [Border; MOVED.len()],
    /// Pigments by their numbers; only so many of them are the step's, the others are room for more.
    paints: Vec<(usize, Border)>,
    pigments: usize,
}

/// Planes of water that a step changes, in the order in which [`Old`] keeps them.
const MOVED: [usize; 6] = [ON, IN, FILL, U, V, PUSH];

impl Old {
    /// Nothing of it is kept in a step that begins.
    pub fn let_go(&mut self) {
        self.kept = false;
    }

    /// Keeps of a tile what those of its neighbours look at that are worked after it.
    pub fn keep_in_place(&mut self, blocks: &Blocks<'_>, nine: &[Option<usize>; 9]) {
        let later = [nine[5].is_some() || nine[8].is_some(), nine[6..].iter().any(Option::is_some)];
        self.kept = true;
        for (border, which) in self.water.iter_mut().zip(MOVED) {
            border.keep_in_place(plane(blocks.water, which), later);
        }
        self.pigments = blocks.paints.len();
        for (k, (number, block)) in blocks.paints.iter().enumerate() {
            if self.paints.len() <= k {
                self.paints.push((*number, Border::default()));
            }
            let (kept, border) = &mut self.paints[k];
            *kept = *number;
            border.keep_in_place(plane(block, SWIMS), later);
        }
    }

    /// A plane of water as it was, by its place in [`MOVED`]; nothing where the tile was not yet worked.
    fn water(&self, kept: usize) -> Option<&Border> {
        self.kept.then(|| &self.water[kept])
    }

    /// What swam of a pigment.
    fn paint(&self, number: usize) -> Option<&Border> {
        self.paints[..self.pigments].iter().find(|(n, _)| *n == number).map(|(_, border)| border)
    }
}

/// Gathers the water of a tile and around it; what the end of a `pair` of steps needs, too.
pub fn gather_in_place(
    m: impl Machine,
    blocks: &[Blocks<'_>],
    old: &[Old],
    nine: [Option<usize>; 9],
    s: &mut Scratch,
    pair: bool,
) {
    let around = |which: usize, kept: Option<usize>| {
        nine.map(|n| match n {
            None => Around::None,
            Some(n) => match kept.and_then(|kept| old[n].water(kept)) {
                Some(border) => Around::Border(border),
                None => Around::Plane(plane(blocks[n].water, which)),
            },
        })
    };
    step::gather_in_place(m, around(ON, Some(0)), 0..HIGH, &mut s.on[..]);
    if pair {
        step::gather_in_place(m, around(IN, Some(1)), 0..HIGH, &mut s.inside[..]);
        s.find_wets_in_place(true);
    } else {
        s.find_flows_in_place();
        step::gather_in_place(m, around(IN, Some(1)), s.flows.rows(0..HIGH), &mut s.inside[..]);
    }
    let rows = s.flows.rows(0..HIGH);
    for (kept, field) in [&mut s.fill, &mut s.u, &mut s.v, &mut s.push].into_iter().enumerate() {
        let kept = kept + 2;
        step::gather_in_place(m, around(MOVED[kept], Some(kept)), rows.clone(), &mut field[..]);
    }
    let mask = |n: usize| blocks[n].resist.as_deref().map(|b| plane(b, MASK));
    s.masked = nine.iter().flatten().any(|n| mask(*n).is_some());
    if s.masked {
        let around = nine.map(|n| n.and_then(mask).map_or(Around::None, Around::Plane));
        step::gather_in_place(m, around, rows.clone(), &mut s.mask[..]);
    }
    let nodes = |from: usize, count: usize| nine.map(|n| n.map(|n| &blocks[n].water[from..from + count]));
    step::gather_nodes_in_place::<FOURS, _, _>(nodes(ROUND, NODES), &mut s.round);
    if pair {
        step::gather_in_place(m, around(PASSED_X, None), rows.clone(), &mut s.passed_x[..]);
        step::gather_in_place(m, around(PASSED_Y, None), rows, &mut s.passed_y[..]);
        step::gather_nodes_in_place::<FOURS, _, _>(nodes(DRIFT_X, NODES), &mut s.drift_x);
        step::gather_nodes_in_place::<FOURS, _, _>(nodes(DRIFT_Y, NODES), &mut s.drift_y);
        step::gather_nodes_in_place::<FOURS, _, _>(nodes(STIRS, NODES), &mut s.stirs);
        step::gather_nodes_in_place::<TWOS, _, _>(nodes(HUMID, TWOS * TWOS), &mut s.humid);
    }
}

/// Gathers what water is in the paper of a tile and around it; nothing stands there.
pub fn gather_damp_in_place(
    m: impl Machine,
    blocks: &[Blocks<'_>],
    old: &[Old],
    nine: [Option<usize>; 9],
    s: &mut Scratch,
) {
    const KEPT: usize = 1;
    const _: () = assert!(MOVED[KEPT] == IN);
    s.on.fill(0.0);
    let around = nine.map(|n| match n {
        None => Around::None,
        Some(n) => match old[n].water(KEPT) {
            Some(border) => Around::Border(border),
            None => Around::Plane(plane(blocks[n].water, IN)),
        },
    });
    step::gather_in_place(m, around, 0..HIGH, &mut s.inside[..]);
    s.find_wets_in_place(false);
}

/// Gathers the paints of a tile and around it.
pub fn gather_paints_in_place(
    m: impl Machine,
    blocks: &[Blocks<'_>],
    old: &[Old],
    nine: [Option<usize>; 9],
    wets: &Spans,
    paints: &mut Vec<Swimming>,
) {
    let here = &blocks[nine[4].expect("the tile itself")];
    for (k, (number, _)) in here.paints.iter().enumerate() {
        if paints.len() <= k {
            paints.push(Swimming::new(TABLE[*number]));
        }
        paints[k].in_water = TABLE[*number];
        let around = nine.map(|n| {
            let Some(n) = n else { return Around::None };
            if old[n].kept {
                return old[n].paint(*number).map_or(Around::None, Around::Border);
            }
            blocks[n].paint(*number).map_or(Around::None, |block| Around::Plane(plane(block, SWIMS)))
        });
        step::gather_in_place(m, around, wets.rows(0..HIGH), &mut paints[k].swims[..]);
    }
}

/// Rows of a tile outside of which its planes hold nothing of how water moved, unless water stands there.
fn moved_rows(water: &[f32]) -> Range<usize> {
    water[MOVES_FROM] as usize..water[MOVES_END] as usize
}

fn set_moved_rows(water: &mut [f32], rows: Range<usize>) {
    (water[MOVES_FROM], water[MOVES_END]) = (rows.start as f32, rows.end as f32);
}

/// Leaves nothing of a plane in those of some rows that are not among others.
fn clear_rows_in_place(plane: &mut [f32], rows: &Range<usize>, others: &Range<usize>) {
    for part in step::outside(rows, others) {
        plane[part.start * TILE..part.end.max(part.start) * TILE].fill(0.0);
    }
}

/// Puts fields where water stands on a tile into its planes, and clears these where it stood before.
fn put_flow_in_place(m: impl Machine, s: &Scratch, fields: &[(usize, &Field)], water: &mut [f32]) {
    let (now, before) = (s.flows.own_rows(), moved_rows(water));
    for (which, field) in fields {
        let plane = plane_in_place(water, *which);
        step::keep(m, &field[..], &s.flows, plane);
        clear_rows_in_place(plane, &before, &now);
    }
}

pub fn put_first_in_place(m: impl Machine, s: &Scratch, blocks: &mut Blocks<'_>) {
    let fields = [
        (ON, &s.on_after),
        (FILL, &s.fill_after),
        (U, &s.u),
        (V, &s.v),
        (PASSED_X, &s.flux_x),
        (PASSED_Y, &s.flux_y),
    ];
    put_flow_in_place(m, s, &fields, blocks.water);
    // The paint's push is as it was.
    let rows = step::hull(moved_rows(blocks.water), s.flows.own_rows());
    set_moved_rows(blocks.water, rows);
}

/// The greatest share of each cell that water ever reached.
pub fn cover_in_place(m: impl Machine, s: &Scratch, blocks: &mut Blocks<'_>) {
    let cover = plane_in_place(blocks.water, COVER).as_chunks_mut::<TILE>().0;
    m.run(
        #[inline(always)]
        move || {
            for y in s.flows.rows(MARGIN_Y..MARGIN_Y + TILE) {
                let fill = step::packs(&s.fill_after, y * WIDE);
                let cover = cover[y - MARGIN_Y].as_chunks_mut::<PACK>().0;
                for k in step::shared(&s.flows.row(y), &OWN) {
                    let cover = &mut cover[k - OWN.start];
                    *cover = larger(m.of(*cover), m.of(fill[k])).to_array();
                }
            }
        },
    );
}

/// What stands on a tile after the second step.
pub fn put_film_in_place(m: impl Machine, s: &Scratch, pace: &Pace, blocks: &mut Blocks<'_>) {
    let fields = [(ON, &s.on_after), (FILL, &s.fill_after), (U, &s.u), (V, &s.v), (PUSH, &s.push)];
    put_flow_in_place(m, s, &fields, blocks.water);
    let (now, before) = (s.flows.own_rows(), moved_rows(blocks.water));
    for which in [PASSED_X, PASSED_Y] {
        clear_rows_in_place(plane_in_place(blocks.water, which), &before, &now);
    }
    let stands = any(&plane(blocks.water, ON)[now.start * TILE..now.end * TILE]);
    set_moved_rows(blocks.water, now);
    // What pushes water besides its own head bears no longer steps.
    let driven = blocks.resist.as_deref().is_some_and(resist::drives);
    let [deepest, fastest, swings] = s.most(m, pace.swings);
    blocks.water[DEEPEST] = if driven { f32::INFINITY } else { deepest };
    // Steps are not made longer again by a moment's calm.
    blocks.water[SWINGS] = swings.max(SWUNG * blocks.water[SWINGS]);
    blocks.water[FASTEST] = fastest * pace.parts as f32 / pace.every as f32;
    blocks.water[FILM] = if stands { HAS_FILM } else { (blocks.water[FILM] - 1.0).max(0.0) };
}

pub fn put_second_in_place(
    m: impl Machine,
    s: &Scratch,
    paints: &[Swimming],
    paper: &PaperTile,
    pace: &Pace,
    blocks: &mut Blocks<'_>,
) {
    let rows = s.wets.own_rows();
    step::keep(m, &s.in_after[..], &s.wets, plane_in_place(blocks.water, IN));
    let planes = [ON, IN].into_iter().map(|p| plane(blocks.water, p));
    let mut wet = Sides::of(planes, rows, REACH);
    for (paint, (number, block)) in paints.iter().zip(&mut blocks.paints) {
        step::keep(m, &paint.swims[..], &s.wets, plane_in_place(block, SWIMS));
        step::settle_damp_in_place(m, s, paper, pace, &TABLE[*number], block);
        let (any, sides) = Sides::of(std::iter::once(plane(block, SWIMS)), s.settled_rows(), REACH);
        block[SWIMS_SIDES] = sides.keep();
        wet.0 |= any;
    }
    blocks.water[WET] = if wet.0 { IS_WET } else { BESIDE };
    blocks.water[WET_SIDES] = wet.1.keep();
}
