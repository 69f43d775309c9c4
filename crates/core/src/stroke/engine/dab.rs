//! One dab: where the tip lies, how it presses, and what the trace keeps of it.

use super::pass::{Due, WHOLE_PRESS};
use super::placing::Placing;
use super::{Engine, HARDNESS_STEP, LEAST_SPACING_MM, TOOTH_STEP};
use crate::hand::path::Place;
use crate::hand::{Signals, angles};
use crate::medium::dry::Done;
use crate::medium::entry::Entry;
use crate::num;
use crate::sheet::{Rect, Sheet};
use crate::stroke::qualities::Values;
use crate::stroke::trace::{DabTrace, Placed};
use crate::tip::{Footprint, Profile, spacing};
use crate::tool::Action;
use crate::tool::parameter::Quality;
use crate::touch::Factor;

/// The end of a side that bites is never moved further than this along the side between dabs, mm.
const BITE_SPACING_MM: f64 = 0.3;
/// A dab costs as much as this many pixels beside its own.
const DAB_PIXELS: usize = 256;
/// Streams of chance: across the way, along it.
const ACROSS: u64 = 3;
const ALONG: u64 = 4;

/// A dab under way.
pub(super) struct OpenDab {
    values: Values,
    pressing: Pressing,
    done: Done,
    signals: Signals,
    factors: Vec<Factor>,
    /// The footprint on the way itself, and its first placement.
    middle: Footprint,
    first: Footprint,
    /// mm².
    area: f32,
    /// Length along the way, and how far off the next dab is, mm.
    width_along: f64,
    spacing: f64,
    /// How far the steadied tip is behind the pen, mm and ms.
    lag: (f64, f64),
    /// How often it is placed, and how often it was.
    count: i64,
    placed: i64,
    placing: Option<Placing>,
}

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

impl Engine {
    /// Opens a dab.
    pub(super) fn open(&mut self, Due { place, travel }: &Due, sheet: &Sheet) -> OpenDab {
        let signals = self.signals(place);
        let mut factors = Vec::new();
        let values = self.qualities.at(&self.tool, &signals, &mut factors);
        let middle = self.footprint(place, &signals, &values, *travel, sheet);
        let hardness = libm::round(values.get(Quality::Hardness) / HARDNESS_STEP);
        let auto = self.profile(hardness as u32).1;
        let width_along = f64::from(middle.width_along(middle.travel_cos, middle.travel_sin));
        let fraction = if self.auto_spacing { auto } else { values.get(Quality::Spacing) };
        let mut spacing = (fraction * width_along).max(LEAST_SPACING_MM);
        if self.bite > 0.0 && middle.half_side > 0.0 && self.auto_spacing {
            // Pulled along its length, the end that bites would show as a ladder.
            let along = f64::from(middle.travel_cos * middle.cos + middle.travel_sin * middle.sin).abs();
            spacing = spacing.min(BITE_SPACING_MM / along.max(1e-6));
        }

        let tooth = (libm::round(values.get(Quality::Tooth) / TOOTH_STEP) * TOOTH_STEP) as f32;
        let force = values.get(Quality::Force) as f32;
        let share = self.stencil.as_ref().map_or(1.0, |s| s.share(&middle.outline));
        let area = middle.area() * share;
        let travel = if *travel == WHOLE_PRESS { width_along } else { *travel };
        let pressing = Pressing {
            // A multiplied tool only fades at its edge, however it presses.
            mean_load: if self.entry == Entry::Multiplied { 1.0 } else { force / area / self.stick.hardness },
            hardness: hardness as u32,
            tooth,
            travel: travel as f32,
            pass: width_along as f32,
        };
        let acts = values.get(Quality::Flow) > 0.0 && (force > 0.0 || self.tool.action == Action::Fix);
        let count = (libm::round(values.get(Quality::Count)) as i64).max(1);
        OpenDab {
            first: self.strayed(&middle, &values, 0),
            lag: self.lag(place),
            placed: if acts { 0 } else { count },
            done: Done::default(),
            placing: None,
            values,
            pressing,
            signals,
            factors,
            middle,
            area,
            width_along,
            spacing,
            count,
        }
    }

    /// Works on a dab for a while; gives about how many pixels that took, or nothing where the dab is done.
    pub(super) fn work_on(
        &mut self,
        dab: &mut OpenDab,
        sheet: &mut Sheet,
        changed: &mut Option<Rect>,
    ) -> Option<usize> {
        if let Some(mut placing) = dab.placing.take() {
            let (pixels, rect) = self.act_in_place(&mut placing, &dab.values, sheet, &mut dab.done);
            *changed = changed.map_or(rect, |c| rect.map_or(Some(c), |r| Some(c.union(r))));
            dab.placing = (!placing.is_done()).then_some(placing);
            return Some(pixels);
        }
        if dab.placed == dab.count {
            return None;
        }
        let footprint = self.strayed(&dab.middle, &dab.values, dab.placed);
        dab.placing = self.place(&footprint, &dab.pressing, &dab.values, dab.placed, sheet, &dab.done);
        dab.placed += 1;
        Some(DAB_PIXELS)
    }

