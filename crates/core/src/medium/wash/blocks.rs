//! What watercolour keeps on a sheet: water on and in the paper, and of each pigment what swims, lies loose and is bound.

use std::ops::Range;

use super::pigments::{self, COUNT, Vehicle};
use super::resist::RESIST;
use crate::lanes::{Lanes, all, larger};
use crate::medium::Amount;
use crate::paint::BANDS;
use crate::sheet::{Layout, Sheet, TILE, TILE_PIXELS, Tile};

/// Water, and how it moves.
pub static WATER: Layout = Layout {
    name: "water",
    order: 100,
    values: WATER_PLANES,
    planes: true,
    beside: BESIDE,
    material: 0..WATER_PLANES,
    tells: false,
    fresh: &[ON],
    dried: &[],
    dries_at: None,
    clock: Some(&super::clock::Water),
};

pub const WATER_PLANES: usize = 9;
/// Water on the sheet, the mean over the cell, and in it, µm.
pub const ON: usize = 0;
pub const IN: usize = 1;
/// Share of the cell that water has reached.
pub const FILL: usize = 2;
/// Velocity through the left and the upper face, cells a step.
pub const U: usize = 3;
pub const V: usize = 4;
/// Water that went through the left and the upper face in the first step of a pair, µm.
pub const PASSED_X: usize = 5;
pub const PASSED_Y: usize = 6;
/// Push of the paint in the head, µm.
pub const PUSH: usize = 7;
/// The greatest share of the cell that water ever reached.
pub const COVER: usize = 8;

/// Nodes of the grids of two and of four cells, along a side.
pub const TWOS: usize = TILE / 2;
pub const FOURS: usize = TILE / 4;
/// Where the grids lie after the planes: humidity of the air; then, on the grid of four cells, sums of the paint's strength times water, of
/// water, of the filled share; the local roundness; the drift across their left edges and down over their upper ones; how strongly paint is stirred.
pub const HUMID: usize = WATER_PLANES * TILE_PIXELS;
pub const SUM_PAINT: usize = HUMID + TWOS * TWOS;
pub const SUM_WATER: usize = SUM_PAINT + FOURS * FOURS;
pub const SUM_FILL: usize = SUM_WATER + FOURS * FOURS;
pub const ROUND: usize = SUM_FILL + FOURS * FOURS;
pub const DRIFT_X: usize = ROUND + FOURS * FOURS;
pub const DRIFT_Y: usize = DRIFT_X + FOURS * FOURS;
pub const STIRS: usize = DRIFT_Y + FOURS * FOURS;
/// Whether anything in the tile is wet, and near which of its sides ([`Sides`]).
pub const WET: usize = STIRS + FOURS * FOURS;
pub const WET_SIDES: usize = WET + 1;
/// Whether any water stands in the tile: counts down once none does, so that what it leaves behind in its velocities is gone before nought.
pub const FILM: usize = WET_SIDES + 1;
pub const HAS_FILM: f32 = 2.0;
/// The deepest water in the tile, the mean over a cell, µm, no less than it is, and without bounds where it is not known; and the fastest that runs through
/// a cell, cells a step of the sheet's clock, as it was found last. A line of water that goes ahead into one cell runs through none.
pub const DEEPEST: usize = FILM + 1;
pub const FASTEST: usize = DEEPEST + 1;
/// How near deep and fast water came of late to swinging in the usual step: over 1 it would.
pub const SWINGS: usize = FASTEST + 1;
/// Outside of these rows, from one up to another, nothing is kept of how water moved, where none stands.
pub const MOVES_FROM: usize = SWINGS + 1;
pub const MOVES_END: usize = MOVES_FROM + 1;
const BESIDE: usize = MOVES_END + 1 - HUMID;

/// A pigment: so much of it swims, lies loose, is bound; µm of tube-strength film each.
pub static PIGMENTS: [Layout; COUNT] = layouts();

pub const PAINT_PLANES: usize = 3;
pub const SWIMS: usize = 0;
pub const LOOSE: usize = 1;
pub const BOUND: usize = 2;
/// Near which sides of the tile any of it swims.
pub const SWIMS_SIDES: usize = PAINT_PLANES * TILE_PIXELS;

const fn layouts() -> [Layout; COUNT] {
    const NONE: Layout = pigment(0);
    let mut out = [NONE; COUNT];
    let mut i = 1;
    while i < COUNT {
        out[i] = pigment(i);
        i += 1;
    }
    out
}

const fn pigment(i: usize) -> Layout {
    Layout {
        name: pigments::NAMES[i],
        order: 110 + i as u8,
        values: PAINT_PLANES,
        planes: true,
        beside: 1,
        material: 0..PAINT_PLANES,
        tells: false,
        fresh: &[],
        dried: &[],
        dries_at: None,
        clock: None,
    }
}

/// One plane of a block.
#[inline]
pub fn plane(block: &[f32], which: usize) -> &[f32] {
    &block[which * TILE_PIXELS..(which + 1) * TILE_PIXELS]
}

#[inline]
pub fn plane_in_place(block: &mut [f32], which: usize) -> &mut [f32] {
    &mut block[which * TILE_PIXELS..(which + 1) * TILE_PIXELS]
}

/// Whether any of some values, whole fours of them, is above nought; all are looked at.
#[inline(always)]
pub fn any(values: &[f32]) -> bool {
    let fours = values.as_chunks().0;
    let most = fours.iter().fold(all(0.0), |most, four| larger(Lanes::from(*four), most));
    most.simd_gt(all(0.0)).any()
}

