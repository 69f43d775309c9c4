//! A stroke is the same stroke on every sheet: where its tiles lie, how fine its pixels are, how large it is.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common;

use common::{
    demo_gesture, demo_tool, draw, ground, linear, mean, picture, plain_tool, powder, pull, set, sheet,
};
use saltmarsh_core::chain::{Action, Value};
use saltmarsh_core::ground::Surface;
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::under;
use saltmarsh_core::tool::Tool;

const PIXEL_300: f64 = 25.4 / 300.0;

#[test]
fn tile_borders_leave_no_seam() {
    let ground = ground(Surface::ColdPressed);
    let gesture = demo_gesture("scrub");
    // Places and pixels that a power of two divides: the corner moved by whole pixels is moved exactly.
    const PIXEL: f64 = 0.125;
    let block = pull([6.0, 7.0], [70.0, 7.0], 0.7);
    // Nothing reaches the sheet's edge: what lies beyond it is neither taken nor given.
    const ROOM: usize = 96;
    let run = |tool: &Tool, by: [usize; 2]| {
        let by = by.map(|n| n + ROOM);
        let origin = by.map(|n| -(n as f64) * PIXEL);
        let size = [640 + ROOM + by[0], 112 + ROOM + by[1]];
        let mut s = Sheet::new(ground.clone(), size[0], size[1], PIXEL, origin).expect("a sheet");
        if tool.action != Action::Lay {
            draw(&demo_tool("vine-charcoal-side"), &block, &mut s);
        }
        let before = powder(&s, [by[0], by[1], 640 + by[0], 112 + by[1]]);
        draw(tool, &gesture, &mut s);
        (before, powder(&s, [by[0], by[1], 640 + by[0], 112 + by[1]]))
    };
    let farthest = |a: &[f64], b: &[f64]| a.iter().zip(b).map(|(a, b)| (a - b).abs()).fold(0.0, f64::max);
    for name in ["vine-charcoal-side", "finger", "stump", "kneaded-eraser", "hard-eraser"] {
        let mut tool = demo_tool(name);
        // A lump that fills on the way: what it takes hangs on what it took.
        if name == "kneaded-eraser" {
            set(&mut tool, "mix.holds_mm3", Value::Number(0.05));
        }
        // The same stroke on sheets whose tiles lie elsewhere: corner moved by 23 and 41 pixels.
        let ((before, straight), (_, moved)) = (run(&tool, [0, 0]), run(&tool, [23, 41]));
        let did = farthest(&before, &straight);
        assert!(did > 1.0, "{name} does something: {did} µm");
        let worst = farthest(&straight, &moved);
        assert!(
            worst < 1e-4 * did,
            "{name}: a pixel differs by {worst} of {did} µm when tiles lie elsewhere"
        );
    }
}

/// Light that a strip takes from its ground by resolution, with all that lies on it, and the volume of that: within 2 % (models.md).
fn ready_tools_keep_their_tone(medium: &str) {
    let gesture = demo_gesture("press-ramp");
    let area = [10.0, 1.0, 50.0, 12.0];
    let mut apart = Vec::new();
    for (name, tool) in common::demo_tools().into_iter().filter(|(_, t)| t.medium.name() == medium) {
        let ground = common::ground_of(&tool.ground);
        let lays = tool.action == Action::Lay;
        let strip = |dpi: f64| {
            let pixel = 25.4 / dpi;
            let px = |mm: f64| (mm / pixel).round() as usize;
            let mut s = Sheet::new(ground.clone(), px(area[2]), px(area[3]), pixel, [area[0], area[1]])
                .expect("a sheet");
            if !lays {
                let under = tool.medium.under(tool.action, None).expect("what it is shown on");
                under::lay_in_place(&under, &mut s).expect("it is laid");
            }
            draw(&tool, &gesture, &mut s);
            // What the strip lost of the light of bare ground, or gained: chalk is lighter.
            let bare = picture(&Sheet::new(ground.clone(), 1, 1, pixel, [0.0, 0.0]).expect("a sheet"))[1];
            let lost = |p: &[u8]| linear(bare) - linear(p[1]);
            [picture(&s).chunks_exact(4).map(lost).sum::<f64>() * pixel * pixel, tool.medium.on_sheet(&s).mm3]
        };
        let at_300 = strip(300.0);
        for dpi in [150.0, 600.0] {
            let at = strip(dpi);
            for (what, got, want) in [("tone", at[0], at_300[0]), ("volume", at[1], at_300[1])] {
                // A film is no powder.
                let off = if want == 0.0 { got } else { got / want - 1.0 };
                if off.abs() >= 0.02 {
                    apart.push(format!("{name}: {:+.1} % of its {what} at {dpi} dpi", 100.0 * off));
                }
            }
        }
    }
    assert!(apart.is_empty(), "{}", apart.join("\n"));
}

