//! InkML against the W3C Recommendation of 20 September 2011 (documents and expectations in `data/09_inkml.json`, whose
//! header says how they were checked), hostile documents, and the way to a gesture and back.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use std::path::Path;

use saltmarsh_core::hand::{Gesture, Sample};
use saltmarsh_formats::inkml::{self, Document};
use serde_json::Value;

fn file(name: &str) -> String {
    std::fs::read_to_string(Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/data").join(name)).expect(name)
}

fn expectations() -> Value {
    serde_json::from_str(&file("09_inkml.json")).expect("JSON")
}

fn list<'a>(v: &'a Value, key: &str) -> &'a [Value] {
    v[key].as_array().map_or(&[], Vec::as_slice)
}

#[track_caller]
fn holds(document: &Document, want: &Value, file: &str) {
    let id = want["id"].as_str().expect("an id");
    let trace =
        document.traces.iter().find(|t| t.id == id).unwrap_or_else(|| panic!("{file}: no trace {id}"));
    let points = list(want, "points");
    assert_eq!(trace.points.len(), points.len(), "{file}, {id}: points");
    for (n, (got, want)) in trace.points.iter().zip(points).enumerate() {
        for (i, want) in want.as_array().expect("a point").iter().enumerate() {
            let want = match want {
                Value::Bool(b) => Some(f64::from(u8::from(*b))),
                other => other.as_f64(),
            };
            let same = match (got[i], want) {
                (Some(g), Some(w)) => (g - w).abs() <= 1e-9,
                (None, None) => true,
                _ => false,
            };
            assert!(same, "{file}, {id}, point {n}, value {i}: got {:?}, want {want:?}", got[i]);
        }
    }
}

#[test]
fn valid_documents_decode_to_their_samples() {
    for case in list(&expectations(), "valid") {
        let name = case["file"].as_str().expect("a file");
        let document = inkml::read(&file(name)).unwrap_or_else(|e| panic!("{name}: {e}"));
        assert!(document.refused.is_empty(), "{name}: {:?}", document.refused);
        list(case, "traces").iter().for_each(|t| holds(&document, t, name));
    }
}

#[test]
fn malformed_documents_are_refused_as_far_as_they_are_bad() {
    for case in list(&expectations(), "malformed") {
        let name = case["file"].as_str().expect("a file");
        let want = &case["expected"];
        let read = inkml::read(&file(name));
        if want["verdict"] == "reject_document" {
            let e = read.expect_err(name);
            assert_eq!(e.field, "inkml", "{name}: {e}");
            continue;
        }
        let document = read.unwrap_or_else(|e| panic!("{name}: {e}"));
        list(want, "good_traces").iter().for_each(|t| holds(&document, t, name));
        for id in list(want, "bad_traces") {
            assert!(document.refused.iter().any(|r| r.id == *id), "{name}: {id} is refused");
            assert!(document.traces.iter().all(|t| t.id != *id), "{name}: {id} is not read");
            // A gesture is all of the strokes or none: a part would be another gesture.
            assert!(inkml::to_gesture(&document).is_err(), "{name}: no gesture comes of it");
        }
    }
}

fn ink(body: &str) -> String {
    format!("<ink xmlns=\"http://www.w3.org/2003/InkML\">{body}</ink>")
}

const XYF: &str = "<traceFormat><channel name=\"X\"/><channel name=\"F\"/></traceFormat>";

#[test]
fn hostile_and_useless_documents_name_what_is_wrong() {
    let deep = ink(&format!("{}{}", "<traceGroup>".repeat(500), "</traceGroup>".repeat(500)));
    let long = ink(&format!("<trace>{}</trace>", vec!["1 1"; 200_001].join(",")));
    let parts = ink(&format!("<trace>{}</trace>", vec!["1 1"; 1000].join(",")).repeat(201));
    let large = ink(&format!("<annotation>{}</annotation>", "x".repeat(inkml::MOST_BYTES)));
    let no_y = ink(&format!("<context>{XYF}</context><trace>1 1,2 2</trace>"));
    let external = "<!DOCTYPE ink SYSTEM \"file:///etc/passwd\"><ink><trace>1 1</trace></ink>".to_owned();
    // Document, the field named, and what the refusal says.
    let cases = [
        (String::new(), "inkml", "no <ink>"),
        ("<svg/>".into(), "inkml", "<svg>"),
        ("\u{0}\u{1}<ink>".into(), "inkml", ""),
        (external, "inkml", "document type"),
        (ink("<trace>1 1,&bomb;</trace>"), "inkml", "entity"),
        (deep, "inkml", "nested deeper than 64"),
        (long, "samples", "200000"),
        (parts, "samples", "200000"),
        (large, "inkml", "at most 16777216"),
        (ink(&"<trace/>".repeat(inkml::MOST_TRACES + 1)), "inkml", "more than 20000 traces"),
        (ink(&"<context/>".repeat(inkml::MOST_DEFINITIONS + 1)), "inkml", "more than 1000"),
        (ink(&format!("<trace>{} 1</trace>", "9".repeat(5000))), "trace trace 1", "at most 384"),
        (ink(""), "inkml", "no trace"),
        (ink("<trace></trace>"), "trace trace 1", "no points"),
        (ink("<trace>1 NaN</trace>"), "trace trace 1", ""),
        (ink("<trace>1 1e999</trace>"), "trace trace 1", ""),
        (no_y, "trace trace 1.Y", "no such channel"),
        (ink("<trace>99999999 0</trace>"), "passes[0][0].x", "from -10000 to 10000 mm"),
    ];
    for (text, field, message) in cases {
        let start: String = text.chars().take(60).collect();
        let e = inkml::read(&text).and_then(|d| inkml::to_gesture(&d)).expect_err(&start);
        assert_eq!(e.field, field, "{start}: {e}");
        assert!(e.message.contains(message), "{start}: «{e}» does not say «{message}»");
    }
}

