//! A medium that exists to be tested: what it lays creeps on while the hand rests, and dries. It proves that time goes over a sheet
//! in the same steps wherever and however a stroke is worked off: the same natively and in the browser.

use std::rc::Rc;

use saltmarsh_core::ground::{Ground, Surface};
use saltmarsh_core::hand::{Hand, Sample};
use saltmarsh_core::medium::{Acting, At, Balance, Carried, Mark, Next};
use saltmarsh_core::sheet::{Changed, Clock, Layout, Sheet, TILE, Tile};
use saltmarsh_core::stroke::Engine;
use saltmarsh_core::tool::Tool;
use wasm_bindgen::prelude::*;

/// Wet and dried height of a pixel, µm.
const WET: usize = 0;
const DRIED: usize = 1;
/// What is laid at a contact, and what no longer moves, µm.
const LAID_UM: f32 = 8.0;
const STILL_UM: f32 = 0.25;
/// Of what is wet, the share that creeps to the right and that dries, in a step.
const CREEPS: f32 = 0.125;
const DRIES: f32 = 0.03;

/// What creeps.
pub static CREEPING: Layout = Layout {
    name: "creeping",
    order: 200,
    values: 2,
    planes: false,
    beside: 0,
    material: 0..2,
    tells: false,
    fresh: &[WET],
    dried: &[DRIED],
    dries_at: None,
    clock: Some(&Creep),
};

/// How it creeps: to the right, over the borders of tiles.
pub struct Creep;

/// Whether anything of a tile still moves.
fn wet(tile: &Tile) -> bool {
    tile.block(&CREEPING).is_some_and(|b| b.chunks_exact(2).any(|p| p[WET] > STILL_UM))
}

impl Clock for Creep {
    fn busy(&self, sheet: &Sheet) -> bool {
        sheet.tiles().any(wet)
    }

    fn step_in_place(&self, sheet: &mut Sheet, changed: &mut Changed) {
        let (across, down) = (sheet.across(), sheet.down());
        let busy: Vec<(usize, usize)> = (0..down)
            .flat_map(|ty| (0..across).map(move |tx| (tx, ty)))
            .filter(|(tx, ty)| sheet.tile(*tx, *ty).is_some_and(wet))
            .collect();
        for (tx, ty) in busy {
            let mut over = [0.0; TILE];
            for (row, over) in sheet
                .tile_in_place(tx, ty)
                .block_in_place(&CREEPING)
                .chunks_exact_mut(2 * TILE)
                .zip(&mut over)
            {
                let mut coming = 0.0;
                for pixel in row.chunks_exact_mut(2) {
                    let (creeps, dries) = if pixel[WET] > STILL_UM {
                        (CREEPS * pixel[WET], DRIES * pixel[WET])
                    } else {
                        (0.0, pixel[WET])
                    };
                    pixel[WET] += coming - creeps - dries;
                    pixel[DRIED] += dries;
                    coming = creeps;
                }
                *over = coming;
            }
            changed.tile((tx, ty), [0, 0, TILE, TILE]);
            if tx + 1 < across && over.iter().any(|v| *v > 0.0) {
                let next = sheet.tile_in_place(tx + 1, ty).block_in_place(&CREEPING);
                next.chunks_exact_mut(2 * TILE).zip(over).for_each(|(row, v)| row[WET] += v);
                changed.tile((tx + 1, ty), [0, 0, 1, TILE]);
            }
        }
    }
}

/// What lays it: a drop at every mm.
#[derive(Default)]
pub struct Dripping {
    open: Option<[usize; 2]>,
    drops: usize,
}

impl Acting for Dripping {
    fn paint_left(&self) -> f64 {
        1.0
    }

    fn open(&mut self, at: &At, sheet: &Sheet) -> Next {
        let origin = sheet.raster().origin_mm;
        let place = [at.place.x - origin[0], at.place.y - origin[1]].map(|mm| mm / sheet.pixel_mm());
        let inside = place[0] >= 0.0
            && place[1] >= 0.0
            && place[0] < sheet.width() as f64
            && place[1] < sheet.height() as f64;
        self.open = inside.then(|| place.map(|v| v as usize));
        Next { spacing_mm: 1.0, along_mm: 1.0 }
    }

    fn work(&mut self, _: &At, sheet: &mut Sheet, changed: &mut Changed) -> Option<usize> {
        let [x, y] = self.open.take()?;
        sheet.wind(&CREEPING);
        let block = sheet.tile_in_place(x / TILE, y / TILE).block_in_place(&CREEPING);
        block[2 * ((y % TILE) * TILE + x % TILE) + WET] += LAID_UM;
        changed.tile((x / TILE, y / TILE), [x % TILE, y % TILE, x % TILE + 1, y % TILE + 1]);
        self.drops += 1;
        Some(1)
    }

    fn close(&mut self) -> Mark {
        Mark {
            x_mm: 0.0,
            y_mm: 0.0,
            length_mm: 1.0,
            width_mm: 1.0,
            angle_deg: 0.0,
            area_mm2: 1.0,
            travel_mm: 1.0,
            values: Vec::new(),
        }
    }

