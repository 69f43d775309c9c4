//! The clock of watercolour: which tiles are wet, in what order they are worked, and what each step does.

use std::cell::RefCell;
use std::rc::Rc;

use super::blocks::{
    COVER, DRIFT_X, FILL, FOURS, HUMID, IN, ON, PAINT_PLANES, PASSED_X, PASSED_Y, PIGMENTS, PUSH, ROUND,
    SUM_FILL, SUM_PAINT, SUM_WATER, SWIMS, SWIMS_SIDES, Sides, TWOS, U, V, WATER, WET, WET_SIDES,
    pigments_of, plane, plane_in_place,
};
use super::paper::{Paper, PaperTile};
use super::pigments::TABLE;
use super::step::{self, Air, Around, Border, Grid, Pace, Scratch, Swimming};
use crate::sheet::{Changed, Clock, Sheet, TILE, TILE_PIXELS, Tile};

/// Time over water.
pub struct Water;

/// A tile is worked where a neighbour is wet within so many pixels of it.
const REACH: usize = 8;
const NODES: usize = FOURS * FOURS;

impl Clock for Water {
    fn busy(&self, sheet: &Sheet) -> bool {
        sheet.tiles().any(is_wet)
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

/// What a tile's block says of itself: something in it is wet; it is only worked because it lies beside what is.
const IS_WET: f32 = 1.0;
const BESIDE: f32 = 0.5;

/// Whether anything in a tile is wet.
pub fn is_wet(tile: &Tile) -> bool {
    tile.block(&WATER).is_some_and(|b| b[WET] == IS_WET)
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

/// The blocks of a tile that are worked on.
struct Blocks<'a> {
    water: &'a mut [f32],
    /// Pigments by their numbers.
    paints: Vec<(usize, &'a mut [f32])>,
}

impl Blocks<'_> {
    fn paint(&self, number: usize) -> Option<&[f32]> {
        self.paints.iter().find(|(n, _)| *n == number).map(|(_, b)| &**b)
    }
}

/// What a tile was like along its lower and right border before the step.
struct Old {
    water: Vec<Border>,
    paints: Vec<(usize, Border)>,
}

/// Planes of water that a step changes, in the order in which [`Old`] keeps them.
const MOVED: [usize; 6] = [ON, IN, FILL, U, V, PUSH];

/// Room for the work, made once.
#[derive(Default)]
struct Room {
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
        static ROOM: RefCell<Room> = RefCell::default();
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
        sheet.tiles_in_place(&keys).into_iter().map(|tile| blocks_of(tile, with_paints)).collect();
    ROOM.with_borrow_mut(|room| {
        let mut old: Vec<Option<Old>> = keys.iter().map(|_| None).collect();
        for i in 0..keys.len() {
            let nine = near.nine(i);
            gather_in_place(&blocks, &old, nine, &mut room.scratch, kind);
            step::flow_in_place(&mut room.scratch, &papers[i], pace);
            match kind {
                Kind::First { settles } => {
                    old[i] = Some(keep_old(&blocks[i]));
                    put_first_in_place(&room.scratch, &mut blocks[i]);
                    for (number, block) in blocks[i].paints.iter_mut().filter(|_| settles) {
                        step::settle_in_place(&room.scratch, &papers[i], pace, &TABLE[*number], block);
                    }
                }
                Kind::Second { rolls, .. } => {
                    gather_paints_in_place(&blocks, &old, nine, &mut room.paints);
                    let count = blocks[i].paints.len();
                    let Room { scratch, paints } = room;
                    step::carry_in_place(scratch, &papers[i], pace, rolls, &mut paints[..count]);
                    old[i] = Some(keep_old(&blocks[i]));
                    cover_in_place(scratch, &mut blocks[i]);
                    step::dry_in_place(scratch, &papers[i], pace, air, &paints[..count]);
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

/// The tiles that are wet or border on what is, row by row, with blocks for what may come to them.
fn awake_in_place(sheet: &mut Sheet) -> Vec<(usize, usize)> {
    let (across, down) = (sheet.across() as i64, sheet.down() as i64);
    let mut awake = vec![false; (across * down) as usize];
    // Pigments that may come to a tile from beside it.
    let mut comes: Vec<((usize, usize), usize)> = Vec::new();
    for (ty, tx) in (0..down).flat_map(|ty| (0..across).map(move |tx| (ty, tx))) {
        let Some(tile) = sheet.tile(tx as usize, ty as usize) else { continue };
        let Some(water) = tile.block(&WATER).filter(|b| b[WET] == IS_WET) else { continue };
        awake[(ty * across + tx) as usize] = true;
        let sides = Sides::kept(water[WET_SIDES]);
        for (dx, dy) in (-1..=1).flat_map(|dy| (-1..=1).map(move |dx| (dx, dy))) {
            let (x, y) = (tx + dx, ty + dy);
            let inside = (0..across).contains(&x) && (0..down).contains(&y);
            if (dx, dy) == (0, 0) || !inside || !sides.faces([dx, dy]) {
                continue;
            }
            awake[(y * across + x) as usize] = true;
            let there = sheet.tile(x as usize, y as usize);
            for (number, block) in pigments_of(tile) {
                let faces = Sides::kept(block[SWIMS_SIDES]).faces([dx, dy]);
                if faces && there.is_none_or(|t| t.block(&PIGMENTS[number]).is_none()) {
                    comes.push(((x as usize, y as usize), number));
                }
            }
        }
    }
    for ((x, y), number) in comes {
        sheet.tile_in_place(x, y).make_in_place(&PIGMENTS[number]);
    }
    for i in (0..awake.len()).filter(|i| !awake[*i]) {
        let (x, y) = (i % across as usize, i / across as usize);
        let was = |tile: &Tile| tile.block(&WATER).is_some_and(|b| b[WET] == BESIDE);
        if sheet.tile(x, y).is_some_and(was) {
            fall_asleep_in_place(sheet.tile_in_place(x, y).block_in_place(&WATER));
        }
    }
    let keys: Vec<(usize, usize)> =
        (0..awake.len()).filter(|i| awake[*i]).map(|i| (i % across as usize, i / across as usize)).collect();
    for (x, y) in &keys {
        if sheet.tile(*x, *y).is_none_or(|t| t.block(&WATER).is_none()) {
            sheet.tile_in_place(*x, *y).make_in_place(&WATER);
        }
    }
    keys
}

/// Nothing of how water moved is left, and the air over it is as dry as elsewhere.
fn fall_asleep_in_place(water: &mut [f32]) {
    for which in [U, V, PASSED_X, PASSED_Y, PUSH] {
        plane_in_place(water, which).fill(0.0);
    }
    water[HUMID..=WET_SIDES].fill(0.0);
}

/// Which of the tiles at work lie around each of them.
struct Near {
    nine: Vec<[Option<usize>; 9]>,
}

impl Near {
    fn of(keys: &[(usize, usize)], [across, down]: [usize; 2]) -> Self {
        let mut at = vec![None; across * down];
        keys.iter().enumerate().for_each(|(i, (x, y))| at[y * across + x] = Some(i));
        let place = |(x, y): (usize, usize), k: usize| {
            let x = (x + k % 3).checked_sub(1).filter(|x| *x < across)?;
            let y = (y + k / 3).checked_sub(1).filter(|y| *y < down)?;
            at[y * across + x]
        };
        Self { nine: keys.iter().map(|key| std::array::from_fn(|k| place(*key, k))).collect() }
    }

    fn nine(&self, i: usize) -> [Option<usize>; 9] {
        self.nine[i]
    }
}

fn blocks_of(tile: &mut Tile, with_paints: bool) -> Blocks<'_> {
    let first = PIGMENTS[0].order;
    let number = |order: u8| usize::from(order - first);
    let is = |order: u8| order >= first && number(order) < PIGMENTS.len();
    let wanted = |order: u8| order == WATER.order || (with_paints && is(order));
    let mut water = None;
    let mut paints = Vec::new();
    for (layout, block) in tile.some_in_place(|l| wanted(l.order)) {
        if layout.is(&WATER) {
            water = Some(block);
        } else {
            paints.push((number(layout.order), block));
        }
    }
    Blocks { water: water.expect("it was made"), paints }
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
    blocks.water[WET] = if wet.0 { IS_WET } else { BESIDE };
    blocks.water[WET_SIDES] = wet.1.keep();
}

/// Roundness and drift of every tile at work.
fn grids_in_place(blocks: &mut [Blocks<'_>], near: &Near, papers: &[Rc<PaperTile>], pace: &Pace) {
    let mut strength = vec![0.0_f32; TILE_PIXELS];
    for b in blocks.iter_mut() {
        strength.fill(0.0);
        for (number, block) in &b.paints {
            let spreads = TABLE[*number].spreads;
            strength.iter_mut().zip(plane(block, SWIMS)).for_each(|(s, q)| *s += spreads * q);
        }
        // What swims where there is no film pulls nothing.
        strength.iter_mut().zip(plane(b.water, ON)).for_each(|(s, on)| *s = if *on > 0.0 { *s } else { 0.0 });
        let [paint, water, fill] = step::sums(&strength, plane(b.water, ON), plane(b.water, FILL));
        b.water[SUM_PAINT..SUM_PAINT + NODES].copy_from_slice(&paint);
        b.water[SUM_WATER..SUM_WATER + NODES].copy_from_slice(&water);
        b.water[SUM_FILL..SUM_FILL + NODES].copy_from_slice(&fill);
    }
    let mut grids = [Grid::fours(), Grid::fours(), Grid::fours()];
    for i in 0..blocks.len() {
        for (grid, from) in grids.iter_mut().zip([SUM_PAINT, SUM_WATER, SUM_FILL]) {
            let nodes = near.nine(i).map(|n| n.map(|n| &blocks[n].water[from..from + NODES]));
            step::gather_nodes_in_place(nodes, grid);
        }
        let [paint, water, fill] = &grids;
        let (round, rest) = blocks[i].water[ROUND..ROUND + 3 * NODES].split_at_mut(NODES);
        let (x, y) = rest.split_at_mut(NODES);
        step::grids_in_place([paint, water, fill], &papers[i].drifts, pace, [round, x, y]);
    }
}

/// A turn of the air's humidity over every tile at work.
fn humidity_in_place(blocks: &mut [Blocks<'_>], near: &Near, pace: &Pace) {
    const COUNT: usize = TWOS * TWOS;
    let mut grid = Grid::twos();
    let after: Vec<Vec<f32>> = (0..blocks.len())
        .map(|i| {
            let nodes = near.nine(i).map(|n| n.map(|n| &blocks[n].water[HUMID..HUMID + COUNT]));
            step::gather_nodes_in_place(nodes, &mut grid);
            step::humidity(&grid, plane(blocks[i].water, FILL), pace)
        })
        .collect();
    for (b, after) in blocks.iter_mut().zip(after) {
        b.water[HUMID..HUMID + COUNT].copy_from_slice(&after);
    }
}

const _: () = assert!(PAINT_PLANES == 3 && ROUND + NODES == DRIFT_X);
