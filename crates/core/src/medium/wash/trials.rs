//! Water and paint by themselves, without a tool: drops, washes and fronts against what is known of them.

use std::rc::Rc;

use super::blocks::{
    BOUND, COVER, FILL, FILM, HAS_FILM, IN, LOOSE, ON, PASSED_X, PASSED_Y, PIGMENTS, PUSH, SWIMS, SWINGS, U,
    V, WATER, WATER_PLANES, WET, plane, plane_in_place, water_mm3,
};
use super::clock::step_in_place;
use super::lay::{Brings, Cell, Takes, touch_in_place};
use super::paper::Paper;
use super::pigments;
use super::resist::{MASK, RESIST};
use super::step::{Air, MARGIN_X, MARGIN_Y, Pace, WIDE};
use crate::ground::{Ground, Surface};
use crate::num;
use crate::sheet::{Changed, Sheet, Surroundings, TILE};

mod machines;
mod pitch;
mod spread;
mod waves;

const PITCH_MM: f64 = 0.085;

fn sheet(surface: Surface, side: usize) -> Sheet {
    Sheet::new(Rc::new(Ground::generated(surface)), side, side, PITCH_MM, [0.0; 2]).expect("a sheet")
}

/// Wets every cell of a sheet by a share.
fn wet(sheet: &mut Sheet, brings: &Brings, share: impl Fn(f64, f64) -> f64) {
    let (across, size) = (sheet.across(), [sheet.width(), sheet.height()]);
    for (tx, ty) in (0..sheet.down()).flat_map(|ty| (0..across).map(move |tx| (tx, ty))) {
        let cells: Vec<Cell> = (0..TILE * TILE)
            .filter_map(|index| {
                let (x, y) = (tx * TILE + index % TILE, ty * TILE + index / TILE);
                let s = share(x as f64 + 0.5, y as f64 + 0.5) as f32;
                (s > 0.0 && x < size[0] && y < size[1]).then_some(Cell {
                    index,
                    share: s,
                    film: 1.0,
                    paint: 1.0,
                })
            })
            .collect();
        if !cells.is_empty() {
            touch_in_place(sheet.tile_in_place(tx, ty), &cells, brings, Takes::default());
        }
    }
    sheet.wind(&WATER);
}

fn paint(code: &str, film_um: f32, strength: f32) -> Brings {
    Brings {
        film_um,
        gives: 1.0,
        mingles: 0.0,
        paints: vec![(pigments::number(code, pigments::Vehicle::Gum).expect("a pigment"), strength)],
    }
}

fn disc(cx: f64, cy: f64, r: f64) -> impl Fn(f64, f64) -> f64 {
    move |x, y| (r - num::hypot(x - cx, y - cy) + 0.5).clamp(0.0, 1.0)
}

/// All of a pigment at every cell, µm.
fn laid(sheet: &Sheet, code: &str) -> Vec<f64> {
    amounts(sheet, code, &[SWIMS, LOOSE, BOUND])
}

/// What of it swims, µm.
fn swims(sheet: &Sheet, code: &str) -> Vec<f64> {
    amounts(sheet, code, &[SWIMS])
}

fn amounts(sheet: &Sheet, code: &str, planes: &[usize]) -> Vec<f64> {
    let layout = &PIGMENTS[pigments::number(code, pigments::Vehicle::Gum).expect("a pigment")];
    let mut out = vec![0.0; sheet.width() * sheet.height()];
    for (y, x) in (0..sheet.height()).flat_map(|y| (0..sheet.width()).map(move |x| (y, x))) {
        let Some(block) = sheet.tile(x / TILE, y / TILE).and_then(|t| t.block(layout)) else { continue };
        let i = (y % TILE) * TILE + x % TILE;
        out[y * sheet.width() + x] = planes.iter().map(|p| f64::from(plane(block, *p)[i])).sum();
    }
    out
}

/// Water on every cell of a rectangle, µm.
fn water(sheet: &Sheet, which: usize, [left, top, right, bottom]: [usize; 4]) -> Vec<f32> {
    let cells = (top..bottom).flat_map(|y| (left..right).map(move |x| (x, y)));
    cells
        .map(|(x, y)| {
            let block = sheet.tile(x / TILE, y / TILE).and_then(|t| t.block(&WATER));
            block.map_or(0.0, |b| plane(b, which)[(y % TILE) * TILE + x % TILE])
        })
        .collect()
}

