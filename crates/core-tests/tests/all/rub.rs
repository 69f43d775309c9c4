//! Tools that move powder: nothing is lost, loose and held are apart, smears reach bare paper, erasers lighten, fixative holds.

use crate::common;

use common::{demo_tool, draw, dry_pixel, ground, mean, powder, pull, sheet};
use saltmarsh_core::ground::Surface;
use saltmarsh_core::hand::{Gesture, Sample};
use saltmarsh_core::medium::dry::blocks::{HELD, KX, LOOSE, SX, WEAR, powder_mm3};
use saltmarsh_core::paint::BANDS;
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::Trace;
use saltmarsh_core::tool::Tool;

/// Sums over the sheet: powder in mm³, and each band's totals in their unit × mm².
fn totals(sheet: &Sheet) -> (f64, Vec<f64>) {
    let mut bands = vec![0.0; 2 * BANDS];
    for y in 0..sheet.height() {
        for x in 0..sheet.width() {
            let Some(p) = dry_pixel(sheet, x, y) else { continue };
            bands.iter_mut().zip(&p[KX..SX + BANDS]).for_each(|(sum, v)| *sum += f64::from(*v));
        }
    }
    (powder_mm3(sheet), bands)
}

/// A block of vine charcoal on the left half of a sheet of 40 × 16 mm.
fn charcoal(pixel_mm: f64) -> Sheet {
    let mut s = sheet(&ground(Surface::ColdPressed), [40.0, 16.0], pixel_mm);
    let stick = demo_tool("vine-charcoal-side");
    for y in [4.0, 8.0, 12.0] {
        draw(&stick, &pull([3.0, y], [18.0, y], 0.6), &mut s);
    }
    s
}

fn gained(trace: &Trace) -> f64 {
    trace.balance.brought.mm3 - trace.balance.held.mm3 - trace.balance.gone.mm3
}

#[test]
fn nothing_is_lost_over_a_thousand_mixed_strokes() {
    let tools: Vec<Tool> = [
        "vine-charcoal-side",
        "finger",
        "kneaded-eraser",
        "stump",
        "hard-eraser",
        "compressed-charcoal-edge",
        "fixative",
    ]
    .map(demo_tool)
    .into();
    let mut s = sheet(&ground(Surface::ColdPressed), [26.0, 18.0], 0.5);
    let (mut want, mut most) = (0.0, 0.0_f64);
    for i in 0..1000_u32 {
        let f = |k: f64| (f64::from(i) * k).fract();
        let (from, to) =
            ([2.0 + 22.0 * f(0.618), 2.0 + 14.0 * f(0.414)], [2.0 + 22.0 * f(0.732), 2.0 + 14.0 * f(0.236)]);
        let trace = draw(&tools[i as usize % tools.len()], &pull(from, to, 0.2 + 0.7 * f(0.271)), &mut s);
        want += gained(&trace);
        most = most.max(want);
    }
    let got = powder_mm3(&s);
    assert!(most > 1.0, "much was moved: {most} mm³");
    assert!((got - want).abs() < 1e-4 * want, "{got} mm³ on the sheet, {want} by the balance");
}

#[test]
fn a_finger_carries_charcoal_onto_bare_paper_and_keeps_every_band() {
    let mut s = charcoal(0.1);
    let (before, bands) = totals(&s);
    let bare = [230, 60, 300, 100];
    assert_eq!(mean(&powder(&s, bare)), 0.0, "nothing lies there yet");
    let trace = draw(&demo_tool("finger"), &pull([6.0, 8.0], [34.0, 8.0], 0.6), &mut s);
    let (after, now) = totals(&s);
    let held = trace.balance.held.mm3;
    assert!(held > 0.01 && trace.balance.gone.mm3 == 0.0, "{:?}", trace.balance);
    assert!(((after + held) / before - 1.0).abs() < 1e-6, "{after} + {held} mm³ of {before}");
    // One powder: what left the sheet had its colour, band by band.
    for (b, (was, is)) in bands.iter().zip(&now).enumerate() {
        assert!((is / was - after / before).abs() < 1e-5, "band {b}: {} of {}", is / was, after / before);
    }
    let smear = powder(&s, bare);
    let reached = smear.iter().filter(|v| **v > 0.02).count() as f64 / smear.len() as f64;
    assert!(
        mean(&smear) > 0.1 && reached > 0.9,
        "{} µm on {reached} of the bare paper: hollows too",
        mean(&smear)
    );
}

