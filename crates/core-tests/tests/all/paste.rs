//! Paste: paint is volume and pigment, and none appears or vanishes; a stroke is the same stroke however it is heard, worked
//! off and rastered.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common;

use std::rc::Rc;

use common::oil::{KNIFE, SMALL, brush, canvas, off, pulled, run};
use common::{hand_drawn, picture, set, sheet};
use saltmarsh_core::chain::{Action, Value};
use saltmarsh_core::hand::{Hand, Sample};
use saltmarsh_core::medium::paste::blocks::{
    BAND_VALUES, BODY_UM, FILM_VALUES, FILMS, STROKE, TOP, TOP_UM, on_sheet,
};
use saltmarsh_core::medium::{Amount, Carried};
use saltmarsh_core::paint::BANDS;
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::Engine;

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
fn a_brush_that_turns_where_it_stands_loses_nothing() {
    let mut s = sheet(&canvas(), [24.0, 16.0], 0.2);
    run(&brush("lay", 16.0, SMALL), &pulled(125.0, [3.0, 8.0], [21.0, 8.0], 0.8, 0.5), &mut s, None);
    // Both of its long sides lead at once, and what it finds goes into its belly at once.
    let turning = format!(r#"{SMALL}, "tip.angle_from": "heading", "mix.carry_mm": 1"#);
    let there_and_back = hand_drawn(20.0, 1.2, |t| Sample {
        t,
        x: 8.0 + if (t * 20.0).round() % 4.0 < 2.0 { 0.0 } else { 6.0 },
        y: 8.0,
        pressure: 0.9,
        tilt_x: 0.0,
        tilt_y: 25.0,
        twist: 0.0,
    });
    let before = on_sheet(&s);
    let (balance, _) = run(&brush("blend", 16.0, &turning), &there_and_back, &mut s, None);
    assert!(balance.held.mm3 > 0.1, "it takes up {} mm³", balance.held.mm3);
    let lost = off(on_sheet(&s) + balance.held, before);
    assert!(lost < 1e-5, "{lost} of all is gone");
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
    assert!(off(balance.found, balance.held) < 1e-9, "all that it holds it found: {balance:?}");
    let (loaded, _) = run(&wet, &pulled(125.0, [3.0, 3.0], [41.0, 3.0], 0.8, 0.5), &mut s, None);
    assert!(loaded.found.mm3 < 0.02 * loaded.held.mm3, "a fresh brush holds its own: {loaded:?}");
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
