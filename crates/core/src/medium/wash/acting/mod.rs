//! A wet tip in use: touch by touch it raises the water under it towards what it holds, with its paint, and drinks what is over that.

pub mod care;
pub mod hairs;
pub mod make;
pub mod nib;
pub mod prints;
pub mod shape;

use std::rc::Rc;

use super::blocks::{WATER, amount_of};
use super::lay::{Brings, Cell, Did, Takes, touch_in_place};
use super::paper::Paper;
use super::parameters::Stuff;
use super::soak::soak_in_place;
use super::{pigments, resist};
use crate::chain::{Action, Quality, Settings};
use crate::ground::Feel;
use crate::medium::{Acting, Amount, At, Balance, Carried, Mark, Next, Travel};
use crate::sheet::{Changed, Rect, Sheet};
use care::Held;
use hairs::{Chances, Contact};
use make::Make;
use prints::{Face, Print};

/// A touch follows the last after this share of the footprint's half along the way, and at least so many pixels.
const SPACING: f64 = 0.25;
const LEAST_PIXELS: f64 = 0.7;

/// Making a tile of paper, if nobody made it ahead, takes as long as painting more pixels than this: whoever counts them looks up in between.
const PAPER_PIXELS: usize = 50_000;

/// Shares of what lies loose and of what is bound that a tip sets afloat at a touch which loosens all it can (a quarter of that is the wash study's lifting).
const LOOSENS: f32 = 0.64;
const FREES: f32 = 0.08;

/// From this share of its water on a brush runs short, and how far into the tooth an empty one reaches beside a full one (tuned by eye).
const RUNS_SHORT: f32 = 0.6;
const EMPTY_REACHES: f32 = 0.2;

/// A wet tip.
pub struct WashTool {
    action: Action,
    make: Make,
    paper: Rc<Paper>,
    /// Its pigments by their numbers, with their shares.
    paints: Vec<(usize, f32)>,
    held: Held,
    held_before: Amount,
    brought: Amount,
    pixel_mm: f64,
    /// Place of the sheet's corner on the ground, mm: what is told of a touch is told on the sheet.
    origin_mm: [f64; 2],
    chances: Chances,
    before_mm: f64,
    passes_mm: f64,
    open: Option<Open>,
}

/// A touch that is due.
struct Open {
    print: Print,
    brings: Brings,
    /// Of each pigment that it brings, the share that it found.
    found: Vec<(usize, f64)>,
    fed: f64,
    takes: Takes,
    /// How its hairs touch; nothing where it touches with all of it.
    contact: Option<Contact>,
    keys: Vec<((usize, usize), [usize; 4])>,
    next: usize,
    did: Did,
    cells: f64,
    touched: f64,
    pressed_mm: f64,
    /// Travel it stands for, mm.
    travel_mm: f64,
}

impl WashTool {
    /// A tip of `make`, with pigments by parts of a tool's paint.
    pub fn new(tool: &Settings<'_>, make: Make, sheet: &Sheet, carried: Option<&Carried>) -> Self {
        let held = carried.and_then(|c| c.inside.downcast_ref::<Held>()).cloned();
        let held = held.unwrap_or_else(|| Held::loaded(&make));
        let parts = tool.paint("load.paint");
        let total: f64 = parts.iter().map(|p| p.1).sum();
        let paints = parts
            .iter()
            .filter_map(|(code, n)| Some((pigments::number(code, make.vehicle)?, (n / total) as f32)))
            .collect();
        Self {
            action: tool.action,
            paper: Paper::of(sheet),
            paints,
            make,
            held_before: held.found(),
            brought: Amount::default(),
            held,
            pixel_mm: sheet.pixel_mm(),
            origin_mm: sheet.raster().origin_mm,
            chances: Chances::default(),
            before_mm: carried.map_or(0.0, |c| c.travel_mm),
            passes_mm: 0.0,
            open: None,
        }
    }

