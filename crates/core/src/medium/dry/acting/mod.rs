//! A dry tool in use: dabs of a tip that is pressed on, set as far apart as their ripple stays unseen; each lays powder or a film,
//! or moves what lies there, tile by tile.

mod contacts;
mod felt;
mod opening;
mod placing;
mod point;
pub(super) mod stand;

use std::collections::HashMap;
use std::rc::Rc;

use crate::chain::{Action, Settings};
use crate::error::Result;
use crate::ground::{Bearing, Feel};
use crate::medium::{Acting, Amount, At, Balance, Carried, Mark, Next};
use crate::num;
use crate::sheet::{Changed, Rect, Sheet};
use crate::tip::{Outline, Profile, Shape, Shelf, Stencil, TurnedBy};

use super::dust::Dust;
use super::entry::{Entry, Ranks};
use super::face::Face;
use super::laying::Powdering;
use super::parameters::{self, LaidAs};
use super::rub::{Held, Mover, Rub};
use super::sheer::Sheer;
use contacts::Contacts;
use opening::Open;
use point::Point;

/// Edge hardness and tooth depth are stepped this finely where a response drives them, so that tables can be shared.
const HARDNESS_STEP: f64 = 1.0 / 64.0;
const TOOTH_STEP: f64 = 1.0 / 64.0;

/// A dry tool in use.
pub struct DryTool {
    action: Action,
    seed: u64,
    stick: Powdering,
    /// What moves powder, where the tool does not lay it.
    rub: Option<Rub>,
    held_before: Amount,
    /// What crumbles off and falls, where the stick is friable.
    dust: Option<Dust>,
    /// Powder that came from the stick, µm × pixels.
    from_stick: f64,
    pixel_mm2: f64,
    outline: Outline,
    turned_by: TurnedBy,
    point: Point,
    /// Travel of the tool since it was fresh: before this gesture, and in its passes that are over, mm.
    before_mm: f64,
    passes_mm: f64,
    /// How much harder a side that lies down presses at its end.
    bite: f32,
    /// What of the footprint lays; nothing where all of it does.
    stencil: Option<Rc<Stencil>>,
    auto_spacing: bool,
    bearing: Rc<Bearing>,
    entry: Entry,
    /// What is laid, where it is a film and not powder.
    sheer: Option<Sheer>,
    profiles: HashMap<u32, (Profile, f64)>,
    contacts: Contacts,
    face: Face,
    open: Option<Open>,
}

impl DryTool {
    /// # Errors
    /// Names the parameter whose image is not on the shelf.
    pub fn new(tool: &Settings<'_>, sheet: &Sheet, shelf: &Shelf, carried: Option<&Carried>) -> Result<Self> {
        let n = |id: &str| tool.number(id) as f32;
        let feel = Feel::of(tool);
        let stick = Powdering::of(tool);
        let bearing = sheet.ground().bearing(feel);
        let entry = parameters::entry(tool);
        let image = entry != Entry::Contact;
        let pixel_mm2 = sheet.pixel_mm() * sheet.pixel_mm();
        let mut rub = Mover::of(tool).map(|m| Rub::new(m, pixel_mm2));
        let before = carried.and_then(|c| c.inside.downcast_ref::<Option<Held>>()).and_then(Option::as_ref);
        if let Some(held) = before {
            rub = rub.map(|r| r.resuming(held));
        }
        let film = tool.chosen::<LaidAs>("load.film").blend().filter(|_| image);
        let dusty = tool.action == Action::Lay && !image;
        Ok(Self {
            action: tool.action,
            seed: u64::from(tool.seed),
            held_before: rub.as_ref().map_or_else(Amount::default, |r| r.amounts()[0]),
            rub,
            sheer: film.map(|blend| Sheer::of(&stick.powder, blend)),
            dust: if dusty { Dust::new(n("load.dust"), n("load.dust_mm")) } else { None },
            from_stick: 0.0,
            pixel_mm2,
            point: Point::of(tool),
            before_mm: carried.map_or(0.0, |c| c.travel_mm),
            passes_mm: 0.0,
            bite: if entry == Entry::Multiplied { 0.0 } else { n("tip.bite") },
            outline: tool.chosen::<Shape>("tip.shape").outline(),
            turned_by: tool.chosen("tip.angle_from"),
            stencil: shelf.stencil(tool)?,
            auto_spacing: tool.switch("tip.spacing_auto"),
            contacts: Contacts::new(sheet, feel, &stick, image.then(|| Ranks::of(bearing.heights()))),
            stick,
            bearing,
            entry,
            profiles: HashMap::new(),
            face: Face::default(),
            open: None,
        })
    }

