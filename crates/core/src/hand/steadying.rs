//! Steadying: the one-euro filter, a low-pass whose cutoff rises with speed, so that slow lines are calmed and fast ones do
//! not lag.
//!
//! G. Casiez, N. Roussel, D. Vogel, "1 € Filter", CHI 2012, algorithm 1: `α(f_c) = 1/(1 + rate/(2π f_c))`; the derivative is
//! that of the input against the last *filtered* value, itself filtered at a fixed cutoff; `f_c = f_min + β·|derivative|`.

use std::collections::VecDeque;

use serde::{Deserialize, Serialize};

use super::Sample;
use super::path::{Path, Piece};
use crate::chain::Settings;
use crate::error::{Result, within};
use crate::num;

/// Settings of the filter; lengths in the unit of what is filtered.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Steadying {
    /// Cutoff at rest, Hz.
    pub min_cutoff_hz: f64,
    /// How much the cutoff rises with speed, Hz per (unit/s).
    pub beta: f64,
    /// Cutoff for the speed itself, Hz.
    pub derivative_cutoff_hz: f64,
}

impl Steadying {
    /// How a tool steadies the hand, if it does ([`crate::touch::parameters::STEADYING`]).
    pub fn of(tool: &Settings<'_>) -> Option<Self> {
        tool.switch("touch.steady").then(|| Self {
            min_cutoff_hz: tool.number("touch.steady_hz"),
            beta: tool.number("touch.steady_speed"),
            derivative_cutoff_hz: 1.0,
        })
    }

    /// # Errors
    /// Names the field and the limit.
    pub fn check(&self) -> Result<()> {
        within("min_cutoff_hz", self.min_cutoff_hz, 0.001, 1000.0, "Hz")?;
        within("beta", self.beta, 0.0, 1000.0, "")?;
        within("derivative_cutoff_hz", self.derivative_cutoff_hz, 0.001, 1000.0, "Hz")?;
        Ok(())
    }
}

/// Share of a new value at a cutoff: `α(f_c) = 1/(1 + rate/(2π f_c))`.
fn share_of_new(cutoff_hz: f64, rate_hz: f64) -> f64 {
    1.0 / (1.0 + rate_hz / (std::f64::consts::TAU * cutoff_hz))
}

/// One channel under the filter, as published.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct OneEuro {
    settings: Steadying,
    last: Option<Last>,
}

#[derive(Debug, Clone, Copy, PartialEq)]
struct Last {
    value: f64,
    derivative: f64,
}

impl OneEuro {
    pub fn new(settings: Steadying) -> Self {
        Self { settings, last: None }
    }

    /// The steadied value of `x`, reported `1/rate_hz` after the last.
    pub fn push(&mut self, x: f64, rate_hz: f64) -> f64 {
        let Some(last) = self.last else {
            self.last = Some(Last { value: x, derivative: 0.0 });
            return x;
        };
        let alpha = |cutoff: f64| share_of_new(cutoff, rate_hz);
        let mix = |a: f64, new: f64, old: f64| a * new + (1.0 - a) * old;
        let raw = (x - last.value) * rate_hz;
        let derivative = mix(alpha(self.settings.derivative_cutoff_hz), raw, last.derivative);
        let cutoff = self.settings.min_cutoff_hz + self.settings.beta * derivative.abs();
        let value = mix(alpha(cutoff), x, last.value);
        self.last = Some(Last { value, derivative });
        value
    }
}

/// Reports are steadied at this step, s, whatever the rate of the pen: the filter is not the same at every rate.
const TICK_S: f64 = 0.001;
/// Most ticks between two reports: a pen that stood still for long needs no more.
const MOST_TICKS: usize = 2000;

/// A place under the filter: both axes at one cutoff, by the speed of the pen itself, mm/s, so that every direction is steadied
/// alike and `beta` is Hz for a mm/s. (The paper's derivative is against the last filtered value: at a report a millisecond it is
/// as many times too fast as the filter lags behind.)
#[derive(Debug, Clone, Copy, PartialEq)]
struct Place {
    settings: Steadying,
    last: Option<LastPlace>,
}

#[derive(Debug, Clone, Copy, PartialEq)]
struct LastPlace {
    hand: [f64; 2],
    steadied: [f64; 2],
    velocity: [f64; 2],
}

