//! A sheet with a stroke that may be under way.

mod beds;
mod time;
mod told;

use std::cell::{Cell, RefCell};
use std::collections::VecDeque;
use std::rc::Rc;

use saltmarsh_core::ground::Ground;
use saltmarsh_core::hand::{Hand, Sample};
use saltmarsh_core::image::Grey;
use saltmarsh_core::medium::{Amount, Care, Carried, Eye};
use saltmarsh_core::relief::view::View;
use saltmarsh_core::relief::{flat, lit};
use saltmarsh_core::sheet::{Changed, Rect, Sheet, Snapshot, Surroundings};
use saltmarsh_core::stroke::{Engine, Trace, under};
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::Tool;
use saltmarsh_core::{FieldError, Result};
use saltmarsh_formats::image;
use wasm_bindgen::prelude::*;

pub use beds::Beds;

use crate::{json as to_json, refuse};

/// A sheet to draw on.
#[wasm_bindgen]
pub struct Surface {
    sheet: Sheet,
    tool: Option<Rc<Tool>>,
    /// Its medium is seen under light, and how it is looked at.
    lit: bool,
    view: View,
    engine: Option<Engine>,
    trace: Rc<Trace>,
    /// The newest strokes that were laid on it, each with its number, for those who point at one of them.
    laid: VecDeque<Laid>,
    /// Strokes that were ended since the sheet was wiped.
    count: usize,
    /// What the tool carries from stroke to stroke on this sheet.
    carried: Option<Carried>,
    /// The stroke that is under way is another tool's: what that carries is forgotten.
    aside: bool,
    /// What there was before the stroke that is under way.
    before: Option<Before>,
    beds: Rc<Beds>,
    /// Images that tools need.
    shelf: Rc<RefCell<Shelf>>,
    /// The room and the board of the studio.
    surroundings: Rc<Cell<Surroundings>>,
    /// Names its bed among the beds.
    key: String,
}

/// A stroke that lies on the sheet.
struct Laid {
    number: usize,
    tool: Option<Rc<Tool>>,
    trace: Rc<Trace>,
}

/// Traces are kept of so many strokes (about 0.4 MB a stroke of 1000 dabs).
const MOST_TRACES: usize = 60;

/// What a stroke that is dropped goes back to.
struct Before {
    snapshot: Snapshot,
    carried: Option<Carried>,
    lit: bool,
}

/// Left, top, right and bottom of every tile's part of a sheet that looks otherwise since it changed.
fn pixels_of(changed: &Changed, sheet: &Sheet, looks_around: bool) -> Vec<u32> {
    // Under light a pixel is seen by the slopes around it.
    let more = if looks_around { lit::LOOKS } else { 0 };
    let seen = changed.rects().map(|r| r.grown(more, sheet.rect()));
    seen.flat_map(|r| [r.left, r.top, r.right, r.bottom].map(|v| v as u32)).collect()
}

impl Surface {
    pub(crate) fn new(
        ground: Rc<Ground>,
        [width, height]: [usize; 2],
        pixel_mm: f64,
        origin_mm: [f64; 2],
        beds: Rc<Beds>,
        shelf: Rc<RefCell<Shelf>>,
        surroundings: Rc<Cell<Surroundings>>,
    ) -> Result<Self> {
        let key = format!("{} {width} {height} {pixel_mm} {origin_mm:?}", ground.key());
        let sheet = Sheet::new(ground, width, height, pixel_mm, origin_mm)?;
        Ok(Self {
            sheet,
            tool: None,
            lit: false,
            view: View::default(),
            engine: None,
            trace: Rc::default(),
            laid: VecDeque::new(),
            count: 0,
            carried: None,
            aside: false,
            before: None,
            beds,
            shelf,
            surroundings,
            key,
        })
    }
}

impl Surface {
    /// Brings the sheet into the room that the studio is in.
    fn settle_in(&mut self) {
        self.sheet.bring_into(self.surroundings.get()).expect("the studio checked it");
    }

    /// What a bed on this sheet is known by: what lies there, and in which room.
    fn bed_key(&self, name: &str) -> String {
        format!("{name} {} {:?}", self.key, self.surroundings.get())
    }

