//! The engine: runs reports of a stylus through a tool onto a sheet, dab by dab.
//!
//! Nothing here depends on how the reports are batched: a piece of the way is worked on when its next report arrives, and
//! dabs are set by travelled length.

mod act;
mod dab;
mod pass;

use std::collections::HashMap;
use std::rc::Rc;

use super::qualities::Qualities;
use super::trace::{Balance, Trace};
use super::visit::Contacts;
use crate::error::Result;
use crate::ground::Bearing;
use crate::hand::path::{Piece, Place};
use crate::hand::steadying::SteadyWay;
use crate::hand::{Hand, Sample, Signals, angles};
use crate::medium::dry::Stick;
use crate::medium::dust::Dust;
use crate::medium::entry::{Entry, Ranks};
use crate::medium::face::Face;
use crate::medium::rub::{Mover, Rub};
use crate::medium::sheer::Sheer;
use crate::num;
use crate::paint::blend::Blend;
use crate::paint::sticks;
use crate::sheet::{Rect, Sheet};
use crate::tip::{Outline, Profile, Shape, Shelf, Stencil};
use crate::tool::{Action, Tool};
use pass::Pass;

/// The way is followed in steps of this length, mm.
const STEP_MM: f64 = 0.1;
/// A pen set down without travel still rubs this much, mm (tuned by eye).
const TAP_MM: f64 = 0.15;
/// Travel of a tip that is pressed on and lifted: as long as it is itself.
const WHOLE_PRESS: f64 = f64::INFINITY;
/// Dabs are never closer than this, mm.
const LEAST_SPACING_MM: f64 = 0.02;
/// Tooth depth and edge hardness are stepped this finely where a response drives them, so that tables can be shared.
const TOOTH_STEP: f64 = 1.0 / 64.0;
const HARDNESS_STEP: f64 = 1.0 / 64.0;

/// How a sharp point wears.
#[derive(Debug, Clone, Copy)]
struct Point {
    /// Width of the worn point over the sharp one.
    blunt: f64,
    /// Travel over which most of it is worn, mm.
    blunt_mm: f64,
    /// Sharpened before each stroke.
    each_stroke: bool,
}

impl Point {
    /// Width over that of the sharp point after `stroke_mm` of this stroke and `before_mm` of those before it.
    fn width(&self, before_mm: f64, stroke_mm: f64) -> f64 {
        if self.blunt <= 1.0 {
            return 1.0;
        }
        let travelled = if self.each_stroke { stroke_mm } else { before_mm + stroke_mm };
        1.0 + (self.blunt - 1.0) * (1.0 - libm::exp(-travelled / self.blunt_mm))
    }
}

/// A running stroke.
pub struct Engine {
    tool: Rc<Tool>,
    hand: Hand,
    qualities: Qualities,
    stick: Stick,
    /// What moves powder, where the tool does not lay it.
    rub: Option<Rub>,
    /// What crumbles off and falls, where the stick is friable.
    dust: Option<Dust>,
    /// Powder that came from the stick, µm × pixels.
    from_stick: f64,
    pixel_mm2: f64,
    outline: Outline,
    point: Point,
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
    pass: Option<Pass>,
    passes: u32,
    total_mm: f64,
    stroke_base: u32,
    trace: Trace,
}

impl Engine {
    /// A tool that needs no image in a hand over a sheet.
    ///
    /// # Errors
    /// Passes on what [`Engine::with`] refuses.
    pub fn new(tool: Rc<Tool>, hand: Hand, sheet: &Sheet) -> Result<Self> {
        Self::with(tool, hand, sheet, &Shelf::default())
    }

