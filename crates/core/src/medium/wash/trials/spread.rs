//! Paint set into wet paper: how far it spreads, how finely its edge branches, how it is lifted again.

use super::*;

/// A drop of a pigment of 1 mm set into a wet disc of 7 mm, and left for some seconds.
fn drop_in_wet(surface: Surface, code: &str, seconds: u64) -> Sheet {
    let side = (16.0 / PITCH_MM) as usize;
    let mut s = sheet(surface, side);
    let [c, far, near] = [8.0, 7.0, 1.0].map(|mm| mm / PITCH_MM);
    wet(&mut s, &paint(code, 140.0, 0.0), disc(c, c, far));
    wet(&mut s, &paint(code, 280.0, 0.04), disc(c, c, near));
    s.advance(60 * seconds);
    s
}

/// How far paint lies from the middle, mm.
fn spread(s: &Sheet, code: &str) -> f64 {
    let (side, laid) = (s.width(), laid(s, code));
    let squares = laid.iter().enumerate().map(|(i, um)| {
        let [x, y] = [i % side, i / side].map(|n| (n as f64 + 0.5) * PITCH_MM - 8.0);
        um * (x * x + y * y)
    });
    f64::sqrt(squares.sum::<f64>() / laid.iter().sum::<f64>())
}

/// How unevenly paint lies along a circle, within lengths of a mm, of what lies there.
fn ragged(map: &[f64], side: usize, radius_mm: f64) -> f64 {
    const SAMPLES: usize = 720;
    let r = radius_mm / PITCH_MM;
    let around: Vec<f64> = (0..SAMPLES)
        .map(|n| {
            let angle = n as f64 / SAMPLES as f64 * std::f64::consts::TAU;
            let [x, y] = [libm::cos(angle), libm::sin(angle)].map(|part| 0.5 * side as f64 + r * part);
            map[y as usize * side + x as usize]
        })
        .collect();
    let half = (0.5 / (std::f64::consts::TAU * radius_mm) * SAMPLES as f64) as usize;
    let mean_near = |n: usize| {
        (0..=2 * half).map(|k| around[(n + k + SAMPLES - half) % SAMPLES]).sum::<f64>()
            / (2 * half + 1) as f64
    };
    let apart = (0..SAMPLES).map(|n| around[n] - mean_near(n));
    let squares = apart.map(|apart| apart * apart).sum::<f64>() / SAMPLES as f64;
    squares.sqrt() / (around.iter().sum::<f64>() / SAMPLES as f64)
}

#[test]
fn the_edge_of_colour_set_into_wet_branches_finely_and_its_heart_does_not() {
    for surface in [Surface::HotPressed, Surface::ColdPressed] {
        let s = drop_in_wet(surface, "PB15:3", 30);
        let map = laid(&s, "PB15:3");
        let [heart, edge] = [1.0, 3.0].map(|mm| ragged(&map, s.width(), mm));
        assert!(edge > 0.07, "{surface:?}: {edge}");
        assert!(heart < 0.06, "{surface:?}: {heart}");
    }
}

#[test]
fn coarse_colour_spreads_in_wet_less_than_fine_but_not_much_less() {
    let [fine, coarse] =
        ["PB15:3", "PB29"].map(|code| spread(&drop_in_wet(Surface::ColdPressed, code, 30), code));
    assert!(coarse > 0.8 * fine && coarse < 0.95 * fine, "{coarse} mm, fine colour {fine} mm");
}

#[test]
fn running_water_lifts_as_much_in_half_the_step() {
    // How much of dry paint swims after a second under water that runs down a slope, of all there is.
    let lifts = |times: f64| {
        let mut s = sheet(Surface::HotPressed, 64);
        let paper = Paper::even(&s);
        wet(&mut s, &paint("PB29", 100.0, 0.02), |_, _| 1.0);
        go(&mut s, 1..3000, Air { takes: 6.0, even: true }, &paper);
        assert!(!s.busy(), "it is dry");
        wet(&mut s, &paint("PB29", 160.0, 0.0), |_, _| 1.0);
        let usual = Pace::new(PITCH_MM, [0.0; 2]);
        let pace = Pace::in_parts(PITCH_MM, [0.0, 0.15], usual.every as f64, times);
        for number in 1..=(30.0 * times) as u64 {
            step_in_place(&mut s, number, &pace, STILL, &paper, &mut Changed::default());
        }
        swims(&s, "PB29").iter().sum::<f64>() / laid(&s, "PB29").iter().sum::<f64>()
    };
    let [usual, half] = [1.0, 2.0].map(lifts);
    assert!(usual > 0.05, "{usual}");
    assert!((half / usual - 1.0).abs() < 0.05, "{half}, in usual steps {usual}");
}

#[test]
fn water_lifts_less_out_of_the_pits_than_off_the_crowns() {
    let mut s = sheet(Surface::ColdPressed, 64);
    let (paper, even) = (Paper::of(&s), Paper::even(&s));
    // Dried on paper that is alike everywhere, so that as much lies in the one as on the other.
    wet(&mut s, &paint("PB29", 100.0, 0.02), |_, _| 1.0);
    go(&mut s, 1..3000, Air { takes: 6.0, even: true }, &even);
    assert!(!s.busy(), "it is dry");
    wet(&mut s, &paint("PB29", 160.0, 0.0), |_, _| 1.0);
    // Soon: what is lifted settles again, and more of it in the pits.
    go(&mut s, 1..9, STILL, &paper);
    let (lifted, all) = (swims(&s, "PB29"), laid(&s, "PB29"));
    let tile = paper.tile(s.ground(), (0, 0));
    let share = |pits: bool| {
        let there = (0..64 * 64).filter(|i| {
            let pit = tile.pit_at(i % 64, i / 64);
            if pits { pit < -0.4 } else { pit > 0.4 }
        });
        let [swims, lies] = there.fold([0.0; 2], |sum, i| [sum[0] + lifted[i], sum[1] + all[i]]);
        swims / lies
    };
    let [pits, crowns] = [true, false].map(share);
    assert!(crowns > 0.002 && pits < 0.8 * crowns, "of what lies in pits {pits} swims, on crowns {crowns}");
}
