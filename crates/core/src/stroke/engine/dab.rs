//! One dab: where the tip lies, how it presses, what it does there, and what the trace keeps of it.

use super::{Engine, HARDNESS_STEP, LEAST_SPACING_MM, TOOTH_STEP, WHOLE_PRESS};
use crate::hand::path::Place;
use crate::hand::{Signals, angles};
use crate::medium::dry::Done;
use crate::medium::entry::Entry;
use crate::medium::press::Press;
use crate::num;
use crate::sheet::{Rect, Sheet};
use crate::stroke::qualities::Values;
use crate::stroke::trace::{DabTrace, Placed};
use crate::stroke::visit::{At, lies_everywhere, under};
use crate::tip::{Footprint, Profile, spacing};
use crate::tool::Action;
use crate::tool::parameter::Quality;

/// The end of a side that bites is never moved further than this along the side between dabs, mm.
const BITE_SPACING_MM: f64 = 0.3;
/// Streams of chance: across the way, along it, which field of specks.
const ACROSS: u64 = 3;
const ALONG: u64 = 4;
const SPECKS: u64 = 5;

impl Engine {
    pub(super) fn dab(&mut self, place: &Place, travel: f64, sheet: &mut Sheet, dirty: &mut Option<Rect>) {
        let signals = self.signals(place);
        let mut factors = Vec::new();
        let values = self.qualities.at(&self.tool, &signals, &mut factors);
        let middle = self.footprint(place, &signals, &values, travel, sheet);
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
        let travel = if travel == WHOLE_PRESS { width_along } else { travel };
        let press = Pressing {
            // A multiplied tool only fades at its edge, however it presses.
            mean_load: if self.entry == Entry::Multiplied { 1.0 } else { force / area / self.stick.hardness },
            hardness: hardness as u32,
            tooth,
            travel: travel as f32,
            pass: width_along as f32,
        };
        let mut done = Done::default();
        let acts = values.get(Quality::Flow) > 0.0 && (force > 0.0 || self.tool.action == Action::Fix);
        let count = libm::round(values.get(Quality::Count)) as i64;
        let mut first = middle;
        for k in 0..count.max(1) {
            let footprint = self.strayed(&middle, &values, k);
            if k == 0 {
                first = footprint;
            }
            if acts && let Some(rect) = self.place_in_place(&footprint, &press, &values, k, sheet, &mut done)
            {
                *dirty = Some(dirty.map_or(rect, |d| d.union(rect)));
            }
        }

        let most_force: f64 = factors
            .iter()
            .filter(|f| self.tool.responses[f.response].quality == Quality::Force && f.of_most > 0.0)
            .fold(f64::from(force), |sum, f| sum / f.of_most);
        let (lag_mm, lag_ms) = self.lag(place);
        let placed = Placed {
            lag_mm,
            lag_ms,
            pass: self.pass.as_ref().map_or(0, |p| p.number),
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
            travel_mm: travel,
        };
        self.trace.dabs.push(DabTrace::new(&placed, signals, &values, factors, &done));
        if let Some(pass) = self.pass.as_mut() {
            pass.next_spacing = spacing;
            pass.width_along = width_along;
            pass.dabs += 1;
        }
    }

    /// Presses the tip once; gives the pixels it may have changed.
    fn place_in_place(
        &mut self,
        footprint: &Footprint,
        pressing: &Pressing,
        values: &Values,
        k: i64,
        sheet: &mut Sheet,
        done: &mut Done,
    ) -> Option<Rect> {
        let pixel = sheet.pixel_mm() as f32;
        let (shown, thin) = footprint.for_pixels(pixel);
        let (reach_x, reach_y) = shown.reach();
        let across = (reach_x * shown.travel_sin.abs() + reach_y * shown.travel_cos.abs()) + pixel;
        let at_mm = self.total_mm + self.pass.as_ref().map_or(0.0, |p| p.travelled);
        self.face.fill_in_place(u64::from(self.tool.seed), across, at_mm as f32);
        let rect = under(&shown, pixel, sheet)?;
        let plane = self.bearing.plane(pressing.tooth, self.stick.grit, self.stick.give);
        let profile = &self.profiles[&pressing.hardness].0;
        let press = Press::new(profile, &plane, pressing.mean_load * footprint.profile_norm(profile))
            .biting(self.bite, footprint, &plane)
            .riding(self.rides_on(&shown, sheet));
        let at = At {
            shown,
            thin,
            mean_load: pressing.mean_load,
            travel: pressing.travel,
            tooth: pressing.tooth,
            pass: pressing.pass,
        };
        let turn = (self.chance(SPECKS, k) >> 32) as usize;
        let stencil = self.stencil.clone();
        let depth = values.get(Quality::Grain) as f32;
        let origin = sheet.raster().origin_mm;
        let stamp = stencil.as_deref().map(|s| s.stamp(&shown, origin, turn, depth, pixel));
        match self.rub.take() {
            Some(mut rub) => {
                self.rub_in_place(&mut rub, &at, &press, stamp.as_ref(), values, rect, sheet, done);
                self.rub = Some(rub);
            }
            None => self.lay_in_place(&at, &press, stamp.as_ref(), values, rect, sheet, done),
        }
        let dusted = self.settle_in_place(pressing.travel, sheet);
        Some(dusted.map_or(rect, |d| d.union(rect)))
    }

    /// Powder that a tip rides on, µm; none where it does not press.
    fn rides_on(&self, shown: &Footprint, sheet: &Sheet) -> f32 {
        if self.entry != Entry::Contact || self.tool.action == Action::Fix {
            return 0.0;
        }
        let stroke = self.stroke_base + self.pass.as_ref().map_or(0, |p| p.number) + 1;
        let even = (self.stick.even && self.tool.action == Action::Lay).then_some(stroke as f32);
        lies_everywhere(shown, sheet.pixel_mm() as f32, sheet, even)
    }

    /// How far the steadied tip is behind the pen, mm, and how long ago the pen was there at its speed, ms.
    fn lag(&self, place: &Place) -> (f64, f64) {
        let Some(steady) = self.pass.as_ref().and_then(|p| p.steady.as_ref()) else { return (0.0, 0.0) };
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
    fn chance(&self, stream: u64, k: i64) -> u64 {
        let pass = self.pass.as_ref().expect("a dab belongs to a pass");
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

/// How the tip presses at a dab.
struct Pressing {
    /// Mean load P/H.
    mean_load: f32,
    /// Stepped edge hardness.
    hardness: u32,
    tooth: f32,
    /// Travel it stands for, and length of the footprint along the way, mm.
    travel: f32,
    pass: f32,
}
