//! Does a stick meet the paper as models.md §5 says? Covered area against the material ratio, force, passes, the swapped
//! ground, opacity and even films.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common;

use std::rc::Rc;

use common::{demo_tool, draw, ground, mean, plain_tool, powder, pull, set, sheet};
use saltmarsh_core::chain::Value;
use saltmarsh_core::ground::{Feel, Ground, PITCH_MM, Region, Surface};
use saltmarsh_core::lanes;
use saltmarsh_core::tool::Tool;

/// A stick that does nothing but show where it touches: no grit, grain or streaks, a film of [`MARK_UM`] that is full at
/// once and too thin to lift the surface, the same pressure over a square-edged tip of 8 mm.
fn marker(force_gf: f64) -> Tool {
    plain_tool(&[
        ("touch.force_gf", force_gf),
        ("touch.opacity", MARK_UM),
        ("tip.width_mm", 8.0),
        ("tip.hardness", 1.0),
        ("load.hardness_gf_mm2", 16.0),
        ("load.give_um", 18.0),
        ("load.deposit_um_mm", 60.0),
        ("load.fill_um", 1.0),
        ("load.grit_um", 0.0),
        ("load.grain", 0.0),
        ("load.face_um", 0.0),
    ])
}

const MARK_UM: f64 = 0.02;

/// Middle of the strip that `marked` draws, in ground pixels: everything there was under the whole tip.
const WINDOW: [usize; 4] = [300, 160, 780, 240];

/// Share touched, pixel by pixel of the window, after a pull of the marker.
fn marked(ground: &Rc<Ground>, tool: &Tool) -> Vec<f64> {
    let mut sheet = sheet(ground, [54.0, 20.0], PITCH_MM);
    let gesture = pull([5.0, 10.0], [49.0, 10.0], 0.5);
    draw(tool, &gesture, &mut sheet);
    draw(tool, &gesture, &mut sheet);
    powder(&sheet, WINDOW).iter().map(|um| um / MARK_UM).collect()
}

/// Roughness that the height map leaves out because it is finer than its pitch, µm (`ground::FINE_UM`).
const FINE_UM: f64 = 1.4;

/// Share of a ground that stands at or above `c`, and how far it stands above `c` on average, µm: the heights of the map,
/// each with normally spread roughness on it. Φ from libm's erfc, not from the core's table.
fn above(heights: &[f32], c: f64) -> (f64, f64) {
    let (mut share, mut excess) = (0.0, 0.0);
    for h in heights {
        let x = (f64::from(*h) - c) / FINE_UM;
        let phi = 0.5 * libm::erfc(-x / 2_f64.sqrt());
        share += phi;
        excess += FINE_UM * (x * phi + libm::exp(-0.5 * x * x) / (2.0 * std::f64::consts::PI).sqrt());
    }
    (share / heights.len() as f64, excess / heights.len() as f64)
}

/// The plane of an elastic bed, found here by bisection: `∫_c^∞ Smr dz = mean(max(0, h − c)) = q·δ`.
fn plane(heights: &[f32], q: f64, give_um: f64) -> f64 {
    let (mut low, mut high) = (-200.0, 200.0);
    for _ in 0..40 {
        let c = 0.5 * (low + high);
        if above(heights, c).1 > q * give_um { low = c } else { high = c }
    }
    0.5 * (low + high)
}

/// Abbott & Firestone 1933; ISO 25178-2: the area that a flat tip covers is the material ratio at its depth.
#[test]
fn covered_area_is_the_material_ratio_of_the_ground() {
    for paper in Surface::GENERATED.iter().copied() {
        let ground = ground(paper);
        // Every seventh of the reference: a fair sample, and quick.
        let reference = ground.reference().height.iter().step_by(7);
        let reference: Vec<f32> = reference.map(|h| h - ground.level()).collect();
        let [left, top, right, bottom] = WINDOW;
        let under = ground.patch(Region::new(left as i64, top as i64, right - left, bottom - top));
        let under: Vec<f32> = under.height.iter().map(|h| h - ground.level()).collect();
        for force in [8.0, 40.0, 120.0, 300.0, 600.0] {
            let q = force / (std::f64::consts::PI * 16.0) / 16.0;
            let ratio = above(&under, plane(&reference, q, 18.0)).0;
            let covered = mean(&marked(&ground, &marker(force)));
            assert!(
                (covered - ratio).abs() < 0.01,
                "{}, {force} gf: covers {covered:.4}, material ratio {ratio:.4}",
                paper.name()
            );
        }
    }
}

