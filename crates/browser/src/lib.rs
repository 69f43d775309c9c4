//! The WebAssembly face of the core, and nothing else: every number comes out of `saltmarsh-core`.
//!
//! Errors are thrown as JSON text `{"field", "message"}`.

mod describe;
mod hand;
mod surface;

use std::cell::RefCell;
use std::collections::HashMap;
use std::rc::Rc;

use saltmarsh_core::FieldError;
use saltmarsh_core::ground::{Ground, Paper};
use saltmarsh_core::hand::{Calibration, Gesture, Sample};
use saltmarsh_formats::inkml;
use wasm_bindgen::prelude::*;

pub use surface::Surface;

fn refuse(e: &FieldError) -> JsError {
    JsError::new(&serde_json::json!({"field": e.field, "message": e.message}).to_string())
}

fn json<T: serde::Serialize>(value: &T) -> Result<String, JsError> {
    serde_json::to_string(value).map_err(|e| JsError::new(&e.to_string()))
}

/// Holds the grounds; makes surfaces to draw on.
#[wasm_bindgen]
#[derive(Default)]
pub struct Studio {
    grounds: RefCell<HashMap<Paper, Rc<Ground>>>,
    beds: Rc<surface::Beds>,
}

#[wasm_bindgen]
impl Studio {
    #[wasm_bindgen(constructor)]
    pub fn new() -> Studio {
        Studio::default()
    }

    fn ground(&self, paper: &str) -> Result<Rc<Ground>, JsError> {
        let paper = Paper::named(paper).ok_or_else(|| {
            refuse(&FieldError::new("paper", format!("{paper} is not a paper of this program")))
        })?;
        Ok(self.grounds.borrow_mut().entry(paper).or_insert_with(|| Rc::new(Ground::new(paper))).clone())
    }

    /// A sheet of `width × height` pixels of `pixel_mm`, its corner at (`x_mm`, `y_mm`) on the ground.
    pub fn surface(
        &self,
        paper: &str,
        width: usize,
        height: usize,
        pixel_mm: f64,
        x_mm: f64,
        y_mm: f64,
    ) -> Result<Surface, JsError> {
        Surface::new(self.ground(paper)?, width, height, pixel_mm, [x_mm, y_mm], self.beds.clone())
            .map_err(|e| refuse(&e))
    }

    /// What a tool meets in its paper: ISO figures, material ratio, contact depths and a section, as JSON.
    #[wasm_bindgen(js_name = groundFigures)]
    pub fn ground_figures(&self, tool: &str) -> Result<String, JsError> {
        let tool = saltmarsh_core::tool::Tool::parse(tool).map_err(|e| refuse(&e))?;
        let ground = self.ground(tool.choice("ground.paper"))?;
        json(&describe::ground(&tool, &ground))
    }
}

/// Checks a tool document; gives its canonical form.
#[wasm_bindgen(js_name = checkTool)]
pub fn check_tool(document: &str) -> Result<String, JsError> {
    saltmarsh_core::tool::Tool::parse(document).map(|t| t.canonical()).map_err(|e| refuse(&e))
}

/// Which parameters act in a tool and why the others do not, as JSON.
#[wasm_bindgen]
pub fn relevance(document: &str) -> Result<String, JsError> {
    let tool = saltmarsh_core::tool::Tool::parse(document).map_err(|e| refuse(&e))?;
    json(&saltmarsh_core::tool::relevance::relevance(&tool))
}

/// Declarations of parameters, qualities and signals, as JSON.
#[wasm_bindgen]
pub fn declarations() -> Result<String, JsError> {
    json(&describe::declarations())
}

/// A curve through `points` (x, y, x, y, …) at `count` even steps of 0..1.
#[wasm_bindgen(js_name = curveSamples)]
pub fn curve_samples(points: &[f64], count: usize) -> Result<Vec<f64>, JsError> {
    let curve = curve(points)?;
    let top = count.max(2) - 1;
    Ok((0..=top).map(|i| curve.at(i as f64 / top as f64)).collect())
}

/// What a calibration, and a curve over the part `low`..`high` of its output, leave of a device's levels, as JSON.
#[wasm_bindgen(js_name = usableLevels)]
pub fn usable_levels(
    calibration: &[f64],
    low: f64,
    high: f64,
    points: &[f64],
    levels: u32,
) -> Result<String, JsError> {
    if high.is_nan() || low.is_nan() || high <= low {
        return Err(refuse(&FieldError::new("high", "must lie above low")));
    }
    let calibration = Calibration { curve: curve(calibration)? };
    let levels = levels.clamp(2, 65_536);
    json(&saltmarsh_core::touch::levels::usable_through(&calibration, [low, high], &curve(points)?, levels))
}

fn curve(points: &[f64]) -> Result<saltmarsh_core::touch::Curve, JsError> {
    let points = points.chunks_exact(2).map(|p| [p[0], p[1]]).collect();
    saltmarsh_core::touch::Curve::new(points).map_err(|e| refuse(&e))
}

/// A gesture, read from InkML or recorded.
#[wasm_bindgen]
pub struct Recording {
    pub(crate) gesture: Gesture,
}

#[wasm_bindgen]
impl Recording {
    /// Reads InkML.
    pub fn read(text: &str) -> Result<Recording, JsError> {
        let gesture = inkml::read(text).and_then(|d| inkml::to_gesture(&d)).map_err(|e| refuse(&e))?;
        Ok(Recording { gesture })
    }

    /// Takes one pass of packed samples (`t, x, y, pressure, tilt_x, tilt_y, twist`; s, mm, 0..1, degrees).
    pub fn record(samples: &[f64]) -> Result<Recording, JsError> {
        let pass = samples.chunks_exact(Sample::PACKED).map(Sample::unpack).collect();
        Gesture::new(vec![pass]).map(|gesture| Recording { gesture }).map_err(|e| refuse(&e))
    }

    /// InkML of this gesture.
    pub fn write(&self) -> String {
        inkml::write(&self.gesture)
    }

    #[wasm_bindgen(getter, js_name = passCount)]
    pub fn pass_count(&self) -> usize {
        self.gesture.passes().len()
    }

    /// Packed samples of one pass.
    pub fn pass(&self, index: usize) -> Vec<f64> {
        self.gesture.passes().get(index).into_iter().flatten().flat_map(Sample::pack).collect()
    }

    /// `[left, top, right, bottom]`, mm.
    pub fn bounds(&self) -> Vec<f64> {
        self.gesture.bounds_mm().to_vec()
    }
}
