//! Which pixels a dab visits, tile by tile, and the ground there as the tool meets it.

use std::collections::HashMap;
use std::rc::Rc;

use crate::ground::{Feel, GroundTile};
use crate::medium::dry::Stick;
use crate::medium::entry::Ranks;
use crate::medium::press::{Contact, rank_in_place};
use crate::sheet::{Rect, Sheet, TILE};
use crate::tip::Footprint;

/// Tables of one tile's ground for one tooth depth.
pub(super) struct TileContact {
    ground: Rc<GroundTile>,
    tooth: f32,
    contact: Contact,
}

/// The pixels of a sheet under a footprint, if there are any.
pub(super) fn under(shown: &Footprint, pixel: f32, sheet: &Sheet) -> Option<Rect> {
    let (reach_x, reach_y) = shown.reach();
    let to_px = |mm: f32, ceil: bool, size: usize| {
        let px = mm / pixel + if ceil { 1.0 } else { -1.0 };
        let px = if ceil { px.ceil() } else { px.floor() };
        px.clamp(0.0, size as f32) as usize
    };
    let rect = Rect {
        left: to_px(shown.x - reach_x, false, sheet.width()),
        top: to_px(shown.y - reach_y, false, sheet.height()),
        right: to_px(shown.x + reach_x, true, sheet.width()),
        bottom: to_px(shown.y + reach_y, true, sheet.height()),
    };
    (rect.left < rect.right && rect.top < rect.bottom).then_some(rect)
}

/// Places along and across a footprint, as shares of its half axes, where what lies under it is felt.
const FELT_ALONG: [f32; 5] = [-0.8, -0.4, 0.0, 0.4, 0.8];
const FELT_ACROSS: [f32; 4] = [-0.6, -0.2, 0.2, 0.6];
/// How many of those places may have less.
const FELT_BARE: usize = 4;

/// Powder that lies everywhere under a footprint, µm: four places in five have as much. A tip rides on a closed layer; where
/// hollows are bare, it does not. `even`: number of an even stroke, whose own powder is not felt.
pub(super) fn lies_everywhere(shown: &Footprint, pixel: f32, sheet: &Sheet, even: Option<f32>) -> f32 {
    let mut felt = [0.0_f32; FELT_ALONG.len() * FELT_ACROSS.len()];
    let places = FELT_ALONG.iter().flat_map(|a| FELT_ACROSS.iter().map(move |b| (a, b)));
    for (um, (along, across)) in felt.iter_mut().zip(places) {
        let (u, v) = (along * (shown.half_length + shown.half_side), across * shown.half_width);
        let (x, y) = (shown.x + u * shown.cos - v * shown.sin, shown.y + u * shown.sin + v * shown.cos);
        // Beyond the sheet nothing lies.
        if x >= 0.0 && y >= 0.0 {
            *um = sheet.powder_um((x / pixel) as usize, (y / pixel) as usize, even);
        }
    }
    felt.sort_by(f32::total_cmp);
    felt[FELT_BARE]
}

/// The tiles under a rectangle, with the pixels of each to visit.
pub(super) fn tiles_of(rect: Rect) -> impl Iterator<Item = ((usize, usize), [usize; 4])> {
    let across = rect.left / TILE..=(rect.right - 1) / TILE;
    (rect.top / TILE..=(rect.bottom - 1) / TILE).flat_map(move |ty| {
        across.clone().map(move |tx| {
            let window = [
                rect.left.max(tx * TILE) - tx * TILE,
                rect.top.max(ty * TILE) - ty * TILE,
                rect.right.min((tx + 1) * TILE) - tx * TILE,
                rect.bottom.min((ty + 1) * TILE) - ty * TILE,
            ];
            ((tx, ty), window)
        })
    })
}

/// Corner of a tile, mm.
pub(super) fn corner((tx, ty): (usize, usize), pixel: f32) -> [f32; 2] {
    [(tx * TILE) as f32 * pixel, (ty * TILE) as f32 * pixel]
}

/// The ground under a sheet's tiles as one tool meets it, made where a dab first comes.
pub(super) struct Contacts {
    tiles: HashMap<(usize, usize), TileContact>,
    feel: Feel,
    /// The stick's, µm, and how far its grain varies what is shed.
    grit: f32,
    grain: f32,
    grain_within: f32,
    /// Ranks of heights, where the ground enters as an image.
    ranks: Option<Ranks>,
}

impl Contacts {
    pub(super) fn new(sheet: &Sheet, feel: Feel, stick: &Stick, ranks: Option<Ranks>) -> Self {
        Self {
            tiles: HashMap::new(),
            feel,
            grit: stick.grit,
            grain: stick.grain,
            grain_within: sheet.grain_within(feel),
            ranks,
        }
    }

    /// The tables of a tile, made or brought to `tooth` where needed.
    pub(super) fn of_in_place(&mut self, key: (usize, usize), sheet: &Sheet, tooth: f32) -> &Contact {
        let make = |ground: &GroundTile| {
            let mut contact = Contact::new(ground, self.grit, self.grain, tooth, self.grain_within);
            if let Some(ranks) = &self.ranks {
                rank_in_place(&mut contact, ground, ranks);
            }
            contact
        };
        let entry = self.tiles.entry(key).or_insert_with(|| {
            let ground = sheet.ground_tile(key.0, key.1, self.feel);
            TileContact { contact: make(&ground), ground, tooth }
        });
        if entry.tooth != tooth {
            entry.contact = make(&entry.ground);
            entry.tooth = tooth;
        }
        &entry.contact
    }
}