    /// What a touch brings, its film and the strength of its own paint as they are there; and of each pigment the share that it found.
    fn brings(&self, film_um: f32, flow: f32, strength: f32) -> (Brings, Vec<(usize, f64)>) {
        if self.action == Action::Lift || self.make.stuff != Stuff::Water {
            return (Brings::default(), Vec::new());
        }
        let own = if self.action == Action::Lay { strength * self.held.own() as f32 } else { 0.0 };
        let own = self.paints.iter().filter(|_| own > 0.0).map(|(p, share)| (*p, share * own));
        let mut paints: Vec<(usize, f32)> = own.collect();
        let mut found = Vec::new();
        for (number, part) in self.held.strengths() {
            let part = part as f32 * self.make.gives_back;
            if part <= 0.0 {
                continue;
            }
            match paints.iter_mut().find(|(n, _)| *n == number) {
                Some((_, whole)) => {
                    *whole += part;
                    found.push((number, f64::from(part / *whole)));
                }
                None => {
                    paints.push((number, part));
                    found.push((number, 1.0));
                }
            }
        }
        let (gives, mingles) = ((self.make.gives * flow).clamp(0.0, 1.0), self.make.mingles);
        (Brings { film_um, gives, mingles, paints }, found)
    }

    /// Touches cells of a tile.
    fn touch(&mut self, open: &mut Open, cells: &[Cell], key: (usize, usize), sheet: &mut Sheet) {
        let solid = match self.make.stuff {
            Stuff::Water => None,
            Stuff::Mask => Some((resist::MASK, 1.0)),
            Stuff::Salt => Some((resist::SALT, self.make.dose)),
            Stuff::Spirit => Some((resist::SPIRIT, self.make.dose)),
        };
        if self.action == Action::Cut {
            return resist::rub_in_place(sheet.tile_in_place(key.0, key.1), cells);
        }
        if let Some((which, dose)) = solid {
            return resist::lay_in_place(sheet.tile_in_place(key.0, key.1), cells, which, dose);
        }
        sheet.wind(&WATER);
        if open.brings.film_um > 0.0 {
            soak_in_place(sheet.tile_in_place(key.0, key.1), cells);
        }
        let did = touch_in_place(sheet.tile_in_place(key.0, key.1), cells, &open.brings, open.takes);
        let pixel_mm2 = self.pixel_mm * self.pixel_mm;
        let strength = open.brings.paints.iter().map(|(_, s)| f64::from(*s)).sum();
        self.held.after(&did, strength, pixel_mm2, self.make.endless);
        let back =
            |number: usize| open.found.iter().find(|(n, _)| *n == number).map_or(0.0, |(_, share)| *share);
        self.held.gave_back(did.given.iter().map(|(n, um)| (*n, um * back(*n) * pixel_mm2)));
        let own = did.given.iter().map(|(n, um)| (*n, um * (1.0 - back(*n))));
        self.brought += amount_of(own) * pixel_mm2;
        open.did.add(&did);
    }
}

impl Acting for WashTool {
    fn presses(&self) -> bool {
        true
    }

    fn paint_left(&self) -> f64 {
        if self.action != Action::Lift && !self.make.endless { self.held.left() } else { 1.0 }
    }

    fn open(&mut self, at: &At, sheet: &Sheet) -> Next {
        let q = |quality| at.qualities.get(quality);
        let direction = self.make.turned_by.direction(&at.qualities, &at.signals);
        // Along the slit of a nib, towards the hand.
        let pulled = match at.travel {
            Travel::Mm(_) => libm::sin(at.signals.heading_deg.to_radians() - direction),
            Travel::Press => 0.0,
        };
        let (axes, pressed_mm) = self.make.axes(q(Quality::Force), at.signals.tilt_deg, pulled);
        // As it runs out it gives a thinner film, and breaks: it no longer reaches into the pits.
        let full = (self.paint_left() as f32 / RUNS_SHORT).min(1.0);
        let film_um = q(Quality::Water).max(0.0) as f32 * full.sqrt();
        let fed = self.make.nib.map_or(1.0, |nib| {
            let across = 2.0 * axes[0].max(axes[1]);
            nib.fed(across, at.signals.speed_mm_s, f64::from(film_um))
        });
        let print = match self.make.face {
            Face::Drops => {
                let drop = Print::drop(self.make.seed, at, self.make.half_mm[0], self.make.drop_mm);
                match self.make.stuff {
                    Stuff::Salt => drop.dissolving(true),
                    Stuff::Spirit => drop.dissolving(false),
                    _ => drop,
                }
            }
            face => Print::of(face, self.make.seed, at, axes, direction)
                .split(self.make.nib.map_or(0.0, |nib| nib.gap(axes[0], fed * f64::from(full)))),
        };
        let strength = q(Quality::Strength).max(0.0) as f32;
        let (brings, found) = self.brings(film_um * fed as f32, q(Quality::Flow) as f32, strength);
        let takes = Takes {
            drinks: q(Quality::Pickup).clamp(0.0, 1.0) as f32 * self.held.thirst() as f32,
            loosens: LOOSENS * self.make.loosens,
            frees: FREES * self.make.loosens,
        };
        let rect = print.bounds(sheet);
        let keys = rect.map_or_else(Vec::new, |r: Rect| r.tiles().collect());
        let small = print.axes()[0].min(print.axes()[1]);
        let spacing = match self.make.face {
            Face::Drops => self.make.apart_mm * (0.4 + 1.2 * print.chance()),
            Face::Sponge => 1.2 * self.make.half_mm[0],
            _ => (SPACING * small).max(LEAST_PIXELS * self.pixel_mm),
        };
        let reach = q(Quality::Reach) as f32 * (EMPTY_REACHES + (1.0 - EMPTY_REACHES) * full);
        let contact = (rect.is_some() && self.action != Action::Cut).then(|| {
            let across = print.across(self.pixel_mm);
            self.make.hairs.contact(self.paper.sq_um(), reach, across, &mut self.chances)
        });
        self.open = Some(Open {
            print,
            brings,
            found,
            fed,
            takes,
            contact,
            keys,
            next: 0,
            did: Did::default(),
            cells: 0.0,
            touched: 0.0,
            pressed_mm,
            travel_mm: match at.travel {
                Travel::Mm(mm) => mm,
                Travel::Press => 2.0 * small,
            },
        });
        Next { spacing_mm: spacing, along_mm: 2.0 * small }
    }