    /// A tool in a hand over a sheet.
    ///
    /// # Errors
    /// Passes on what [`Tool::check`] and [`crate::hand::DeviceProfile::check`] refuse; names the parameter whose image is not
    /// on the shelf.
    pub fn with(tool: Rc<Tool>, hand: Hand, sheet: &Sheet, shelf: &Shelf) -> Result<Self> {
        tool.check()?;
        hand.profile.check().map_err(|e| e.within("profile"))?;
        let ground = sheet.ground();
        let feel = tool.feel();
        let n = |id: &str| tool.number(id) as f32;
        let stick = Stick {
            powder: sticks::powder(tool.choice("load.stick")),
            number: f32::from(sticks::number_of(tool.choice("load.stick"))),
            hardness: n("load.hardness_gf_mm2"),
            give: n("load.give_um"),
            deposit: n("load.deposit_um_mm"),
            fill: n("load.fill_um"),
            grit: n("load.grit_um"),
            grain: n("load.grain"),
            face: n("load.face_um"),
            bound: n("load.bound"),
            even: tool.choice("touch.build") == "even",
        };
        let bearing = ground.bearing(feel);
        let entry = match tool.action {
            Action::Lay => Entry::named(tool.choice("ground.enters")),
            _ => Entry::Contact,
        };
        Ok(Self {
            qualities: Qualities::new(&tool),
            auto_spacing: tool.switch("tip.spacing_auto"),
            hand,
            rub: mover(&tool).map(Rub::new),
            sheer: (entry != Entry::Contact)
                .then(|| Blend::named(tool.choice("load.film")).map(|b| Sheer::of(&stick.powder, b)))
                .flatten(),
            dust: (tool.action == Action::Lay && entry == Entry::Contact)
                .then(|| Dust::new(n("load.dust"), n("load.dust_mm")))
                .flatten(),
            from_stick: 0.0,
            pixel_mm2: sheet.pixel_mm() * sheet.pixel_mm(),
            stick,
            point: Point {
                blunt: if tool.action == Action::Lay { tool.number("load.blunt") } else { 1.0 },
                blunt_mm: tool.number("load.blunt_mm"),
                each_stroke: tool.choice("load.sharpen") == "stroke",
            },
            bite: if entry == Entry::Multiplied { 0.0 } else { n("tip.bite") },
            outline: Shape::named(tool.choice("tip.shape")).outline(),
            stencil: shelf.stencil(&tool).map_err(|e| e.within("parameters"))?,
            contacts: Contacts::new(
                sheet,
                feel,
                &stick,
                (entry != Entry::Contact).then(|| Ranks::of(bearing.heights())),
            ),
            entry,
            bearing,
            profiles: HashMap::new(),
            face: Face::default(),
            pass: None,
            passes: 0,
            total_mm: 0.0,
            stroke_base: 0,
            trace: Trace::default(),
            tool,
        })
    }

    /// Numbers strokes from `first` on: strokes on one sheet must differ for even films and for chance.
    #[must_use]
    pub fn numbered_from(mut self, first: u32) -> Self {
        self.stroke_base = first;
        self
    }

    /// Passes begun so far.
    pub fn passes(&self) -> u32 {
        self.passes
    }

    pub fn trace(&self) -> &Trace {
        &self.trace
    }

    pub fn into_trace(self) -> Trace {
        let (in_tool, crumbs) = self.rub.as_ref().map_or((0.0, 0.0), Rub::holds);
        // What found no hollow to fall into is gone.
        let dust = crumbs + self.dust.as_ref().map_or(0.0, Dust::pool);
        let mm3 = |um_pixels: f64| um_pixels * 1e-3 * self.pixel_mm2;
        let balance =
            Balance { from_stick_mm3: mm3(self.from_stick), in_tool_mm3: mm3(in_tool), dust_mm3: mm3(dust) };
        Trace { balance, ..self.trace }
    }

    /// Takes reports of a pen that is down; gives the pixels that changed.
    pub fn extend(&mut self, samples: &[Sample], sheet: &mut Sheet) -> Option<Rect> {
        let mut dirty = None;
        for sample in samples {
            if self.pass.is_none() {
                self.begin(sample);
            }
            let steadied = self.pass.as_mut().and_then(|p| p.steady.as_mut()).map(|s| s.push(sample));
            match steadied {
                Some(ticks) => ticks.iter().for_each(|tick| self.go_to(tick, sheet, &mut dirty)),
                None => self.go_to(sample, sheet, &mut dirty),
            }
        }
        dirty
    }

    fn go_to(&mut self, sample: &Sample, sheet: &mut Sheet, dirty: &mut Option<Rect>) {
        if let Some(piece) = self.pass.as_mut().and_then(|p| p.path.push(sample)) {
            self.follow(&piece, sheet, dirty);
        }
    }