impl Place {
    fn push(&mut self, hand: [f64; 2], rate_hz: f64) -> [f64; 2] {
        let Some(last) = self.last else {
            self.last = Some(LastPlace { hand, steadied: hand, velocity: [0.0; 2] });
            return hand;
        };
        let axes = [0, 1];
        let mixed = |cutoff: f64, new: [f64; 2], old: [f64; 2]| {
            let alpha = share_of_new(cutoff, rate_hz);
            axes.map(|c| alpha * new[c] + (1.0 - alpha) * old[c])
        };
        let raw = axes.map(|c| (hand[c] - last.hand[c]) * rate_hz);
        let velocity = mixed(self.settings.derivative_cutoff_hz, raw, last.velocity);
        let speed = num::hypot(velocity[0], velocity[1]);
        let steadied = mixed(self.settings.min_cutoff_hz + self.settings.beta * speed, hand, last.steadied);
        self.last = Some(LastPlace { hand, steadied, velocity });
        steadied
    }
}

/// The way of a pen with its place steadied. Force, tilt and barrel stay as they are.
#[derive(Debug, Clone)]
pub struct SteadyWay {
    raw: Path,
    place: Place,
    /// Time of the last tick.
    last_s: Option<f64>,
    /// Where the pen truly was at the ticks that somebody may ask for, oldest first: `t, x, y`.
    recent: VecDeque<[f64; 3]>,
}

impl SteadyWay {
    pub fn new(settings: Steadying) -> Self {
        Self {
            raw: Path::default(),
            place: Place { settings, last: None },
            last_s: None,
            recent: VecDeque::new(),
        }
    }

    /// Takes a report; gives the steadied ones that it completes.
    pub fn push(&mut self, sample: &Sample) -> Vec<Sample> {
        self.raw.push(sample).map(|piece| self.ticks(&piece)).unwrap_or_default()
    }

    /// The pen lifts: gives the rest.
    pub fn lift(&mut self) -> Vec<Sample> {
        match self.raw.lift() {
            (Some(piece), _) => self.ticks(&piece),
            (None, Some(tap)) => vec![self.tick(tap, 1.0 / TICK_S)],
            (None, None) => Vec::new(),
        }
    }

    fn ticks(&mut self, piece: &Piece) -> Vec<Sample> {
        let start = piece.end_s() - piece.duration();
        let step = TICK_S.max(piece.duration() / MOST_TICKS as f64);
        let mut out = Vec::new();
        if self.last_s.is_none() {
            out.push(self.tick(piece.sample_at(start), 1.0 / step));
        }
        while let Some(last) = self.last_s
            && last + step <= piece.end_s()
        {
            out.push(self.tick(piece.sample_at(last + step), 1.0 / step));
        }
        out
    }

    fn tick(&mut self, hand: Sample, rate_hz: f64) -> Sample {
        self.last_s = Some(hand.t);
        self.recent.push_back([hand.t, hand.x, hand.y]);
        let [x, y] = self.place.push([hand.x, hand.y], rate_hz);
        Sample { x, y, ..hand }
    }

    /// Nobody will ask where the pen was before `t`.
    pub fn forget_before(&mut self, t: f64) {
        let before = self.recent.partition_point(|r| r[0] < t);
        self.recent.drain(..before.saturating_sub(1));
    }

    /// Where the pen truly was at a time, mm, and how fast, mm/s; before the ticks that are kept as at the first of them, after
    /// them as at the last.
    pub fn hand_at(&self, t: f64) -> ([f64; 2], f64) {
        let Some(last) = self.recent.len().checked_sub(1) else { return ([0.0; 2], 0.0) };
        let after = self.recent.partition_point(|r| r[0] < t).min(last);
        let (a, b) = (self.recent[after.saturating_sub(1)], self.recent[after]);
        if a[0] >= b[0] {
            return ([b[1], b[2]], 0.0);
        }
        let f = ((t - a[0]) / (b[0] - a[0])).clamp(0.0, 1.0);
        let speed = num::hypot(b[1] - a[1], b[2] - a[2]) / (b[0] - a[0]);
        ([a[1] + (b[1] - a[1]) * f, a[2] + (b[2] - a[2]) * f], speed)
    }
}

/// Steadies a whole signal. `times_s`: when each was reported; where time does not go on, the rate before is kept. Without
/// times, reports come at `rate_hz`.
pub fn steady(settings: Steadying, x: &[f64], rate_hz: f64, times_s: Option<&[f64]>) -> Vec<f64> {
    let mut filter = OneEuro::new(settings);
    let mut rate = rate_hz;
    x.iter()
        .enumerate()
        .map(|(i, x)| {
            if let Some(t) = times_s
                && i > 0
                && t[i] > t[i - 1]
            {
                rate = 1.0 / (t[i] - t[i - 1]);
            }
            filter.push(*x, rate)
        })
        .collect()
}
