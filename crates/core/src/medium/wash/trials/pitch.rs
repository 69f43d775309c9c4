//! Sheets of other pixels, and steps of other lengths: the same wash within what is told.

use super::*;

#[test]
fn half_the_pitch_or_half_the_step_gives_the_same_rim() {
    // Rim over centre, and the area in mm², of a drop of 4.4 mm.
    let drop = |pitch: f64, times: f64| {
        let side = (128.0 * PITCH_MM / pitch) as usize;
        let ground = Rc::new(Ground::generated(Surface::HotPressed));
        let mut s = Sheet::new(ground, side, side, pitch, [0.0; 2]).expect("a sheet");
        let (paper, c) = (Paper::even(&s), 0.5 * side as f64);
        wet(&mut s, &paint("PB15:3", 160.0, 0.004), disc(c, c, 2.2 / pitch));
        let usual = Pace::new(pitch, [0.0; 2]);
        let pace = Pace::in_parts(pitch, [0.0; 2], usual.every as f64, usual.parts as f64 * times);
        let air = Air { takes: 1.5, even: false };
        let steps = (1..100_000).find(|n| {
            step_in_place(&mut s, *n, &pace, air, &paper, &mut Changed::default());
            !s.busy()
        });
        assert!(steps.is_some(), "it dries");
        let cells = water(&s, COVER, [0, 0, side, side]).iter().map(|v| f64::from(*v)).sum::<f64>();
        let (map, far) = (laid(&s, "PB15:3"), f64::sqrt(cells / std::f64::consts::PI));
        let mean = |radii| ring(&map, side, [c; 2], radii);
        [mean(0.9 * far..far + 0.5) / mean(0.0..0.5 * far), cells * pitch * pitch]
    };
    let [rim, area] = drop(PITCH_MM, 1.0);
    for (what, [other_rim, other_area]) in
        [("half the step", drop(PITCH_MM, 2.0)), ("half the pitch", drop(0.5 * PITCH_MM, 1.0))]
    {
        assert!((other_rim / rim - 1.0).abs() < 0.05, "{what}: rim {other_rim}, else {rim}");
        assert!((other_area / area - 1.0).abs() < 0.05, "{what}: {other_area} mm², else {area}");
    }
}

#[test]
fn a_coarse_sheet_dries_alike_in_the_longer_steps_that_thin_water_bears() {
    const PITCH: f64 = 0.222;
    let made = || {
        let ground = Rc::new(Ground::generated(Surface::ColdPressed));
        let mut s = Sheet::new(ground, 192, 128, PITCH, [0.0; 2]).expect("a sheet");
        wet(&mut s, &paint("PB15:3", 90.0, 0.01), disc(60.0, 60.0, 40.0));
        wet(&mut s, &paint("PB29", 60.0, 0.03), disc(130.0, 64.0, 34.0));
        s
    };
    let (mut longer, mut usual) = (made(), made());
    let (paper, pace) = (Paper::of(&usual), Pace::new(PITCH, [0.0; 2]));
    let air = Air { takes: usual.surroundings().dries() as f32, even: false };
    let steps = (1..10_000).find(|n| {
        step_in_place(&mut usual, *n, &pace, air, &paper, &mut Changed::default());
        !usual.busy()
    });
    let (mut taken, mut longest) = (0, 0);
    while longer.busy() && longer.steps() < 20_000 {
        let before = longer.beat(&WATER);
        longer.advance(1);
        let beat = longer.beat(&WATER);
        taken += u64::from((longer.steps() - beat.since).is_multiple_of(beat.every) && before == beat);
        longest = longest.max(beat.every);
    }
    // As long as water spreads evenly in the paper.
    assert_eq!((pace.every, longest), (5, 14));
    assert!(taken * 3 < steps.expect("it dries") * 2, "{taken} steps instead of {steps:?}");
    for code in ["PB15:3", "PB29"] {
        let [a, b] = [&longer, &usual].map(|s| laid(s, code));
        let apart = a.iter().zip(&b).map(|(a, b)| (a - b).abs()).sum::<f64>() / b.iter().sum::<f64>();
        assert!(apart < 0.015, "{code}: {apart} of it lies elsewhere");
    }
}

