//! Responses: how a signal becomes a quality, alone and together with others, and how the trace explains it.

use crate::common;

use std::collections::BTreeMap;

use common::{demo_tool, draw, ground, plain_tool, pull, sheet};
use saltmarsh_core::chain::Curve;
use saltmarsh_core::chain::{Action, Quality, Station};
use saltmarsh_core::chain::{Signal, Signals};
use saltmarsh_core::ground::Surface;
use saltmarsh_core::hand::Sample;
use saltmarsh_core::stroke::drives::Drives;
use saltmarsh_core::stroke::reason::explain;
use saltmarsh_core::stroke::{DabTrace, Trace, under};
use saltmarsh_core::tool::Tool;
use saltmarsh_core::touch::{Combine, Response};

fn response(id: &str, quality: Quality, signal: Signal, input: [f64; 2], output: [f64; 2]) -> Response {
    Response {
        id: id.to_owned(),
        quality,
        signal,
        input,
        curve: Curve::default(),
        output,
        amount: 1.0,
        on: true,
        repeat: false,
        around: false,
    }
}

fn with(responses: Vec<Response>) -> Tool {
    let mut tool = plain_tool(&[("touch.force_gf", 100.0)]);
    tool.responses = responses;
    tool.check().expect("test responses are in range");
    tool
}

fn value(tool: &Tool, quality: Quality, signals: &Signals) -> f64 {
    Drives::new(tool).at(tool, signals, &mut Vec::new()).0.get(quality)
}

#[test]
fn a_response_runs_through_range_curve_and_output() {
    let mut r = response("force", Quality::Force, Signal::Pressure, [0.2, 0.8], [50.0, 250.0]);
    r.curve = Curve::new(vec![[0.0, 0.0], [0.5, 0.2], [1.0, 1.0]]).expect("a curve");
    let mut tool = with(vec![r]);
    let force =
        |tool: &Tool, pressure: f64| value(tool, Quality::Force, &Signals { pressure, ..Signals::default() });
    // Below and above the input range the output stays at its ends; the middle goes through the curve's point.
    for (pressure, want) in [(0.0, 50.0), (0.2, 50.0), (0.5, 90.0), (0.8, 250.0), (1.0, 250.0)] {
        let got = force(&tool, pressure);
        assert!((got - want).abs() < 1e-9, "pressure {pressure}: {got} gf, want {want}");
    }
    // Half of it acts: halfway from the tool's own 100 gf.
    tool.responses[0].amount = 0.5;
    assert!((force(&tool, 1.0) - 175.0).abs() < 1e-9);
    tool.responses[0].on = false;
    assert_eq!(force(&tool, 1.0), 100.0, "off leaves the tool's own value");
    // Turned round: output may fall.
    (tool.responses[0].on, tool.responses[0].amount, tool.responses[0].output) = (true, 1.0, [250.0, 50.0]);
    assert!((force(&tool, 0.9) - 50.0).abs() < 1e-9);
}

#[test]
fn several_responses_combine_in_four_ways() {
    let signals = Signals { pressure: 0.5, speed_mm_s: 100.0, ..Signals::default() };
    // Pressure gives 10.1 mm; speed 0.5 as a factor, or 8 mm.
    let pressure = response("a", Quality::Width, Signal::Pressure, [0.0, 1.0], [0.1, 20.1]);
    let speed = |output| response("b", Quality::Width, Signal::Speed, [0.0, 200.0], output);
    let width = |combine: Combine, output| {
        let mut tool = with(vec![pressure.clone()]);
        tool.combine.insert(Quality::Width, combine);
        tool.responses.push(speed(output));
        tool.check().expect("in range");
        value(&tool, Quality::Width, &signals)
    };
    let close = |got: f64, want: f64| assert!((got - want).abs() < 1e-9, "{got}, want {want}");
    close(width(Combine::Product, [0.0, 1.0]), 10.1 * 0.5);
    close(width(Combine::Sum, [4.0, 12.0]), 10.1 + 8.0);
    close(width(Combine::Smallest, [4.0, 12.0]), 8.0);
    close(width(Combine::Largest, [4.0, 12.0]), 10.1);
    // Whatever comes of it stays within the quality's limits.
    close(width(Combine::Sum, [40.0, 40.0]), 40.0);
}