    /// Chance of placement `k` of a dab.
    fn chance(&self, at: &At, stream: u64, k: i64) -> u64 {
        num::hash(self.seed, stream, i64::from(at.stroke), i64::from(at.contact) + (k << 32))
    }

    /// The pressure profile of a stepped hardness, and its widest good spacing as a share of the footprint.
    fn profile(&mut self, step: u32) -> &(Profile, f64) {
        self.profiles.entry(step).or_insert_with(|| {
            let profile = Profile::new((f64::from(step) * HARDNESS_STEP) as f32);
            let auto = f64::from(crate::tip::spacing::auto_fraction(&profile));
            (profile, auto)
        })
    }

    /// Dust that has not fallen yet, µm × pixels.
    fn shed(&self) -> f64 {
        self.dust.as_ref().map_or(0.0, |d| d.pool())
    }

    /// An amount of the stick's powder, from µm × pixels.
    fn of_stick(&self, um_pixels: f64) -> Amount {
        let powder = &self.stick.powder;
        let band = |v: f32| um_pixels * f64::from(v) * self.pixel_mm2;
        let mm3 = um_pixels * 1e-3 * self.pixel_mm2;
        Amount { mm3, k: powder.k_um.map(band), s: powder.s_um.map(band) }
    }

    /// Lets dust fall where the last dab lay, after `travel` mm.
    fn settle_in_place(&mut self, travel: f32, sheet: &mut Sheet, changed: &mut Changed) {
        let Some(dust) = self.dust.as_mut() else { return };
        let stick = &self.stick;
        dust.fall_in_place(travel, &stick.powder, (stick.number, stick.bound), |(x, y), work| {
            work(super::blocks::DryBlocks::of_in_place(
                sheet.tile_in_place(x, y),
                false,
                stick.number as u16,
            ));
        });
        dust.within().into_iter().for_each(|rect: Rect| changed.rect(rect));
    }
}

impl Acting for DryTool {
    fn presses(&self) -> bool {
        self.action == Action::Lift
    }

    fn paint_left(&self) -> f64 {
        self.rub.as_ref().map_or(1.0, Rub::fullness)
    }

    fn open(&mut self, at: &At, sheet: &Sheet) -> Next {
        let open = self.opened(at, sheet);
        let next = open.next();
        self.open = Some(open);
        next
    }

    fn work(&mut self, at: &At, sheet: &mut Sheet, changed: &mut Changed) -> Option<usize> {
        let mut open = self.open.take()?;
        let visited = self.work_on(&mut open, at, sheet, changed);
        self.open = Some(open);
        visited
    }

    fn close(&mut self) -> Mark {
        let open = self.open.take().expect("what is closed was opened");
        open.mark()
    }

    fn end_pass(&mut self, travelled_mm: f64, sheet: &mut Sheet, changed: &mut Changed) {
        self.settle_in_place(f32::INFINITY, sheet, changed);
        self.dust.iter_mut().for_each(Dust::end);
        self.passes_mm += travelled_mm;
    }

    fn carried(&self) -> Carried {
        let held: Option<Held> = self.rub.as_ref().map(Rub::held);
        Carried { travel_mm: self.before_mm + self.passes_mm, inside: Rc::new(held) }
    }

    fn balance(&self) -> Balance {
        let [held, crumbs] = self.rub.as_ref().map_or([Amount::default(); 2], Rub::amounts);
        // What found no hollow to fall into is gone.
        let gone = crumbs + self.of_stick(self.shed());
        Balance {
            brought: self.of_stick(self.from_stick),
            held_before: self.held_before,
            held,
            found: held,
            gone,
        }
    }
}
