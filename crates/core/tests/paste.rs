//! Paste: paint is volume and pigment, and none appears or vanishes; a stroke is the same stroke however it is heard, worked
//! off and rastered.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

mod common;

use std::rc::Rc;

use common::{hand_drawn, picture, set, sheet};
use saltmarsh_core::chain::{Action, Value};
use saltmarsh_core::ground::{Ground, Surface};
use saltmarsh_core::hand::{Gesture, Hand, Sample};
use saltmarsh_core::medium::paste::blocks::{
    BAND_VALUES, BODY_UM, FILM_VALUES, FILMS, STROKE, TOP, TOP_UM, on_sheet,
};
use saltmarsh_core::medium::{Amount, Balance, Carried};
use saltmarsh_core::paint::BANDS;
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::Engine;
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::Tool;

/// A brush whose force follows the pen up to `most` gf.
fn brush(action: &str, most: f64, parameters: &str) -> Tool {
    Tool::parse(&format!(
        r#"{{"format": "saltmarsh.tool", "version": 2, "name": "t", "medium": "paste", "action": "{action}", "seed": 5,
        "ground": {{"surface": "canvas-fine"}}, "parameters": {{{parameters}}},
        "responses": [{{"id": "f", "quality": "force", "signal": "pressure", "input": [0, 1], "curve": [[0, 0], [1, 1]],
        "output": [0, {most}], "amount": 1, "on": true}}]}}"#
    ))
    .expect("a brush")
}

/// A small flat of few lanes, which tests can afford.
const SMALL: &str = r#""tip.width_mm": 5, "tip.thick_mm": 2, "tip.hair_count": 80"#;

/// A small palette knife.
const KNIFE: &str =
    r#""tip.ferrule": "blade", "tip.width_mm": 6, "relief.lay_um": 120, "relief.furrow": 0.2"#;

/// From one place to another in `seconds`, pressed on and lifted over a tenth of the way each.
fn pulled(rate_hz: f64, from: [f64; 2], to: [f64; 2], press: f64, seconds: f64) -> Gesture {
    hand_drawn(rate_hz, seconds, |t| {
        let f = t / seconds;
        let pressure = press * (10.0 * f).min(10.0 * (1.0 - f)).clamp(0.0, 1.0);
        let at = |k: usize| from[k] + (to[k] - from[k]) * f;
        Sample { t, x: at(0), y: at(1), pressure, tilt_x: 0.0, tilt_y: 25.0, twist: 0.0 }
    })
}

fn run(tool: &Tool, gesture: &Gesture, sheet: &mut Sheet, carried: Option<&Carried>) -> (Balance, Carried) {
    let tool = Rc::new(tool.clone());
    let mut engine =
        Engine::with(tool, Hand::default(), sheet, &Shelf::default(), carried).expect("an engine");
    for pass in gesture.passes() {
        engine.hear(pass).expect("reports");
        engine.hear_lift();
    }
    engine.work(usize::MAX, sheet);
    (engine.balance(), engine.carried())
}

fn canvas() -> Rc<Ground> {
    common::ground(Surface::CanvasFine)
}

/// The largest difference of two amounts over what there is.
fn off(a: Amount, b: Amount) -> f64 {
    a.all().zip(b.all()).map(|(a, b)| (a - b).abs() / a.abs().max(b.abs()).max(1e-9)).fold(0.0, f64::max)
}

