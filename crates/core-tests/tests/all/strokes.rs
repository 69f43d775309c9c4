//! The invariants of models.md that hold for every stroke: report rate, batches, steadying, what is refused, what is traced.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common;

use std::rc::Rc;

use common::{
    PROOF, demo_gesture, demo_tool, differences, draw, ground, hand_drawn, mean, picture, plain_tool, powder,
    pull, set, sheet,
};
use proptest::prelude::*;
use saltmarsh_core::chain::Value;
use saltmarsh_core::ground::{Ground, Surface};
use saltmarsh_core::hand::Hand;
use saltmarsh_core::hand::path::{Path, Piece};
use saltmarsh_core::hand::{Gesture, Sample, angles};
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::engine::MOST_DABS;
use saltmarsh_core::stroke::{Engine, Trace};
use saltmarsh_core::tool::Tool;

/// A row of the proof sheet is pointed at, marked and cut across by them.
#[test]
fn places_are_told_on_the_sheet_wherever_it_lies_on_the_ground() {
    for name in ["vine-charcoal-side", "hog-flat", "wash-round-8", "ink-pointed-nib"] {
        let mut s = Sheet::new(ground(Surface::ColdPressed), 200, 64, 0.25, [3.0, 42.0]).expect("a sheet");
        let trace = draw(&demo_tool(name), &pull([13.0, 50.0], [43.0, 50.0], 0.6), &mut s);
        let dab = trace.nearest(15.0).expect("a dab");
        let off = [dab.x_mm - 25.0, dab.y_mm - 8.0];
        // A side that lies down, or a tip that bends, touches beside the pen.
        assert!(off.iter().all(|mm| mm.abs() < 6.0), "{name} at {}, {}", dab.x_mm, dab.y_mm);
    }
}

const PIXEL_300: f64 = 25.4 / 300.0;

/// A report of an upright pen at half pressure.
fn sample(t: f64, x: f64, y: f64) -> Sample {
    Sample { t, x, y, pressure: 0.5, tilt_x: 0.0, tilt_y: 0.0, twist: 0.0 }
}

/// A smooth hand: an S whose force, lean and barrel swell and fall.
fn smooth_hand(rate_hz: f64) -> Gesture {
    hand_drawn(rate_hz, 1.5, |t| {
        let turn = std::f64::consts::TAU * t / 1.5;
        let (tilt_x, tilt_y) = angles::to_tilt(
            (60.0 - 18.0 * turn.sin()).to_radians(),
            (1.2 + 0.6 * turn.cos()).rem_euclid(std::f64::consts::TAU),
        );
        Sample {
            t,
            x: 8.0 + 36.0 * t,
            y: 14.0 + 6.0 * turn.sin(),
            pressure: 0.45 - 0.35 * turn.cos(),
            tilt_x,
            tilt_y,
            twist: 40.0 + 20.0 * turn.sin(),
        }
    })
}

#[test]
fn a_stroke_does_not_depend_on_the_report_rate() {
    let ground = ground(Surface::ColdPressed);
    for name in ["vine-charcoal-side", "compressed-charcoal-edge", "sanguine-stick"] {
        let tool = demo_tool(name);
        let at = |rate| {
            let mut s = sheet(&ground, [70.0, 28.0], PIXEL_300);
            draw(&tool, &smooth_hand(rate), &mut s);
            picture(&s)
        };
        let fine = at(1000.0);
        let (ink, _) = differences(&picture(&sheet(&ground, [70.0, 28.0], PIXEL_300)), &fine);
        for rate in [60.0, 120.0, 240.0] {
            let (mean, _) = differences(&at(rate), &fine);
            // Of what the stroke takes from the paper, over the whole picture.
            assert!(
                mean < 0.02 * ink,
                "{name} at {rate} Hz differs from 1000 Hz by {mean} levels on average, of {ink} that it lays"
            );
        }
    }
}

