//! A sheet with a stroke that may be under way.

use std::cell::{Cell, RefCell};
use std::collections::VecDeque;
use std::rc::Rc;

use saltmarsh_core::describe::{Explained, TraceShown};
use saltmarsh_core::ground::Ground;
use saltmarsh_core::hand::{Hand, Sample};
use saltmarsh_core::image::Grey;
use saltmarsh_core::medium::{Amount, Care, Carried, Eye, Turn, turn_in_place};
use saltmarsh_core::relief::view::{self, View};
use saltmarsh_core::relief::{flat, lit};
use saltmarsh_core::sheet::{Changed, Rect, Sheet, Snapshot, Surroundings};
use saltmarsh_core::stroke::{DabTrace, Engine, Trace, advice, under};
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::Tool;
use saltmarsh_core::{FieldError, Result};
use saltmarsh_formats::{image, trace_csv};
use wasm_bindgen::prelude::*;

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

/// How far from a place (mm from the sheet's corner) a stroke is, squared, and the travel of its dab there.
fn nearest_of(trace: &Trace, [x_mm, y_mm]: [f64; 2]) -> Option<(f64, f64)> {
    let near = |d: &DabTrace| {
        let (dx, dy) = (d.x_mm - x_mm, d.y_mm - y_mm);
        (dx * dx + dy * dy, d.at_mm)
    };
    trace.dabs.iter().map(near).min_by(|a, b| a.0.total_cmp(&b.0))
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

/// Sheets with nothing on them but what they lie on, by ground, size and place: laying one takes as long as a few strokes.
#[derive(Default)]
pub struct Beds(RefCell<Vec<Bed>>);

struct Bed {
    key: String,
    pixels: usize,
    snapshot: Rc<Snapshot>,
}

/// The newest beds of so many pixels together are kept (80 bytes each of powder, 152 of paste).
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

    /// Has the sheet's time wait for the stroke that was begun: of what is due, only what is let go goes.
    #[wasm_bindgen(js_name = holdTime)]
    pub fn hold_time(&mut self) {
        if let Some(engine) = self.engine.as_mut() {
            engine.hold_time(&self.sheet);
        }
    }

    /// Steps of time that are due in the stroke and wait.
    #[wasm_bindgen(getter, js_name = timeWaits)]
    pub fn time_waits(&self) -> u32 {
        self.engine.as_ref().map_or(0, |engine| engine.time_waits() as u32)
    }

    /// Lets so many of the steps go that wait; gives what changed, as [`Surface::work`] does.
    #[wasm_bindgen(js_name = letGo)]
    pub fn let_go(&mut self, steps: u32) -> Vec<u32> {
        let Some(engine) = self.engine.as_mut() else { return Vec::new() };
        let changed = engine.let_go(u64::from(steps), &mut self.sheet);
        pixels_of(&changed, &self.sheet, self.view.looks_around(self.lit))
    }

    /// When time went that was held, for [`Surface::time_as`]; nothing where every step goes when it is due.
    #[wasm_bindgen(js_name = timeWent)]
    pub fn time_went(&self) -> Option<Vec<u32>> {
        self.engine.as_ref().and_then(Engine::time_went)
    }

    /// Lets the sheet's time go in the stroke that was begun as it went when it was drawn.
    #[wasm_bindgen(js_name = timeAs)]
    pub fn time_as(&mut self, went: &[u32]) {
        if let Some(engine) = self.engine.as_mut() {
            engine.time_as(went);
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

    /// Something on the sheet would still move by itself.
    #[wasm_bindgen(getter)]
    pub fn busy(&self) -> bool {
        self.sheet.busy()
    }

    /// Lets so many steps of time go over the sheet; gives what changed, as [`Surface::work`] does.
    pub fn advance(&mut self, steps: u32) -> Vec<u32> {
        self.settle_in();
        let changed = self.sheet.advance(u64::from(steps));
        pixels_of(&changed, &self.sheet, self.view.looks_around(self.lit))
    }

    /// Lets some steps of time go over the sheet; whether nothing on it moves any more.
    #[wasm_bindgen(js_name = restOn)]
    pub fn rest_on(&mut self) -> bool {
        self.settle_in();
        self.sheet.rest_on(u64::MAX, &mut Changed::default())
    }

    /// A sheet is left to rest for so many steps at the most.
    #[wasm_bindgen(getter, js_name = longestRest)]
    pub fn longest_rest(&self) -> u32 {
        saltmarsh_core::sheet::LONGEST_REST as u32
    }

    /// How long a step of time is, s.
    #[wasm_bindgen(getter, js_name = stepS)]
    pub fn step_s(&self) -> f64 {
        saltmarsh_core::sheet::STEP_S
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

    /// Makes the `n`-th piece of what time over the tool's medium needs of that paper; false where there are not so many.
    #[wasm_bindgen(js_name = prepareTime)]
    pub fn prepare_time(&self, tool: &str, n: usize) -> std::result::Result<bool, JsError> {
        let tool = Tool::parse(tool).map_err(|e| refuse(&e))?;
        Ok(tool.medium.prepare(&self.sheet, n))
    }

    /// Makes a piece of what the next step of time needs of the paper; false where it has it all.
    #[wasm_bindgen(js_name = prepareStep)]
    pub fn prepare_step(&self) -> bool {
        self.sheet.prepare_step()
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

    /// Lets all that is wet dry, or makes all that has dried wet again.
    pub fn turn(&mut self, dry: bool) {
        turn_in_place(if dry { Turn::Dry } else { Turn::Wet }, &mut self.sheet);
    }

    /// Lets so many minutes go by: what stays open no longer dries.
    pub fn wait(&mut self, minutes: f64) {
        turn_in_place(Turn::Wait(minutes), &mut self.sheet);
    }

    /// A section through the sheet across the stroke, so long, at the dab nearest to `at_mm` of travel, as JSON, or `null`.
    pub fn section(&self, at_mm: f64, length_mm: f64, count: usize) -> std::result::Result<String, JsError> {
        let dabs = &self.trace.dabs;
        let nearest = (0..dabs.len())
            .min_by(|a, b| (dabs[*a].at_mm - at_mm).abs().total_cmp(&(dabs[*b].at_mm - at_mm).abs()));
        let across = nearest.map(|i| {
            let (before, after) = (&dabs[i.saturating_sub(3)], &dabs[(i + 3).min(dabs.len() - 1)]);
            let way = [after.x_mm - before.x_mm, after.y_mm - before.y_mm];
            let long = libm::hypot(way[0], way[1]).max(1e-9);
            let half = [-way[1] / long * length_mm / 2.0, way[0] / long * length_mm / 2.0];
            let middle = [dabs[i].x_mm, dabs[i].y_mm];
            let at = |sign: f64| [middle[0] + sign * half[0], middle[1] + sign * half[1]];
            view::section(&self.sheet, at(-1.0), at(1.0), count)
        });
        to_json(&across)
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
