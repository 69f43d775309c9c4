//! Gestures made from parameters, as a hand would move: each leg of the way with the bell-shaped speed of least jerk,
//! `s(τ) = L(10τ³ − 15τ⁴ + 6τ⁵)` (Flash & Hogan, J. Neuroscience 5, 1985), corners in rest, and the tremor of a held limb
//! (8 to 12 Hz, common practice, no source). Mean speed is L/T; the fastest is 15/8 of it.

use serde::{Deserialize, Serialize};

use super::way::{Leg, Outline, Way};
use super::{DeviceProfile, Gesture, Sample, angles};
use crate::error::{FieldError, Result, within};
use crate::num;

/// Reports a second.
const RATE_HZ: f64 = 200.0;
/// Force comes and goes within this time, s.
const LANDING_S: f64 = 0.03;
/// Where the way begins, mm.
const START: [f64; 2] = [6.0, 7.0];
/// The pen is in the air this long between strokes, s.
const LIFT_S: f64 = 0.15;
/// Tremor: frequency in Hz and share of its amplitude.
const TREMOR: [(f64, f64); 3] = [(8.3, 0.5), (9.7, 1.0), (11.9, 0.4)];

/// How a hand moves.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
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

/// The gesture of a movement, as the pen of `recorder` reports it. `outline`: the way where [`Movement::way`] says so; its
/// strokes are drawn one after another, each with the whole run of the force, together `length_mm` long.
///
/// # Errors
/// Names the field and the limit.
pub fn generate(m: &Movement, outline: Option<&Outline>, recorder: &DeviceProfile) -> Result<Gesture> {
    m.check()?;
    let strokes = match (m.way, outline) {
        (Way::Outline, Some(outline)) => outline.legs()?,
        (Way::Outline, None) => return Err(FieldError::new("outline", "is missing")),
        (way, _) => way.legs(),
    };
    let whole: f64 = strokes.iter().flatten().map(Leg::length).sum();
    let count = (m.length_mm / m.speed_mm_s * RATE_HZ).ceil() as usize + 2 * strokes.len();
    if count > super::gesture::MOST_SAMPLES {
        let most = super::gesture::MOST_SAMPLES;
        let message = format!("would give more than {most} reports at this speed");
        return Err(FieldError::new("length_mm", message));
    }
    let scale = m.length_mm / whole;
    let shift = corner(m.way, &strokes, scale);
    let (tilt_x, tilt_y) =
        angles::to_tilt((90.0 - m.tilt_deg).to_radians(), (m.lean_deg % 360.0).to_radians());
    let tremor = Tremor { seed: u64::from(m.seed) };
    let mut passes = Vec::new();
    let mut begun = 0.0;
    for legs in &strokes {
        let total_s = scale * legs.iter().map(Leg::length).sum::<f64>() / m.speed_mm_s;
        let count = (total_s * RATE_HZ).ceil() as usize + 1;
        let sample = |k: usize| {
            let within = (k as f64 / RATE_HZ).min(total_s);
            let t = begun + within;
            let [x, y] = place(legs, within * m.speed_mm_s / scale);
            let land = smooth(within / LANDING_S) * smooth((total_s - within) / LANDING_S);
            let shake = 1.0 + 0.04 * m.tremor_mm * tremor.at(2, t);
            let force = profile(m.force_gf, within / total_s) * land * shake;
            Sample {
                t,
                x: shift[0] + scale * x + m.tremor_mm * tremor.at(0, t),
                y: shift[1] + scale * y + m.tremor_mm * tremor.at(1, t),
                pressure: recorder.pressure(force),
                tilt_x,
                tilt_y,
                twist: m.barrel_deg,
            }
        };
        passes.push((0..count).map(sample).collect());
        begun += total_s + LIFT_S;
    }
    Gesture::new(passes)
}

impl Movement {
    fn check(&self) -> Result<()> {
        within("length_mm", self.length_mm, 2.0, 2000.0, "mm")?;
        within("speed_mm_s", self.speed_mm_s, 1.0, 2000.0, "mm/s")?;
        for (i, force) in self.force_gf.iter().enumerate() {
            within(&format!("force_gf[{i}]"), *force, 0.0, 2000.0, "gf")?;
        }
        within("tilt_deg", self.tilt_deg, 0.0, 85.0, "°")?;
        within("lean_deg", self.lean_deg, 0.0, 360.0, "°")?;
        within("barrel_deg", self.barrel_deg, 0.0, 360.0, "°")?;
        within("tremor_mm", self.tremor_mm, 0.0, 5.0, "mm")?;
        Ok(())
    }
}

/// What is added to a scaled place: shapes begin at [`START`], outlines have their left edge and middle there.
fn corner(way: Way, strokes: &[Vec<Leg>], scale: f64) -> [f64; 2] {
    if way != Way::Outline {
        return START;
    }
    let (mut left, mut top, mut bottom) = (f64::MAX, f64::MAX, f64::MIN);
    for [x, y] in strokes.iter().flatten().flat_map(Leg::points) {
        (left, top, bottom) = (left.min(*x), top.min(*y), bottom.max(*y));
    }
    [START[0] - scale * left, START[1] - scale * 0.5 * (top + bottom)]
}

/// The trembling of a held limb, −1..1.
struct Tremor {
    seed: u64,
}

impl Tremor {
    fn at(&self, channel: i64, t: f64) -> f64 {
        let wave = |(part, (hz, share)): (usize, &(f64, f64))| {
            let phase = f64::from(num::unit(num::hash(self.seed, 80, channel, part as i64)));
            share * libm::sin(std::f64::consts::TAU * (hz * t + phase))
        };
        TREMOR.iter().enumerate().map(wave).sum::<f64>() / 1.2
    }
}

/// Where the hand is when it would be `even` (in the way's own unit) along at its mean speed.
fn place(legs: &[Leg], even: f64) -> [f64; 2] {
    let mut rest = even;
    for (i, leg) in legs.iter().enumerate() {
        let length = leg.length();
        if rest > length && i + 1 < legs.len() {
            rest -= length;
            continue;
        }
        let tau = (rest / length).clamp(0.0, 1.0);
        return leg.at(length * tau * tau * tau * (10.0 - 15.0 * tau + 6.0 * tau * tau));
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