    /// Closes a dab that is done: the trace keeps it, and the pass goes on from it.
    pub(super) fn close(&mut self, dab: OpenDab) {
        let OpenDab { signals, values, factors, first, area, .. } = dab;
        let force = values.get(Quality::Force);
        let most_force: f64 = factors
            .iter()
            .filter(|f| self.tool.responses[f.response].quality == Quality::Force && f.of_most > 0.0)
            .fold(f64::from(force as f32), |sum, f| sum / f.of_most);
        let pass = self.pass_mut();
        pass.next_spacing = dab.spacing;
        pass.width_along = dab.width_along;
        pass.dabs += 1;
        let pass = self.pass();
        let placed = Placed {
            lag_mm: dab.lag.0,
            lag_ms: dab.lag.1,
            pass: pass.number,
            at_mm: self.total_mm + signals.distance_mm,
            x_mm: f64::from(first.x),
            y_mm: f64::from(first.y),
            hand_gf: self.hand.profile.force_gf(signals.raw_pressure),
            length_mm: f64::from(2.0 * (first.half_length + first.half_side)),
            width_mm: f64::from(2.0 * first.half_width),
            angle_deg: angles::wrap_degrees(
                libm::atan2(f64::from(first.sin), f64::from(first.cos)).to_degrees(),
            ),
            area_mm2: f64::from(area),
            full_load: most_force / f64::from(area) / f64::from(self.stick.hardness),
            travel_mm: f64::from(dab.pressing.travel),
        };
        self.trace.dabs.push(DabTrace::new(&placed, signals, &values, factors, &dab.done));
    }

    /// How far the steadied tip is behind the pen, mm, and how long ago the pen was there at its speed, ms.
    fn lag(&self, place: &Place) -> (f64, f64) {
        let Some(steady) = &self.pass().steady else { return (0.0, 0.0) };
        let ([x, y], speed) = steady.hand_at(place.t);
        let lag = libm::hypot(x - place.x, y - place.y);
        (lag, if speed > 1.0 { 1000.0 * lag / speed } else { 0.0 })
    }

    /// The footprint on the way itself, before it strays.
    fn footprint(
        &self,
        place: &Place,
        signals: &Signals,
        values: &Values,
        travel: f64,
        sheet: &Sheet,
    ) -> Footprint {
        let width = values.get(Quality::Width) * self.point.width(self.total_mm, signals.distance_mm);
        let side = values.get(Quality::Side) * libm::sin(signals.tilt_deg.to_radians());
        let proportion = self.stencil.as_ref().map_or(1.0, |s| f64::from(s.proportion()));
        let turned = match self.tool.choice("tip.angle_from") {
            "lean" => signals.lean_deg,
            "barrel" => signals.barrel_deg,
            "heading" => signals.heading_deg,
            // A side lies down along the lean; the tool's own angle turns it from there.
            _ if side > 0.0 => signals.lean_deg,
            _ => 0.0,
        };
        // A plain round end has no direction.
        let plain = self.outline.is_round() && self.stencil.is_none();
        let angle = if plain && side <= 0.0 && values.get(Quality::Aspect) <= 1.0 {
            0.0
        } else {
            values.get(Quality::Angle) + turned
        };
        let heading = signals.heading_deg.to_radians();
        let angle = angle.to_radians();
        let origin = sheet.raster().origin_mm;
        Footprint {
            x: (place.x - origin[0]) as f32,
            y: (place.y - origin[1]) as f32,
            outline: self.outline,
            half_length: (0.5 * width * values.get(Quality::Aspect) * proportion) as f32,
            half_width: (0.5 * width) as f32,
            half_side: (0.5 * side) as f32,
            cos: libm::cos(angle) as f32,
            sin: libm::sin(angle) as f32,
            travel_cos: libm::cos(heading) as f32,
            travel_sin: libm::sin(heading) as f32,
            travel: travel as f32,
        }
    }

    /// Placement `k` of a dab: strayed across the way and along it.
    fn strayed(&self, middle: &Footprint, values: &Values, k: i64) -> Footprint {
        let stray = |quality: Quality, stream: u64| {
            let most = values.get(quality);
            if most == 0.0 {
                0.0
            } else {
                (most * (2.0 * f64::from(num::unit(self.chance(stream, k))) - 1.0)) as f32
            }
        };
        let (across, along) = (stray(Quality::Scatter, ACROSS), stray(Quality::ScatterAlong, ALONG));
        Footprint {
            x: middle.x - across * middle.travel_sin + along * middle.travel_cos,
            y: middle.y + across * middle.travel_cos + along * middle.travel_sin,
            ..*middle
        }
    }

    /// Chance of placement `k` of the present dab.
    pub(super) fn chance(&self, stream: u64, k: i64) -> u64 {
        let pass = self.pass();
        let stroke = i64::from(self.stroke_base + pass.number);
        num::hash(u64::from(self.tool.seed), stream, stroke, i64::from(pass.dabs) + (k << 32))
    }

    /// The pressure profile of a stepped hardness, and its widest good spacing as a share of the footprint.
    fn profile(&mut self, step: u32) -> &(Profile, f64) {
        self.profiles.entry(step).or_insert_with(|| {
            let profile = Profile::new((f64::from(step) * HARDNESS_STEP) as f32);
            let auto = f64::from(spacing::auto_fraction(&profile));
            (profile, auto)
        })
    }
}
