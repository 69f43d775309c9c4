//! Advice on a tool, and two places compared: what is said, and that the remedy mends it.
#![allow(clippy::disallowed_methods)] // hands are drawn with the standard library

use crate::common;

use std::rc::Rc;

use common::{PROOF, demo_gesture, demo_tool, draw, ground, hand_drawn, plain_tool, set, sheet};
use saltmarsh_core::chain::Value;
use saltmarsh_core::ground::{Ground, Surface};
use saltmarsh_core::hand::{DeviceProfile, Hand, Sample};
use saltmarsh_core::stroke::advice::{Advice, advise, exercised, together};
use saltmarsh_core::stroke::compare::compare;
use saltmarsh_core::tool::Tool;

/// What is said of a tool after the proof gestures, with a hand.
fn advice(ground: &Rc<Ground>, tool: &Tool, hand: &Hand) -> Vec<Advice> {
    let asked: Vec<_> = PROOF
        .iter()
        .map(|name| {
            let trace = draw(tool, &demo_gesture(name), &mut sheet(ground, [80.0, 14.0], 0.5));
            exercised(&trace, tool.responses.len())
        })
        .collect();
    advise(tool, hand, &together(&asked))
}

/// Codes of advice that can all be said: a place in a sentence that has no value fails.
fn codes(of: &[Advice]) -> Vec<&'static str> {
    of.iter()
        .for_each(|a| assert!(a.sentence.to_string().ends_with('.') && !a.remedy.to_string().is_empty()));
    of.iter().map(|a| a.code).collect()
}

fn with_responses(responses: serde_json::Value) -> Tool {
    let json = serde_json::json!({"format": "saltmarsh.tool", "version": 1, "name": "trap", "medium": "dry", "action": "lay",
        "responses": responses});
    Tool::parse(&json.to_string()).expect("a valid tool")
}

fn response(id: &str, signal: &str, input: [f64; 2], quality: &str, output: [f64; 2]) -> serde_json::Value {
    serde_json::json!({"id": id, "signal": signal, "input": input, "quality": quality, "output": output,
        "curve": [[0.0, 0.0], [1.0, 1.0]], "amount": 1.0, "on": true})
}

#[test]
fn good_tools_are_left_in_peace() {
    let ground = ground(Surface::HotPressed);
    for name in ["vine-charcoal-side", "compressed-charcoal-edge", "sanguine-stick", "chalk-side"] {
        let said = advice(&ground, &demo_tool(name), &Hand::default());
        assert!(said.is_empty(), "{name}: {said:?}");
    }
}

#[test]
fn every_trap_is_named_and_its_remedy_mends_it() {
    let ground = ground(Surface::HotPressed);
    let flat = |curve: serde_json::Value| {
        let mut r = response("late", "pressure", [0.0, 1.0], "force", [0.0, 300.0]);
        r["curve"] = curve;
        r
    };
    let cases = [
        (
            "size-and-tone",
            serde_json::json!([
                response("size", "pressure", [0.0, 1.0], "width", [1.0, 6.0]),
                response("tone", "pressure", [0.0, 1.0], "opacity", [0.0, 1.0])
            ]),
        ),
        ("no-range", serde_json::json!([response("dead", "pressure", [0.0, 1.0], "force", [120.0, 120.0])])),
        // No proof gesture presses beyond 96 %.
        ("flat", serde_json::json!([flat(serde_json::json!([[0.0, 0.3], [0.96, 0.3], [1.0, 1.0]]))])),
    ];
    for (code, responses) in cases {
        let tool = with_responses(responses);
        let said = advice(&ground, &tool, &Hand::default());
        assert_eq!(codes(&said), [code], "{said:?}");
        let mended = advice(&ground, &said[0].tool, &Hand::default());
        assert!(mended.is_empty(), "{code}: {} leaves {mended:?}", said[0].remedy);
    }

    let leaning =
        with_responses(serde_json::json!([response("lean", "tilt", [0.0, 60.0], "side", [0.0, 8.0])]));
    assert!(advice(&ground, &leaning, &Hand::default()).is_empty());
    let upright = Hand {
        profile: DeviceProfile { tilt_range_deg: 0.0, ..DeviceProfile::default() },
        ..Hand::default()
    };
    assert_eq!(codes(&advice(&ground, &leaning, &upright)), ["no-tilt"]);

    let mut close = plain_tool(&[("tip.spacing", 0.02)]);
    set(&mut close, "tip.spacing_auto", Value::Switch(false));
    let said = advice(&ground, &close, &Hand::default());
    assert_eq!(codes(&said), ["close-dabs"]);
    // The sentence says how many times more dabs; count them.
    let dabs = |tool: &Tool| {
        let g = demo_gesture("slow-pull");
        draw(tool, &g, &mut sheet(&ground, [80.0, 14.0], 0.5)).dabs.len() as f64
    };
    let times = dabs(&close) / dabs(&said[0].tool);
    let sentence = said[0].sentence.to_string();
    let told: f64 = sentence.split(' ').filter_map(|w| w.parse().ok()).next().expect("a number");
    assert!((times / told - 1.0).abs() < 0.15, "told {told} times, counted {times}: {sentence}");
}

