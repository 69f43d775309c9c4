//! Wet brushes: every ready tool lays what it says, nothing is lost, and the same hand gives the same sheet however it is worked.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common;
use crate::outlives::draw_on;

use std::rc::Rc;

use common::{demo_tool, demo_tools, draw_wet, pull};
use saltmarsh_core::chain::{Action, Qualities, Value};
use saltmarsh_core::describe::figures;
use saltmarsh_core::ground::{Recipe, Surface};
use saltmarsh_core::hand::{Gesture, Hand, Sample};
use saltmarsh_core::medium::dry::blocks::{HELD, LOOSE, POWDER, POWDER_VALUES};
use saltmarsh_core::medium::wash::blocks::{COVER, PAINT_PLANES, WATER, pigments_of, plane, water_mm3};
use saltmarsh_core::medium::{Care, Turn, turn_in_place};
use saltmarsh_core::relief::view::{self, Seen, View};
use saltmarsh_core::sheet::{Changed, Sheet, Surroundings, TILE};
use saltmarsh_core::stroke::{Engine, under};
use saltmarsh_core::tool::Tool;

const PIXEL_MM: f64 = 0.25;

pub(crate) fn sheet_for(tool: &Tool) -> Sheet {
    let ground = common::ground_of(&tool.ground);
    Sheet::new(ground, 240, 100, PIXEL_MM, [0.0; 2]).expect("a sheet")
}

pub(crate) fn along() -> Gesture {
    pull([10.0, 12.5], [50.0, 12.5], 0.6)
}

fn wet_tools() -> Vec<(String, Tool)> {
    demo_tools().into_iter().filter(|(_, t)| ["wash", "ink"].contains(&t.medium.name())).collect()
}

