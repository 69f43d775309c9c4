//! The clock of watercolour: which tiles are wet, in what order they are worked, and what each step does.

use std::cell::RefCell;
use std::ops::Range;
use std::rc::Rc;

use super::around::{
    Old, cover_in_place, gather_damp_in_place, gather_in_place, gather_paints_in_place, put_film_in_place,
    put_first_in_place, put_second_in_place,
};
use super::awake::{Near, awake_in_place, is_wet, near_wet};
use super::blocks::{
    Blocks, DEEPEST, FASTEST, FILM, SWIMS, SWINGS, U, V, WATER, pigments_of, plane, plane_in_place,
};
use super::drying::dry_in_place;
use super::grids::{grids_in_place, humidity_in_place};
use super::paper::{Paper, PaperTile};
use super::pigments::TABLE;
use super::step::{self, Air, Pace, Scratch, Swimming};
use crate::packs::{self, Machine, Portable};
use crate::sheet::{Beat, Changed, Clock, STEP_S, Sheet, TILE, Tile};

/// Time over water.
pub struct Water;

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

    fn prepare(&self, sheet: &Sheet, n: usize) -> bool {
        let (across, down) = (sheet.across(), sheet.down());
        if n < across * down {
            Paper::of(sheet).tile(sheet.ground(), (n % across, n / across));
        }
        n < across * down
    }

    fn prepare_step(&self, sheet: &Sheet) -> bool {
        let paper = Paper::of(sheet);
        let missing = near_wet(sheet).find(|key| !paper.has(*key));
        missing.inspect(|key| drop(paper.tile(sheet.ground(), *key))).is_some()
    }

    fn step_in_place(&self, sheet: &mut Sheet, changed: &mut Changed) {
        let surroundings = sheet.surroundings();
        let Due { mut beat, begins, steps } = due(sheet);
        if begins {
            let before = sheet.beat(&WATER);
            sheet.set_beat(&WATER, beat);
            let [now, then] = [beat, before].map(|goes| goes.every as f32 / goes.parts as f32);
            if before.every != 0 && now != then {
                keep_speeds_in_place(sheet, now / then);
            }
        }
        if steps.is_empty() {
            return;
        }
        let usual =
            Pace::in_parts(sheet.pixel_mm(), surroundings.slope(), beat.every as f64, beat.parts as f64);
        let mut pace = usual;
        let seconds = |steps: u64| (steps as f64 * STEP_S / beat.parts as f64) as f32;
        pace.settles_s += seconds(beat.longer);
        pace.dries_s += seconds(beat.longer_pair);
        let air = Air { takes: surroundings.dries() as f32, even: false };
        let paper = Paper::of(sheet);
        for number in steps.start * pace.parts + 1..=steps.end * pace.parts {
            step_in_place(sheet, number, &pace, air, &paper, changed);
            // What took longer has dried, and settled.
            if number.is_multiple_of(2) {
                (pace.dries_s, beat.longer_pair) = (usual.dries_s, 0);
            }
            if number.is_multiple_of(TOGETHER) {
                (pace, beat.longer) = (usual, 0);
            }
            sheet.set_beat(&WATER, beat);
        }
    }
}

/// Steps of water that belong together: after so many all kinds of them were taken.
const TOGETHER: u64 = 4;
/// So many are taken at once at most.
const AT_ONCE: u64 = 4;

/// Steps become so many times as long: water goes on as fast as it did, which is kept in cells a step.
fn keep_speeds_in_place(sheet: &mut Sheet, longer: f32) {
    let wet: Vec<(usize, usize)> = awake_in_place(sheet);
    for tile in sheet.tiles_in_place(&wet) {
        let water = tile.block_in_place(&WATER);
        for which in [U, V] {
            plane_in_place(water, which).iter_mut().for_each(|speed| *speed *= longer);
        }
    }
}

/// Steps of water that are due in a step of the sheet's.
struct Due {
    beat: Beat,
    /// The clock begins to go so.
    begins: bool,
    /// Which, counted since then.
    steps: Range<u64>,
}

