//! A sheet with a stroke that may be under way.

use std::cell::RefCell;
use std::rc::Rc;

use saltmarsh_core::ground::Ground;
use saltmarsh_core::hand::{Hand, Sample};
use saltmarsh_core::image::Grey;
use saltmarsh_core::relief::flat;
use saltmarsh_core::sheet::{Rect, Sheet, Snapshot};
use saltmarsh_core::stroke::{Engine, Trace, advice, bed, reason};
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::{Action, Tool};
use saltmarsh_core::{FieldError, Result};
use saltmarsh_formats::{image, trace_csv};
use serde_json::json;
use wasm_bindgen::prelude::*;

use crate::{json as to_json, refuse};

/// A sheet to draw on.
#[wasm_bindgen]
pub struct Surface {
    sheet: Sheet,
    tool: Option<Rc<Tool>>,
    engine: Option<Engine>,
    trace: Trace,
    beds: Rc<Beds>,
    /// Images that tools need.
    shelf: Rc<RefCell<Shelf>>,
    /// Names its bed among the beds.
    key: String,
}

/// Sheets with nothing on them but the bed, by ground, size and place: laying one takes as long as a few strokes.
#[derive(Default)]
pub struct Beds(RefCell<Vec<Bed>>);

struct Bed {
    key: String,
    pixels: usize,
    snapshot: Rc<Snapshot>,
}

/// The newest beds of so many pixels together are kept (at most 80 bytes each).
const MOST_BED_PIXELS: usize = 1_600_000;

impl Beds {
    fn get(&self, key: &str) -> Option<Rc<Snapshot>> {
        self.0.borrow().iter().find(|b| b.key == key).map(|b| b.snapshot.clone())
    }

    fn keep(&self, key: &str, sheet: &Sheet) {
        let pixels = sheet.width() * sheet.height();
        let mut beds = self.0.borrow_mut();
        beds.insert(0, Bed { key: key.to_owned(), pixels, snapshot: Rc::new(sheet.snapshot()) });
        let mut sum = 0;
        beds.retain(|b| {
            sum += b.pixels;
            sum <= MOST_BED_PIXELS
        });
    }
}

fn pixels_of(rect: Option<Rect>) -> Vec<u32> {
    rect.map(|r| [r.left, r.top, r.right, r.bottom].map(|v| v as u32).to_vec()).unwrap_or_default()
}

impl Surface {
    pub(crate) fn new(
        ground: Rc<Ground>,
        [width, height]: [usize; 2],
        pixel_mm: f64,
        origin_mm: [f64; 2],
        beds: Rc<Beds>,
        shelf: Rc<RefCell<Shelf>>,
    ) -> Result<Self> {
        let key = format!("{} {width} {height} {pixel_mm} {origin_mm:?}", ground.key());
        let sheet = Sheet::new(ground, width, height, pixel_mm, origin_mm)?;
        Ok(Self { sheet, tool: None, engine: None, trace: Trace::default(), beds, shelf, key })
    }
}

#[wasm_bindgen]
impl Surface {
    /// Starts a gesture with a tool. `stroke` numbers its first stroke on this sheet.
    pub fn begin(&mut self, tool: &str, hand: &str, stroke: u32) -> std::result::Result<(), JsError> {
        let tool = Rc::new(Tool::parse(tool).map_err(|e| refuse(&e))?);
        let hand: Hand = serde_json::from_str(hand).map_err(|e| JsError::new(&e.to_string()))?;
        let engine =
            Engine::with(tool.clone(), hand, &self.sheet, &self.shelf.borrow()).map_err(|e| refuse(&e))?;
        self.engine = Some(engine.numbered_from(stroke));
        self.tool = Some(tool);
        Ok(())
    }

    /// Takes packed samples of a pen that is down, for [`Surface::work`].
    pub fn hear(&mut self, samples: &[f64]) {
        let samples: Vec<Sample> = samples.chunks_exact(Sample::PACKED).map(Sample::unpack).collect();
        if let Some(engine) = self.engine.as_mut() {
            engine.hear(&samples);
        }
    }

    /// Hears that the pen lifts.
    #[wasm_bindgen(js_name = hearLift)]
    pub fn hear_lift(&mut self) {
        if let Some(engine) = self.engine.as_mut() {
            engine.hear_lift();
        }
    }

    /// Something that was heard is not worked off yet.
    #[wasm_bindgen(getter)]
    pub fn waits(&self) -> bool {
        self.engine.as_ref().is_some_and(Engine::waits)
    }

    /// Works off what was heard until about so many `pixels` were visited; gives `[left, top, right, bottom]` of what changed,
    /// or nothing.
    pub fn work(&mut self, pixels: usize) -> Vec<u32> {
        pixels_of(self.engine.as_mut().and_then(|e| e.work(pixels, &mut self.sheet)))
    }