#[test]
fn angles_add_and_wrap_without_a_seam() {
    let turn = response("turn", Quality::Angle, Signal::Barrel, [0.0, 360.0], [0.0, 360.0]);
    let lean = response("lean", Quality::Angle, Signal::Lean, [0.0, 360.0], [0.0, 360.0]);
    let mut tool = with(vec![turn, lean]);
    common::set(&mut tool, "tip.angle_deg", saltmarsh_core::chain::Value::Number(20.0));
    let angle = |barrel_deg: f64, lean_deg: f64| {
        value(&tool, Quality::Angle, &Signals { barrel_deg, lean_deg, ..Signals::default() })
    };
    assert!((angle(300.0, 100.0) - 60.0).abs() < 1e-9, "20 + 300 + 100 is 60 once round");
    let (before, after) = (angle(359.9, 10.0), angle(0.1, 10.0));
    assert!(((after - before).rem_euclid(360.0) - 0.2).abs() < 1e-9, "no jump at 0/360: {before} to {after}");
}

#[test]
fn the_trace_names_what_holds_a_mark_back() {
    let ground = ground(Surface::ColdPressed);
    let reason = |tool: &Tool, pressure: f64, passes: usize| {
        let mut s = sheet(&ground, [40.0, 12.0], 0.15);
        let mut trace = draw(tool, &pull([5.0, 6.0], [35.0, 6.0], pressure), &mut s);
        for _ in 1..passes {
            trace = draw(tool, &pull([5.0, 6.0], [35.0, 6.0], pressure), &mut s);
        }
        let dab = trace.nearest(15.0).expect("a dab");
        (explain(tool, dab), dab.clone())
    };
    let tool = demo_tool("compressed-charcoal-edge");

    let (light, dab) = reason(&tool, 0.06, 1);
    assert_eq!(
        light.lines[0].station,
        Station::Touch,
        "a light touch is faint because of the hand: {light:?}"
    );
    let said = light.lines[0].what.to_string();
    assert!(said.contains(&format!("{:.0} gf", dab.hand_gf)), "{said}");
    let said = light.sentence.to_string();
    assert!(said.contains("covers") && said.contains("pressure"), "{said}");

    let (worn, _) = reason(&tool, 0.9, 12);
    assert_eq!(worn.lines[0].station, Station::Load, "after twelve passes the tooth is full: {worn:?}");

    let mut faint = tool.clone();
    common::set(&mut faint, "touch.flow", saltmarsh_core::chain::Value::Number(0.02));
    faint.responses.retain(|r| r.quality != Quality::Flow);
    let (thin, _) = reason(&faint, 0.9, 1);
    assert_eq!(
        (thin.lines[0].station, thin.lines[0].what.clone()),
        (Station::Touch, "flow".into()),
        "{thin:?}"
    );

    for r in [&light, &worn, &thin] {
        assert!(r.lines.windows(2).all(|w| w[0].weight >= w[1].weight), "heaviest first");
    }
}

