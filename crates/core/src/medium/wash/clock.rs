//! The clock of watercolour: which tiles are wet, in what order they are worked, and what each step does.

use std::cell::RefCell;
use std::rc::Rc;

use super::awake::{BESIDE, IS_WET, Near, REACH, awake_in_place, is_wet};
use super::blocks::{
    Blocks, COVER, DRIFT_X, FILL, FILM, FOURS, HAS_FILM, HUMID, IN, ON, PASSED_X, PASSED_Y, PUSH, ROUND,
    SWIMS, SWIMS_SIDES, Sides, TWOS, U, V, WATER, WET, WET_SIDES, pigments_of, plane, plane_in_place,
};
use super::drying::dry_in_place;
use super::grids::{grids_in_place, humidity_in_place};
use super::paper::{Paper, PaperTile};
use super::pigments::TABLE;
use super::resist::MASK;
use super::step::{self, Air, Around, Border, Pace, Scratch, Swimming};
use crate::sheet::{Changed, Clock, Sheet, TILE, TILE_PIXELS, Tile};

/// Time over water.
pub struct Water;

const NODES: usize = FOURS * FOURS;

impl Clock for Water {
    fn busy(&self, sheet: &Sheet) -> bool {
        sheet.tiles().any(is_wet)
    }

    fn still(&self, sheet: &Sheet) -> bool {
        let swims = |block: &[f32]| plane(block, SWIMS).iter().any(|v| *v > 0.0);
        let moves = |tile: &Tile| {
            tile.block(&WATER).is_some_and(|b| b[FILM] > 0.0) || pigments_of(tile).any(|(_, b)| swims(b))
        };
        !sheet.tiles().any(moves)
    }

    fn end_in_place(&self, sheet: &mut Sheet) {
        let (across, down) = (sheet.across(), sheet.down());
        for (tx, ty) in (0..down).flat_map(|ty| (0..across).map(move |tx| (tx, ty))) {
            if sheet.tile(tx, ty).is_some_and(|t| t.block(&WATER).is_some()) {
                dry_in_place(sheet.tile_in_place(tx, ty));
            }
        }
    }

    fn step_in_place(&self, sheet: &mut Sheet, changed: &mut Changed) {
        let surroundings = sheet.surroundings();
        let pace = Pace::new(sheet.pixel_mm(), surroundings.slope());
        if !sheet.steps().is_multiple_of(pace.every) {
            return;
        }
        let air = Air { takes: surroundings.dries() as f32, even: false };
        let paper = Paper::of(sheet);
        for part in 0..pace.parts {
            let number = sheet.steps() / pace.every * pace.parts + part;
            step_in_place(sheet, number, &pace, air, &paper, changed);
        }
    }
}

/// What a step of some number does.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Kind {
    /// The first of a pair.
    First { settles: bool },
    /// The second.
    Second { rolls: bool, grids: bool },
}

impl Kind {
    fn of(number: u64) -> Self {
        match number % 4 {
            0 => Kind::Second { rolls: true, grids: true },
            2 => Kind::Second { rolls: false, grids: false },
            n => Kind::First { settles: n == 3 },
        }
    }
}

/// What a tile was like along its lower and right border before the step.
struct Old {
    water: Vec<Border>,
    paints: Vec<(usize, Border)>,
}

/// Planes of water that a step changes, in the order in which [`Old`] keeps them.
const MOVED: [usize; 6] = [ON, IN, FILL, U, V, PUSH];

/// What the work is done in, made once.
#[derive(Default)]
struct Workplace {
    scratch: Scratch,
    paints: Vec<Swimming>,
}

/// One step of water.
pub fn step_in_place(
    sheet: &mut Sheet,
    number: u64,
    pace: &Pace,
    air: Air,
    paper: &Paper,
    changed: &mut Changed,
) {
    thread_local! {
        static WORKPLACE: RefCell<Workplace> = RefCell::default();
    }
    let keys = awake_in_place(sheet);
    if keys.is_empty() {
        return;
    }
    let kind = Kind::of(number);
    let ground = sheet.ground().clone();
    let papers: Vec<Rc<PaperTile>> = keys.iter().map(|key| paper.tile(&ground, *key)).collect();
    let near = Near::of(&keys, [sheet.across(), sheet.down()]);
    let with_paints = kind != Kind::First { settles: false };
    let mut blocks: Vec<Blocks<'_>> =
        sheet.tiles_in_place(&keys).into_iter().map(|tile| Blocks::of_in_place(tile, with_paints)).collect();
    WORKPLACE.with_borrow_mut(|place| {
        let mut old: Vec<Option<Old>> = keys.iter().map(|_| None).collect();
        for i in 0..keys.len() {
            let nine = near.nine(i);
            // Where no water stands, nor around it, none flows.
            let stands = |n: &usize| blocks[*n].water[FILM] > 0.0;
            if matches!(kind, Kind::First { .. }) && !nine.iter().flatten().any(stands) {
                continue;
            }
            gather_in_place(&blocks, &old, nine, &mut place.scratch, kind);
            step::flow_in_place(&mut place.scratch, &papers[i], pace);
            match kind {
                Kind::First { settles } => {
                    old[i] = Some(keep_old(&blocks[i]));
                    put_first_in_place(&place.scratch, &mut blocks[i]);
                    for (number, block) in blocks[i].paints.iter_mut().filter(|_| settles) {
                        step::settle_in_place(&place.scratch, &papers[i], pace, &TABLE[*number], block);
                    }
                }
                Kind::Second { rolls, .. } => {
                    gather_paints_in_place(&blocks, &old, nine, &mut place.paints);
                    let count = blocks[i].paints.len();
                    let Workplace { scratch, paints } = place;
                    step::carry_in_place(scratch, &papers[i], pace, rolls, &mut paints[..count]);
                    old[i] = Some(keep_old(&blocks[i]));
                    cover_in_place(scratch, &mut blocks[i]);
                    let resist = blocks[i].resist.as_deref_mut();
                    step::dry_in_place(scratch, &papers[i], pace, air, &paints[..count], resist);
                    put_second_in_place(scratch, &paints[..count], &papers[i], pace, &mut blocks[i]);
                    changed.tile(keys[i], [0, 0, TILE, TILE]);
                }
            }
        }
    });
    match kind {
        Kind::Second { grids: true, .. } => grids_in_place(&mut blocks, &near, &papers, pace),
        Kind::Second { grids: false, .. } => {
            for _ in 0..pace.humid_runs {
                humidity_in_place(&mut blocks, &near, pace);
            }
        }
        Kind::First { .. } => {}
    }
}

