//! A brush with paint in use: in steps of about 0.2 mm the leading side of the patch in which its hairs touch is swept over the
//! sheet, and every pixel it meets is exchanged with once.

mod blade;
mod brush;
pub(super) mod care;
mod cells;
mod leading;
mod levelling;
mod lie;
mod loading;
mod pose;
mod rims;
mod settling;
pub(super) mod shape;
mod stepping;
mod sweep;

use std::rc::Rc;

use crate::chain::{Action, Quality, Settings};
use crate::ground::Feel;
use crate::medium::{Acting, Amount, At, Balance, Carried, Mark, Next};
use crate::num;
use crate::sheet::{Changed, Sheet};
use crate::tip::TurnedBy;
use crate::tip::hair::{self, Bends};

use super::exchange::Done;
use super::make::{Leaves, Make, Maker, Mixing};
use super::profile::Profile;
use blade::Blade;
use brush::{Brush, Shape};
use care::AfterStroke;
use cells::Cells;
use levelling::Levelling;
use lie::Lie;
use pose::{Pose, Stance};

/// Steps are so long, mm of travel; longer on a coarse sheet, so many pixels, but never longer than the last.
const STEP_MM: f64 = 0.2;
const STEP_PIXELS: f64 = 1.2;
const LONGEST_STEP_MM: f64 = 0.4;

/// What a brush carries from stroke to stroke, and what it had to give when it was fresh, µm·mm².
struct Kept {
    brush: Brush,
    full: f64,
    /// What of that it holds was loaded since its last stroke.
    dipped: Amount,
}

/// A brush with paint in use.
pub struct PasteTool {
    seed: u64,
    maker: Maker,
    mixing: Mixing,
    make: Make,
    leaves: Option<Leaves>,
    brush: Brush,
    profile: Profile,
    bends: Bends,
    splay: f64,
    blade: Option<Blade>,
    turned_by: TurnedBy,
    endless: bool,
    /// Length of a step on this sheet, mm.
    step_mm: f64,
    cells: Cells,
    lie: Lie,
    /// How long its own paint stays open, min; nothing for what brings none.
    open_min: Option<f64>,
    levelling: Levelling,
    brought: Amount,
    held_before: Amount,
    gone: Amount,
    after: AfterStroke,
    /// Travel of the tool before this gesture, and in its passes that are over, mm.
    before_mm: f64,
    passes_mm: f64,
    /// What it had to give when it was fresh, µm·mm².
    full: f64,
    /// Where the tip last was, and the step that is open.
    last: Option<Pose>,
    stance: Option<Stance>,
    /// The step that is open lifts the tip off.
    lifts: bool,
    step: Option<Step>,
    /// Way of the pass so far, and the farthest the ferrule was pressed, mm.
    way_mm: f64,
    peak: f64,
    done: Option<Mark>,
}

/// A step of the tip that was not worked yet.
struct Step {
    from: Option<Stance>,
    to: Stance,
    travel: f64,
}

impl Step {
    /// How far the hairs' end at a lane slipped over the sheet, mm.
    fn slip(&self, lane: usize) -> f32 {
        let to = self.to.lanes[lane];
        self.from
            .as_ref()
            .map_or(0.0, |f| num::hypot(to[0] - f.lanes[lane][0], to[1] - f.lanes[lane][1]) as f32)
    }
}

impl PasteTool {
    pub fn new(tool: &Settings<'_>, sheet: &Sheet, carried: Option<&Carried>) -> Self {
        let n = |id: &str| tool.number(id);
        let shape = Shape::of(tool);
        let (outline, seed) = (shape.outline, shape.seed);
        // A brush of another shape is another brush.
        let kept = carried.and_then(|c| c.inside.downcast_ref::<Kept>()).filter(|k| k.brush.shape == shape);
        let (brush, full, [brought, held_before]) = match kept {
            Some(kept) => (kept.brush.clone(), kept.full, [kept.dipped, kept.brush.holds() - kept.dipped]),
            None => {
                let brush = Brush::loaded(tool);
                let (full, loaded) = (loading::store(&brush), brush.holds());
                (brush, full, [loaded, Amount::default()])
            }
        };
        let length = n("tip.hair_length_mm") * outline.length;
        let maker = Maker::new(tool);
        let mixing = Mixing::still(tool);
        Self {
            seed,
            maker,
            mixing,
            make: maker.make(mixing),
            leaves: maker.leaves(mixing),
            full,
            brush,
            profile: Profile::new(seed, n("load.uneven_width") as f32, sheet.pixel_mm() as f32),
            bends: Bends::new([
                n("tip.hair_mm"),
                n("tip.hair_gpa"),
                length,
                n("tip.hair_count"),
                hair::uneven_mm(tool),
            ]),
            splay: n("tip.splay") * outline.spread,
            blade: Blade::of(tool),
            turned_by: tool.chosen("tip.angle_from"),
            endless: tool.action == Action::Lay && tool.switch("load.endless"),
            step_mm: (STEP_PIXELS * sheet.pixel_mm()).clamp(STEP_MM, LONGEST_STEP_MM),
            cells: Cells::default(),
            lie: Lie::new(Feel::of(tool), n("ground.tooth") as f32),
            open_min: (tool.action == Action::Lay).then(|| n("relief.open_min")),
            levelling: Levelling::default(),
            brought,
            held_before,
            gone: Amount::default(),
            after: AfterStroke::of(tool),
            before_mm: carried.map_or(0.0, |c| c.travel_mm),
            passes_mm: 0.0,
            last: None,
            stance: None,
            lifts: false,
            step: None,
            way_mm: 0.0,
            peak: 0.0,
            done: None,
        }
    }

