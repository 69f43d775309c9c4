//! The demo's proof gestures, as a practised hand might make them: invented paths, forces and leans with a little tremor,
//! reported 200 times a second. Written once to `demo/gestures`, which the demo loads like any imported gesture.

use std::error::Error;
use std::f64::consts::TAU;
use std::path::Path;

use saltmarsh_core::hand::{Gesture, Sample, angles};
use saltmarsh_core::num;

const RATE_HZ: f64 = 200.0;

/// How one pass is made: everything by share 0..1 of its duration.
struct Pass<'a> {
    seconds: f64,
    /// mm.
    place: &'a dyn Fn(f64) -> (f64, f64),
    pressure: &'a dyn Fn(f64) -> f64,
    /// Tilt from upright and lean, degrees.
    lean: &'a dyn Fn(f64) -> (f64, f64),
}

struct Recorder {
    seed: u64,
    clock: f64,
    passes: Vec<Vec<Sample>>,
}

impl Recorder {
    fn new(seed: u64) -> Self {
        Self { seed, clock: 0.0, passes: Vec::new() }
    }

    /// Slow wander of a hand: a few sines with hashed phases, about unit size.
    fn tremor(&self, channel: i64, t: f64) -> f64 {
        (0..4)
            .map(|k| {
                let phase = TAU * f64::from(num::unit(num::hash(self.seed, 9, channel, k)));
                let hz = [1.3, 2.9, 5.3, 8.7][k as usize];
                [0.6, 0.4, 0.25, 0.18][k as usize] * libm::sin(TAU * hz * t + phase)
            })
            .sum()
    }

    fn pass(&mut self, pass: &Pass<'_>) {
        let count = (pass.seconds * RATE_HZ) as usize + 1;
        let samples = (0..count)
            .map(|i| {
                let u = i as f64 / (count - 1) as f64;
                // A hand speeds up and slows down: minimum-jerk timing, softened (Flash & Hogan 1985, from memory).
                let eased = u * u * u * (10.0 - 15.0 * u + 6.0 * u * u);
                let f = 0.55 * u + 0.45 * eased;
                let t = self.clock + u * pass.seconds;
                let (x, y) = (pass.place)(f);
                let (tilt, lean) = (pass.lean)(f);
                let (tilt, lean) = (tilt + 0.6 * self.tremor(3, t), lean + 1.2 * self.tremor(4, t));
                let (tilt_x, tilt_y) = angles::to_tilt(
                    (90.0 - tilt.clamp(0.5, 85.0)).to_radians(),
                    angles::wrap_degrees(lean).to_radians(),
                );
                Sample {
                    t,
                    x: x + 0.06 * self.tremor(1, t),
                    y: y + 0.08 * self.tremor(2, t),
                    pressure: ((pass.pressure)(f) * (1.0 + 0.04 * self.tremor(5, t))).clamp(0.0, 1.0),
                    tilt_x,
                    tilt_y,
                    twist: angles::wrap_degrees(20.0 + 3.0 * self.tremor(6, t)),
                }
            })
            .collect();
        self.passes.push(samples);
        self.clock += pass.seconds + 0.12;
    }

    /// The hand rests before its next pass, s.
    fn rest(&mut self, seconds: f64) {
        self.clock += seconds;
    }

    /// A straight pull of a wet brush, from x, y to x, y.
    fn pull(&mut self, seconds: f64, [x0, y0, x1, y1]: [f64; 4], [p0, p1]: [f64; 2]) {
        self.pass(&Pass {
            seconds,
            place: &|f| (x0 + (x1 - x0) * f, y0 + (y1 - y0) * f),
            pressure: &|f| ends(f, 0.05, 0.06) * (p0 + (p1 - p0) * f),
            lean: &|_| (24.0, 76.0),
        });
    }

    fn draw(&self, k: i64) -> f64 {
        2.0 * f64::from(num::unit(num::hash(self.seed, 8, k, 0))) - 1.0
    }
}

