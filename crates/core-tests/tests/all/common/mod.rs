//! What several test files build on: the demo's tools and gestures, straight pulls, and sheets.
#![allow(dead_code)] // each test file uses its own part
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

pub mod oil;

use std::collections::{BTreeMap, HashMap};
use std::path::Path;
use std::rc::Rc;
use std::sync::Mutex;

use saltmarsh_core::chain::{Action, Value};
use saltmarsh_core::ground::{Ground, Recipe, Surface};
use saltmarsh_core::hand::Hand;
use saltmarsh_core::hand::{Gesture, Sample};
use saltmarsh_core::image::Images;
use saltmarsh_core::medium::MediumName;
use saltmarsh_core::medium::dry::blocks::{HELD, LAYER, LOOSE, POWDER};
use saltmarsh_core::relief::flat;
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::{self, Engine, Trace};
use saltmarsh_core::tool::Tool;

fn demo(path: &str) -> String {
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo").join(path);
    std::fs::read_to_string(&file).unwrap_or_else(|e| panic!("{}: {e}", file.display()))
}

pub fn demo_tool(name: &str) -> Tool {
    Tool::parse(&demo(&format!("tools/{name}.json"))).expect("a demo tool is valid")
}

/// All tools of the demo by name.
pub fn demo_tools() -> HashMap<String, Tool> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/tools");
    let files = std::fs::read_dir(folder).expect("the demo has tools").map(|f| f.expect("a file").path());
    let tools =
        files.map(|f| Tool::parse(&std::fs::read_to_string(f).expect("a text")).expect("a valid tool"));
    tools.map(|t| (t.name.clone(), t)).collect()
}

pub fn demo_gesture(name: &str) -> Gesture {
    let document = saltmarsh_formats::inkml::read(&demo(&format!("gestures/{name}.inkml"))).expect("InkML");
    saltmarsh_formats::inkml::to_gesture(&document).expect("a gesture")
}

pub const PROOF: [&str; 6] = ["press-ramp", "slow-pull", "flicks", "hatching", "scrub", "lean-fan"];

/// A tool without responses: every quality is its own value, so that a test can set each by name.
pub fn plain_tool(parameters: &[(&str, f64)]) -> Tool {
    let mut tool = Tool::parse(
        r#"{"format": "saltmarsh.tool", "version": 1, "name": "plain", "medium": "dry", "action": "lay"}"#,
    )
    .expect("the least document is valid");
    for (id, value) in parameters {
        tool.parameters.insert((*id).to_owned(), Value::Number(*value));
    }
    tool.check().expect("test parameters are in range");
    tool
}

pub fn set(tool: &mut Tool, id: &str, value: Value) {
    tool.parameters.insert(id.to_owned(), value);
    tool.check().expect("test parameters are in range");
}

/// A hand whose signals are functions of time, reported `rate_hz` times a second for `seconds`.
pub fn hand_drawn(rate_hz: f64, seconds: f64, at: impl Fn(f64) -> Sample) -> Gesture {
    let count = (seconds * rate_hz).round() as usize;
    Gesture::new(vec![(0..=count).map(|i| at(i as f64 / rate_hz)).collect()]).expect("a valid gesture")
}

/// An upright pen pulled straight at 60 mm/s.
pub fn pull(from: [f64; 2], to: [f64; 2], pressure: f64) -> Gesture {
    let length = (to[0] - from[0]).hypot(to[1] - from[1]);
    let seconds = length / 60.0;
    hand_drawn(120.0, (seconds * 120.0).ceil() / 120.0, |t| {
        let f = (t / seconds).min(1.0);
        Sample {
            t,
            x: from[0] + (to[0] - from[0]) * f,
            y: from[1] + (to[1] - from[1]) * f,
            pressure,
            tilt_x: 0.0,
            tilt_y: 0.0,
            twist: 0.0,
        }
    })
}

/// A sheet of `[width, height]` mm with its corner at the ground's origin.
pub fn sheet(ground: &Rc<Ground>, size_mm: [f64; 2], pixel_mm: f64) -> Sheet {
    let px = |mm: f64| (mm / pixel_mm).round() as usize;
    Sheet::new(ground.clone(), px(size_mm[0]), px(size_mm[1]), pixel_mm, [0.0, 0.0]).expect("a valid sheet")
}

pub fn ground(paper: Surface) -> Rc<Ground> {
    ground_of(&Recipe::of(paper))
}

