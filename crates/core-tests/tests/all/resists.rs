//! What keeps water off or drives it away: masking fluid, salt and spirit.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

use crate::common::{self, demo_tool, draw_wet, pull};
use crate::washes::{along, paint_at, sheet_for};

use saltmarsh_core::chain::Value;
use saltmarsh_core::medium::wash::blocks::{COVER, ON, WATER, plane, water_mm3};
use saltmarsh_core::medium::wash::resist::{CLOSED, MASK, RESIST, SALT, SPIRIT};
use saltmarsh_core::medium::{Turn, turn_in_place};
use saltmarsh_core::sheet::{Changed, Sheet, TILE};

#[test]
fn masking_fluid_keeps_paper_bare_until_it_is_rubbed_off() {
    let wash = demo_tool("wash-flat-25");
    let mut s = sheet_for(&wash);
    draw_wet(&demo_tool("wash-masking-fluid"), &pull([30.0, 3.0], [30.0, 22.0], 0.9), &mut s);
    let masked = |s: &Sheet| {
        let tiles = (0..s.down()).flat_map(|ty| (0..s.across()).map(move |tx| (tx, ty)));
        let cells = tiles
            .flat_map(|(tx, ty)| (0..TILE * TILE).map(move |i| (tx * TILE + i % TILE, ty * TILE + i / TILE)));
        let is = |x: usize, y: usize| {
            let block = s.tile(x / TILE, y / TILE).and_then(|t| t.block(&RESIST));
            block.is_some_and(|b| plane(b, MASK)[(y % TILE) * TILE + x % TILE] > 0.99)
        };
        cells.filter(|(x, y)| is(*x, *y)).collect::<Vec<_>>()
    };
    let under = masked(&s);
    assert!(under.len() > 100, "{} pixels are covered", under.len());
    draw_wet(&wash, &along(), &mut s);
    s.rest();
    let most = under.iter().map(|(x, y)| paint_at(&s, *x, *y)).fold(0.0, f64::max);
    let beside = paint_at(&s, 80, 50);
    assert!(beside > 0.1 && most < 0.02 * beside, "{most} µm under the fluid, {beside} beside it");
    // Neither does a stick come to it, nor what rubs what the stick left, nor its dust.
    for (name, pressure) in [("vine-charcoal-side", 0.9), ("stump", 0.6), ("dust-spatter", 0.6)] {
        draw_wet(&demo_tool(name), &pull([10.0, 12.5], [50.0, 12.5], pressure), &mut s);
    }
    let powder = |x: usize, y: usize| common::powder(&s, [x, y, x + 1, y + 1])[0];
    let most = under.iter().map(|(x, y)| powder(*x, *y)).fold(0.0, f64::max);
    let beside_it = powder(80, 50);
    assert!(
        beside_it > 0.5 && most < 0.02 * beside_it,
        "{most} µm of powder under it, {beside_it} beside it"
    );
    draw_wet(&demo_tool("wash-mask-rubber"), &pull([30.0, 2.0], [30.0, 23.0], 0.6), &mut s);
    assert!(masked(&s).is_empty(), "all of it is rubbed off");
    assert_eq!(paint_at(&s, 80, 50), beside, "and no paint with it");
}

#[test]
fn masking_fluid_over_what_has_dried_keeps_a_spray_from_it() {
    let wash = demo_tool("wash-flat-25");
    let mut s = sheet_for(&wash);
    draw_wet(&wash, &along(), &mut s);
    turn_in_place(Turn::Dry, &mut s);
    draw_wet(&demo_tool("wash-masking-fluid"), &pull([30.0, 3.0], [30.0, 22.0], 0.9), &mut s);
    turn_in_place(Turn::Wet, &mut s);
    // Masked and bare cells of the same wash: whether a film stands on them.
    let (mut masked, mut bare) = ([0; 2], [0; 2]);
    for tile in s.tiles() {
        let (Some(water), Some(resist)) = (tile.block(&WATER), tile.block(&RESIST)) else { continue };
        for i in (0..TILE * TILE).filter(|i| plane(water, COVER)[*i] > 0.5) {
            let of = if plane(resist, MASK)[i] > CLOSED { &mut masked } else { &mut bare };
            of[usize::from(plane(water, ON)[i] > 0.0)] += 1;
        }
    }
    assert!(masked[0] > 100 && masked[1] == 0, "dry and wet under the fluid: {masked:?}");
    assert!(bare[1] > 100 && bare[0] == 0, "dry and wet beside it: {bare:?}");
}

