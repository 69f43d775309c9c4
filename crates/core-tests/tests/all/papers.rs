//! Surfaces: what a surface gauge would say of them, no seam, no repeat within a sheet.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use saltmarsh_core::ground::recipe::{self, Over};
use saltmarsh_core::ground::{Feel, Ground, PERIOD_PX, Recipe, Region, Surface, texture};
use saltmarsh_core::image::{Grey, Images};
use saltmarsh_core::num;

/// Made anew each time: how it is made is what these tests are about.
fn ground(paper: Surface) -> Ground {
    Ground::generated(paper)
}

/// Figures of the dry study's own papers (tuned by eye there, not measured on real ones): Sa µm, Sq µm, Ssk, Sku.
const STUDY: [(Surface, [f64; 4]); 6] = [
    (Surface::HotPressed, [2.0, 2.5, -0.86, 3.8]),
    (Surface::ColdPressed, [9.6, 11.7, -0.31, 2.4]),
    (Surface::Rough, [24.1, 29.6, -0.21, 2.7]),
    (Surface::Laid, [4.8, 5.9, -0.08, 2.5]),
    (Surface::CanvasFine, [15.8, 19.3, -0.08, 2.6]),
    (Surface::Linen, [27.1, 33.9, -0.42, 3.1]),
];

#[test]
fn papers_measure_as_the_study_s_do() {
    for (paper, [sa, sq, ssk, sku]) in STUDY {
        let patch = ground(paper).patch(Region::new(1000, 3000, 1024, 1024));
        let got = texture::measure(&patch.height);
        let name = paper.name();
        assert!((got.sa_um / sa - 1.0).abs() < 0.15, "{name}: Sa {} µm, study {sa}", got.sa_um);
        assert!((got.sq_um / sq - 1.0).abs() < 0.15, "{name}: Sq {} µm, study {sq}", got.sq_um);
        assert!((got.ssk - ssk).abs() < 0.6, "{name}: Ssk {}, study {ssk}", got.ssk);
        assert!((got.sku - sku).abs() < 0.9, "{name}: Sku {}, study {sku}", got.sku);
    }
}

/// Mean autocorrelation of a map over lags of whole pixels along x (`down`: along y).
fn correlation(heights: &[f32], width: usize, lag: usize, down: bool) -> f64 {
    let rows = heights.len() / width;
    let mean = heights.iter().map(|h| f64::from(*h)).sum::<f64>() / heights.len() as f64;
    let (dx, dy) = if down { (0, lag) } else { (lag, 0) };
    let (mut sum, mut power) = (0.0, 0.0);
    for y in 0..rows - dy {
        for x in 0..width - dx {
            let (a, b) = (f64::from(heights[y * width + x]), f64::from(heights[(y + dy) * width + x + dx]));
            sum += (a - mean) * (b - mean);
            power += (a - mean) * (a - mean);
        }
    }
    sum / power
}

/// Smooth noise of one blur: what a felt is not.
fn plain_noise(width: usize, blur: usize) -> Vec<f32> {
    let white = |x: usize, y: usize| num::gaussian(num::hash(5, 1, x as i64, y as i64));
    let box_mean = |f: &dyn Fn(usize, usize) -> f32, x: usize, y: usize| -> f32 {
        (0..blur).flat_map(|j| (0..blur).map(move |i| (i, j))).map(|(i, j)| f(x + i, y + j)).sum()
    };
    (0..width * width).map(|i| box_mean(&white, i % width, i / width)).collect()
}

/// Paper is formed in clumps: humps are followed by hollows half a tooth on, and by humps again a tooth on. Plain noise forgets.
fn humps_follow_hollows(heights: &[f32], width: usize, tooth_px: f64) -> Result<(), String> {
    let at = |share: f64| {
        let lag = (share * tooth_px).round() as usize;
        0.5 * (correlation(heights, width, lag, false) + correlation(heights, width, lag, true))
    };
    let lowest = [0.5, 0.6, 0.7].map(at).into_iter().fold(f64::MAX, f64::min);
    if lowest > -0.025 {
        return Err(format!("hollows do not follow humps: {lowest}"));
    }
    let again = [0.9, 1.0, 1.1].map(at).into_iter().fold(f64::MIN, f64::max);
    if again < lowest + 0.06 {
        Err(format!("humps do not come again: {again} after {lowest}"))
    } else {
        Ok(())
    }
}

