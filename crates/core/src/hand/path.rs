//! The way of the pen between its reports.
//!
//! Position, pressure and tilt are cubic Hermite curves in time with three-point (parabolic) derivatives, so that a smooth
//! hand reported at 60 Hz or at 1000 Hz draws the same way. A piece between two reports is known once the next report is
//! there: the stroke runs one report behind the pen, and catches up when it lifts.

use super::{Sample, angles};

/// Reports closer in time than this are spread to it, s.
const LEAST_STEP_S: f64 = 1e-5;

/// What is interpolated: x, y, pressure, tilt x, tilt y.
const CHANNELS: usize = 5;

fn channels(s: &Sample) -> [f64; CHANNELS] {
    [s.x, s.y, s.pressure, s.tilt_x, s.tilt_y]
}

/// A place along a piece.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Place {
    pub t: f64,
    pub x: f64,
    pub y: f64,
    /// Velocity, mm/s.
    pub vx: f64,
    pub vy: f64,
    pub pressure: f64,
    pub tilt_x: f64,
    pub tilt_y: f64,
    pub twist: f64,
}

/// The way between two reports.
#[derive(Debug, Clone, Copy)]
pub struct Piece {
    start: Sample,
    end: Sample,
    at_start: [f64; CHANNELS],
    at_end: [f64; CHANNELS],
}

impl Piece {
    pub fn duration(&self) -> f64 {
        self.end.t - self.start.t
    }

    /// When the piece ends, s.
    pub fn end_s(&self) -> f64 {
        self.end.t
    }

    /// The hand at a time; before the piece as at its start, after it as at its end.
    pub fn sample_at(&self, t: f64) -> Sample {
        let p = self.at(((t - self.start.t) / self.duration()).clamp(0.0, 1.0));
        Sample { t, x: p.x, y: p.y, pressure: p.pressure, tilt_x: p.tilt_x, tilt_y: p.tilt_y, twist: p.twist }
    }

    /// The place at share `f` of the duration.
    pub fn at(&self, f: f64) -> Place {
        let h = self.duration();
        let (a, b) = (channels(&self.start), channels(&self.end));
        let (f2, f3) = (f * f, f * f * f);
        let (h00, h10, h01, h11) =
            (2.0 * f3 - 3.0 * f2 + 1.0, f3 - 2.0 * f2 + f, -2.0 * f3 + 3.0 * f2, f3 - f2);
        let mut v = [0.0; CHANNELS];
        for i in 0..CHANNELS {
            v[i] = h00 * a[i] + h10 * h * self.at_start[i] + h01 * b[i] + h11 * h * self.at_end[i];
        }
        let speed = |i: usize| {
            let d = (6.0 * f2 - 6.0 * f) / h;
            d * (a[i] - b[i])
                + (3.0 * f2 - 4.0 * f + 1.0) * self.at_start[i]
                + (3.0 * f2 - 2.0 * f) * self.at_end[i]
        };
        Place {
            t: self.start.t + f * h,
            x: v[0],
            y: v[1],
            vx: speed(0),
            vy: speed(1),
            pressure: v[2].clamp(0.0, 1.0),
            tilt_x: v[3].clamp(-90.0, 90.0),
            tilt_y: v[4].clamp(-90.0, 90.0),
            twist: angles::mix_degrees(self.start.twist, self.end.twist, f),
        }
    }
}

/// Turns reports into pieces, one report behind.
#[derive(Debug, Clone, Default)]
pub struct Path {
    /// The last three reports, oldest first.
    reports: Vec<Sample>,
    /// Derivative of the channels at the report before the last.
    slope: Option<[f64; CHANNELS]>,
}

impl Path {
    /// Takes a report; gives the piece that it completes.
    pub fn push(&mut self, sample: &Sample) -> Option<Piece> {
        let mut sample = *sample;
        if let Some(last) = self.reports.last() {
            sample.t = sample.t.max(last.t + LEAST_STEP_S);
        }
        self.reports.push(sample);
        if self.reports.len() < 3 {
            return None;
        }
        let middle = three_point(&self.reports[0], &self.reports[1], &self.reports[2]);
        let start = self.slope.unwrap_or_else(|| one_sided(&self.reports[0], &self.reports[1], &middle));
        let piece = Piece { start: self.reports[0], end: self.reports[1], at_start: start, at_end: middle };
        self.slope = Some(middle);
        self.reports.remove(0);
        Some(piece)
    }

    /// Ends the way: gives the last piece, if the pen moved in time at all, and the first report if it did not.
    pub fn lift(&mut self) -> (Option<Piece>, Option<Sample>) {
        let reports = std::mem::take(&mut self.reports);
        let slope = self.slope.take();
        match reports.as_slice() {
            [only] => (None, Some(*only)),
            [a, b] => {
                let secant = secant(a, b);
                let at_start = slope.unwrap_or(secant);
                let mut at_end = [0.0; CHANNELS];
                for i in 0..CHANNELS {
                    // The parabola through the start's value and slope and the end.
                    at_end[i] = 2.0 * secant[i] - at_start[i];
                }
                (Some(Piece { start: *a, end: *b, at_start, at_end }), None)
            }
            _ => (None, None),
        }
    }
}

fn secant(a: &Sample, b: &Sample) -> [f64; CHANNELS] {
    let (va, vb, h) = (channels(a), channels(b), b.t - a.t);
    std::array::from_fn(|i| (vb[i] - va[i]) / h)
}

fn three_point(a: &Sample, b: &Sample, c: &Sample) -> [f64; CHANNELS] {
    let (h0, h1) = (b.t - a.t, c.t - b.t);
    let (d0, d1) = (secant(a, b), secant(b, c));
    std::array::from_fn(|i| (d0[i] * h1 + d1[i] * h0) / (h0 + h1))
}

fn one_sided(a: &Sample, b: &Sample, at_b: &[f64; CHANNELS]) -> [f64; CHANNELS] {
    let d = secant(a, b);
    std::array::from_fn(|i| 2.0 * d[i] - at_b[i])
}
