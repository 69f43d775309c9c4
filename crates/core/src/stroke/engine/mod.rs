//! The engine: runs reports of a stylus through a tool onto a sheet, dab by dab.
//!
//! Nothing here depends on how the reports are batched: a piece of the way is worked on when its next report arrives, and
//! dabs are set by travelled length. Nor does it depend on how the work is divided: it is done in one order, and may rest after
//! any tile of a dab, so that a screen need not wait for a large one.

mod dab;
mod pass;
mod placing;

use std::collections::{HashMap, VecDeque};
use std::rc::Rc;

use super::qualities::Qualities;
use super::trace::{Balance, Trace};
use super::visit::Contacts;
use crate::error::Result;
use crate::ground::Bearing;
use crate::hand::path::Place;
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
use dab::OpenDab;
use pass::Pass;

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
    /// Passes that were heard and not done yet, and the dab of the first of them that is under way.
    heard: VecDeque<Pass>,
    dab: Option<OpenDab>,
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
            rub: mover(&tool).map(|m| Rub::new(m, sheet.pixel_mm() * sheet.pixel_mm())),
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
            heard: VecDeque::new(),
            dab: None,
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

    /// Takes reports of a pen that is down, and works them off; gives the pixels that changed.
    pub fn extend(&mut self, samples: &[Sample], sheet: &mut Sheet) -> Option<Rect> {
        self.hear(samples);
        self.work(usize::MAX, sheet)
    }

    /// The pen lifts: the rest of the way is worked off.
    pub fn lift(&mut self, sheet: &mut Sheet) -> Option<Rect> {
        self.hear_lift();
        self.work(usize::MAX, sheet)
    }

    /// Takes reports of a pen that is down, for [`Engine::work`].
    pub fn hear(&mut self, samples: &[Sample]) {
        for sample in samples {
            if self.heard.back().is_none_or(Pass::is_lifted) {
                let steady = self.tool.steadying().map(SteadyWay::new);
                self.heard.push_back(Pass::begin(self.passes, sample, steady));
                self.passes += 1;
            }
            if let Some(pass) = self.heard.back_mut() {
                pass.hear(sample);
            }
        }
    }

    /// Hears that the pen lifted.
    pub fn hear_lift(&mut self) {
        if let Some(pass) = self.heard.back_mut().filter(|p| !p.is_lifted()) {
            pass.lift();
        }
    }

    /// Something that was heard is still to be worked off.
    pub fn waits(&self) -> bool {
        self.dab.is_some() || self.heard.front().is_some_and(Pass::waits)
    }

    /// Works off what was heard until about so many `pixels` were visited; gives those that changed.
    pub fn work(&mut self, mut pixels: usize, sheet: &mut Sheet) -> Option<Rect> {
        let mut changed = None;
        while pixels > 0 {
            if let Some(mut dab) = self.dab.take() {
                match self.work_on(&mut dab, sheet, &mut changed) {
                    Some(visited) => {
                        self.dab = Some(dab);
                        pixels = pixels.saturating_sub(visited);
                    }
                    None => self.close(dab),
                }
                continue;
            }
            let Some(pass) = self.heard.front_mut() else { break };
            if let Some(due) = pass.next_dab(&self.hand, self.tool.action == Action::Lift) {
                self.dab = Some(self.open(&due, sheet));
            } else if pass.is_over() {
                let dusted = self.end_pass(sheet);
                changed = changed.into_iter().chain(dusted).reduce(Rect::union);
            } else {
                break;
            }
        }
        changed
    }

    /// The pass is done: what is left of dust falls.
    fn end_pass(&mut self, sheet: &mut Sheet) -> Option<Rect> {
        let dusted = self.settle_in_place(f32::INFINITY, sheet);
        self.dust.iter_mut().for_each(Dust::end);
        self.total_mm += self.heard.pop_front().map_or(0.0, |p| p.travelled);
        dusted
    }

    /// The pass that is worked on.
    fn pass(&self) -> &Pass {
        self.heard.front().expect("a dab belongs to a pass")
    }

    fn pass_mut(&mut self) -> &mut Pass {
        self.heard.front_mut().expect("a dab belongs to a pass")
    }

    fn signals(&self, place: &Place) -> Signals {
        let pass = self.pass();
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
            paint_left: self.rub.as_ref().map_or(1.0, |r| r.fullness()),
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