#[test]
fn a_tooth_has_the_structure_of_its_making() {
    const SIDE: usize = 1024;
    let patch = |paper: Surface| ground(paper).patch(Region::new(1000, 3000, SIDE, SIDE)).height;
    for paper in [Surface::ColdPressed, Surface::Rough] {
        let tooth = Recipe::of(paper).number("tooth_mm") / 0.05;
        humps_follow_hollows(&patch(paper), SIDE, tooth).unwrap_or_else(|e| panic!("{}: {e}", paper.name()));
        // The test can tell: noise blurred over a third or a half of the tooth is refused.
        for blur in [(tooth / 3.0) as usize, (tooth / 2.0) as usize] {
            assert!(humps_follow_hollows(&plain_noise(SIDE, blur), SIDE, tooth).is_err(), "noise is no felt");
        }
    }
    // Threads come again a thread on, wires a line on, and not half way between.
    for (paper, number, down) in [
        (Surface::CanvasFine, "warp_cm", false),
        (Surface::CanvasFine, "weft_cm", true),
        (Surface::CanvasCoarse, "warp_cm", false),
        (Surface::CanvasCoarse, "weft_cm", true),
        (Surface::Laid, "line_mm", true),
    ] {
        let value = Recipe::of(paper).number(number);
        let pitch_mm = if number == "line_mm" { value } else { 10.0 / value };
        let map = patch(paper);
        let at = |mm: f64| correlation(&map, SIDE, (mm / 0.05).round() as usize, down);
        let (on, between) = (at(pitch_mm), at(0.5 * pitch_mm));
        assert!(
            on > 0.3 && on > between + 0.1,
            "{}: {on} {pitch_mm:.2} mm on, {between} between",
            paper.name()
        );
    }
}

/// ISO 25178-2: Sal is the distance of the fastest decay to 0.2, in whatever direction. Of crests it is
/// `λ·acos(0.2)/2π` across them (closed form of a sine's autocorrelation).
#[test]
fn the_autocorrelation_length_is_that_of_the_fastest_decay_in_any_direction() {
    let (side, wave_px) = (512_usize, 40.0);
    for degrees in [0.0_f64, 30.0, 45.0, 60.0, 90.0] {
        let (sin, cos) = degrees.to_radians().sin_cos();
        let height = |i: usize| {
            let across = (i % side) as f64 * cos + (i / side) as f64 * sin;
            (10.0 * (std::f64::consts::TAU * across / wave_px).sin()) as f32
        };
        let crests: Vec<f32> = (0..side * side).map(height).collect();
        let [sal, slow] = texture::correlation_lengths(&crests, side, 0.025);
        let want = wave_px * 0.025 * 0.2_f64.acos() / std::f64::consts::TAU;
        let got = sal.expect("crests decay");
        assert!((got / want - 1.0).abs() < 0.03, "crests at {degrees}°: Sal {got} mm, theory {want} mm");
        assert_eq!(slow, None, "along the crests nothing decays");
    }
    let flat = vec![3.0_f32; side * side];
    assert_eq!(texture::correlation_lengths(&flat, side, 0.05), [Some(0.0); 2]);
    let figures = serde_json::to_string(&texture::measure(&flat)).expect("figures");
    assert!(!figures.contains("null"), "a flat map has figures: {figures}");
}

