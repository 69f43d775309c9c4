//! `saltmarsh sheet`: a whole sheet from a script of tools and strokes, laid one after the other.

use std::path::{Path, PathBuf};
use std::rc::Rc;

use clap::Args;
use saltmarsh_core::ground::{Ground, Recipe};
use saltmarsh_core::hand::{Gesture, Hand, Sample, angles};
use saltmarsh_core::relief::flat;
use saltmarsh_core::sheet::Sheet as Paper;
use saltmarsh_core::stroke::Engine;
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::{Tool, Value};
use saltmarsh_formats::{image, inkml};
use serde::Deserialize;

use super::render::write;
use super::{Stop, read_text};

const MOST_BYTES: usize = 4 * 1024 * 1024;
const MOST_AREA: usize = 100_000_000;
const MOST_STEPS: usize = 2000;
/// Reports a second of lines that a script describes.
const RATE_HZ: f64 = 120.0;

/// A script names a ground, a size, and steps: each a tool (a file beside the script, with parameters of its own) and its
/// strokes, as a gesture (InkML, moved) or as straight lines.
#[derive(Args)]
pub struct Sheet {
    /// The script (JSON).
    #[arg(long)]
    script: String,
    /// Picture to write (PNG).
    #[arg(long)]
    out: String,
    /// Pixels per inch, 20 to 1200.
    #[arg(long, default_value_t = 200.0)]
    dpi: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Script {
    ground: Recipe,
    size_mm: [f64; 2],
    steps: Vec<Step>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Step {
    /// What it shows.
    #[serde(default, rename = "shows")]
    _shows: String,
    tool: String,
    /// Parameters in place of the tool's own.
    #[serde(default)]
    parameters: std::collections::BTreeMap<String, Value>,
    /// An InkML file, and where its origin is put, mm.
    gesture: Option<String>,
    #[serde(default)]
    at: [f64; 2],
    /// Straight strokes: from x, y to x, y (mm), pressure at both ends.
    #[serde(default)]
    lines: Vec<[f64; 6]>,
    /// Strokes side by side: the first line is repeated `times`, each moved by `by` mm.
    #[serde(default)]
    times: Option<usize>,
    #[serde(default)]
    by: [f64; 2],
    #[serde(default = "fifty")]
    speed_mm_s: f64,
    /// Degrees from upright, and the direction of the lean.
    #[serde(default)]
    tilt_deg: f64,
    #[serde(default)]
    lean_deg: f64,
}

fn fifty() -> f64 {
    50.0
}

impl Sheet {
    pub fn run(&self) -> Result<(), Stop> {
        if !(20.0..=1200.0).contains(&self.dpi) {
            return Err(Stop::Input(format!("--dpi: must be a number from 20 to 1200, got {}", self.dpi)));
        }
        let text = read_text(&self.script, MOST_BYTES)?;
        let script: Script =
            serde_json::from_str(&text).map_err(|e| Stop::Input(format!("{}: {e}", self.script)))?;
        if script.steps.len() > MOST_STEPS {
            return Err(Stop::Input(format!("{}: at most {MOST_STEPS} steps", self.script)));
        }
        let pixel = 25.4 / self.dpi;
        let [width, height] = script.size_mm.map(|mm| (mm / pixel).round().max(1.0) as usize);
        if width.saturating_mul(height) > MOST_AREA {
            return Err(Stop::Input(format!("size_mm: the sheet would have more than {MOST_AREA} pixels")));
        }
        let shelf = Shelf::default();
        script.ground.check().map_err(|e| e.within("ground"))?;
        let ground = Rc::new(Ground::new(&script.ground, &shelf.images)?);
        let mut paper = Paper::new(ground, width, height, pixel, [0.0, 0.0])?;
        let beside = Path::new(&self.script).parent().map(PathBuf::from).unwrap_or_default();
        let mut strokes = 0;
        for (i, step) in script.steps.iter().enumerate() {
            let named = |e: saltmarsh_core::FieldError| Stop::Input(format!("steps[{i}]: {e}"));
            strokes += step.lay(&beside, &shelf, strokes, &mut paper).map_err(|e| match e {
                StepError::Field(e) => named(e),
                StepError::Stop(e) => e,
            })?;
        }
        let png = image::png(&flat::rgba(&paper), width as u32, height as u32, pixel)
            .map_err(|e| Stop::Failure(format!("{}: {e}", self.out)))?;
        write(&self.out, &png)
    }
}

enum StepError {
    Field(saltmarsh_core::FieldError),
    Stop(Stop),
}

impl From<saltmarsh_core::FieldError> for StepError {
    fn from(e: saltmarsh_core::FieldError) -> Self {
        Self::Field(e)
    }
}

impl Step {
    /// Lays the step's strokes, numbered from `first`; gives how many there were.
    fn lay(&self, beside: &Path, shelf: &Shelf, first: u32, paper: &mut Paper) -> Result<u32, StepError> {
        let read = |name: &str, most: usize| {
            read_text(&beside.join(name).to_string_lossy(), most).map_err(StepError::Stop)
        };
        let mut tool = Tool::parse(&read(&self.tool, MOST_BYTES)?)?;
        for (id, value) in &self.parameters {
            tool.parameters.insert(id.clone(), value.clone());
        }
        let passes = match &self.gesture {
            Some(file) => {
                let text = read(file, inkml::MOST_BYTES)?;
                let gesture = inkml::read(&text).and_then(|d| inkml::to_gesture(&d))?;
                gesture.passes().iter().map(|p| p.iter().map(|s| self.moved(s)).collect()).collect()
            }
            None => self.straight(),
        };
        let gesture = Gesture::new(passes)?;
        let mut engine = Engine::with(Rc::new(tool), Hand::default(), paper, shelf)?.numbered_from(first);
        for pass in gesture.passes() {
            engine.extend(pass, paper);
            engine.lift(paper);
        }
        Ok(engine.passes())
    }

    fn moved(&self, sample: &Sample) -> Sample {
        Sample { x: sample.x + self.at[0], y: sample.y + self.at[1], ..*sample }
    }

    /// The straight strokes, one pass each.
    fn straight(&self) -> Vec<Vec<Sample>> {
        let altitude = (90.0 - self.tilt_deg).to_radians();
        let (tilt_x, tilt_y) = angles::to_tilt(altitude, self.lean_deg.rem_euclid(360.0).to_radians());
        let times = self.times.unwrap_or(1);
        let mut clock = 0.0;
        let mut out = Vec::new();
        for k in 0..times {
            let moved = [self.at[0] + self.by[0] * k as f64, self.at[1] + self.by[1] * k as f64];
            for [x0, y0, x1, y1, p0, p1] in &self.lines {
                let length = ((x1 - x0) * (x1 - x0) + (y1 - y0) * (y1 - y0)).sqrt();
                let count = ((length / self.speed_mm_s * RATE_HZ).ceil() as usize).max(2);
                let pass = (0..=count).map(|i| {
                    let f = i as f64 / count as f64;
                    Sample {
                        t: clock + i as f64 / RATE_HZ,
                        x: moved[0] + x0 + (x1 - x0) * f,
                        y: moved[1] + y0 + (y1 - y0) * f,
                        pressure: p0 + (p1 - p0) * f,
                        tilt_x,
                        tilt_y,
                        twist: 0.0,
                    }
                });
                out.push(pass.collect());
                clock += (count + 30) as f64 / RATE_HZ;
            }
        }
        out
    }
}
