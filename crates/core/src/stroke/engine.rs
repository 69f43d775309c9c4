//! The engine: runs reports of a stylus through a tool onto a sheet, dab by dab.
//!
//! Nothing here depends on how the reports are batched: a piece of the way is worked on when its next report arrives, and
//! dabs are set by travelled length.

use std::collections::HashMap;
use std::rc::Rc;

use super::qualities::{Qualities, Values};
use super::trace::{Balance, DabTrace, Placed, Trace};
use super::visit::{At, TileContact, contact_in_place, corner, tiles_of, under};
use crate::error::Result;
use crate::ground::{Bearing, Feel};
use crate::hand::path::{Path, Piece, Place};
use crate::hand::steadying::SteadyWay;
use crate::hand::{Hand, Sample, Signals, angles};
use crate::medium::dry::{self, Done, Stick};
use crate::medium::face::Face;
use crate::medium::press::Press;
use crate::medium::rub::{self, Mover, Rub};
use crate::num;
use crate::paint::pigment;
use crate::sheet::{Rect, Sheet};
use crate::tip::{Footprint, Profile, spacing};
use crate::tool::parameter::Quality;
use crate::tool::{Action, Tool};

/// The way is followed in steps of this length, mm.
const STEP_MM: f64 = 0.1;
/// Speed is smoothed over this time, s (tuned by eye: a pen's reports jitter).
const SPEED_SMOOTHING_S: f64 = 0.012;
/// A pen set down without travel still rubs this much, mm (tuned by eye).
const TAP_MM: f64 = 0.15;
/// Dabs are never closer than this, mm.
const LEAST_SPACING_MM: f64 = 0.02;
/// Tooth depth and edge hardness are stepped this finely where a response drives them, so that tables can be shared.
const TOOTH_STEP: f64 = 1.0 / 64.0;
const HARDNESS_STEP: f64 = 1.0 / 64.0;

/// Where the pen is within a pass.
struct Pass {
    number: u32,
    path: Path,
    /// Where the tool steadies the hand.
    steady: Option<SteadyWay>,
    /// Travel since touching down, and since the last dab.
    travelled: f64,
    since_dab: f64,
    next_spacing: f64,
    dabs: u32,
    last: Option<Place>,
    started_t: f64,
    speed: Option<f64>,
    heading: f64,
    hardest: f64,
}

/// A running stroke.
pub struct Engine {
    tool: Rc<Tool>,
    hand: Hand,
    qualities: Qualities,
    stick: Stick,
    /// What moves powder, where the tool does not lay it.
    rub: Option<Rub>,
    /// Powder that came from the stick, µm × pixels.
    from_stick: f64,
    pixel_mm2: f64,
    feel: Feel,
    auto_spacing: bool,
    grain_within: f32,
    bearing: Rc<Bearing>,
    profiles: HashMap<u32, (Profile, f64)>,
    tiles: HashMap<(usize, usize), TileContact>,
    face: Face,
    pass: Option<Pass>,
    passes: u32,
    total_mm: f64,
    stroke_base: u32,
    trace: Trace,
}

