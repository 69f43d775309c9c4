//! One dab: where the tip lies and how it presses, and what the trace keeps of it.

use super::placing::{Placing, Pressing};
use super::stand::Stand;
use super::{DryTool, HARDNESS_STEP, TOOTH_STEP};
use crate::chain::{Action, Quality};
use crate::hand::angles;
use crate::medium::dry::done::Done;
use crate::medium::dry::entry::Entry;
use crate::medium::{At, Mark, Next, Travel};
use crate::num;
use crate::sheet::{Changed, Sheet};
use crate::tip::Footprint;

/// Dabs are never closer than this, mm.
const LEAST_SPACING_MM: f64 = 0.02;
/// The end of a side that bites is never moved further than this along the side between dabs, mm.
const BITE_SPACING_MM: f64 = 0.3;
/// A dab costs as much as this many pixels beside its own.
const DAB_PIXELS: usize = 256;
/// Streams of chance: across the way, along it.
const ACROSS: u64 = 3;
const ALONG: u64 = 4;

/// A dab under way.
pub(super) struct Open {
    pressing: Pressing,
    pub(super) done: Done,
    /// The footprint on the way itself, and its first placement.
    middle: Footprint,
    first: Footprint,
    /// mm².
    area: f32,
    /// Load P/H that a press at the responses' most would give.
    full_load: f64,
    /// Length along the way, and how far off the next dab is, mm.
    along: f64,
    spacing: f64,
    /// How often it is placed, and how often it was.
    count: i64,
    placed: i64,
    /// Apart, for its tables are large and it is handed on from tile to tile.
    placing: Option<Box<Placing>>,
}

impl Open {
    pub(super) fn next(&self) -> Next {
        Next { spacing_mm: self.spacing, along_mm: self.along }
    }

    /// What it was.
    pub(super) fn mark(&self) -> Mark {
        let (first, done) = (&self.first, &self.done);
        let travel_mm = f64::from(self.pressing.travel);
        let mean = |sum: f32| if done.cover > 0.0 { f64::from(sum) / f64::from(done.cover) } else { 0.0 };
        let per_mm = |sum: f32| if travel_mm > 0.0 { mean(sum) / travel_mm } else { 0.0 };
        let touched = f64::from(done.touched);
        let full = if touched > 0.0 { f64::from(done.full) / touched } else { 0.0 };
        Mark {
            x_mm: f64::from(first.x),
            y_mm: f64::from(first.y),
            length_mm: f64::from(2.0 * (first.half_length + first.half_side)),
            width_mm: f64::from(2.0 * first.half_width),
            angle_deg: angles::wrap_degrees(
                libm::atan2(f64::from(first.sin), f64::from(first.cos)).to_degrees(),
            ),
            area_mm2: f64::from(self.area),
            travel_mm,
            // In the order of the medium's columns.
            values: vec![
                mean(done.load),
                self.full_load,
                mean(done.touched),
                mean(done.contact),
                full,
                per_mm(done.laid),
                per_mm(done.taken),
                f64::from(done.thickest),
            ],
        }
    }
}