/// The same hand reported at another rate, its landing and lifting too.
fn resampled(gesture: &Gesture, rate_hz: f64) -> Gesture {
    let passes = gesture.passes().iter().map(|pass| {
        let mut path = Path::default();
        let mut pieces: Vec<Piece> = pass.iter().filter_map(|s| path.push(s)).collect();
        pieces.extend(path.lift().0);
        let (start, end) = (pass[0].t, pass[pass.len() - 1].t);
        let count = ((end - start) * rate_hz).ceil().max(1.0);
        let at = |k: f64| {
            let t = start + (end - start) * k / count;
            pieces.iter().find(|p| p.end_s() >= t - 1e-9).expect("within the pass").sample_at(t)
        };
        (0..=count as usize).map(|k| at(k as f64)).collect()
    });
    Gesture::new(passes.collect()).expect("a gesture")
}

#[test]
fn proof_gestures_do_not_depend_on_the_report_rate_steadied_or_not() {
    let ground = ground(Surface::ColdPressed);
    let plain = demo_tool("vine-charcoal-side");
    let mut steadied = plain.clone();
    set(&mut steadied, "touch.steady", Value::Switch(true));
    let mut worst = (0.0, String::new());
    for name in PROOF {
        for (kind, tool) in [("free", &plain), ("steadied", &steadied)] {
            let at = |rate_hz| {
                let mut s = sheet(&ground, [80.0, 16.0], 25.4 / 150.0);
                draw(tool, &resampled(&demo_gesture(name), rate_hz), &mut s);
                picture(&s)
            };
            let fine = at(1000.0);
            for rate in [60.0, 120.0, 240.0] {
                let (mean, _) = differences(&at(rate), &fine);
                assert!(mean < 1.0, "{name}, {kind}, at {rate} Hz differs from 1000 Hz by {mean} levels");
                if mean > worst.0 {
                    worst = (mean, format!("{name}, {kind}, at {rate} Hz"));
                }
            }
        }
    }
    println!("worst: {} levels on average, {}", worst.0, worst.1);
}

#[test]
fn steadying_lags_by_what_the_trace_says() {
    let ground = ground(Surface::HotPressed);
    let mut tool = plain_tool(&[("touch.steady_hz", 1.0), ("touch.steady_speed", 0.0)]);
    let gesture = hand_drawn(250.0, 3.0, |t| Sample {
        t,
        x: 5.0 + 20.0 * t,
        y: 10.0,
        pressure: 0.5,
        tilt_x: 0.0,
        tilt_y: 30.0,
        twist: 0.0,
    });
    let free = draw(&tool, &gesture, &mut sheet(&ground, [80.0, 20.0], 0.2));
    assert!(free.dabs.iter().all(|d| d.lag_mm == 0.0), "off, it must not lag");
    set(&mut tool, "touch.steady", Value::Switch(true));
    let calm = draw(&tool, &gesture, &mut sheet(&ground, [80.0, 20.0], 0.2));
    let last = calm.dabs.last().expect("dabs");
    // A first-order low-pass follows a steady pull by speed/(2πf): 20 mm/s and 1 Hz.
    let want = 20.0 / std::f64::consts::TAU;
    assert!((last.lag_mm / want - 1.0).abs() < 0.02, "lags {} mm, theory {want} mm", last.lag_mm);
    assert!((last.lag_ms - 1000.0 / std::f64::consts::TAU).abs() < 4.0, "lags {} ms", last.lag_ms);
    assert!((65.0 - last.x_mm - last.lag_mm).abs() < 0.1, "ends at {} mm, pen at 65", last.x_mm);
    // So at every dab, also between the reports of a slow pen.
    let slow = hand_drawn(60.0, 3.0, |t| Sample {
        t,
        x: 5.0 + 20.0 * t,
        y: 10.0,
        pressure: 0.5,
        tilt_x: 0.0,
        tilt_y: 30.0,
        twist: 0.0,
    });
    let trace = draw(&tool, &slow, &mut sheet(&ground, [80.0, 20.0], 0.2));
    for dab in trace.dabs.iter().filter(|d| d.x_mm > 35.0) {
        assert!(
            (dab.lag_mm / want - 1.0).abs() < 0.03,
            "at {} mm it lags {} mm, theory {want}",
            dab.x_mm,
            dab.lag_mm
        );
    }
}

