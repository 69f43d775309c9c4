//! One placement of a dab on the sheet, tile by tile: it lays powder or a film, lets dust fall, moves what lies there.

use super::DryTool;
use super::felt::{corner, has_dried, lies_everywhere, under};
use crate::chain::{Action, Quality};
use crate::medium::dry::blocks::{DryBlocks, FILM, LAYER, POWDER};
use crate::medium::dry::done::Done;
use crate::medium::dry::entry::{Entering, Entry};
use crate::medium::dry::eye::Powdered;
use crate::medium::dry::laying::Laying;
use crate::medium::dry::press::{Dab, Part, Press};
use crate::medium::dry::rub::Giving;
use crate::medium::dry::{Dry, lay, sheer};
use crate::medium::eye::encoded;
use crate::medium::wash::resist;
use crate::medium::{At, Eye};
use crate::sheet::{Changed, Sheet};
use crate::tip::Footprint;

/// Stream of chance: which field of specks.
const SPECKS: u64 = 5;

/// How the tip presses at a dab.
pub(super) struct Pressing {
    /// Mean load P/H.
    pub(super) mean_load: f32,
    /// Stepped edge hardness.
    pub(super) hardness: u32,
    pub(super) tooth: f32,
    /// Travel it stands for, and length of the footprint along the way, mm.
    pub(super) travel: f32,
    pub(super) pass: f32,
}

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

impl DryTool {
    /// Presses the tip on, `strayed` so far from the way (mm); nothing where no pixel lies under it.
    pub(super) fn place(
        &mut self,
        (footprint, strayed): (&Footprint, [f32; 2]),
        pressing: &Pressing,
        at: &At,
        k: i64,
        sheet: &Sheet,
        done: &Done,
    ) -> Option<Box<Placing>> {
        let pixel = sheet.pixel_mm() as f32;
        let (shown, thin) = footprint.for_pixels(pixel);
        let (reach_x, reach_y) = shown.reach();
        let across = (reach_x * shown.travel_sin.abs() + reach_y * shown.travel_cos.abs()) + pixel;
        let way_mm = self.before_mm + at.way_mm();
        self.face.fill_in_place(self.seed, across, way_mm as f32);
        let rect = under(&shown, pixel, sheet)?;
        let plane = self.bearing.plane(pressing.tooth, self.stick.grit, self.stick.give);
        let profile = &self.profiles[&pressing.hardness].0;
        let load = pressing.mean_load * footprint.profile_norm(profile);
        let press = match self.entry {
            Entry::Contact => {
                let (a, b) = (shown.half_width, shown.half_length + shown.half_side);
                Press::on_pixels(profile, &plane, load, [pixel / a.min(b), pixel / a.max(b)])
            }
            // What the ground enters as an image does not stand on the peaks.
            _ => Press::new(profile, &plane, load),
        };
        let origin = sheet.raster().origin_mm;
        let middle =
            [at.place.x - origin[0] + f64::from(strayed[0]), at.place.y - origin[1] + f64::from(strayed[1])];
        let mut press = press.biting(self.bite, footprint, &plane);
        if self.entry == Entry::Contact {
            press = press.riding(self.rides_on(&shown, middle, at, sheet));
            if let Some(um) = has_dried(&shown, middle, sheet, rect) {
                press = press.raised(plane.raised_by(&um.map(|v| pressing.tooth * v), pressing.mean_load));
            }
        }
        if let Some(dust) = self.dust.as_mut() {
            dust.begin(rect);
        }
        self.rub.iter_mut().for_each(|rub| rub.begin(footprint.area()));
        Some(Box::new(Placing {
            shown,
            thin,
            press,
            mean_load: pressing.mean_load,
            tooth: pressing.tooth,
            travel: pressing.travel,
            pass: pressing.pass,
            turn: (self.chance(at, SPECKS, k) >> 32) as usize,
            grain: at.qualities.get(Quality::Grain) as f32,
            tiles: rect.tiles().collect(),
            next: 0,
            giving: None,
            laid_before: done.laid,
            shed_before: self.shed(),
        }))
    }

    /// Powder that a tip rides on, µm; none where it does not press.
    fn rides_on(&self, shown: &Footprint, middle: [f64; 2], at: &At, sheet: &Sheet) -> f32 {
        if self.action == Action::Fix {
            return 0.0;
        }
        let even = (self.stick.even && self.action == Action::Lay).then_some(at.known_as as f32);
        lies_everywhere(shown, middle, sheet, even)
    }