/// Lets a sheet go on by itself for so many steps of water, in some air on some paper.
fn go(sheet: &mut Sheet, steps: std::ops::Range<u64>, air: Air, paper: &Paper) {
    let pace = Pace::new(sheet.pixel_mm(), [0.0; 2]);
    for number in steps {
        step_in_place(sheet, number, &pace, air, paper, &mut Changed::default());
    }
}

const STILL: Air = Air { takes: 0.0, even: false };

#[test]
fn tile_borders_leave_no_seam() {
    const PIXEL: f64 = 0.125;
    let ground = Rc::new(Ground::generated(Surface::ColdPressed));
    let run = |by: [usize; 2]| {
        let origin = by.map(|n| -(n as f64) * PIXEL);
        let mut s = Sheet::new(ground.clone(), 256, 256, PIXEL, origin).expect("a sheet");
        let (cx, cy) = (100.0 + by[0] as f64, 110.0 + by[1] as f64);
        wet(&mut s, &paint("PB15:3", 150.0, 0.02), disc(cx, cy, 40.0));
        wet(&mut s, &paint("PB29", 300.0, 0.03), disc(cx + 20.0, cy, 8.0));
        s.advance(400);
        s
    };
    // By whole nodes of the grids: those lie as they lie on the sheet.
    let (a, b) = (run([0, 0]), run([24, 40]));
    for which in 0..WATER_PLANES {
        assert_eq!(
            water(&a, which, [40, 40, 160, 170]),
            water(&b, which, [64, 80, 184, 210]),
            "plane {which}"
        );
    }
    let [x, y] = [&a, &b].map(|s| laid(s, "PB29"));
    for (i, v) in x.iter().enumerate().filter(|(i, _)| i % 256 < 160 && i / 256 < 170) {
        assert_eq!(*v, y[(i / 256 + 40) * 256 + i % 256 + 24], "the pigment at {} {}", i % 256, i / 256);
    }
}

#[test]
fn water_and_pigment_are_kept() {
    let mut s = sheet(Surface::ColdPressed, 160);
    wet(&mut s, &paint("PB29", 150.0, 0.02), disc(70.0, 66.0, 30.0));
    wet(&mut s, &paint("PB15:3", 400.0, 0.03), disc(90.0, 70.0, 12.0));
    let paper = Paper::of(&s);
    let pigments = |s: &Sheet| ["PB29", "PB15:3"].map(|code| laid(s, code).iter().sum::<f64>());
    let (began, paints) = (water_mm3(&s), pigments(&s));
    go(&mut s, 1..241, STILL, &paper);
    // Nothing leaves for the air here: what is not on the sheet is in it.
    assert!((water_mm3(&s) / began - 1.0).abs() < 1e-5, "{} of {began} mm³", water_mm3(&s));
    go(&mut s, 241..3001, Air { takes: 6.0, even: false }, &paper);
    assert_eq!(water_mm3(&s), 0.0, "it dries");
    for (now, was) in pigments(&s).iter().zip(paints) {
        assert!((now / was - 1.0).abs() < 1e-5, "{now} of {was}");
    }
    // Dry, nothing swims, and time changes nothing more.
    assert!(!s.busy());
    let dry = s.checksum();
    s.advance(600);
    assert_eq!(s.checksum(), dry);
}

#[test]
fn damp_paper_goes_on_as_it_would_under_the_whole_step() {
    let mut s = sheet(Surface::ColdPressed, 192);
    wet(&mut s, &paint("PB15:3", 150.0, 0.05), disc(100.0, 70.0, 30.0));
    let (paper, air) = (Paper::of(&s), Air::default());
    let stands = |s: &Sheet| s.tiles().any(|t| t.block(&WATER).is_some_and(|b| b[FILM] > 0.0));
    let mut step = 0;
    while stands(&s) {
        go(&mut s, step..step + 4, air, &paper);
        step += 4;
    }
    let swam: f64 = swims(&s, "PB15:3").iter().sum();
    assert!(swam > 10.0, "paint goes on in the damp: {swam}");
    let damp = s.snapshot();
    let run = |s: &mut Sheet, whole: bool| {
        s.restore(&damp);
        for n in step..step + 120 {
            for (tx, ty) in (0..3).flat_map(|ty| (0..3).map(move |tx| (tx, ty))).filter(|_| whole) {
                s.tile_in_place(tx, ty).block_in_place(&WATER)[FILM] = HAS_FILM;
            }
            go(s, n..n + 1, air, &paper);
        }
        (water(s, IN, [0, 0, 192, 192]), laid(s, "PB15:3"), swims(s, "PB15:3"))
    };
    let quick = run(&mut s, false);
    assert!(quick == run(&mut s, true), "the same to the last bit");
    let left: f64 = quick.2.iter().sum();
    assert!(left < 0.5 * swam, "{left} of {swam} swim after the damp steps");
}