/// Runs a gesture in the batches that `cuts` makes of each pass.
fn in_batches(tool: &Rc<Tool>, gesture: &Gesture, sheet: &mut Sheet, cuts: &[usize]) -> Trace {
    let mut engine = Engine::new(tool.clone(), Hand::default(), sheet).expect("a valid tool");
    let mut sizes = cuts.iter().cycle();
    for pass in gesture.passes() {
        let mut rest = &pass[..];
        while !rest.is_empty() {
            let (batch, after) = rest.split_at((*sizes.next().unwrap()).clamp(1, rest.len()));
            engine.hear(batch).expect("a gesture's reports");
            // About as many pixels at a time as reports: dabs rest half done.
            engine.work(300 * batch.len().min(30), sheet);
            rest = after;
        }
        engine.hear_lift();
    }
    while engine.waits() {
        engine.work(2000, sheet);
    }
    engine.into_trace()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 12, ..ProptestConfig::default() })]
    #[test]
    fn a_stroke_does_not_depend_on_how_its_reports_are_batched_nor_its_work_divided(
        name in prop::sample::select(vec!["vine-charcoal-side", "finger", "dust-spatter", "chalk-side"]),
        cuts in prop::collection::vec(1_usize..40, 1..8),
    ) {
        thread_local!(static GROUND: Rc<Ground> = ground(Surface::Rough));
        let mut tool = demo_tool(name);
        set(&mut tool, "touch.steady", Value::Switch(cuts[0] % 2 == 0));
        let tool = Rc::new(tool);
        let gesture = demo_gesture("hatching");
        let laid = || {
            let mut s = GROUND.with(|g| sheet(g, [80.0, 14.0], 0.2));
            common::bed(&mut s);
            s
        };
        let mut s = laid();
        let trace = in_batches(&tool, &gesture, &mut s, &cuts);
        let mut whole = laid();
        let of_whole = draw(&tool, &gesture, &mut whole);
        prop_assert_eq!(s.checksum(), whole.checksum());
        prop_assert!(trace == of_whole, "the traces differ");
    }
}

#[test]
fn a_pen_that_reports_what_cannot_be_is_refused_by_field_and_nothing_is_lost() {
    let tool = Rc::new(demo_tool("vine-charcoal-side"));
    let mut s = sheet(&ground(Surface::ColdPressed), [40.0, 12.0], 0.2);
    let mut engine = Engine::new(tool, Hand::default(), &s).expect("a valid tool");
    let good = pull([5.0, 6.0], [20.0, 6.0], 0.5).passes()[0].clone();
    engine.extend(&good[..20], &mut s).expect("reports");
    let before = s.checksum();
    let next = good[20];
    for (field, bad) in [
        ("samples[1].pressure", Sample { pressure: f64::NAN, ..next }),
        ("samples[1].pressure", Sample { pressure: 1.5, ..next }),
        ("samples[1].x", Sample { x: f64::INFINITY, ..next }),
        ("samples[1].y", Sample { y: 10_001.0, ..next }),
        ("samples[1].tilt_x", Sample { tilt_x: 91.0, ..next }),
        ("samples[1].t", Sample { t: f64::NAN, ..next }),
        ("samples[1].t", Sample { t: 0.0, ..next }),
    ] {
        let refused = engine.extend(&[next, bad], &mut s).expect_err("must be refused");
        assert_eq!(refused.field, field, "{refused}");
        assert_eq!(s.checksum(), before, "nothing of a refused batch is laid: {field}");
    }
    // And it goes on as if nothing had been.
    engine.extend(&good[20..], &mut s).expect("reports");
    engine.lift(&mut s);
    let mut whole = sheet(&ground(Surface::ColdPressed), [40.0, 12.0], 0.2);
    draw(&demo_tool("vine-charcoal-side"), &pull([5.0, 6.0], [20.0, 6.0], 0.5), &mut whole);
    assert_eq!(s.checksum(), whole.checksum());
}

#[test]
fn a_gesture_without_end_is_cut_and_says_so() {
    let tool = plain_tool(&[("tip.width_mm", 0.1), ("touch.force_gf", 5.0)]);
    let far = |t: f64, x: f64| Sample { t, ..sample(t, x, 5.0) };
    // There and back, ten metres each way.
    let passes =
        vec![(0..40).map(|i| far(f64::from(i), if i % 2 == 0 { -9_999.0 } else { 9_999.0 })).collect()];
    let mut s = sheet(&ground(Surface::HotPressed), [4.0, 4.0], 0.2);
    let trace = draw(&tool, &Gesture::new(passes).expect("valid"), &mut s);
    let cut = trace.cut.expect("it was cut").to_string();
    assert!(cut.contains("dabs") || cut.contains("m of way"), "{cut}");
    assert!(trace.dabs.len() <= MOST_DABS, "{} dabs", trace.dabs.len());
    let short = draw(&tool, &pull([1.0, 2.0], [3.0, 2.0], 0.5), &mut s);
    assert_eq!(short.cut, None);
}

