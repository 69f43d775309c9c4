//! Tool documents: what is refused and how, the canonical form, the schema, relevance.

mod common;

use common::demo_tool;
use saltmarsh_core::chain::Action;
use saltmarsh_core::tool::relevance::relevance;
use saltmarsh_core::tool::{Tool, schema};
use serde_json::{Value, json};

fn document() -> Value {
    serde_json::from_str(&demo_tool("vine-charcoal-side").canonical()).expect("canonical JSON")
}

/// The refusal of the document after a change at a JSON pointer.
fn refusal(pointer: &str, value: Value) -> saltmarsh_core::FieldError {
    let mut json = document();
    *json.pointer_mut(pointer).unwrap_or_else(|| panic!("{pointer} is in the document")) = value;
    Tool::from_json(json).expect_err("must be refused")
}

#[test]
fn bad_documents_are_refused_with_field_and_limit() {
    let many: Vec<[f64; 2]> = (0..65).map(|i| [f64::from(i) / 64.0, 0.5]).collect();
    // Where, what, the field that the refusal names, and the limit it states.
    let cases = [
        ("/version", json!(99), "version", "newer"),
        ("/version", json!(0), "version", "from 1"),
        ("/version", json!("one"), "version", "from 1"),
        ("/format", json!("other.tool"), "format", "saltmarsh.tool"),
        ("/name", json!("  "), "name", "1 to 120"),
        ("/name", json!("x".repeat(121)), "name", "1 to 120"),
        ("/intent", json!("x".repeat(401)), "intent", "400"),
        ("/parameters/tip.width_mm", json!(-1.0), "parameters.tip.width_mm", "from 0.1 to 40 mm"),
        ("/parameters/tip.width_mm", json!("wide"), "parameters.tip.width_mm", "from 0.1 to 40 mm"),
        ("/parameters/load.stick", json!("graphite rod"), "parameters.load.stick", "charcoal"),
        ("/parameters/ground.swap", json!(3), "parameters.ground.swap", "true or false"),
        ("/responses/1/curve", json!([[0.5, 0], [0.2, 1]]), "responses[1].curve.points[1]", "must rise"),
        ("/responses/1/curve", json!([[0, 0], [0, 1]]), "responses[1].curve.points[1]", "must rise"),
        ("/responses/1/curve", json!([[0, 0], [1, 1.5]]), "responses[1].curve.points[1]", "from 0 to 1"),
        ("/responses/1/curve", json!([[0, 0], [1, null]]), "responses[1].curve.points[1]", "from 0 to 1"),
        ("/responses/1/curve", json!([[0, 0]]), "responses[1].curve.points", "2 to 64"),
        ("/responses/1/curve", json!(many), "responses[1].curve.points", "2 to 64 points, got 65"),
        ("/responses/1/input", json!([0.5, 0.5]), "responses[1].input", "above"),
        ("/responses/1/input", json!([0, 7]), "responses[1].input[1]", "from 0 to 1"),
        ("/responses/1/output", json!([0, 9000]), "responses[1].output[1]", "from 0 to 1500 gf"),
        ("/responses/1/amount", json!(1.2), "responses[1].amount", "from 0 to 1"),
        ("/responses/1/signal", json!("mood"), "responses[1]", "mood"),
        ("/responses/1/id", json!("pressure-width"), "responses[1].id", "twice"),
        ("/medium", json!("fresco"), "medium", "one of dry"),
    ];
    for (pointer, value, field, limit) in cases {
        let e = refusal(pointer, value.clone());
        assert_eq!(e.field, field, "{pointer} = {value}: {e}");
        assert!(e.message.contains(limit), "{pointer} = {value}: «{e}» does not state «{limit}»");
    }
    let mut unknown = document();
    unknown["parameters"]["tip.glitter"] = json!(1);
    assert_eq!(Tool::from_json(unknown).expect_err("unknown").field, "parameters.tip.glitter");
    for text in ["", "nonsense", "[]", "{\"version\": 1}", &"[".repeat(100_000)] {
        assert!(Tool::parse(text).is_err(), "{:.20} is no tool", text);
    }
}