/// Presses in and lifts off at the ends of a pass.
fn ends(f: f64, rise: f64, fall: f64) -> f64 {
    let soft = |t: f64| {
        let t = t.clamp(0.0, 1.0);
        t * t * (3.0 - 2.0 * t)
    };
    soft(f / rise) * soft((1.0 - f) / fall)
}

fn press_ramp() -> Recorder {
    let mut r = Recorder::new(11);
    r.pass(&Pass {
        seconds: 2.0,
        place: &|f| (4.0 + 72.0 * f, 7.0 + 0.3 * libm::sin(TAU * 0.7 * f)),
        pressure: &|f| 0.03 + 0.92 * f,
        lean: &|f| (42.0 + 3.0 * f, 84.0),
    });
    r
}

fn slow_pull() -> Recorder {
    let mut r = Recorder::new(12);
    r.pass(&Pass {
        seconds: 2.6,
        place: &|f| (5.0 + 70.0 * f, 7.0 - 3.6 * libm::sin(TAU * f)),
        pressure: &|f| ends(f, 0.06, 0.1) * (0.42 + 0.1 * libm::sin(TAU * 0.8 * f)),
        lean: &|_| (11.0, 62.0),
    });
    r
}

fn flicks() -> Recorder {
    let mut r = Recorder::new(13);
    for k in 0..9 {
        let (x, reach) = (6.0 + 8.2 * k as f64 + 0.5 * r.draw(k), 9.4 + 0.8 * r.draw(k + 20));
        let press = 0.62 + 0.12 * r.draw(k + 40);
        r.pass(&Pass {
            seconds: 0.11,
            place: &|f| (x + 0.42 * reach * f + 0.5 * f * f, 12.0 - reach * f),
            pressure: &|f| press * libm::pow(1.0 - f, 1.15) * ends(f, 0.08, 0.02),
            lean: &|_| (5.0, 58.0),
        });
    }
    r
}

fn hatching() -> Recorder {
    let mut r = Recorder::new(14);
    for k in 0..15 {
        let (x, wobble) = (5.0 + 4.5 * k as f64 + 0.25 * r.draw(k), 0.4 * r.draw(k + 50));
        let press = 0.26 + 0.07 * r.draw(k + 100);
        r.pass(&Pass {
            seconds: 0.2,
            place: &|f| (x + 3.6 * f + wobble * f * (1.0 - f), 2.2 + 9.6 * f),
            pressure: &|f| press * ends(f, 0.12, 0.25),
            lean: &|_| (6.0, 60.0),
        });
    }
    for k in 0..8 {
        let (x, wobble) = (42.5 + 4.5 * k as f64 + 0.25 * r.draw(k + 200), 0.4 * r.draw(k + 250));
        let press = 0.26 + 0.07 * r.draw(k + 300);
        r.pass(&Pass {
            seconds: 0.2,
            place: &|f| (x - 4.2 * f + wobble * f * (1.0 - f), 2.2 + 9.6 * f),
            pressure: &|f| press * ends(f, 0.12, 0.25),
            lean: &|_| (6.0, 60.0),
        });
    }
    r
}

fn scrub() -> Recorder {
    let mut r = Recorder::new(15);
    r.pass(&Pass {
        seconds: 3.4,
        place: &|f| {
            let turns = 13.5;
            (6.0 + 67.0 * f + 1.2 * libm::sin(2.0 * TAU * turns * f), 7.0 + 4.0 * libm::cos(TAU * turns * f))
        },
        pressure: &|f| ends(f, 0.03, 0.03) * (0.2 + 0.5 * f),
        lean: &|_| (36.0, 20.0),
    });
    r
}

fn lean_fan() -> Recorder {
    let mut r = Recorder::new(16);
    r.pass(&Pass {
        seconds: 2.4,
        place: &|f| (4.0 + 71.0 * f, 7.0),
        pressure: &|f| ends(f, 0.04, 0.04) * 0.46,
        lean: &|f| (2.0 + 66.0 * f, 88.0),
    });
    r
}

