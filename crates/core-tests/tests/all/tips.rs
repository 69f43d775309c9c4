//! Tips: shapes, specks, images and grain, as strokes and as samples.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common;

use common::{demo_tools, draw, ground, hand_drawn, mean, plain_tool, powder, pull, set, sheet};
use saltmarsh_core::chain::{Qualities, Quality, Value};
use saltmarsh_core::ground::Surface;
use saltmarsh_core::hand::{Hand, Sample, angles};
use saltmarsh_core::image::Grey;
use saltmarsh_core::lanes::all;
use saltmarsh_core::medium::dry::blocks::powder_mm3;
use saltmarsh_core::num;
use saltmarsh_core::stroke;
use saltmarsh_core::tip::mask::{Making, Mask};
use saltmarsh_core::tip::{Shape, Shelf};
use saltmarsh_core::tool::Tool;

const PLAIN: Making = Making {
    flip_along: false,
    flip_across: false,
    invert: false,
    low: 0.0,
    high: 1.0,
    blur: 0.0,
    feather: 0.0,
};

fn image(width: usize, height: usize, value: impl Fn(usize, usize) -> f32) -> Grey {
    let values =
        (0..width * height).map(|i| (value(i % width, i / width).clamp(0.0, 1.0) * 65_535.0).round() as u16);
    Grey::new(width, height, values.collect()).expect("a small image")
}

fn noise(x: usize, y: usize) -> f32 {
    num::unit(num::hash(9, 2, x as i64, y as i64))
}

fn at(mask: &Mask, x: f32, y: f32, level: f32) -> f32 {
    mask.at(all(x), all(y), level).to_array()[0]
}

/// A box filter is how a general image library reduces by a whole factor (Pillow 12, `Image.reduce`); the values below are its
/// for `(7·x² + 13·y) mod 251` on 32 × 16 texels reduced by 4.
#[test]
fn reduced_images_are_those_of_a_general_image_library() {
    let grey = image(32, 16, |x, y| ((7 * x * x + 13 * y) % 251) as f32 / 255.0);
    let mask = Mask::of_image(&grey, &PLAIN, false);
    const PILLOW: [[f32; 8]; 4] = include!("data/reduced.in");
    for (j, row) in PILLOW.iter().enumerate() {
        for (i, want) in row.iter().enumerate() {
            let (x, y) = ((i as f32 + 0.5) / 4.0 - 1.0, (j as f32 + 0.5) / 2.0 - 1.0);
            let got = 255.0 * at(&mask, x, y, 2.0);
            // The library rounds to whole levels.
            assert!((got - want).abs() < 0.55, "at {i}, {j}: {got}, want {want}");
        }
    }
    // And between texels it is bilinear: halfway between two middles is their mean.
    let (a, b) =
        (at(&mask, -1.0 + 9.0 / 32.0, 0.0 + 1.0 / 16.0, 0.0), at(&mask, -1.0 + 11.0 / 32.0, 1.0 / 16.0, 0.0));
    let between = at(&mask, -1.0 + 10.0 / 32.0, 1.0 / 16.0, 0.0);
    assert!((between - 0.5 * (a + b)).abs() < 1e-5, "{a} {between} {b}");
}