#[test]
fn every_ready_wet_tool_does_its_work_and_nothing_is_lost() {
    let tools = wet_tools();
    assert!(tools.len() >= 21, "{} ready tools", tools.len());
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
        let masks = tool.parameters.get("load.brings") == Some(&Value::Choice("mask".into()));
        let waterless = masks || tool.action == Action::Repel;
        if waterless {
            assert_eq!(column("water_um"), 0.0, "{name} brings no water");
        } else if !matches!(tool.action, Action::Lift | Action::Cut) {
            assert!(column("water_um") > 0.0 && water_mm3(&s) > 0.0, "{name} wets the paper");
        } else if tool.action == Action::Lift {
            assert!(column("drunk_um") > 0.0, "{name} drinks");
        }
        let gained = tool.medium.on_sheet(&s) - before;
        let told = trace.balance.gained();
        let scale = trace.balance.brought.mm3.max(before.mm3);
        assert!(
            (gained.mm3 - told.mm3).abs() <= 1e-4 * scale,
            "{name}: {} mm³, told {}",
            gained.mm3,
            told.mm3
        );
        // What is asked of any tool on its screens.
        assert!(figures::ground(&tool, s.ground()).texture.sq_um > 0.0);
        tool.medium.held(&tool.settings(), None);
        // The outline at the pen is what wets: drops fall where they will.
        if !["Spatter", "Salt", "Spirit drops"].contains(&name.as_str()) {
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
            (dry.mm3 - told.mm3).abs() <= 2e-4 * scale,
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
fn a_stroke_whose_time_was_held_is_laid_anew_as_it_was_drawn() {
    let tool = Rc::new(demo_tool("wash-bristled"));
    let reports: Vec<Sample> = along().passes().concat();
    let begun = || {
        let mut s = sheet_for(&tool);
        draw_wet(&tool, &along(), &mut s);
        let engine = Engine::new(tool.clone(), Hand::default(), &s).expect("a valid tool");
        (s, engine)
    };
    let ended = |mut s: Sheet, mut engine: Engine| {
        engine.lift(&mut s);
        s.advance(60);
        s.checksum()
    };
    // `every`: so many reports come at once; then up to so many steps go.
    let drawn = |every: usize, steps: u64| {
        let (mut s, mut engine) = begun();
        engine.hold_time(&s);
        for some in reports.chunks(every) {
            engine.hear(some).expect("reports");
            while engine.waits() {
                engine.work(3000, &mut s);
            }
            engine.let_go(steps, &mut s);
        }
        engine.hear_lift();
        assert!(engine.let_go(1, &mut s).is_empty(), "what waits at the end never goes");
        let went = engine.time_went();
        (ended(s, engine), went)
    };
    let anew = |went: Option<&[u32]>| {
        let (s, mut engine) = begun();
        if let Some(went) = went {
            engine.time_as(went);
        }
        engine.hear(&reports).expect("reports");
        ended(s, engine)
    };
    let mut sheets = vec![anew(None)];
    for (every, steps) in [(5, u64::MAX), (5, 1), (9, 2), (5, 0)] {
        let (sheet, went) = drawn(every, steps);
        let went = went.expect("time waited");
        assert_eq!(went.is_empty(), steps == 0);
        assert_eq!(anew(Some(&went)), sheet, "{steps} after {every} reports");
        assert!(!sheets.contains(&sheet), "when time goes tells");
        sheets.push(sheet);
    }
    let dry = Rc::new(demo_tool("vine-charcoal-side"));
    let mut s = sheet_for(&dry);
    let mut engine = Engine::new(dry, Hand::default(), &s).expect("a valid tool");
    engine.hold_time(&s);
    engine.extend(&reports, &mut s).expect("reports");
    assert_eq!(engine.time_went(), None, "nothing waits where nothing moves");
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
fn water_over_powder_sets_some_of_it_and_loses_none() {
    let tool = demo_tool("wash-clear-water");
    let mut s = sheet_for(&tool);
    common::draw(&demo_tool("vine-charcoal-side"), &along(), &mut s);
    let all = |s: &Sheet, value: usize| {
        let blocks = s.tiles().filter_map(|t| t.block(&POWDER));
        blocks
            .flat_map(|b| b[..TILE * TILE * POWDER_VALUES].chunks_exact(POWDER_VALUES))
            .map(|p| f64::from(p[value]))
            .sum::<f64>()
    };
    let [held, loose] = [HELD, LOOSE].map(|value| all(&s, value));
    draw_wet(&tool, &along(), &mut s);
    let [set, left] = [HELD, LOOSE].map(|value| all(&s, value));
    assert!(left < 0.9 * loose, "of {loose} {left} lies loose");
    assert!(((set + left) / (held + loose) - 1.0).abs() < 1e-5, "{} of {}", set + left, held + loose);
}

#[test]
fn a_wash_gleams_while_water_stands_on_it() {
    let tool = demo_tool("wash-round-8");
    let mut s = sheet_for(&tool);
    draw_wet(&tool, &along(), &mut s);
    // What is mirrored of a lamp that stands high: a level film sends it up to the eye.
    let gleam = |s: &Sheet| {
        let lit = |gloss: f64| {
            View { seen: Seen::Lit, gloss, elevation_deg: 75.0, ..View::default() }.rgba(s, s.rect(), false)
        };
        let light = |rgba: Vec<u8>| rgba.chunks_exact(4).map(|p| common::linear(p[1])).sum::<f64>();
        light(lit(1.0)) - light(lit(0.0))
    };
    let wet = gleam(&s);
    s.rest();
    let dry = gleam(&s);
    assert!(wet > 1.5 * dry, "wet {wet}, dry {dry}");
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

/// All pigment at a pixel, µm.
pub(crate) fn paint_at(s: &Sheet, x: usize, y: usize) -> f64 {
    let i = (y % TILE) * TILE + x % TILE;
    let tile = s.tile(x / TILE, y / TILE);
    let um =
        |(_, block): (usize, &[f32])| (0..PAINT_PLANES).map(|p| f64::from(plane(block, p)[i])).sum::<f64>();
    tile.map_or(0.0, |t| pigments_of(t).map(um).sum())
}

#[test]
fn a_dirty_brush_gives_back_what_it_took_up() {
    let mut brush = demo_tool("wash-clear-water");
    for (id, value) in [("mix.drink", 0.4), ("mix.loosen", 0.0), ("load.ml", 0.02)] {
        brush.parameters.insert(id.into(), Value::Number(value));
    }
    let carried_over = |gives_back: f64| {
        let mut brush = brush.clone();
        brush.parameters.insert("mix.gives_back".into(), Value::Number(gives_back));
        let mut s = sheet_for(&brush);
        draw_wet(&demo_tool("wash-flat-25"), &pull([14.0, 3.0], [14.0, 22.0], 0.6), &mut s);
        let before = brush.medium.on_sheet(&s);
        let trace = draw_wet(&brush, &along(), &mut s);
        let gained = brush.medium.on_sheet(&s) - before;
        assert!((gained.mm3 - trace.balance.gained().mm3).abs() < 1e-4 * before.mm3, "nothing is lost");
        // Far beyond the wash, before anything has flowed.
        (180..196).map(|x| paint_at(&s, x, 50)).sum::<f64>()
    };
    assert_eq!(carried_over(0.0), 0.0);
    assert!(carried_over(1.0) > 1e-3, "{}", carried_over(1.0));

    brush.parameters.insert("mix.gives_back".into(), Value::Number(1.0));
    // On a clean sheet a dirty brush leaves what it took up, dipped as well; not once it is rinsed or wiped.
    let mut s = sheet_for(&brush);
    draw_wet(&demo_tool("wash-flat-25"), &pull([14.0, 3.0], [14.0, 22.0], 0.6), &mut s);
    let (_, dirty) = draw_on(&brush, &along(), &mut s, None);
    let (medium, settings) = (brush.medium, brush.settings());
    let leaves = |care: Care| {
        let mut s = sheet_for(&brush);
        let carried = medium.care(&settings, Some(&dirty), care).expect("it is not as it was made");
        draw_on(&brush, &along(), &mut s, Some(&carried));
        (medium.on_sheet(&s).mm3, water_mm3(&s))
    };
    let [dipped, rinsed, wiped] = [Care::Dip, Care::Rinse, Care::Wipe].map(leaves);
    assert!(
        dipped.0 > 5e-5 && rinsed.0 == 0.0 && wiped.0 == 0.0,
        "{dipped:?}, {rinsed:?}, {wiped:?} mm³ of paint and water"
    );
    assert!(rinsed.1 > 1.0 && wiped.1 == 0.0, "{rinsed:?}, {wiped:?} mm³ of paint and water");
}

#[test]
fn colour_goes_into_a_film_as_full_as_the_brushs_own_and_the_brush_is_thinned() {
    let with = |tool: &Tool, values: &[(&str, f64)]| {
        let mut tool = tool.clone();
        tool.parameters.extend(values.iter().map(|(id, n)| ((*id).into(), Value::Number(*n))));
        tool
    };
    let water = with(&demo_tool("wash-clear-water"), &[("load.water_um", 200.0), ("mix.drink", 0.0)]);
    let round =
        with(&demo_tool("wash-round-8"), &[("load.water_um", 110.0), ("load.ml", 0.5), ("mix.drink", 0.0)]);
    // Paint in millimetres of the way, before anything has flowed; what the wash that was there has lost; what was told.
    let drawn = |bed: &Tool, brush: &Tool| {
        let mut s = sheet_for(brush);
        for y in [9.5, 12.5, 15.5] {
            draw_wet(bed, &pull([8.0, y], [52.0, y], 0.8), &mut s);
        }
        let (before, wet) = (brush.medium.on_sheet(&s), water_mm3(&s));
        let trace = draw_wet(brush, &along(), &mut s);
        let gained = brush.medium.on_sheet(&s) - before;
        assert!((gained.mm3 - trace.balance.gained().mm3).abs() < 1e-4 * trace.balance.brought.mm3.max(1e-3));
        assert!((water_mm3(&s) / wet - 1.0).abs() < 0.05, "no water goes with it");
        ((48..192).map(|x| paint_at(&s, x, 50)).collect::<Vec<f64>>(), trace.balance)
    };
    let sum = |um: &[f64]| um.iter().sum::<f64>();
    let (alone, _) = drawn(&water, &with(&round, &[("mix.mingles", 0.0)]));
    let (mingled, _) = drawn(&water, &round);
    assert!(sum(&alone) < 0.02 * sum(&mingled), "{} of {}", sum(&alone), sum(&mingled));
    // As strong as the brush's own water at the most.
    let Some(Value::Number(strength)) = round.parameters.get("load.strength") else { panic!("a strength") };
    let strongest = mingled.iter().copied().fold(0.0, f64::max);
    assert!(strongest > 0.1 * strength * 110.0 && strongest < strength * 200.0, "{strongest} µm");
    // A small load is thinned on its way by what it takes up.
    let (small, _) = drawn(&water, &with(&round, &[("load.ml", 0.008)]));
    assert!(sum(&small[96..]) < 0.8 * sum(&small[..48]), "{} after {}", sum(&small[96..]), sum(&small[..48]));
    assert!(
        sum(&mingled[96..]) > 0.9 * sum(&mingled[..48]),
        "{} after {}",
        sum(&mingled[96..]),
        sum(&mingled[..48])
    );
    // Another colour is taken up for it; its own stays as it is.
    let ochre = Value::Paint([("PY43".to_owned(), 1.0)].into());
    let mut other = with(&round, &[("load.water_um", 160.0)]);
    let (_, same) = drawn(&other, &round);
    other.parameters.insert("load.paint".into(), ochre);
    let (_, different) = drawn(&other, &round);
    assert!(different.held.mm3 > 5.0 * same.held.mm3, "{} of {}", different.held.mm3, same.held.mm3);
}

#[test]
fn a_rest_that_ends_early_leaves_what_time_would() {
    let tool = demo_tool("wash-granulating");
    let run = |rest: &dyn Fn(&mut Sheet)| {
        let mut s = sheet_for(&tool);
        draw_wet(&tool, &along(), &mut s);
        rest(&mut s);
        assert!(!s.busy() && water_mm3(&s) == 0.0);
        let dry = s.checksum();
        // What comes then is the same too.
        draw_wet(&demo_tool("wash-round-8"), &pull([20.0, 5.0], [20.0, 20.0], 0.5), &mut s);
        s.advance(50);
        (dry, s.checksum(), s.steps())
    };
    let rested = run(&|s| drop(s.rest()));
    let in_turns = run(&|s| while !s.rest_on(u64::MAX, &mut Changed::default()) {});
    assert_eq!(in_turns, rested);
    let by_time = run(&|s| {
        while s.busy() {
            s.advance(64);
        }
    });
    assert_eq!(by_time.0, rested.0);
}

#[test]
fn a_section_tells_paint_in_hollows_from_powder_on_crowns() {
    let told = |name: &str, surface: Surface| {
        let mut tool = demo_tool(name);
        tool.ground = Recipe::of(surface);
        let mut s = sheet_for(&tool);
        let pressure = if name.starts_with("wash") { 0.6 } else { 0.15 };
        draw_wet(&tool, &pull([10.0, 12.5], [50.0, 12.5], pressure), &mut s);
        s.rest();
        let cut = view::section(&s, [14.0, 12.5], [46.0, 12.5], 129);
        assert_eq!(cut.rgb.len(), cut.ground_um.len());
        cut.hollows_over_crowns.expect("a stroke all along")
    };
    let rough = told("wash-granulating", Surface::Rough);
    let hot = told("wash-granulating", Surface::HotPressed);
    let charcoal = told("vine-charcoal-side", Surface::Rough);
    assert!(
        rough > 1.1 && rough > hot && charcoal < 0.9,
        "rough {rough}, hot-pressed {hot}, charcoal {charcoal}"
    );
}

#[test]
fn a_dry_brush_breaks_over_the_tooth_in_soft_islands_and_streaks() {
    let tool = demo_tool("wash-dry-brush");
    // How much of every pixel of the stroke's inside is covered, row by row.
    let cover = |surface: Surface, pixel_mm: f64| -> Vec<Vec<f64>> {
        let side = |mm: f64| (mm / pixel_mm) as usize;
        let ground = common::ground_of(&Recipe::of(surface));
        let mut s = Sheet::new(ground, side(60.0), side(20.0), pixel_mm, [0.0; 2]).expect("a sheet");
        draw_wet(&tool, &pull([8.0, 10.0], [52.0, 10.0], 0.5), &mut s);
        s.rest();
        let at = |x: usize, y: usize| {
            let block = s.tile(x / TILE, y / TILE).and_then(|t| t.block(&WATER));
            block.map_or(0.0, |b| f64::from(plane(b, COVER)[(y % TILE) * TILE + x % TILE]))
        };
        (side(5.0)..side(15.0)).map(|y| (side(14.0)..side(46.0)).map(|x| at(x, y)).collect()).collect()
    };
    let fine = cover(Surface::Rough, 0.085);
    let all: Vec<f64> = fine.concat();
    let share = |is: &dyn Fn(f64) -> bool| all.iter().filter(|c| is(**c)).count() as f64 / all.len() as f64;
    let (bare, partly) = (share(&|c| c < 0.05), share(&|c| (0.05..0.95).contains(&c)));
    assert!((0.2..0.8).contains(&bare), "{bare} of it is bare");
    assert!(partly > 0.3 * (1.0 - bare), "{partly} is covered in part, {bare} bare");
    // Islands are as small as the tooth: a line along the pull goes on and off a crown so often, in a mm.
    let borders = |row: &Vec<f64>| row.windows(2).filter(|two| (two[0] < 0.5) != (two[1] < 0.5)).count();
    let islands = fine.iter().map(borders).sum::<usize>() as f64 / (all.len() as f64 * 0.085);
    // Hairs hang together in locks: what one place of the tip leaves on a paper goes with what a place half a mm beside it leaves on another,
    // over eight mm of the pull.
    let rows = |surface: Surface| -> Vec<f64> {
        let coarse = cover(surface, 0.23);
        (0..4)
            .flat_map(|k| {
                coarse
                    .iter()
                    .map(move |r| r[k * 34..(k + 1) * 34].iter().sum::<f64>() / 34.0)
                    .collect::<Vec<_>>()
            })
            .collect()
    };
    let goes_with = |a: &[f64], b: &[f64]| {
        let mean = |v: &[f64]| v.iter().sum::<f64>() / v.len() as f64;
        let (ma, mb) = (mean(a), mean(b));
        let of = |x: &[f64], mx: f64, y: &[f64], my: f64| {
            x.iter().zip(y).map(|(x, y)| (x - mx) * (y - my)).sum::<f64>()
        };
        of(a, ma, b, mb) / f64::sqrt(of(a, ma, a, ma) * of(b, mb, b, mb))
    };
    let (a, b) = (rows(Surface::Rough), rows(Surface::ColdPressed));
    let beside = goes_with(&a[2..], &b[..b.len() - 2]);
    assert!(islands > 0.9, "{islands} borders of islands in a mm");
    assert!(beside > 0.1, "beside each other they go together by {beside}");
}

#[test]
fn a_print_thinner_than_a_pixel_brings_as_much_in_finer_ones() {
    for name in ["ink-pointed-nib", "ink-broad-nib", "wash-rigger", "wash-flat-25"] {
        let tool = demo_tool(name);
        let brought = |pixel_mm: f64| {
            let ground = common::ground_of(&tool.ground);
            let side = |mm: f64| (mm / pixel_mm) as usize;
            let mut s = Sheet::new(ground, side(30.0), side(10.0), pixel_mm, [0.0; 2]).expect("a sheet");
            let trace = draw_wet(&tool, &pull([4.0, 5.0], [26.0, 5.0], 0.2), &mut s);
            trace.balance.brought.mm3
        };
        let (coarse, fine) = (brought(0.25), brought(0.0625));
        assert!((coarse / fine - 1.0).abs() < 0.2, "{name}: {coarse} and {fine} mm³");
    }
}