    /// All of the tool's medium on the sheet.
    fn on_sheet(&self) -> Amount {
        self.tool.as_ref().map(|tool| tool.medium.on_sheet(&self.sheet)).unwrap_or_default()
    }
}

#[wasm_bindgen]
impl Surface {
    /// Starts a gesture with a tool. `fresh`: clean and sharp, whatever strokes before left in it.
    pub fn begin(&mut self, tool: &str, hand: &str, fresh: bool) -> std::result::Result<(), JsError> {
        self.settle_in();
        let tool = Rc::new(Tool::parse(tool).map_err(|e| refuse(&e))?);
        let hand: Hand = serde_json::from_str(hand).map_err(|e| JsError::new(&e.to_string()))?;
        let carried = self.carried.as_ref().filter(|_| !fresh);
        let engine = Engine::with(tool.clone(), hand, &self.sheet, &self.shelf.borrow(), carried);
        let engine = engine.map_err(|e| refuse(&e))?;
        self.before =
            Some(Before { snapshot: self.sheet.snapshot(), carried: self.carried.clone(), lit: self.lit });
        if fresh {
            self.carried = None;
        }
        (self.engine, self.aside) = (Some(engine), false);
        self.lit = tool.medium.lit();
        self.tool = Some(tool);
        Ok(())
    }

    /// Starts a gesture with another tool than the one whose sheet this is, clean and sharp; what that one carries waits.
    #[wasm_bindgen(js_name = beginAside)]
    pub fn begin_aside(&mut self, tool: &str, hand: &str) -> std::result::Result<(), JsError> {
        let lit = self.lit;
        let carried = self.carried.clone();
        self.begin(tool, hand, true)?;
        (self.carried, self.aside) = (carried, true);
        self.lit |= lit;
        Ok(())
    }

    /// Drops the stroke that is under way: the sheet, and what the tool carries, are what they were before it.
    #[wasm_bindgen(js_name = dropStroke)]
    pub fn drop_stroke(&mut self) {
        let Some(before) = self.before.take().filter(|_| self.engine.take().is_some()) else { return };
        self.sheet.restore(&before.snapshot);
        (self.carried, self.lit) = (before.carried, before.lit);
    }