#[test]
fn paint_flees_from_spirit_and_salt() {
    for name in ["wash-spirit", "wash-salt"] {
        let mut wash = demo_tool("wash-flat-25");
        wash.parameters.insert("load.paint".into(), Value::Paint([("PB15:3".to_owned(), 1.0)].into()));
        let run = |with: bool| {
            let mut s = sheet_for(&wash);
            draw_wet(&wash, &along(), &mut s);
            if with {
                let mut drop = demo_tool(name);
                drop.parameters.insert("tip.width_mm".into(), Value::Number(0.1));
                drop.parameters.insert("tip.drop_mm".into(), Value::Number(2.0));
                drop.seed = 3;
                draw_wet(&drop, &pull([29.9, 12.5], [30.1, 12.5], 0.6), &mut s);
            }
            s.rest();
            s
        };
        let (plain, driven) = (run(false), run(true));
        // The lightest of places a pixel or two wide about the middle, beside the same without.
        let least = |s: &Sheet| (116..125).map(|x| paint_at(s, x, 50)).fold(f64::INFINITY, f64::min);
        assert!(least(&driven) < 0.75 * least(&plain), "{name}: {} of {}", least(&driven), least(&plain));
        let all = |s: &Sheet| wash.medium.on_sheet(s).mm3;
        assert!((all(&driven) / all(&plain) - 1.0).abs() < 1e-4, "{name} takes none away");
    }
}

#[test]
fn salt_drinks_and_spirit_does_not() {
    let wash = demo_tool("wash-flat-25");
    let water_after = |drop: &str| {
        let mut s = sheet_for(&wash);
        draw_wet(&wash, &along(), &mut s);
        draw_wet(&demo_tool(drop), &along(), &mut s);
        s.rest_for(600, &mut Changed::default());
        water_mm3(&s)
    };
    // With nothing drunk both have the same to a thousandth of a mm³.
    let [salted, spirited] = ["wash-salt", "wash-spirit"].map(water_after);
    assert!(salted < spirited - 0.1, "{salted} mm³ are left under salt, {spirited} under spirit");
}

#[test]
fn salt_goes_ahead_in_rays_and_spirit_in_rings() {
    // How far each acts, the farthest beside the nearest of 24 directions.
    let uneven = |name: &str, plane_of: usize| {
        let mut drop = demo_tool(name);
        drop.parameters.insert("tip.width_mm".into(), Value::Number(0.1));
        drop.parameters.insert("tip.drop_mm".into(), Value::Number(3.0));
        drop.seed = 3;
        let mut s = sheet_for(&drop);
        draw_wet(&drop, &pull([30.0, 12.5], [30.05, 12.5], 0.6), &mut s);
        let share = |x: f64, y: f64| {
            let (x, y) = (x as usize, y as usize);
            let block = s.tile(x / TILE, y / TILE).and_then(|t| t.block(&RESIST));
            block.map_or(0.0, |b| plane(b, plane_of)[y % TILE * TILE + x % TILE])
        };
        let places =
            (0..s.width() * s.height()).map(|i| ((i % s.width()) as f64 + 0.5, (i / s.width()) as f64 + 0.5));
        let (mut whole, mut at) = (0.0, [0.0; 2]);
        for (x, y) in places {
            let here = f64::from(share(x, y));
            (whole, at) = (whole + here, [at[0] + here * x, at[1] + here * y]);
        }
        let [cx, cy] = at.map(|sum| sum / whole);
        let reach = |k: i32| {
            let (c, d) = (f64::cos(f64::from(k) * 0.2618), f64::sin(f64::from(k) * 0.2618));
            (0..200)
                .map(|r| 0.25 * f64::from(r))
                .find(|r| share(cx + r * c, cy + r * d) < 0.02)
                .expect("an end")
        };
        let reaches = (0..24).map(reach);
        reaches.clone().fold(0.0, f64::max) / reaches.fold(f64::INFINITY, f64::min)
    };
    let (salt, spirit) = (uneven("wash-salt", SALT), uneven("wash-spirit", SPIRIT));
    assert!(salt > 1.5 && spirit < 1.3, "{salt} of salt, {spirit} of spirit");
}