#[test]
fn a_piece_is_the_same_wherever_it_is_cut_from() {
    for paper in Surface::GENERATED.iter().copied() {
        let large = ground(paper).patch(Region::new(200, -300, 500, 200));
        let small = ground(paper).patch(Region::new(470, -180, 90, 40));
        for j in 0..40 {
            for i in 0..90 {
                let (a, b) = (large.height[(j + 120) * 500 + i + 270], small.height[j * 90 + i]);
                assert_eq!(a, b, "{} at {i}, {j}", paper.name());
            }
        }
    }
}

/// Root mean square of the step from one column to the next.
fn steps(heights: &[f32], width: usize, column: usize) -> f64 {
    let rows = heights.len() / width;
    let sum: f64 = heights
        .chunks_exact(width)
        .map(|row| f64::from(row[column + 1] - row[column]) * f64::from(row[column + 1] - row[column]))
        .sum();
    (sum / rows as f64).sqrt()
}

#[test]
fn papers_join_without_a_seam_where_they_repeat() {
    for paper in Surface::GENERATED.iter().copied() {
        let ground = ground(paper);
        let patch = ground.patch(Region::new(PERIOD_PX - 40, 500, 80, 2400));
        let across = steps(&patch.height, 80, 39);
        let inside: Vec<f64> = (0..79).filter(|c| *c != 39).map(|c| steps(&patch.height, 80, c)).collect();
        let (low, high) = inside.iter().fold((f64::MAX, 0.0_f64), |(l, h), v| (l.min(*v), h.max(*v)));
        assert!(
            across >= 0.85 * low && across <= 1.15 * high,
            "{}: seam {across}, inside {low}–{high}",
            paper.name()
        );
        let again = ground.patch(Region::new(-40, 500, 80, 2400));
        assert_eq!(patch.height, again.height, "{} repeats after its period", paper.name());
    }
}

/// Threads and wires are regular at close quarters; from here on (40 mm) nothing may come back.
const FIRST_LAG: usize = 800;

#[test]
fn no_paper_repeats_within_a_sheet() {
    // Lags up to 150 mm, the width of a plate, on lines twice as long; rows apart, so that the mean over them is a mean over
    // many places.
    let (width, rows) = (6000_usize, 40_usize);
    for paper in Surface::GENERATED.iter().copied() {
        let ground = ground(paper);
        let mut lines: Vec<Vec<f64>> = Vec::new();
        for r in 0..rows {
            let row = ground.patch(Region::new(0, r as i64 * 12, width, 1)).height;
            let mean = row.iter().map(|h| f64::from(*h)).sum::<f64>() / width as f64;
            lines.push(row.iter().map(|h| f64::from(*h) - mean).collect());
        }
        let power: f64 = lines.iter().flatten().map(|h| h * h).sum::<f64>() / (rows * width) as f64;
        let mut worst = (0.0_f64, 0);
        for lag in FIRST_LAG..=width / 2 {
            let sum: f64 = lines
                .iter()
                .map(|l| l[..width - lag].iter().zip(&l[lag..]).map(|(a, b)| a * b).sum::<f64>())
                .sum();
            let r = sum / (rows * (width - lag)) as f64 / power;
            if r > worst.0 {
                worst = (r, lag);
            }
        }
        let (r, mm) = (worst.0, worst.1 as f64 * 0.05);
        assert!(r < 0.2, "{}: correlation {r} after {mm} mm", paper.name());
    }
}

