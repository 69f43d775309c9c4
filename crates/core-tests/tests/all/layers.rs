//! Powder over powder, on grounds of any colour; points that blunt; dust that falls.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common;

use common::{demo_tool, draw, ground, hand_drawn, mean, plain_tool, powder, pull, set, sheet, top_pixel};
use saltmarsh_core::chain::Value;
use saltmarsh_core::ground::{Recipe, Surface};
use saltmarsh_core::hand::{Gesture, Sample};
use saltmarsh_core::medium::dry::blocks::powder_mm3;
use saltmarsh_core::paint::blend::Blend;
use saltmarsh_core::relief::raking::Light;
use saltmarsh_core::relief::{flat, lit};
use saltmarsh_core::sheet::{Changed, Rect, Sheet};
use saltmarsh_core::tool::Tool;

/// Mean level of a window of the picture, 0..255.
fn level(s: &Sheet, [left, top, right, bottom]: [usize; 4]) -> f64 {
    let rgba = flat::rgba(s);
    let at = |x: usize, y: usize| f64::from(rgba[4 * (y * s.width() + x) + 1]);
    let values: Vec<f64> =
        (top..bottom).flat_map(|y| (left..right).map(move |x| (x, y))).map(|(x, y)| at(x, y)).collect();
    mean(&values)
}

/// A soft stick that closes the tooth with `stick`.
fn closing(stick: &str) -> Tool {
    let mut tool = plain_tool(&[
        ("touch.force_gf", 400.0),
        ("tip.width_mm", 6.0),
        ("load.deposit_um_mm", 9.0),
        ("load.fill_um", 24.0),
    ]);
    set(&mut tool, "load.stick", Value::Choice(stick.into()));
    tool
}

const MIDDLE: [usize; 4] = [150, 45, 250, 75];

#[test]
fn chalk_over_charcoal_is_light_and_charcoal_over_chalk_is_dark() {
    let way = pull([5.0, 6.0], [35.0, 6.0], 0.5);
    let after = |sticks: &[&str]| {
        let mut s = sheet(&ground(Surface::HotPressed), [40.0, 12.0], 0.1);
        sticks.iter().for_each(|stick| _ = draw(&closing(stick), &way, &mut s));
        s
    };
    let levels = |sticks: &[&str]| level(&after(sticks), MIDDLE);
    let (black, white) = (levels(&["charcoal"]), levels(&["chalk"]));
    let over = levels(&["charcoal", "chalk"]);
    let under = levels(&["chalk", "charcoal"]);
    assert!(over > black + 60.0, "chalk lightens charcoal: {black} to {over}, alone {white}");
    assert!(under < white - 40.0, "charcoal darkens chalk: {white} to {under}");
    // The same stick twice is one film, and needs no memory of layers.
    assert!(top_pixel(&after(&["charcoal", "charcoal"]), 200, 60).is_none());
    let s = after(&["charcoal", "chalk"]);
    let (all, top) = (mean(&powder(&s, MIDDLE)), f64::from(top_pixel(&s, 200, 60).expect("a layer")[1]));
    assert!(top > 1.0 && top < all + 6.0, "{top} µm on top of {all} µm in all");
    // A finger works both into one.
    let mut rubbed = after(&["charcoal", "chalk"]);
    let finger = demo_tool("finger");
    (0..6).for_each(|_| _ = draw(&finger, &way, &mut rubbed));
    let on_top =
        |s: &Sheet| f64::from(top_pixel(s, 200, 60).expect("a layer")[1]) / powder(s, [200, 60, 201, 61])[0];
    let (laid, mixed) = (on_top(&s), on_top(&rubbed));
    assert!(mixed < 0.5 * laid, "rubbed, {mixed} still lies on top, of {laid}");
}

#[test]
fn chalk_shows_on_toned_paper_where_it_cannot_on_white() {
    let way = pull([5.0, 6.0], [35.0, 6.0], 0.5);
    let lift = |tint: &str| {
        let mut recipe = Recipe { tint: tint.into(), ..Recipe::of(Surface::ColdPressed) };
        recipe.numbers.insert("dye".into(), 1.0);
        let made = common::ground_of(&recipe);
        let mut s = sheet(&made, [40.0, 12.0], 0.1);
        let bare = level(&s, MIDDLE);
        draw(&demo_tool("chalk-side"), &way, &mut s);
        level(&s, MIDDLE) - bare
    };
    let (white, grey, black) = (lift("white"), lift("grey"), lift("black"));
    assert!(white.abs() < 6.0 && grey > 15.0 && black > grey, "white {white}, grey {grey}, black {black}");
}