#[test]
fn a_front_in_paper_goes_as_the_root_of_time() {
    // Reference 07 (Lucas 1918, Washburn 1921): n 0.45 to 0.55, residuals of ln at most 0.05, a reservoir kept full, from 5 cells to 80 %
    // of the domain, over 1.5 decades of time.
    let mut s = Sheet::new(Rc::new(Ground::generated(Surface::HotPressed)), 64, 16, PITCH_MM, [0.0; 2])
        .expect("a sheet");
    let paper = Paper::even(&s);
    let fill = |s: &mut Sheet| {
        let block = s.tile_in_place(0, 0).block_in_place(&WATER);
        for y in 0..16 {
            plane_in_place(block, IN)[y * TILE..y * TILE + 4].fill(45.0);
        }
        block[WET] = 1.0;
    };
    s.wind(&WATER);
    let (mut points, mut next) = (Vec::new(), 10.0_f64);
    for pair in 1..=6000_u64 {
        fill(&mut s);
        go(&mut s, 2 * pair - 1..2 * pair + 1, STILL, &paper);
        let seconds = 2.0 * pair as f64 / 30.0;
        if seconds < next {
            continue;
        }
        next *= 1.3;
        let row = water(&s, IN, [0, 8, 64, 9]);
        let x = (4..63).find(|x| row[x + 1] < 0.3 * 45.0).expect("a front");
        let (a, b) = (f64::from(row[x]), f64::from(row[x + 1]));
        points.push((libm::log(seconds), libm::log(x as f64 - 3.5 + (a - 13.5) / (a - b))));
    }
    let inside: Vec<_> =
        points.iter().filter(|(_, l)| libm::exp(*l) >= 5.0 && libm::exp(*l) <= 0.8 * 60.0).collect();
    let n = inside.len() as f64;
    let mean = |f: &dyn Fn(&(f64, f64)) -> f64| inside.iter().map(|p| f(p)).sum::<f64>() / n;
    let (mt, ml) = (mean(&|p| p.0), mean(&|p| p.1));
    let slope = mean(&|p| (p.0 - mt) * (p.1 - ml)) / mean(&|p| (p.0 - mt) * (p.0 - mt));
    let worst = inside.iter().map(|p| (p.1 - ml - slope * (p.0 - mt)).abs()).fold(0.0, f64::max);
    assert!(inside.len() >= 10, "{} points", inside.len());
    assert!((0.45..=0.55).contains(&slope) && worst <= 0.05, "n {slope}, residual {worst}");
}

/// Mean over a ring of radii, of a map about a middle.
fn ring(map: &[f64], side: usize, [cx, cy]: [f64; 2], radii: std::ops::Range<f64>) -> f64 {
    let inside = (0..map.len())
        .filter(|i| radii.contains(&num::hypot((i % side) as f64 + 0.5 - cx, (i / side) as f64 + 0.5 - cy)));
    let (sum, count) = inside.fold((0.0, 0.0), |(s, n), i| (s + map[i], n + 1.0));
    sum / count
}

#[test]
fn paint_goes_to_the_edge_of_a_drop_as_it_dries_and_not_where_it_dries_evenly() {
    // Deegan et al. 1997 by the reference's test: rim over centre 1.5 and more; without the faster drying of the edge about 1 or less.
    let drop = |air: Air| {
        let mut s = sheet(Surface::HotPressed, 128);
        let paper = Paper::even(&s);
        wet(&mut s, &paint("PB15:3", 220.0, 0.004), disc(64.0, 64.0, 40.0));
        go(&mut s, 1..6000, air, &paper);
        assert!(!s.busy(), "it dries");
        let map = laid(&s, "PB15:3");
        // As far as it went.
        let far = (0..64).rev().find(|r| map[64 * 128 + 64 + r] > 1e-3).expect("a drop") as f64 + 1.0;
        ring(&map, 128, [64.0; 2], 0.9 * far..far + 0.5) / ring(&map, 128, [64.0; 2], 0.0..0.5 * far)
    };
    let (usual, even) = (drop(Air { takes: 1.5, even: false }), drop(Air { takes: 10.0, even: true }));
    assert!(usual > 1.5, "rim over centre {usual}");
    assert!(even < 1.2, "where it dries evenly {even}");
}