// One for each medium, so that they run side by side.
#[test]
fn every_ready_stick_keeps_its_tone_at_half_and_double_the_resolution() {
    ready_tools_keep_their_tone("dry");
}

#[test]
fn every_ready_brush_keeps_its_tone_at_half_and_double_the_resolution() {
    ready_tools_keep_their_tone("paste");
}

/// Mean linear luminance of a stroke that is pulled along the middle of a sheet, over its own width, and that width in mm
/// where it crosses the sheet's middle half.
fn tone_and_width(sheet: &Sheet) -> (f64, f64) {
    let (w, h, pixel) = (sheet.width(), sheet.height(), sheet.pixel_mm());
    let rgba = picture(sheet);
    let rows: Vec<f64> = (0..h)
        .map(|y| {
            let row = (w / 4..3 * w / 4).map(|x| linear(rgba[(y * w + x) * 4 + 1]));
            row.sum::<f64>() / (3 * w / 4 - w / 4) as f64
        })
        .collect();
    let paper = rows[0];
    let darkest = rows.iter().copied().fold(f64::MAX, f64::min);
    // Width at half of the tone; a row that is half as dark counts half.
    let width: f64 =
        rows.iter().map(|r| (2.0 * (paper - r) / (paper - darkest)).clamp(0.0, 1.0)).sum::<f64>() * pixel;
    let inside = |y: usize| ((y as f64 + 0.5) * pixel - 0.5 * h as f64 * pixel).abs() < 1.6;
    let stroke: Vec<f64> = (0..h).filter(|y| inside(*y)).map(|y| rows[y]).collect();
    (mean(&stroke), width)
}

#[test]
fn half_or_double_the_resolution_keeps_tone_and_width() {
    for (paper, force) in [
        (Surface::ColdPressed, 40.0),
        (Surface::ColdPressed, 160.0),
        (Surface::Rough, 80.0),
        (Surface::HotPressed, 60.0),
    ] {
        let ground = ground(paper);
        let tool = plain_tool(&[("touch.force_gf", force), ("tip.width_mm", 5.0), ("tip.hardness", 0.8)]);
        let at = |pixel: f64| {
            let mut s = sheet(&ground, [60.0, 16.0], pixel);
            draw(&tool, &pull([3.0, 8.0], [57.0, 8.0], 0.5), &mut s);
            tone_and_width(&s)
        };
        let (tone, width) = at(PIXEL_300);
        for pixel in [2.0 * PIXEL_300, 0.5 * PIXEL_300] {
            let (t, w) = at(pixel);
            let name = paper.name();
            assert!(
                (t / tone - 1.0).abs() < 0.02,
                "{name}, {force} gf, {pixel:.3} mm: luminance {t:.4}, at 300 dpi {tone:.4}"
            );
            assert!(
                (w / width - 1.0).abs() < 0.02,
                "{name}, {force} gf, {pixel:.3} mm: width {w:.3}, at 300 dpi {width:.3}"
            );
        }
    }
}

#[test]
fn spacing_does_not_change_how_dark_a_stroke_is() {
    let ground = ground(Surface::ColdPressed);
    let at = |spacing: f64| {
        let mut tool =
            plain_tool(&[("touch.force_gf", 120.0), ("tip.width_mm", 5.0), ("tip.spacing", spacing)]);
        common::set(&mut tool, "tip.spacing_auto", saltmarsh_core::chain::Value::Switch(false));
        let mut s = sheet(&ground, [40.0, 12.0], 0.1);
        draw(&tool, &pull([4.0, 6.0], [36.0, 6.0], 0.5), &mut s);
        tone_and_width(&s).0
    };
    let close = at(0.05);
    // Within 2 %, as far as resolution may change a stroke (models.md, numbers that must hold everywhere).
    for spacing in [0.1, 0.2] {
        let got = at(spacing);
        assert!(
            (got / close - 1.0).abs() < 0.02,
            "spacing {spacing}: luminance {got:.4}, at 0.05 {close:.4}"
        );
    }
}

#[test]
fn a_larger_sheet_holds_the_same_stroke_in_the_same_memory() {
    let ground = ground(Surface::ColdPressed);
    let tool = demo_tool("vine-charcoal-side");
    let gesture = demo_gesture("slow-pull");
    let run = |side: usize| {
        let mut s = Sheet::new(ground.clone(), side, side, PIXEL_300, [0.0, 0.0]).expect("a sheet");
        draw(&tool, &gesture, &mut s);
        (powder(&s, [0, 0, 960, 176]), s.bytes())
    };
    let (small, large) = (run(1024), run(8192));
    assert!(small == large, "the same tiles are touched and hold the same");
}