    /// What the outside of one column holds, µm·mm².
    fn outside(&self) -> f32 {
        loading::outside(self.blade.is_some())
    }

    /// Direction of the ferrule's width on the sheet, radians.
    fn direction(&self, at: &At) -> f64 {
        self.turned_by.direction(&at.qualities, &at.signals)
    }
}

impl Acting for PasteTool {
    fn presses(&self) -> bool {
        true
    }

    fn paint_left(&self) -> f64 {
        if self.full > 0.0 { (loading::store(&self.brush) / self.full).min(1.0) } else { 0.0 }
    }

    fn open(&mut self, at: &At, _sheet: &Sheet) -> Next {
        let direction = self.direction(at);
        let press = match &mut self.blade {
            Some(blade) => blade.hold(&at.qualities, &at.signals, direction),
            // As of a hair of 22 mm, by which the study's numbers go.
            None => {
                let force = at.qualities.get(Quality::Force);
                22.0 * self.bends.lowered_mm(force, at.signals.tilt_deg) / self.bends.length_mm()
            }
        };
        let aside = self.blade.map_or(0.0, |b| b.aside()) * self.brush.shape.half_mm[0];
        let pose = Pose {
            place: [at.place.x + aside * libm::cos(direction), at.place.y + aside * libm::sin(direction)],
            direction,
            press,
            heading: at.signals.heading_deg.to_radians(),
        };
        self.step = self.go_to(pose);
        let mixing = Mixing::of(&at.qualities);
        if mixing != self.mixing {
            (self.mixing, self.make) = (mixing, self.maker.make(mixing));
            self.leaves = self.maker.leaves(mixing);
        }
        Next { spacing_mm: self.step_mm, along_mm: self.step_mm }
    }

    fn work(&mut self, at: &At, sheet: &mut Sheet, changed: &mut Changed) -> Option<usize> {
        let step = self.step.take();
        if step.is_none() && self.done.is_some() {
            return None;
        }
        let flow = at.qualities.get(Quality::Flow) as f32;
        let (done, visits) = match &step {
            Some(step) => self.sweep_in_place(step, at, flow, sheet, changed),
            None => (Done::default(), 1),
        };
        self.done = Some(self.mark(at, step.as_ref(), (&done, visits), sheet.raster().origin_mm));
        Some(visits.max(1))
    }

    fn close(&mut self) -> Mark {
        self.done.take().expect("a contact is worked before it is closed")
    }

    fn end_pass(&mut self, travelled_mm: f64, sheet: &mut Sheet, _changed: &mut Changed) {
        self.lift();
        self.levelling.begin(self.make.stand_um_mm, sheet);
        let [gone, loaded] = self.after.tend(&mut self.brush);
        self.gone += gone;
        self.brought += loaded;
        self.passes_mm += travelled_mm;
    }

    fn settle(&mut self, sheet: &mut Sheet, changed: &mut Changed) -> Option<usize> {
        self.levelling.step_in_place(&mut self.lie, sheet, changed)
    }

    fn carried(&self) -> Carried {
        let mut brush = self.brush.clone();
        brush.lift();
        Carried {
            travel_mm: self.before_mm + self.passes_mm,
            inside: Rc::new(Kept { brush, full: self.full, dipped: Amount::default() }),
        }
    }

    fn balance(&self) -> Balance {
        Balance {
            brought: self.brought,
            held_before: self.held_before,
            held: self.brush.holds(),
            found: self.brush.found(),
            gone: self.gone,
        }
    }
}