#[test]
fn water_laid_beside_a_thin_film_shortens_the_steps_and_makes_nothing_lurch() {
    const PITCH: f64 = 0.222;
    let ground = Rc::new(Ground::generated(Surface::ColdPressed));
    let mut s = Sheet::new(ground, 128, 64, PITCH, [0.0; 2]).expect("a sheet");
    wet(&mut s, &paint("PB15:3", 90.0, 0.01), disc(32.0, 32.0, 20.0));
    while s.beat(&WATER).every < 14 {
        s.advance(1);
        assert!(s.steps() < 3000, "{:?}", s.beat(&WATER));
    }
    s.advance(14 + 1);
    // Cells a step of the sheet's clock, all of them together.
    let speeds = |s: &Sheet| {
        let one = |which| water(s, which, [0, 0, 64, 64]).iter().map(|v| f64::from(v.abs())).sum::<f64>();
        (one(U) + one(V)) / s.beat(&WATER).every as f64
    };
    let (before, long) = (speeds(&s), s.beat(&WATER).every);
    wet(&mut s, &paint("PB15:3", 90.0, 0.01), disc(100.0, 32.0, 12.0));
    s.advance(1);
    let (after, short) = (speeds(&s), s.beat(&WATER).every);
    assert!(short < 8 && long >= 12, "steps of {short} after {long}");
    assert!(
        (0.99..1.01).contains(&(after / before)),
        "{after} after {before}, with steps of {short} after {long}"
    );
}

#[test]
fn where_water_was_blotted_away_nothing_is_left_of_how_it_moved() {
    let mut s = sheet(Surface::ColdPressed, 128);
    wet(&mut s, &paint("PB15:3", 300.0, 0.02), disc(64.0, 60.0, 24.0));
    let (paper, pace) = (Paper::of(&s), Pace::new(PITCH_MM, [0.0; 2]));
    let step = |s: &mut Sheet, n| {
        step_in_place(s, n, &pace, Air::default(), &paper, &mut Changed::default());
    };
    let all = [0, 0, 128, 128];
    let anything = |s: &Sheet| {
        let planes = [FILL, U, V, PASSED_X, PASSED_Y, PUSH].map(|which| water(s, which, all));
        (0..128 * 128).filter(|i| planes.iter().any(|p| p[*i] != 0.0)).collect::<Vec<_>>()
    };
    (1..=6).for_each(|n| step(&mut s, n));
    // The upper rows, and of all others the left half.
    let blotted = |i: usize| i / 128 < 60 || i % 128 < 60;
    assert!(anything(&s).into_iter().filter(|i| blotted(*i)).count() > 1000, "it moved there");
    for (tx, ty) in [(0, 0), (1, 0), (0, 1), (1, 1)] {
        let block = s.tile_in_place(tx, ty).block_in_place(&WATER);
        for i in 0..TILE * TILE {
            if blotted((ty * TILE + i / TILE) * 128 + tx * TILE + i % TILE) {
                [ON, FILL].into_iter().for_each(|which| plane_in_place(block, which)[i] = 0.0);
            }
        }
    }
    // By pairs of steps.
    for n in [7, 9, 11] {
        let before = water(&s, ON, all);
        (n..n + 2).for_each(|n| step(&mut s, n));
        // Water comes to the next cell in a step, and is worked four cells at a time.
        let near = |i: usize| {
            let (x, y) = (i % 128, i / 128);
            let mut rows = before[y.saturating_sub(2) * 128..(y + 3).min(128) * 128].chunks(128);
            rows.any(|row| row[x.saturating_sub(11)..(x + 12).min(128)].iter().any(|v| *v > 0.0))
        };
        let left = anything(&s).into_iter().find(|i| !near(*i));
        assert!(left.is_none(), "step {n}: something at {left:?}");
    }
}

