//! What a dab does to the pixels under it: lays powder or a film, lets dust fall, moves what lies there.

use super::Engine;
use crate::ground::Feel;
use crate::medium::dry::{self, Done};
use crate::medium::entry::{Entering, Entry};
use crate::medium::press::Press;
use crate::medium::rub::{self, Rub};
use crate::medium::sheer::{self, Sheer};
use crate::relief::flat::Eye;
use crate::sheet::{Rect, Sheet};
use crate::stroke::qualities::Values;
use crate::stroke::visit::{At, Contacts, corner, tiles_of};
use crate::tip::Stamp;
use crate::tool::parameter::Quality;

impl Engine {
    /// Lays powder under the tip.
    #[allow(clippy::too_many_arguments)] // a dab is many numbers
    pub(super) fn lay_in_place(
        &mut self,
        at: &At,
        press: &Press,
        stamp: Option<&Stamp<'_>>,
        values: &Values,
        rect: Rect,
        sheet: &mut Sheet,
        done: &mut Done,
    ) {
        let stroke = self.stroke_base + self.pass.as_ref().map_or(0, |p| p.number) + 1;
        let pixel = sheet.pixel_mm() as f32;
        let dab = dry::Dab {
            footprint: at.shown,
            stamp,
            press,
            stick: &self.stick,
            face: &self.face,
            flow: values.get(Quality::Flow) as f32,
            opacity: values.get(Quality::Opacity) as f32,
            travel: at.travel,
            thin: at.thin,
            stroke: stroke as f32,
            pass: at.pass,
            entering: (self.entry != Entry::Contact).then(|| Entering {
                entry: self.entry,
                depth: values.get(Quality::Depth) as f32,
                least: values.get(Quality::LeastDepth) as f32,
                mean_load: at.mean_load,
            }),
        };
        if let Some(sheer) = &self.sheer {
            return lay_film_in_place(sheer, &mut self.contacts, (&dab, at.tooth), rect, sheet, done);
        }
        let before = done.laid;
        let mut dust = self.dust.take();
        if let Some(dust) = dust.as_mut() {
            dust.begin(rect);
        }
        let shed_before = dust.as_ref().map_or(0.0, |d| d.pool());
        for (key, window) in tiles_of(rect) {
            let contact = self.contacts.of_in_place(key, sheet, at.tooth);
            let blocks = sheet
                .tile_in_place(key.0, key.1)
                .dry_blocks_in_place(self.stick.even, self.stick.number as u16);
            let falling = dust.as_mut().map(|d| (key, d));
            dry::lay_in_place(blocks, contact, &dab, corner(key, pixel), pixel, window, falling, done);
        }
        let shed = dust.as_ref().map_or(0.0, |d| d.pool()) - shed_before;
        self.from_stick += f64::from(done.laid - before) + shed;
        self.dust = dust;
    }

    /// Lets dust fall where the last dab lay, after `travel` mm; gives the pixels it may have fallen on.
    pub(super) fn settle_in_place(&mut self, travel: f32, sheet: &mut Sheet) -> Option<Rect> {
        let dust = self.dust.as_mut()?;
        let stick = &self.stick;
        dust.fall_in_place(travel, &stick.powder, (stick.number, stick.bound), |(x, y), work| {
            work(sheet.tile_in_place(x, y).dry_blocks_in_place(false, stick.number as u16));
        });
        dust.within()
    }

    /// Moves what lies under the tip.
    #[allow(clippy::too_many_arguments)] // a dab is many numbers
    pub(super) fn rub_in_place(
        &mut self,
        rub: &mut Rub,
        at: &At,
        press: &Press,
        stamp: Option<&Stamp<'_>>,
        values: &Values,
        rect: Rect,
        sheet: &mut Sheet,
        done: &mut Done,
    ) {
        let pixel = sheet.pixel_mm() as f32;
        let dab = rub::Dab {
            footprint: at.shown,
            stamp,
            press,
            face: &self.face,
            flow: values.get(Quality::Flow) as f32,
            travel: at.travel,
            thin: at.thin,
            pixel_mm2: self.pixel_mm2,
        };
        let tiles: Vec<_> = tiles_of(rect).collect();
        for (n, (key, window)) in tiles.iter().enumerate() {
            let contact = self.contacts.of_in_place(*key, sheet, at.tooth);
            let blocks = sheet.tile_in_place(key.0, key.1).dry_blocks_in_place(false, 0);
            rub.take_in_place(blocks, contact, &dab, n, corner(*key, pixel), pixel, *window, done);
        }
        let block = |n: usize, work: &mut dyn FnMut(&mut [f32])| {
            let (x, y) = tiles[n].0;
            work(sheet.tile_in_place(x, y).dry_blocks_in_place(false, 0).dry);
        };
        rub.give_in_place(&dab, block, done);
    }
}

/// Lays a film under the tip, on the ground at a depth of the tooth.
fn lay_film_in_place(
    sheer: &Sheer,
    contacts: &mut Contacts,
    (dab, tooth): (&dry::Dab<'_>, f32),
    rect: Rect,
    sheet: &mut Sheet,
    done: &mut Done,
) {
    let pixel = sheet.pixel_mm() as f32;
    let ground = sheet.ground().clone();
    let eye = Eye::new(ground.bare(), sheet.grain_within(Feel::default()));
    for (key, window) in tiles_of(rect) {
        let contact = contacts.of_in_place(key, sheet, tooth);
        let tile = sheet.tile_in_place(key.0, key.1);
        let mut film = tile.take_film();
        let under = |index| sheer::encoded(eye.without_film(tile, index));
        sheer::lay_in_place(&mut film, under, sheer, contact, dab, corner(key, pixel), pixel, window, done);
        tile.film = Some(film);
    }
}
