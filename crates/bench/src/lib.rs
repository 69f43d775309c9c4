//! What a dab costs, against two yardsticks in the same run on the same footprints: a plain alpha stamp by tiny-skia, and
//! a memcpy of the bytes touched. The clock is handed in, so that the same code runs natively and in the browser.

pub mod brushes;
mod frames;
pub mod washes;

use std::rc::Rc;

use saltmarsh_core::ground::{Ground, Surface};
use saltmarsh_core::hand::Hand;
use saltmarsh_core::hand::{Gesture, Sample, angles};
use saltmarsh_core::medium::dry::blocks::{POWDER, POWDER_VALUES};
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::{DabTrace, Engine};
use saltmarsh_core::tool::Tool;
use serde::Serialize;
use tiny_skia::{Color, FillRule, Paint, Path, PathBuilder, Pixmap, PixmapPaint, Transform};
use wasm_bindgen::prelude::*;

/// 300 dpi.
const PIXEL_MM: f64 = 25.4 / 300.0;
/// Runs whose median counts.
const RUNS: usize = 9;

const CHARCOAL: &str = include_str!("../../../demo/tools/vine-charcoal-side.json");

/// A clock in ms.
pub type Clock<'a> = &'a dyn Fn() -> f64;

/// Figures of one run. Times in ms for the whole stroke, memory in bytes.
#[derive(Debug, Serialize)]
pub struct Figures {
    /// Mean length of a footprint, and all their pixels together.
    pub footprint_px: f64,
    pub pixels: f64,
    pub dabs: usize,
    pub dry: f64,
    pub stamp: f64,
    pub copy: f64,
    pub ns_per_pixel: f64,
    /// Dry dabs over stamps, and over copies.
    pub to_stamp: f64,
    pub to_copy: f64,
    /// The same stroke on a sheet of 8192² over one of 2048².
    pub large_to_small: f64,
    pub bytes_per_painted_megapixel: f64,
    /// A snapshot of a sheet of 2048² that is painted all over.
    pub snapshot: f64,
    /// Making the paper under the stroke, first time.
    pub paper: f64,
    /// Frames of each action and of tips of many sizes.
    pub frames: Vec<frames::Frames>,
    /// Showing a part of oil.
    pub lit: f64,
}

/// The measures as JSON, for the browser. `now` gives ms.
#[wasm_bindgen(js_name = measure)]
pub fn measure_in_browser(now: &Now) -> Result<String, JsError> {
    told(&measure(&|| now.now()))
}

/// Oil, and steps of water, by themselves: they are measured in turn with the native program.
#[wasm_bindgen(js_name = brushes)]
pub fn brushes_in_browser(now: &Now) -> Result<String, JsError> {
    told(&brushes::all(&|| now.now()))
}

#[wasm_bindgen(js_name = washes)]
pub fn washes_in_browser(now: &Now) -> Result<String, JsError> {
    told(&washes::all(&|| now.now()))
}

fn told(figures: &impl Serialize) -> Result<String, JsError> {
    serde_json::to_string(figures).map_err(|e| JsError::new(&e.to_string()))
}

#[wasm_bindgen]
extern "C" {
    /// Something with a clock: `performance`.
    pub type Now;
    #[wasm_bindgen(method)]
    fn now(this: &Now) -> f64;
}

/// Measures everything but brushes and washes.
pub fn measure(now: Clock<'_>) -> Figures {
    let tool = Rc::new(Tool::parse(CHARCOAL).expect("the demo's tool is valid"));
    let ground = Rc::new(Ground::generated(Surface::ColdPressed));
    // Over the whole sheet with the stick's side down: footprints about 60 pixels long.
    let way = wander(1200, 200.0, [86.0, 70.0], [0.9, 1.3], 64.0);
    let gesture = Gesture::new(vec![way]).expect("a valid gesture");
    let sheet =
        |side: usize| Sheet::new(ground.clone(), side, side, PIXEL_MM, [0.0, 0.0]).expect("a valid sheet");
    let stroke = |sheet: &mut Sheet| {
        let mut engine = Engine::new(tool.clone(), Hand::default(), sheet).expect("a valid tool");
        for pass in gesture.passes() {
            engine.extend(pass, sheet).expect("a gesture's reports");
            engine.lift(sheet);
        }
        engine.into_trace().dabs
    };

    let mut small = sheet(2048);
    let start = now();
    let dabs = stroke(&mut small);
    let first = now() - start;

    let time = |side: usize| {
        let mut sheet = sheet(side);
        stroke(&mut sheet);
        median(RUNS, || {
            sheet.wipe();
            let start = now();
            stroke(&mut sheet);
            now() - start
        })
    };
    let (dry, large) = (time(2048), time(8192));
    let pixels: f64 = dabs.iter().map(|d| d.area_mm2 / (PIXEL_MM * PIXEL_MM)).sum();
    let stamp = stamps(&dabs, now);
    let copy = copies(&dabs, now);
    Figures {
        footprint_px: dabs.iter().map(|d| d.length_mm).sum::<f64>() / dabs.len() as f64 / PIXEL_MM,
        pixels,
        dabs: dabs.len(),
        dry,
        stamp,
        copy,
        ns_per_pixel: dry * 1e6 / pixels,
        to_stamp: dry / stamp,
        to_copy: dry / copy,
        large_to_small: large / dry,
        bytes_per_painted_megapixel: painted(&ground, 1024).bytes() as f64 / (1024.0 * 1024.0) * 1e6,
        snapshot: snapshot(&painted(&ground, 2048), now),
        paper: first - dry,
        frames: frames::all(&ground, now),
        lit: brushes::lit(now),
    }
}