fn keep_old(blocks: &Blocks<'_>) -> Old {
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

/// Gathers the water of a tile and around it.
fn gather_in_place(
    blocks: &[Blocks<'_>],
    old: &[Option<Old>],
    nine: [Option<usize>; 9],
    s: &mut Scratch,
    kind: Kind,
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
    let fields = [&mut s.on, &mut s.inside, &mut s.fill, &mut s.u, &mut s.v, &mut s.push];
    for (kept, (which, field)) in MOVED.into_iter().zip(fields).enumerate() {
        step::gather_in_place(around(which, Some(kept)), &mut field[..]);
    }
    let mask = |n: usize| blocks[n].resist.as_deref().map(|b| plane(b, MASK));
    s.masked = nine.iter().flatten().any(|n| mask(*n).is_some());
    if s.masked {
        let around = nine.map(|n| n.and_then(mask).map_or(Around::None, Around::Plane));
        step::gather_in_place(around, &mut s.mask[..]);
    }
    let nodes = |from: usize, count: usize| nine.map(|n| n.map(|n| &blocks[n].water[from..from + count]));
    step::gather_nodes_in_place(nodes(ROUND, NODES), &mut s.round);
    if matches!(kind, Kind::Second { .. }) {
        step::gather_in_place(around(PASSED_X, None), &mut s.passed_x[..]);
        step::gather_in_place(around(PASSED_Y, None), &mut s.passed_y[..]);
        step::gather_nodes_in_place(nodes(DRIFT_X, NODES), &mut s.drift_x);
        step::gather_nodes_in_place(nodes(super::blocks::DRIFT_Y, NODES), &mut s.drift_y);
        step::gather_nodes_in_place(nodes(HUMID, TWOS * TWOS), &mut s.humid);
    }
}

/// Gathers the paints of a tile and around it.
fn gather_paints_in_place(
    blocks: &[Blocks<'_>],
    old: &[Option<Old>],
    nine: [Option<usize>; 9],
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
        step::gather_in_place(around, &mut paints[k].swims[..]);
    }
}

fn put_first_in_place(s: &Scratch, blocks: &mut Blocks<'_>) {
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
fn cover_in_place(s: &Scratch, blocks: &mut Blocks<'_>) {
    let mut fill = [0.0; TILE_PIXELS];
    step::keep(&s.fill_after[..], &mut fill);
    for (cover, fill) in plane_in_place(blocks.water, COVER).iter_mut().zip(fill) {
        *cover = cover.max(fill);
    }
}

fn put_second_in_place(
    s: &Scratch,
    paints: &[Swimming],
    paper: &PaperTile,
    pace: &Pace,
    blocks: &mut Blocks<'_>,
) {
    let fields =
        [(ON, &s.on_after), (IN, &s.in_after), (FILL, &s.fill_after), (U, &s.u), (V, &s.v), (PUSH, &s.push)];
    for (which, field) in fields {
        step::keep(&field[..], plane_in_place(blocks.water, which));
    }
    let mut wet = Sides::of([ON, IN].into_iter().map(|p| plane(blocks.water, p)), REACH);
    for (paint, (number, block)) in paints.iter().zip(&mut blocks.paints) {
        step::keep(&paint.swims[..], plane_in_place(block, SWIMS));
        step::settle_damp_in_place(s, paper, pace, &TABLE[*number], block);
        let (any, sides) = Sides::of(std::iter::once(plane(block, SWIMS)), REACH);
        block[SWIMS_SIDES] = sides.keep();
        wet.0 |= any;
    }
    let stands = plane(blocks.water, ON).iter().any(|v| *v > 0.0);
    blocks.water[FILM] = if stands { HAS_FILM } else { (blocks.water[FILM] - 1.0).max(0.0) };
    blocks.water[WET] = if wet.0 { IS_WET } else { BESIDE };
    blocks.water[WET_SIDES] = wet.1.keep();
}
