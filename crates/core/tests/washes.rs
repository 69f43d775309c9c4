//! Wet brushes: every ready tool lays what it says, nothing is lost, and the same hand gives the same sheet however it is worked.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

mod common;

use std::rc::Rc;

use common::{demo_tool, demo_tools, draw_wet, pull};
use saltmarsh_core::chain::{Action, Qualities, Value};
use saltmarsh_core::describe::figures;
use saltmarsh_core::ground::Ground;
use saltmarsh_core::hand::{Gesture, Hand};
use saltmarsh_core::image::Images;
use saltmarsh_core::medium::wash::blocks::{WATER, water_mm3};
use saltmarsh_core::medium::{Care, Turn, turn_in_place};
use saltmarsh_core::sheet::{Sheet, Surroundings, TILE};
use saltmarsh_core::stroke::{Engine, under};
use saltmarsh_core::tool::Tool;

const PIXEL_MM: f64 = 0.25;

fn sheet_for(tool: &Tool) -> Sheet {
    let ground = Ground::new(&tool.ground, &Images::default()).expect("a ground");
    Sheet::new(Rc::new(ground), 240, 100, PIXEL_MM, [0.0; 2]).expect("a sheet")
}

fn along() -> Gesture {
    pull([10.0, 12.5], [50.0, 12.5], 0.6)
}

fn wet_tools() -> Vec<(String, Tool)> {
    demo_tools().into_iter().filter(|(_, t)| t.medium.name() == "wash").collect()
}

#[test]
fn every_ready_wet_tool_does_its_work_and_nothing_is_lost() {
    let tools = wet_tools();
    assert!(tools.len() >= 14, "{} ready tools", tools.len());
    for (name, tool) in tools {
        let mut s = sheet_for(&tool);
        if tool.action != Action::Lay {
            let bed = tool.medium.under(tool.action, None).expect("what it is shown on");
            under::lay_in_place(&bed, &mut s).expect("it is laid");
        }
        let before = tool.medium.on_sheet(&s);
        let trace = draw_wet(&tool, &along(), &mut s);
        assert!(trace.dabs.len() > 2, "{name} touches");
        let column = |id: &str| trace.dabs.iter().map(|d| trace.value(d, id)).sum::<f64>();
        if tool.action != Action::Lift {
            assert!(column("water_um") > 0.0 && water_mm3(&s) > 0.0, "{name} wets the paper");
        } else {
            assert!(column("lifted_nm") >= 0.0);
        }
        let gained = tool.medium.on_sheet(&s) - before;
        let told = trace.balance.gained();
        let scale = trace.balance.brought.mm3.max(before.mm3);
        assert!(
            (gained.mm3 - told.mm3).abs() < 1e-4 * scale,
            "{name}: {} mm³, told {}",
            gained.mm3,
            told.mm3
        );
        // What is asked of any tool on its screens.
        assert!(figures::ground(&tool, s.ground()).texture.sq_um > 0.0);
        tool.medium.held(&tool.settings(), None);
        // The outline at the pen is what wets: drops fall where they will.
        if name != "Spatter" {
            let dab = trace.nearest(20.0).expect("a dab");
            let qualities = Qualities(dab.qualities.clone().try_into().expect("a value of each"));
            let shape =
                tool.medium.tip_shape(&tool.settings(), &qualities, &dab.signals).expect("an outline");
            let far = shape.patch.iter().map(|p| p[0].hypot(p[1])).fold(0.0, f64::max);
            assert!(
                far >= 0.49 * dab.length_mm && far < 0.75 * dab.length_mm,
                "{name}: {far} of {}",
                dab.length_mm
            );
        }
        s.rest();
        assert!(!s.busy() && water_mm3(&s) == 0.0, "{name} dries");
        let dry = tool.medium.on_sheet(&s) - before;
        assert!(
            (dry.mm3 - told.mm3).abs() < 2e-4 * scale,
            "{name}: {} mm³ once dry, told {}",
            dry.mm3,
            told.mm3
        );
    }
}