#[test]
fn a_thousand_mixed_strokes_lose_nothing() {
    let mut s = sheet(&canvas(), [40.0, 30.0], 0.2);
    let tools = [
        brush("lay", 16.0, &format!(r#"{SMALL}, "load.paint": {{"PR254": 1}}, "load.ml": 0.01"#)),
        brush(
            "lay",
            16.0,
            &format!(
                r#"{SMALL}, "tip.ferrule": "filbert", "load.paint": {{"PB29": 1, "PW6": 3}}, "load.ml": 0.01, "mix.own": 0.3"#
            ),
        ),
        brush(
            "lay",
            10.0,
            r#""tip.ferrule": "round", "tip.width_mm": 3, "tip.hair_count": 60, "load.paint": {"PY35": 1}, "load.ml": 0.01"#,
        ),
        brush("blend", 16.0, SMALL),
        brush("lift", 16.0, SMALL),
        brush(
            "cut",
            16.0,
            r#""tip.ferrule": "round", "tip.width_mm": 2, "tip.hair_count": 60, "relief.furrow": 0.7"#,
        ),
        brush("lay", 60.0, &format!("{KNIFE}, \"load.ml\": 0.01, \"tip.corner\": 0.3")),
        brush("lift", 60.0, KNIFE),
    ];
    let mut carried: Vec<Option<Carried>> = vec![None; tools.len()];
    let mut brought = Amount::default();
    let mut held = vec![Amount::default(); tools.len()];
    let chance =
        |i: u64, k: u64| f64::from(saltmarsh_core::num::unit(saltmarsh_core::num::hash(9, k, i as i64, 0)));
    for i in 0..1000 {
        let k = (chance(i, 0) * tools.len() as f64) as usize;
        // Half of the strokes go on with what the brush has, the others with a fresh one.
        let goes_on = carried[k].clone().filter(|_| chance(i, 1) < 0.5);
        if goes_on.is_none() {
            brought = brought - held[k];
            held[k] = Amount::default();
        }
        let place = |a: u64| [4.0 + 32.0 * chance(i, a), 4.0 + 22.0 * chance(i, a + 1)];
        let (from, to) = (place(2), place(4));
        let (balance, now) =
            run(&tools[k], &pulled(120.0, from, to, chance(i, 6), 0.25), &mut s, goes_on.as_ref());
        brought += balance.brought;
        held[k] = balance.held;
        carried[k] = Some(now);
        assert!(off(balance.gained() + balance.held, balance.brought + balance.held_before) < 1e-6);
    }
    let there = held.iter().fold(on_sheet(&s), |sum, h| sum + *h);
    assert!(brought.mm3 > 100.0 && on_sheet(&s).mm3 > 20.0, "{} mm³ of {}", on_sheet(&s).mm3, brought.mm3);
    let worst = off(there, brought);
    assert!(worst < 1e-4, "sheet and brushes hold {there:?}, brought were {brought:?}: {worst}");
    for tile in s.tiles() {
        let films = tile.block(&FILMS).expect("paste alone was laid");
        assert!(films.iter().all(|v| v.is_finite() && *v >= -1e-3), "a film of less than nothing");
    }
}

#[test]
fn a_stroke_is_the_same_however_it_is_worked_off() {
    let tool = brush("lay", 16.0, SMALL);
    let gesture = pulled(125.0, [4.0, 6.0], [30.0, 9.0], 0.6, 0.5);
    let whole = {
        let mut s = sheet(&canvas(), [36.0, 16.0], 0.1);
        run(&tool, &gesture, &mut s, None);
        s.checksum()
    };
    let mut s = sheet(&canvas(), [36.0, 16.0], 0.1);
    let mut engine = Engine::new(Rc::new(tool), Hand::default(), &s).expect("an engine");
    for (i, sample) in gesture.passes()[0].iter().enumerate() {
        engine.hear(std::slice::from_ref(sample)).expect("a report");
        engine.work(1 + 37 * (i % 5), &mut s);
    }
    engine.hear_lift();
    engine.work(usize::MAX, &mut s);
    assert_eq!(whole, s.checksum(), "batches and rests change nothing");
}

/// Mean difference of two pictures over all channels, of 255.
fn differ(a: &Sheet, b: &Sheet) -> f64 {
    let (a, b) = (picture(a), picture(b));
    a.iter().zip(&b).map(|(a, b)| f64::from(a.abs_diff(*b))).sum::<f64>() / (0.75 * a.len() as f64)
}

#[test]
fn a_hand_that_is_reported_more_often_paints_the_same_stroke() {
    let tool = brush("lay", 16.0, &format!(r#"{SMALL}, "load.paint": {{"PB29": 1}}"#));
    let at = |rate: f64| {
        let mut s = sheet(&canvas(), [44.0, 16.0], 0.1);
        run(&tool, &pulled(rate, [4.0, 6.0], [38.0, 9.0], 0.6, 0.75), &mut s, None);
        s
    };
    let often = at(240.0);
    for rate in [60.0, 120.0, 1000.0] {
        let d = differ(&at(rate), &often);
        assert!(d < 1.0, "{rate} Hz: {d:.2} of 255");
    }
}

/// Volume that a stroke laid, mm³, and the area of its film, mm².
fn volume_and_area(s: &Sheet) -> [f64; 2] {
    let mm2 = s.pixel_mm() * s.pixel_mm();
    let films = (0..s.height()).flat_map(|y| (0..s.width()).map(move |x| (x, y)));
    let laid = films.filter_map(|(x, y)| s.pixel(&FILMS, x, y)).filter(|p| p[TOP_UM] + p[BODY_UM] > 5.0);
    [on_sheet(s).mm3, laid.count() as f64 * mm2]
}

#[test]
fn half_and_double_the_resolution_lay_as_much_on_as_much() {
    for (what, tool) in [
        ("flat", brush("lay", 16.0, SMALL)),
        ("dry", brush("lay", 16.0, &format!(r#"{SMALL}, "load.ml": 0.006"#))),
    ] {
        let at = |dpi: f64| {
            let mut s = sheet(&canvas(), [44.0, 16.0], 25.4 / dpi);
            run(&tool, &pulled(125.0, [4.0, 7.0], [38.0, 9.0], 0.6, 0.75), &mut s, None);
            volume_and_area(&s)
        };
        let want = at(300.0);
        for dpi in [150.0, 600.0] {
            let got = at(dpi);
            for (name, got, want) in [("volume", got[0], want[0]), ("area", got[1], want[1])] {
                let d = got / want - 1.0;
                assert!(
                    d.abs() < 0.02,
                    "{what}, {dpi} dpi: {name} {got:.3} for {want:.3} ({:+.1} %)",
                    100.0 * d
                );
            }
        }
    }
}

#[test]
fn tile_borders_leave_no_seam() {
    const PIXEL: f64 = 0.125;
    let ground = canvas();
    for tool in [brush("lay", 16.0, SMALL), brush("blend", 16.0, SMALL), brush("lay", 40.0, KNIFE)] {
        let run_by = |by: [usize; 2]| {
            let origin = by.map(|n| -(n as f64) * PIXEL);
            let mut s = Sheet::new(ground.clone(), 400 + by[0], 160 + by[1], PIXEL, origin).expect("a sheet");
            let wet = brush("lay", 16.0, &format!(r#"{SMALL}, "load.paint": {{"PW6": 1}}"#));
            run(&wet, &pulled(125.0, [8.0, 14.0], [30.0, 6.0], 0.8, 0.5), &mut s, None);
            run(&tool, &pulled(125.0, [6.0, 7.0], [40.0, 13.0], 0.6, 0.75), &mut s, None);
            let at = |x: usize, y: usize| {
                s.pixel(&FILMS, x + by[0], y + by[1]).map_or(0.0, |p| p[TOP_UM] + p[BODY_UM])
            };
            (0..160).flat_map(|y| (0..400).map(move |x| (x, y))).map(|(x, y)| at(x, y)).collect::<Vec<f32>>()
        };
        let (straight, moved) = (run_by([0, 0]), run_by([23, 41]));
        let most = straight.iter().copied().fold(0.0, f32::max);
        let worst = straight.iter().zip(&moved).map(|(a, b)| (a - b).abs()).fold(0.0, f32::max);
        assert!(most > 20.0 && worst < 1e-5 * most, "{:?}: {worst} of {most} µm", tool.action);
    }
}

#[test]
fn own_colour_alone_never_shows_found_paint_and_found_alone_never_its_own() {
    let wet = brush(
        "lay",
        16.0,
        &format!(r#"{SMALL}, "load.paint": {{"PW6": 1}}, "relief.lay_um": 110, "relief.reach_um": 400"#),
    );
    let run_with = |own: f64| {
        let mut s = sheet(&canvas(), [44.0, 20.0], 0.15);
        for y in [6.0, 9.0, 12.0] {
            run(&wet, &pulled(125.0, [3.0, y], [41.0, y], 0.8, 0.5), &mut s, None);
        }
        let mut tool = brush("lay", 16.0, &format!(r#"{SMALL}, "load.paint": {{"PBk9": 1}}"#));
        set(&mut tool, "mix.own", Value::Number(own));
        let (balance, _) = run(&tool, &pulled(125.0, [8.0, 9.0], [36.0, 9.0], 0.7, 0.6), &mut s, None);
        (s, balance)
    };
    // Ivory black hardly scatters in the bands where titanium white does.
    let unit = |code: &str| saltmarsh_core::paint::pigment::find(code).expect("it ships").clone();
    let (black, white) = (unit("PBk9"), unit("PW6"));
    let (all_own, _) = run_with(1.0);
    // The fourth stroke on the sheet is its own.
    let (mut laid, mut scattering) = (0.0_f64, 0.0_f64);
    for tile in all_own.tiles() {
        let (Some(films), Some(top)) = (tile.block(&FILMS), tile.block(&TOP)) else { continue };
        for (f, t) in films.chunks_exact(FILM_VALUES).zip(top.chunks_exact(BAND_VALUES)) {
            if f[STROKE] == 4.0 {
                laid += f64::from(f[TOP_UM]);
                scattering += f64::from(t[BANDS + 4]);
            }
        }
    }
    // K and S are per mm.
    let scatters = 1e3 * scattering / laid;
    assert!(laid > 100.0, "it laid");
    assert!((scatters / black.s[4] - 1.0).abs() < 0.02, "{scatters} for {} of black", black.s[4]);
    // One that gives only what it found moves white, and keeps all of its black.
    let (found_only, balance) = run_with(0.0);
    let absorbs = on_sheet(&found_only).k[4] / on_sheet(&found_only).mm3;
    assert!(
        absorbs < 1.05 * white.k[4] + 1e-3,
        "{absorbs} for {} of white, {} of black",
        white.k[4],
        black.k[4]
    );
    let black_left = balance.held.k[4] / balance.brought.k[4];
    assert!((black_left - 1.0).abs() < 1e-3, "{black_left} of its own stays in it");
    let took = balance.held.mm3 - balance.brought.mm3;
    assert!((0.1..0.35).contains(&took), "it moves what it finds: it kept {took} mm³ of white");
}

#[test]
fn a_little_paint_runs_out_within_a_stroke_and_endless_never() {
    let way = || pulled(125.0, [4.0, 8.0], [116.0, 8.0], 0.6, 1.6);
    let left = |parameters: &str| {
        let tool = brush("lay", 16.0, &format!("{SMALL}, {parameters}"));
        let mut s = sheet(&canvas(), [120.0, 16.0], 0.2);
        run(&tool, &way(), &mut s, None);
        let column =
            |x: usize| (0..s.height()).map(|y| s.pixel(&FILMS, x, y).map_or(0.0, |p| p[TOP_UM])).sum::<f32>();
        let mean = |from: usize, to: usize| (from..to).map(column).sum::<f32>() / (to - from) as f32;
        mean(450, 540) / mean(60, 150)
    };
    let little = left(r#""load.ml": 0.0005"#);
    assert!(little < 0.25, "1 % of a load leaves {little} at the end of what it left at the start");
    let endless = left(r#""load.endless": true"#);
    assert!(endless > 0.85, "endless: {endless}");
}

#[test]
fn a_lifting_brush_takes_paint_off_and_keeps_it() {
    let mut s = sheet(&canvas(), [44.0, 18.0], 0.15);
    let wet = brush("lay", 16.0, &format!(r#"{SMALL}, "relief.lay_um": 110, "relief.reach_um": 400"#));
    run(&wet, &pulled(125.0, [3.0, 9.0], [41.0, 9.0], 0.8, 0.5), &mut s, None);
    let before = on_sheet(&s).mm3;
    let lifter = brush("lift", 16.0, SMALL);
    assert_eq!(lifter.action, Action::Lift);
    let (balance, _) = run(&lifter, &pulled(125.0, [6.0, 9.0], [38.0, 9.0], 0.7, 0.6), &mut s, None);
    let taken = before - on_sheet(&s).mm3;
    assert!(taken > 0.1 * before, "took {taken} of {before} mm³");
    assert!((balance.held.mm3 / taken - 1.0).abs() < 1e-3, "holds {} of {taken}", balance.held.mm3);
}

#[test]
fn a_brush_goes_on_with_what_it_has_and_another_shape_is_another_brush() {
    let tool = brush("lay", 16.0, &format!(r#"{SMALL}, "load.ml": 0.01"#));
    let mut s = sheet(&canvas(), [44.0, 16.0], 0.2);
    let way = pulled(125.0, [4.0, 8.0], [38.0, 8.0], 0.6, 0.75);
    let (first, carried) = run(&tool, &way, &mut s, None);
    assert!(first.brought.mm3 > 9.0 && first.held.mm3 < 0.9 * first.brought.mm3, "{first:?}");
    let (second, _) = run(&tool, &way, &mut s, Some(&carried));
    assert_eq!(second.brought.mm3, 0.0, "nothing is loaded anew");
    assert!(off(second.held_before, first.held) < 1e-9 && second.held.mm3 < first.held.mm3);
    let mut wider = tool.clone();
    set(&mut wider, "tip.width_mm", Value::Number(7.0));
    let (other, _) = run(&wider, &way, &mut s, Some(&carried));
    assert!(other.held_before.mm3 == 0.0 && other.brought.mm3 > 9.0, "{other:?}");
}

#[test]
fn a_knife_takes_what_stands_over_its_edge_and_a_furrow_shows_what_lies_below() {
    let mean = |s: &Sheet, rows: std::ops::Range<f64>| {
        let (pixel, mut sum, mut count) = (s.pixel_mm(), 0.0, 0.0);
        for y in (rows.start / pixel) as usize..(rows.end / pixel) as usize {
            for x in (20.0 / pixel) as usize..(30.0 / pixel) as usize {
                sum += s.pixel(&FILMS, x, y).map_or(0.0, |p| p[TOP_UM] + p[BODY_UM]);
                count += 1.0;
            }
        }
        sum / count
    };
    let film = || {
        let mut s = sheet(&canvas(), [44.0, 18.0], 0.15);
        let thick = format!(
            r#"{SMALL}, "load.endless": true, "relief.lay_um": 200, "relief.reach_um": 700, "relief.rim": 0"#
        );
        for y in [5.0, 9.0, 13.0] {
            run(&brush("lay", 16.0, &thick), &pulled(125.0, [3.0, y], [41.0, y], 0.8, 0.5), &mut s, None);
        }
        s
    };
    let way = |press: f64| pulled(125.0, [5.0, 9.0], [39.0, 9.0], press, 0.6);
    // A scraper stands over the ground by its gap, which the force closes.
    let scraped = |press: f64| {
        let mut s = film();
        let before = mean(&s, 8.0..10.0);
        run(&brush("lift", 60.0, KNIFE), &way(press), &mut s, None);
        (before, mean(&s, 8.0..10.0))
    };
    let ((before, light), (_, firm)) = (scraped(0.4), scraped(1.0));
    assert!(
        before > 100.0 && light < 0.9 * before && firm < 0.6 * light,
        "{before}, then {light} or {firm} µm"
    );
    // It lies on a corner when the pen leans along it.
    let mut s = film();
    run(&brush("lift", 60.0, &format!("{KNIFE}, \"tip.corner\": 0.1")), &way(1.0), &mut s, None);
    let (low, high) = (mean(&s, 9.5..11.5), mean(&s, 6.5..8.5));
    assert!(low < 0.8 * high, "{low} µm under its corner, {high} µm where it is raised");
    // A furrow: what is cut out of it stands at its sides.
    let mut s = film();
    let (middle, sides) = (mean(&s, 8.7..9.3), mean(&s, 10.2..11.2));
    let cutter = r#""tip.ferrule": "round", "tip.width_mm": 2, "tip.hair_count": 60, "relief.furrow": 1, "relief.shoulder_mm": 1"#;
    let (balance, _) = run(&brush("cut", 60.0, cutter), &way(0.9), &mut s, None);
    let (cut, heaped) = (mean(&s, 8.7..9.3), mean(&s, 10.2..11.2));
    assert!(
        cut < 0.4 * middle && heaped > 1.15 * sides,
        "{middle} → {cut} µm, beside it {sides} → {heaped} µm"
    );
    assert_eq!(balance.brought.mm3, 0.0);
}

#[test]
fn dried_paint_is_ground_that_no_brush_takes_up_until_it_is_wet_again() {
    use saltmarsh_core::medium::{Turn, turn_in_place};
    let mut s = sheet(&canvas(), [44.0, 18.0], 0.15);
    let wet = brush("lay", 16.0, &format!(r#"{SMALL}, "relief.lay_um": 110, "relief.reach_um": 400"#));
    run(&wet, &pulled(125.0, [3.0, 9.0], [41.0, 9.0], 0.8, 0.5), &mut s, None);
    let (before, seen) = (on_sheet(&s), saltmarsh_core::relief::flat::rgba(&s));
    turn_in_place(Turn::Dry, &mut s);
    assert!(off(before, on_sheet(&s)) < 1e-6, "drying loses nothing");
    let over = pulled(125.0, [6.0, 9.0], [38.0, 9.0], 0.7, 0.6);
    let blender = brush("blend", 16.0, SMALL);
    assert_eq!(run(&blender, &over, &mut s, None).0.held.mm3, 0.0, "a blender finds nothing wet");
    let apart = |a: &[u8], b: &[u8]| {
        a.iter().zip(b).map(|(a, b)| f64::from(a.abs_diff(*b))).sum::<f64>() / a.len() as f64
    };
    assert!(apart(&seen, &saltmarsh_core::relief::flat::rgba(&s)) < 1.0, "dry paint has its colour");
    turn_in_place(Turn::Wet, &mut s);
    assert!(off(before, on_sheet(&s)) < 1e-6);
    let (again, _) = run(&blender, &over, &mut s, None);
    assert!(again.held.mm3 > 0.1, "wet again, it is taken up: {}", again.held.mm3);
}

#[test]
fn responses_drive_how_a_brush_mixes() {
    let laid = |tool: &Tool| {
        let mut s = sheet(&canvas(), [44.0, 18.0], 0.2);
        let wet = brush("lay", 16.0, &format!(r#"{SMALL}, "load.paint": {{"PW6": 1}}"#));
        run(&wet, &pulled(125.0, [3.0, 9.0], [41.0, 9.0], 0.8, 0.5), &mut s, None);
        run(tool, &pulled(125.0, [6.0, 9.0], [38.0, 9.0], 0.7, 0.6), &mut s, None);
        s.checksum()
    };
    for (id, quality, value) in [
        ("mix.own", "own", 0.1),
        ("mix.pickup", "pickup", 0.8),
        ("mix.carry_mm", "carry", 90.0),
        ("mix.drag", "drag", 0.9),
        ("mix.cut", "cut", 0.9),
    ] {
        let plain = brush("lay", 16.0, SMALL);
        let mut set_so = plain.clone();
        set(&mut set_so, id, Value::Number(value));
        let mut json: serde_json::Value = serde_json::from_str(&plain.canonical()).expect("JSON");
        let always = serde_json::json!({"id": "q", "quality": quality, "signal": "pressure", "input": [0, 1],
            "curve": [[0, 1], [1, 1]], "output": [value, value], "amount": 1, "on": true});
        json["responses"].as_array_mut().expect("responses").push(always);
        let driven = Tool::from_json(json).expect("a tool");
        assert_eq!(laid(&driven), laid(&set_so), "{id}");
        assert_ne!(laid(&driven), laid(&plain), "{id}");
    }
}

#[test]
fn a_brush_is_dipped_rinsed_and_wiped_and_nothing_is_lost_by_it() {
    use saltmarsh_core::medium::Care;
    let two = || {
        let one = |y: f64| pulled(125.0, [4.0, y], [38.0, y], 0.6, 0.6).passes()[0].clone();
        let mut later = one(12.0);
        later.iter_mut().for_each(|p| p.t += 1.0);
        Gesture::new(vec![one(5.0), later]).expect("a gesture")
    };
    let run_with = |parameters: &str| {
        let mut s = sheet(&canvas(), [44.0, 18.0], 0.2);
        let (balance, _) = run(
            &brush("lay", 16.0, &format!(r#"{SMALL}, "load.ml": 0.01{parameters}"#)),
            &two(),
            &mut s,
            None,
        );
        let row = |from: usize, to: usize| -> f32 {
            (from..to)
                .flat_map(|y| (0..s.width()).map(move |x| (x, y)))
                .map(|(x, y)| s.pixel(&FILMS, x, y).map_or(0.0, |p| p[TOP_UM]))
                .sum()
        };
        let lost = off(balance.brought, on_sheet(&s) + balance.held + balance.gone);
        assert!(lost < 1e-4, "{parameters}: {lost}");
        (balance, row(50, 75) / row(12, 38))
    };
    let (plain, poorer) = run_with("");
    let (refilled, again) = run_with(r#", "load.refill": true"#);
    assert!(again > poorer && refilled.brought.mm3 > 1.05 * plain.brought.mm3, "{again} for {poorer}");
    let (cleaned, nothing) = run_with(r#", "load.wash": "cleaned""#);
    assert!(cleaned.held.mm3 < 1e-6 && cleaned.gone.mm3 > 1.0 && nothing < 1e-3, "{cleaned:?}, {nothing}");
    let (rinsed, _) = run_with(r#", "load.wash": "rinsed", "load.rinse_left": 0.4"#);
    assert!(rinsed.gone.mm3 > cleaned.gone.mm3 * 0.5 && rinsed.held.mm3 > 0.2, "{rinsed:?}");

    // By hand, between gestures.
    let tool = brush("lay", 16.0, &format!(r#"{SMALL}, "load.ml": 0.01, "load.rinse_left": 0.2"#));
    let mut s = sheet(&canvas(), [44.0, 18.0], 0.2);
    let (first, carried) = run(&tool, &two(), &mut s, None);
    let medium = tool.medium;
    let goes_on = |care: Care| {
        let carried = medium.care(&tool.settings(), Some(&carried), care).expect("it goes on");
        run(&tool, &two(), &mut sheet(&canvas(), [44.0, 18.0], 0.2), Some(&carried)).0
    };
    let (dipped, rinsed, wiped) = (goes_on(Care::Dip), goes_on(Care::Rinse), goes_on(Care::Wipe));
    assert!(off(dipped.held_before, first.held) < 1e-6, "what was dipped up is loaded, not held before");
    let full = dipped.brought.mm3 + dipped.held_before.mm3;
    assert!((full / first.brought.mm3 - 1.0).abs() < 0.05, "{full} for {}", first.brought.mm3);
    assert!((rinsed.held_before.mm3 / first.held.mm3 - 0.2).abs() < 1e-3 && wiped.held_before.mm3 < 1e-9);
    assert!(medium.care(&tool.settings(), Some(&carried), Care::Clean).is_none());
}

#[test]
fn a_brush_shows_what_it_holds_across_its_tip() {
    let held = |parameters: &str| {
        let tool = brush(
            "lay",
            16.0,
            &format!(
                "{SMALL}, \"load.refill\": false{}{parameters}",
                if parameters.is_empty() { "" } else { ", " }
            ),
        );
        tool.medium.held(&tool.settings(), None)
    };
    let three = held(
        r#""load.order": "three", "load.uneven_colour": 0, "load.paint": {"PR108": 1}, "load.beside": {"PW6": 1}, "load.third": {"PB29": 1}"#,
    );
    let (left, middle, right) = (three[2].rgb, three[three.len() / 2].rgb, three[three.len() - 3].rgb);
    assert!(left[0] > 100 && left[2] < 60, "red on the left: {left:?}");
    assert!(middle.iter().all(|v| *v > 200), "white in the middle: {middle:?}");
    assert!(right[2] > 40 && right[0] < 60, "blue on the right: {right:?}");
    // Recipes stray about the paint, no further than they are told to.
    let lights =
        |parameters: &str| -> Vec<f64> { held(parameters).iter().map(|h| f64::from(h.rgb[1])).collect() };
    let (even, strays, far) =
        (lights(""), lights(r#""load.stray_value": 10"#), lights(r#""load.stray_value": 30"#));
    let spread = |all: &[f64]| {
        all.iter().copied().fold(f64::MIN, f64::max) - all.iter().copied().fold(f64::MAX, f64::min)
    };
    assert!(
        spread(&even) < 1.0 && spread(&strays) > 8.0 && spread(&far) > 1.8 * spread(&strays),
        "{} {} {}",
        spread(&even),
        spread(&strays),
        spread(&far)
    );
    let warm: Vec<f64> = held(r#""load.stray_warmth": 20"#)
        .iter()
        .map(|h| f64::from(h.rgb[0]) - f64::from(h.rgb[2]))
        .collect();
    assert!(spread(&warm) > 8.0, "{warm:?}");
    let heavy = held(r#""load.lean": 1, "load.uneven": 0"#);
    let half = |parts: &[saltmarsh_core::medium::Held]| parts.iter().map(|h| h.full).sum::<f64>();
    let (light, laden) = heavy.split_at(heavy.len() / 2);
    assert!(half(laden) > 2.0 * half(light), "{} for {}", half(laden), half(light));
}