/// Sides of a tile, as bits: left, right, upper, lower.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Sides(pub u8);

impl Sides {
    pub const LEFT: u8 = 1;
    pub const RIGHT: u8 = 2;
    pub const UPPER: u8 = 4;
    pub const LOWER: u8 = 8;

    /// Every one.
    pub const ALL: Self = Self(Self::LEFT | Self::RIGHT | Self::UPPER | Self::LOWER);

    /// Of what a tile's block keeps.
    pub fn kept(value: f32) -> Self {
        Self(value as u8)
    }

    pub fn keep(self) -> f32 {
        f32::from(self.0)
    }

    /// Whether something lies near the side, or the corner, that faces a neighbour.
    pub fn faces(self, [dx, dy]: [i64; 2]) -> bool {
        let across = match dx {
            -1 => Self::LEFT,
            1 => Self::RIGHT,
            _ => 0,
        };
        let down = match dy {
            -1 => Self::UPPER,
            1 => Self::LOWER,
            _ => 0,
        };
        self.0 & (across | down) == across | down
    }

    /// Near which sides any of some planes' values is above nought in some rows, within `reach` pixels of it.
    pub fn of<'a>(planes: impl Iterator<Item = &'a [f32]>, rows: Range<usize>, reach: usize) -> (bool, Self) {
        let (mut some, mut sides) = (false, 0);
        for plane in planes {
            let plane = &plane.as_chunks::<TILE>().0[rows.clone()];
            for (y, row) in rows.clone().zip(plane) {
                let (left, right) = (any(&row[..reach]), any(&row[TILE - reach..]));
                let here = left | right | any(&row[reach..TILE - reach]);
                some |= here;
                sides |= u8::from(left) * Self::LEFT + u8::from(right) * Self::RIGHT;
                let ends = u8::from(y < reach) * Self::UPPER + u8::from(y + reach >= TILE) * Self::LOWER;
                sides |= u8::from(here) * ends;
            }
        }
        (some, Self(sides))
    }
}

/// The number in the table of the pigment that a layout is for; nothing for another layout.
fn pigment_of(layout: &Layout) -> Option<usize> {
    usize::from(layout.order).checked_sub(usize::from(PIGMENTS[0].order)).filter(|n| *n < COUNT)
}

/// The pigments that a tile holds, by their numbers in the table, with what it holds of them.
pub fn pigments_of(tile: &Tile) -> impl Iterator<Item = (usize, &[f32])> {
    tile.blocks().filter_map(|(l, b)| Some((pigment_of(l)?, b)))
}

/// What a tile holds of watercolour, to be changed.
pub struct Blocks<'a> {
    pub water: &'a mut [f32],
    /// What keeps water off, where there is any.
    pub resist: Option<&'a mut [f32]>,
    /// Pigments by their numbers in the table.
    pub paints: Vec<(usize, &'a mut [f32])>,
}

impl<'a> Blocks<'a> {
    /// Of a tile, its water made where there is none; its pigments only where they are wanted.
    pub fn of_in_place(tile: &'a mut Tile, with_paints: bool) -> Self {
        tile.make_in_place(&WATER);
        let wanted = |l: &Layout| l.is(&WATER) || l.is(&RESIST) || (with_paints && pigment_of(l).is_some());
        let (mut water, mut resist, mut paints) = (None, None, Vec::new());
        for (layout, block) in tile.some_in_place(wanted) {
            match pigment_of(layout) {
                Some(number) => paints.push((number, block)),
                None if layout.is(&RESIST) => resist = Some(block),
                None => water = Some(block),
            }
        }
        Self { water: water.expect("it was made"), resist, paints }
    }

    /// Its block of a pigment.
    pub fn paint(&self, number: usize) -> Option<&[f32]> {
        self.paints.iter().find(|(n, _)| *n == number).map(|(_, b)| &**b)
    }
}

/// So much of each pigment, µm of tube strength over mm², as an amount.
pub fn amount_of(paints: impl IntoIterator<Item = (usize, f64)>) -> Amount {
    let mut out = Amount::default();
    for (number, um_mm2) in paints {
        let [k, s] = pigments::bands(number);
        out.mm3 += 1e-3 * um_mm2;
        for b in 0..BANDS {
            out.k[b] += um_mm2 * f64::from(k[b]);
            out.s[b] += um_mm2 * f64::from(s[b]);
        }
    }
    out
}

/// All pigment on a sheet in some vehicles, wet and dry; water is not counted.
pub fn on_sheet(sheet: &Sheet, is: impl Fn(Vehicle) -> bool) -> Amount {
    let um = |block: &[f32]| block[..PAINT_PLANES * TILE_PIXELS].iter().map(|v| f64::from(*v)).sum::<f64>();
    let of = sheet.tiles().flat_map(pigments_of).filter(|(number, _)| is(Vehicle::of(*number)));
    let paints = of.map(|(number, block)| (number, um(block)));
    amount_of(paints) * (sheet.pixel_mm() * sheet.pixel_mm())
}

/// Water on and in the sheet, mm³.
pub fn water_mm3(sheet: &Sheet) -> f64 {
    let of = |tile: &Tile| {
        let block = tile.block(&WATER)?;
        Some([ON, IN].into_iter().flat_map(|p| plane(block, p)).map(|v| f64::from(*v)).sum::<f64>())
    };
    sheet.tiles().filter_map(of).sum::<f64>() * 1e-3 * sheet.pixel_mm() * sheet.pixel_mm()
}