    /// Takes packed samples of a pen that is down, for [`Surface::work`]. Refused (thrown) by field where one is not within its
    /// limits; then none of them was taken.
    pub fn hear(&mut self, samples: &[f64]) -> std::result::Result<(), JsError> {
        let samples: Vec<Sample> = samples.chunks_exact(Sample::PACKED).map(Sample::unpack).collect();
        self.engine.as_mut().map_or(Ok(()), |engine| engine.hear(&samples)).map_err(|e| refuse(&e))
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

    /// Works off what was heard until about so many `pixels` were visited; gives left, top, right, bottom of what changed, a
    /// rectangle a tile.
    pub fn work(&mut self, pixels: usize) -> Vec<u32> {
        let Some(engine) = self.engine.as_mut() else { return Vec::new() };
        let changed = engine.work(pixels, &mut self.sheet);
        pixels_of(&changed, &self.sheet, self.view.looks_around(self.lit))
    }

    /// Works off what was heard and ends the gesture; its trace stays, and what the tool carries.
    pub fn end(&mut self) {
        let Some(mut engine) = self.engine.take() else { return };
        engine.work(usize::MAX, &mut self.sheet);
        self.before = None;
        if !self.aside {
            self.carried = Some(engine.carried());
        }
        self.trace = Rc::new(engine.into_trace());
        if !self.aside {
            let laid = Laid { number: self.count, tool: self.tool.clone(), trace: self.trace.clone() };
            self.laid.push_back(laid);
            self.laid.drain(..self.laid.len().saturating_sub(MOST_TRACES));
        }
        self.count += 1;
    }

    /// Takes everything off the sheet.
    pub fn wipe(&mut self) {
        (self.engine, self.before) = (None, None);
        self.carried = None;
        self.laid.clear();
        self.count = 0;
        self.sheet.wipe();
    }

    /// Takes everything off the sheet and lays what strips of this tool lie on: what `under` names of that which its medium
    /// declares, else what it is shown on first.
    #[wasm_bindgen(js_name = makeReady)]
    pub fn make_ready(&mut self, tool: &str, under: Option<String>) -> std::result::Result<(), JsError> {
        let tool = Tool::parse(tool).map_err(|e| refuse(&e))?;
        let under = tool.medium.under(tool.action, under.as_deref()).map_err(|e| refuse(&e))?;
        self.lit = tool.medium.lit();
        self.wipe();
        if under.laid.is_empty() {
            return Ok(());
        }
        self.settle_in();
        let key = self.bed_key(&format!("{} {}", tool.medium.name(), under.id));
        if let Some(snapshot) = self.beds.get(&key) {
            self.sheet.restore(&snapshot);
            return Ok(());
        }
        under::lay_in_place(&under, &mut self.sheet).map_err(|e| refuse(&e))?;
        self.beds.keep(&key, &self.sheet);
        Ok(())
    }

    /// Takes everything off the sheet and lays what was kept under a name that says all of how it was laid; false where there is
    /// none: then the sheet is bare.
    #[wasm_bindgen(js_name = lieOn)]
    pub fn lie_on(&mut self, name: &str) -> bool {
        self.wipe();
        let bed = self.beds.get(&self.bed_key(name));
        if let Some(snapshot) = &bed {
            self.sheet.restore(snapshot);
        }
        bed.is_some()
    }

    /// What was laid so far is what strokes lie on from here, and is kept under a name for sheets of the same ground, size and
    /// place. The tool is clean again.
    #[wasm_bindgen(js_name = keepUnder)]
    pub fn keep_under(&mut self, name: &str) {
        self.sheet.made_ready();
        (self.carried, self.trace) = (None, Rc::default());
        self.beds.keep(&self.bed_key(name), &self.sheet);
    }

    /// Makes the `n`-th piece of the paper under the sheet for a tool; false where there are not so many.
    #[wasm_bindgen(js_name = prepareGround)]
    pub fn prepare_ground(&self, tool: &str, n: usize) -> std::result::Result<bool, JsError> {
        let tool = Tool::parse(tool).map_err(|e| refuse(&e))?;
        Ok(self.sheet.prepare_ground(tool.feel(), n))
    }

    /// The bare ground's colour, sRGB.
    pub fn bare(&self) -> Vec<u8> {
        Eye::on(&self.sheet).bare().to_vec()
    }

    /// RGBA of a rectangle of pixels.
    pub fn pixels(&self, left: usize, top: usize, right: usize, bottom: usize) -> Vec<u8> {
        let (right, bottom) = (right.min(self.sheet.width()), bottom.min(self.sheet.height()));
        if left >= right || top >= bottom {
            return Vec::new();
        }
        let rect = Rect { left, top, right, bottom };
        self.view.rgba(&self.sheet, rect, self.lit)
    }

    /// Looks at the sheet so ([`View`] as JSON). Refused (thrown) by field.
    #[wasm_bindgen(js_name = lookAt)]
    pub fn look_at(&mut self, view: &str) -> std::result::Result<(), JsError> {
        let view: View = serde_json::from_str(view).map_err(|e| JsError::new(&e.to_string()))?;
        view.check().map_err(|e| refuse(&e))?;
        self.view = view;
        Ok(())
    }

    /// Does to a tool what its painter does between strokes (a [`Care`] that its medium declares).
    pub fn care(&mut self, tool: &str, care: &str) -> std::result::Result<(), JsError> {
        let tool = Tool::parse(tool).map_err(|e| refuse(&e))?;
        let care: Care =
            serde_json::from_str(&format!("\"{care}\"")).map_err(|e| JsError::new(&e.to_string()))?;
        self.carried = tool.medium.care(&tool.settings(), self.carried.as_ref(), care);
        Ok(())
    }

    /// What a tool holds across its tip, from left to right, as JSON ([`Held`](saltmarsh_core::medium::Held)).
    pub fn held(&self, tool: &str) -> std::result::Result<String, JsError> {
        let tool = Tool::parse(tool).map_err(|e| refuse(&e))?;
        to_json(&tool.medium.held(&tool.settings(), self.carried.as_ref()))
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
}