/// A hand that wanders around a `middle` within a `reach`, mm, turning by `turns` rad/s along each axis, reported at `rate_hz`.
fn wander(
    count: usize,
    rate_hz: f64,
    [middle, reach]: [f64; 2],
    turns: [f64; 2],
    tilt_deg: f64,
) -> Vec<Sample> {
    let (tilt_x, tilt_y) = angles::to_tilt(tilt_deg.to_radians(), 1.2);
    let sample = |i: usize| {
        let t = i as f64 / rate_hz;
        Sample {
            t,
            x: middle + reach * libm::sin(turns[0] * t),
            y: middle + reach * libm::cos(turns[1] * t),
            pressure: 0.5 + 0.3 * libm::sin(2.1 * t),
            tilt_x,
            tilt_y,
            twist: 0.0,
        }
    };
    (0..count).map(sample).collect()
}

fn median(runs: usize, mut run: impl FnMut() -> f64) -> f64 {
    let mut times: Vec<f64> = (0..runs).map(|_| run()).collect();
    times.sort_by(f64::total_cmp);
    times[runs / 2]
}

/// The outline of a footprint around the origin: a bar with round ends.
fn outline(dab: &DabTrace) -> Path {
    let (w, l) = ((dab.width_mm / PIXEL_MM) as f32 * 0.5, (dab.length_mm / PIXEL_MM) as f32 * 0.5);
    let mut path = PathBuilder::new();
    // A quarter circle by a cubic.
    let k = 0.552_284_8 * w;
    let side = (l - w).max(0.0);
    path.move_to(-side, -w);
    path.line_to(side, -w);
    path.cubic_to(side + k, -w, side + w, -k, side + w, 0.0);
    path.cubic_to(side + w, k, side + k, w, side, w);
    path.line_to(-side, w);
    path.cubic_to(-side - k, w, -side - w, k, -side - w, 0.0);
    path.cubic_to(-side - w, -k, -side - k, -w, -side, -w);
    path.close();
    path.finish().expect("an outline")
}

/// A stamp of the mean footprint, made once, drawn half covering at every dab.
fn stamps(dabs: &[DabTrace], now: Clock<'_>) -> f64 {
    let middle = &dabs[dabs.len() / 2];
    let turned =
        outline(middle).transform(Transform::from_rotate(middle.angle_deg as f32)).expect("a turned outline");
    let bounds = turned.bounds();
    let (w, h) = (bounds.width().ceil() as u32 + 2, bounds.height().ceil() as u32 + 2);
    let mut stamp = Pixmap::new(w, h).expect("a stamp");
    let mut paint = Paint::default();
    paint.set_color(Color::from_rgba8(30, 30, 30, 128));
    let place = Transform::from_translate(w as f32 * 0.5, h as f32 * 0.5);
    stamp.fill_path(&turned, &paint, FillRule::Winding, place, None);
    let mut page = Pixmap::new(2048, 2048).expect("a page");
    // Pixels of stamp and of footprints are not quite the same: the time is for as many as the footprints have.
    let covered = stamp.pixels().iter().filter(|p| p.alpha() > 0).count() as f64 * dabs.len() as f64;
    let wanted: f64 = dabs.iter().map(|d| d.area_mm2 / (PIXEL_MM * PIXEL_MM)).sum();
    let time = median(RUNS, || {
        page.fill(Color::WHITE);
        let start = now();
        for d in dabs {
            let (x, y) = ((d.x_mm / PIXEL_MM) as i32, (d.y_mm / PIXEL_MM) as i32);
            let (x, y) = (x - w as i32 / 2, y - h as i32 / 2);
            page.draw_pixmap(x, y, stamp.as_ref(), &PixmapPaint::default(), Transform::identity(), None);
        }
        now() - start
    });
    time * wanted / covered
}

/// A copy of the bytes that the dabs touch: a dry pixel's values for every footprint pixel, row by row.
fn copies(dabs: &[DabTrace], now: Clock<'_>) -> f64 {
    let row = 2048 * POWDER_VALUES;
    let mut page = vec![1.0_f32; 256 * row];
    let from = vec![2.0_f32; row];
    let time = median(RUNS, || {
        let start = now();
        for d in dabs {
            let height = (d.length_mm.min(8.0) / PIXEL_MM) as usize;
            let width = (d.area_mm2 / (PIXEL_MM * PIXEL_MM) / height as f64).round() as usize * POWDER_VALUES;
            let left = ((d.x_mm / PIXEL_MM) as usize).min(1900) * POWDER_VALUES;
            let top = (d.y_mm / PIXEL_MM) as usize % 128;
            for y in top..top + height {
                page[y * row + left..][..width].copy_from_slice(&from[left..][..width]);
            }
        }
        now() - start
    });
    assert!(page.contains(&2.0), "the copies were made");
    time
}

/// A sheet whose every pixel has powder.
fn painted(ground: &Rc<Ground>, side: usize) -> Sheet {
    let mut sheet = Sheet::new(ground.clone(), side, side, PIXEL_MM, [0.0, 0.0]).expect("a valid sheet");
    for ty in 0..sheet.down() {
        for tx in 0..sheet.across() {
            sheet.tile_in_place(tx, ty).make_in_place(&POWDER);
        }
    }
    sheet
}

/// Time of a snapshot, ms: a mean of many, for clocks that are coarse.
fn snapshot(sheet: &Sheet, now: Clock<'_>) -> f64 {
    const MANY: usize = 100;
    median(RUNS, || {
        let start = now();
        for _ in 0..MANY {
            std::hint::black_box(sheet.snapshot());
        }
        (now() - start) / MANY as f64
    })
}