    /// Works off what was heard and ends the gesture; its trace stays. Gives how many strokes it had.
    pub fn end(&mut self) -> u32 {
        let Some(mut engine) = self.engine.take() else { return 0 };
        engine.work(usize::MAX, &mut self.sheet);
        let passes = engine.passes();
        self.trace = engine.into_trace();
        passes
    }

    /// Takes everything off the sheet.
    pub fn wipe(&mut self) {
        self.engine = None;
        self.sheet.wipe();
    }

    /// Takes everything off the sheet and, for a tool that moves powder, lays the bed of charcoal it acts on.
    #[wasm_bindgen(js_name = makeReady)]
    pub fn make_ready(&mut self, tool: &str) -> std::result::Result<(), JsError> {
        let tool = Tool::parse(tool).map_err(|e| refuse(&e))?;
        self.wipe();
        if tool.action == Action::Lay {
            return Ok(());
        }
        if let Some(snapshot) = self.beds.get(&self.key) {
            self.sheet.restore(&snapshot);
            return Ok(());
        }
        bed::lay_in_place(&mut self.sheet).map_err(|e| refuse(&e))?;
        self.beds.keep(&self.key, &self.sheet);
        Ok(())
    }

    /// Makes the `n`-th piece of the paper under the sheet for a tool; false where there are not so many.
    #[wasm_bindgen(js_name = prepareGround)]
    pub fn prepare_ground(&self, tool: &str, n: usize) -> std::result::Result<bool, JsError> {
        let tool = Tool::parse(tool).map_err(|e| refuse(&e))?;
        Ok(self.sheet.prepare_ground(tool.feel(), n))
    }

    /// RGBA of a rectangle of pixels.
    pub fn pixels(&self, left: usize, top: usize, right: usize, bottom: usize) -> Vec<u8> {
        let (right, bottom) = (right.min(self.sheet.width()), bottom.min(self.sheet.height()));
        if left >= right || top >= bottom {
            return Vec::new();
        }
        let mut out = vec![0; (right - left) * (bottom - top) * 4];
        flat::rgba_in_place(&self.sheet, Rect { left, top, right, bottom }, &mut out);
        out
    }

    /// A rectangle of the sheet as a grey image (PNG of 16 bits): white where powder takes all the light of the bare ground,
    /// black where it takes none.
    pub fn capture(
        &self,
        left: usize,
        top: usize,
        right: usize,
        bottom: usize,
    ) -> std::result::Result<Vec<u8>, JsError> {
        let (right, bottom) = (right.min(self.sheet.width()), bottom.min(self.sheet.height()));
        if left >= right || top >= bottom {
            return Err(refuse(&FieldError::new("selection", "must hold at least a pixel of the sheet")));
        }
        let values = flat::taken_light(&self.sheet, Rect { left, top, right, bottom });
        let grey = Grey::new(right - left, bottom - top, values).map_err(|e| refuse(&e))?;
        image::grey_png(&grey).map_err(|e| JsError::new(&e.to_string()))
    }

    pub fn checksum(&self) -> String {
        self.sheet.checksum()
    }

    /// Bytes of material held.
    pub fn bytes(&self) -> usize {
        self.sheet.bytes()
    }

    /// The trace of the last gesture, at most `most` dabs, as JSON `{length_mm, dabs}`.
    pub fn trace(&self, most: usize) -> std::result::Result<String, JsError> {
        let step = self.trace.dabs.len().div_ceil(most.max(1)).max(1);
        let mut dabs: Vec<_> = self.trace.dabs.iter().step_by(step).collect();
        if let Some(last) = self.trace.dabs.last()
            && dabs.last().is_none_or(|d| d.at_mm < last.at_mm)
        {
            dabs.push(last);
        }
        to_json(&json!({"length_mm": self.trace.length_mm(), "dabs": dabs, "balance": self.trace.balance,
            "sheet_mm3": self.sheet.powder_mm3()}))
    }

    /// The dab nearest to `at_mm` of travel and why it is as it is, as JSON `{dab, reason}`, or `null`.
    pub fn explain(&self, at_mm: f64) -> std::result::Result<String, JsError> {
        let found = self.trace.nearest(at_mm).zip(self.tool.as_ref());
        to_json(&found.map(|(dab, tool)| json!({"dab": dab, "reason": reason::explain(tool, dab)})))
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

    /// Travel in mm of the dab nearest to a place on the sheet (mm), or nothing.
    #[wasm_bindgen(js_name = nearestTravel)]
    pub fn nearest_travel(&self, x_mm: f64, y_mm: f64) -> Option<f64> {
        let distance = |d: &saltmarsh_core::stroke::DabTrace| {
            let [ox, oy] = self.sheet.raster().origin_mm;
            let (dx, dy) = (d.x_mm + ox - x_mm, d.y_mm + oy - y_mm);
            dx * dx + dy * dy
        };
        self.trace.dabs.iter().min_by(|a, b| distance(a).total_cmp(&distance(b))).map(|d| d.at_mm)
    }
}
