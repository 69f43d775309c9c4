//! What a step takes of a tile and of those around it, and puts back into the tile.

use super::awake::{BESIDE, IS_WET, REACH};
use super::blocks::{
    Blocks, COVER, DEEPEST, DRIFT_X, DRIFT_Y, FASTEST, FILL, FILM, FOURS, HAS_FILM, HUMID, IN, ON, PASSED_X,
    PASSED_Y, PUSH, ROUND, SWIMS, SWIMS_SIDES, Sides, TWOS, U, V, WET, WET_SIDES, any, plane, plane_in_place,
};
use super::paper::PaperTile;
use super::pigments::TABLE;
use super::resist::{self, MASK};
use super::step::{self, Around, Border, HIGH, MARGIN_X, MARGIN_Y, Pace, Scratch, Spans, Swimming, WIDE};
use crate::sheet::TILE;

const NODES: usize = FOURS * FOURS;

/// What a tile was like along its lower and right border before the step.
pub struct Old {
    water: Vec<Border>,
    paints: Vec<(usize, Border)>,
}

/// Planes of water that a step changes, in the order in which [`Old`] keeps them.
const MOVED: [usize; 6] = [ON, IN, FILL, U, V, PUSH];

pub fn keep_old(blocks: &Blocks<'_>) -> Old {
    Old {
        water: step::borders_of(MOVED.iter().map(|p| plane(blocks.water, *p))),
        paints: blocks
            .paints
            .iter()
            .map(|(number, block)| {
                let [border] = step::borders_of(std::iter::once(plane(block, SWIMS)))
                    .try_into()
                    .unwrap_or_else(|_| unreachable!("one plane, one border"));
                (*number, border)
            })
            .collect(),
    }
}

/// Gathers the water of a tile and around it; what the end of a `pair` of steps needs, too.
pub fn gather_in_place(
    blocks: &[Blocks<'_>],
    old: &[Option<Old>],
    nine: [Option<usize>; 9],
    s: &mut Scratch,
    pair: bool,
) {
    let around = |which: usize, kept: Option<usize>| {
        nine.map(|n| match n {
            None => Around::None,
            Some(n) => match kept.and_then(|kept| old[n].as_ref().map(|o| &o.water[kept])) {
                Some(border) => Around::Border(border),
                None => Around::Plane(plane(blocks[n].water, which)),
            },
        })
    };
    for (kept, field) in [&mut s.on, &mut s.inside].into_iter().enumerate() {
        step::gather_in_place(around(MOVED[kept], Some(kept)), 0..HIGH, &mut field[..]);
    }
    s.find_spans_in_place(true);
    let rows = s.flows.rows(0..HIGH);
    for (kept, field) in [&mut s.fill, &mut s.u, &mut s.v, &mut s.push].into_iter().enumerate() {
        let kept = kept + 2;
        step::gather_in_place(around(MOVED[kept], Some(kept)), rows.clone(), &mut field[..]);
    }
    let mask = |n: usize| blocks[n].resist.as_deref().map(|b| plane(b, MASK));
    s.masked = nine.iter().flatten().any(|n| mask(*n).is_some());
    if s.masked {
        let around = nine.map(|n| n.and_then(mask).map_or(Around::None, Around::Plane));
        step::gather_in_place(around, rows.clone(), &mut s.mask[..]);
    }
    let nodes = |from: usize, count: usize| nine.map(|n| n.map(|n| &blocks[n].water[from..from + count]));
    step::gather_nodes_in_place(nodes(ROUND, NODES), &mut s.round);
    if pair {
        step::gather_in_place(around(PASSED_X, None), rows.clone(), &mut s.passed_x[..]);
        step::gather_in_place(around(PASSED_Y, None), rows, &mut s.passed_y[..]);
        step::gather_nodes_in_place(nodes(DRIFT_X, NODES), &mut s.drift_x);
        step::gather_nodes_in_place(nodes(DRIFT_Y, NODES), &mut s.drift_y);
        step::gather_nodes_in_place(nodes(HUMID, TWOS * TWOS), &mut s.humid);
    }
}

/// Gathers what water is in the paper of a tile and around it; nothing stands there.
pub fn gather_damp_in_place(
    blocks: &[Blocks<'_>],
    old: &[Option<Old>],
    nine: [Option<usize>; 9],
    s: &mut Scratch,
) {
    const KEPT: usize = 1;
    const _: () = assert!(MOVED[KEPT] == IN);
    s.on.fill(0.0);
    let around = nine.map(|n| match n {
        None => Around::None,
        Some(n) => match &old[n] {
            Some(old) => Around::Border(&old.water[KEPT]),
            None => Around::Plane(plane(blocks[n].water, IN)),
        },
    });
    step::gather_in_place(around, 0..HIGH, &mut s.inside[..]);
    s.find_spans_in_place(false);
}

/// Gathers the paints of a tile and around it.
pub fn gather_paints_in_place(
    blocks: &[Blocks<'_>],
    old: &[Option<Old>],
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
            if let Some(old) = &old[n] {
                let found = old.paints.iter().find(|(p, _)| p == number);
                return found.map_or(Around::None, |(_, border)| Around::Border(border));
            }
            blocks[n].paint(*number).map_or(Around::None, |block| Around::Plane(plane(block, SWIMS)))
        });
        step::gather_in_place(around, wets.rows(0..HIGH), &mut paints[k].swims[..]);
    }
}