#[test]
fn an_image_is_made_ready_as_it_is_told() {
    let grey = image(64, 32, |x, y| if x < 16 && y < 8 { 1.0 } else { 0.25 });
    let of = |making: Making| Mask::of_image(&grey, &making, false);
    let corner = |m: &Mask, x: f32, y: f32| at(m, x, y, 0.0);
    let plain = of(PLAIN);
    assert!(
        (corner(&plain, -0.8, -0.8) - 1.0).abs() < 1e-4 && (corner(&plain, 0.8, 0.8) - 0.25).abs() < 1e-4
    );
    assert!(corner(&of(Making { flip_along: true, ..PLAIN }), 0.8, -0.8) > 0.99);
    assert!(corner(&of(Making { flip_across: true, ..PLAIN }), -0.8, 0.8) > 0.99);
    assert!((corner(&of(Making { invert: true, ..PLAIN }), 0.8, 0.8) - 0.75).abs() < 1e-4);
    // Levels, and a threshold where white is not above black.
    assert!((corner(&of(Making { low: 0.2, high: 0.3, ..PLAIN }), 0.8, 0.8) - 0.5).abs() < 1e-3);
    let hard = of(Making { low: 0.3, high: 0.3, ..PLAIN });
    assert_eq!((corner(&hard, 0.8, 0.8), corner(&hard, -0.8, -0.8)), (0.0, 1.0));
    // Blur keeps the mean but at the rim; feather takes the rim away.
    let soft = of(Making { blur: 0.05, ..PLAIN });
    let middle = corner(&soft, -0.5, -0.75);
    assert!(middle > 0.4 && middle < 0.9, "the edge is soft: {middle}");
    let (bare, feathered) = (plain.hard_rim(), of(Making { feather: 0.2, ..PLAIN }).hard_rim());
    assert!(bare > 0.99 && feathered < 0.02, "rim {bare}, feathered {feathered}");
    assert_eq!(at(&plain, 1.2, 0.0, 0.0), 0.0, "beyond the box nothing is laid");
}

#[test]
fn size_and_place_change_a_sample_smoothly() {
    let mask = Mask::of_image(&image(128, 128, noise), &PLAIN, false);
    let mut worst = (0.0_f32, 0.0_f32);
    for i in 0..400 {
        let level = i as f32 * 0.015;
        let (x, y) = (0.13 + i as f32 * 0.001, -0.2);
        worst.0 = worst.0.max((at(&mask, x, y, level + 0.015) - at(&mask, x, y, level)).abs());
        // A tenth of a texel of this level.
        let step = 0.2 / (128.0 / level.exp2());
        worst.1 = worst.1.max((at(&mask, x + step, y, level) - at(&mask, x, y, level)).abs());
    }
    assert!(worst.0 < 0.02 && worst.1 < 0.11, "jumps by {worst:?}");
}

/// A stick that lays evenly on smooth paper.
fn stamp(shape: &str) -> Tool {
    let mut tool = plain_tool(&[
        ("touch.force_gf", 300.0),
        ("tip.width_mm", 4.0),
        ("tip.aspect", 2.0),
        ("tip.hardness", 1.0),
        ("ground.tooth", 0.0),
        ("load.grain", 0.0),
        ("load.face_um", 0.0),
        ("load.grit_um", 0.0),
    ]);
    set(&mut tool, "tip.shape", Value::Choice(shape.into()));
    tool
}

/// Rows and columns of 0.1 mm that one press marks, and its powder in mm³.
fn pressed(tool: &Tool, shelf: &Shelf) -> (usize, usize, f64) {
    let ground = ground(Surface::HotPressed);
    let mut s = sheet(&ground, [20.0, 20.0], 0.1);
    stroke::run_with(tool, &Hand::default(), &pull([10.0, 10.0], [10.0, 10.01], 0.5), &mut s, shelf)
        .expect("it runs");
    let um = powder(&s, [0, 0, 200, 200]);
    let most = um.iter().copied().fold(0.0, f64::max);
    let rows = um.chunks_exact(200).filter(|r| r.iter().any(|v| *v > 0.5 * most)).count();
    let columns = (0..200).filter(|x| um.iter().skip(*x).step_by(200).any(|v| *v > 0.5 * most)).count();
    (rows, columns, powder_mm3(&s))
}

#[test]
fn every_shape_marks_its_own_size_and_turns() {
    let none = Shelf::default();
    for (shape, [rows, columns]) in [
        ("round", [40, 80]),
        ("flat", [40, 80]),
        ("filbert", [40, 80]),
        ("angled", [65, 80]),
        ("fan", [64, 80]),
        ("pointed", [40, 80]),
    ] {
        let mut tool = stamp(shape);
        let (r, c, laid) = pressed(&tool, &none);
        assert!(
            r.abs_diff(rows) <= 5 && c.abs_diff(columns) <= 5,
            "{shape} marks {r} × {c}, of {rows} × {columns}"
        );
        assert!(laid > 0.0);
        set(&mut tool, "tip.angle_deg", Value::Number(90.0));
        let (r, c, _) = pressed(&tool, &none);
        assert!(r.abs_diff(columns) <= 5 && c.abs_diff(rows) <= 5, "{shape}, turned, marks {r} × {c}");
    }
}

