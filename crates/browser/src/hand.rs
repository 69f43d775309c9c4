//! The hand for screens: what was observed of a stylus, a proposed calibration, simulated styluses, advice and comparison.

use saltmarsh_core::FieldError;
use saltmarsh_core::chain::Quality;
use saltmarsh_core::hand::generate::{Movement, generate};
use saltmarsh_core::hand::way::Outline;
use saltmarsh_core::hand::{DeviceProfile, Gesture, Hand, Sample, document, observed, propose};
use saltmarsh_core::medium::MediumName;
use saltmarsh_core::stroke::advice::{self, Exercised};
use saltmarsh_core::stroke::{DabTrace, compare};
use saltmarsh_core::tool::Tool;
use saltmarsh_formats::{inkml, svg};
use serde::de::DeserializeOwned;
use serde_json::json;
use wasm_bindgen::prelude::*;

use crate::{Recording, json as to_json, refuse};

/// Largest JSON that a screen hands over, bytes.
const MOST_JSON: usize = 16 * 1024 * 1024;

fn read<T: DeserializeOwned>(field: &str, text: &str) -> Result<T, JsError> {
    if text.len() > MOST_JSON {
        return Err(refuse(&FieldError::new(field, format!("at most {MOST_JSON} bytes"))));
    }
    serde_json::from_str(text).map_err(|e| refuse(&FieldError::new(field, e.to_string())))
}

/// What reports tell of a pen, as JSON. `samples`: packed, all strokes after another; `ends`: index of the sample after each
/// stroke's last.
#[wasm_bindgen]
pub fn observe(samples: &[f64], ends: &[u32], pen: bool) -> Result<String, JsError> {
    let all: Vec<Sample> = samples.chunks_exact(Sample::PACKED).map(Sample::unpack).collect();
    let mut from = 0;
    let mut strokes = Vec::new();
    for end in ends {
        let end = (*end as usize).clamp(from, all.len());
        strokes.push(all[from..end].to_vec());
        from = end;
    }
    to_json(&observed::observe(&strokes, pen))
}

/// A calibration proposed from marks, as JSON. `marks`: JSON `{"light": [[pressure, …], …], "normal": …, "firm": …}`.
#[wasm_bindgen(js_name = proposeCalibration)]
pub fn propose_calibration(marks: &str, profile: &str) -> Result<String, JsError> {
    #[derive(serde::Deserialize)]
    struct Marks {
        light: Vec<Vec<f64>>,
        normal: Vec<Vec<f64>>,
        firm: Vec<Vec<f64>>,
    }
    let marks: Marks = read("marks", marks)?;
    let profile: DeviceProfile = read("profile", profile)?;
    let made = propose::propose(&marks.light, &marks.normal, &marks.firm, &profile);
    to_json(&made.map_err(|e| refuse(&e))?)
}

/// Advice on a tool, as JSON. `asked`: JSON list, for every gesture what it asked of the responses (`Surface.exercised`).
#[wasm_bindgen]
pub fn advise(tool: &str, hand: &str, asked: &str) -> Result<String, JsError> {
    let tool = Tool::parse(tool).map_err(|e| refuse(&e))?;
    let hand: Hand = read("hand", hand)?;
    let asked: Vec<Vec<Option<Exercised>>> = read("asked", asked)?;
    to_json(&advice::advise(&tool, &hand, &advice::together(&asked)))
}

/// What differs between two dabs of traces (JSON each) of tools of a medium, as JSON, most first.
#[wasm_bindgen(js_name = compareDabs)]
pub fn compare_dabs(medium: &str, a: &str, b: &str) -> Result<String, JsError> {
    let medium = MediumName::named(medium)
        .ok_or_else(|| refuse(&FieldError::new("medium", "there is no such medium")))?;
    let (a, b): (DabTrace, DabTrace) = (read("a", a)?, read("b", b)?);
    if [&a, &b].iter().any(|d| d.qualities.len() != Quality::COUNT) {
        return Err(refuse(&FieldError::new("qualities", "must have one number a quality")));
    }
    to_json(&compare::compare(&*medium, &a, &b))
}

/// Forces in gf that a hand needs for outputs 0..1; NaN where no force reaches one.
#[wasm_bindgen(js_name = forcesFor)]
pub fn forces_for(hand: &str, outputs: &[f64]) -> Result<Vec<f64>, JsError> {
    let hand: Hand = read("hand", hand)?;
    let force = |o: &f64| hand.calibration.force_for(&hand.profile, *o).unwrap_or(f64::NAN);
    Ok(outputs.iter().map(force).collect())
}