/// What grounds are made of, by their keys.
static MADE: Mutex<BTreeMap<String, Vec<u8>>> = Mutex::new(BTreeMap::new());

/// A ground without images; what it takes to begin it is made once for all tests.
pub fn ground_of(recipe: &Recipe) -> Rc<Ground> {
    let images = Images::default();
    let made = MADE.lock().expect("no test ends within").get(&recipe.key()).cloned();
    let ground = match made {
        Some(stored) => Ground::from_stored(recipe, &images, &stored),
        None => Ground::new(recipe, &images),
    };
    let ground = ground.expect("a ground that needs no image");
    if ground.made() > 0 {
        MADE.lock().expect("no test ends within").insert(recipe.key(), ground.stored(usize::MAX));
    }
    Rc::new(ground)
}

pub fn draw(tool: &Tool, gesture: &Gesture, sheet: &mut Sheet) -> Trace {
    stroke::run(tool, &Hand::default(), gesture, sheet).expect("the tool is valid")
}

/// As [`draw`], not left to rest.
pub fn draw_wet(tool: &Tool, gesture: &Gesture, sheet: &mut Sheet) -> Trace {
    let mut engine = Engine::new(Rc::new(tool.clone()), Hand::default(), sheet).expect("a valid tool");
    for pass in gesture.passes() {
        engine.extend(pass, sheet).expect("a gesture");
        engine.lift(sheet);
    }
    engine.into_trace()
}

/// Values of a dry pixel, if powder was ever laid in its tile.
pub fn dry_pixel(sheet: &Sheet, x: usize, y: usize) -> Option<&[f32]> {
    sheet.pixel(&POWDER, x, y)
}

/// What lies on top of a dry pixel; nothing where only one powder lies in the tile.
pub fn top_pixel(sheet: &Sheet, x: usize, y: usize) -> Option<&[f32]> {
    sheet.pixel(&LAYER, x, y)
}

/// Lays the bed of charcoal that tools act on which move powder.
pub fn bed(sheet: &mut Sheet) {
    let unders = MediumName::named("dry").expect("dry").unders(Action::Blend);
    let charcoal = unders.iter().find(|u| u.id == "charcoal").expect("a bed");
    stroke::under::lay_in_place(charcoal, sheet).expect("a bed");
}

/// Powder in µm over a window of pixels `[left, top, right, bottom]`, row by row.
pub fn powder(sheet: &Sheet, [left, top, right, bottom]: [usize; 4]) -> Vec<f64> {
    let mut out = Vec::new();
    for y in top..bottom {
        for x in left..right {
            out.push(dry_pixel(sheet, x, y).map_or(0.0, |p| f64::from(p[HELD] + p[LOOSE])));
        }
    }
    out
}

/// Linear light of an sRGB level (IEC 61966-2-1), 0..1.
pub fn linear(level: u8) -> f64 {
    let e = f64::from(level) / 255.0;
    if e <= 0.04045 { e / 12.92 } else { ((e + 0.055) / 1.055).powf(2.4) }
}

pub fn mean(values: &[f64]) -> f64 {
    values.iter().sum::<f64>() / values.len() as f64
}

/// Mean and largest difference of two pictures per channel, in levels of 255.
pub fn differences(a: &[u8], b: &[u8]) -> (f64, u8) {
    assert_eq!(a.len(), b.len(), "pictures of one size");
    let (mut sum, mut worst, mut count) = (0.0, 0, 0.0);
    for (pa, pb) in a.chunks_exact(4).zip(b.chunks_exact(4)) {
        for c in 0..3 {
            sum += f64::from(pa[c].abs_diff(pb[c]));
            worst = worst.max(pa[c].abs_diff(pb[c]));
            count += 1.0;
        }
    }
    (sum / count, worst)
}

pub fn picture(sheet: &Sheet) -> Vec<u8> {
    flat::rgba(sheet)
}

/// Passes one after the other: their clocks moved on.
#[allow(dead_code)] // not every test file draws several passes
pub fn in_turn(passes: impl Iterator<Item = Vec<Sample>>) -> Vec<Vec<Sample>> {
    let mut clock = 0.0;
    passes
        .map(|pass| {
            let moved: Vec<Sample> = pass.iter().map(|s| Sample { t: s.t + clock, ..*s }).collect();
            clock = moved.last().map_or(clock, |s| s.t) + 0.3;
            moved
        })
        .collect()
}