#[test]
fn an_image_tip_lays_its_white_and_shares_the_force_among_it() {
    let mut shelf = Shelf::default();
    let half = shelf.images.add(image(64, 32, |x, _| if x < 32 { 1.0 } else { 0.0 }));
    let full = shelf.images.add(image(64, 32, |_, _| 1.0));
    let with = |hash: &str| {
        let mut tool = stamp("image");
        set(&mut tool, "tip.aspect", Value::Number(1.0));
        set(&mut tool, "tip.image", Value::Choice(hash.into()));
        tool
    };
    let (rows, columns, _) = pressed(&with(&full), &shelf);
    assert!(
        rows.abs_diff(40) <= 2 && columns.abs_diff(80) <= 2,
        "as long as the image's proportion: {rows} × {columns}"
    );
    let (rows, columns, _) = pressed(&with(&half), &shelf);
    assert!(rows.abs_diff(40) <= 2 && columns.abs_diff(40) <= 3, "only the white half: {rows} × {columns}");
    let load = |tool: &Tool| {
        let mut s = sheet(&ground(Surface::HotPressed), [20.0, 20.0], 0.1);
        let trace =
            stroke::run_with(tool, &Hand::default(), &pull([6.0, 10.0], [14.0, 10.0], 0.5), &mut s, &shelf);
        mean(&trace.expect("it runs").dabs.iter().map(|d| d.area_mm2).collect::<Vec<_>>())
    };
    let (whole, part) = (load(&with(&full)), load(&with(&half)));
    assert!((part / whole - 0.5).abs() < 0.02, "half the area bears the force: {part} of {whole} mm²");
    let refused = stroke::run(
        &with(&full),
        &Hand::default(),
        &pull([1.0, 1.0], [2.0, 1.0], 0.5),
        &mut sheet(&ground(Surface::HotPressed), [4.0, 4.0], 0.1),
    );
    assert_eq!(refused.expect_err("the image is not here").field, "parameters.tip.image");
}

#[test]
fn grain_stays_on_the_sheet_or_travels_with_the_tip() {
    let mut shelf = Shelf::default();
    // Stripes across the way, 2 mm apart on the sheet.
    let stripes = shelf.images.add(image(64, 64, |x, _| if x < 32 { 1.0 } else { 0.0 }));
    let mut tool = stamp("flat");
    set(&mut tool, "tip.grain", Value::Choice(stripes));
    set(&mut tool, "tip.grain_mm", Value::Number(2.0));
    let contrast = |tool: &Tool| {
        let mut s = sheet(&ground(Surface::HotPressed), [50.0, 10.0], 0.1);
        stroke::run_with(tool, &Hand::default(), &pull([6.0, 5.0], [44.0, 5.0], 0.5), &mut s, &shelf)
            .expect("it runs");
        let um = powder(&s, [150, 48, 350, 52]);
        let column = |x: usize| mean(&um.iter().skip(x).step_by(200).copied().collect::<Vec<_>>());
        let (on, off): (Vec<f64>, Vec<f64>) = (
            (0..200).filter(|x| x % 20 < 10).map(column).collect(),
            (0..200).filter(|x| x % 20 >= 10).map(column).collect(),
        );
        (mean(&on) - mean(&off)) / (mean(&on) + mean(&off))
    };
    let on_sheet = contrast(&tool);
    assert!(on_sheet.abs() > 0.9, "stripes stand where the sheet has them: contrast {on_sheet}");
    set(&mut tool, "tip.grain_depth", Value::Number(0.5));
    let half = contrast(&tool);
    assert!(half.abs() > 0.02 && half.abs() < 0.7 * on_sheet.abs(), "half the depth: contrast {half}");
    set(&mut tool, "tip.grain_depth", Value::Number(1.0));
    set(&mut tool, "tip.grain_on", Value::Choice("tip".into()));
    let travelling = contrast(&tool);
    assert!(travelling.abs() < 0.2, "stripes that travel are rubbed over: contrast {travelling}");
}

