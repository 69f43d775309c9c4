//! Ink: nibs, what stays under water, and paper that is not sized.

use crate::common::{self, demo_tool, draw_wet, pull};
use crate::washes::{along, paint_at, sheet_for};
use saltmarsh_core::chain::Value;
use saltmarsh_core::medium::{Turn, turn_in_place};
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::tool::Tool;

/// Widths of a stroke along x, mm, where it is at least `um` deep, on some columns.
fn widths(s: &Sheet, columns: std::ops::Range<usize>, um: f64) -> Vec<f64> {
    let deep = |x: usize| (0..s.height()).filter(|y| paint_at(s, x, *y) >= um).count() as f64;
    columns.map(|x| deep(x) * s.pixel_mm()).collect()
}

fn fine_sheet(tool: &Tool) -> Sheet {
    let ground = common::ground_of(&tool.ground);
    Sheet::new(ground, 320, 160, 0.0625, [0.0; 2]).expect("a sheet")
}

#[test]
fn a_nib_swells_where_it_is_pulled_and_splits_where_it_is_starved() {
    let tool = demo_tool("ink-pointed-nib");
    let width = |from: [f64; 2], to: [f64; 2]| {
        let trace = draw_wet(&tool, &pull(from, to, 0.9), &mut fine_sheet(&tool));
        let dab = &trace.dabs[trace.dabs.len() / 2];
        dab.length_mm.max(dab.width_mm)
    };
    // Pulled towards the hand its tines spread by 6 µm for a gf; pushed they do not.
    let (down, up) = (width([10.0, 1.0], [10.0, 9.0]), width([10.0, 9.0], [10.0, 1.0]));
    assert!(down > 0.9 && (up - 0.18).abs() < 0.01, "{down} and {up} mm");
    // A wide line that takes more than comes is bare between the tines.
    let across = |feeds: f64| {
        let mut tool = tool.clone();
        tool.parameters.insert("load.feeds_mm3_s".into(), Value::Number(feeds));
        let mut s = fine_sheet(&tool);
        let trace = draw_wet(&tool, &pull([10.0, 1.0], [10.0, 9.0], 0.9), &mut s);
        let fed = trace.value(&trace.dabs[trace.dabs.len() / 2], "fed");
        (fed, (148..172).map(|x| paint_at(&s, x, 80)).collect::<Vec<f64>>())
    };
    let ((full, closed), (short, split)) = (across(10.0), across(0.2));
    let edge = |line: &[f64]| line.iter().fold(0.0_f64, |m, v| m.max(*v));
    assert!(full == 1.0 && closed[12] > 0.5 * edge(&closed), "{closed:?}");
    assert!(short < 0.3 && split[12] < 0.05 * edge(&split), "{short}: {split:?}");
}

#[test]
fn the_edge_of_a_broad_nib_s_line_has_no_teeth() {
    let tool = demo_tool("ink-broad-nib");
    let mut s = fine_sheet(&tool);
    // A little uphill, so that the line's edge goes through row after row of pixels.
    draw_wet(&tool, &pull([2.0, 5.0], [18.0, 5.6], 0.5), &mut s);
    let rows = (40..120).map(|y| (60..260).map(|x| paint_at(&s, x, y)).collect::<Vec<f64>>());
    let (mut edges, mut worst) = (0, 0.0_f64);
    for row in rows {
        let most = row.iter().fold(0.0_f64, |m, v| m.max(*v));
        // Where a row lies on the edge it goes from nothing to all: over two pixels there and back is a tooth.
        for three in row.windows(3).filter(|_| most > 0.0) {
            let tooth = (three[1] - 0.5 * (three[0] + three[2])).abs() / most;
            if (three[0] - three[2]).abs() < 0.2 * most && three[1] < 0.8 * most {
                (edges, worst) = (edges + 1, worst.max(tooth));
            }
        }
    }
    assert!(edges > 100 && worst < 0.1, "{worst} of the line at {edges} places");
}

#[test]
fn waterproof_ink_stays_under_water_and_the_other_runs() {
    let kept = |dries: &str| {
        let mut tool = demo_tool("ink-brush-pen");
        tool.parameters.insert("load.dries".into(), Value::Choice(dries.into()));
        let mut s = sheet_for(&tool);
        draw_wet(&tool, &along(), &mut s);
        s.rest();
        turn_in_place(Turn::Dry, &mut s);
        let line = |s: &Sheet| (60..180).map(|x| paint_at(s, x, 50)).sum::<f64>();
        let before = line(&s);
        let mut brush = demo_tool("wash-clear-water");
        brush.parameters.insert("mix.loosen".into(), Value::Number(0.6));
        draw_wet(&brush, &along(), &mut s);
        s.rest();
        line(&s) / before
    };
    let (waterproof, washable) = (kept("waterproof"), kept("washable"));
    assert!((waterproof - 1.0).abs() < 1e-3, "{waterproof} of the line stays");
    assert!(washable < 0.85, "{washable} of the line stays");
}

#[test]
fn ink_feathers_in_paper_that_is_not_sized() {
    let width = |sizing: f64| {
        let mut tool = demo_tool("ink-brush-pen");
        tool.parameters.insert("load.dries".into(), Value::Choice("washable".into()));
        tool.parameters.insert("load.water_um".into(), Value::Number(60.0));
        tool.ground.numbers.insert("sizing".into(), sizing);
        let mut s = fine_sheet(&tool);
        draw_wet(&tool, &pull([4.0, 5.0], [16.0, 5.0], 0.3), &mut s);
        s.rest();
        let widths = widths(&s, 100..220, 0.05);
        widths.iter().sum::<f64>() / widths.len() as f64
    };
    let (sized, leaf) = (width(0.9), width(0.0));
    assert!(leaf > 1.25 * sized, "{leaf} against {sized} mm");
}