#[test]
fn a_gesture_comes_back_to_the_format_s_precision() {
    let sample = |i: usize| {
        let f = i as f64 / 97.0;
        Sample {
            t: f,
            x: -3.0 + 40.0 * f,
            y: 5.0 * (9.0 * f).sin(),
            pressure: (f * 1.3).fract(),
            tilt_x: 60.0 * (3.0 * f).cos(),
            tilt_y: -45.0 * f,
            twist: (400.0 * f) % 360.0,
        }
    };
    let passes = vec![(0..98).map(sample).collect(), vec![Sample { t: 1.5, ..sample(3) }]];
    let gesture = Gesture::new(passes).expect("valid");
    let text = inkml::write(&gesture);
    let again = inkml::to_gesture(&inkml::read(&text).expect("our own InkML")).expect("a gesture");
    assert_eq!(gesture.passes().len(), again.passes().len());
    let steps = [1e-6, 1e-4, 1e-4, 1e-6, 1e-3, 1e-3, 1e-3];
    for (a, b) in gesture.passes().iter().flatten().zip(again.passes().iter().flatten()) {
        for ((a, b), step) in a.pack().iter().zip(b.pack()).zip(steps) {
            assert!((a - b).abs() <= 0.5001 * step, "{a} came back as {b}");
        }
    }
    assert_eq!(inkml::write(&again), text, "a second round changes nothing");
}

#[test]
fn several_gestures_come_back_under_their_names() {
    let one = |x: f64| {
        let at = |i: u32| Sample {
            t: f64::from(i) * 0.01,
            x: x + f64::from(i),
            y: 2.0,
            pressure: 0.25,
            tilt_x: 0.0,
            tilt_y: 0.0,
            twist: 0.0,
        };
        Gesture::new(vec![(0..5).map(at).collect(), (5..8).map(at).collect()]).expect("valid")
    };
    let all = vec![("hatch & <scrub>".to_owned(), one(3.0)), ("flick".to_owned(), one(40.0))];
    let document = inkml::read(&inkml::write_all(&all)).expect("our own InkML");
    let again = inkml::to_gestures(&document).expect("gestures");
    let named: Vec<_> = again.into_iter().map(|(name, g)| (name.expect("a title"), g)).collect();
    assert_eq!(named, all);
    assert_eq!(inkml::to_gesture(&document).expect("or all as one").passes().len(), 4);
    // Groups without a title, and what is outside of any, are one gesture.
    let mixed = ink(concat!(
        "<trace>1 1,2 2</trace><traceGroup><trace>3 3,4 4</trace></traceGroup>",
        "<traceGroup><annotation type=\"title\">own</annotation><trace>5 5,6 6</trace></traceGroup>"
    ));
    let mixed = inkml::to_gestures(&inkml::read(&mixed).expect("InkML")).expect("gestures");
    let passes: Vec<_> = mixed.iter().map(|(name, g)| (name.as_deref(), g.passes().len())).collect();
    assert_eq!(passes, [(Some("own"), 1), (None, 2)]);
}

#[test]
fn units_and_orientations_are_converted() {
    let text = ink(concat!(
        "<context><traceFormat>",
        "<channel name=\"X\" units=\"cm\"/><channel name=\"Y\" units=\"in\"/>",
        "<channel name=\"F\" min=\"0\" max=\"1023\"/>",
        "<channel name=\"OA\" units=\"deg\"/><channel name=\"OE\" units=\"deg\"/><channel name=\"T\" units=\"s\"/>",
        "</traceFormat></context><trace>1 1 1023 90 45 2,2 2 0 90 45 2.5</trace>"
    ));
    let gesture = inkml::to_gesture(&inkml::read(&text).expect("InkML")).expect("a gesture");
    let [a, b] = [gesture.passes()[0][0], gesture.passes()[0][1]];
    assert!((a.x - 10.0).abs() < 1e-9 && (a.y - 25.4).abs() < 1e-9, "cm and inches: {a:?}");
    assert!((a.pressure - 1.0).abs() < 1e-9 && b.pressure == 0.0, "force over its own range");
    // Leaning 45° towards +y.
    assert!(a.tilt_x.abs() < 1e-9 && (a.tilt_y - 45.0).abs() < 1e-9, "azimuth and elevation: {a:?}");
    assert!((b.t - a.t - 0.5).abs() < 1e-9, "seconds");
}