#[test]
fn paint_runs_as_far_in_wet_paper_on_a_coarse_sheet() {
    // How far paint lies from where it was dropped, mm, after 20 s.
    let spread = |dx: f64| {
        let side = (16.0 / dx) as usize;
        let mut s = Sheet::new(Rc::new(Ground::generated(Surface::HotPressed)), side, side, dx, [0.0; 2])
            .expect("a sheet");
        wet(&mut s, &paint("PB15:3", 140.0, 0.0), disc(8.0 / dx, 8.0 / dx, 7.0 / dx));
        wet(&mut s, &paint("PB15:3", 160.0, 0.03), disc(8.0 / dx, 8.0 / dx, 0.8 / dx));
        s.advance(1200);
        let laid = laid(&s, "PB15:3");
        let whole: f64 = laid.iter().sum();
        let squares = laid.iter().enumerate().map(|(i, um)| {
            let [x, y] = [i % side, i / side].map(|n| (n as f64 + 0.5) * dx - 8.0);
            um * (x * x + y * y)
        });
        f64::sqrt(squares.sum::<f64>() / whole)
    };
    let [study, screen] = [PITCH_MM, 0.23].map(spread);
    assert!((screen / study - 1.0).abs() < 0.12, "{screen} mm at 0.23 mm a pixel, {study} mm at {PITCH_MM}");
}

#[test]
fn a_narrow_line_holds_its_water_on_a_coarse_sheet_as_on_a_fine_one() {
    // What a line of 1.2 mm by 9 covers when it is so full that it gives way, mm².
    let covers = |dx: f64| {
        let side = (14.0 / dx) as usize;
        let ground = Rc::new(Ground::generated(Surface::HotPressed));
        let mut s = Sheet::new(ground, side, side, dx, [0.0; 2]).expect("a sheet");
        wet(&mut s, &paint("PB15:3", 480.0, 0.004), |x, y| {
            let inside = |at: f64, half: f64| ((half - (at * dx - 7.0).abs()) / dx + 0.5).clamp(0.0, 1.0);
            inside(x, 4.5) * inside(y, 0.6)
        });
        s.advance(600);
        f64::from(water(&s, COVER, [0, 0, side, side]).iter().sum::<f32>()) * dx * dx
    };
    // It is five cells wide there, and gives way a tenth sooner or later by where its sides lie among them.
    const SCREENS: [f64; 3] = [0.222, 0.23, 0.24];
    let (study, screen) = (covers(PITCH_MM), SCREENS.map(covers).iter().sum::<f64>() / 3.0);
    assert!(
        (screen / study - 1.0).abs() < 0.1,
        "{screen} mm² at {SCREENS:?} mm a pixel, {study} mm² at {PITCH_MM}"
    );
}

#[test]
fn paint_that_goes_up_and_down_between_nodes_levels_out() {
    const NODE: usize = 4;
    // By how much every other row of nodes has more, before and after some seconds, of what it has.
    let differs = |dx: f64| {
        let ground = Rc::new(Ground::generated(Surface::HotPressed));
        let mut s = Sheet::new(ground, 2 * TILE, TILE, dx, [0.0; 2]).expect("a sheet");
        let paper = Paper::even(&s);
        let odd = |x: f64| (x as usize / NODE) % 2;
        for (which, strength) in [0.02, 0.04].into_iter().enumerate() {
            wet(&mut s, &paint("PB15:3", 60.0, strength), |x, _| if odd(x) == which { 1.0 } else { 0.0 });
        }
        let amplitude = |s: &Sheet| {
            let mut sums = [0.0; 2];
            let paint = laid(s, "PB15:3");
            (0..paint.len()).for_each(|i| sums[odd((i % (2 * TILE)) as f64)] += paint[i]);
            (sums[1] - sums[0]) / (sums[1] + sums[0])
        };
        let before = amplitude(&s);
        let pace = Pace::new(dx, [0.0; 2]);
        for number in 1..=(10.0 / f64::from(0.5 * pace.dries_s)) as u64 {
            step_in_place(&mut s, number, &pace, STILL, &paper, &mut Changed::default());
        }
        [before, amplitude(&s)]
    };
    for dx in [PITCH_MM, 0.23] {
        let [before, after] = differs(dx);
        assert!(before > 0.3, "{before}");
        assert!(after.abs() < 0.3 * before, "{after} of {before} at {dx} mm a pixel");
    }
}
