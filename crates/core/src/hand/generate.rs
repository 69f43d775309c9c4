//! Gestures made from parameters, as a hand would move: each leg of the way with the bell-shaped speed of least jerk,
//! `s(τ) = L(10τ³ − 15τ⁴ + 6τ⁵)` (Flash & Hogan, J. Neuroscience 5, 1985), corners in rest, and the tremor of a held limb
//! (8 to 12 Hz, common practice, no source). Mean speed is L/T; the fastest is 15/8 of it.

use serde::{Deserialize, Serialize};

use super::{DeviceProfile, Gesture, Sample, angles};
use crate::error::{FieldError, Result, within};
use crate::num;

/// Reports a second.
const RATE_HZ: f64 = 200.0;
/// Force comes and goes within this time, s.
const LANDING_S: f64 = 0.03;
/// Where the way begins, mm.
const START: [f64; 2] = [6.0, 7.0];
/// Points of a way's shape.
const POINTS: usize = 2000;
/// Tremor: frequency in Hz and share of its amplitude.
const TREMOR: [(f64, f64); 3] = [(8.3, 0.5), (9.7, 1.0), (11.9, 0.4)];

/// What shape the way has.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Way {
    Line,
    Arc,
    Wave,
    Loops,
    Zigzag,
}

/// How a hand moves.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Movement {
    pub way: Way,
    /// Length of the way, mm, 2..2000.
    pub length_mm: f64,
    /// Mean speed, mm/s, 1..2000.
    pub speed_mm_s: f64,
    /// Force at the start, in the middle and at the end, gf, 0..2000.
    pub force_gf: [f64; 3],
    /// Lean from upright, degrees 0..85, and its direction, 0..360.
    pub tilt_deg: f64,
    pub lean_deg: f64,
    /// Turn of the barrel, degrees 0..360.
    pub barrel_deg: f64,
    /// Amplitude of the tremor, mm, 0..5; the force trembles with it.
    pub tremor_mm: f64,
    pub seed: u32,
}

/// The gesture of a movement, as the pen of `recorder` reports it.
///
/// # Errors
/// Names the field and the limit.
pub fn generate(movement: &Movement, recorder: &DeviceProfile) -> Result<Gesture> {
    let m = movement;
    within("length_mm", m.length_mm, 2.0, 2000.0, "mm")?;
    within("speed_mm_s", m.speed_mm_s, 1.0, 2000.0, "mm/s")?;
    for (i, force) in m.force_gf.iter().enumerate() {
        within(&format!("force_gf[{i}]"), *force, 0.0, 2000.0, "gf")?;
    }
    within("tilt_deg", m.tilt_deg, 0.0, 85.0, "°")?;
    within("lean_deg", m.lean_deg, 0.0, 360.0, "°")?;
    within("barrel_deg", m.barrel_deg, 0.0, 360.0, "°")?;
    within("tremor_mm", m.tremor_mm, 0.0, 5.0, "mm")?;
    let legs = legs(m.way);
    let shape: Vec<Vec<[f64; 2]>> = legs.iter().map(|leg| leg_points(m.way, *leg)).collect();
    let lengths: Vec<f64> = shape.iter().map(|points| *along(points).last().unwrap_or(&0.0)).collect();
    let scale = m.length_mm / lengths.iter().sum::<f64>();
    let total_s = m.length_mm / m.speed_mm_s;
    let count = (total_s * RATE_HZ).ceil() as usize + 1;
    if count > super::gesture::MOST_SAMPLES {
        let most = super::gesture::MOST_SAMPLES;
        return Err(FieldError::new(
            "length_mm",
            format!("would give more than {most} reports at this speed"),
        ));
    }
    let (tilt_x, tilt_y) =
        angles::to_tilt((90.0 - m.tilt_deg).to_radians(), (m.lean_deg % 360.0).to_radians());
    let tables: Vec<Vec<f64>> = shape.iter().map(|points| along(points)).collect();
    let phase = |channel: i64, part: usize| {
        std::f64::consts::TAU * f64::from(num::unit(num::hash(u64::from(m.seed), 80, channel, part as i64)))
    };
    let tremble = |channel: i64, t: f64| -> f64 {
        TREMOR
            .iter()
            .enumerate()
            .map(|(i, (hz, share))| share * libm::sin(std::f64::consts::TAU * hz * t + phase(channel, i)))
            .sum::<f64>()
            / 1.2
    };
    let mut samples = Vec::with_capacity(count);
    for k in 0..count {
        let t = (k as f64 / RATE_HZ).min(total_s);
        let [x, y] = place(&shape, &tables, &lengths, t * m.speed_mm_s / scale, scale);
        let land = smooth(t / LANDING_S) * smooth((total_s - t) / LANDING_S);
        let shake = 1.0 + 0.04 * m.tremor_mm * tremble(2, t);
        let force = profile(m.force_gf, t / total_s) * land * shake;
        samples.push(Sample {
            t,
            x: START[0] + x + m.tremor_mm * tremble(0, t),
            y: START[1] + y + m.tremor_mm * tremble(1, t),
            pressure: recorder.pressure(force),
            tilt_x,
            tilt_y,
            twist: m.barrel_deg,
        });
    }
    Gesture::new(vec![samples])
}

