//! The engine: runs reports of a stylus through a tool onto a sheet, contact by contact.
//!
//! It keeps passes, what is due, signals and qualities; what a contact does is the acting part's, made by the tool's medium.
//! Nothing here depends on how the reports are batched: a piece of the way is worked on when its next report arrives, and
//! contacts are set by travelled length, steps of time by the reports' own times, or as they are told to have gone. Nor does it depend on how the work is divided:
//! it is done in one order, and may rest after any tile of a contact, so that a screen need not wait for a large one.

use std::collections::VecDeque;
use std::rc::Rc;

use super::drives::Drives;
use super::pass::{Due, Pass};
use super::timing::Timing;
use super::trace::{DabTrace, Trace};
use crate::chain::{Qualities, Signals};
use crate::error::{FieldError, Result};
use crate::hand::path::Place;
use crate::hand::steadying::SteadyWay;
use crate::hand::{Hand, Sample, Steadying, angles};
use crate::medium::{Acting, At, Balance, Carried, Column, Mark};
use crate::num;
use crate::said::Said;
use crate::sheet::{Changed, STEP_S, Sheet};
use crate::tip::Shelf;
use crate::tool::Tool;
use crate::touch::Factor;

/// The most dabs that one gesture may have, and the longest way, mm: beyond, the stroke is cut, and its trace says so.
pub const MOST_DABS: usize = 100_000;
pub const LONGEST_MM: f64 = 100_000.0;

/// A contact under way, and what the trace keeps of how it came about.
struct Contact {
    at: At,
    factors: Vec<Factor>,
    /// How far the steadied tip is behind the pen, mm and ms.
    lag: (f64, f64),
}

/// A running stroke.
pub struct Engine {
    tool: Rc<Tool>,
    hand: Hand,
    drives: Drives,
    acting: Box<dyn Acting>,
    columns: &'static [Column],
    /// Passes that were heard and not done yet, and the contact of the first of them that is under way.
    heard: VecDeque<Pass>,
    contact: Option<Contact>,
    /// What the last pass left still settles.
    settles: bool,
    passes: u32,
    total_mm: f64,
    /// When the first and the newest report were made, s, and how time goes since the first.
    began_s: Option<f64>,
    newest_s: f64,
    timing: Timing,
    dabs: Vec<DabTrace>,
    cut: Option<Said>,
}

impl Engine {
    /// A fresh tool that needs no image in a hand over a sheet.
    ///
    /// # Errors
    /// Passes on what [`Engine::with`] refuses.
    pub fn new(tool: Rc<Tool>, hand: Hand, sheet: &Sheet) -> Result<Self> {
        Self::with(tool, hand, sheet, &Shelf::default(), None)
    }

    /// A tool in a hand over a sheet. `carried`: what it carries from strokes before; nothing where it is clean and fresh.
    ///
    /// # Errors
    /// Passes on what [`Tool::check`] and [`crate::hand::DeviceProfile::check`] refuse; names the parameter whose image is not
    /// on the shelf.
    pub fn with(
        tool: Rc<Tool>,
        hand: Hand,
        sheet: &Sheet,
        shelf: &Shelf,
        carried: Option<&Carried>,
    ) -> Result<Self> {
        tool.check()?;
        let acting = tool.medium.acting(&tool.settings(), sheet, shelf, carried);
        let acting = acting.map_err(|e| e.within("parameters"))?;
        let columns = tool.medium.columns();
        Self::acting(tool, hand, acting, columns)
    }

    /// As [`Engine::with`], for an acting part that was made otherwise, which tells of `columns`.
    ///
    /// # Errors
    /// Passes on what [`crate::hand::DeviceProfile::check`] refuses.
    pub fn acting(
        tool: Rc<Tool>,
        hand: Hand,
        acting: Box<dyn Acting>,
        columns: &'static [Column],
    ) -> Result<Self> {
        hand.profile.check().map_err(|e| e.within("profile"))?;
        Ok(Self {
            drives: Drives::new(&tool),
            tool,
            hand,
            acting,
            columns,
            heard: VecDeque::new(),
            contact: None,
            settles: false,
            passes: 0,
            total_mm: 0.0,
            began_s: None,
            newest_s: 0.0,
            timing: Timing::default(),
            dabs: Vec::new(),
            cut: None,
        })
    }

    /// Dabs laid so far.
    pub fn dabs(&self) -> &[DabTrace] {
        &self.dabs
    }

    /// What the tool carries now.
    pub fn carried(&self) -> Carried {
        self.acting.carried()
    }