#[test]
fn a_point_blunts_with_travel_and_is_sharp_again_when_sharpened() {
    let widths = |sharpen: &str| {
        let mut tool = plain_tool(&[("tip.width_mm", 0.5), ("load.blunt", 3.0), ("load.blunt_mm", 60.0)]);
        set(&mut tool, "load.sharpen", Value::Choice(sharpen.into()));
        let mut s = sheet(&ground(Surface::HotPressed), [90.0, 12.0], 0.25);
        let passes = [3.0, 6.0, 9.0].iter().flat_map(|y| pull([5.0, *y], [85.0, *y], 0.5).passes().to_vec());
        let trace = draw(
            &tool,
            &saltmarsh_core::hand::Gesture::new(common::in_turn(passes)).expect("strokes"),
            &mut s,
        );
        let first = |pass: u32| trace.dabs.iter().find(|d| d.pass == pass).expect("a dab").width_mm;
        (first(0), first(1), first(2), trace.dabs.last().expect("a dab").width_mm)
    };
    let (a, b, c, end) = widths("never");
    assert!((a - 0.5).abs() < 0.02 && b > 1.1 && c > b && end < 1.5, "{a} {b} {c} {end} mm");
    // 1 + 2·(1 − e^(−240/60)) times 0.5 mm.
    assert!((end - 0.5 * (1.0 + 2.0 * (1.0 - (-4.0_f64).exp()))).abs() < 0.01, "worn to {end} mm");
    let (a, b, c, end) = widths("stroke");
    assert!((a - b).abs() < 0.02 && (b - c).abs() < 0.02 && end > 1.1, "{a} {b} {c} {end} mm");
}

#[test]
fn dust_falls_in_hollows_is_rare_and_nothing_of_it_is_lost() {
    let way = pull([5.0, 6.0], [55.0, 6.0], 0.25);
    let run = |dust: f64| {
        let mut tool = demo_tool("vine-charcoal-side");
        set(&mut tool, "load.dust", Value::Number(dust));
        let mut s = sheet(&ground(Surface::Rough), [60.0, 12.0], 0.1);
        let trace = draw(&tool, &way, &mut s);
        (trace.balance, powder_mm3(&s), powder(&s, [80, 40, 520, 80]))
    };
    let ((_, clean, without), (balance, dusty, with)) = (run(0.0), run(0.022));
    assert!(
        dusty > 1.003 * clean && dusty < 1.2 * clean,
        "{clean} mm³ without, {dusty} with dust: {balance:?}"
    );
    // Of what a stroke leaves all but bare, dust reaches a little, in specks.
    let bare: Vec<(f64, f64)> = without.iter().copied().zip(with).filter(|(um, _)| *um < 0.02).collect();
    let specks = bare.iter().filter(|(a, b)| *b > a + 0.05).count() as f64 / bare.len() as f64;
    assert!(
        bare.len() > 2000 && specks > 0.002 && specks < 0.3,
        "specks on {specks} of {} pixels",
        bare.len()
    );
    let left = balance.brought.mm3 - balance.gone.mm3 - dusty;
    assert!(left.abs() < 1e-5 * dusty, "{left} mm³ of {dusty} cannot be told: {balance:?}");
}

/// Powder stands on the ground: a layer of it is a step that raking light finds, as steep as the balance says it is thick.
#[test]
fn a_part_of_a_sheet_is_lit_as_in_the_whole_and_powder_stands_on_the_ground() {
    let mut s = sheet(&ground(Surface::HotPressed), [30.0, 14.0], 0.1);
    let bare = lit::heights(&s, s.rect());
    draw(&demo_tool("vine-charcoal-side"), &pull([4.0, 7.0], [26.0, 7.0], 0.8), &mut s);
    let stands: f64 = lit::heights(&s, s.rect()).iter().zip(&bare).map(|(a, b)| f64::from(a - b)).sum();
    let laid = powder_mm3(&s) / (1e-3 * 0.1 * 0.1);
    assert!(laid > 1e4 && (stands / laid - 1.0).abs() < 1e-3, "{stands} µm over all pixels, {laid} laid");

    let light = Light::default();
    let (all, whole) = (s.rect(), lit::rgba(&s, s.rect(), 1.0, light));
    for part in [
        Rect { left: 60, top: 50, right: 131, bottom: 90 },
        Rect { left: 0, top: 0, right: 1, bottom: 140 },
        Rect { left: 127, top: 63, right: 129, bottom: 65 },
        all,
    ] {
        let rows = (part.top..part.bottom).flat_map(|y| {
            let from = 4 * (y * all.right + part.left);
            whole[from..from + 4 * (part.right - part.left)].to_vec()
        });
        assert_eq!(lit::rgba(&s, part, 1.0, light), rows.collect::<Vec<u8>>(), "{part:?}");
    }
}