impl DryTool {
    pub(super) fn opened(&mut self, at: &At, sheet: &Sheet) -> Open {
        let values = &at.qualities;
        let middle = self.footprint(at, sheet);
        let hardness = libm::round(values.get(Quality::Hardness) / HARDNESS_STEP);
        let auto = self.profile(hardness as u32).1;
        let along = f64::from(middle.width_along(middle.travel_cos, middle.travel_sin));
        let fraction = if self.auto_spacing { auto } else { values.get(Quality::Spacing) };
        let mut spacing = (fraction * along).max(LEAST_SPACING_MM);
        if self.bite > 0.0 && middle.half_side > 0.0 && self.auto_spacing {
            // Pulled along its length, the end that bites would show as a ladder.
            let lengthwise = f64::from(middle.travel_cos * middle.cos + middle.travel_sin * middle.sin).abs();
            spacing = spacing.min(BITE_SPACING_MM / lengthwise.max(1e-6));
        }

        let tooth = (libm::round(values.get(Quality::Tooth) / TOOTH_STEP) * TOOTH_STEP) as f32;
        let force = values.get(Quality::Force) as f32;
        let share = self.stencil.as_ref().map_or(1.0, |s| s.share(&middle.outline));
        let area = middle.area() * share;
        let travel = match at.travel {
            Travel::Press => along,
            Travel::Mm(mm) => mm,
        };
        let pressing = Pressing {
            // A multiplied tool only fades at its edge, however it presses.
            mean_load: if self.entry == Entry::Multiplied { 1.0 } else { force / area / self.stick.hardness },
            hardness: hardness as u32,
            tooth,
            travel: travel as f32,
            pass: along as f32,
        };
        let acts = values.get(Quality::Flow) > 0.0 && (force > 0.0 || self.action == Action::Fix);
        let count = (libm::round(values.get(Quality::Count)) as i64).max(1);
        Open {
            first: self.strayed(&middle, at, 0),
            placed: if acts { 0 } else { count },
            full_load: at.most.get(Quality::Force) / f64::from(area) / f64::from(self.stick.hardness),
            done: Done::default(),
            placing: None,
            pressing,
            middle,
            area,
            along,
            spacing,
            count,
        }
    }

    /// Works on a dab for a while; gives about how many pixels that took, or nothing where the dab is done.
    pub(super) fn work_on(
        &mut self,
        open: &mut Open,
        at: &At,
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) -> Option<usize> {
        if let Some(mut placing) = open.placing.take() {
            let pixels = self.act_in_place(&mut placing, at, sheet, &mut open.done, changed);
            open.placing = (!placing.is_done()).then_some(placing);
            return Some(pixels);
        }
        if open.placed == open.count {
            return None;
        }
        let footprint = self.strayed(&open.middle, at, open.placed);
        let strayed = [footprint.x - open.middle.x, footprint.y - open.middle.y];
        open.placing = self.place((&footprint, strayed), &open.pressing, at, open.placed, sheet, &open.done);
        open.placed += 1;
        Some(DAB_PIXELS)
    }

    /// The footprint on the way itself, before it strays.
    fn footprint(&self, at: &At, sheet: &Sheet) -> Footprint {
        let (place, signals, values) = (&at.place, &at.signals, &at.qualities);
        let before = self.before_mm + at.before_mm;
        let width = values.get(Quality::Width) * self.point.width(before, signals.distance_mm);
        let proportion = self.stencil.as_ref().map(|s| f64::from(s.proportion()));
        let stand = Stand::of((&self.outline, self.turned_by), (width, proportion), values, signals);
        let heading = signals.heading_deg.to_radians();
        let origin = sheet.raster().origin_mm;
        Footprint {
            x: (place.x - origin[0]) as f32,
            y: (place.y - origin[1]) as f32,
            outline: self.outline,
            half_length: stand.half_length as f32,
            half_width: stand.half_width as f32,
            half_side: stand.half_side as f32,
            cos: libm::cos(stand.angle) as f32,
            sin: libm::sin(stand.angle) as f32,
            travel_cos: libm::cos(heading) as f32,
            travel_sin: libm::sin(heading) as f32,
            // What is pressed on and lifted goes nowhere.
            travel: match at.travel {
                Travel::Mm(mm) => mm as f32,
                Travel::Press => 0.0,
            },
        }
    }

    /// Placement `k` of a dab: strayed across the way and along it.
    fn strayed(&self, middle: &Footprint, at: &At, k: i64) -> Footprint {
        let stray = |quality: Quality, stream: u64| {
            let most = at.qualities.get(quality);
            if most == 0.0 {
                0.0
            } else {
                (most * (2.0 * f64::from(num::unit(self.chance(at, stream, k))) - 1.0)) as f32
            }
        };
        let (across, along) = (stray(Quality::Scatter, ACROSS), stray(Quality::ScatterAlong, ALONG));
        Footprint {
            x: middle.x - across * middle.travel_sin + along * middle.travel_cos,
            y: middle.y + across * middle.travel_cos + along * middle.travel_sin,
            ..*middle
        }
    }
}