    /// Where its material came from and went so far.
    pub fn balance(&self) -> Balance {
        self.acting.balance()
    }

    pub fn into_trace(self) -> Trace {
        Trace { balance: self.acting.balance(), dabs: self.dabs, columns: self.columns, cut: self.cut }
    }

    /// Takes reports of a pen that is down, and works them off; tells what changed.
    ///
    /// # Errors
    /// What [`Engine::hear`] refuses.
    pub fn extend(&mut self, samples: &[Sample], sheet: &mut Sheet) -> Result<Changed> {
        self.hear(samples)?;
        Ok(self.work(usize::MAX, sheet))
    }

    /// The pen lifts: the rest of the way is worked off.
    pub fn lift(&mut self, sheet: &mut Sheet) -> Changed {
        self.hear_lift();
        self.work(usize::MAX, sheet)
    }

    /// Takes reports of a pen that is down, for [`Engine::work`].
    ///
    /// # Errors
    /// Names the report and the field that is not a number within its limits, or a time that goes back; then none of the reports
    /// was taken.
    pub fn hear(&mut self, samples: &[Sample]) -> Result<()> {
        let mut newest = self.newest_s;
        for (i, sample) in samples.iter().enumerate() {
            let field = |name: &str| format!("samples[{i}]{name}");
            sample.check().map_err(|e| e.within(&field("")))?;
            if sample.t < newest {
                let message = format!("time goes back from {newest} s to {} s", sample.t);
                return Err(FieldError::new(field(".t"), message));
            }
            newest = sample.t;
        }
        self.newest_s = newest;
        for sample in samples {
            if self.heard.back().is_none_or(Pass::is_lifted) {
                let steady = Steadying::of(&self.tool.settings()).map(SteadyWay::new);
                self.heard.push_back(Pass::begin(self.passes, sample, steady));
                self.passes += 1;
            }
            if let Some(pass) = self.heard.back_mut() {
                pass.hear(sample);
            }
        }
        Ok(())
    }

    /// Hears that the pen lifted.
    pub fn hear_lift(&mut self) {
        self.timing.lift();
        if let Some(pass) = self.heard.back_mut().filter(|p| !p.is_lifted()) {
            pass.lift();
        }
    }

    /// Something that was heard is still to be worked off.
    pub fn waits(&self) -> bool {
        self.contact.is_some() || self.settles || self.heard.front().is_some_and(Pass::waits)
    }

    /// Works off what was heard until about so many `pixels` were visited; tells what changed.
    pub fn work(&mut self, mut pixels: usize, sheet: &mut Sheet) -> Changed {
        let mut changed = Changed::default();
        while pixels > 0 {
            if let Some(contact) = &self.contact {
                match self.acting.work(&contact.at, sheet, &mut changed) {
                    Some(visited) => pixels = pixels.saturating_sub(visited),
                    None => self.close(),
                }
                continue;
            }
            if self.settles {
                match self.acting.settle(sheet, &mut changed) {
                    Some(visited) => pixels = pixels.saturating_sub(visited),
                    None => self.settles = false,
                }
                continue;
            }
            let Some(pass) = self.heard.front_mut() else { break };
            if self.cut.is_some() {
                pass.cut();
            }
            let due = pass.next_contact(&self.hand, self.acting.presses());
            if let Some(due) = due {
                self.time_in_place(due.place.t, sheet, &mut changed);
                self.open(&due, sheet);
                continue;
            }
            if let Some(reached) = pass.reached_s() {
                self.time_in_place(reached, sheet, &mut changed);
            }
            if self.heard.front().is_some_and(Pass::is_over) {
                let travelled = self.heard.pop_front().map_or(0.0, |p| p.travelled);
                self.acting.end_pass(travelled, sheet, &mut changed);
                self.settles = true;
                self.total_mm += travelled;
            } else {
                break;
            }
        }
        changed
    }

    /// Lets the sheet's time go on to `t` of the reports' own.
    fn time_in_place(&mut self, t: f64, sheet: &mut Sheet, changed: &mut Changed) {
        let began = *self.began_s.get_or_insert(t);
        let due = f64::floor((t - began) / STEP_S).max(0.0) as u64;
        let steps = self.timing.come_to(due, self.dabs.len() as u64, !sheet.busy());
        sheet.advance_in_place(steps, changed);
    }

    /// Has the sheet's time wait for the stroke, which is of one pass: where anything on the sheet moves, only those steps go that
    /// are [let go](Engine::let_go). What waits when the stroke ends never goes.
    pub fn hold_time(&mut self, sheet: &Sheet) {
        self.timing.hold(sheet.busy());
    }