#[test]
fn what_changes_lies_within_what_is_said_to_change() {
    let ground = ground(Surface::Rough);
    let mut tool = demo_tool("vine-charcoal-side");
    set(&mut tool, "load.dust", Value::Number(0.2));
    let mut s = sheet(&ground, [60.0, 14.0], 0.1);
    let mut engine =
        saltmarsh_core::stroke::Engine::new(std::rc::Rc::new(tool), Default::default(), &s).expect("a tool");
    let mut shown = flat::rgba(&s);
    let gesture = pull([5.0, 7.0], [50.0, 7.0], 0.25);
    let width = s.width();
    let mut show = |s: &Sheet, changed: &Changed| {
        let all = flat::rgba(s);
        for r in changed.rects() {
            for y in r.top..r.bottom {
                let row = 4 * (y * width + r.left)..4 * (y * width + r.right);
                shown[row.clone()].copy_from_slice(&all[row]);
            }
        }
        assert!(shown == all, "a pixel changed that was not said to");
    };
    for pass in gesture.passes() {
        for sample in pass {
            let changed = engine.extend(&[*sample], &mut s).expect("a report");
            show(&s, &changed);
        }
        let changed = engine.lift(&mut s);
        show(&s, &changed);
    }
}

/// A flat film of ochre, as an image without tooth.
fn toning(mode: &str, opacity: f64) -> Tool {
    let mut tool = plain_tool(&[
        ("tip.width_mm", 6.0),
        ("tip.hardness", 1.0),
        ("ground.depth", 0.0),
        ("touch.opacity", opacity),
    ]);
    for (id, value) in [("load.stick", "pencil-ochre"), ("ground.enters", "multiplied"), ("load.film", mode)]
    {
        set(&mut tool, id, Value::Choice(value.into()));
    }
    tool
}

fn rgb(s: &Sheet, x: usize, y: usize) -> [f64; 3] {
    let rgba = flat::rgba(s);
    [0, 1, 2].map(|c: usize| f64::from(rgba[4 * (y * s.width() + x) + c]) / 255.0)
}

#[test]
fn a_film_meets_what_lies_there_as_the_standard_says() {
    // W3C Compositing and Blending Level 1 §10: (1 − s)·Cb + s·B(Cb, Cs) over an opaque backdrop; the modes themselves are
    // checked against the standard's cases in reference.rs.
    let ground = ground(Surface::HotPressed);
    let way = pull([5.0, 6.0], [35.0, 6.0], 0.5);
    let backdrop = |stick: Option<&str>| {
        let mut s = sheet(&ground, [40.0, 12.0], 0.2);
        stick.iter().for_each(|stick| _ = draw(&closing(stick), &way, &mut s));
        s
    };
    let colour = {
        let mut s = backdrop(None);
        draw(&toning("normal", 1.0), &way, &mut s);
        rgb(&s, 100, 30)
    };
    for stick in [None, Some("pastel-blue"), Some("charcoal")] {
        for (name, mode) in Blend::ALL {
            for opacity in [1.0, 0.4] {
                let mut s = backdrop(stick);
                let before = powder_mm3(&s);
                let under: Vec<[f64; 3]> = [90, 100, 110].map(|x| rgb(&s, x, 30)).into();
                draw(&toning(name, opacity), &way, &mut s);
                // As often as it passes, the stroke is one film; and a film is no powder.
                let blended = |b: [f64; 3]| mode.colour(b, colour);
                for (x, b) in [90, 100, 110].into_iter().zip(&under) {
                    let (want, got) = (blended(*b), rgb(&s, x, 30));
                    for c in 0..3 {
                        let want = (1.0 - opacity) * b[c] + opacity * want[c];
                        assert!(
                            (got[c] - want).abs() < 1.2 / 255.0,
                            "{name} {stick:?}: {got:?}, want {want}"
                        );
                    }
                }
                assert_eq!(powder_mm3(&s), before);
            }
        }
    }
}

