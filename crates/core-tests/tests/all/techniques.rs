//! The draughtsman's techniques with the ready tools: each part has its tool, and the sheets show what they are for.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common;

use std::collections::HashMap;
use std::rc::Rc;

use common::{demo_tools, mean};
use saltmarsh_core::chain::Action;
use saltmarsh_core::chain::Choice;
use saltmarsh_core::ground::Surface;
use saltmarsh_core::hand::{Gesture, Hand, Sample, angles};
use saltmarsh_core::medium::dry::blocks::{COVER, OWNER, TOP_COVER};
use saltmarsh_core::medium::dry::sticks;
use saltmarsh_core::relief::flat;
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::Engine;
use saltmarsh_core::technique::{self, Technique};
use saltmarsh_core::tool::Tool;

const PIXEL_MM: f64 = 0.15;

fn named(id: &str) -> &'static Technique {
    technique::all().iter().find(|t| t.id == id).expect("a technique")
}

/// The first `steps` steps of a technique on its sheet.
fn laid(technique: &Technique, tools: &HashMap<String, Tool>, steps: usize) -> Sheet {
    let ground = common::ground_of(technique.ground.as_ref().expect("its own"));
    let [width, height] = technique.size_mm.map(|mm| (mm / PIXEL_MM) as usize);
    let mut sheet = Sheet::new(ground, width, height, PIXEL_MM, [0.0, 0.0]).expect("a valid sheet");
    for (i, step) in technique.steps.iter().enumerate().take(steps) {
        technique.wait_in_place(i, &mut sheet);
        let tool = technique.tool_of(i, &tools[&technique.role(step).tool]);
        let mut engine = Engine::new(Rc::new(tool), Hand::default(), &sheet).expect("valid");
        for pass in technique.strokes(i).expect("strokes").passes() {
            engine.extend(pass, &mut sheet).expect("reports");
            engine.lift(&mut sheet);
        }
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
    let light = |x: usize, y: usize| {
        let p = &rgba[4 * (y * sheet.width() + x)..];
        0.2126 * common::linear(p[0]) + 0.7152 * common::linear(p[1]) + 0.0722 * common::linear(p[2])
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

/// A leaning stick pulled along a strip of cold-pressed paper at a speed, mm/s.
fn leaning(pressure: f64, speed: f64) -> Gesture {
    let (tilt_x, tilt_y) = angles::to_tilt(0.9, std::f64::consts::FRAC_PI_2);
    common::hand_drawn(240.0, 52.0 / speed, |t| Sample {
        t,
        x: 4.0 + speed * t,
        y: 7.0,
        pressure,
        tilt_x,
        tilt_y,
        twist: 0.0,
    })
}

fn strip() -> Sheet {
    common::sheet(&common::ground(Surface::ColdPressed), [60.0, 14.0], 0.1)
}

/// Mean over the middle of the strip.
fn middle(value: impl Fn(usize, usize) -> f64) -> f64 {
    let under = (60..80).flat_map(|y| (200..450).map(move |x| (x, y)));
    mean(&under.map(|(x, y)| value(x, y)).collect::<Vec<_>>())
}

/// The share that powder covers.
fn cover(sheet: &Sheet) -> f64 {
    middle(|x, y| common::dry_pixel(sheet, x, y).map_or(0.0, |p| f64::from(p[COVER])))
}

fn covered(name: &str, pressure: f64, speed: f64) -> f64 {
    let mut sheet = strip();
    common::draw(&common::demo_tool(name), &leaning(pressure, speed), &mut sheet);
    cover(&sheet)
}

#[test]
fn hard_sticks_skip_at_speed_and_friable_ones_do_not() {
    for (name, low, high) in [
        ("compressed-charcoal-edge", 0.3, 0.9),
        ("graphite-2b-point", 0.3, 0.92),
        ("soft-pastel-side", 0.95, 1.05),
    ] {
        let (slow, fast) = (covered(name, 0.6, 60.0), covered(name, 0.6, 550.0));
        let kept = fast / slow;
        assert!(kept > low && kept < high, "{name}: covers {slow} slowly, {fast} fast");
    }
}

#[test]
fn a_burnished_tooth_takes_no_more_and_a_scumble_lets_what_is_under_it_show() {
    let pencil = common::demo_tool("pencil-ochre");
    let mut sheet = strip();
    let firm = common::pull([4.0, 7.0], [56.0, 7.0], 1.0);
    let lay = |sheet: &mut Sheet| common::draw(&pencil, &firm, sheet).balance.brought.mm3;
    let first = lay(&mut sheet);
    (0..12).for_each(|_| _ = lay(&mut sheet));
    let last = lay(&mut sheet);
    assert!(last < 0.12 * first, "the last pass lays {last} mm³ of the first's {first}");
    let line = |x: usize| f64::from(common::dry_pixel(&sheet, x, 70).expect("pencil")[COVER]);
    let burnished = mean(&(200..450).map(line).collect::<Vec<_>>());
    assert!(burnished > 0.9, "{burnished}");

    // Chalk drawn lightly over closed charcoal rides on it as on paper, and leaves much of it in sight.
    let mut sheet = strip();
    let dark = common::demo_tool("compressed-charcoal-edge");
    (0..3).for_each(|_| _ = common::draw(&dark, &leaning(1.0, 60.0), &mut sheet));
    assert!(cover(&sheet) > 0.97, "closed: {}", cover(&sheet));
    common::draw(&common::demo_tool("chalk-side"), &leaning(0.2, 60.0), &mut sheet);
    let number = f32::from(sticks::Stick::named("chalk").expect("a stick").number());
    let of_chalk = |x: usize, y: usize| {
        common::top_pixel(&sheet, x, y)
            .filter(|t| t[OWNER] == number)
            .map_or(0.0, |t| f64::from(t[TOP_COVER]))
    };
    let (on_charcoal, on_paper) = (middle(of_chalk), covered("chalk-side", 0.2, 60.0));
    assert!(
        on_charcoal > 0.1 && on_charcoal < on_paper + 0.15,
        "{on_charcoal} on charcoal, {on_paper} on paper"
    );
}

#[test]
fn a_stroke_has_no_tramlines() {
    // A worn point presses hardest in its middle: no stroke may be darker at its sides.
    for name in
        ["vine-charcoal-corner", "willow-thin", "graphite-6b-point", "sanguine-stick", "graphite-block"]
    {
        let mut sheet = common::sheet(&common::ground(Surface::HotPressed), [60.0, 14.0], 0.1);
        common::draw(&common::demo_tool(name), &common::pull([4.0, 7.0], [56.0, 7.0], 0.55), &mut sheet);
        let rows: Vec<f64> = (0..140).map(|y| mean(&common::powder(&sheet, [100, y, 500, y + 1]))).collect();
        let first = rows.iter().position(|v| *v > 0.02).expect("a stroke");
        let last = rows.iter().rposition(|v| *v > 0.02).expect("a stroke");
        let quarter = (last - first).div_ceil(4);
        let most = |from: usize, to: usize| rows[from..to].iter().fold(0.0, |m: f64, v| m.max(*v));
        let sides = most(first, first + quarter).max(most(last + 1 - quarter, last + 1));
        let middle = most(first + quarter, last + 1 - quarter);
        assert!(sides < 1.1 * middle, "{name}: {sides} µm at the sides, {middle} in the middle");
    }
}

/// Share of a window's pixels whose light a technique's last step changes by more than a level or two, and the change of its mean L*.
fn changed(id: &str, window: [f64; 4]) -> (f64, f64) {
    let technique = named(id);
    let tools = demo_tools();
    let (before, after) =
        (laid(technique, &tools, technique.steps.len() - 1), laid(technique, &tools, technique.steps.len()));
    let [left, top, right, bottom] = window.map(|mm| (mm / PIXEL_MM) as usize);
    let (a, b, wide) = (flat::rgba(&before), flat::rgba(&after), before.width());
    let other = (top..bottom)
        .flat_map(|y| (left..right).map(move |x| 4 * (y * wide + x)))
        .map(|i| f64::from(u8::from((0..3).any(|c| a[i + c].abs_diff(b[i + c]) > 6))))
        .collect::<Vec<_>>();
    (mean(&other), lightness(&after, window) - lightness(&before, window))
}

#[test]
fn a_glaze_veils_all_of_what_dried_and_a_scumble_its_crowns() {
    let (veiled, darker) = changed("oil-glaze", [44.0, 12.0, 60.0, 22.0]);
    assert!(veiled > 0.95 && darker < -4.0, "{veiled} of it, L* {darker:+}");
    let (crowns, lighter) = changed("oil-scumble", [20.0, 12.0, 50.0, 22.0]);
    assert!((0.15..0.85).contains(&crowns) && lighter > 3.0, "{crowns} of it, L* {lighter:+}");
    // Beside the stroke nothing changes.
    assert!(changed("oil-glaze", [8.0, 12.0, 20.0, 22.0]).0 < 0.02);
}

#[test]
fn impasto_stands_up_and_a_furrow_goes_down() {
    use saltmarsh_core::medium::paste::blocks::{BODY_UM, FILMS, TOP_UM};
    let film = |s: &Sheet, [left, top, right, bottom]: [f64; 4]| {
        let px = |mm: f64| (mm / PIXEL_MM) as usize;
        let all: Vec<f64> = (px(top)..px(bottom))
            .flat_map(|y| (px(left)..px(right)).map(move |x| (x, y)))
            .map(|(x, y)| s.pixel(&FILMS, x, y).map_or(0.0, |p| f64::from(p[TOP_UM] + p[BODY_UM])))
            .collect();
        mean(&all)
    };
    let sheet = whole("oil-impasto");
    let (dark, light) = (film(&sheet, [50.0, 5.0, 62.0, 9.0]), film(&sheet, [16.0, 8.5, 21.0, 10.5]));
    assert!(light > 2.5 * dark, "{light} µm on {dark}");
    let technique = named("oil-knife");
    let (slab, cut) = (laid(technique, &demo_tools(), 1), laid(technique, &demo_tools(), 2));
    // In the middle of the second furrow.
    let window = [31.4, 19.4, 32.6, 20.6];
    assert!(
        film(&cut, window) < 0.5 * film(&slab, window),
        "{} of {} µm",
        film(&cut, window),
        film(&slab, window)
    );
}