#[test]
fn a_wet_stroke_is_the_same_however_it_is_batched_and_worked() {
    let tool = Rc::new(demo_tool("wash-bristled"));
    let run = |reports: usize, pixels: usize| {
        let mut s = sheet_for(&tool);
        let mut engine = Engine::new(tool.clone(), Hand::default(), &s).expect("a valid tool");
        for pass in along().passes() {
            for some in pass.chunks(reports) {
                engine.hear(some).expect("reports");
                engine.work(pixels, &mut s);
            }
            engine.hear_lift();
        }
        while engine.waits() {
            engine.work(pixels, &mut s);
        }
        s.advance(120);
        s.checksum()
    };
    let whole = run(usize::MAX, usize::MAX);
    assert_eq!(run(1, 500), whole);
    assert_eq!(run(7, 100_000), whole);
}

#[test]
fn a_brush_runs_out_and_is_dipped_again() {
    let mut tool = demo_tool("wash-round-8");
    tool.parameters.insert("load.ml".into(), Value::Number(0.008));
    let mut s = sheet_for(&tool);
    let trace = draw_wet(&tool, &along(), &mut s);
    let left: Vec<f64> = trace.dabs.iter().map(|d| trace.value(d, "water_left")).collect();
    // Its end breaks: a brush that runs short meets the crowns alone.
    let touched: Vec<f64> = trace.dabs.iter().map(|d| trace.value(d, "touched")).collect();
    let short = left.iter().position(|l| *l < 0.1).expect("it runs short");
    assert!(
        touched[short / 3] > 0.95 && touched[short] < 0.8,
        "{} to {}",
        touched[short / 3],
        touched[short]
    );
    assert!(left[0] > 0.5 && left[left.len() - 1] < 0.2, "{} to {}", left[0], left[left.len() - 1]);
    let settings = tool.settings();
    let wiped = tool.medium.care(&settings, None, Care::Wipe).expect("it is not as it was made");
    assert_eq!(tool.medium.held(&settings, Some(&wiped))[0].full, 0.0);
    let dipped = tool.medium.care(&settings, Some(&wiped), Care::Dip).expect("it was used");
    assert_eq!(tool.medium.held(&settings, Some(&dipped))[0].full, 1.0);
}

#[test]
fn water_runs_off_oil_and_dries_sooner_in_warm_dry_air() {
    let tool = demo_tool("wash-round-8");
    let mut s = sheet_for(&tool);
    draw_wet(&demo_tool("hog-flat"), &pull([30.0, 4.0], [30.0, 20.0], 0.7), &mut s);
    draw_wet(&tool, &along(), &mut s);
    let wet = |s: &Sheet, x: usize| {
        let tile = s.tile(x / TILE, 0).expect("a tile");
        tile.block(&WATER).map_or(0.0, |b| b[50 * TILE + x % TILE])
    };
    // The wash goes from 10 to 50 mm; the oil lies about 30 mm.
    assert!(wet(&s, 70) > 20.0 && wet(&s, 120) == 0.0, "{} and {}", wet(&s, 70), wet(&s, 120));

    let dried = |celsius: f64, humidity: f64| {
        let mut s = sheet_for(&tool);
        s.bring_into(Surroundings { celsius, humidity, ..Surroundings::default() }).expect("a room");
        draw_wet(&tool, &along(), &mut s);
        s.advance(1200);
        water_mm3(&s)
    };
    let (usual, dry, moist) = (dried(20.0, 50.0), dried(30.0, 20.0), dried(15.0, 90.0));
    assert!(dry < 0.7 * usual && usual < moist, "{dry}, {usual}, {moist} mm³");
    // Dried by hand it is dry at once, with all its paint.
    let mut s = sheet_for(&tool);
    draw_wet(&tool, &along(), &mut s);
    let paint = tool.medium.on_sheet(&s).mm3;
    turn_in_place(Turn::Dry, &mut s);
    assert!(!s.busy() && water_mm3(&s) == 0.0);
    assert!((tool.medium.on_sheet(&s).mm3 / paint - 1.0).abs() < 1e-5);
    // Sprayed it goes on, and dries again.
    turn_in_place(Turn::Wet, &mut s);
    assert!(s.busy() && water_mm3(&s) > 0.0);
    s.rest();
    assert!(!s.busy() && (tool.medium.on_sheet(&s).mm3 / paint - 1.0).abs() < 1e-4);
}