/// Forces in gf behind reported pressures.
#[wasm_bindgen(js_name = forcesOf)]
pub fn forces_of(profile: &str, pressures: &[f64]) -> Result<Vec<f64>, JsError> {
    let profile: DeviceProfile = read("profile", profile)?;
    Ok(pressures.iter().map(|p| profile.force_gf(*p)).collect())
}

/// Checks a stylus document; gives `{profile, calibration}` as JSON.
#[wasm_bindgen(js_name = readStylus)]
pub fn read_stylus(text: &str) -> Result<String, JsError> {
    to_json(&document::parse(text).map_err(|e| refuse(&e))?)
}

/// The document in which a hand is kept and exchanged.
#[wasm_bindgen(js_name = writeStylus)]
pub fn write_stylus(hand: &str) -> Result<String, JsError> {
    let hand: Hand = read("hand", hand)?;
    to_json(&json!(document::to_json(&hand)))
}

/// The outlines of an SVG drawing, as JSON: `{"outline": [[[x mm, y mm], …], …], "length_mm": …}`.
#[wasm_bindgen(js_name = readDrawing)]
pub fn read_drawing(text: &str) -> Result<String, JsError> {
    let drawing = svg::read(text).map_err(|e| refuse(&e))?;
    to_json(&json!({"outline": drawing.outline, "length_mm": drawing.length_mm}))
}

/// The gestures of an InkML document, as JSON: `[{"name": … or null, "inkml": …}, …]`.
#[wasm_bindgen(js_name = readGestures)]
pub fn read_gestures(text: &str) -> Result<String, JsError> {
    let document = inkml::read(text).map_err(|e| refuse(&e))?;
    let gestures = inkml::to_gestures(&document).map_err(|e| refuse(&e))?;
    let each =
        |(name, gesture): &(Option<String>, Gesture)| json!({"name": name, "inkml": inkml::write(gesture)});
    to_json(&gestures.iter().map(each).collect::<Vec<_>>())
}

/// One InkML document of several gestures. `gestures`: JSON `[{"name": …, "inkml": …}, …]`.
#[wasm_bindgen(js_name = writeGestures)]
pub fn write_gestures(gestures: &str) -> Result<String, JsError> {
    #[derive(serde::Deserialize)]
    struct Named {
        name: String,
        inkml: String,
    }
    // The page's own gestures, each under its limit already: together they may be larger than what is read elsewhere.
    let all: Vec<Named> =
        serde_json::from_str(gestures).map_err(|e| refuse(&FieldError::new("gestures", e.to_string())))?;
    let read = |g: Named| inkml::to_gesture(&inkml::read(&g.inkml)?).map(|gesture| (g.name, gesture));
    let all: Result<Vec<_>, FieldError> = all.into_iter().map(read).collect();
    Ok(inkml::write_all(&all.map_err(|e| refuse(&e))?))
}

#[wasm_bindgen]
impl Recording {
    /// A gesture made from parameters (JSON, see the core's `Movement`), as the pen of `recorder` reports it. `outline`: JSON
    /// as [`read_drawing`] gives it, where the movement follows one.
    pub fn generate(movement: &str, outline: Option<String>, recorder: &str) -> Result<Recording, JsError> {
        let movement: Movement = read("movement", movement)?;
        let outline: Option<Outline> = outline.map(|text| read("outline", &text)).transpose()?;
        let recorder: DeviceProfile = read("recorder", recorder)?;
        generate(&movement, outline.as_ref(), &recorder)
            .map(|gesture| Recording { gesture })
            .map_err(|e| refuse(&e))
    }

    /// The same way from end to start.
    pub fn reversed(&self) -> Result<Recording, JsError> {
        self.gesture.reversed().map(|gesture| Recording { gesture }).map_err(|e| refuse(&e))
    }

    /// The same hand on a way `by` times as large.
    pub fn scaled(&self, by: f64) -> Result<Recording, JsError> {
        self.gesture.scaled(by).map(|gesture| Recording { gesture }).map_err(|e| refuse(&e))
    }

    /// What lies between two times, s from the first report.
    pub fn trimmed(&self, from_s: f64, to_s: f64) -> Result<Recording, JsError> {
        self.gesture.trimmed(from_s, to_s).map(|gesture| Recording { gesture }).map_err(|e| refuse(&e))
    }

    /// What a stylus would have reported of this gesture, had `recorder` recorded it.
    pub fn through(&self, profile: &str, recorder: &str, seed: u32) -> Result<Recording, JsError> {
        let (profile, recorder): (DeviceProfile, DeviceProfile) =
            (read("profile", profile)?, read("recorder", recorder)?);
        let gesture: Gesture =
            profile.play(&self.gesture, &recorder, u64::from(seed)).map_err(|e| refuse(&e))?;
        Ok(Recording { gesture })
    }
}