#[test]
fn more_force_never_covers_or_lays_less() {
    for paper in [Surface::HotPressed, Surface::ColdPressed, Surface::Rough] {
        let ground = ground(paper);
        let mut before = (0.0, 0.0);
        for force in [2.0, 5.0, 10.0, 20.0, 40.0, 80.0, 160.0, 320.0, 640.0, 1280.0] {
            let tool = plain_tool(&[("touch.force_gf", force), ("tip.width_mm", 6.0)]);
            let mut sheet = sheet(&ground, [40.0, 12.0], 0.1);
            let trace = draw(&tool, &pull([5.0, 6.0], [35.0, 6.0], 0.5), &mut sheet);
            let covered = mean(&trace.values("covered").collect::<Vec<_>>());
            let laid = powder(&sheet, [0, 0, 400, 120]).iter().sum();
            assert!(
                covered >= before.0,
                "{}, {force} gf covers {covered}, before {}",
                paper.name(),
                before.0
            );
            assert!(laid >= before.1, "{}, {force} gf lays {laid}, before {}", paper.name(), before.1);
            before = (covered, laid);
        }
        assert!(before.0 > 0.8, "{}: a firm press nearly closes the paper, got {}", paper.name(), before.0);
    }
}

#[test]
fn passes_fill_the_tooth_until_it_takes_no_more() {
    let ground = ground(Surface::ColdPressed);
    let tool = plain_tool(&[("touch.force_gf", 250.0), ("tip.width_mm", 6.0)]);
    let mut sheet = sheet(&ground, [40.0, 12.0], 0.1);
    let gesture = pull([5.0, 6.0], [35.0, 6.0], 0.5);
    let mut added = Vec::new();
    let mut before = 0.0;
    for _ in 0..14 {
        draw(&tool, &gesture, &mut sheet);
        let now = mean(&powder(&sheet, [150, 45, 250, 75]));
        added.push(now - before);
        before = now;
    }
    assert!(added.iter().all(|a| *a >= 0.0), "a pass took powder away: {added:?}");
    assert!(added[13] < 0.01 * added[0], "still filling after 14 passes: {added:?}");
    assert!(before < 12.0 * 1.35, "holds {before} µm on average, over what its fill allows");
}

/// models.md §5: a swapped ground fills exactly the complement.
#[test]
fn the_swapped_ground_fills_what_was_left_bare() {
    for paper in Surface::GENERATED.iter().copied() {
        let ground = ground(paper);
        let area = std::f64::consts::PI * 16.0;
        // The force at which a tip stands at `level` µm.
        let force_at = |feel: Feel, level: f32| {
            let plane = ground.bearing(feel).plane(1.0, 0.0, 18.0);
            let (mut low, mut high) = (0.0, 1500.0);
            for _ in 0..50 {
                let force: f64 = 0.5 * (low + high);
                if plane.at(lanes::all((force / area / 16.0) as f32)).to_array()[0] > level {
                    low = force
                } else {
                    high = force
                }
            }
            0.5 * (low + high)
        };
        let swapped = Feel { swap: true, ..Feel::default() };
        let peaks = marked(&ground, &marker(force_at(Feel::default(), 1.0)));
        let mut tool = marker(force_at(swapped, -1.0));
        set(&mut tool, "ground.swap", Value::Switch(true));
        let hollows = marked(&ground, &tool);
        let sums: Vec<f64> = peaks.iter().zip(&hollows).map(|(a, b)| a + b).collect();
        let overlap = mean(&sums.iter().map(|s| (s - 1.0).max(0.0)).collect::<Vec<_>>());
        let bare = mean(&sums.iter().map(|s| (1.0 - s).max(0.0)).collect::<Vec<_>>());
        let name = paper.name();
        assert!(mean(&peaks) > 0.15 && mean(&hollows) > 0.15, "{name}: both passes must show");
        assert!(overlap < 0.01 && bare < 0.01, "{name}: overlap {overlap:.4}, left bare {bare:.4}");
    }
}