/// Share of the round that a field of specks covers, and their mean distance from its middle (1 at the rim).
fn speckled(seed: u64, count: usize, size: f32, spread: f32, crowd: f32) -> (f64, f64) {
    let mask = Mask::of_specks(seed, count, size, spread, crowd);
    let (mut sum, mut far, n) = (0.0, 0.0, 400);
    for i in 0..n * n {
        let [x, y] = [i % n, i / n].map(|k| (2.0 * k as f32 + 1.0) / n as f32 - 1.0);
        let value = f64::from(mask.at(all(x), all(y), 0.0).to_array()[0]);
        sum += value;
        far += value * f64::from(x).hypot(f64::from(y));
    }
    (sum * 4.0 / (n * n) as f64 / std::f64::consts::PI, far / sum)
}

/// Spots thrown by chance cover `1 − e^(−n·d²)` of a round, `d` their diameter over its own (Poisson), and more by `1 + s²/3` where
/// they differ by `s`; evenly spread they lie 2/3 of the radius from the middle on average, crowded by r² 1/3 (mean of √u and u²).
#[test]
fn specks_cover_what_chance_says_and_crowd_as_they_are_told() {
    let seeds = 0..12_u64;
    let mean_of = |count: usize, size: f32, spread: f32, crowd: f32| {
        let all: Vec<(f64, f64)> = seeds.clone().map(|s| speckled(s, count, size, spread, crowd)).collect();
        (
            mean(&all.iter().map(|a| a.0).collect::<Vec<_>>()),
            mean(&all.iter().map(|a| a.1).collect::<Vec<_>>()),
        )
    };
    for (count, size, spread) in [(40, 0.05, 0.0), (160, 0.05, 0.0), (40, 0.1, 0.0), (120, 0.05, 0.9)] {
        let (share, _) = mean_of(count, size, spread, 0.0);
        let each = f64::from(size * size) * (1.0 + f64::from(spread * spread) / 3.0);
        let want = 1.0 - (-(count as f64) * each).exp();
        assert!((share / want - 1.0).abs() < 0.08, "{count} of {size}: cover {share}, chance says {want}");
    }
    let (even, crowded) = (mean_of(40, 0.02, 0.0, 0.0).1, mean_of(40, 0.02, 0.0, 1.0).1);
    assert!(
        (even - 0.66).abs() < 0.03 && (crowded - 0.33).abs() < 0.06,
        "{even} from the middle, crowded {crowded}"
    );
}

#[test]
fn specks_count_and_scatter_add_up() {
    let none = Shelf::default();
    let mut tool = stamp("speckled");
    set(&mut tool, "tip.aspect", Value::Number(1.0));
    set(&mut tool, "tip.speck_size", Value::Number(0.05));
    let few = {
        set(&mut tool, "tip.specks", Value::Number(10.0));
        pressed(&tool, &none).2
    };
    let many = {
        set(&mut tool, "tip.specks", Value::Number(60.0));
        pressed(&tool, &none).2
    };
    assert!(many > 2.0 * few, "60 specks lay {many} mm³, 10 lay {few}");
    // Placements stray both ways, each by itself.
    let mut spray = stamp("round");
    for (id, v) in [
        ("tip.aspect", 1.0),
        ("tip.width_mm", 0.3),
        ("tip.count", 8.0),
        ("tip.scatter_mm", 4.0),
        ("tip.scatter_along_mm", 4.0),
    ] {
        set(&mut spray, id, Value::Number(v));
    }
    let mut s = sheet(&ground(Surface::HotPressed), [30.0, 20.0], 0.1);
    draw(&spray, &pull([10.0, 10.0], [20.0, 10.0], 0.5), &mut s);
    let um = powder(&s, [0, 0, 300, 200]);
    let far = |x0: usize, x1: usize| (0..200).any(|y| (x0..x1).any(|x| um[y * 300 + x] > 0.0));
    assert!(far(65, 95) && far(205, 235), "dabs stray before and behind the way");
    let rows = um.chunks_exact(300).filter(|r| r.iter().any(|v| *v > 0.0)).count();
    assert!(rows > 60 && rows <= 84, "and to both sides, 4 mm at most: {rows} rows");
}