/// How the clock goes in the sheet's step that is due: it changes after steps that belong together, and at once where what stands there now does
/// not bear steps that long.
fn due(sheet: &Sheet) -> Due {
    let (now, goes) = (sheet.steps(), sheet.beat(&WATER));
    let tiles = sheet.tiles().filter_map(|tile| tile.block(&WATER));
    let [deepest, fastest, swings] = tiles.fold([0.0_f32; 3], |most, water| {
        [most[0].max(water[DEEPEST]), most[1].max(water[FASTEST]), most[2].max(water[SWINGS])]
    });
    let [bears, parts] = Pace::bears(sheet.pixel_mm(), deepest, fastest, swings);
    let gone = now - goes.since;
    if goes.every == 0 || gone > TOGETHER * goes.every {
        let beat = Beat { since: now - 1, every: bears, parts, longer: 0, longer_pair: 0 };
        return Due { beat, begins: true, steps: 0..1 / bears };
    }
    let taken = (gone - 1) / goes.every;
    if bears < goes.every {
        // Time since its last step is not lost: as many of the new ones are taken at once, as far as who paints does not wait for them.
        let waited = gone - taken * goes.every;
        let steps = taken..taken + (waited / bears).min(AT_ONCE);
        // Steps that belong together are gone on with, or some kind of them might never come.
        let since = now - steps.end % TOGETHER * bears - waited % bears;
        let each = goes.every - bears;
        let longer = goes.longer + taken * goes.parts % TOGETHER * each;
        let longer_pair = goes.longer_pair + taken * goes.parts % 2 * each;
        let beat = Beat { since, every: bears, parts: goes.parts, longer, longer_pair };
        return Due { beat, begins: true, steps };
    }
    Due { beat: goes, begins: false, steps: taken..gone / goes.every }
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

/// What the work is done in, made once.
#[derive(Default)]
struct Workplace {
    scratch: Box<Scratch>,
    paints: Vec<Swimming>,
    old: Vec<Old>,
}

/// One step of water, with the widest registers that the machine has.
pub fn step_in_place(
    sheet: &mut Sheet,
    number: u64,
    pace: &Pace,
    air: Air,
    paper: &Paper,
    changed: &mut Changed,
) {
    match packs::wide() {
        Some(m) => step_on(m, sheet, number, pace, air, paper, changed),
        None => step_on(Portable, sheet, number, pace, air, paper, changed),
    }
}

/// The same on some machine.
pub fn step_on(
    m: impl Machine,
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
    let stands: Vec<bool> = blocks.iter().map(|b| b.water[FILM] > 0.0).collect();
    WORKPLACE.with_borrow_mut(|place| {
        let Workplace { scratch, paints, old } = place;
        old.resize_with(old.len().max(keys.len()), Old::default);
        old.iter_mut().for_each(Old::let_go);
        for i in 0..keys.len() {
            let nine = near.nine(i);
            let flows = nine.iter().flatten().any(|n| stands[*n]);
            // Where no water stands, nor around it, none flows.
            if matches!(kind, Kind::First { .. }) && !flows {
                continue;
            }
            if flows {
                gather_in_place(m, &blocks, old, nine, scratch, matches!(kind, Kind::Second { .. }));
                step::flow_in_place(m, scratch, &papers[i], pace);
            } else {
                gather_damp_in_place(m, &blocks, old, nine, scratch);
                scratch.nothing_flows_in_place();
            }
            match kind {
                Kind::First { settles } => {
                    old[i].keep_in_place(&blocks[i], &nine);
                    put_first_in_place(m, scratch, &mut blocks[i]);
                    for (number, block) in blocks[i].paints.iter_mut().filter(|_| settles) {
                        step::settle_in_place(m, scratch, &papers[i], pace, &TABLE[*number], block);
                    }
                }
                Kind::Second { rolls, .. } => {
                    gather_paints_in_place(m, &blocks, old, nine, &scratch.wets, paints);
                    let count = blocks[i].paints.len();
                    let (paints, paper) = (&mut paints[..count], &papers[i]);
                    old[i].keep_in_place(&blocks[i], &nine);
                    step::carry_in_place(m, scratch, paper, pace, rolls, paints);
                    if flows {
                        cover_in_place(m, scratch, &mut blocks[i]);
                        let resist = blocks[i].resist.as_deref_mut();
                        step::dry_in_place(m, scratch, paper, pace, air, paints, resist);
                        put_film_in_place(m, scratch, pace, &mut blocks[i]);
                    } else {
                        step::dry_damp_in_place(m, scratch, paper, pace, air);
                        [DEEPEST, FASTEST, SWINGS].iter().for_each(|which| blocks[i].water[*which] = 0.0);
                    }
                    put_second_in_place(m, scratch, paints, paper, pace, &mut blocks[i]);
                    changed.tile(keys[i], [0, 0, TILE, TILE]);
                }
            }
        }
    });
    match kind {
        // Without any film there is neither an edge nor a drift, as was found when the last of it went.
        Kind::Second { grids: true, .. } if stands.contains(&true) => {
            grids_in_place(&mut blocks, &near, &papers, pace)
        }
        Kind::Second { grids: true, .. } => {}
        Kind::Second { grids: false, .. } => {
            for _ in 0..pace.humid_runs {
                humidity_in_place(&mut blocks, &near, pace);
            }
        }
        Kind::First { .. } => {}
    }
}