pub fn put_first_in_place(s: &Scratch, blocks: &mut Blocks<'_>) {
    let fields = [
        (ON, &s.on_after),
        (FILL, &s.fill_after),
        (U, &s.u),
        (V, &s.v),
        (PASSED_X, &s.flux_x),
        (PASSED_Y, &s.flux_y),
    ];
    for (which, field) in fields {
        step::keep(&field[..], plane_in_place(blocks.water, which));
    }
}

/// The greatest share of each cell that water ever reached.
pub fn cover_in_place(s: &Scratch, blocks: &mut Blocks<'_>) {
    let cover = plane_in_place(blocks.water, COVER);
    for y in s.flows.rows(MARGIN_Y..MARGIN_Y + TILE) {
        let row = &mut cover[(y - MARGIN_Y) * TILE..][..TILE];
        let fill = &s.fill_after[y * WIDE + MARGIN_X..][..TILE];
        row.iter_mut().zip(fill).for_each(|(cover, fill)| *cover = cover.max(*fill));
    }
}

/// What stands on a tile after the second step.
pub fn put_film_in_place(s: &Scratch, pace: &Pace, blocks: &mut Blocks<'_>) {
    let fields = [(ON, &s.on_after), (FILL, &s.fill_after), (U, &s.u), (V, &s.v), (PUSH, &s.push)];
    for (which, field) in fields {
        step::keep(&field[..], plane_in_place(blocks.water, which));
    }
    // What pushes water besides its own head bears no longer steps.
    let driven = blocks.resist.as_deref().is_some_and(resist::drives);
    blocks.water[DEEPEST] = if driven { f32::INFINITY } else { s.most(&s.film) };
    blocks.water[FASTEST] = s.most(&s.u).max(s.most(&s.v)) * pace.parts as f32 / pace.every as f32;
    let stands = any(plane(blocks.water, ON));
    blocks.water[FILM] = if stands { HAS_FILM } else { (blocks.water[FILM] - 1.0).max(0.0) };
}

pub fn put_second_in_place(
    s: &Scratch,
    paints: &[Swimming],
    paper: &PaperTile,
    pace: &Pace,
    blocks: &mut Blocks<'_>,
) {
    step::keep(&s.in_after[..], plane_in_place(blocks.water, IN));
    let mut wet = Sides::of([ON, IN].into_iter().map(|p| plane(blocks.water, p)), REACH);
    for (paint, (number, block)) in paints.iter().zip(&mut blocks.paints) {
        step::keep_rows(
            &paint.swims[..],
            s.wets.rows(MARGIN_Y..MARGIN_Y + TILE),
            plane_in_place(block, SWIMS),
        );
        step::settle_damp_in_place(s, paper, pace, &TABLE[*number], block);
        let (any, sides) = Sides::of(std::iter::once(plane(block, SWIMS)), REACH);
        block[SWIMS_SIDES] = sides.keep();
        wet.0 |= any;
    }
    blocks.water[WET] = if wet.0 { IS_WET } else { BESIDE };
    blocks.water[WET_SIDES] = wet.1.keep();
}