#[test]
fn a_response_that_no_gesture_moves_is_told() {
    let tool =
        with_responses(serde_json::json!([response("turn", "barrel", [0.0, 360.0], "width", [1.0, 6.0])]));
    let still = hand_drawn(200.0, 1.0, |t| Sample {
        t,
        x: 10.0 + 30.0 * t,
        y: 7.0,
        pressure: 0.5,
        tilt_x: 0.0,
        tilt_y: 30.0,
        twist: 20.0,
    });
    let trace = draw(&tool, &still, &mut sheet(&ground(Surface::HotPressed), [80.0, 14.0], 0.5));
    let said = advise(&tool, &Hand::default(), &exercised(&trace, 1));
    assert_eq!(codes(&said), ["not-exercised"]);
}

#[test]
fn comparison_puts_what_differs_most_first() {
    let tool = demo_tool("vine-charcoal-side");
    let ramp = draw(
        &tool,
        &demo_gesture("press-ramp"),
        &mut sheet(&ground(Surface::ColdPressed), [80.0, 14.0], 0.25),
    );
    let (a, b) = (ramp.nearest(15.0).expect("a dab"), ramp.nearest(60.0).expect("a dab"));
    let said = compare(&*tool.medium, a, b);
    let of = |what: &str| {
        said.iter().find(|d| d.what == what).unwrap_or_else(|| panic!("{what} is missing: {said:?}"))
    };
    assert_eq!((of("force of the hand").a, of("force of the hand").b), (a.hand_gf, b.hand_gf));
    assert!(said.windows(2).all(|w| w[0].weight >= w[1].weight));
    assert!(
        of("touched").weight > of("footprint, width").weight,
        "the ramp changes force, not the stick: {said:?}"
    );
    assert!(compare(&*tool.medium, a, a).is_empty());
}

#[test]
fn advice_on_brushes_names_what_cannot_go_together_and_its_remedy_mends_it() {
    let said = |tool: &Tool| advise(tool, &Hand::default(), &[]);
    let ready = |name: &str, id: &str, value: f64| {
        let mut tool = demo_tool(name);
        tool.parameters.insert(id.to_owned(), saltmarsh_core::chain::Value::Number(value));
        tool
    };
    for (code, tool) in [
        ("limp-hairs", ready("hog-flat", "tip.hair_mm", 0.1)),
        ("limp-hairs", ready("hog-flat", "tip.hair_count", 20.0)),
        ("few-hairs", ready("synthetic-flat", "tip.hair_count", 6.0)),
        ("short-load", ready("hog-flat", "load.ml", 0.01)),
        ("two-limits", ready("hog-flat", "relief.lay_um", 400.0)),
    ] {
        let before = said(&tool);
        _ = codes(&before);
        let found =
            before.iter().find(|a| a.code == code).unwrap_or_else(|| panic!("{code}: {:?}", codes(&before)));
        found.tool.check().expect("the remedy is a tool");
        let mut mended = found.tool.clone();
        // A remedy may be a step on the way.
        for _ in 0..4 {
            let Some(again) = said(&mended).into_iter().find(|a| a.code == code) else { break };
            mended = again.tool;
        }
        assert!(!said(&mended).iter().any(|a| a.code == code), "{code} is not mended by: {}", found.remedy);
    }
    for (name, tool) in common::demo_tools() {
        let of_brushes = ["limp-hairs", "few-hairs", "short-load", "two-limits"];
        let there = said(&tool);
        assert!(!there.iter().any(|a| of_brushes.contains(&a.code)), "{name}: {:?}", codes(&there));
    }
}

#[test]
fn a_tool_turns_into_another_medium_and_says_what_is_lost() {
    use saltmarsh_core::medium::MediumName;
    use saltmarsh_core::tool::turned::turned;
    let named = |name: &str| MediumName::named(name).expect("a medium");
    for (name, tool) in common::demo_tools() {
        for medium in MediumName::all() {
            let next = turned(&tool, medium);
            next.tool.check().unwrap_or_else(|e| panic!("{name} as {medium:?}: {e}"));
            assert_eq!(
                (&next.tool.name, &next.tool.ground, next.tool.seed),
                (&tool.name, &tool.ground, tool.seed)
            );
        }
        let same = turned(&tool, tool.medium);
        assert_eq!((same.tool, same.lost), (tool.clone(), vec![]), "{name}");
    }
    let charcoal = turned(&demo_tool("vine-charcoal-side"), named("wash"));
    let lost: Vec<String> = charcoal.lost.iter().map(ToString::to_string).collect();
    assert!(lost.iter().any(|l| l.contains(" → ") && !l.contains("{{")), "{lost:?}");
    let brush = demo_tool("hog-flat");
    let dry = turned(&brush, named("dry"));
    assert_eq!(dry.tool.number("tip.angle_deg"), brush.number("tip.angle_deg"));
    assert!(
        dry.tool.responses.iter().any(|r| r.quality == saltmarsh_core::chain::Quality::Force),
        "its force follows the pen"
    );
    assert!(dry.lost.contains(&"Paint".into()), "{:?}", dry.lost);
}