/// Of every ready tool on two of the proof gestures, and of every gesture with many a tool: the lines multiply to the mark, and the mark is what the trace itself says was
/// covered, at which flow and opacity, of a tooth that had so much room.
#[test]
fn the_lines_of_every_reason_multiply_to_what_the_trace_says() {
    let told = |tool: &Tool, trace: &Trace, dab: &DabTrace| {
        let of = |id: &str| trace.value(dab, id);
        let flow = dab.qualities[Quality::Flow.index()];
        if tool.medium.name() == "paste" {
            return of("contact") * flow * of("paint_left");
        }
        if ["wash", "ink"].contains(&tool.medium.name()) {
            let brings = matches!(tool.action, Action::Lay | Action::Blend);
            return of("touched") * if brings { flow * of("water_left") * of("fed") } else { 1.0 };
        }
        let image = tool.action == Action::Lay && tool.choice("ground.enters") != "contact";
        let covered = of(if image { "contact" } else { "covered" });
        let opacity = if tool.action == Action::Lay { dab.qualities[Quality::Opacity.index()] } else { 1.0 };
        covered * flow * opacity * (1.0 - of("full"))
    };
    let tools: BTreeMap<_, _> = common::demo_tools().into_iter().collect();
    for (i, (name, tool)) in tools.into_iter().enumerate() {
        let ground = common::ground_of(&tool.ground);
        // Each with another gesture than the tool before it.
        let gesture = common::PROOF[i % common::PROOF.len()];
        let mut s = sheet(&ground, [80.0, 14.0], 0.4);
        let under = tool.medium.under(tool.action, None).expect("what it is shown on");
        under::lay_in_place(&under, &mut s).expect("it is laid");
        let trace = common::draw_wet(&tool, &common::demo_gesture(gesture), &mut s);
        for dab in trace.dabs.iter().step_by(3) {
            let reason = explain(&tool, dab);
            let product: f64 = reason.lines.iter().map(|l| l.times).product();
            let want = told(&tool, &trace, dab);
            // Saying it fails where a place in the sentence has no value.
            assert!(reason.sentence.to_string().ends_with('.'), "{reason:?}");
            for line in &reason.lines {
                assert!(
                    !format!("{} {:?}", line.what, line.much.as_ref().map(ToString::to_string))
                        .contains("{{")
                );
                let known = |id| tool.medium.parameters().iter().any(|p| p.id == id);
                let mends = line.response.is_some_and(|i| i < tool.responses.len())
                    || line.parameter.is_some_and(known);
                assert!(mends, "{name}: nothing mends {line:?}");
            }
            for (what, got) in [("mark", reason.mark), ("product of the lines", product)] {
                assert!(
                    (got - want).abs() < 1e-6 + 1e-6 * want,
                    "{name}, {gesture}, {:.1} mm: {what} {got}, the trace says {want}: {reason:?}",
                    dab.at_mm
                );
            }
        }
    }
}

/// Force that closes the tooth holds nothing back: where a firm stroke is weak, it is because the tooth was full.
#[test]
fn a_firm_stroke_over_a_full_tooth_is_not_for_want_of_force() {
    let tool = demo_tool("soft-pastel-side");
    let mut s = sheet(&ground(Surface::ColdPressed), [40.0, 16.0], 0.2);
    let way = pull([8.0, 8.0], [32.0, 8.0], 0.75);
    (0..8).for_each(|_| _ = draw(&tool, &way, &mut s));
    let trace = draw(&tool, &way, &mut s);
    let dab = trace.nearest(12.0).expect("a dab");
    let reason = explain(&tool, dab);
    assert!(trace.value(dab, "load") > 1.0, "it presses harder than closes the tooth");
    let said = reason.sentence.to_string();
    assert!(said.contains("full") && !said.contains("force"), "{said}");
}

#[test]
fn hardest_press_never_falls_and_opens_a_taper_at_the_start_only() {
    let ground = ground(Surface::HotPressed);
    let mut tool = plain_tool(&[("touch.force_gf", 80.0)]);
    tool.responses = vec![response("w", Quality::Width, Signal::HardestPress, [0.0, 1.0], [0.5, 6.0])];
    let gesture = common::hand_drawn(200.0, 1.0, |t| Sample {
        t,
        x: 4.0 + 30.0 * t,
        y: 6.0,
        pressure: if t < 0.5 { 1.6 * t } else { 0.8 - 1.4 * (t - 0.5) },
        tilt_x: 0.0,
        tilt_y: 0.0,
        twist: 0.0,
    });
    let mut s = sheet(&ground, [40.0, 12.0], 0.2);
    let widths: Vec<f64> = draw(&tool, &gesture, &mut s).dabs.iter().map(|d| d.width_mm).collect();
    assert!(widths.windows(2).all(|w| w[1] >= w[0] - 1e-9), "never narrower again");
    assert!(widths[0] < 1.0 && (widths[widths.len() - 1] - (0.5 + 5.5 * 0.8)).abs() < 0.1, "{widths:?}");
}

