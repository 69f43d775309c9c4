//! What a painter does with brushes and knives of paste: cut and scrape, let dry, drive the mixing, dip and wash, look at the tip.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common;

use common::oil::{KNIFE, SMALL, brush, canvas, off, pulled, run};
use common::{set, sheet};
use saltmarsh_core::chain::{Signals, Value};
use saltmarsh_core::hand::Gesture;
use saltmarsh_core::medium::paste::blocks::{BODY_UM, FILMS, TOP, TOP_UM, on_sheet};
use saltmarsh_core::medium::{Care, Turn, turn_in_place};
use saltmarsh_core::paint::BANDS;
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::drives::Drives;
use saltmarsh_core::tool::Tool;

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
    let mut s = sheet(&canvas(), [44.0, 18.0], 0.15);
    let wet = brush("lay", 16.0, &format!(r#"{SMALL}, "relief.lay_um": 110, "relief.reach_um": 400"#));
    run(&wet, &pulled(125.0, [3.0, 9.0], [41.0, 9.0], 0.8, 0.5), &mut s, None);
    // Another colour over a part of it: what lies in two films must not mix as it dries.
    let other = brush("lay", 16.0, &format!(r#"{SMALL}, "load.paint": {{"PW6": 1}}, "mix.own": 1"#));
    run(&other, &pulled(125.0, [3.0, 11.0], [25.0, 11.0], 0.5, 0.5), &mut s, None);
    let look = saltmarsh_core::relief::flat::rgba;
    let worst = |a: &[u8], b: &[u8]| a.iter().zip(b).map(|(a, b)| a.abs_diff(*b)).max();
    let (before, seen) = (on_sheet(&s), look(&s));
    turn_in_place(Turn::Dry, &mut s);
    assert!(off(before, on_sheet(&s)) < 1e-6, "drying loses nothing");
    assert!(
        worst(&seen, &look(&s)) <= Some(1),
        "what has dried looks as it did: {:?}",
        worst(&seen, &look(&s))
    );
    turn_in_place(Turn::Wet, &mut s);
    assert!(worst(&seen, &look(&s)) <= Some(1), "and so does what is wet again");
    assert!(off(before, on_sheet(&s)) < 1e-6);
    turn_in_place(Turn::Dry, &mut s);
    let over = pulled(125.0, [6.0, 9.0], [38.0, 9.0], 0.7, 0.6);
    let blender = brush("blend", 16.0, SMALL);
    assert_eq!(run(&blender, &over, &mut s, None).0.held.mm3, 0.0, "a blender finds nothing wet");
    turn_in_place(Turn::Wet, &mut s);
    assert!(off(before, on_sheet(&s)) < 1e-6);
    let (again, _) = run(&blender, &over, &mut s, None);
    assert!(again.held.mm3 > 0.1, "wet again, it is taken up: {}", again.held.mm3);
    // A veil over what has dried, dried in its turn, and nothing of what is seen moves.
    turn_in_place(Turn::Dry, &mut s);
    let veil = brush("lay", 16.0, &format!(r#"{SMALL}, "load.paint": {{"PR177": 1}}, "load.medium": 0.7"#));
    run(&veil, &pulled(125.0, [8.0, 10.0], [36.0, 10.0], 0.6, 0.6), &mut s, None);
    let (held, veiled) = (on_sheet(&s), look(&s));
    turn_in_place(Turn::Dry, &mut s);
    assert!(worst(&veiled, &look(&s)) <= Some(1) && off(held, on_sheet(&s)) < 1e-6);
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

#[test]
fn the_tip_that_is_looked_at_is_the_tip_that_paints() {
    let shape = |tool: &Tool, pressure: f64, tilt_deg: f64, lean_deg: f64| {
        let signals = Signals { pressure, tilt_deg, lean_deg, ..Signals::default() };
        let (qualities, _) = Drives::new(tool).at(tool, &signals, &mut Vec::new());
        tool.medium.tip_shape(&tool.settings(), &qualities, &signals).expect("a tip that bends")
    };
    let flat = brush("lay", 16.0, SMALL);
    let (light, firm) = (shape(&flat, 0.2, 20.0, 90.0), shape(&flat, 1.0, 20.0, 90.0));
    for held in [&light, &firm] {
        let ends: Vec<f64> = held.side.iter().map(|hair| hair.last().expect("points")[1]).collect();
        let mean = ends.iter().sum::<f64>() / ends.len() as f64;
        assert!(mean.abs() < 0.5, "hairs end on the sheet, not {mean} mm over it");
        // Each is as long as a hair, however far it bends.
        for hair in &held.side {
            let long: f64 = hair.windows(2).map(|p| (p[1][0] - p[0][0]).hypot(p[1][1] - p[0][1])).sum();
            assert!((long / 22.0 - 1.0).abs() < 0.12, "{long} mm of 22");
        }
    }
    let high = |held: &saltmarsh_core::medium::TipShape| 0.5 * (held.held_at[0][1] + held.held_at[1][1]);
    assert!(high(&firm) < high(&light) - 1.0, "{} and {} mm over the sheet", high(&light), high(&firm));
    assert!(firm.lowered_mm > light.lowered_mm && firm.force_gf > 4.0 * light.force_gf);
    // The patch is as wide and as deep as the trace of a stroke says.
    let mut s = sheet(&canvas(), [44.0, 16.0], 0.2);
    let mut engine =
        saltmarsh_core::stroke::Engine::new(std::rc::Rc::new(flat.clone()), Default::default(), &s)
            .expect("an engine");
    engine.extend(&pulled(125.0, [4.0, 8.0], [38.0, 8.0], 0.6, 0.6).passes()[0], &mut s).expect("reports");
    engine.lift(&mut s);
    let trace = engine.into_trace();
    let dab = trace.nearest(17.0).expect("a dab");
    let signals = &dab.signals;
    let now = shape(&flat, signals.pressure, signals.tilt_deg, signals.lean_deg);
    let across = |k: usize| {
        let all = now.patch.iter().map(|p| p[k]);
        all.clone().fold(f64::MIN, f64::max) - all.fold(f64::MAX, f64::min)
    };
    assert!((across(1) / dab.length_mm - 1.0).abs() < 0.02, "{} for {} mm", across(1), dab.length_mm);
    assert!((across(0) / dab.width_mm - 1.0).abs() < 0.02, "{} for {} mm", across(0), dab.width_mm);
    // Places are told on the sheet, wherever it lies on the ground: a row of the proof sheet is asked by them.
    let mut low = Sheet::new(canvas(), 220, 80, 0.2, [0.0, 42.0]).expect("a sheet");
    let mut engine =
        saltmarsh_core::stroke::Engine::new(std::rc::Rc::new(flat.clone()), Default::default(), &low)
            .expect("an engine");
    engine
        .extend(&pulled(125.0, [4.0, 50.0], [38.0, 50.0], 0.6, 0.6).passes()[0], &mut low)
        .expect("reports");
    engine.lift(&mut low);
    let there = engine.into_trace();
    let place = there.nearest(17.0).expect("a dab");
    assert!((place.y_mm - 8.0).abs() < 1.0, "{} mm down a sheet that begins at 42", place.y_mm);
    // In the air nothing touches; a blade's gap closes with the force.
    assert!(shape(&flat, 0.0, 20.0, 90.0).patch.is_empty());
    let knife = brush("lay", 60.0, KNIFE);
    let gap = |pressure: f64| shape(&knife, pressure, 20.0, 90.0).lowered_mm;
    assert!(gap(0.1) > 0.08 && gap(1.0) < 0.03, "{} and {} mm", gap(0.1), gap(1.0));
}

#[test]
fn paint_runs_where_it_stands_too_steep_and_none_is_lost() {
    // Mean slope across the way, µm/mm, and how much of the sheet is covered, pixels.
    let laid = |stands: f64, pixel: f64| {
        let mut s = sheet(&canvas(), [44.0, 14.0], pixel);
        let tool =
            brush("lay", 16.0, &format!(r#"{SMALL}, "relief.rim": 0, "relief.stand_um_mm": {stands}"#));
        let (balance, _) = run(&tool, &pulled(125.0, [4.0, 7.0], [40.0, 7.0], 0.7, 0.6), &mut s, None);
        assert!(off(on_sheet(&s), balance.gained()) < 1e-5, "{:?} of {balance:?}", on_sheet(&s));
        let v = |x: usize, y: usize| s.pixel(&FILMS, x, y).map_or(0.0, |p| p[TOP_UM] + p[BODY_UM]);
        let (mut slope, mut pairs, mut covered) = (0.0, 0.0, 0);
        for (x, y) in (0..s.width()).flat_map(|x| (0..s.height() - 1).map(move |y| (x, y))) {
            covered += usize::from(v(x, y) > 0.0);
            if v(x, y).min(v(x, y + 1)) > 20.0 {
                slope += f64::from((v(x, y + 1) - v(x, y)).abs()) / pixel;
                pairs += 1.0;
            }
        }
        (slope / pairs, covered)
    };
    for pixel in [0.0423, 0.0847] {
        let [(stiff, wide), (usual, _), (runny, wide_too)] = [2000.0, 110.0, 30.0].map(|s| laid(s, pixel));
        assert!(
            usual < 0.97 * stiff && runny < 0.88 * usual,
            "at {pixel} mm: {stiff}, {usual}, {runny} µm/mm"
        );
        // Where the ground is bare the edge holds it.
        assert_eq!(wide, wide_too);
    }
}

#[test]
fn paint_dries_when_it_has_stayed_open_and_what_is_mixed_with_the_slowest_in_it() {
    let of = |open: f64| brush("lay", 16.0, &format!(r#"{SMALL}, "relief.open_min": {open}"#));
    let mut s = sheet(&canvas(), [44.0, 24.0], 0.2);
    let across = |y: f64| pulled(125.0, [4.0, y], [40.0, y], 0.7, 0.6);
    run(&of(30.0), &across(5.0), &mut s, None);
    run(&of(3000.0), &across(17.0), &mut s, None);
    // A blender that comes from the slow paint leaves some of it in the fast.
    run(&brush("blend", 16.0, SMALL), &pulled(125.0, [34.0, 19.0], [34.0, 1.0], 0.7, 0.6), &mut s, None);
    let wet = |s: &Sheet, [x, y]: [f64; 2]| {
        let at = [x, y].map(|mm| (mm / 0.2) as usize);
        s.pixel(&FILMS, at[0], at[1]).is_some_and(|p| p[TOP_UM] + p[BODY_UM] > 0.0)
    };
    let (fast, slow, mixed) = ([12.0, 5.0], [12.0, 17.0], [34.0, 5.0]);
    let (before, kept) = (on_sheet(&s), s.snapshot());
    let wait = |s: &mut Sheet, minutes: f64| {
        turn_in_place(Turn::Wait(minutes), s);
        [fast, slow, mixed].map(|at| wet(s, at))
    };
    assert_eq!(wait(&mut s, 20.0), [true; 3]);
    assert_eq!(wait(&mut s, 20.0), [false, true, true], "40 minutes have gone by");
    // What is laid now is as fresh as can be.
    run(&of(30.0), &across(5.0), &mut s, None);
    assert_eq!(wait(&mut s, 20.0), [true; 3]);
    assert_eq!(wait(&mut s, 3000.0), [false; 3]);
    // Quick paint on a brush that went through slow paint is slow, until the brush is wiped.
    s.restore(&kept);
    let (_, dirty) = run(&of(30.0), &across(17.0), &mut s, None);
    let wiped = of(30.0).medium.care(&of(30.0).settings(), Some(&dirty), Care::Wipe);
    let dipped = of(30.0).medium.care(&of(30.0).settings(), wiped.as_ref(), Care::Dip);
    for (carried, stays) in [(Some(dirty), true), (dipped, false)] {
        let mut s = sheet(&canvas(), [44.0, 24.0], 0.2);
        run(&of(30.0), &across(5.0), &mut s, carried.as_ref());
        assert_eq!(wait(&mut s, 40.0)[0], stays);
    }
    s.restore(&kept);
    assert_eq!(s.waited_min(), 0.0, "time goes back with the sheet");
    wait(&mut s, 1e5);
    assert!(off(on_sheet(&s), before) < 1e-6, "nothing is lost by drying");
}

#[test]
fn what_leaves_a_brush_is_thinned_and_shifted_by_responses_and_all_of_it_is_told() {
    let with = |quality: &str, curve: &str, output: &str| {
        let mut tool = brush(
            "lay",
            16.0,
            &format!(r#"{SMALL}, "load.paint": {{"PR101": 1}}, "relief.stand_um_mm": 2000"#),
        );
        let response = format!(
            r#"{{"id": "m", "quality": "{quality}", "signal": "distance", "input": [0, 30], "curve": {curve}, "output": {output}, "amount": 1, "on": true}}"#
        );
        tool.responses.push(serde_json::from_str(&response).expect("a response"));
        tool.check().expect("within its limits");
        let mut s = sheet(&canvas(), [44.0, 14.0], 0.2);
        let (balance, _) = run(&tool, &pulled(125.0, [4.0, 7.0], [40.0, 7.0], 0.7, 0.6), &mut s, None);
        assert!(off(on_sheet(&s), balance.gained()) < 1e-4, "{:?} of {balance:?}", on_sheet(&s));
        // K in the shortest and in the longest waves, and S, for each µm, before and behind the middle.
        let per_um = |from: f64, to: f64| {
            let (mut out, mut um) = ([0.0; 3], 0.0);
            for (x, y) in
                ((from / 0.2) as usize..(to / 0.2) as usize).flat_map(|x| (0..70).map(move |y| (x, y)))
            {
                let (Some(film), Some(top)) = (s.pixel(&FILMS, x, y), s.pixel(&TOP, x, y)) else { continue };
                um += f64::from(film[TOP_UM]);
                for (sum, at) in out.iter_mut().zip([0, BANDS - 1, BANDS + 4]) {
                    *sum += f64::from(top[at]);
                }
            }
            out.map(|sum| sum / um)
        };
        [per_um(8.0, 12.0), per_um(32.0, 36.0)]
    };
    let plain = with("medium", "[[0, 0], [1, 0]]", "[0, 0.6]");
    assert!(off_by(plain[0], plain[1]) < 0.02, "{plain:?}");
    // Medium neither absorbs nor scatters.
    let thinned = with("medium", "[[0, 0], [0.5, 0], [0.6, 1], [1, 1]]", "[0, 0.6]");
    assert!(off_by(thinned[0], plain[0]) < 0.02);
    assert!(off_by(thinned[1], plain[1].map(|v| 0.4 * v)) < 0.05, "{thinned:?} of {plain:?}");
    let lighter = with("value", "[[0, 0], [0.5, 0], [0.6, 1], [1, 1]]", "[0, 20]");
    let [k, s] = [lighter[1][0] / plain[1][0], lighter[1][2] / plain[1][2]];
    assert!(k < 0.6 && (s - 1.0).abs() < 0.02, "absorbs {k}, scatters {s} of what it did");
    let warmer = with("warmth", "[[0, 0], [0.5, 0], [0.6, 1], [1, 1]]", "[0, 20]");
    let [short, long] = [warmer[1][0] / plain[1][0], warmer[1][1] / plain[1][1]];
    assert!(short > 1.5 && long < 0.6, "{short} of the short waves, {long} of the long ones");
}

/// The largest difference by shares.
fn off_by(a: [f64; 3], b: [f64; 3]) -> f64 {
    a.iter().zip(b).map(|(a, b)| (a / b - 1.0).abs()).fold(0.0, f64::max)
}
