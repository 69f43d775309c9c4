//! Techniques: short exercises of a draughtsman that tools are tried in, as data (`techniques.json`).
//!
//! A technique names the parts that tools play in it and what each does in turn; any tool can be given a part. The parts'
//! strokes are made with a plain pen, so that the same tool gives the same sheet everywhere.

use std::collections::BTreeMap;
use std::sync::OnceLock;

use serde::{Deserialize, Serialize};

use crate::chain::{Action, Value};
use crate::error::Result;
use crate::ground::Recipe;
use crate::hand::{Gesture, Sample, angles};
use crate::medium::{Turn, turn_in_place};
use crate::num;
use crate::sheet::{STEP_S, Sheet};
use crate::tool::Tool;

/// Reports a second.
const RATE_HZ: f64 = 120.0;
/// Reports that a hand takes from one stroke to the next.
const BETWEEN: usize = 30;

/// An exercise on a sheet of its own.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Technique {
    pub id: String,
    pub name: String,
    /// What is done, and what to look for.
    pub note: String,
    /// Its sheet; nothing for the ground of the tool that plays the first part.
    #[serde(default)]
    pub ground: Option<Recipe>,
    /// Width and height, mm.
    pub size_mm: [f64; 2],
    pub roles: Vec<Role>,
    pub steps: Vec<Step>,
}

/// A part that a tool plays.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Role {
    pub id: String,
    pub what: String,
    /// Name of the ready tool that it was made with.
    pub tool: String,
}

/// What one part does: straight strokes.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Step {
    pub role: String,
    /// Parameters in place of the tool's own, where the sheet is smaller than the tool.
    #[serde(default)]
    #[cfg_attr(feature = "types", ts(type = "Record<string, Value>"))]
    pub parameters: BTreeMap<String, Value>,
    /// From x, y to x, y (mm), pressure at both ends (0..1).
    pub lines: Vec<[f64; 6]>,
    /// All lines so many times, each time moved by so many mm and pressed so much firmer where they begin.
    #[serde(default = "one")]
    pub times: usize,
    #[serde(default)]
    pub by: [f64; 2],
    #[serde(default)]
    pub firmer_by: f64,
    #[serde(default = "fifty")]
    pub speed_mm_s: f64,
    /// So long the sheet is left to itself first, s; or until all that is wet on it has dried.
    #[serde(default)]
    pub wait_s: f64,
    #[serde(default)]
    pub dry_first: bool,
    /// Degrees from upright, and the direction of the lean.
    #[serde(default)]
    pub tilt_deg: f64,
    #[serde(default)]
    pub lean_deg: f64,
}

fn one() -> usize {
    1
}

fn fifty() -> f64 {
    50.0
}

/// All techniques, in the order a draughtsman meets them.
pub fn all() -> &'static [Technique] {
    static ALL: OnceLock<Vec<Technique>> = OnceLock::new();
    ALL.get_or_init(|| read(include_str!("techniques.json")))
}

/// The few strokes that show a tool in the rack, on its own ground: a press that grows and three flicks for a tool that
/// lays, one pull out of a bed of charcoal for one that moves.
pub fn sample(action: Action) -> &'static Technique {
    static SAMPLES: OnceLock<Vec<Technique>> = OnceLock::new();
    let samples = SAMPLES.get_or_init(|| read(include_str!("samples.json")));
    &samples[usize::from(action != Action::Lay)]
}

fn read(text: &str) -> Vec<Technique> {
    let mut all: Vec<Technique> =
        serde_json::from_str(text).expect("the program's own techniques are well formed (tested)");
    all.iter_mut().filter_map(|t| t.ground.as_mut()).for_each(Recipe::fill_in);
    all
}

impl Technique {
    /// The part that a step belongs to.
    pub fn role(&self, step: &Step) -> &Role {
        self.roles.iter().find(|r| r.id == step.role).expect("every step's part is named (tested)")
    }

    /// The tool as it plays step `step`.
    pub fn tool_of(&self, step: usize, tool: &Tool) -> Tool {
        let mut tool = tool.clone();
        tool.parameters.extend(self.steps[step].parameters.clone());
        tool
    }

    /// Lets a sheet be for as long as step `step` waits.
    pub fn wait_in_place(&self, step: usize, sheet: &mut Sheet) {
        let step = &self.steps[step];
        sheet.advance((step.wait_s / STEP_S) as u64);
        if step.dry_first {
            sheet.rest();
            turn_in_place(Turn::Dry, sheet);
        }
    }

    /// The strokes of step `step`, in mm from the sheet's corner.
    ///
    /// # Errors
    /// Names what [`Gesture::new`] refuses.
    pub fn strokes(&self, step: usize) -> Result<Gesture> {
        let step = &self.steps[step];
        let altitude = (90.0 - step.tilt_deg).to_radians();
        let (tilt_x, tilt_y) = angles::to_tilt(altitude, step.lean_deg.rem_euclid(360.0).to_radians());
        let mut clock = 0;
        let mut passes = Vec::new();
        for time in 0..step.times {
            let k = time as f64;
            for [x0, y0, x1, y1, p0, p1] in &step.lines {
                let (dx, dy) = (x1 - x0, y1 - y0);
                let count = (f64::ceil(num::hypot(dx, dy) / step.speed_mm_s * RATE_HZ) as usize).max(2);
                let begins = p0 + step.firmer_by * k;
                let sample = |i: usize| {
                    let f = i as f64 / count as f64;
                    Sample {
                        t: (clock + i) as f64 / RATE_HZ,
                        x: x0 + step.by[0] * k + dx * f,
                        y: y0 + step.by[1] * k + dy * f,
                        pressure: begins + (p1 - begins) * f,
                        tilt_x,
                        tilt_y,
                        twist: 0.0,
                    }
                };
                passes.push((0..=count).map(sample).collect());
                clock += count + BETWEEN;
            }
        }
        Gesture::new(passes)
    }
}