#[test]
fn a_response_to_distance_may_begin_again() {
    let mut r = response("beads", Quality::Width, Signal::Distance, [10.0, 30.0], [1.0, 5.0]);
    let at = |r: &Response, mm: f64| r.run(0, &Signals { distance_mm: mm, ..Signals::default() }, 0.0).output;
    assert_eq!([at(&r, 0.0), at(&r, 20.0), at(&r, 45.0)], [1.0, 3.0, 5.0]);
    r.repeat = true;
    assert_eq!([at(&r, 0.0), at(&r, 20.0), at(&r, 45.0), at(&r, 60.0)], [1.0, 3.0, 4.0, 3.0]);
    r.signal = Signal::Speed;
    assert_eq!(r.check(false, (0.1, 40.0, "mm")).unwrap_err().field, "repeat");
}

#[test]
fn chance_spreads_around_the_value_that_the_hand_gives() {
    let around = |signal, quality, output| Response {
        around: true,
        ..response("chance", quality, signal, [0.0, 1.0], output)
    };
    let width = response("w", Quality::Width, Signal::Pressure, [0.0, 1.0], [2.0, 10.0]);
    let dab = around(Signal::ChancePerDab, Quality::Width, [-0.05, 0.05]);
    // The order in which they stand does not matter: a spread comes last, and does not make the other a factor.
    for responses in [vec![width.clone(), dab.clone()], vec![dab.clone(), width]] {
        let tool = with(responses);
        for (pressure, chance_dab, want) in [(0.5, 0.0, 5.7), (0.5, 0.5, 6.0), (1.0, 1.0, 10.5)] {
            let got = value(&tool, Quality::Width, &Signals { pressure, chance_dab, ..Signals::default() });
            assert!((got - want).abs() < 1e-9, "{pressure}, {chance_dab}: {got} mm, want {want}");
        }
    }
    let angle = with(vec![around(Signal::ChancePerDab, Quality::Angle, [-10.0, 10.0])]);
    assert!((value(&angle, Quality::Angle, &Signals::default()) - 350.0).abs() < 1e-9, "angles are added to");

    // Stroke by stroke: every dab of a stroke the same, strokes apart, the same again with the same seed.
    let ground = ground(Surface::HotPressed);
    let mut tool = with(vec![around(Signal::ChancePerStroke, Quality::Width, [-0.3, 0.3])]);
    let widths = |tool: &Tool| -> Vec<f64> {
        let mut s = sheet(&ground, [40.0, 30.0], 0.3);
        let passes =
            (0..6).map(|i| pull([5.0, 4.0 * f64::from(i) + 4.0], [30.0, 4.0 * f64::from(i) + 4.0], 0.5));
        let mut clock = 0.0;
        let passes = passes.map(|g| {
            let pass: Vec<Sample> = g.passes()[0].iter().map(|s| Sample { t: s.t + clock, ..*s }).collect();
            clock = pass[pass.len() - 1].t + 0.1;
            pass
        });
        let gesture = saltmarsh_core::hand::Gesture::new(passes.collect()).expect("six strokes");
        let trace = draw(tool, &gesture, &mut s);
        let of = |pass: u32| -> Vec<f64> {
            trace.dabs.iter().filter(|d| d.pass == pass).map(|d| d.width_mm).collect()
        };
        (0..6)
            .map(|pass| {
                let all = of(pass);
                assert!(all.iter().all(|w| (w - all[0]).abs() < 1e-6), "one width a stroke");
                all[0]
            })
            .collect()
    };
    let first = widths(&tool);
    let own = tool.number("tip.width_mm");
    assert!(first.iter().all(|w| (w / own - 1.0).abs() <= 0.3 + 1e-6), "{first:?} around {own} mm");
    assert!(first.iter().any(|w| (w - first[0]).abs() > 0.02 * own), "strokes differ: {first:?}");
    assert_eq!(first, widths(&tool), "the same seed");
    tool.seed += 1;
    assert_ne!(first, widths(&tool), "another seed");

    let wrong =
        Response { signal: Signal::Pressure, ..around(Signal::ChancePerDab, Quality::Width, [0.0, 0.1]) };
    assert_eq!(wrong.check(false, (0.1, 40.0, "mm")).unwrap_err().field, "around");
    let far = around(Signal::ChancePerDab, Quality::Width, [-1.5, 0.1]);
    assert_eq!(far.check(false, (0.1, 40.0, "mm")).unwrap_err().field, "output[0]");
}
