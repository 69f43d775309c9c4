//! Deep water, and water that runs: steps are short enough for it.

use super::*;
use crate::packs::PACK;

/// By how much every other cell, as on a chessboard, stands higher than its neighbours where water is deep, of what stands there (root of the mean square).
fn chessboard(s: &Sheet, side: usize) -> f64 {
    let on = water(s, ON, [0, 0, side, side]);
    let at = |x: usize, y: usize| f64::from(on[y * side + x]);
    let (mut squares, mut stands, mut cells) = (0.0, 0.0, 0.0);
    for (x, y) in (1..side - 1).flat_map(|y| (1..side - 1).map(move |x| (x, y))) {
        let around = [at(x, y), at(x + 1, y), at(x, y + 1), at(x + 1, y + 1)];
        if [at(x - 1, y - 1), at(x - 1, y), at(x, y - 1)].iter().chain(&around).all(|um| *um > 60.0) {
            let apart = (around[0] - around[1] - around[2] + around[3]) / 4.0;
            squares += apart * apart;
            stands += around[0];
            cells += 1.0;
        }
    }
    assert!(cells > 1000.0, "{cells} cells are deep");
    f64::sqrt(squares / cells) * cells / stands
}

#[test]
fn no_chessboard_shows_in_deep_water_at_rest_nor_where_it_runs() {
    const SIDE: usize = 192;
    let after = |film_um: f32, tilt_deg: f64, falls_deg: f64| {
        let mut s = sheet(Surface::ColdPressed, SIDE);
        let board = Surroundings { tilt_deg, falls_deg, ..Surroundings::default() };
        s.bring_into(board).expect("a board");
        wet(&mut s, &paint("PB29", film_um, 0.02), |_, y| if y < 90.0 { 1.0 } else { 0.0 });
        s.advance(240);
        let beat = s.beat(&WATER);
        assert!(beat.every == 1, "{beat:?}");
        chessboard(&s, SIDE)
    };
    for (film_um, tilt_deg, falls_deg, most) in
        [(240.0, 0.0, 0.0, 0.002), (220.0, 20.0, 90.0, 0.03), (220.0, 20.0, 45.0, 0.03)]
    {
        let apart = after(film_um, tilt_deg, falls_deg);
        assert!(apart < most, "{film_um} µm on a board of {tilt_deg}°: {apart}");
    }
}

/// How many cells the machine works at once, and so where packs begin, decides nothing: a run narrower than a pack, wherever it lies, is deep too.
#[test]
fn narrow_deep_water_asks_for_short_steps_wherever_it_lies() {
    for first in 0..PACK {
        let mut s = sheet(Surface::ColdPressed, 64);
        let strip = |x: f64, y: f64| {
            let x = x as usize;
            if (16 + first..16 + first + 3).contains(&x) && (8.0..56.0).contains(&y) { 1.0 } else { 0.0 }
        };
        wet(&mut s, &paint("PB29", 400.0, 0.0), strip);
        s.advance(8);
        assert_eq!(s.beat(&WATER).every, 1, "from cell {} on", 16 + first);
    }
}

#[test]
fn steps_that_become_shorter_again_and_again_leave_nothing_undone() {
    const PITCH: f64 = 0.222;
    // How much of a wash has settled after some seconds, while water elsewhere asks for much shorter steps every now and then.
    let settled = |asks: u64| {
        let ground = Rc::new(Ground::generated(Surface::ColdPressed));
        let mut s = Sheet::new(ground, 256, 64, PITCH, [0.0; 2]).expect("a sheet");
        wet(&mut s, &paint("PB29", 70.0, 0.03), disc(28.0, 32.0, 18.0));
        wet(&mut s, &paint("PB29", 70.0, 0.0), disc(220.0, 32.0, 18.0));
        let mut shorter = 0;
        for step in 0..480 {
            s.tile_in_place(3, 0).block_in_place(&WATER)[SWINGS] = if step % asks == 0 { 4.0 } else { 0.0 };
            let before = s.beat(&WATER).every;
            s.advance(1);
            shorter += u32::from(s.beat(&WATER).every < before);
        }
        let [settled, whole] = [&[LOOSE, BOUND][..], &[LOOSE, BOUND, SWIMS]]
            .map(|planes| amounts(&s, "PB29", planes).iter().sum::<f64>());
        (shorter, settled / whole)
    };
    let (_, usual) = settled(10_000);
    for asks in [7, 13, 19, 23, 29, 31] {
        let (shorter, settled) = settled(asks);
        assert!(shorter > 12, "{shorter} times");
        assert!((settled / usual - 1.0).abs() < 0.06, "asked every {asks} steps: {settled}, else {usual}");
    }
}

#[test]
fn steps_are_longer_over_thin_water_that_stands_and_not_over_water_that_runs() {
    const PITCH: f64 = 0.222;
    let every = |film_um: f32, tilt_deg: f64| {
        let ground = Rc::new(Ground::generated(Surface::ColdPressed));
        let mut s = Sheet::new(ground, 128, 128, PITCH, [0.0; 2]).expect("a sheet");
        s.bring_into(Surroundings { tilt_deg, ..Surroundings::default() }).expect("a board");
        wet(&mut s, &paint("PB29", film_um, 0.02), disc(64.0, 40.0, 30.0));
        s.advance(60);
        s.beat(&WATER).every
    };
    let usual = Pace::new(PITCH, [0.0; 2]).every;
    // Its line goes ahead here and there, a cell at a time.
    assert!(every(70.0, 0.0) > usual);
    for tilt_deg in [10.0, 30.0] {
        assert_eq!(every(20.0, tilt_deg), usual, "on a board of {tilt_deg}°");
    }
}
