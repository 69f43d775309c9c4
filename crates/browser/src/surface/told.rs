//! What is told of a stroke that lies on the sheet, and of the sheet itself.

use saltmarsh_core::describe::{Explained, TraceShown};
use saltmarsh_core::num;
use saltmarsh_core::relief::view;
use saltmarsh_core::stroke::{DabTrace, Trace, advice};
use saltmarsh_formats::trace_csv;
use wasm_bindgen::prelude::*;

use super::{Laid, Surface};
use crate::json as to_json;

/// How far from a place (mm from the sheet's corner) a stroke is, squared, and the travel of its dab there.
fn nearest_of(trace: &Trace, [x_mm, y_mm]: [f64; 2]) -> Option<(f64, f64)> {
    let near = |d: &DabTrace| {
        let (dx, dy) = (d.x_mm - x_mm, d.y_mm - y_mm);
        (dx * dx + dy * dy, d.at_mm)
    };
    trace.dabs.iter().map(near).min_by(|a, b| a.0.total_cmp(&b.0))
}

#[wasm_bindgen]
impl Surface {
    /// A section through the sheet across the stroke, so long, at the dab nearest to `at_mm` of travel, as JSON, or `null`.
    pub fn section(&self, at_mm: f64, length_mm: f64, count: usize) -> std::result::Result<String, JsError> {
        let dabs = &self.trace.dabs;
        let nearest = (0..dabs.len())
            .min_by(|a, b| (dabs[*a].at_mm - at_mm).abs().total_cmp(&(dabs[*b].at_mm - at_mm).abs()));
        let across = nearest.map(|i| {
            let (before, after) = (&dabs[i.saturating_sub(3)], &dabs[(i + 3).min(dabs.len() - 1)]);
            let way = [after.x_mm - before.x_mm, after.y_mm - before.y_mm];
            let long = num::hypot(way[0], way[1]).max(1e-9);
            let half = [-way[1] / long * length_mm / 2.0, way[0] / long * length_mm / 2.0];
            let middle = [dabs[i].x_mm, dabs[i].y_mm];
            let at = |sign: f64| [middle[0] + sign * half[0], middle[1] + sign * half[1]];
            view::section(&self.sheet, at(-1.0), at(1.0), count)
        });
        to_json(&across)
    }

    pub fn checksum(&self) -> String {
        self.sheet.checksum()
    }

    /// Bytes of material held.
    pub fn bytes(&self) -> usize {
        self.sheet.bytes()
    }

    /// The trace of the last gesture, at most `most` dabs, as JSON ([`TraceShown`]).
    pub fn trace(&self, most: usize) -> std::result::Result<String, JsError> {
        to_json(&TraceShown::of(&self.trace, most, self.on_sheet()))
    }

    /// The dab nearest to `at_mm` of travel and why it is as it is, as JSON ([`Explained`]), or `null`.
    pub fn explain(&self, at_mm: f64) -> std::result::Result<String, JsError> {
        let tool = self.tool.as_deref();
        to_json(&tool.and_then(|tool| Explained::of(tool, &self.trace, at_mm)))
    }

    /// The whole trace of the last gesture as comma-separated values.
    #[wasm_bindgen(js_name = traceCsv)]
    pub fn trace_csv(&self) -> String {
        self.tool.as_ref().map(|tool| trace_csv::write(tool, &self.trace)).unwrap_or_default()
    }

    /// What the last gesture asked of every response, as JSON, by index.
    pub fn exercised(&self) -> std::result::Result<String, JsError> {
        let count = self.tool.as_ref().map_or(0, |t| t.responses.len());
        to_json(&advice::exercised(&self.trace, count))
    }

    /// Travel in mm of the dab nearest to a place (mm from the sheet's corner), or nothing.
    #[wasm_bindgen(js_name = nearestTravel)]
    pub fn nearest_travel(&self, x_mm: f64, y_mm: f64) -> Option<f64> {
        nearest_of(&self.trace, [x_mm, y_mm]).map(|(_, travel)| travel)
    }

    /// Number of the stroke nearest to a place (mm from the sheet's corner), of those whose traces are kept, and travel in mm of its dab
    /// there; empty where there is none. Of strokes as near as each other the last one: it lies on top.
    #[wasm_bindgen(js_name = nearestStroke)]
    pub fn nearest_stroke(&self, x_mm: f64, y_mm: f64) -> Vec<f64> {
        let near = |laid: &Laid| Some((nearest_of(&laid.trace, [x_mm, y_mm])?, laid.number));
        let nearest = self.laid.iter().rev().filter_map(near).min_by(|a, b| a.0.0.total_cmp(&b.0.0));
        nearest.map_or_else(Vec::new, |((_, travel), number)| vec![number as f64, travel])
    }

    /// Tells of the stroke of this number from now on, where its trace is kept.
    #[wasm_bindgen(js_name = tellOf)]
    pub fn tell_of(&mut self, number: usize) -> bool {
        let Some(laid) = self.laid.iter().find(|laid| laid.number == number) else { return false };
        (self.trace, self.tool) = (laid.trace.clone(), laid.tool.clone());
        true
    }
}