    /// Steps of time that are due and wait.
    pub fn time_waits(&self) -> u64 {
        self.timing.waits()
    }

    /// Lets up to so many of the steps go that wait, where no contact is under way and the pen is down; tells what changed.
    pub fn let_go(&mut self, steps: u64, sheet: &mut Sheet) -> Changed {
        let between = self.contact.is_none() && !self.heard.front().is_none_or(Pass::is_lifted);
        if between {
            sheet.advance(self.timing.let_go(steps, self.dabs.len() as u64))
        } else {
            Changed::default()
        }
    }

    /// Between which contacts time went that was held, for [`Engine::time_as`]: contacts since the step before, and how many
    /// steps went, again and again; nothing where every step went when it was due.
    pub fn time_went(&self) -> Option<Vec<u32>> {
        self.timing.told()
    }

    /// Lets the sheet's time go as it [went](Engine::time_went) when the stroke was drawn.
    pub fn time_as(&mut self, went: &[u32]) {
        self.timing = Timing::as_told(went);
    }

    /// Opens the contact that is due.
    fn open(&mut self, due: &Due, sheet: &mut Sheet) {
        let paint_left = self.acting.paint_left();
        let pass = self.heard.front_mut().expect("a contact belongs to a pass");
        let stroke = *pass.stroke.get_or_insert_with(|| sheet.next_stroke());
        let signals = signals(&self.tool, &self.hand, pass, &due.place, (stroke.0, paint_left));
        let mut factors = Vec::new();
        let (qualities, most) = self.drives.at(&self.tool, &signals, &mut factors);
        let at = At {
            place: due.place,
            signals,
            qualities,
            most,
            travel: due.travel,
            stroke: stroke.0,
            known_as: stroke.1,
            contact: pass.contacts,
            before_mm: self.total_mm,
        };
        let lag = pass.lag(&due.place);
        let next = self.acting.open(&at, sheet);
        pass.go_on_after(next);
        self.contact = Some(Contact { at, factors, lag });
    }

    /// Closes the contact that is done: the trace keeps it.
    fn close(&mut self) {
        let Some(Contact { at, factors, lag }) = self.contact.take() else { return };
        let Mark { x_mm, y_mm, length_mm, width_mm, angle_deg, area_mm2, travel_mm, values } =
            self.acting.close();
        let Qualities(qualities) = at.qualities;
        self.dabs.push(DabTrace {
            pass: self.heard.front().map_or(0, |p| p.number),
            at_mm: at.way_mm(),
            x_mm,
            y_mm,
            hand_gf: self.hand.profile.force_gf(at.signals.raw_pressure),
            signals: at.signals,
            lag_mm: lag.0,
            lag_ms: lag.1,
            qualities: qualities.to_vec(),
            factors,
            length_mm,
            width_mm,
            angle_deg,
            area_mm2,
            travel_mm,
            values,
        });
        if self.dabs.len() >= MOST_DABS {
            self.cut = Some(Said::new("cut after {{most}} dabs: a gesture may have no more").count(
                "most",
                MOST_DABS as f64,
                0,
            ));
        } else if at.way_mm() >= LONGEST_MM {
            self.cut = Some(Said::new("cut after {{most}} m of way: a gesture may be no longer").count(
                "most",
                LONGEST_MM / 1000.0,
                0,
            ));
        }
    }
}

/// What of the hand, the way and the tool can drive qualities at a place.
fn signals(
    tool: &Tool,
    hand: &Hand,
    pass: &Pass,
    place: &Place,
    (stroke, paint_left): (u32, f64),
) -> Signals {
    let (altitude, azimuth) = angles::to_spherical(place.tilt_x, place.tilt_y);
    let pressure = hand.calibration.apply(place.pressure);
    let chance = |stream: u64, n: i64| {
        f64::from(num::unit(num::hash(u64::from(tool.seed), stream, i64::from(stroke), n)))
    };
    Signals {
        raw_pressure: place.pressure,
        pressure,
        hardest_press: pass.hardest.max(pressure),
        tilt_deg: 90.0 - altitude.to_degrees(),
        lean_deg: angles::wrap_degrees(azimuth.to_degrees()),
        barrel_deg: angles::wrap_degrees(place.twist),
        speed_mm_s: pass.speed.unwrap_or(0.0),
        heading_deg: pass.heading,
        distance_mm: pass.travelled,
        time_s: place.t - pass.started_t,
        paint_left,
        chance_dab: chance(1, i64::from(pass.contacts)),
        chance_stroke: chance(2, 0),
    }
}