#[test]
fn a_smear_is_the_same_at_every_resolution_and_has_no_streaks() {
    // What is carried is kept in lanes across the tip; no pixel size may show them.
    let mut carried = Vec::new();
    for pixel in [0.0847, 0.1477, 0.21] {
        let mut s = charcoal(pixel);
        (0..3).for_each(|_| _ = draw(&demo_tool("finger"), &pull([8.0, 8.0], [30.0, 8.0], 0.5), &mut s));
        let px = |mm: f64| (mm / pixel) as usize;
        let rows: Vec<f64> =
            (px(5.0)..px(11.0)).map(|y| mean(&powder(&s, [px(20.0), y, px(27.0), y + 1]))).collect();
        let rough = rows.windows(3).map(|w| (w[0] - 2.0 * w[1] + w[2]).abs() / w[1]);
        let rough = mean(&rough.collect::<Vec<_>>());
        assert!(rough < 1.3 * pixel, "{pixel} mm: rows differ by {rough} of their powder");
        carried.push(mean(&rows));
    }
    let (least, most) =
        (carried.iter().fold(f64::MAX, |a, b| a.min(*b)), carried.iter().fold(0.0, |a: f64, b| a.max(*b)));
    assert!(most < 1.06 * least, "µm carried onto bare paper by pixel size: {carried:?}");
}

#[test]
fn erasers_take_and_fixative_holds() {
    let block = [60, 60, 150, 100];
    let left = |tool: &str, first: Option<&str>| {
        let mut s = charcoal(0.1);
        if let Some(first) = first {
            let fix = demo_tool(first);
            (0..2).for_each(|_| _ = draw(&fix, &pull([2.0, 8.0], [38.0, 8.0], 1.0), &mut s));
        }
        let before = mean(&powder(&s, block));
        let trace = draw(&demo_tool(tool), &pull([3.0, 8.0], [20.0, 8.0], 0.8), &mut s);
        (mean(&powder(&s, block)) / before, trace, s)
    };
    let (kneaded, trace, _) = left("kneaded-eraser", None);
    assert!((0.02..0.5).contains(&kneaded), "a kneaded eraser leaves {kneaded}");
    assert!(trace.balance.held.mm3 > 0.0 && trace.balance.gone.mm3 == 0.0);
    let (hard, trace, s) = left("hard-eraser", None);
    assert!(trace.balance.gone.mm3 > 0.0 && trace.balance.held.mm3 == 0.0, "crumbs: {:?}", trace.balance);
    let strip: Vec<f32> = (60..150).filter_map(|x| dry_pixel(&s, x, 80)).map(|p| p[WEAR]).collect();
    let worn = strip.iter().copied().fold(0.0, f32::max);
    assert!(hard < 0.8 && worn > 0.01 && worn < 2.0, "leaves {hard}, wears {worn} µm");
    let of = |s: &Sheet, i: usize| {
        (60..150).filter_map(|x| dry_pixel(s, x, 80)).map(|p| f64::from(p[i])).sum::<f64>()
    };
    // So does powder that water has soaked.
    for (tool, name) in [("fixative", "fixed"), ("wash-clear-water", "soaked")] {
        let (stays, ..) = left("kneaded-eraser", Some(tool));
        assert!(stays > kneaded + 0.05, "{name} powder stays: {stays} against {kneaded}");
        // Neither moves any; loose becomes held.
        let mut s = charcoal(0.1);
        let before = totals(&s);
        draw(&demo_tool(tool), &pull([2.0, 8.0], [38.0, 8.0], 1.0), &mut s);
        assert!(
            (totals(&s).0 / before.0 - 1.0).abs() < 1e-6 && totals(&s).1 == before.1,
            "nothing is {name} away"
        );
        assert!(of(&s, HELD) > of(&s, LOOSE), "most is {name}");
    }
}

#[test]
fn a_dab_of_the_kneaded_eraser_lifts_and_fills_it() {
    let dab = |i: usize| {
        let t = i as f64 * 0.4;
        let at = |t: f64| Sample { t, x: 10.0, y: 8.0, pressure: 0.8, tilt_x: 0.0, tilt_y: 0.0, twist: 0.0 };
        vec![at(t), at(t + 0.1)]
    };
    let lifted = |holds: f64, dabs: usize| {
        let mut tool = demo_tool("kneaded-eraser");
        common::set(&mut tool, "mix.holds_mm3", saltmarsh_core::chain::Value::Number(holds));
        let mut s = charcoal(0.1);
        draw(&tool, &Gesture::new((0..dabs).map(dab).collect()).expect("dabs"), &mut s).balance.held.mm3
    };
    let (one, six) = (lifted(6.0, 1), lifted(6.0, 6));
    assert!(one > 0.01 && six > one * 1.05, "{one} mm³ with one dab, {six} with six");
    let small = lifted(0.02, 6);
    assert!(small < 0.024 && small > 0.015, "a small lump is full at 0.02 mm³: {small}");
}