#[test]
fn a_second_outline_masks_the_first() {
    let none = Shelf::default();
    let mut tool = stamp("flat");
    let (.., whole) = pressed(&tool, &none);
    set(&mut tool, "tip.mask", Value::Choice("round".into()));
    set(&mut tool, "tip.mask_size", Value::Number(0.5));
    let (rows, columns, masked) = pressed(&tool, &none);
    assert!(rows.abs_diff(20) <= 2 && columns.abs_diff(40) <= 2, "only the mask shows: {rows} × {columns}");
    let share = Shape::Round.outline().area() * 0.25 / Shape::Flat.outline().area();
    assert!((masked / whole / f64::from(share) - 1.0).abs() < 0.1, "{masked} of {whole} mm³, share {share}");
}

#[test]
fn the_tip_turns_with_what_turns_it() {
    let mut tool = stamp("flat");
    set(&mut tool, "tip.angle_deg", Value::Number(30.0));
    let angle = |from: &str, tool: &mut Tool| {
        set(tool, "tip.angle_from", Value::Choice(from.into()));
        let mut s = sheet(&ground(Surface::HotPressed), [30.0, 30.0], 0.2);
        // Heading 45°, upright.
        draw(tool, &pull([5.0, 5.0], [25.0, 25.0], 0.5), &mut s).dabs.last().expect("a dab").angle_deg
    };
    assert!((angle("bearing", &mut tool) - 30.0).abs() < 1e-3);
    let heading = angle("heading", &mut tool);
    assert!((heading - 75.0).abs() < 1.0, "heading 45° and 30°: {heading}");
}

/// Share of a band that is marked, and the mean amount there, µm.
fn textured(enters: &str, force: f64, depth: f64, swap: bool) -> Vec<f64> {
    let mut tool = stamp("round");
    for (id, v) in [
        ("touch.force_gf", force),
        ("tip.aspect", 1.0),
        ("tip.width_mm", 8.0),
        ("load.hardness_gf_mm2", 16.0),
    ] {
        set(&mut tool, id, Value::Number(v));
    }
    set(&mut tool, "load.deposit_um_mm", Value::Number(60.0));
    set(&mut tool, "ground.enters", Value::Choice(enters.into()));
    set(&mut tool, "ground.depth", Value::Number(depth));
    set(&mut tool, "ground.swap", Value::Switch(swap));
    let mut s = sheet(&ground(Surface::ColdPressed), [54.0, 20.0], 0.05);
    let way = pull([5.0, 10.0], [49.0, 10.0], 0.5);
    (0..2).for_each(|_| _ = draw(&tool, &way, &mut s));
    powder(&s, [300, 160, 780, 240])
}

#[test]
fn the_ground_enters_as_an_image_where_it_is_told_to() {
    let area = std::f64::consts::PI * 16.0;
    let full = mean(&textured("multiplied", 300.0, 0.0, false));
    // Without depth nothing is taken away; with all of it, what is laid follows the rank of the place, whose mean is a half.
    let half = mean(&textured("multiplied", 300.0, 1.0, false)) / full;
    assert!((half - 0.5).abs() < 0.06, "multiplied lays {half} of what is laid without depth");
    assert_eq!(mean(&textured("multiplied", 30.0, 1.0, false)) / full, half, "whatever the force");
    // Limited by height: the highest share that is the load is filled, and the swapped ground fills the rest.
    for share in [0.3, 0.6] {
        let force = share * 16.0 * area;
        let high = textured("height", force, 1.0, false);
        let filled = mean(&high.iter().map(|um| um / full).collect::<Vec<_>>());
        assert!((filled - share).abs() < 0.03, "{filled} is filled at a load of {share}");
        let low = textured("height", (1.0 - share) * 16.0 * area, 1.0, true);
        let sums: Vec<f64> = high.iter().zip(&low).map(|(a, b)| (a + b) / full).collect();
        let gaps = mean(&sums.iter().map(|s| (1.0 - s).abs()).collect::<Vec<_>>());
        assert!(gaps < 0.04, "peaks and hollows leave or double {gaps}");
    }
    // Subtracted: less depth leaves more.
    let (deep, shallow) =
        (mean(&textured("subtracted", 500.0, 1.0, false)), mean(&textured("subtracted", 500.0, 0.3, false)));
    assert!(shallow > deep + 0.1 * full && deep > 0.0, "{deep} µm at full depth, {shallow} at a third");
}

