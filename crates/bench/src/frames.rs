//! What a frame costs with each action, and with tips of many sizes: reports of 16 ms at a time, as a page hands them on, and work
//! on them for at most as long as a page gives it; the rest is for the frames after.

use std::rc::Rc;

use saltmarsh_core::chain::Value;
use saltmarsh_core::ground::Ground;
use saltmarsh_core::hand::Hand;
use saltmarsh_core::image::Grey;
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::{Engine, under};
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::Tool;
use serde::Serialize;

use super::{Clock, PIXEL_MM, wander};

/// Reports in a frame of 16 ms at 125 Hz.
const IN_FRAME: usize = 2;
/// How long the engine may work for one frame, ms, and pixels between two looks at the clock: as on the Bench.
const FRAME_WORK_MS: f64 = 9.0;
const PIECE_PIXELS: usize = 8192;
const RATE_HZ: f64 = 125.0;
const SECONDS: f64 = 6.0;

/// A tool's frames.
#[derive(Debug, Serialize)]
pub struct Frames {
    pub what: &'static str,
    /// Pixels under the tip, mean over dabs.
    pub footprint_px: f64,
    pub ns_per_pixel: f64,
    /// ms of a frame.
    pub p50: f64,
    pub p95: f64,
    /// Frames until everything heard is laid, p95.
    pub late: f64,
}

/// Every action, and tips of 2, 60 and 400 pixels.
pub fn all(ground: &Rc<Ground>, now: Clock<'_>) -> Vec<Frames> {
    let demo = |text: &str| Tool::parse(text).expect("the demo's tool is valid");
    let round = |px: f64| {
        let mut tool = demo(include_str!("../../../demo/tools/vine-charcoal-side.json"));
        tool.responses.clear();
        let mm = px * PIXEL_MM;
        for (id, v) in [
            ("tip.width_mm", mm),
            ("tip.side_mm", 0.0),
            ("touch.force_gf", (4.0 * mm * mm).clamp(1.0, 1500.0)),
        ] {
            tool.parameters.insert(id.into(), Value::Number(v));
        }
        tool
    };
    let bristles = |text: &str, mm: f64| {
        let mut tool = demo(text);
        tool.parameters.insert("tip.width_mm".into(), Value::Number(mm));
        tool
    };
    let mut shelf = Shelf::default();
    let image = Grey::new(
        512,
        512,
        (0..512 * 512_u32).map(|i| (i.wrapping_mul(2_654_435_761) >> 16) as u16).collect(),
    );
    let hash = shelf.images.add(image.expect("an image"));
    let mut stamped = round(400.0);
    stamped.parameters.insert("tip.shape".into(), Value::Choice("image".into()));
    stamped.parameters.insert("tip.image".into(), Value::Choice(hash));
    let cases = [
        ("lay: vine charcoal, side", demo(include_str!("../../../demo/tools/vine-charcoal-side.json"))),
        ("blend: finger", demo(include_str!("../../../demo/tools/finger.json"))),
        ("lift: kneaded eraser", demo(include_str!("../../../demo/tools/kneaded-eraser.json"))),
        ("cut: hard eraser", demo(include_str!("../../../demo/tools/hard-eraser.json"))),
        ("lay: round tip, 2 px", round(2.0)),
        ("lay: round tip, 60 px", round(60.0)),
        ("lay: round tip, 400 px", round(400.0)),
        ("lay: image tip, 400 px", stamped),
        ("lay: hog round 5 mm, oil", bristles(include_str!("../../../demo/tools/hog-round.json"), 5.0)),
        ("lay: hog flat 18 mm, oil", bristles(include_str!("../../../demo/tools/hog-flat.json"), 18.0)),
    ];
    cases.into_iter().map(|(what, tool)| frames(what, Rc::new(tool), ground, &shelf, now)).collect()
}

fn frames(what: &'static str, tool: Rc<Tool>, ground: &Rc<Ground>, shelf: &Shelf, now: Clock<'_>) -> Frames {
    let mut sheet = Sheet::new(ground.clone(), 1200, 1200, PIXEL_MM, [0.0, 0.0]).expect("a valid sheet");
    under::lay_in_place(&tool.medium.unders(tool.action)[0], &mut sheet).expect("a bed");
    // At about 90 mm/s.
    let samples = wander((SECONDS * RATE_HZ) as usize, RATE_HZ, [50.0, 40.0], [1.7, 2.3], 60.0);
    let (mut times, mut late) = (Vec::new(), Vec::new());
    let mut rest = 0.0;
    let mut trace = None;
    // The first run makes the ground's tiles; the second is measured.
    for measured in [false, true] {
        let mut engine =
            Engine::with(tool.clone(), Hand::default(), &sheet, shelf, None).expect("a valid tool");
        for chunk in samples.chunks(IN_FRAME) {
            let start = now();
            engine.hear(chunk).expect("reports within their limits");
            while engine.waits() && now() - start < FRAME_WORK_MS {
                engine.work(PIECE_PIXELS, &mut sheet);
            }
            if measured {
                times.push(now() - start);
                late.push(if engine.waits() { 1.0 + late.last().copied().unwrap_or(0.0) } else { 0.0 });
            }
        }
        let start = now();
        engine.lift(&mut sheet);
        rest = now() - start;
        trace = Some(engine.into_trace());
    }
    let dabs = trace.map(|t| t.dabs).unwrap_or_default();
    let pixels: f64 = dabs.iter().map(|d| d.area_mm2 / (PIXEL_MM * PIXEL_MM)).sum();
    let total = times.iter().sum::<f64>() + rest;
    times.sort_by(f64::total_cmp);
    late.sort_by(f64::total_cmp);
    let at = |sorted: &[f64], share: f64| sorted[((sorted.len() - 1) as f64 * share) as usize];
    Frames {
        what,
        footprint_px: pixels / dabs.len() as f64,
        ns_per_pixel: total * 1e6 / pixels,
        p50: at(&times, 0.5),
        p95: at(&times, 0.95),
        late: at(&late, 0.95),
    }
}