#[test]
fn what_was_worked_before_leaves_no_trace_in_another_sheet() {
    // Every thread has a place to work in of its own.
    let after = |others: usize| {
        let work = move || {
            let mut s = sheet(Surface::ColdPressed, 128);
            for _ in 0..others {
                let mut other = sheet(Surface::Rough, 128);
                wet(&mut other, &paint("PB29", 260.0, 0.03), disc(66.0, 60.0, 50.0));
                other.advance(40);
            }
            wet(&mut s, &paint("PB15:3", 140.0, 0.02), disc(50.0, 58.0, 18.0));
            wet(&mut s, &paint("PV19", 60.0, 0.02), disc(92.0, 80.0, 9.0));
            s.advance(600);
            s.checksum()
        };
        std::thread::spawn(work).join().expect("a sheet")
    };
    assert_eq!(after(0), after(1));
}

/// How far water came from the middle of a sheet of 192², cells, every five degrees: what of a cell it has reached tells the border to a fraction of it.
fn radii(s: &Sheet) -> Vec<f64> {
    let cover = water(s, COVER, [0, 0, 192, 192]);
    let between = |x: f64, y: f64| {
        let (left, top) = ((x - 0.5).floor(), (y - 0.5).floor());
        let (fx, fy) = (x - 0.5 - left, y - 0.5 - top);
        let at = |i: f64, j: f64| f64::from(cover[(top + j) as usize * 192 + (left + i) as usize]);
        (1.0 - fy) * ((1.0 - fx) * at(0.0, 0.0) + fx * at(1.0, 0.0))
            + fy * ((1.0 - fx) * at(0.0, 1.0) + fx * at(1.0, 1.0))
    };
    let radius = |angle: f64| {
        let (c, d) = (libm::cos(angle), libm::sin(angle));
        (0..900)
            .map(|k| 0.1 * between(96.0 + 0.1 * f64::from(k) * c, 96.0 + 0.1 * f64::from(k) * d))
            .sum::<f64>()
    };
    (0..72).map(|k| radius(f64::from(k) * 5.0_f64.to_radians())).collect()
}

#[test]
fn water_that_comes_back_into_a_damp_wash_goes_ahead_in_lobes() {
    // How much the border of a drop bends in and out from one ray to the next, beside its radius.
    let bends = |full: f32| {
        let mut s = sheet(Surface::ColdPressed, 192);
        let paper = Paper::of(&s);
        wet(&mut s, &paint("PB15:3", 450.0, 0.004), disc(96.0, 96.0, 30.0));
        for (tx, ty) in (0..s.down()).flat_map(|ty| (0..3).map(move |tx| (tx, ty))) {
            let room: Vec<f32> = {
                let tile = paper.tile(s.ground(), (tx, ty));
                (0..TILE * TILE)
                    .map(|i| tile.room[(i / TILE + MARGIN_Y) * WIDE + i % TILE + MARGIN_X])
                    .collect()
            };
            let tile = s.tile_in_place(tx, ty);
            tile.make_in_place(&WATER);
            let inside = plane_in_place(tile.block_in_place(&WATER), IN);
            inside.iter_mut().zip(room).for_each(|(inside, room)| *inside = full * room);
        }
        go(&mut s, 1..300, STILL, &paper);
        let radii = radii(&s);
        let mean = radii.iter().sum::<f64>() / 72.0;
        let between = radii.iter().zip(radii.iter().cycle().skip(1)).map(|(a, b)| (a - b) * (a - b));
        [f64::sqrt(between.sum::<f64>() / 72.0) / mean, mean]
    };
    let ([dry, _], [damp, far]) = (bends(0.0), bends(0.8));
    assert!(damp > 0.05 && damp > 2.0 * dry, "{damp} of {far} cells on damp paper, {dry} on dry");
}

