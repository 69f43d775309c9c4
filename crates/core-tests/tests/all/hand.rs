//! The stylus known: simulated pens, a proposed calibration, and what bends a pen's reports on the way.
#![allow(clippy::disallowed_methods)] // hands are drawn with the standard library

use crate::common;

use common::{demo_gesture, hand_drawn};
use saltmarsh_core::chain::Curve;
use saltmarsh_core::hand::generate::{Movement, generate};
use saltmarsh_core::hand::observed::observe;
use saltmarsh_core::hand::profile::simulated;
use saltmarsh_core::hand::propose::propose;
use saltmarsh_core::hand::steadying::{OneEuro, Steadying};
use saltmarsh_core::hand::way::{Outline, Way};
use saltmarsh_core::hand::{Calibration, DeviceProfile, Gesture, Sample};
use saltmarsh_core::touch::levels::usable_through;

/// A mark of a hand that lands, holds about `force_gf` with a tremor, and lifts.
fn mark(pen: &DeviceProfile, force_gf: f64, seed: f64) -> Vec<f64> {
    (0..160)
        .map(|i| {
            let t = f64::from(i) / 159.0;
            let shape = (t / 0.2).min((1.0 - t) / 0.15).min(1.0);
            let tremor = 1.0 + 0.04 * (31.0 * t + seed).sin() + 0.03 * (67.0 * t + 2.0 * seed).sin();
            pen.pressure(force_gf * shape * tremor)
        })
        .collect()
}

#[test]
fn a_proposal_finds_the_comfortable_force_of_many_hands() {
    let mut worst = 0.0_f64;
    for pen in simulated().into_iter().chain([DeviceProfile::default()]) {
        for comfortable in [140.0, 210.0, 300.0, 340.0] {
            let marks = |share: f64| -> Vec<Vec<f64>> {
                (0..4)
                    .map(|i| {
                        mark(&pen, comfortable * share * (1.0 + 0.03 * (f64::from(i) - 1.5)), f64::from(i))
                    })
                    .collect()
            };
            let (light, normal, firm) = (marks(0.28), marks(0.55), marks(1.0));
            let proposal = propose(&light, &normal, &firm, &pen).expect("three kinds of marks");
            let full = proposal.calibration.force_for(&pen, 1.0).expect("full output is reached");
            let off = full / comfortable - 1.0;
            worst = worst.max(off.abs());
            assert!(off.abs() < 0.05, "{}: full at {full} gf, comfortable {comfortable} gf", pen.name);
            let begins = proposal.forces_gf[0];
            assert!(begins < 0.28 * comfortable, "{}: light marks are lost, begins at {begins} gf", pen.name);
            let said = proposal.sentence.to_string();
            assert!(said.contains(&format!("{full:.0} gf")), "{said}");
        }
    }
    println!("worst proposal is off by {:.1} %", 100.0 * worst);
}

#[test]
fn marks_that_cannot_be_told_apart_are_refused_by_name() {
    let pen = DeviceProfile::default();
    let at = |force| vec![mark(&pen, force, 0.0)];
    assert_eq!(propose(&[], &at(100.0), &at(200.0), &pen).unwrap_err().field, "light");
    assert_eq!(propose(&at(100.0), &at(101.0), &at(200.0), &pen).unwrap_err().field, "normal");
    assert_eq!(propose(&at(50.0), &at(120.0), &at(90.0), &pen).unwrap_err().field, "firm");
}

/// Everything a painter would draw to try a pen: presses from nothing to full, leaning over, turning the barrel.
fn tried(pen: &DeviceProfile, bend: impl Fn(f64) -> f64) -> Vec<Vec<Sample>> {
    (0..12)
        .map(|stroke| {
            let gesture = hand_drawn(1000.0, 1.6, |t| {
                let press = (std::f64::consts::PI * t / 1.6).sin();
                Sample {
                    t,
                    x: 20.0 * t,
                    y: 5.0 * f64::from(stroke),
                    pressure: press * (1.0 - 0.02 * f64::from(stroke)),
                    tilt_x: 40.0 * press,
                    tilt_y: 10.0,
                    twist: 90.0 * press,
                }
            });
            let heard =
                pen.play(&gesture, &DeviceProfile::default(), stroke as u64).expect("pressed hard enough");
            heard.passes().concat().into_iter().map(|s| Sample { pressure: bend(s.pressure), ..s }).collect()
        })
        .collect()
}