    /// Acts on the next tile under the tip; gives how many pixels that are.
    pub(super) fn act_in_place(
        &mut self,
        placing: &mut Placing,
        at: &At,
        sheet: &mut Sheet,
        done: &mut Done,
        changed: &mut Changed,
    ) -> usize {
        let (key, window) = placing.tiles[placing.next];
        changed.tile(key, window);
        match (&mut placing.giving, &mut self.rub) {
            (Some(giving), Some(rub)) => {
                let blocks = DryBlocks::of_in_place(sheet.tile_in_place(key.0, key.1), false, 0);
                rub.give_in_place(giving, placing.next, blocks, done);
            }
            _ => self.tile_in_place(placing, (key, window), at, sheet, done),
        }
        placing.next += 1;
        if placing.next == placing.tiles.len() {
            self.all_tiles_in_place(placing, sheet, done, changed);
        }
        let [x0, y0, x1, y1] = window;
        (x1 - x0) * (y1 - y0)
    }

    /// Every tile had its turn: tools that give back turn to giving, dust falls.
    fn all_tiles_in_place(
        &mut self,
        placing: &mut Placing,
        sheet: &mut Sheet,
        done: &Done,
        changed: &mut Changed,
    ) {
        if let Some(rub) = self.rub.as_mut() {
            if let Some(giving) = placing.giving.take() {
                rub.done_giving(giving);
            } else if let Some(giving) = rub.turn_to_giving(placing.travel) {
                placing.giving = Some(giving);
                placing.next = 0;
            }
            return;
        }
        if self.sheer.is_none() {
            let shed = self.shed() - placing.shed_before;
            self.from_stick += f64::from(done.laid - placing.laid_before) + shed;
        }
        self.settle_in_place(placing.travel, sheet, changed);
    }

    /// Lays on a tile, or takes from it.
    fn tile_in_place(
        &mut self,
        placing: &Placing,
        (key, window): ((usize, usize), [usize; 4]),
        at: &At,
        sheet: &mut Sheet,
        done: &mut Done,
    ) {
        let pixel = sheet.pixel_mm() as f32;
        let origin = sheet.raster().origin_mm;
        let Placing { shown, turn, grain, .. } = placing;
        let dab = Dab {
            footprint: *shown,
            stamp: self.stencil.as_deref().map(|s| s.stamp(shown, origin, *turn, *grain, pixel)),
            press: &placing.press,
            face: &self.face,
            flow: at.qualities.get(Quality::Flow) as f32,
            travel: placing.travel,
            thin: placing.thin,
        };
        let bare = sheet.tile(key.0, key.1).and_then(resist::bare_of);
        let part = Part { corner_mm: corner(key, pixel), pixel, window, bare: bare.as_deref() };
        let contact = self.contacts.of_in_place(key, sheet, placing.tooth);
        if let Some(rub) = self.rub.as_mut() {
            let blocks = DryBlocks::of_in_place(sheet.tile_in_place(key.0, key.1), false, 0);
            return rub.take_in_place(blocks, contact, &dab, placing.next, part, done);
        }
        let laying = Laying {
            stick: &self.stick,
            opacity: at.qualities.get(Quality::Opacity) as f32,
            stroke: at.known_as as f32,
            pass: placing.pass,
            entering: (self.entry != Entry::Contact).then(|| Entering {
                entry: self.entry,
                depth: at.qualities.get(Quality::Depth) as f32,
                least: at.qualities.get(Quality::LeastDepth) as f32,
                mean_load: placing.mean_load,
            }),
        };
        let dabs = (&dab, &laying);
        if let Some(sheer) = &self.sheer {
            let ground = sheet.ground().clone();
            let eye = Eye::new(ground.bare(), sheet.grain_within(crate::ground::Feel::default()));
            let tile = sheet.tile_in_place(key.0, key.1);
            let below = eye.under(&Dry, tile);
            let (powder, layer) = (tile.share(&POWDER), tile.share(&LAYER));
            let powdered = Powdered::of(powder.as_deref(), layer.as_deref(), eye.grain_within());
            let under = |index: usize| {
                let mut look = below.as_ref().map_or_else(|| eye.ground(), |looks| looks[index]);
                powdered.iter().for_each(|p| p.show_in_place(index, &mut look));
                encoded(eye.material(&look))
            };
            sheer::lay_in_place(tile.block_in_place(&FILM), under, sheer, contact, dabs, part, done);
        } else {
            let tile = sheet.tile_in_place(key.0, key.1);
            let blocks = DryBlocks::of_in_place(tile, self.stick.even, self.stick.number as u16);
            let falling = self.dust.as_mut().map(|d| (key, d));
            lay::lay_in_place(blocks, contact, dabs, part, falling, done);
        }
    }
}