    fn end_pass(&mut self, _: f64, _: &mut Sheet, _: &mut Changed) {}

    fn carried(&self) -> Carried {
        Carried { travel_mm: 0.0, inside: Rc::new(()) }
    }

    fn balance(&self) -> Balance {
        Balance::default()
    }
}

/// The document of any tool: only its seed and steadying are read.
const TOOL: &str =
    r#"{"format": "saltmarsh.tool", "version": 2, "name": "trial", "medium": "dry", "action": "lay"}"#;

/// Two strokes with a wait between them, the pen resting in the middle of the first.
pub fn hand() -> Vec<Vec<Sample>> {
    let sample =
        |t: f64, x: f64, y: f64| Sample { t, x, y, pressure: 0.5, tilt_x: 0.0, tilt_y: 0.0, twist: 0.0 };
    let first = (0..60).map(|i| {
        let t = f64::from(i) * 0.01;
        // It stops from 0.2 to 0.4 s.
        let way = if t < 0.2 { t } else { 0.2 + (t - 0.4).max(0.0) };
        sample(t, 2.0 + 40.0 * way, 3.0 + 2.0 * t)
    });
    let second = (0..40).map(|i| sample(1.1 + f64::from(i) * 0.013, 2.0 + 0.5 * f64::from(i), 8.0));
    vec![first.collect(), second.collect()]
}

/// Lays it on a sheet, `batch` reports and `pixels` of work at a time, and lets it rest for `rest` steps: its checksum, and how many
/// steps of time went over it.
pub fn laid(batch: usize, pixels: usize, rest: u64) -> (String, u64) {
    let ground = Rc::new(Ground::generated(Surface::HotPressed));
    let mut sheet = Sheet::new(ground, 200, 100, 0.125, [0.0, 0.0]).expect("a valid sheet");
    let tool = Rc::new(Tool::parse(TOOL).expect("a valid tool"));
    let acting = Box::<Dripping>::default();
    let mut engine = Engine::acting(tool, Hand::default(), acting, &[]).expect("a valid hand");
    for pass in hand() {
        for reports in pass.chunks(batch.max(1)) {
            engine.hear(reports).expect("reports within their limits");
            engine.work(pixels, &mut sheet);
        }
        engine.hear_lift();
    }
    while engine.waits() {
        engine.work(pixels, &mut sheet);
    }
    sheet.advance(rest);
    (sheet.checksum(), sheet.steps())
}

/// The checksum, for the browser.
#[wasm_bindgen(js_name = laid)]
pub fn laid_in_browser(batch: usize, pixels: usize, rest: u32) -> String {
    laid(batch, pixels, u64::from(rest)).0
}

#[cfg(test)]
mod tests {
    use super::*;
    use saltmarsh_core::sheet::STEP_S;

    #[test]
    fn time_goes_over_a_sheet_in_the_same_steps_however_a_stroke_is_batched() {
        let (whole, steps) = laid(usize::MAX, usize::MAX, 30);
        // From the first report to the last, waits and rests included, and what it was let rest for.
        let newest = hand().into_iter().flatten().last().expect("reports").t;
        assert_eq!(steps, (newest / STEP_S) as u64 + 30);
        for batch in [1, 2, 7, 25] {
            for pixels in [1, 3, 1000] {
                assert_eq!(
                    laid(batch, pixels, 30),
                    (whole.clone(), steps),
                    "{batch} reports, {pixels} pixels at a time"
                );
            }
        }
        assert_ne!(laid(7, 1000, 31).0, whole, "a step more is another sheet");
    }

    #[test]
    fn what_creeps_is_kept_comes_to_rest_and_is_ground_when_it_has_dried() {
        let ground = Rc::new(Ground::generated(Surface::HotPressed));
        let mut sheet = Sheet::new(ground, 200, 64, 0.125, [0.0, 0.0]).expect("a valid sheet");
        sheet.wind(&CREEPING);
        sheet.tile_in_place(0, 0).block_in_place(&CREEPING)[2 * (10 * TILE + 60) + WET] = 40.0;
        let sum = |sheet: &Sheet| -> f32 { sheet.tiles().filter_map(|t| t.block(&CREEPING)).flatten().sum() };
        let (before, snapshot) = (sum(&sheet), sheet.snapshot());
        assert!(sheet.busy());
        let changed = sheet.advance(10_000);
        assert!(!sheet.busy(), "it comes to rest");
        assert!((sum(&sheet) / before - 1.0).abs() < 1e-4, "nothing is lost: {} of {before}", sum(&sheet));
        assert!(
            sheet.tile(1, 0).is_some_and(|t| t.dried_version() > 0),
            "it crept into the next tile and dried there"
        );
        assert_eq!(changed.rects().count(), 2, "and both are told");
        let mut um = vec![0.0; TILE * TILE];
        sheet.tile(0, 0).expect("a tile").dried_in_place(&mut um);
        assert!(um[10 * TILE + 60] > 1.0, "what has dried is ground: {} µm", um[10 * TILE + 60]);
        // A snapshot is not touched by what comes after it.
        sheet.restore(&snapshot);
        assert_eq!(sum(&sheet), before);
        assert!(sheet.busy());
    }
}