#[test]
fn two_even_strokes_on_one_sheet_are_two_films() {
    let mut tool = plain_tool(&[("touch.force_gf", 60.0), ("tip.width_mm", 4.0), ("touch.opacity", 1.0)]);
    set(&mut tool, "touch.build", Value::Choice("even".into()));
    let way = pull([4.0, 6.0], [36.0, 6.0], 0.5);
    let mut s = sheet(&ground(Surface::ColdPressed), [40.0, 12.0], 0.15);
    draw(&tool, &way, &mut s);
    let once = mean(&powder(&s, [80, 30, 180, 50]));
    let again = draw(&tool, &way, &mut s);
    let twice = mean(&powder(&s, [80, 30, 180, 50]));
    assert!(again.balance.brought.mm3 > 0.0 && twice > 1.05 * once, "{once} µm, then {twice}");
}

/// The one-euro filter's cutoff is `f_min + β·speed` with β in Hz for a mm/s, whatever the direction: a steady pull lags by
/// `v/(2π·f)` (a first-order low-pass).
#[test]
fn steadying_is_freed_by_the_pen_s_speed_alike_in_every_direction() {
    let ground = ground(Surface::HotPressed);
    let mut tool = plain_tool(&[("touch.steady_hz", 1.5), ("touch.steady_speed", 0.1)]);
    set(&mut tool, "touch.steady", Value::Switch(true));
    for speed in [20.0, 100.0] {
        for degrees in [0.0_f64, 45.0, 90.0] {
            let (sin, cos) = degrees.to_radians().sin_cos();
            let seconds = 2.5;
            let gesture = hand_drawn(250.0, seconds, |t| Sample {
                t,
                x: 5.0 + speed * cos * t,
                y: 5.0 + speed * sin * t,
                ..sample(t, 0.0, 0.0)
            });
            let trace = draw(&tool, &gesture, &mut sheet(&ground, [40.0, 40.0], 0.5));
            let lag = trace.dabs.last().expect("dabs").lag_mm;
            let want = speed / (std::f64::consts::TAU * (1.5 + 0.1 * speed));
            assert!(
                (lag / want - 1.0).abs() < 0.03,
                "{speed} mm/s at {degrees}°: lags {lag} mm, theory {want} mm"
            );
        }
    }
}

#[test]
fn strange_hands_do_no_harm() {
    let ground = ground(Surface::ColdPressed);
    let tool = demo_tool("vine-charcoal-side");
    let sample =
        |t: f64, x: f64, y: f64| Sample { t, x, y, pressure: 1.0, tilt_x: 90.0, tilt_y: -90.0, twist: 360.0 };
    let passes = vec![
        vec![sample(0.0, 5.0, 5.0)],                                               // a tap
        vec![sample(0.1, 5.0, 5.0); 4], // four reports of one moment
        vec![sample(0.2, -50.0, -50.0), sample(0.21, 90.0, 70.0)], // across the sheet and off it
        vec![sample(0.3, 9999.0, 9999.0), sample(0.31, 10_000.0, 10_000.0)], // never on the sheet
        vec![sample(0.4, 5.0, 5.0), sample(0.4, 5.0, 5.2), sample(0.9, 5.0, 5.2)], // a jump in no time
    ];
    let mut s = sheet(&ground, [20.0, 12.0], 0.1);
    let trace = draw(&tool, &Gesture::new(passes).expect("odd, but valid"), &mut s);
    let held = powder(&s, [0, 0, 200, 120]);
    assert!(held.iter().all(|v| v.is_finite() && (0.0..30.0).contains(v)), "only sound amounts on the sheet");
    assert!(held.iter().any(|v| *v > 0.0), "the tap left a mark");
    let numbers =
        trace.dabs.iter().flat_map(|d| [d.at_mm, d.signals.speed_mm_s].into_iter().chain(d.values.clone()));
    assert!(numbers.into_iter().all(f64::is_finite), "the trace holds only finite numbers");
}