#[test]
fn opacity_caps_a_stroke_however_often_it_passes() {
    let ground = ground(Surface::HotPressed);
    let firm =
        [("touch.force_gf", 800.0), ("tip.width_mm", 6.0), ("load.grain", 0.0), ("load.deposit_um_mm", 40.0)];
    let filled = |opacity: f64| {
        let mut sheet = sheet(&ground, [40.0, 12.0], 0.1);
        let tool = plain_tool(&[&firm[..], &[("touch.opacity", opacity)]].concat());
        for _ in 0..6 {
            draw(&tool, &pull([5.0, 6.0], [35.0, 6.0], 0.5), &mut sheet);
        }
        mean(&powder(&sheet, [150, 45, 250, 75]))
    };
    let (whole, half) = (filled(1.0), filled(0.5));
    assert!((half / whole - 0.5).abs() < 0.03, "at opacity 0.5 it holds {half}, at 1 {whole}");
}

#[test]
fn an_even_stroke_crosses_itself_without_a_darker_patch() {
    let ground = ground(Surface::HotPressed);
    // No streaks: they lie elsewhere on the way back.
    let stick = [
        ("touch.force_gf", 120.0),
        ("tip.width_mm", 4.0),
        ("load.deposit_um_mm", 2.0),
        ("load.face_um", 0.0),
    ];
    let mut tool = plain_tool(&stick);
    let ratio = |tool: &Tool| {
        // Out and back on the same line, in one stroke.
        let there = pull([5.0, 6.0], [35.0, 6.0], 0.5);
        let back = pull([35.0, 6.0], [5.0, 6.0], 0.5);
        let mut samples = there.passes()[0].clone();
        let turn = samples[samples.len() - 1].t + 1.0 / 120.0;
        samples.extend(back.passes()[0].iter().map(|s| saltmarsh_core::hand::Sample { t: s.t + turn, ..*s }));
        let both = saltmarsh_core::hand::Gesture::new(vec![samples]).expect("a gesture");
        let laid = |gesture| {
            let mut sheet = sheet(&ground, [40.0, 12.0], 0.1);
            draw(tool, gesture, &mut sheet);
            mean(&powder(&sheet, [150, 50, 250, 70]))
        };
        laid(&both) / laid(&there)
    };
    let builds = ratio(&tool);
    set(&mut tool, "touch.build", Value::Choice("even".into()));
    let even = ratio(&tool);
    assert!(builds > 1.5, "a building stroke darkens on the way back, got × {builds}");
    assert!((even - 1.0).abs() < 0.01, "builds × {builds}, an even stroke stays one film, got × {even}");
}

/// Handbook order of pencil grades: the softer, the blacker and the readier to give (common practice, no source).
#[test]
fn softer_grades_of_graphite_draw_darker() {
    let ground = ground(Surface::HotPressed);
    let mut hard = demo_tool("graphite-hb-point");
    set(&mut hard, "load.stick", Value::Choice("graphite-2h".to_owned()));
    set(&mut hard, "load.hardness_gf_mm2", Value::Number(2000.0));
    let grades = [
        hard,
        demo_tool("graphite-hb-point"),
        demo_tool("graphite-2b-point"),
        demo_tool("graphite-6b-point"),
    ];
    for pressure in [0.15, 0.5, 0.95] {
        let dark = |tool: &Tool| {
            let mut tool = tool.clone();
            // One width for all: it is the lead that is compared.
            tool.responses.retain(|r| r.quality != saltmarsh_core::chain::Quality::Width);
            set(&mut tool, "tip.width_mm", Value::Number(0.8));
            let mut s = sheet(&ground, [40.0, 6.0], 0.08);
            draw(&tool, &pull([3.0, 3.0], [37.0, 3.0], pressure), &mut s);
            let shown = common::picture(&s);
            shown.chunks_exact(4).map(|p| f64::from(243 - p[1].min(243))).sum::<f64>()
        };
        let tones: Vec<f64> = grades.iter().map(dark).collect();
        assert!(tones.windows(2).all(|w| w[1] > 1.05 * w[0]), "at {pressure}: 2H, HB, 2B, 6B give {tones:?}");
    }
}