#[test]
fn films_pile_up_by_stroke_are_hidden_by_powder_and_cut_by_the_eraser() {
    let way = pull([5.0, 6.0], [35.0, 6.0], 0.5);
    let mut s = sheet(&ground(Surface::HotPressed), [40.0, 12.0], 0.2);
    let paper = rgb(&s, 100, 30);
    let tool = toning("multiply", 0.5);
    let gesture =
        Gesture::new(common::in_turn([&way, &way].into_iter().map(|g| g.passes()[0].clone()))).unwrap();
    draw(&tool, &way, &mut s);
    let once = rgb(&s, 100, 30);
    let mut twice = sheet(&ground(Surface::HotPressed), [40.0, 12.0], 0.2);
    draw(&tool, &gesture, &mut twice);
    for c in 0..3 {
        let (factor, want) = (once[c] / paper[c], once[c] * once[c] / paper[c]);
        assert!(factor < 1.0 && (rgb(&twice, 100, 30)[c] - want).abs() < 2.0 / 255.0, "two films multiply");
    }
    // What a finger carries over it, and what falls on it, lies over it too; what is lifted uncovers it.
    let (film, film_level) = (s.snapshot(), level(&s, [80, 25, 120, 35]));
    let block = pull([6.0, 2.0], [34.0, 2.0], 0.9);
    (0..3).for_each(|_| _ = draw(&closing("chalk"), &block, &mut s));
    let seen = |s: &Sheet| level(s, [80, 25, 120, 35]) - film_level;
    let smear = hand_drawn(200.0, 2.0, |t| Sample {
        t,
        x: 20.0 + 0.5 * t,
        y: 4.0 + 2.5 * (9.0 * t).sin(),
        pressure: 0.8,
        tilt_x: 0.0,
        tilt_y: 30.0,
        twist: 0.0,
    });
    draw(&demo_tool("finger"), &smear, &mut s);
    let smeared = seen(&s);
    assert!(smeared > 5.0, "chalk that a finger carries lightens the film by {smeared}");
    (0..6).for_each(|_| _ = draw(&demo_tool("kneaded-eraser"), &way, &mut s));
    assert!(seen(&s) < 0.6 * smeared, "lifted, {} of {smeared} is left over the film", seen(&s));
    s.restore(&film);
    let sum = s.checksum();
    let mut hidden = sheet(&ground(Surface::HotPressed), [40.0, 12.0], 0.2);
    draw(&closing("chalk"), &way, &mut hidden);
    let chalk = level(&hidden, [80, 25, 120, 35]);
    (0..3).for_each(|_| _ = draw(&closing("chalk"), &way, &mut s));
    assert!((level(&s, [80, 25, 120, 35]) - chalk).abs() < 12.0, "chalk hides the film");
    assert_ne!(s.checksum(), sum);
    (0..12).for_each(|_| _ = draw(&demo_tool("hard-eraser"), &way, &mut twice));
    assert!(
        rgb(&twice, 100, 30)[2] > 0.9 * paper[2],
        "the eraser takes the film off: {:?}",
        rgb(&twice, 100, 30)
    );
}

#[test]
fn graphite_gleams_under_light_and_charcoal_does_not() {
    use saltmarsh_core::relief::view::{Seen, View};
    // How much of a strip's light is gleam: lit with all of it against lit with none.
    let gleam = |name: &str| {
        let tool = common::demo_tool(name);
        let ground = common::ground_of(&tool.ground);
        let mut s = Sheet::new(ground, 400, 90, 0.16, [0.0, 0.0]).expect("a sheet");
        common::draw(&tool, &common::demo_gesture("press-ramp"), &mut s);
        let lit = |gloss: f64| View { seen: Seen::Lit, gloss, ..View::default() }.rgba(&s, s.rect(), false);
        let flat = View { seen: Seen::Flat, ..View::default() }.rgba(&s, s.rect(), false);
        let (with, without) = (lit(1.0), lit(0.0));
        // Only where powder is dark.
        let dark = flat.chunks_exact(4).map(|p| p[1] < 120).collect::<Vec<_>>();
        let of = |rgba: &[u8]| {
            let light =
                rgba.chunks_exact(4).zip(&dark).filter(|(_, d)| **d).map(|(p, _)| common::linear(p[1]));
            light.sum::<f64>()
        };
        (of(&with) - of(&without)) / dark.iter().filter(|d| **d).count() as f64
    };
    let (graphite, charcoal) = (gleam("graphite-6b-side"), gleam("vine-charcoal-side"));
    assert!(graphite > 1.5 * charcoal, "graphite {graphite}, charcoal {charcoal}");
}