    fn work(&mut self, _at: &At, sheet: &mut Sheet, changed: &mut Changed) -> Option<usize> {
        let mut open = self.open.take()?;
        let Some((key, window)) = open.keys.get(open.next).copied() else {
            self.open = Some(open);
            return None;
        };
        if !self.paper.has(key) {
            self.paper.tile(sheet.ground(), key);
            self.open = Some(open);
            return Some(PAPER_PIXELS);
        }
        open.next += 1;
        let ground = sheet.ground_tile(key.0, key.1, Feel::default());
        let paper = self.paper.tile(sheet.ground(), key);
        let cells = open.print.cells(
            sheet.raster(),
            (key, window),
            (&ground.height, &paper),
            open.contact.as_ref(),
            (sheet.tile(key.0, key.1), self.make.stuff != Stuff::Mask),
        );
        open.cells += cells.under;
        open.touched += cells.touched;
        if !cells.cells.is_empty() {
            self.touch(&mut open, &cells.cells, key, sheet);
            changed.tile(key, window);
        }
        self.open = Some(open);
        Some((window[2] - window[0]) * (window[3] - window[1]))
    }

    fn close(&mut self) -> Mark {
        let open = self.open.take().expect("a contact is worked before it is closed");
        let pixel_mm2 = self.pixel_mm * self.pixel_mm;
        let over = |um: f64| if open.cells > 0.0 { um / open.cells } else { 0.0 };
        let sum = |paints: &[(usize, f64)]| paints.iter().map(|(_, um)| um).sum::<f64>();
        let share = if open.cells > 0.0 { open.touched / open.cells } else { 0.0 };
        let [a, b] = open.print.axes();
        let [x, y] = open.print.middle();
        Mark {
            x_mm: x - self.origin_mm[0],
            y_mm: y - self.origin_mm[1],
            length_mm: 2.0 * a.max(b),
            width_mm: 2.0 * a.min(b),
            angle_deg: open.print.direction().to_degrees(),
            area_mm2: open.cells * pixel_mm2,
            travel_mm: open.travel_mm,
            values: vec![
                open.pressed_mm,
                share,
                over(open.did.water_given),
                over(open.did.water_taken),
                1e3 * over(sum(&open.did.given)),
                1e3 * over(sum(&open.did.taken)),
                self.paint_left(),
                open.fed,
            ],
        }
    }

    fn end_pass(&mut self, travelled_mm: f64, _sheet: &mut Sheet, _changed: &mut Changed) {
        self.passes_mm += travelled_mm;
    }

    fn carried(&self) -> Carried {
        Carried { travel_mm: self.before_mm + self.passes_mm, inside: Rc::new(self.held.clone()) }
    }

    fn balance(&self) -> Balance {
        Balance {
            brought: self.brought,
            held_before: self.held_before,
            held: self.held.found(),
            found: self.held.found(),
            gone: Amount::default(),
        }
    }
}