#[test]
fn a_free_drop_on_even_paper_is_round_and_the_same_both_ways() {
    let mut s = sheet(Surface::HotPressed, 192);
    let paper = Paper::even(&s);
    wet(&mut s, &paint("PB15:3", 700.0, 0.004), disc(96.0, 96.0, 34.0));
    go(&mut s, 1..600, STILL, &paper);
    let on = water(&s, ON, [0, 0, 192, 192]);
    let paint = laid(&s, "PB15:3");
    let radii = radii(&s);
    let mean = radii.iter().sum::<f64>() / 72.0;
    let worst = radii.iter().map(|r| (r / mean - 1.0).abs()).fold(0.0, f64::max);
    assert!(mean > 36.0, "it ran out to {mean} cells");
    assert!(worst < 0.02, "{worst} of its radius of {mean} cells");
    for y in 0..192 {
        for x in 0..192 {
            assert_eq!(on[y * 192 + x], on[y * 192 + 191 - x], "left and right of {x} {y}");
            assert_eq!(on[y * 192 + x], on[x * 192 + y], "across and down at {x} {y}");
            assert_eq!(paint[y * 192 + x], paint[x * 192 + y], "paint across and down at {x} {y}");
            assert_eq!(paint[y * 192 + x], paint[y * 192 + 191 - x], "paint left and right of {x} {y}");
        }
    }
}

/// Share of a pigment that is where water never stood, half a minute after a drop of it was laid.
fn crept(code: &str) -> f64 {
    let mut s = sheet(Surface::ColdPressed, 128);
    wet(&mut s, &paint(code, 250.0, 0.02), disc(64.0, 64.0, 20.0));
    let paper = Paper::of(&s);
    go(&mut s, 1..901, Air::default(), &paper);
    let (all, stood) = (laid(&s, code), water(&s, COVER, [0, 0, 128, 128]));
    let beyond: f64 = all.iter().zip(stood).filter(|(_, stood)| *stood == 0.0).map(|(um, _)| um).sum();
    beyond / all.iter().sum::<f64>()
}

#[test]
fn paint_that_stains_creeps_on_in_the_paper_and_coarse_paint_hardly() {
    let [stains, coarse] = ["PB15:3", "PB29"].map(crept);
    assert!(stains > 0.002 && coarse < stains / 5.0, "{stains:.5} and {coarse:.5}");
}

#[test]
fn coarse_pigment_gathers_in_the_tooth_the_more_the_rougher_the_paper() {
    let uneven = |surface: Surface, code: &str| {
        let mut s = sheet(surface, 128);
        wet(&mut s, &paint(code, 120.0, 0.01), |_, _| 1.0);
        let paper = Paper::of(&s);
        go(&mut s, 1..3000, Air { takes: 4.0, even: true }, &paper);
        assert!(!s.busy());
        let map = laid(&s, code);
        let mean = map.iter().sum::<f64>() / map.len() as f64;
        f64::sqrt(map.iter().map(|v| (v / mean - 1.0) * (v / mean - 1.0)).sum::<f64>() / map.len() as f64)
    };
    let [hot, cold, rough] =
        [Surface::HotPressed, Surface::ColdPressed, Surface::Rough].map(|p| uneven(p, "PB29"));
    assert!(hot < cold && cold < rough, "ultramarine: {hot}, {cold}, {rough}");
    let stains = uneven(Surface::ColdPressed, "PB15:3");
    assert!(stains < 0.5 * cold, "phthalo {stains}, ultramarine {cold}");
}

#[test]
fn a_tilted_board_carries_a_wash_down() {
    let mut s = sheet(Surface::ColdPressed, 128);
    s.bring_into(Surroundings { tilt_deg: 20.0, falls_deg: 90.0, ..Surroundings::default() })
        .expect("a board");
    wet(&mut s, &paint("PY74", 300.0, 0.01), disc(64.0, 40.0, 20.0));
    let middle = |s: &Sheet| {
        let map = laid(s, "PY74");
        let sum: f64 = map.iter().sum();
        map.iter().enumerate().map(|(i, v)| v * (i / 128) as f64).sum::<f64>() / sum
    };
    let before = middle(&s);
    s.advance(360);
    assert!(middle(&s) > before + 3.0, "{before} to {}", middle(&s));
}

#[test]
fn a_clock_that_was_stopped_gives_the_same_sheet() {
    let begin = || {
        let mut s = sheet(Surface::ColdPressed, 128);
        wet(&mut s, &paint("PV19", 150.0, 0.01), disc(60.0, 64.0, 30.0));
        s
    };
    let mut whole = begin();
    whole.advance(331);
    let mut parts = begin();
    for steps in [1, 2, 5, 100, 7, 60] {
        parts.advance(steps);
    }
    let kept = parts.snapshot();
    parts.advance(900);
    parts.restore(&kept);
    parts.advance(156);
    assert_eq!(whole.checksum(), parts.checksum());
    parts.advance(2);
    assert_ne!(whole.checksum(), parts.checksum());
}
