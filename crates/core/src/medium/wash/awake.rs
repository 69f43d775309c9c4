//! Which tiles are worked: those in which something is wet, and those beside them that it may come to.

use super::blocks::{
    HUMID, PASSED_X, PASSED_Y, PIGMENTS, PUSH, SWIMS_SIDES, Sides, U, V, WATER, WET, WET_SIDES, pigments_of,
    plane_in_place,
};
use crate::sheet::{Sheet, Tile};

/// A tile is worked where a neighbour is wet within so many pixels of it.
pub const REACH: usize = 8;

/// What a tile's block says of itself: something in it is wet; it is only worked because it lies beside what is.
pub const IS_WET: f32 = 1.0;
pub const BESIDE: f32 = 0.5;

/// Whether anything in a tile is wet.
pub fn is_wet(tile: &Tile) -> bool {
    tile.block(&WATER).is_some_and(|b| b[WET] == IS_WET)
}

/// The tiles that are wet, each followed by those around it that it may come to; some again and again.
pub fn near_wet(sheet: &Sheet) -> impl Iterator<Item = (usize, usize)> {
    let (across, down) = (sheet.across() as i64, sheet.down() as i64);
    let wet = move |(tx, ty): &(i64, i64)| sheet.tile(*tx as usize, *ty as usize).is_some_and(is_wet);
    let tiles = (0..down).flat_map(move |ty| (0..across).map(move |tx| (tx, ty))).filter(wet);
    let nine = |(tx, ty)| (-1..=1).flat_map(move |dy| (-1..=1).map(move |dx| (tx + dx, ty + dy)));
    let inside = move |(x, y): &(i64, i64)| (0..across).contains(x) && (0..down).contains(y);
    tiles.flat_map(nine).filter(inside).map(|(x, y)| (x as usize, y as usize))
}

/// The tiles that are wet or border on what is, row by row, with blocks for what may come to them.
pub fn awake_in_place(sheet: &mut Sheet) -> Vec<(usize, usize)> {
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
    water[HUMID..].fill(0.0);
}

/// Which of the tiles at work lie around each of them.
pub struct Near {
    nine: Vec<[Option<usize>; 9]>,
}

impl Near {
    pub fn of(keys: &[(usize, usize)], [across, down]: [usize; 2]) -> Self {
        let mut at = vec![None; across * down];
        keys.iter().enumerate().for_each(|(i, (x, y))| at[y * across + x] = Some(i));
        let place = |(x, y): (usize, usize), k: usize| {
            let x = (x + k % 3).checked_sub(1).filter(|x| *x < across)?;
            let y = (y + k / 3).checked_sub(1).filter(|y| *y < down)?;
            at[y * across + x]
        };
        Self { nine: keys.iter().map(|key| std::array::from_fn(|k| place(*key, k))).collect() }
    }

    pub fn nine(&self, i: usize) -> [Option<usize>; 9] {
        self.nine[i]
    }
}
