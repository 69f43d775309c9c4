//! One placement of a dab on the sheet, tile by tile: it lays powder or a film, lets dust fall, moves what lies there.

use super::Engine;
use super::dab::Pressing;
use crate::ground::Feel;
use crate::medium::dry::{self, Done, Laying};
use crate::medium::entry::{Entering, Entry};
use crate::medium::press::{Dab, Part, Press};
use crate::medium::rub::Giving;
use crate::medium::sheer;
use crate::relief::flat::Eye;
use crate::sheet::{Rect, Sheet, TILE};
use crate::stroke::qualities::Values;
use crate::stroke::visit::{corner, lies_everywhere, tiles_of, under};
use crate::tip::Footprint;
use crate::tool::Action;
use crate::tool::parameter::Quality;

/// Stream of chance: which field of specks.
const SPECKS: u64 = 5;

/// The tip where it is pressed on.
pub(super) struct Placing {
    shown: Footprint,
    thin: f32,
    press: Press,
    mean_load: f32,
    tooth: f32,
    travel: f32,
    pass: f32,
    /// Which field of specks, and depth of the grain.
    turn: usize,
    grain: f32,
    /// The tiles under it with the pixels to visit, and the next of them.
    tiles: Vec<((usize, usize), [usize; 4])>,
    next: usize,
    /// Where all tiles gave what they had and now are given to.
    giving: Option<Giving>,
    /// Powder laid, and dust shed, before it.
    laid_before: f32,
    shed_before: f64,
}

impl Placing {
    /// Every tile is done.
    pub(super) fn is_done(&self) -> bool {
        self.next == self.tiles.len() && self.giving.is_none()
    }
}

impl Engine {
    /// Presses the tip on; nothing where no pixel lies under it.
    pub(super) fn place(
        &mut self,
        footprint: &Footprint,
        pressing: &Pressing,
        values: &Values,
        k: i64,
        sheet: &Sheet,
        done: &Done,
    ) -> Option<Placing> {
        let pixel = sheet.pixel_mm() as f32;
        let (shown, thin) = footprint.for_pixels(pixel);
        let (reach_x, reach_y) = shown.reach();
        let across = (reach_x * shown.travel_sin.abs() + reach_y * shown.travel_cos.abs()) + pixel;
        let at_mm = self.total_mm + self.pass().travelled;
        self.face.fill_in_place(u64::from(self.tool.seed), across, at_mm as f32);
        let rect = under(&shown, pixel, sheet)?;
        let plane = self.bearing.plane(pressing.tooth, self.stick.grit, self.stick.give);
        let profile = &self.profiles[&pressing.hardness].0;
        let press = Press::new(profile, &plane, pressing.mean_load * footprint.profile_norm(profile));
        let press = press.biting(self.bite, footprint, &plane).riding(self.rides_on(&shown, sheet));
        if let Some(dust) = self.dust.as_mut() {
            dust.begin(rect);
        }
        Some(Placing {
            shown,
            thin,
            press,
            mean_load: pressing.mean_load,
            tooth: pressing.tooth,
            travel: pressing.travel,
            pass: pressing.pass,
            turn: (self.chance(SPECKS, k) >> 32) as usize,
            grain: values.get(Quality::Grain) as f32,
            tiles: tiles_of(rect).collect(),
            next: 0,
            giving: None,
            laid_before: done.laid,
            shed_before: self.shed(),
        })
    }

    /// Powder that a tip rides on, µm; none where it does not press.
    fn rides_on(&self, shown: &Footprint, sheet: &Sheet) -> f32 {
        if self.entry != Entry::Contact || self.tool.action == Action::Fix {
            return 0.0;
        }
        let even = (self.stick.even && self.tool.action == Action::Lay).then(|| self.stroke_number());
        lies_everywhere(shown, sheet.pixel_mm() as f32, sheet, even)
    }

    /// Number of the stroke on its sheet, from 1.
    fn stroke_number(&self) -> f32 {
        (self.stroke_base + self.pass().number + 1) as f32
    }

    /// Dust that has not fallen yet, µm × pixels.
    fn shed(&self) -> f64 {
        self.dust.as_ref().map_or(0.0, |d| d.pool())
    }

