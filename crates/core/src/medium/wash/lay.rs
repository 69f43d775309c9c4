//! A wet touch of some cells: water is raised towards what the tip gives, never lowered, and brings its paint.

use super::awake::IS_WET;
use super::blocks::{
    BOUND, Blocks, COVER, DEEPEST, FILL, FILM, HAS_FILM, HUMID, IN, LOOSE, ON, PAINT_PLANES, PIGMENTS, SWIMS,
    SWIMS_SIDES, Sides, TWOS, WATER_PLANES, WET, WET_SIDES,
};
use super::pigments::TABLE;
use crate::sheet::{TILE, TILE_PIXELS, Tile};

/// Paint makes the air over it as humid as this.
const HUMID_OVER: f32 = 0.95;

/// Film that no tip drinks, µm: the paper's face stays wet, and what is wet beside it can run back (tuned by eye).
const STAYS_UM: f32 = 6.0;
/// Of what a thirsty tip would drink from a film, the share that it gets out of the paper: fibres hold their water, and stay damp (tuned by eye).
const OUT_OF_PAPER: f32 = 0.03;

/// What a touch brings.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Brings {
    /// Film where it covers and touches wholly, µm.
    pub film_um: f32,
    /// Share of what is missing to that which it gives at once.
    pub gives: f32,
    /// Share of the water there that it changes for its own, as far as its own film goes.
    pub mingles: f32,
    /// Paint to water: µm of tube strength for a µm of water, by the pigments' numbers.
    pub paints: Vec<(usize, f32)>,
}

/// What a touch does to what it meets.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct Takes {
    /// Share of the water over what it brings that it drinks, with what swims in it.
    pub drinks: f32,
    /// Share of what lies loose, and of what is bound, that it sets afloat, of a pigment that lifts wholly.
    pub loosens: f32,
    pub frees: f32,
}

/// What a touch did, µm × cells.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Did {
    pub water_given: f64,
    pub water_taken: f64,
    /// What of each pigment went onto the sheet, and what was taken up.
    pub given: Vec<(usize, f64)>,
    pub taken: Vec<(usize, f64)>,
    /// Paint that went onto the sheet for what was there, without water.
    pub mingled: f64,
}

/// Adds to what is counted of a pigment.
pub fn count(paints: &mut Vec<(usize, f64)>, number: usize, um: f64) {
    match paints.iter_mut().find(|(n, _)| *n == number) {
        Some((_, sum)) => *sum += um,
        None => paints.push((number, um)),
    }
}

impl Did {
    pub fn add(&mut self, other: &Did) {
        self.water_given += other.water_given;
        self.water_taken += other.water_taken;
        self.mingled += other.mingled;
        other.given.iter().for_each(|(number, um)| count(&mut self.given, *number, *um));
        other.taken.iter().for_each(|(number, um)| count(&mut self.taken, *number, *um));
    }
}

/// One cell that is touched: its place in the tile, the share of it that the tip covers and touches, and how much of the film and of the
/// paint comes there.
#[derive(Debug, Clone, Copy)]
pub struct Cell {
    pub index: usize,
    pub share: f32,
    pub film: f32,
    pub paint: f32,
}

/// A plane of a tile.
type Plane = [f32; TILE_PIXELS];

/// A pigment of a tile that is touched.
struct Touched<'a> {
    number: usize,
    planes: &'a mut [Plane; PAINT_PLANES],
    sides: &'a mut f32,
    lifts: f32,
    /// How strong it is in what comes there.
    strength: f32,
    /// What of it came and went, µm × cells.
    given: f64,
    taken: f64,
}

impl<'a> Touched<'a> {
    fn of(number: usize, block: &'a mut [f32], brings: &Brings) -> Self {
        let (planes, beside) = block.split_at_mut(SWIMS_SIDES);
        Self {
            number,
            planes: planes.as_chunks_mut().0.try_into().expect("planes of a paint"),
            sides: &mut beside[0],
            lifts: TABLE[number].lifts,
            strength: brings.paints.iter().find(|(n, _)| *n == number).map_or(0.0, |(_, s)| *s),
            given: 0.0,
            taken: 0.0,
        }
    }
}