#[track_caller]
fn warned(strokes: &[Vec<Sample>], pen: bool) -> Vec<&'static str> {
    observe(strokes, pen).warnings.iter().map(|w| w.code).collect()
}

#[test]
fn what_bends_a_pen_on_the_way_is_found_and_nothing_else() {
    let [fine, stiff, coarse, _] = simulated();
    // A driver's curve, rounded to the driver's own levels again.
    let requantised = |bend: fn(f64) -> f64| move |p: f64| (bend(p) * 8191.0).round() / 8191.0;
    let fast = DeviceProfile { rate_hz: 1000.0, levels: 1024, noise: 0.002, ..fine.clone() };
    assert_eq!(warned(&tried(&fast, |p| p), true), ["few-levels"]);
    assert_eq!(warned(&tried(&fast, |p| p.min(0.8)), true), ["capped", "few-levels"]);
    assert_eq!(warned(&tried(&fast, |p| 0.1 + 0.9 * p), true), ["floor", "few-levels"]);
    let bent = warned(&tried(&fast, requantised(|p| p.powf(0.5))), true);
    assert!(bent.contains(&"bent"), "{bent:?}");
    assert_eq!(warned(&tried(&stiff, |p| p), true), ["no-barrel"]);
    let poor = warned(&tried(&DeviceProfile { rate_hz: 1000.0, ..coarse }, |p| p), true);
    assert_eq!(poor, ["few-levels", "no-tilt", "no-barrel"]);
    let mouse: Vec<Vec<Sample>> =
        vec![(0..50).map(|i| Sample { t: f64::from(i) * 0.008, pressure: 0.5, ..still() }).collect()];
    assert_eq!(warned(&mouse, false), ["no-force"]);
    let seen = observe(&tried(&fast, |p| p), true);
    assert!((seen.rate_hz / 1000.0 - 1.0).abs() < 0.01, "rate {}", seen.rate_hz);
    assert_eq!(seen.levels, 1024);
}

fn still() -> Sample {
    Sample { t: 0.0, x: 0.0, y: 0.0, pressure: 0.0, tilt_x: 0.0, tilt_y: 0.0, twist: 0.0 }
}

#[test]
fn a_gesture_keeps_its_hand_through_any_stylus() {
    let plain = DeviceProfile::default();
    for pen in simulated() {
        let gesture = demo_gesture("slow-pull");
        let heard = pen.play(&gesture, &plain, 3).expect("pressed hard enough");
        assert_eq!(
            heard,
            pen.play(&gesture, &plain, 3).expect("again"),
            "the same seed gives the same reports"
        );
        let count = heard.passes().iter().flatten().count();
        let seconds = gesture.passes()[0].last().expect("samples").t - gesture.passes()[0][0].t;
        assert!(
            (count as f64 / (seconds * pen.rate_hz) - 1.0).abs() < 0.1,
            "{}: {count} reports in {seconds} s",
            pen.name
        );
        for s in heard.passes().iter().flatten() {
            let top = f64::from(pen.levels - 1);
            assert!(
                ((s.pressure * top).round() - s.pressure * top).abs() < 1e-6,
                "{} is no level",
                s.pressure
            );
            // What the hand did then, in gf, comes through within the noise (4 deviations) and a level.
            let at = gesture.passes()[0]
                .iter()
                .min_by(|a, b| (a.t - s.t).abs().total_cmp(&(b.t - s.t).abs()))
                .expect("samples");
            let (want, got) = (plain.force_gf(at.pressure), pen.force_gf(s.pressure));
            let slack = 6.0 + 4.5 * pen.noise * (pen.full_gf - pen.first_gf);
            assert!(
                (want - got).abs() < slack,
                "{} at {} s: {got} gf, the hand pressed {want} gf",
                pen.name,
                s.t
            );
            assert_eq!(pen.barrel, s.twist != 0.0);
        }
    }
    let [_, stiff, _, _] = simulated();
    let light = Gesture::new(vec![vec![
        Sample { pressure: 0.02, ..still() },
        Sample { t: 0.1, pressure: 0.03, ..still() },
    ]]);
    let refused = stiff.play(&light.expect("a gesture"), &plain, 0).unwrap_err();
    assert_eq!(refused.field, "first_gf");
}