#[test]
fn scale_depth_and_swap_do_what_they_say() {
    let ground = ground(Surface::ColdPressed);
    let raster = saltmarsh_core::ground::sampled::Raster { pixel_mm: 0.1, origin_mm: [0.0, 0.0] };
    let tile = |feel: Feel, x: i64| raster.tile(&ground, feel, x, 0, 64);
    let plain = tile(Feel::default(), 0);
    let swapped = tile(Feel { swap: true, ..Feel::default() }, 0);
    assert!(
        plain.height.iter().zip(&swapped.height).all(|(a, b)| *a == -*b),
        "peaks and hollows change places"
    );
    // Twice the scale at twice the pixel is the same tooth.
    let coarse = saltmarsh_core::ground::sampled::Raster { pixel_mm: 0.2, origin_mm: [0.0, 0.0] };
    let doubled = coarse.tile(&ground, Feel { scale: 2.0, ..Feel::default() }, 0, 0, 64);
    assert!(
        plain.height.iter().zip(&doubled.height).all(|(a, b)| (a - b).abs() < 1e-3),
        "scale widens the tooth"
    );
    // A tip that follows the swells meets less of them.
    let variance = |h: &[f32]| h.iter().map(|v| f64::from(v * v)).sum::<f64>() / h.len() as f64;
    let followed = tile(Feel { follow: 1.0, follow_mm: 0.4, ..Feel::default() }, 0);
    let less = variance(&followed.height) / variance(&plain.height);
    assert!(less < 0.8, "variance falls to {less}");
}

/// White noise softened a little, as a scan of paper may look: nothing in it joins by itself.
fn scan(width: usize, height: usize) -> Grey {
    let at = |x: usize, y: usize| num::unit(num::hash(5, 1, x as i64 / 3, y as i64 / 3));
    // A slope too: scans are rarely lit evenly.
    let value = |x: usize, y: usize| 20_000.0 + 25_000.0 * at(x, y) + 15_000.0 * x as f32 / width as f32;
    let values = (0..width * height).map(|i| value(i % width, i / width) as u16).collect();
    Grey::new(width, height, values).expect("a small image")
}

#[test]
fn a_height_map_tiles_without_a_seam_and_keeps_its_depth() {
    let mut images = Images::default();
    let image = images.add(scan(240, 200));
    let mut recipe = Recipe { image: Some(image), ..Recipe::of(Surface::Image) };
    recipe.numbers.insert("depth_um".into(), 60.0);
    recipe.numbers.insert("pitch_mm".into(), 0.1);
    let ground = Ground::new(&recipe, &images).expect("a ground");
    // 240 px of 0.1 mm are 480 ground pixels; 15 % of the shorter side (400) are blended away.
    let (period, rows) = (480 - 60, 400 - 60);
    let patch = ground.patch(Region::new(0, 0, 2 * period, rows));
    let width = 2 * period;
    let repeat = (0..rows)
        .map(|y| (patch.height[y * width] - patch.height[y * width + period]).abs())
        .fold(0.0, f32::max);
    // The fine roughness of every ground lies on it and does not repeat.
    assert!(repeat < 25.0, "tiles differ by {repeat} µm");
    let seam = steps(&patch.height, width, period - 1);
    let inside: Vec<f64> = (10..period - 10).map(|c| steps(&patch.height, width, c)).collect();
    let (low, high) = inside.iter().fold((f64::MAX, 0.0_f64), |(l, h), v| (l.min(*v), h.max(*v)));
    assert!(seam >= 0.85 * low && seam <= 1.15 * high, "seam {seam}, inside {low}–{high}");
    // The join does not flatten the tooth.
    let column_spread = |from: usize| {
        let values: Vec<f32> =
            (0..rows).flat_map(|y| patch.height[y * width + from..][..20].to_vec()).collect();
        texture::measure(&values).sq_um
    };
    let (joined, plain) = (column_spread(20), column_spread(200));
    assert!((joined / plain - 1.0).abs() < 0.15, "the join's Sq is {joined} µm, elsewhere {plain}");

    recipe.numbers.insert("pitch_mm".into(), 0.005);
    let refused = Ground::new(&Recipe { ..recipe.clone() }, &images).err();
    assert!(refused.is_none(), "1.2 mm are enough: {refused:?}");
    recipe.numbers.insert("pitch_mm".into(), 1.0);
    assert_eq!(Ground::new(&recipe, &images).err().expect("240 mm are too long").field, "numbers.pitch_mm");
    assert_eq!(Ground::new(&recipe, &Images::default()).err().expect("no such image").field, "image");
}