/// Spans of the shape's parameter between corners.
fn legs(way: Way) -> Vec<[f64; 2]> {
    let count = if way == Way::Zigzag { 9 } else { 1 };
    (0..count).map(|i| [f64::from(i) / f64::from(count), f64::from(i + 1) / f64::from(count)]).collect()
}

fn leg_points(way: Way, [from, to]: [f64; 2]) -> Vec<[f64; 2]> {
    (0..=POINTS).map(|i| point(way, from + (to - from) * i as f64 / POINTS as f64)).collect()
}

/// The shape about one unit wide, u from 0 to 1.
fn point(way: Way, u: f64) -> [f64; 2] {
    use std::f64::consts::{PI, TAU};
    match way {
        Way::Line => [u, 0.0],
        Way::Arc => {
            let a = PI * (1.0 / 3.0 * (2.0 * u - 1.0) - 0.5);
            [0.577_35 * libm::cos(a) + 0.5, 0.577_35 * (libm::sin(a) + 0.5)]
        }
        Way::Wave => [u, 0.07 * libm::sin(TAU * 1.5 * u)],
        Way::Loops => [u - 0.09 * libm::sin(TAU * 7.0 * u), 0.07 * (1.0 - libm::cos(TAU * 7.0 * u)) - 0.07],
        Way::Zigzag => {
            let v = (u * 9.0).min(8.999_999);
            let leg = libm::floor(v);
            let up = if leg as i32 % 2 == 0 { v - leg } else { 1.0 - (v - leg) };
            [u, 0.12 * (up - 0.5)]
        }
    }
}

/// Length of the way up to each point.
fn along(points: &[[f64; 2]]) -> Vec<f64> {
    let mut sum = 0.0;
    let mut out = vec![0.0];
    for w in points.windows(2) {
        sum += libm::hypot(w[1][0] - w[0][0], w[1][1] - w[0][1]);
        out.push(sum);
    }
    out
}

/// Where the hand is when it would be `even` (units of the shape) along at its mean speed.
fn place(shape: &[Vec<[f64; 2]>], tables: &[Vec<f64>], lengths: &[f64], even: f64, scale: f64) -> [f64; 2] {
    let mut rest = even;
    for (leg, points) in shape.iter().enumerate() {
        let length = lengths[leg];
        if rest > length && leg + 1 < shape.len() {
            rest -= length;
            continue;
        }
        let tau = (rest / length).clamp(0.0, 1.0);
        let s = length * tau * tau * tau * (10.0 - 15.0 * tau + 6.0 * tau * tau);
        let i = tables[leg].partition_point(|v| *v < s).clamp(1, points.len() - 1);
        let (a, b) = (tables[leg][i - 1], tables[leg][i]);
        let f = if b > a { (s - a) / (b - a) } else { 0.0 };
        let at = |c: usize| scale * (points[i - 1][c] + (points[i][c] - points[i - 1][c]) * f);
        return [at(0), at(1)];
    }
    [0.0, 0.0]
}

fn smooth(t: f64) -> f64 {
    let t = t.clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
}

/// Force at share `u` of the time: from start over middle to end.
fn profile([start, middle, end]: [f64; 3], u: f64) -> f64 {
    if u < 0.5 {
        start + (middle - start) * smooth(2.0 * u)
    } else {
        middle + (end - middle) * smooth(2.0 * u - 1.0)
    }
}
