//! A wet tip in use: touch by touch it raises the water under it towards what it holds, with its paint, and drinks what is over that.

pub mod care;
mod hairs;
mod prints;
pub mod shape;

use std::rc::Rc;

use super::blocks::{WATER, amount_of};
use super::lay::{Brings, Did, Takes, touch_in_place};
use super::paper::Paper;
use super::parameters::{self, Form};
use super::pigments;
use crate::chain::{Action, Qualities, Quality, Settings, Signals};
use crate::ground::Feel;
use crate::medium::{Acting, Amount, At, Balance, Carried, Mark, Next, Travel};
use crate::sheet::{Changed, Rect, Sheet};
use crate::tip::TurnedBy;
use crate::tip::hair::Bends;
use care::Held;
use hairs::Hairs;
use prints::Print;

/// A touch follows the last after this share of the footprint's half along the way, and at least so many pixels.
const SPACING: f64 = 0.25;
const LEAST_PIXELS: f64 = 0.7;

/// Shares of what lies loose and of what is bound that a tip sets afloat at a touch which loosens all it can (a quarter of that is the wash study's lifting).
const LOOSENS: f32 = 0.64;
const FREES: f32 = 0.08;

/// From this share of its water on a brush runs short, and how far into the tooth an empty one reaches beside a full one (tuned by eye).
const RUNS_SHORT: f32 = 0.6;
const EMPTY_REACHES: f32 = 0.2;

/// A wet tip.
pub struct WashTool {
    action: Action,
    form: Form,
    seed: u64,
    turned_by: TurnedBy,
    half_mm: [f64; 2],
    splay: f64,
    bends: Bends,
    hairs: Hairs,
    paper: Rc<Paper>,
    paints: Vec<(usize, f32)>,
    gives: f32,
    loosens: f32,
    endless: bool,
    drop_mm: f64,
    apart_mm: f64,
    held: Held,
    held_before: Amount,
    brought: Amount,
    pixel_mm: f64,
    before_mm: f64,
    passes_mm: f64,
    open: Option<Open>,
}

/// A touch that is due.
struct Open {
    print: Print,
    brings: Brings,
    takes: Takes,
    reach: f32,
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
    pub fn new(tool: &Settings<'_>, sheet: &Sheet, carried: Option<&Carried>) -> Self {
        let n = |id: &str| tool.number(id);
        let held = carried.and_then(|c| c.inside.downcast_ref::<Held>()).cloned();
        let held = held.unwrap_or_else(|| Held::loaded(tool));
        let total: f64 = tool.paint("load.paint").iter().map(|p| p.1).sum();
        let paints = tool
            .paint("load.paint")
            .iter()
            .filter_map(|(code, parts)| Some((pigments::number(code)?, (parts / total) as f32)))
            .collect();
        let seed = u64::from(tool.seed);
        Self {
            action: tool.action,
            form: tool.chosen("tip.form"),
            seed,
            turned_by: tool.chosen("tip.angle_from"),
            half_mm: parameters::halves(tool),
            splay: n("tip.splay"),
            bends: shape::bends(tool),
            hairs: Hairs::of(tool),
            paper: Paper::of(sheet),
            paints,
            gives: n("mix.gives") as f32,
            loosens: n("mix.loosen") as f32,
            endless: tool.action != Action::Lift && tool.switch("load.endless"),
            drop_mm: n("tip.drop_mm"),
            apart_mm: n("tip.apart_mm"),
            held_before: held.found(),
            brought: Amount::default(),
            held,
            pixel_mm: sheet.pixel_mm(),
            before_mm: carried.map_or(0.0, |c| c.travel_mm),
            passes_mm: 0.0,
            open: None,
        }
    }

    /// Half axes of the print, mm, and how far the ferrule is lowered.
    fn axes(&mut self, qualities: &Qualities, signals: &Signals) -> ([f64; 2], f64) {
        if matches!(self.form, Form::Sponge | Form::Drops) {
            return (self.half_mm, 0.0);
        }
        let lowered = self.bends.lowered_mm(qualities.get(Quality::Force), signals.tilt_deg);
        (
            prints::half_axes(self.form, self.half_mm, self.bends.length_mm(), self.splay, lowered),
            lowered.max(0.0),
        )
    }
}

impl Acting for WashTool {
    fn presses(&self) -> bool {
        true
    }

    fn paint_left(&self) -> f64 {
        if self.action != Action::Lift && !self.endless { self.held.left() } else { 1.0 }
    }

    fn open(&mut self, at: &At, sheet: &Sheet) -> Next {
        let (axes, pressed_mm) = self.axes(&at.qualities, &at.signals);
        let q = |quality| at.qualities.get(quality) as f32;
        let left = self.paint_left() as f32;
        // As it runs out it gives a thinner film, and breaks: it no longer reaches into the pits.
        let full = (left / RUNS_SHORT).min(1.0);
        let fed = full.sqrt();
        let direction = self.turned_by.direction(&at.qualities, &at.signals);
        let print = match self.form {
            Form::Drops => Print::drop(self.seed, at, self.half_mm[0], self.drop_mm),
            form => Print::of(form, self.seed, at, axes, direction),
        };
        let (brings, lays) = (self.action != Action::Lift, self.action == Action::Lay);
        let strength = q(Quality::Strength).max(0.0);
        let brings = Brings {
            film_um: if brings { q(Quality::Water).max(0.0) * fed } else { 0.0 },
            gives: if brings { (self.gives * q(Quality::Flow)).clamp(0.0, 1.0) } else { 0.0 },
            paints: self
                .paints
                .iter()
                .filter(|_| lays && strength > 0.0)
                .map(|(p, share)| (*p, share * strength))
                .collect(),
        };
        let takes = Takes {
            drinks: q(Quality::Pickup).clamp(0.0, 1.0) * self.held.thirst() as f32,
            loosens: LOOSENS * self.loosens,
            frees: FREES * self.loosens,
        };
        let rect = print.bounds(sheet);
        let keys = rect.map_or_else(Vec::new, |r: Rect| r.tiles().collect());
        let small = print.axes()[0].min(print.axes()[1]);
        let spacing = match self.form {
            Form::Drops => self.apart_mm * (0.4 + 1.2 * print.chance()),
            Form::Sponge => 1.2 * self.half_mm[0],
            _ => (SPACING * small).max(LEAST_PIXELS * self.pixel_mm),
        };
        let reach = q(Quality::Reach) * (EMPTY_REACHES + (1.0 - EMPTY_REACHES) * full);
        self.open = Some(Open {
            print,
            brings,
            takes,
            reach,
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
        open.next += 1;
        let ground = sheet.ground_tile(key.0, key.1, Feel::default());
        let contact = self.hairs.contact(self.paper.sq_um(), open.reach);
        let cells = open.print.cells(
            sheet.raster(),
            (key, window),
            &ground.height,
            &contact,
            sheet.tile(key.0, key.1),
        );
        open.cells += cells.under;
        open.touched += cells.touched;
        if !cells.cells.is_empty() {
            sheet.wind(&WATER);
            let did =
                touch_in_place(sheet.tile_in_place(key.0, key.1), &cells.cells, &open.brings, open.takes);
            let pixel_mm2 = self.pixel_mm * self.pixel_mm;
            self.held.after(&did, pixel_mm2, self.endless);
            self.brought += amount_of(did.given.iter().copied()) * pixel_mm2;
            open.did.add(&did);
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
        let [x_mm, y_mm] = open.print.middle();
        Mark {
            x_mm,
            y_mm,
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