#[test]
fn the_force_for_an_output_is_where_the_curve_first_reaches_it() {
    let pen = DeviceProfile { levels: 1001, first_gf: 0.0, full_gf: 500.0, ..DeviceProfile::default() };
    let calibration = Calibration { curve: Curve::new(vec![[0.2, 0.0], [0.6, 1.0]]).expect("a curve") };
    assert_eq!(calibration.force_for(&pen, 1.0).map(f64::round), Some(300.0));
    assert_eq!(calibration.force_for(&pen, 0.5).map(f64::round), Some(200.0));
    let capped = Calibration { curve: Curve::new(vec![[0.0, 0.0], [1.0, 0.7]]).expect("a curve") };
    assert_eq!(capped.force_for(&pen, 1.0), None);
}

#[test]
fn levels_are_counted_through_calibration_and_curve() {
    let straight = Curve::new(vec![[0.0, 0.0], [1.0, 1.0]]).expect("a curve");
    let half = Calibration { curve: Curve::new(vec![[0.25, 0.0], [0.75, 1.0]]).expect("a curve") };
    // Of levels 0..1000, 250..=750 come through the calibration; a response over its upper half keeps 500..=750.
    assert_eq!(usable_through(&half, [0.0, 1.0], &straight, 1001).usable_levels, 501);
    let upper = usable_through(&half, [0.5, 1.0], &straight, 1001);
    assert_eq!(upper.usable_levels, 251);
    assert!(
        (upper.max_step - 0.004).abs() < 1e-9,
        "one level is 1/250 of the output, got {}",
        upper.max_step
    );
}

#[test]
fn steadying_calms_a_trembling_hand_more_than_a_fast_one() {
    let settings = Steadying { min_cutoff_hz: 1.5, beta: 0.05, derivative_cutoff_hz: 1.0 };
    let lag = |speed: f64| {
        let mut filter = OneEuro::new(settings);
        (0..2000)
            .map(|i| speed * f64::from(i) / 1000.0 - filter.push(speed * f64::from(i) / 1000.0, 1000.0))
            .last()
            .expect("reports")
            / speed
    };
    assert!(lag(5.0) > 2.0 * lag(200.0), "lag in s: {} slow, {} fast", lag(5.0), lag(200.0));
    let mut filter = OneEuro::new(settings);
    let (mut raw, mut calm) = (0.0_f64, 0.0_f64);
    for i in 0..2000 {
        let tremor = 0.2 * (std::f64::consts::TAU * 9.0 * f64::from(i) / 1000.0).sin();
        let steadied = filter.push(tremor, 1000.0);
        if i > 500 {
            raw = raw.max(tremor.abs());
            calm = calm.max(steadied.abs());
        }
    }
    assert!(calm < 0.4 * raw, "a tremor of {raw} mm comes through as {calm} mm");
}

#[test]
fn gestures_are_turned_scaled_and_trimmed() {
    let gesture = demo_gesture("flicks");
    let close = |a: f64, b: f64| (a - b).abs() < 1e-9;
    let back = gesture.reversed().expect("reversed").reversed().expect("and again");
    let first = gesture.passes()[0][0].t;
    for (a, b) in gesture.passes().iter().flatten().zip(back.passes().iter().flatten()) {
        assert!(
            close(a.x, b.x)
                && close(a.pressure, b.pressure)
                && close(a.t - first, b.t - back.passes()[0][0].t)
        );
    }
    let large = gesture.scaled(2.0).expect("scaled");
    let width = |g: &Gesture| g.bounds_mm()[2] - g.bounds_mm()[0];
    assert!(close(width(&large), 2.0 * width(&gesture)) && close(large.duration_s(), gesture.duration_s()));
    assert_eq!(gesture.scaled(0.0).unwrap_err().field, "scale");
    let middle = gesture.trimmed(0.25 * gesture.duration_s(), 0.75 * gesture.duration_s()).expect("trimmed");
    assert!(
        middle.duration_s() <= 0.5 * gesture.duration_s() + 1e-9
            && middle.passes().len() < gesture.passes().len()
    );
    assert_eq!(gesture.trimmed(900.0, 901.0).unwrap_err().field, "trim");
}