    /// The pen lifts: the rest of the way is worked on.
    pub fn lift(&mut self, sheet: &mut Sheet) -> Option<Rect> {
        let mut dirty = None;
        let rest = self.pass.as_mut()?.steady.as_mut().map(SteadyWay::lift).unwrap_or_default();
        rest.iter().for_each(|tick| self.go_to(tick, sheet, &mut dirty));
        let (piece, tap) = self.pass.as_mut().map(|p| p.path.lift())?;
        if let Some(piece) = piece {
            self.follow(&piece, sheet, &mut dirty);
        }
        if let Some(sample) = tap {
            let place = Place {
                t: sample.t,
                x: sample.x,
                y: sample.y,
                pressure: sample.pressure,
                tilt_x: sample.tilt_x,
                tilt_y: sample.tilt_y,
                twist: sample.twist,
                ..Place::default()
            };
            let travel = if self.tool.action == Action::Lift { WHOLE_PRESS } else { TAP_MM };
            self.dab(&place, travel, sheet, &mut dirty);
        } else {
            // What is left of the way since the last dab.
            let rest = self.pass.as_ref().map(|p| (p.since_dab, p.last));
            if let Some((since, Some(place))) = rest
                && since > 1e-6
            {
                self.dab(&place, since, sheet, &mut dirty);
            }
            // What is pressed on without going anywhere lifts by the press.
            let pressed = self.pass.as_ref().map(|p| (p.width_along - p.travelled, p.last));
            if self.tool.action == Action::Lift
                && let Some((left, Some(place))) = pressed
                && left > 0.5 * self.pass.as_ref().map_or(0.0, |p| p.width_along)
            {
                self.dab(&place, left, sheet, &mut dirty);
            }
        }
        if let Some(rect) = self.settle_in_place(f32::INFINITY, sheet) {
            dirty = Some(dirty.map_or(rect, |d| d.union(rect)));
        }
        self.dust.iter_mut().for_each(Dust::end);
        if let Some(pass) = self.pass.take() {
            self.total_mm += pass.travelled;
        }
        dirty
    }

    fn begin(&mut self, first: &Sample) {
        let steady = self.tool.steadying().map(SteadyWay::new);
        self.pass = Some(Pass::begin(self.passes, first, steady));
        self.passes += 1;
    }

    fn follow(&mut self, piece: &Piece, sheet: &mut Sheet, dirty: &mut Option<Rect>) {
        let (a, b) = (piece.at(0.0), piece.at(1.0));
        let chord = libm::hypot(b.x - a.x, b.y - a.y);
        let bulge = piece.duration() * 0.5 * (libm::hypot(a.vx, a.vy) + libm::hypot(b.vx, b.vy));
        let steps = libm::ceil(chord.max(bulge) / STEP_MM).clamp(1.0, 20_000.0) as usize;
        let mut before = a;
        if let Some(pass) = self.pass.as_mut()
            && pass.last.is_none()
        {
            pass.last = Some(a);
            pass.turn(&a, chord);
            pass.heed(&a, &self.hand, 0.0);
            self.dab(&a, TAP_MM, sheet, dirty);
        }
        for k in 1..=steps {
            let f0 = (k - 1) as f64 / steps as f64;
            let f1 = k as f64 / steps as f64;
            let now = piece.at(f1);
            let length = libm::hypot(now.x - before.x, now.y - before.y);
            let mut done = 0.0;
            while let Some(pass) = self.pass.as_mut() {
                let wanted = pass.next_spacing - pass.since_dab;
                if length - done < wanted {
                    pass.since_dab += length - done;
                    pass.travelled += length - done;
                    break;
                }
                done += wanted.max(0.0);
                pass.travelled += wanted.max(0.0);
                let share = if length > 0.0 { done / length } else { 1.0 };
                let place = piece.at(f0 + (f1 - f0) * share);
                pass.turn(&place, length);
                let travel = pass.next_spacing;
                pass.since_dab = 0.0;
                self.dab(&place, travel, sheet, dirty);
            }
            if let Some(pass) = self.pass.as_mut() {
                pass.turn(&now, length);
                pass.heed(&now, &self.hand, now.t - before.t);
                pass.last = Some(now);
            }
            before = now;
        }
    }

    fn signals(&self, place: &Place) -> Signals {
        let pass = self.pass.as_ref().expect("a dab belongs to a pass");
        let (altitude, azimuth) = angles::to_spherical(place.tilt_x, place.tilt_y);
        let pressure = self.hand.calibration.apply(place.pressure);
        let seed = u64::from(self.tool.seed);
        let stroke = i64::from(self.stroke_base + pass.number);
        let chance = |stream: u64, n: i64| f64::from(num::unit(num::hash(seed, stream, stroke, n)));
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
            paint_left: self.rub.as_ref().map_or(1.0, |r| r.fullness(self.pixel_mm2)),
            chance_dab: chance(1, i64::from(pass.dabs)),
            chance_stroke: chance(2, 0),
        }
    }
}

/// What a tool that moves powder is; nothing for one that lays it.
fn mover(tool: &Tool) -> Option<Mover> {
    let n = |id: &str| tool.number(id) as f32;
    (tool.action != Action::Lay).then(|| Mover {
        action: tool.action,
        take_mm: n("mix.pickup_mm"),
        held: n("mix.pickup_held"),
        lay_mm: n("mix.release_mm"),
        holds_mm3: tool.number("mix.holds_mm3"),
        wear: n("mix.wear_um_mm"),
        give: n("load.give_um"),
        fill: n("load.fill_um"),
        face: n("load.face_um"),
    })
}
