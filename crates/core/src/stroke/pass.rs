//! One pass of a stroke, from where the pen touches down to where it lifts: what was heard of it, and how far it is followed.

use std::collections::VecDeque;

use crate::hand::path::{Path, Piece, Place};
use crate::hand::steadying::SteadyWay;
use crate::hand::{Hand, Sample, angles};
use crate::medium::{Next, Travel};
use crate::num;

/// Speed is smoothed over this time, s (tuned by eye: a pen's reports jitter).
const SPEED_SMOOTHING_S: f64 = 0.012;
/// The way is followed in steps of this length, mm.
const STEP_MM: f64 = 0.1;
/// A pen set down without travel still rubs this much, mm (tuned by eye).
const TAP_MM: f64 = 0.15;

/// Where the pen is within a pass.
pub(super) struct Pass {
    pub(super) number: u32,
    path: Path,
    /// Its numbers on the sheet, once it has touched it.
    pub(super) stroke: Option<(u32, u32)>,
    /// Where the tool steadies the hand.
    steady: Option<SteadyWay>,
    /// Pieces of the way that nobody followed yet, and the one that is followed.
    heard: VecDeque<Piece>,
    step: Option<Step>,
    ending: Ending,
    /// Travel since touching down, and since the last contact.
    pub(super) travelled: f64,
    since: f64,
    next_spacing: f64,
    /// Length of the last footprint along the way, mm.
    width_along: f64,
    pub(super) contacts: u32,
    last: Option<Place>,
    pub(super) started_t: f64,
    pub(super) speed: Option<f64>,
    pub(super) heading: f64,
    pub(super) hardest: f64,
}

/// A step of a piece.
struct Step {
    piece: Piece,
    number: usize,
    steps: usize,
    before: Place,
    /// Travel of this step that is done, mm.
    done: f64,
}

/// How a pass ends.
enum Ending {
    /// The pen is down.
    Open,
    /// The pen lifted; where it never travelled, it tapped there.
    Lifted(Option<Sample>),
    /// The rest of the way has its contact.
    Rested,
    Over,
}

/// A contact that the pass has come to.
pub(super) struct Due {
    pub(super) place: Place,
    /// Travel it stands for.
    pub(super) travel: Travel,
}

impl Pass {
    /// A pass that begins with a sample. `steady`: where the tool steadies the hand.
    pub(super) fn begin(number: u32, first: &Sample, steady: Option<SteadyWay>) -> Self {
        Self {
            number,
            stroke: None,
            path: Path::default(),
            steady,
            heard: VecDeque::new(),
            step: None,
            ending: Ending::Open,
            travelled: 0.0,
            since: 0.0,
            next_spacing: 0.0,
            width_along: 0.0,
            contacts: 0,
            last: None,
            started_t: first.t,
            speed: None,
            heading: 0.0,
            hardest: 0.0,
        }
    }

    /// Takes a report.
    pub(super) fn hear(&mut self, sample: &Sample) {
        let ticks = self.steady.as_mut().map(|steady| {
            if let Some(last) = &self.last {
                steady.forget_before(last.t);
            }
            steady.push(sample)
        });
        match ticks {
            Some(ticks) => self.heard.extend(ticks.iter().filter_map(|tick| self.path.push(tick))),
            None => self.heard.extend(self.path.push(sample)),
        }
    }

    /// Hears that the pen lifted.
    pub(super) fn lift(&mut self) {
        let rest = self.steady.as_mut().map(SteadyWay::lift).unwrap_or_default();
        self.heard.extend(rest.iter().filter_map(|tick| self.path.push(tick)));
        let (piece, tap) = self.path.lift();
        self.heard.extend(piece);
        self.ending = Ending::Lifted(tap);
    }

    pub(super) fn is_lifted(&self) -> bool {
        !matches!(self.ending, Ending::Open)
    }

    pub(super) fn is_over(&self) -> bool {
        matches!(self.ending, Ending::Over)
    }

    /// Nothing more of it is followed: it is over.
    pub(super) fn cut(&mut self) {
        self.heard.clear();
        self.step = None;
        if self.is_lifted() {
            self.ending = Ending::Over;
        }
    }

    /// How far in time the way was followed, s; nothing before the pen touched.
    pub(super) fn reached_s(&self) -> Option<f64> {
        self.last.map(|place| place.t)
    }

    /// A contact was opened: how the way goes on from it.
    pub(super) fn go_on_after(&mut self, next: Next) {
        self.next_spacing = next.spacing_mm;
        self.width_along = next.along_mm;
        self.contacts += 1;
    }

    /// How far the steadied tip is behind the pen, mm, and how long ago the pen was there at its speed, ms.
    pub(super) fn lag(&self, place: &Place) -> (f64, f64) {
        let Some(steady) = &self.steady else { return (0.0, 0.0) };
        let ([x, y], speed) = steady.hand_at(place.t);
        let lag = num::hypot(x - place.x, y - place.y);
        (lag, if speed > 1.0 { 1000.0 * lag / speed } else { 0.0 })
    }