impl Engine {
    /// A tool in a hand over a sheet.
    ///
    /// # Errors
    /// Passes on what [`Tool::check`] and [`crate::hand::DeviceProfile::check`] refuse.
    pub fn new(tool: Rc<Tool>, hand: Hand, sheet: &Sheet) -> Result<Self> {
        tool.check()?;
        hand.profile.check().map_err(|e| e.within("profile"))?;
        let ground = sheet.ground();
        let feel = tool.feel();
        let n = |id: &str| tool.number(id) as f32;
        let stick = Stick {
            powder: pigment::powder(tool.choice("load.stick")),
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
        Ok(Self {
            qualities: Qualities::new(&tool),
            auto_spacing: tool.switch("tip.spacing_auto"),
            grain_within: sheet.grain_within(feel),
            hand,
            rub: mover(&tool).map(Rub::new),
            from_stick: 0.0,
            pixel_mm2: sheet.pixel_mm() * sheet.pixel_mm(),
            stick,
            feel,
            bearing: ground.bearing(feel),
            profiles: HashMap::new(),
            tiles: HashMap::new(),
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
        let (in_tool, dust) = self.rub.as_ref().map_or((0.0, 0.0), Rub::holds);
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
            self.dab(&place, TAP_MM, sheet, &mut dirty);
        } else {
            // What is left of the way since the last dab.
            let rest = self.pass.as_ref().map(|p| (p.since_dab, p.last));
            if let Some((since, Some(place))) = rest
                && since > 1e-6
            {
                self.dab(&place, since, sheet, &mut dirty);
            }
        }
        if let Some(pass) = self.pass.take() {
            self.total_mm += pass.travelled;
        }
        dirty
    }

    fn begin(&mut self, first: &Sample) {
        self.pass = Some(Pass {
            number: self.passes,
            path: Path::default(),
            steady: self.tool.steadying().map(SteadyWay::new),
            travelled: 0.0,
            since_dab: 0.0,
            next_spacing: 0.0,
            dabs: 0,
            last: None,
            started_t: first.t,
            speed: None,
            heading: 0.0,
            hardest: 0.0,
        });
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

    fn dab(&mut self, place: &Place, travel: f64, sheet: &mut Sheet, dirty: &mut Option<Rect>) {
        let signals = self.signals(place);
        let mut factors = Vec::new();
        let values = self.qualities.at(&self.tool, &signals, &mut factors);
        let pixel = sheet.pixel_mm() as f32;
        let footprint = self.footprint(place, &signals, &values, travel, sheet);
        let hardness = libm::round(values.get(Quality::Hardness) / HARDNESS_STEP);
        let auto = self.profile(hardness as u32).1;
        let width_along = f64::from(footprint.width_along(footprint.travel_cos, footprint.travel_sin));
        let fraction = if self.auto_spacing { auto } else { values.get(Quality::Spacing) };
        let spacing = (fraction * width_along).max(LEAST_SPACING_MM);

        let tooth = (libm::round(values.get(Quality::Tooth) / TOOTH_STEP) * TOOTH_STEP) as f32;
        let plane = self.bearing.plane(tooth, self.stick.grit, self.stick.give);
        let force = values.get(Quality::Force) as f32;
        let area = footprint.area();
        let (shown, thin) = footprint.for_pixels(pixel);
        let profile = &self.profiles[&(hardness as u32)].0;
        let mean_load = force / area / self.stick.hardness;
        let (reach_x, reach_y) = shown.reach();
        let across = (reach_x * footprint.travel_sin.abs() + reach_y * footprint.travel_cos.abs()) + pixel;
        let seed = u64::from(self.tool.seed);
        self.face.fill_in_place(seed, across, (self.total_mm + signals.distance_mm) as f32);
        let load = mean_load * footprint.profile_norm(profile);
        let press = Press::new(profile, &plane, load);
        let travel = match (self.tool.action, self.pass.as_ref().map(|p| p.dabs)) {
            // Setting down is a whole press, not a rub.
            (Action::Lift, Some(0)) => width_along,
            _ => travel,
        };
        let mut done = Done::default();
        let acts = values.get(Quality::Flow) > 0.0 && (force > 0.0 || self.tool.action == Action::Fix);
        if let Some(rect) = under(&shown, pixel, sheet).filter(|_| acts) {
            let at = At { shown, thin, travel: travel as f32, tooth, pass: width_along as f32 };
            match self.rub.take() {
                Some(mut rub) => {
                    self.rub_in_place(&mut rub, &at, &press, &values, rect, sheet, &mut done);
                    self.rub = Some(rub);
                }
                None => self.lay_in_place(&at, &press, &values, rect, sheet, &mut done),
            }
            *dirty = Some(dirty.map_or(rect, |d| d.union(rect)));
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
            x_mm: f64::from(footprint.x),
            y_mm: f64::from(footprint.y),
            hand_gf: self.hand.profile.force_gf(signals.raw_pressure),
            length_mm: f64::from(2.0 * (footprint.half_length + footprint.half_side)),
            width_mm: f64::from(2.0 * footprint.half_width),
            angle_deg: angles::wrap_degrees(
                libm::atan2(f64::from(footprint.sin), f64::from(footprint.cos)).to_degrees(),
            ),
            area_mm2: f64::from(area),
            full_load: most_force / f64::from(area) / f64::from(self.stick.hardness),
            travel_mm: travel,
        };
        self.trace.dabs.push(DabTrace::new(&placed, signals, &values, factors, &done));
        if let Some(pass) = self.pass.as_mut() {
            pass.next_spacing = spacing;
            pass.dabs += 1;
        }
    }

    /// Lays powder under the tip.
    fn lay_in_place(
        &mut self,
        at: &At,
        press: &Press,
        values: &Values,
        rect: Rect,
        sheet: &mut Sheet,
        done: &mut Done,
    ) {
        let stroke = self.stroke_base + self.pass.as_ref().map_or(0, |p| p.number) + 1;
        let dab = dry::Dab {
            footprint: at.shown,
            press,
            stick: &self.stick,
            face: &self.face,
            flow: values.get(Quality::Flow) as f32,
            opacity: values.get(Quality::Opacity) as f32,
            travel: at.travel,
            thin: at.thin,
            stroke: stroke as f32,
            pass: at.pass,
        };
        let pixel = sheet.pixel_mm() as f32;
        for (key, window) in tiles_of(rect) {
            let contact = contact_in_place(
                &mut self.tiles,
                key,
                sheet,
                self.feel,
                &self.stick,
                at.tooth,
                self.grain_within,
            );
            let blocks = sheet.tile_in_place(key.0, key.1).dry_blocks_in_place(self.stick.even);
            dry::lay_in_place(blocks, contact, &dab, corner(key, pixel), pixel, window, done);
        }
        self.from_stick += f64::from(done.laid);
    }

    /// Moves what lies under the tip.
    #[allow(clippy::too_many_arguments)] // a dab is many numbers
    fn rub_in_place(
        &mut self,
        rub: &mut Rub,
        at: &At,
        press: &Press,
        values: &Values,
        rect: Rect,
        sheet: &mut Sheet,
        done: &mut Done,
    ) {
        let pixel = sheet.pixel_mm() as f32;
        let dab = rub::Dab {
            footprint: at.shown,
            press,
            face: &self.face,
            flow: values.get(Quality::Flow) as f32,
            travel: at.travel,
            thin: at.thin,
            pixel_mm2: self.pixel_mm2,
        };
        let tiles: Vec<_> = tiles_of(rect).collect();
        for (n, (key, window)) in tiles.iter().enumerate() {
            let contact = contact_in_place(
                &mut self.tiles,
                *key,
                sheet,
                self.feel,
                &self.stick,
                at.tooth,
                self.grain_within,
            );
            let (block, _) = sheet.tile_in_place(key.0, key.1).dry_blocks_in_place(false);
            rub.take_in_place(block, contact, &dab, n, corner(*key, pixel), pixel, *window, done);
        }
        let block = |n: usize, work: &mut dyn FnMut(&mut [f32])| {
            let (x, y) = tiles[n].0;
            work(sheet.tile_in_place(x, y).dry_blocks_in_place(false).0);
        };
        rub.give_in_place(&dab, block, done);
    }

    /// How far the steadied tip is behind the pen, mm, and how long ago the pen was there at its speed, ms.
    fn lag(&self, place: &Place) -> (f64, f64) {
        let Some(steady) = self.pass.as_ref().and_then(|p| p.steady.as_ref()) else { return (0.0, 0.0) };
        let ([x, y], speed) = steady.hand_at(place.t);
        let lag = libm::hypot(x - place.x, y - place.y);
        (lag, if speed > 1.0 { 1000.0 * lag / speed } else { 0.0 })
    }

    fn footprint(
        &self,
        place: &Place,
        signals: &Signals,
        values: &Values,
        travel: f64,
        sheet: &Sheet,
    ) -> Footprint {
        let width = values.get(Quality::Width);
        let side = values.get(Quality::Side) * libm::sin(signals.tilt_deg.to_radians());
        // A side lies down along the lean; the tool's own angle turns it from there.
        let angle = match (side > 0.0, values.get(Quality::Aspect) > 1.0) {
            (true, _) => values.get(Quality::Angle) + signals.lean_deg,
            (false, true) => values.get(Quality::Angle),
            // A round end has no direction.
            (false, false) => 0.0,
        };
        let heading = signals.heading_deg.to_radians();
        let (heading_cos, heading_sin) = (libm::cos(heading), libm::sin(heading));
        let pass = self.pass.as_ref().expect("a dab belongs to a pass");
        let throw = num::hash(
            u64::from(self.tool.seed),
            3,
            i64::from(self.stroke_base + pass.number),
            i64::from(pass.dabs),
        );
        let stray = values.get(Quality::Scatter) * (2.0 * f64::from(num::unit(throw)) - 1.0);
        let angle = angle.to_radians();
        let origin = sheet.raster().origin_mm;
        Footprint {
            x: (place.x - stray * heading_sin - origin[0]) as f32,
            y: (place.y + stray * heading_cos - origin[1]) as f32,
            half_length: (0.5 * width * values.get(Quality::Aspect)) as f32,
            half_width: (0.5 * width) as f32,
            half_side: (0.5 * side) as f32,
            cos: libm::cos(angle) as f32,
            sin: libm::sin(angle) as f32,
            travel_cos: heading_cos as f32,
            travel_sin: heading_sin as f32,
            travel: travel as f32,
        }
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

impl Pass {
    /// Takes the direction of travel where there is one.
    fn turn(&mut self, place: &Place, length: f64) {
        if libm::hypot(place.vx, place.vy) > 1e-6 && length > 0.0 {
            self.heading = angles::wrap_degrees(libm::atan2(place.vy, place.vx).to_degrees());
        }
    }

    /// Takes speed and the hardest press.
    fn heed(&mut self, place: &Place, hand: &Hand, dt: f64) {
        let speed = libm::hypot(place.vx, place.vy);
        self.speed = Some(match self.speed {
            None => speed,
            Some(before) => speed + (before - speed) * libm::exp(-dt / SPEED_SMOOTHING_S),
        });
        self.hardest = self.hardest.max(hand.calibration.apply(place.pressure));
    }
}
