//! What a brush of oil costs: 100 mm of fresh paint at 300 dpi, on bare canvas and over a wet film, against a memcpy of the bytes
//! of the strip it paints, in the same run.

use std::rc::Rc;

use saltmarsh_core::ground::{Ground, Surface};
use saltmarsh_core::hand::{Gesture, Hand, Sample};
use saltmarsh_core::medium::paste::blocks::{BAND_VALUES, BODY_UM, FILM_VALUES, FILMS, TOP_UM};
use saltmarsh_core::relief::view::View;
use saltmarsh_core::sheet::{Rect, Sheet};
use saltmarsh_core::stroke::Engine;
use saltmarsh_core::tool::Tool;
use serde::Serialize;

use super::{Clock, PIXEL_MM, median};

/// Runs whose median counts.
const RUNS: usize = 7;
/// Length of the way, mm.
const WAY_MM: f64 = 100.0;
const SPEED_MM_S: f64 = 80.0;
const RATE_HZ: f64 = 125.0;

/// A brush over something.
#[derive(Debug, Serialize)]
pub struct Brush {
    pub what: &'static str,
    /// ms for the stroke, and that over a copy of the painted strip's bytes.
    pub ms: f64,
    pub to_copy: f64,
    /// Million pixels that were painted.
    pub megapixels: f64,
    /// The same on a sheet of 8192² over one of 2048².
    pub large_to_small: f64,
}

/// Straight along the sheet, pressed on over 2 mm.
fn pull() -> Gesture {
    let count = (WAY_MM / SPEED_MM_S * RATE_HZ) as usize;
    let sample = |i: usize| {
        let f = i as f64 / count as f64;
        let pressure = 0.55 * (50.0 * f).min(50.0 * (1.0 - f)).clamp(0.0, 1.0);
        Sample {
            t: i as f64 / RATE_HZ,
            x: 12.0 + WAY_MM * f,
            y: 24.0,
            pressure,
            tilt_x: 0.0,
            tilt_y: 25.0,
            twist: 0.0,
        }
    };
    Gesture::new(vec![(0..=count).map(sample).collect()]).expect("a gesture")
}

fn paint(tool: &Rc<Tool>, gesture: &Gesture, sheet: &mut Sheet) {
    let mut engine = Engine::new(tool.clone(), Hand::default(), sheet).expect("a valid tool");
    for pass in gesture.passes() {
        engine.extend(pass, sheet).expect("a gesture's reports");
        engine.lift(sheet);
    }
}

/// Pixels that hold paint.
fn painted(sheet: &Sheet) -> usize {
    let films = sheet.tiles().filter_map(|t| t.block(&FILMS));
    films.flat_map(|f| f.chunks_exact(FILM_VALUES)).filter(|p| p[TOP_UM] + p[BODY_UM] > 0.0).count()
}

/// Copies as many bytes as paste keeps of so many pixels, both films and their state.
fn copy(pixels: usize, now: Clock<'_>) -> f64 {
    let from = vec![1.0_f32; pixels * (2 * BAND_VALUES + FILM_VALUES)];
    let mut to = vec![0.0_f32; from.len()];
    let time = median(RUNS, || {
        let start = now();
        to.copy_from_slice(&from);
        now() - start
    });
    assert!(to.ends_with(&[1.0]), "the copy was made");
    time
}

/// ms to show 200 × 200 pixels of wet paint under light.
pub fn lit(now: Clock<'_>) -> f64 {
    let flat = Rc::new(
        Tool::parse(include_str!("../../../demo/tools/hog-flat.json")).expect("the demo's tool is valid"),
    );
    let ground = Rc::new(Ground::generated(Surface::CanvasFine));
    let mut sheet = Sheet::new(ground, 2048, 2048, PIXEL_MM, [0.0, 0.0]).expect("a valid sheet");
    paint(&flat, &pull(), &mut sheet);
    let rect = Rect { left: 400, top: 180, right: 600, bottom: 380 };
    median(RUNS, || {
        let start = now();
        let rgba = View::default().rgba(&sheet, rect, true);
        assert!(rgba.len() == 4 * 200 * 200, "it was shown");
        now() - start
    })
}

/// A broad flat and a round, bare and over wet.
pub fn all(now: Clock<'_>) -> Vec<Brush> {
    let demo = |text: &str| Rc::new(Tool::parse(text).expect("the demo's tool is valid"));
    let flat = demo(include_str!("../../../demo/tools/hog-flat.json"));
    let mut round = Tool::clone(&demo(include_str!("../../../demo/tools/hog-round.json")));
    round.parameters.insert("tip.width_mm".into(), saltmarsh_core::chain::Value::Number(5.0));
    let round = Rc::new(round);
    let (ground, gesture) = (Rc::new(Ground::generated(Surface::CanvasFine)), pull());
    let measure = |what: &'static str, tool: &Rc<Tool>, wet: bool| {
        let time = |side: usize| {
            let mut sheet =
                Sheet::new(ground.clone(), side, side, PIXEL_MM, [0.0, 0.0]).expect("a valid sheet");
            paint(&flat, &gesture, &mut sheet);
            let under = sheet.snapshot();
            let ms = median(RUNS, || {
                if wet {
                    sheet.restore(&under);
                } else {
                    sheet.wipe();
                }
                let start = now();
                paint(tool, &gesture, &mut sheet);
                now() - start
            });
            (ms, painted(&sheet))
        };
        let ((ms, pixels), (large, _)) = (time(2048), time(8192));
        let to_copy = ms / copy(pixels, now);
        Brush { what, ms, to_copy, megapixels: pixels as f64 * 1e-6, large_to_small: large / ms }
    };
    vec![
        measure("hog flat 18 mm, bare canvas", &flat, false),
        measure("hog flat 18 mm, over wet", &flat, true),
        measure("hog round 5 mm, bare canvas", &round, false),
        measure("hog round 5 mm, over wet", &round, true),
    ]
}
