//! The draughtsman's techniques with the ready tools: each part has its tool, and the sheets show what they are for.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

mod common;

use std::collections::HashMap;
use std::rc::Rc;

use common::{demo_tools, mean};
use saltmarsh_core::ground::Ground;
use saltmarsh_core::hand::Hand;
use saltmarsh_core::image::Images;
use saltmarsh_core::relief::flat;
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::Engine;
use saltmarsh_core::technique::{self, Technique};
use saltmarsh_core::tool::{Action, Tool};

const PIXEL_MM: f64 = 0.15;

fn named(id: &str) -> &'static Technique {
    technique::all().iter().find(|t| t.id == id).expect("a technique")
}

/// The first `steps` steps of a technique on its sheet.
fn laid(technique: &Technique, tools: &HashMap<String, Tool>, steps: usize) -> Sheet {
    let ground =
        Rc::new(Ground::new(technique.ground.as_ref().expect("its own"), &Images::default()).unwrap());
    let [width, height] = technique.size_mm.map(|mm| (mm / PIXEL_MM) as usize);
    let mut sheet = Sheet::new(ground, width, height, PIXEL_MM, [0.0, 0.0]).expect("a valid sheet");
    let mut strokes = 0;
    for (i, step) in technique.steps.iter().enumerate().take(steps) {
        let tool = technique.tool_of(i, &tools[&technique.role(step).tool]);
        let mut engine =
            Engine::new(Rc::new(tool), Hand::default(), &sheet).expect("valid").numbered_from(strokes);
        for pass in technique.strokes(i).expect("strokes").passes() {
            engine.extend(pass, &mut sheet);
            engine.lift(&mut sheet);
        }
        strokes += engine.passes();
    }
    sheet
}

fn whole(id: &str) -> Sheet {
    let technique = named(id);
    laid(technique, &demo_tools(), technique.steps.len())
}

/// CIE L* of the mean light of a window `[left, top, right, bottom]` mm, from sRGB (IEC 61966-2-1, CIE 15).
fn lightness(sheet: &Sheet, window: [f64; 4]) -> f64 {
    let rgba = flat::rgba(sheet);
    let [left, top, right, bottom] = window.map(|mm| (mm / PIXEL_MM) as usize);
    let linear = |v: u8| {
        let v = f64::from(v) / 255.0;
        if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) }
    };
    let light = |x: usize, y: usize| {
        let p = &rgba[4 * (y * sheet.width() + x)..];
        0.2126 * linear(p[0]) + 0.7152 * linear(p[1]) + 0.0722 * linear(p[2])
    };
    let all: Vec<f64> =
        (top..bottom).flat_map(|y| (left..right).map(move |x| (x, y))).map(|(x, y)| light(x, y)).collect();
    116.0 * mean(&all).cbrt() - 16.0
}

#[test]
fn every_part_has_a_ready_tool_and_stays_on_its_sheet() {
    let tools = demo_tools();
    let samples = [Action::Lay, Action::Blend].map(technique::sample);
    for t in technique::all().iter().chain(samples) {
        for (i, step) in t.steps.iter().enumerate() {
            let role = t.role(step);
            if t.ground.is_some() {
                let tool = tools.get(&role.tool).unwrap_or_else(|| panic!("{}: {}", t.id, role.tool));
                t.tool_of(i, tool).check().unwrap_or_else(|e| panic!("{}: step {i}: {e}", t.id));
            }
            let [left, top, right, bottom] = t.strokes(i).expect("strokes").bounds_mm();
            let [width, height] = t.size_mm;
            assert!(left >= 0.0 && top >= 0.0 && right <= width && bottom <= height, "{} {i}", t.id);
        }
    }
}

#[test]
fn nine_tones_are_even_steps_by_pressure_alone() {
    let sheet = whole("tone-scale");
    let patches: Vec<f64> = (0..9).map(|k| 8.0 + 18.0 * f64::from(k)).collect();
    let tones: Vec<f64> = patches.iter().map(|x| lightness(&sheet, [*x, 4.0, *x + 9.0, 14.5])).collect();
    let steps: Vec<f64> = tones.windows(2).map(|w| w[0] - w[1]).collect();
    let even = mean(&steps);
    assert!(even > 2.0, "{tones:?}");
    for step in &steps {
        assert!((step - even).abs() < 0.08 * even, "steps of L* {steps:?}");
    }
}

#[test]
fn crossing_hatches_darken_without_dots() {
    // Where hatches cross, a mark is no thicker than both together, and the crossed part is darker than either alone.
    let sheet = whole("hatching");
    let (once, crossed) =
        (lightness(&sheet, [6.0, 8.0, 16.0, 20.0]), lightness(&sheet, [32.0, 8.0, 48.0, 20.0]));
    assert!(once - crossed > 4.0, "{once} to {crossed}");
    let single = laid(named("hatching"), &demo_tools(), 1);
    let thickest =
        |s: &Sheet| common::powder(s, [0, 0, s.width(), s.height()]).into_iter().fold(0.0, f64::max);
    assert!(thickest(&sheet) < 1.5 * thickest(&single), "{} of {}", thickest(&sheet), thickest(&single));
}

#[test]
fn light_is_lifted_out_and_put_on() {
    let technique = named("lift-out");
    let tools = demo_tools();
    let (rubbed, lifted) = (laid(technique, &tools, 2), laid(technique, &tools, 4));
    let paper = lightness(&lifted, [1.0, 1.0, 4.0, 3.0]);
    for (what, window, least) in
        [("kneaded", [24.0, 17.3, 36.0, 18.3], 0.35), ("hard", [26.0, 23.0, 34.0, 23.4], 0.45)]
    {
        let (before, after) = (lightness(&rubbed, window), lightness(&lifted, window));
        let share = (after - before) / (paper - before);
        assert!(share > least && share < 1.0, "{what}: {before} to {after}, paper {paper}");
    }
    let heightened = whole("heightening");
    let toned = lightness(&heightened, [1.0, 1.0, 6.0, 5.0]);
    let light = lightness(&heightened, [30.0, 20.5, 42.0, 21.5]);
    let dark = lightness(&heightened, [14.0, 5.0, 46.0, 7.0]);
    assert!(light > toned + 5.0 && dark < toned - 10.0, "{light} over {toned} over {dark}");
}