#[test]
fn signals_are_what_the_hand_did() {
    let ground = ground(Surface::HotPressed);
    let tool = plain_tool(&[("touch.force_gf", 50.0)]);
    // 30 mm/s down and to the right, leaning 30° towards the painter; force rises and falls.
    let gesture = hand_drawn(200.0, 1.0, |t| Sample {
        t: t + 3.0,
        x: 5.0 + 18.0 * t,
        y: 5.0 + 24.0 * t,
        pressure: 0.2 + 0.6 * (1.0 - (2.0 * t - 1.0).abs()),
        tilt_x: 0.0,
        tilt_y: 30.0,
        twist: 350.0,
    });
    let mut s = sheet(&ground, [30.0, 35.0], 0.2);
    let trace = draw(&tool, &gesture, &mut s);
    let dabs = &trace.dabs;
    for d in &dabs[1..] {
        let g = &d.signals;
        let close = |name: &str, got: f64, want: f64, tolerance: f64| {
            assert!((got - want).abs() < tolerance, "{name} at {:.2} mm: {got}, want {want}", d.at_mm);
        };
        close("speed", g.speed_mm_s, 30.0, 0.01);
        close("heading", g.heading_deg, 53.130, 0.01);
        close("tilt", g.tilt_deg, 30.0, 1e-6);
        close("lean", g.lean_deg, 90.0, 1e-6);
        close("barrel", g.barrel_deg, 350.0, 1e-6);
        close("time", g.time_s, g.distance_mm / 30.0, 0.002);
        close("hardest press", g.hardest_press, if g.time_s < 0.5 { g.pressure } else { 0.8 }, 0.01);
        // The default pen: 4 gf at first contact, 400 gf in full, a straight law.
        close("force of the hand", d.hand_gf, 4.0 + 396.0 * g.raw_pressure, 1e-6);
    }
    close_to_thirty(trace.length_mm());
    let throws: Vec<f64> = dabs.iter().map(|d| d.signals.chance_dab).collect();
    assert!((mean(&throws) - 0.5).abs() < 0.08, "chance per dab averages {}", mean(&throws));
    assert!(dabs.iter().all(|d| d.signals.chance_stroke == dabs[0].signals.chance_stroke));
}

#[track_caller]
fn close_to_thirty(length: f64) {
    assert!((length - 30.0).abs() < 0.01, "the way is 30 mm, got {length}");
}

/// A picture that a person can read: ten tones from bare paper to black.
fn thumbnail(sheet: &Sheet, columns: usize, rows: usize) -> String {
    let rgba = picture(sheet);
    let (w, h) = (sheet.width(), sheet.height());
    let mut out = String::new();
    for row in 0..rows {
        for column in 0..columns {
            let (mut sum, mut count) = (0_u64, 0_u64);
            for y in row * h / rows..(row + 1) * h / rows {
                for x in column * w / columns..(column + 1) * w / columns {
                    sum += u64::from(rgba[(y * w + x) * 4 + 1]);
                    count += 1;
                }
            }
            let dark = 245_u64.saturating_sub(sum / count.max(1));
            out.push(b" .:-=+*#%@"[(dark * 10 / 230).min(9) as usize] as char);
        }
        out.push('\n');
    }
    out
}

/// What every tool makes of every proof gesture, bit for bit. A change here is a change of everybody's strokes: look at
/// the pictures before accepting it.
#[test]
fn proof_sheets_are_as_they_were() {
    let mut text = String::new();
    for tool in ["vine-charcoal-side", "compressed-charcoal-edge", "sanguine-stick", "chalk-side"] {
        let document = demo_tool(tool);
        let paper = document.ground.surface;
        let ground = ground(paper);
        for gesture in PROOF {
            let mut s = sheet(&ground, [80.0, 14.0], 0.2);
            draw(&document, &demo_gesture(gesture), &mut s);
            text += &format!("{tool}, {gesture}: {}\n", s.checksum());
            if gesture == "press-ramp" || gesture == "scrub" {
                text += &thumbnail(&s, 80, 7);
            }
        }
    }
    insta::assert_snapshot!(text);
}
