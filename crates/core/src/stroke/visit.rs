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

/// Where and how a dab acts.
pub(super) struct At {
    pub shown: Footprint,
    pub thin: f32,
    pub mean_load: f32,
    pub travel: f32,
    pub tooth: f32,
    /// Length of the footprint along the way, mm.
    pub pass: f32,
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

/// The contact tables of a tile, made or brought to `tooth` where needed.
#[allow(clippy::too_many_arguments)] // what a contact is made of
pub(super) fn contact_in_place<'a>(
    tiles: &'a mut HashMap<(usize, usize), TileContact>,
    key: (usize, usize),
    sheet: &Sheet,
    feel: Feel,
    stick: &Stick,
    tooth: f32,
    grain_within: f32,
    ranks: Option<&Ranks>,
) -> &'a Contact {
    let entry = tiles.entry(key).or_insert_with(|| {
        let ground = sheet.ground_tile(key.0, key.1, feel);
        let mut contact = Contact::new(&ground, stick.grit, stick.grain, tooth, grain_within);
        if let Some(ranks) = ranks {
            rank_in_place(&mut contact, &ground, ranks);
        }
        TileContact { ground, tooth, contact }
    });
    if entry.tooth != tooth {
        let rank = std::mem::take(&mut entry.contact.rank);
        entry.contact = Contact::new(&entry.ground, stick.grit, stick.grain, tooth, grain_within);
        entry.contact.rank = rank;
        entry.tooth = tooth;
    }
    &entry.contact
}