/// Touches cells of one tile.
pub fn touch_in_place(tile: &mut Tile, cells: &[Cell], brings: &Brings, takes: Takes) -> Did {
    let mut did = Did::default();
    if cells.is_empty() {
        return did;
    }
    for (number, _) in &brings.paints {
        tile.make_in_place(&PIGMENTS[*number]);
    }
    let Blocks { water, paints, .. } = Blocks::of_in_place(tile, true);
    let mut paints: Vec<Touched<'_>> =
        paints.into_iter().map(|(n, block)| Touched::of(n, block, brings)).collect();
    let (planes, beside) = water.split_at_mut(WATER_PLANES * TILE_PIXELS);
    let planes: &mut [Plane; WATER_PLANES] = planes.as_chunks_mut().0.try_into().expect("planes of water");
    let mut deepest = beside[DEEPEST - HUMID];
    for cell in cells {
        let (i, share) = (cell.index, cell.share);
        let wanted = brings.film_um * cell.film * share;
        let before = planes[ON][i];
        let given = (brings.gives * (wanted - before)).max(0.0);
        // What is already there, and over what the tip holds: a thirsty one drinks it, from the sheet and out of the paper.
        let drunk_share = takes.drinks * share;
        let drunk = drunk_share * (before - wanted.max(STAYS_UM)).max(0.0);
        let drunk_in = drunk_share * OUT_OF_PAPER * planes[IN][i];
        let swims_share = if before > 0.0 { drunk / before } else { drunk_share };
        // What is there and what the tip holds change places, the same of both: paint goes where there is less of it.
        let mingled_share =
            if before > 0.0 { brings.mingles * share * (wanted / before).min(1.0) } else { 0.0 };
        let wet = before + given > 0.0;
        for paint in &mut paints {
            let [q, d, b] = [SWIMS, LOOSE, BOUND].map(|which| paint.planes[which][i]);
            let (loosened, freed) = if wet {
                (takes.loosens * share * paint.lifts * d, takes.frees * share * paint.lifts * b)
            } else {
                (0.0, 0.0)
            };
            let strength = paint.strength * cell.paint;
            let drunk_paint = swims_share * q;
            let mingled = mingled_share * (strength * (before - drunk) - (q - drunk_paint));
            let brought = given * strength + mingled.max(0.0);
            let taken = drunk_paint + (-mingled).max(0.0);
            paint.planes[SWIMS][i] = ((q - taken) + (loosened + freed)) + brought;
            paint.planes[LOOSE][i] = d - loosened;
            paint.planes[BOUND][i] = b - freed;
            did.mingled += f64::from(mingled.max(0.0));
            paint.given += f64::from(brought);
            paint.taken += f64::from(taken);
        }
        let on = (before - drunk) + given;
        planes[ON][i] = on;
        planes[IN][i] -= drunk_in;
        if on > 0.0 && given > 0.0 {
            for which in [FILL, COVER] {
                planes[which][i] = planes[which][i].max(share.min(1.0));
            }
        }
        deepest = deepest.max(on);
        if given > 0.0 {
            let humid = &mut beside[(i / TILE / 2) * TWOS + i % TILE / 2];
            *humid = humid.max(HUMID_OVER * share);
        }
        did.water_given += f64::from(given);
        did.water_taken += f64::from(drunk + drunk_in);
    }
    for paint in &mut paints {
        did.given.extend((paint.given > 0.0).then_some((paint.number, paint.given)));
        did.taken.extend((paint.taken > 0.0).then_some((paint.number, paint.taken)));
        *paint.sides = Sides::ALL.keep();
    }
    // Where exactly it is wet the next pair of steps will tell.
    water[WET] = IS_WET;
    water[WET_SIDES] = Sides::ALL.keep();
    (water[FILM], water[DEEPEST]) = (HAS_FILM, deepest);
    did
}