    /// Something of what was heard may still hold a contact.
    pub(super) fn waits(&self) -> bool {
        self.is_lifted() || self.step.is_some() || !self.heard.is_empty()
    }

    /// Goes on to the next contact, if what was heard holds one. `presses`: the tool acts where it is pressed on and lifted, too.
    pub(super) fn next_contact(&mut self, hand: &Hand, presses: bool) -> Option<Due> {
        loop {
            if self.step.is_some() {
                if let Some(due) = self.go_on(hand) {
                    return Some(due);
                }
            } else if let Some(piece) = self.heard.pop_front() {
                if let Some(due) = self.enter(piece, hand) {
                    return Some(due);
                }
            } else {
                return self.last_contacts(presses);
            }
        }
    }

    /// Enters a piece; gives the contact where the pen touched down.
    fn enter(&mut self, piece: Piece, hand: &Hand) -> Option<Due> {
        let (a, b) = (piece.at(0.0), piece.at(1.0));
        let chord = num::hypot(b.x - a.x, b.y - a.y);
        let bulge = piece.duration() * 0.5 * (num::hypot(a.vx, a.vy) + num::hypot(b.vx, b.vy));
        let steps = f64::ceil(chord.max(bulge) / STEP_MM).clamp(1.0, 20_000.0) as usize;
        self.step = Some(Step { piece, number: 1, steps, before: a, done: 0.0 });
        if self.last.is_some() {
            return None;
        }
        self.last = Some(a);
        self.turn(&a, chord);
        self.heed(&a, hand, 0.0);
        Some(Due { place: a, travel: Travel::Mm(TAP_MM) })
    }

    /// Goes to the next contact of the step, or to the step's end.
    fn go_on(&mut self, hand: &Hand) -> Option<Due> {
        let mut step = self.step.take()?;
        let f0 = (step.number - 1) as f64 / step.steps as f64;
        let f1 = step.number as f64 / step.steps as f64;
        let now = step.piece.at(f1);
        let length = num::hypot(now.x - step.before.x, now.y - step.before.y);
        let wanted = self.next_spacing - self.since;
        if length - step.done >= wanted {
            step.done += wanted.max(0.0);
            self.travelled += wanted.max(0.0);
            let share = if length > 0.0 { step.done / length } else { 1.0 };
            let place = step.piece.at(f0 + (f1 - f0) * share);
            self.turn(&place, length);
            self.since = 0.0;
            self.step = Some(step);
            return Some(Due { place, travel: Travel::Mm(self.next_spacing) });
        }
        self.since += length - step.done;
        self.travelled += length - step.done;
        self.turn(&now, length);
        self.heed(&now, hand, now.t - step.before.t);
        self.last = Some(now);
        if step.number < step.steps {
            self.step = Some(Step { number: step.number + 1, before: now, done: 0.0, ..step });
        }
        None
    }

    /// The contacts at the end of a pass, once the pen lifted.
    fn last_contacts(&mut self, presses: bool) -> Option<Due> {
        if let Ending::Lifted(tap) = self.ending {
            if let Some(at) = tap {
                self.ending = Ending::Over;
                return Some(Due {
                    place: touching(&at),
                    travel: if presses { Travel::Press } else { Travel::Mm(TAP_MM) },
                });
            }
            self.ending = Ending::Rested;
            // What is left of the way since the last dab.
            if let Some(place) = self.last
                && self.since > 1e-6
            {
                return Some(Due { place, travel: Travel::Mm(self.since) });
            }
        }
        if let Ending::Rested = self.ending {
            self.ending = Ending::Over;
            // What is pressed on without going anywhere lifts by the press.
            let left = self.width_along - self.travelled;
            if let Some(place) = self.last
                && presses
                && left > 0.5 * self.width_along
            {
                return Some(Due { place, travel: Travel::Mm(left) });
            }
        }
        None
    }

    /// Takes the direction of travel where there is one.
    fn turn(&mut self, place: &Place, length: f64) {
        if num::hypot(place.vx, place.vy) > 1e-6 && length > 0.0 {
            self.heading = angles::wrap_degrees(libm::atan2(place.vy, place.vx).to_degrees());
        }
    }

    /// Takes speed and the hardest press.
    fn heed(&mut self, place: &Place, hand: &Hand, dt: f64) {
        let speed = num::hypot(place.vx, place.vy);
        self.speed = Some(match self.speed {
            None => speed,
            Some(before) => speed + (before - speed) * libm::exp(-dt / SPEED_SMOOTHING_S),
        });
        self.hardest = self.hardest.max(hand.calibration.apply(place.pressure));
    }
}

/// The place of a pen that only touched.
fn touching(sample: &Sample) -> Place {
    Place {
        t: sample.t,
        x: sample.x,
        y: sample.y,
        pressure: sample.pressure,
        tilt_x: sample.tilt_x,
        tilt_y: sample.tilt_y,
        twist: sample.twist,
        ..Place::default()
    }
}
