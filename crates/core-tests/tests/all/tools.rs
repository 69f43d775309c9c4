//! Tool documents: what is refused and how, the canonical form, the schema, relevance.

#![allow(clippy::disallowed_methods)] // hands are drawn with the standard library

use crate::common;

use std::collections::BTreeMap;

use common::demo_tool;
use proptest::prelude::*;
use saltmarsh_core::chain::Action;
use saltmarsh_core::tool::relevance::relevance;
use saltmarsh_core::tool::{Tool, schema};
use serde_json::json;

fn document() -> serde_json::Value {
    serde_json::from_str(&demo_tool("vine-charcoal-side").canonical()).expect("canonical JSON")
}

/// The refusal of the document after a change at a JSON pointer.
fn refusal(pointer: &str, value: serde_json::Value) -> saltmarsh_core::FieldError {
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
        ("/medium", json!("fresco"), "medium", "one of wash"),
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
fn what_goes_by_ratio_never_goes_to_nought() {
    use saltmarsh_core::chain::Kind;
    for p in saltmarsh_core::medium::MEDIA.iter().flat_map(|m| m.parameters().iter()) {
        if let Kind::Number { low, ratio: true, .. } = p.kind {
            assert!(low > 0.0, "{} begins at {low}: a slider by ratio has no place for it", p.id);
        }
    }
}

#[test]
fn a_paint_is_refused_by_pigment_and_limit() {
    let refused = |paint: serde_json::Value| {
        let mut document: serde_json::Value =
            serde_json::from_str(&demo_tool("hog-flat").canonical()).expect("JSON");
        document["parameters"]["load.paint"] = paint;
        Tool::from_json(document).expect_err("no paint").field
    };
    let many: serde_json::Map<String, serde_json::Value> =
        saltmarsh_core::paint::pigment::all().iter().take(9).map(|p| (p.code.clone(), json!(1))).collect();
    for (paint, field) in [
        (json!({"PX99": 1}), "parameters.load.paint.PX99"),
        (json!({"PB29": -1}), "parameters.load.paint.PB29"),
        (json!({"PB29": 1001}), "parameters.load.paint.PB29"),
        (json!({"PB29": 0}), "parameters.load.paint"),
        (json!({}), "parameters.load.paint"),
        (json!({"PB29": null}), "parameters.load.paint"),
        (json!("PB29"), "parameters.load.paint"),
        (serde_json::Value::Object(many), "parameters.load.paint"),
    ] {
        assert_eq!(refused(paint.clone()), field, "{paint}");
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
        all.into_iter()
            .find(|r| r.id == id)
            .map(|r| (r.acts, r.reason.to_string()))
            .expect("every parameter is answered")
    };
    let mut tool = demo_tool("vine-charcoal-side");
    assert_eq!(reason(&tool, "touch.force_gf"), (false, "pressure gives it".into()));
    assert_eq!(reason(&tool, "tip.spacing"), (false, "spacing sets itself".into()));
    assert_eq!(reason(&tool, "load.hardness_gf_mm2"), (true, String::new()));
    // Without its response, the tool's own force acts.
    tool.responses.iter_mut().for_each(|r| r.on = false);
    assert_eq!(reason(&tool, "touch.force_gf"), (true, String::new()));
}

/// A parameter that is said not to act must not change the sheet, and one that acts must: of every ready tool, a sixth of them as it is (the others
/// with the next tools), and all that changes with each other choice of each of its parameters.
fn relevance_tells_the_truth(medium: &str, size: [f64; 2]) {
    use saltmarsh_core::chain::{Kind, Value};
    let (truth, mut wrong) = (Truth::new(size), Vec::new());
    let tools: BTreeMap<_, _> =
        common::demo_tools().into_iter().filter(|(_, t)| t.medium.name() == medium).collect();
    for (n, (name, mut tool)) in tools.into_iter().enumerate() {
        // So little water that a short stroke empties the brush, and not its first touch.
        if size == WET {
            let width = tool.settings().number("tip.width_mm");
            common::set(&mut tool, "load.ml", Value::Number(if width > 15.0 { 0.01 } else { 0.001 }));
        }
        // And so many drops that some of them fall on all that lies there.
        if medium == "wash" {
            common::set(&mut tool, "tip.apart_mm", Value::Number(1.0));
        }
        // A thin line takes little.
        if medium == "ink" {
            common::set(&mut tool, "load.water_um", Value::Number(90.0));
            common::set(&mut tool, "tip.width_mm", Value::Number(3.0));
            common::set(&mut tool, "touch.force_gf", Value::Number(3.0));
            tool.responses.clear();
        }
        truth.told_of(&name, &tool, |i| (i + n) % 6 == 0, &mut wrong);
        // With another choice, a parameter that hangs on it acts or does not: only what is said to change is looked at again.
        let said = relevance(&tool);
        for p in tool.medium.parameters().iter() {
            let Kind::Choice { options, .. } = p.kind else { continue };
            // Every stick and every blend mode is one of a kind: two of each will do.
            for (option, _) in options.iter().take(if options.len() > 10 { 2 } else { options.len() }) {
                let mut other = tool.clone();
                common::set(&mut other, p.id, Value::Choice((*option).into()));
                // A shape of no image has nothing to show.
                if *option != "image" {
                    let now = relevance(&other);
                    let changed = |i: usize| now[i].acts != said[i].acts;
                    truth.told_of(&format!("{name}, {} {option}", p.id), &other, changed, &mut wrong);
                }
            }
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

// One for each medium, so that they run side by side.
#[test]
fn relevance_tells_the_truth_about_strokes_of_sticks() {
    relevance_tells_the_truth("dry", NARROW);
}

#[test]
fn relevance_tells_the_truth_about_strokes_of_brushes() {
    relevance_tells_the_truth("paste", WIDE);
}

#[test]
fn relevance_tells_the_truth_about_strokes_of_washes() {
    relevance_tells_the_truth("wash", WET);
    relevance_tells_the_truth("ink", WET);
}

/// A sheet to try tools on: what each parameter does to it.
struct Truth {
    ground: std::rc::Rc<saltmarsh_core::ground::Ground>,
    bed: saltmarsh_core::sheet::Snapshot,
    gesture: saltmarsh_core::hand::Gesture,
    size: [f64; 2],
}

impl Truth {
    fn new(size: [f64; 2]) -> Self {
        let ground = common::ground(saltmarsh_core::ground::Surface::Rough);
        let mut bed = common::sheet(&ground, size, COARSE);
        under(&mut bed, size);
        let (top, far) = (0.5 * size[1] - 1.0, size[0] - 4.0);
        // It leans, presses more and less, slows down, crosses its own way, and comes a second time.
        let stroke = |(y, seconds): (f64, f64)| {
            let gesture = common::hand_drawn(100.0, seconds, |t| saltmarsh_core::hand::Sample {
                t,
                x: 6.0 + far * t + 3.0 * (16.0 * t).sin(),
                y: y + 1.5 * (12.0 * t).cos(),
                pressure: 0.35 + 1.2 * t,
                tilt_x: 35.0,
                tilt_y: 14.0 * t,
                twist: 50.0 * t,
            });
            gesture.passes()[0].clone()
        };
        let passes = common::in_turn([(top, 0.45), (top + 2.5, 0.2)].map(stroke).into_iter());
        let gesture = saltmarsh_core::hand::Gesture::new(passes).expect("two strokes");
        Self { ground, bed: bed.snapshot(), gesture, size }
    }

    /// What is on a sheet, and for a paint its look: pigments of ink differ in nothing else.
    fn sum(&self, tool: &Tool, pixel: f64, seen: bool) -> String {
        let mut s = common::sheet(&self.ground, self.size, pixel);
        let bare = self.size == NARROW && tool.action == Action::Lay;
        if !bare && pixel == COARSE {
            s.restore(&self.bed);
        } else if !bare {
            under(&mut s, self.size);
        }
        // What is wet need not dry to differ.
        common::draw_wet(tool, &self.gesture, &mut s);
        if seen { format!("{:?}", saltmarsh_core::relief::flat::rgba(&s)) } else { s.checksum() }
    }

    /// Holds what is said of the parameters that are `asked` for, by number.
    fn told_of(&self, what: &str, tool: &Tool, asked: impl Fn(usize) -> bool, wrong: &mut Vec<String>) {
        use common::set;
        use saltmarsh_core::chain::{Kind, Value};
        if !(0..tool.medium.parameters().iter().count()).any(&asked) {
            return;
        }
        let before = self.sum(tool, COARSE, false);
        for (i, (p, r)) in tool.medium.parameters().iter().zip(relevance(tool)).enumerate() {
            if !asked(i) {
                continue;
            }
            let others: Vec<Value> = match (p.kind, &tool.parameters[p.id]) {
                (Kind::Number { low, high, .. }, Value::Number(v)) => {
                    let by = 0.2 * (high - low);
                    let small = if *v < 0.5 * (low + high) { v + by } else { v - by };
                    {
                        let far = if *v == high { low } else { high };
                        let other = if far == low { high } else { low };
                        vec![Value::Number(small), Value::Number(far), Value::Number(other)]
                    }
                }
                (Kind::Switch { .. }, Value::Switch(on)) => vec![Value::Switch(!on)],
                (Kind::Choice { options, .. }, Value::Choice(now)) => {
                    let other = options.iter().filter(|o| o.0 != now && o.0 != "image");
                    other.map(|o| Value::Choice(o.0.into())).take(6).collect()
                }
                (Kind::Paint { .. }, Value::Paint(_)) => {
                    vec![
                        Value::Paint([("PG7".to_owned(), 1.0)].into()),
                        Value::Paint([("PW6".to_owned(), 1.0)].into()),
                    ]
                }
                // There is no image here.
                _ => continue,
            };
            // What is said not to act may act far from where it stands; what acts may need a fine sheet to show it.
            let near = others.len().min(if r.acts { others.len() } else { 1 });
            let differs = |pixel: f64| {
                let seen = matches!(p.kind, Kind::Paint { .. });
                let before =
                    if pixel == COARSE && !seen { before.clone() } else { self.sum(tool, pixel, seen) };
                others[..near].iter().any(|value| {
                    let mut other = tool.clone();
                    set(&mut other, p.id, value.clone());
                    self.sum(&other, pixel, seen) != before
                })
            };
            let changes = differs(COARSE) || (r.acts && differs(if self.size == WET { FINER } else { FINE }));
            let says = if r.acts { "act" } else { "not act" };
            if changes != r.acts {
                wrong.push(format!("{what}: {} is said to {says} ({})", p.id, r.reason));
            }
        }
    }
}

/// What tools meet: powder; for brushes something wet with bare ground beside it; for wet ones a dry wash, masking fluid, and a wash that is wet.
fn under(s: &mut saltmarsh_core::sheet::Sheet, size: [f64; 2]) {
    if size == NARROW {
        return common::bed(s);
    }
    let middle = 0.5 * size[1];
    if size == WET {
        let wash = |x: f64| common::pull([x, middle - 2.0], [x + 12.0, middle + 2.0], 0.9);
        common::draw_wet(&demo_tool("wash-granulating"), &wash(4.0), s);
        saltmarsh_core::medium::turn_in_place(saltmarsh_core::medium::Turn::Dry, s);
        let fluid = common::pull([18.0, middle - 3.0], [20.0, middle + 3.0], 0.5);
        common::draw_wet(&demo_tool("wash-masking-fluid"), &fluid, s);
        common::draw_wet(&demo_tool("wash-round-12"), &wash(22.0), s);
        // Where they set out, too, and of a paint that none has: later they have run dry.
        let mut other = demo_tool("wash-round-12");
        other.parameters.insert(
            "load.paint".into(),
            saltmarsh_core::chain::Value::Paint([("PR177".to_owned(), 1.0)].into()),
        );
        common::draw_wet(&other, &common::pull([5.0, middle - 1.5], [8.0, middle - 0.5], 0.6), s);
        return;
    }
    common::draw(&demo_tool("hog-round"), &common::pull([3.0, middle], [20.0, middle + 3.0], 0.6), s);
}

/// Sheets with room for a stick, and for a broad brush.
const NARROW: [f64; 2] = [24.0, 10.0];
const WIDE: [f64; 2] = [44.0, 30.0];
/// Another, for wet brushes.
const WET: [f64; 2] = [44.0, 29.0];
const COARSE: f64 = 0.5;
const FINE: f64 = 0.1;
/// What is wet moves on a fine sheet as long as on a coarse one, in many more steps.
const FINER: f64 = 0.2;

proptest! {
    #![proptest_config(ProptestConfig { cases: 300, ..ProptestConfig::default() })]
    /// A document read is the document that was written, whatever its numbers: to the last bit, and to the same hash.
    #[test]
    fn the_canonical_form_is_a_fixed_point(
        shares in prop::collection::vec(0.0_f64..1.0, 90),
        points in prop::collection::btree_set(0_u64..(1 << 53), 2..20),
        y in prop::collection::vec(0.0_f64..1.0, 20),
    ) {
        use saltmarsh_core::chain::{Curve, Kind, Value};
        let mut tool = demo_tool("vine-charcoal-side");
        for (p, share) in tool.medium.parameters().iter().zip(&shares) {
            if let Kind::Number { low, high, .. } = p.kind {
                let value = (low + (high - low) * share).clamp(low, high);
                tool.parameters.insert(p.id.to_owned(), Value::Number(value));
            }
        }
        let curve = points.iter().zip(&y).map(|(x, y)| [*x as f64 / (1_u64 << 53) as f64, *y]);
        tool.responses[0].curve = Curve::new(curve.collect()).expect("rising points");
        let written = tool.canonical();
        let read = Tool::parse(&written).expect("the canonical form is valid");
        prop_assert_eq!(read.canonical(), written);
        prop_assert_eq!(read.content_hash(), tool.content_hash());
        prop_assert_eq!(read, tool);
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
    for p in saltmarsh_core::medium::MEDIA.iter().flat_map(|m| m.parameters().iter()) {
        assert!(written.contains(&format!("| `{}` |", p.id)), "{} is not on the page", p.id);
    }
    assert!(written == declared, "run `cargo run -p saltmarsh-xtask -- docs`");
}