#[test]
fn a_ground_over_another_hides_as_much_of_it_as_it_says() {
    let canvas = Recipe::of(Surface::CanvasCoarse);
    let sq = |recipe: &Recipe| {
        let ground = Ground::new(recipe, &Images::default()).expect("a ground");
        texture::measure(&ground.reference().height).sq_um
    };
    let with = |hides: f64| Recipe {
        over: Some(Over { recipe: Box::new(Recipe::of(Surface::Gesso)), hides }),
        ..canvas.clone()
    };
    let (bare, none, half, all) = (sq(&canvas), sq(&with(0.0)), sq(&with(0.5)), sq(&with(1.0)));
    let gesso = sq(&Recipe::of(Surface::Gesso));
    assert!((all / gesso - 1.0).abs() < 0.05, "wholly hidden it is the upper ground: {all}, {gesso} µm");
    assert!(none > bare && half < bare && half > all, "{bare} {none} {half} {all}");
    assert!((half / bare - 0.5).abs() < 0.1, "half hidden the tooth is half as deep: {half} of {bare} µm");
    // Of its own kind, too, it has its own tooth: two independent ones add as squares, the same twice would add straight.
    let felt = Recipe::of(Surface::ColdPressed);
    let twice = Recipe { over: Some(Over { recipe: Box::new(felt.clone()), hides: 0.0 }), ..felt.clone() };
    let grown = sq(&twice) / sq(&felt);
    assert!((grown - std::f64::consts::SQRT_2).abs() < 0.06, "over itself it is {grown} as rough");
}

#[test]
fn every_number_of_a_recipe_changes_the_ground_and_is_held_to_its_limits() {
    for surface in Surface::GENERATED.iter().copied() {
        let plain = Recipe::of(surface);
        let region = Region::new(40, 60, 160, 160);
        let patch =
            |r: &Recipe| Ground::new(r, &Images::default()).map(|g| (g.patch(region).height, *g.bare()));
        let before = patch(&plain).expect("a ground");
        assert_eq!(
            patch(&plain).expect("again"),
            before,
            "{}: the same recipe is the same ground",
            surface.name()
        );
        let other = Recipe { seed: 1, ..plain.clone() };
        assert_ne!(patch(&other).expect("another sheet").0, before.0, "{}: another seed", surface.name());
        for n in recipe::NUMBERS.iter().filter(|n| n.of.iter().any(|(s, _)| *s == surface)) {
            let mut changed = Recipe { tint: "umber".into(), ..plain.clone() };
            let unlike = patch(&changed).expect("dyed");
            let value = plain.number(n.id);
            let to = if value < 0.5 * (n.low + n.high) { n.high } else { n.low };
            changed.numbers.insert(n.id.to_owned(), to);
            // Sizing is felt by water alone (`ink_feathers_in_paper_that_is_not_sized`).
            let felt = n.id == "sizing" || patch(&changed).expect("changed") != unlike;
            assert!(felt, "{}: {} does nothing", surface.name(), n.id);
            changed.numbers.insert(n.id.to_owned(), n.high * 1.01 + 0.01);
            let refused = patch(&changed).expect_err("over its limit");
            assert_eq!(refused.field, format!("numbers.{}", n.id));
        }
    }
}

#[test]
fn a_ground_measures_the_roughness_that_was_asked_for() {
    for surface in Surface::GENERATED.iter().copied() {
        for sa in [2.0, 12.0, 60.0] {
            let mut recipe = Recipe::of(surface);
            recipe.numbers.insert("sa_um".into(), sa);
            let ground = Ground::new(&recipe, &Images::default()).expect("a ground");
            let got = texture::measure(&ground.patch(Region::new(2000, 900, 600, 600)).height).sa_um;
            assert!((got / sa - 1.0).abs() < 0.15, "{}: Sa {got} µm, asked for {sa}", surface.name());
            // On the patch it is brought to its roughness by, to the declared limits; and no height is cut off there.
            let reference = texture::measure(&ground.reference().height);
            let off = reference.sa_um / sa - 1.0;
            assert!(off.abs() < 0.005, "{}: Sa {} µm, asked for {sa}", surface.name(), reference.sa_um);
            let heights = &ground.reference().height;
            for end in [
                heights.iter().copied().fold(f32::MIN, f32::max),
                heights.iter().copied().fold(f32::MAX, f32::min),
            ] {
                let there = heights.iter().filter(|h| **h == end).count();
                assert!(there < 8, "{}, {sa} µm: {there} places are cut off at {end} µm", surface.name());
            }
        }
    }
}