#[test]
fn documents_come_back_as_they_were_and_hash_alike() {
    for name in ["vine-charcoal-side", "compressed-charcoal-edge", "sanguine-stick", "chalk-side"] {
        let tool = demo_tool(name);
        let again = Tool::parse(&tool.canonical()).expect("the canonical form is valid");
        assert_eq!(tool, again, "{name}");
        assert_eq!(tool.content_hash(), again.content_hash(), "{name}");
    }
    let (mut a, b) = (demo_tool("chalk-side"), demo_tool("chalk-side"));
    a.seed += 1;
    assert_ne!(a.content_hash(), b.content_hash(), "another seed is another tool");
}

#[test]
fn parameters_without_effect_say_why() {
    let reason = |tool: &Tool, id: &str| {
        let all = relevance(tool);
        all.into_iter().find(|r| r.id == id).map(|r| (r.acts, r.reason)).expect("every parameter is answered")
    };
    let mut tool = demo_tool("vine-charcoal-side");
    assert_eq!(reason(&tool, "touch.force_gf"), (false, "pressure gives it".into()));
    assert_eq!(reason(&tool, "tip.spacing"), (false, "spacing sets itself".into()));
    assert_eq!(reason(&tool, "load.hardness_gf_mm2"), (true, String::new()));
    // Without its response, the tool's own force acts.
    tool.responses.iter_mut().for_each(|r| r.on = false);
    assert_eq!(reason(&tool, "touch.force_gf"), (true, String::new()));
}

/// A parameter that is said not to act must not change the stroke, and one that acts must.
#[test]
fn relevance_tells_the_truth_about_strokes() {
    use common::{demo_gesture, draw, ground, sheet};
    use saltmarsh_core::ground::Surface;
    let (ground, gesture) = (ground(Surface::ColdPressed), demo_gesture("slow-pull"));
    let mut bed = sheet(&ground, [80.0, 14.0], 0.3);
    common::bed(&mut bed);
    let bed = bed.snapshot();
    let sum = |tool: &Tool| {
        let mut s = sheet(&ground, [80.0, 14.0], 0.3);
        if tool.action != Action::Lay {
            s.restore(&bed);
        }
        draw(tool, &gesture, &mut s);
        s.checksum()
    };
    for name in ["vine-charcoal-side", "finger", "kneaded-eraser", "hard-eraser", "fixative"] {
        tells_the_truth(&demo_tool(name), &sum);
    }
    for entry in ["multiplied", "subtracted", "height"] {
        let mut tool = demo_tool("vine-charcoal-side");
        common::set(&mut tool, "ground.enters", saltmarsh_core::chain::Value::Choice(entry.into()));
        common::set(&mut tool, "ground.depth", saltmarsh_core::chain::Value::Number(0.6));
        tells_the_truth(&tool, &sum);
        common::set(&mut tool, "load.film", saltmarsh_core::chain::Value::Choice("multiply".into()));
        tells_the_truth(&tool, &sum);
    }
}

fn tells_the_truth(tool: &Tool, sum: &impl Fn(&Tool) -> String) {
    use common::set;
    use saltmarsh_core::chain::{Kind, Value};
    let before = sum(tool);
    for (p, r) in tool.medium.parameters().iter().zip(relevance(tool)) {
        let changed = match (p.kind, &tool.parameters[p.id]) {
            (Kind::Number { low, high, .. }, Value::Number(v)) => Value::Number(if *v < 0.5 * (low + high) {
                v + 0.2 * (high - low)
            } else {
                v - 0.2 * (high - low)
            }),
            (Kind::Switch { .. }, Value::Switch(on)) => Value::Switch(!on),
            // Both other choices (the paper of the sheet is the sheet's own) are tested elsewhere.
            _ => continue,
        };
        let mut other = tool.clone();
        set(&mut other, p.id, changed);
        assert_eq!(
            sum(&other) != before,
            r.acts,
            "{}: {} is said to {}act",
            tool.name,
            p.id,
            if r.acts { "" } else { "not " }
        );
    }
}

/// The published schema: a change of it is a change of the exchange format.
#[test]
fn schema_is_as_published() {
    insta::assert_json_snapshot!(schema::schema());
}

#[test]
fn the_page_of_parameters_is_as_declared() {
    let page = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/parameters.md");
    let written = std::fs::read_to_string(page).expect("docs/parameters.md");
    let declared = saltmarsh_core::tool::reference::markdown();
    assert!(written == declared, "run `cargo run -p saltmarsh-xtask -- docs`");
}