/// Powder (µm) along the border of a stroke that is nearer the top, in its middle, and nearer the bottom, and its sum: a
/// stick on its side pulled to the right, leaning so.
fn borders(bite: f64, lean_deg: f64, tilt_deg: f64) -> [f64; 4] {
    let tool = plain_tool(&[
        ("touch.force_gf", 120.0),
        ("tip.width_mm", 2.4),
        ("tip.side_mm", 9.0),
        ("tip.bite", bite),
        ("load.face_um", 0.0),
    ]);
    let (tilt_x, tilt_y) = angles::to_tilt((90.0 - tilt_deg).to_radians(), lean_deg.to_radians());
    let mut s = sheet(&ground(Surface::ColdPressed), [70.0, 18.0], 0.1);
    let way = hand_drawn(120.0, 1.0, |t| Sample {
        t,
        x: 5.0 + 60.0 * t,
        y: 9.0,
        pressure: 0.5,
        tilt_x,
        tilt_y,
        twist: 0.0,
    });
    draw(&tool, &way, &mut s);
    let rows: Vec<f64> = (0..180).map(|y| mean(&powder(&s, [150, y, 550, y + 1]))).collect();
    let first = rows.iter().position(|v| *v > 0.05).expect("a stroke");
    let last = rows.iter().rposition(|v| *v > 0.05).expect("a stroke");
    let band = |from: usize| mean(&rows[from..from + 10]);
    let sum = powder(&s, [0, 0, 700, 180]).iter().sum();
    [band(first + 4), band((first + last) / 2 - 5), band(last - 13), sum]
}

#[test]
fn the_end_of_a_side_that_lies_down_bites() {
    let even = borders(0.0, 90.0, 50.0);
    let bitten = borders(0.5, 90.0, 50.0);
    // The side lies towards the lean: its point's end is the upper border.
    let turned = borders(0.5, 270.0, 50.0);
    assert!(bitten[0] > 1.1 * even[0] && bitten[2] < 0.9 * even[2], "{even:?} to {bitten:?}");
    assert!(turned[0] < 0.9 * even[0] && turned[2] > 1.1 * even[2], "it turns with the lean: {turned:?}");
    assert!((bitten[3] / even[3] - 1.0).abs() < 0.03, "as much is laid: {} of {}", bitten[3], even[3]);
    assert_eq!(borders(0.5, 90.0, 0.0), borders(0.0, 90.0, 0.0), "an upright point has no such end");
}

#[test]
fn the_outline_at_the_pen_is_what_lays() {
    let ground = ground(Surface::HotPressed);
    for (name, tool) in demo_tools() {
        if tool.medium.name() != "dry" || tool.images().next().is_some() {
            continue;
        }
        let mut s = sheet(&ground, [44.0, 24.0], 0.25);
        let trace = draw(&tool, &pull([8.0, 12.0], [36.0, 12.0], 0.6), &mut s);
        let dab = trace.nearest(14.0).expect("a dab");
        // A point that wears, and chance, are the stroke's own.
        let all = dab.qualities.clone();
        let mut qualities = Qualities(all.try_into().expect("a value of each"));
        qualities.0[Quality::Width.index()] = dab.width_mm;
        let shape = tool.medium.tip_shape(&tool.settings(), &qualities, &dab.signals).expect("an outline");
        let (sin, cos) = dab.angle_deg.to_radians().sin_cos();
        let far = |[x, y]: [f64; 2]| shape.patch.iter().map(|p| p[0] * x + p[1] * y).fold(f64::MIN, f64::max);
        let long = far([cos, sin]) + far([-cos, -sin]);
        assert!((long / dab.length_mm - 1.0).abs() < 0.03, "{name}: {long} mm long, laid {}", dab.length_mm);
        let wide = far([-sin, cos]) + far([sin, -cos]);
        assert!(wide > 0.97 * dab.width_mm, "{name}: {wide} mm wide, laid {}", dab.width_mm);
    }
}