#[test]
fn a_stored_ground_is_the_same_and_nothing_of_it_is_made_again() {
    let over = Over { hides: 0.6, recipe: Box::new(Recipe::of(Surface::Gesso)) };
    let recipe = Recipe { over: Some(over), ..Recipe::of(Surface::Linen) };
    let images = Images::default();
    let first = Ground::new(&recipe, &images).expect("valid");
    let place = Region::new(700, -300, 600, 300);
    let patch = first.patch(place);
    let stored = first.stored(40);

    let again = Ground::from_stored(&recipe, &images, &stored).expect("whole");
    let same = again.patch(place);
    assert_eq!((patch.height, patch.grain), (same.height, same.grain));
    assert_eq!((again.level(), again.made()), (first.level(), 0));
    // What was not stored is made, and joins what was.
    let wide = Region::new(300, -300, 1000, 300);
    assert_eq!(first.patch(wide).height, again.patch(wide).height);
    assert!(again.made() > 0);

    assert!(first.stored(3).len() < stored.len(), "so many pieces as are asked for");
    let mut torn = stored.clone();
    torn.truncate(stored.len() - 262_160);
    let mut spoilt = stored;
    let middle = spoilt.len() / 2;
    spoilt[middle] ^= 1;
    let other = Ground::from_stored(&Recipe::of(Surface::Linen), &images, &first.stored(1));
    assert_eq!(other.err().expect("of another recipe").field, "stored");
    for bytes in [torn, spoilt, b"ground-1".to_vec(), Vec::new()] {
        let refused = Ground::from_stored(&recipe, &images, &bytes).err().expect("not whole");
        assert_eq!(refused.field, "stored");
    }
}

#[test]
fn toned_paper_is_the_same_paper_and_made_only_once() {
    let none = Images::default();
    let white = Ground::new(&Recipe::of(Surface::ColdPressed), &none).expect("a ground");
    let region = Region::new(0, 0, 300, 200);
    white.patch(region);
    let mut toned = Recipe::of(Surface::ColdPressed);
    toned.tint = "grey".into();
    let fresh = Ground::new(&toned, &none).expect("a ground");
    let dyed = white.dyed(&toned, &none).expect("it differs in its colour alone").expect("a ground");
    assert_eq!(dyed.patch(region).height, fresh.patch(region).height);
    assert_eq!(dyed.patch(region).grain, fresh.patch(region).grain);
    assert_eq!(dyed.bare(), fresh.bare());
    assert_ne!(dyed.bare(), white.bare());
    assert_eq!(dyed.made(), white.made(), "nothing of it was made again");
    assert!(white.dyed(&Recipe::of(Surface::Rough), &none).is_none(), "another paper is another paper");
}

#[test]
fn a_sketch_is_about_the_ground() {
    let none = Images::default();
    let region = Region::new(0, 0, 342, 204);
    for surface in [Surface::ColdPressed, Surface::Rough, Surface::Linen] {
        let recipe = Recipe::of(surface);
        let sketch = Ground::sketch(&recipe, &none, region).expect("a sketch");
        let made = Ground::new(&recipe, &none).expect("a ground").patch(region).height;
        let sq = texture::measure(&made).sq_um;
        let off: Vec<f32> = sketch.iter().zip(&made).map(|(a, b)| a - b).collect();
        let apart = texture::measure(&off).sq_um / sq;
        assert!(apart < 0.12, "{}: it differs by {apart} of its roughness", surface.name());
    }
}