    /// Acts on the next tile under the tip; gives how many pixels that are, and which may have changed.
    pub(super) fn act_in_place(
        &mut self,
        placing: &mut Placing,
        values: &Values,
        sheet: &mut Sheet,
        done: &mut Done,
    ) -> (usize, Option<Rect>) {
        let (key, window) = placing.tiles[placing.next];
        let mut changed = Some(within(key, window));
        match (&mut placing.giving, &mut self.rub) {
            (Some(giving), Some(rub)) => {
                let blocks = sheet.tile_in_place(key.0, key.1).dry_blocks_in_place(false, 0);
                rub.give_in_place(giving, placing.next, blocks, done);
            }
            _ => self.tile_in_place(placing, (key, window), values, sheet, done),
        }
        placing.next += 1;
        if placing.next == placing.tiles.len() {
            changed =
                changed.into_iter().chain(self.all_tiles_in_place(placing, sheet, done)).reduce(Rect::union);
        }
        let [x0, y0, x1, y1] = window;
        ((x1 - x0) * (y1 - y0), changed)
    }

    /// Every tile had its turn: tools that give back turn to giving, dust falls.
    fn all_tiles_in_place(&mut self, placing: &mut Placing, sheet: &mut Sheet, done: &Done) -> Option<Rect> {
        if let Some(rub) = self.rub.as_mut() {
            if let Some(giving) = placing.giving.take() {
                rub.done_giving(giving);
            } else if let Some(giving) = rub.turn_to_giving(placing.travel) {
                placing.giving = Some(giving);
                placing.next = 0;
            }
            return None;
        }
        if self.sheer.is_none() {
            let shed = self.shed() - placing.shed_before;
            self.from_stick += f64::from(done.laid - placing.laid_before) + shed;
        }
        self.settle_in_place(placing.travel, sheet)
    }

    /// Lays on a tile, or takes from it.
    fn tile_in_place(
        &mut self,
        placing: &Placing,
        (key, window): ((usize, usize), [usize; 4]),
        values: &Values,
        sheet: &mut Sheet,
        done: &mut Done,
    ) {
        let pixel = sheet.pixel_mm() as f32;
        let origin = sheet.raster().origin_mm;
        let stroke = self.stroke_number();
        let Placing { shown, turn, grain, .. } = placing;
        let dab = Dab {
            footprint: *shown,
            stamp: self.stencil.as_deref().map(|s| s.stamp(shown, origin, *turn, *grain, pixel)),
            press: &placing.press,
            face: &self.face,
            flow: values.get(Quality::Flow) as f32,
            travel: placing.travel,
            thin: placing.thin,
        };
        let part = Part { corner_mm: corner(key, pixel), pixel, window };
        let contact = self.contacts.of_in_place(key, sheet, placing.tooth);
        if let Some(rub) = self.rub.as_mut() {
            let blocks = sheet.tile_in_place(key.0, key.1).dry_blocks_in_place(false, 0);
            return rub.take_in_place(blocks, contact, &dab, placing.next, part, done);
        }
        let laying = Laying {
            stick: &self.stick,
            opacity: values.get(Quality::Opacity) as f32,
            stroke,
            pass: placing.pass,
            entering: (self.entry != Entry::Contact).then(|| Entering {
                entry: self.entry,
                depth: values.get(Quality::Depth) as f32,
                least: values.get(Quality::LeastDepth) as f32,
                mean_load: placing.mean_load,
            }),
        };
        let dabs = (&dab, &laying);
        if let Some(sheer) = &self.sheer {
            let ground = sheet.ground().clone();
            let eye = Eye::new(ground.bare(), sheet.grain_within(Feel::default()));
            let tile = sheet.tile_in_place(key.0, key.1);
            let mut film = tile.take_film();
            let under = |index| sheer::encoded(eye.without_film(tile, index));
            sheer::lay_in_place(&mut film, under, sheer, contact, dabs, part, done);
            tile.film = Some(film);
        } else {
            let tile = sheet.tile_in_place(key.0, key.1);
            let blocks = tile.dry_blocks_in_place(self.stick.even, self.stick.number as u16);
            let falling = self.dust.as_mut().map(|d| (key, d));
            dry::lay_in_place(blocks, contact, dabs, part, falling, done);
        }
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
}

/// Pixels of the sheet that a tile's window is.
fn within((x, y): (usize, usize), [x0, y0, x1, y1]: [usize; 4]) -> Rect {
    let (left, top) = (x * TILE, y * TILE);
    Rect { left: left + x0, top: top + y0, right: left + x1, bottom: top + y1 }
}
