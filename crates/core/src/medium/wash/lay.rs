//! A wet touch of some cells: water is raised towards what the tip gives, never lowered, and brings its paint.

use super::awake::IS_WET;
use super::blocks::{
    BOUND, Blocks, COVER, FILL, FILM, HAS_FILM, HUMID, IN, LOOSE, ON, PIGMENTS, SWIMS, SWIMS_SIDES, Sides,
    TWOS, WET, WET_SIDES,
};
use super::pigments::TABLE;
use crate::sheet::{TILE, TILE_PIXELS, Tile};

/// Paint makes the air over it as humid as this.
const HUMID_OVER: f32 = 0.95;

/// What a touch brings.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Brings {
    /// Film where it covers and touches wholly, µm.
    pub film_um: f32,
    /// Share of what is missing to that which it gives at once.
    pub gives: f32,
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

/// Touches cells of one tile.
pub fn touch_in_place(tile: &mut Tile, cells: &[Cell], brings: &Brings, takes: Takes) -> Did {
    let mut did = Did::default();
    if cells.is_empty() {
        return did;
    }
    for (number, _) in &brings.paints {
        tile.make_in_place(&PIGMENTS[*number]);
    }
    let Blocks { water, mut paints, .. } = Blocks::of_in_place(tile, true);
    for cell in cells {
        let (i, share) = (cell.index, cell.share);
        let at = |which: usize| which * TILE_PIXELS + i;
        let wanted = brings.film_um * cell.film * share;
        let before = water[at(ON)];
        let given = (brings.gives * (wanted - before)).max(0.0);
        // What is already there, and over what the tip holds: a thirsty one drinks it, from the sheet and out of the paper.
        let drunk_share = takes.drinks * share;
        let drunk = drunk_share * (before - wanted).max(0.0);
        let drunk_in = drunk_share * 0.25 * water[at(IN)];
        let swims_share = if before > 0.0 { drunk / before } else { drunk_share };
        for (number, block) in &mut paints {
            let (q, d, b) = (block[at(SWIMS)], block[at(LOOSE)], block[at(BOUND)]);
            let lifts = TABLE[*number].lifts;
            let wet = before + given > 0.0;
            let (loosened, freed) = if wet {
                (takes.loosens * share * lifts * d, takes.frees * share * lifts * b)
            } else {
                (0.0, 0.0)
            };
            let brought = brings
                .paints
                .iter()
                .find(|(n, _)| n == number)
                .map_or(0.0, |(_, strength)| given * strength * cell.paint);
            let taken = swims_share * q;
            block[at(SWIMS)] = ((q - taken) + (loosened + freed)) + brought;
            block[at(LOOSE)] = d - loosened;
            block[at(BOUND)] = b - freed;
            if brought > 0.0 {
                count(&mut did.given, *number, f64::from(brought));
            }
            if taken > 0.0 {
                count(&mut did.taken, *number, f64::from(taken));
            }
        }
        let on = (before - drunk) + given;
        water[at(ON)] = on;
        water[at(IN)] -= drunk_in;
        if on > 0.0 && given > 0.0 {
            water[at(FILL)] = water[at(FILL)].max(share.min(1.0));
            water[at(COVER)] = water[at(COVER)].max(share.min(1.0));
        }
        let humid = HUMID + (i / TILE / 2) * TWOS + i % TILE / 2;
        if given > 0.0 {
            water[humid] = water[humid].max(HUMID_OVER * share);
        }
        did.water_given += f64::from(given);
        did.water_taken += f64::from(drunk + drunk_in);
    }
    // Where exactly it is wet the next pair of steps will tell.
    let all = Sides::ALL;
    water[WET] = IS_WET;
    water[WET_SIDES] = all.keep();
    water[FILM] = HAS_FILM;
    paints.iter_mut().for_each(|(_, block)| block[SWIMS_SIDES] = all.keep());
    did
}