/// Rows of a flat wash, there and back.
fn wash_rows() -> Recorder {
    let mut r = Recorder::new(31);
    for (k, y) in [4.0, 7.6, 11.2].into_iter().enumerate() {
        let (from, to) = if k % 2 == 0 { (6.0, 74.0) } else { (74.0, 6.0) };
        r.pull(1.6, [from, y, to, y], [0.6, 0.6]);
    }
    r
}

/// Upright strokes side by side, each lighter than the one before.
fn graded_rows() -> Recorder {
    let mut r = Recorder::new(32);
    for k in 0..13 {
        let x = 7.0 + 5.4 * f64::from(k);
        let press = 0.75 - 0.05 * f64::from(k);
        r.pull(0.5, [x, 2.5, x, 11.5], [press, press]);
    }
    r
}

/// A wash, and after a breath five touches into it.
fn drop_into_wet() -> Recorder {
    let mut r = Recorder::new(33);
    r.pull(2.2, [6.0, 7.0, 74.0, 7.0], [0.8, 0.8]);
    r.rest(2.5);
    for k in 0..5 {
        let x = 14.0 + 13.0 * f64::from(k);
        r.pull(0.3, [x, 6.6, x + 0.6, 7.4], [0.2 + 0.14 * f64::from(k), 0.2 + 0.14 * f64::from(k)]);
        r.rest(0.5);
    }
    r
}

/// Two pulls that touch along half their way.
fn touching() -> Recorder {
    let mut r = Recorder::new(34);
    r.pull(1.8, [6.0, 4.6, 74.0, 4.6], [0.5, 0.5]);
    r.rest(3.0);
    r.pull(1.8, [6.0, 12.4, 74.0, 7.6], [0.5, 0.5]);
    r
}

/// Fast pulls of a brush laid on its side.
fn fast_and_dry() -> Recorder {
    let mut r = Recorder::new(35);
    for y in [4.0, 9.6] {
        r.pull(0.24, [5.0, y, 75.0, y - 0.8], [0.6, 0.25]);
    }
    r
}

/// A band that dries, and strokes across it.
fn glaze_crossing() -> Recorder {
    let mut r = Recorder::new(36);
    r.pull(2.0, [6.0, 7.0, 74.0, 7.0], [0.7, 0.7]);
    r.rest(240.0);
    for k in 0..4 {
        let x = 16.0 + 16.0 * f64::from(k);
        r.pull(0.5, [x, 1.6, x, 12.4], [0.5, 0.5]);
    }
    r
}

/// A full row along the upper edge, slow and firm: on a tilted board it gathers in a bead and runs.
fn bead() -> Recorder {
    let mut r = Recorder::new(37);
    r.pull(3.4, [6.0, 3.2, 74.0, 3.2], [0.85, 0.85]);
    r
}

/// A gesture to write: its file name, and who makes it.
type Named = (&'static str, fn() -> Recorder);

/// Writes `demo/gestures/*.inkml`.
pub fn write() -> Result<(), Box<dyn Error>> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/gestures");
    std::fs::create_dir_all(&folder)?;
    let all: [Named; 13] = [
        ("press-ramp", press_ramp),
        ("slow-pull", slow_pull),
        ("flicks", flicks),
        ("hatching", hatching),
        ("scrub", scrub),
        ("lean-fan", lean_fan),
        ("wash-rows", wash_rows),
        ("graded-rows", graded_rows),
        ("drop-into-wet", drop_into_wet),
        ("touching", touching),
        ("fast-and-dry", fast_and_dry),
        ("glaze-crossing", glaze_crossing),
        ("bead", bead),
    ];
    for (name, make) in all {
        let gesture = Gesture::new(make().passes)?;
        std::fs::write(folder.join(format!("{name}.inkml")), saltmarsh_formats::inkml::write(&gesture))?;
    }
    Ok(())
}