#[test]
fn generated_hands_move_as_asked() {
    let plain = DeviceProfile::default();
    let asked = |way| Movement {
        way,
        length_mm: 60.0,
        speed_mm_s: 80.0,
        force_gf: [60.0, 260.0, 20.0],
        tilt_deg: 40.0,
        lean_deg: 30.0,
        barrel_deg: 0.0,
        tremor_mm: 0.0,
        seed: 1,
    };
    for way in [Way::Line, Way::Arc, Way::Wave, Way::Loops, Way::Zigzag] {
        let gesture = generate(&asked(way), None, &plain).expect("generated");
        let pass = &gesture.passes()[0];
        let steps: Vec<f64> = pass.windows(2).map(|w| (w[1].x - w[0].x).hypot(w[1].y - w[0].y)).collect();
        let length: f64 = steps.iter().sum();
        assert!((length / 60.0 - 1.0).abs() < 0.01, "{way:?} is {length} mm long");
        assert!((gesture.duration_s() - 0.75).abs() < 1e-9, "{way:?} takes {} s", gesture.duration_s());
        let most = pass.iter().map(|s| plain.force_gf(s.pressure)).fold(0.0, f64::max);
        assert!((most - 260.0).abs() < 3.0, "{way:?} presses {most} gf at most");
        // Least jerk: the fastest is 15/8 of the mean (Flash & Hogan 1985); legs between corners have it too.
        let fastest = steps.iter().copied().fold(0.0, f64::max) * 200.0;
        assert!((fastest / (80.0 * 15.0 / 8.0) - 1.0).abs() < 0.05, "{way:?} is {fastest} mm/s at most");
    }
    // An outline: two strokes one after another, a corner at which the hand rests, all of it as long as asked.
    let outline =
        Outline { strokes: vec![vec![[0.0, 0.0], [3.0, 0.0], [3.0, 1.0]], vec![[5.0, 0.0], [5.0, 2.0]]] };
    let drawn = generate(&asked(Way::Outline), Some(&outline), &plain).expect("generated");
    let [first, second] = drawn.passes() else { panic!("a pass a stroke, got {}", drawn.passes().len()) };
    let way = |p: &[Sample]| p.windows(2).map(|w| (w[1].x - w[0].x).hypot(w[1].y - w[0].y)).sum::<f64>();
    assert!((way(first) - 40.0).abs() < 0.1 && (way(second) - 20.0).abs() < 0.1, "4 to 2 of 60 mm");
    assert!(second[0].t > first[first.len() - 1].t + 0.1, "the pen is lifted between");
    let corner = first.iter().min_by(|a, b| {
        let far = |s: &Sample| (s.x - first[0].x - 30.0).hypot(s.y - first[0].y);
        far(a).total_cmp(&far(b))
    });
    let at = first.iter().position(|s| Some(s) == corner).expect("passes the corner");
    let speed = |i: usize| (first[i + 1].x - first[i].x).hypot(first[i + 1].y - first[i].y) * 200.0;
    assert!(speed(at) < 15.0 && speed(at / 2) > 100.0, "rests at the corner: {} mm/s", speed(at));
    let nothing = Outline { strokes: vec![vec![[1.0, 1.0], [1.0, 1.0]]] };
    assert_eq!(generate(&asked(Way::Outline), Some(&nothing), &plain).unwrap_err().field, "outline");
    let calm = generate(&asked(Way::Line), None, &plain).expect("generated");
    let shaky = generate(&Movement { tremor_mm: 0.5, ..asked(Way::Line) }, None, &plain).expect("generated");
    let off = |g: &Gesture| g.passes()[0].iter().map(|s| (s.y - 7.0).abs()).fold(0.0, f64::max);
    assert!(off(&calm) < 1e-9 && (0.3..1.0).contains(&off(&shaky)), "trembles by {} mm", off(&shaky));
    assert_eq!(
        generate(&Movement { speed_mm_s: 0.0, ..asked(Way::Line) }, None, &plain).unwrap_err().field,
        "speed_mm_s"
    );
}
