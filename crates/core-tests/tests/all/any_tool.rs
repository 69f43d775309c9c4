//! Tools nobody would make: whatever the numbers within their limits, nothing is lost, nothing is more than all, and the
//! same hand gives the same sheet.

use crate::common;

use std::collections::BTreeMap;
use std::rc::Rc;

use common::{draw, ground, pull, sheet};
use proptest::prelude::*;
use saltmarsh_core::chain::Action;
use saltmarsh_core::chain::{Kind, Value};
use saltmarsh_core::ground::{Ground, Surface};
use saltmarsh_core::hand::{Gesture, Sample};
use saltmarsh_core::medium::dry::blocks::{
    COVER, FILM, FILM_COLOUR, FILM_HIDDEN, FILM_SHARE, FILM_VALUES, HELD, KX, LAYER, LAYER_VALUES, LOOSE,
    POWDER, POWDER_VALUES, SX, TOP, TOP_COVER, WEAR, powder_mm3,
};
use saltmarsh_core::medium::dry::parameters::PARAMETERS;
use saltmarsh_core::medium::paste;
use saltmarsh_core::medium::paste::blocks as films;
use saltmarsh_core::medium::wash;
use saltmarsh_core::paint::{BANDS, pigment};
use saltmarsh_core::relief::flat;
use saltmarsh_core::sheet::{Sheet, Surroundings};
use saltmarsh_core::tool::Tool;

const PIXEL_MM: f64 = 0.25;
const SIZE_MM: [f64; 2] = [24.0, 12.0];

/// A parameter from two shares: mostly near its default, sometimes anywhere, sometimes at a limit.
fn value(kind: Kind, [how, at]: [f64; 2]) -> Option<Value> {
    Some(match kind {
        Kind::Number { low, high, default, .. } => Value::Number(match how {
            h if h < 0.5 => default,
            h if h < 0.6 => low,
            h if h < 0.65 => high,
            // Most ranges are wide at the top: squared, so that the lower half is met often.
            _ => low + (high - low) * at * at,
        }),
        Kind::Switch { default } => Value::Switch(if how < 0.5 { default } else { at < 0.5 }),
        Kind::Choice { default, .. } if how < 0.4 => Value::Choice(default.into()),
        Kind::Choice { options, .. } => Value::Choice(options[(at * options.len() as f64) as usize].0.into()),
        Kind::Image => return None,
        Kind::Paint { .. } => {
            let all = pigment::all();
            let code = |v: f64| all[(v * all.len() as f64) as usize].code.clone();
            Value::Paint([(code(at), 2.0 * how), (code(how), 1.0 + at)].into())
        }
    })
}

/// A tool whose parameters are thrown by chance.
fn thrown(plain: Tool, action: &str, seed: u32, shares: &[[f64; 2]]) -> Tool {
    let mut tool = plain;
    tool.action = serde_json::from_value(serde_json::json!(action)).expect("an action");
    tool.seed = seed;
    let mut parameters = BTreeMap::new();
    for (p, share) in tool.medium.parameters().iter().zip(shares) {
        if let Some(value) = value(p.kind, *share) {
            parameters.insert(p.id.to_owned(), value);
        }
    }
    // A tip of no image can have no image as its shape.
    if let Some(Value::Choice(shape)) = parameters.get_mut("tip.shape")
        && shape == "image"
    {
        *shape = "fan".into();
    }
    // Hundreds of dabs at one place say no more than a few, and take long.
    for (id, most) in [("tip.count", 3.0), ("tip.width_mm", 12.0), ("tip.side_mm", 12.0), ("tip.aspect", 4.0)]
    {
        if let Some(Value::Number(v)) = parameters.get_mut(id) {
            *v = v.min(most);
        }
    }
    tool.parameters.extend(parameters);
    tool.check().expect("within its limits");
    tool
}

/// A hand that wanders, with any pressure and lean.
fn hand(points: &[[f64; 5]]) -> Gesture {
    let sample = |(i, p): (usize, &[f64; 5])| Sample {
        t: i as f64 * 0.05,
        x: 24.0 * p[0],
        y: 12.0 * p[1],
        pressure: p[2],
        tilt_x: 120.0 * p[3] - 60.0,
        tilt_y: 120.0 * p[4] - 60.0,
        twist: 359.0 * p[3],
    };
    Gesture::new(vec![points.iter().enumerate().map(sample).collect()]).expect("a valid gesture")
}

/// Checks every pixel of the sheet.
fn sound(sheet: &Sheet) -> Result<(), TestCaseError> {
    let share = |v: f32| (-1e-6..=1.0 + 1e-5).contains(&v);
    for (tx, ty) in (0..sheet.down()).flat_map(|ty| (0..sheet.across()).map(move |tx| (tx, ty))) {
        let Some(tile) = sheet.tile(tx, ty) else { continue };
        for p in tile.block(&POWDER).iter().flat_map(|b| b.chunks_exact(POWDER_VALUES)) {
            prop_assert!(p.iter().all(|v| v.is_finite()), "{p:?}");
            prop_assert!(p[HELD] >= -1e-4 && p[LOOSE] >= -1e-4 && share(p[COVER]) && p[WEAR] >= 0.0, "{p:?}");
            prop_assert!(p[KX..SX + BANDS].iter().all(|v| *v >= -1e-3), "{p:?}");
        }
        for p in tile.block(&LAYER).iter().flat_map(|b| b.chunks_exact(LAYER_VALUES)) {
            prop_assert!(p.iter().all(|v| v.is_finite()) && p[TOP] >= 0.0 && share(p[TOP_COVER]), "{p:?}");
        }
        for p in tile.block(&FILM).iter().flat_map(|b| b.chunks_exact(FILM_VALUES)) {
            prop_assert!(share(p[FILM_SHARE]) && share(p[FILM_HIDDEN]), "{p:?}");
            prop_assert!(p[FILM_COLOUR..FILM_COLOUR + 3].iter().all(|v| share(*v)), "{p:?}");
        }
    }
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, ..ProptestConfig::default() })]
    #[test]
    fn any_tool_leaves_a_sound_sheet(
        action in prop::sample::select(vec!["lay", "lay", "lay", "blend", "lift", "cut", "fix"]),
        seed in any::<u32>(),
        shares in prop::collection::vec(prop::array::uniform2(0.0_f64..1.0), PARAMETERS.iter().count()),
        way in prop::collection::vec(prop::array::uniform5(0.0_f64..1.0), 2..8),
    ) {
        let tool = thrown(common::plain_tool(&[]), action, seed, &shares);
        let way = hand(&way);
        thread_local!(static GROUND: Rc<Ground> = ground(Surface::ColdPressed));
        let under = || {
            let mut s = GROUND.with(|g| sheet(g, SIZE_MM, PIXEL_MM));
            draw(&common::demo_tool("vine-charcoal-side"), &pull([4.0, 6.0], [20.0, 6.0], 0.6), &mut s);
            draw(&common::demo_tool("chalk-side"), &pull([10.0, 4.0], [14.0, 9.0], 0.5), &mut s);
            s
        };
        let mut s = under();
        let before = powder_mm3(&s);
        let trace = draw(&tool, &way, &mut s);
        sound(&s)?;
        let b = trace.balance;
        prop_assert!(b.brought.mm3 >= 0.0 && b.held.mm3 >= -1e-9 && b.gone.mm3 >= -1e-9, "{b:?}");
        if tool.action != Action::Lay {
            prop_assert_eq!(b.brought.mm3, 0.0);
        }
        let want = before + b.brought.mm3 - b.held.mm3 - b.gone.mm3;
        let off = (powder_mm3(&s) - want).abs();
        prop_assert!(off < 1e-4 * (before + b.brought.mm3), "{} mm³ is not {want}", powder_mm3(&s));
        prop_assert!(flat::rgba(&s).chunks_exact(4).all(|p| p[3] == 255));
        for dab in &trace.dabs {
            let of = |id: &str| trace.value(dab, id);
            let shares = ["covered", "contact", "full"].map(of);
            prop_assert!(shares.iter().all(|v| (-1e-6..=1.0 + 1e-5).contains(v)), "{shares:?}");
            prop_assert!(of("load").is_finite() && of("film_um").is_finite() && dab.travel_mm >= 0.0);
        }
        let mut again = under();
        draw(&tool, &way, &mut again);
        prop_assert_eq!(again.checksum(), s.checksum());
    }
    #[test]
    fn any_brush_leaves_a_sound_sheet(
        action in prop::sample::select(vec!["lay", "lay", "blend", "lift"]),
        seed in any::<u32>(),
        shares in prop::collection::vec(
            prop::array::uniform2(0.0_f64..1.0),
            paste::parameters::PARAMETERS.iter().count(),
        ),
        way in prop::collection::vec(prop::array::uniform5(0.0_f64..1.0), 2..8),
    ) {
        let tool = thrown(common::demo_tool("hog-flat"), action, seed, &shares);
        let way = hand(&way);
        thread_local!(static GROUND: Rc<Ground> = ground(Surface::CanvasFine));
        let under = || {
            let mut s = GROUND.with(|g| sheet(g, SIZE_MM, PIXEL_MM));
            draw(&common::demo_tool("vine-charcoal-side"), &pull([4.0, 6.0], [20.0, 6.0], 0.6), &mut s);
            draw(&common::demo_tool("hog-round"), &pull([3.0, 5.0], [18.0, 8.0], 0.6), &mut s);
            s
        };
        let mut s = under();
        let before = films::on_sheet(&s);
        let trace = draw(&tool, &way, &mut s);
        for tile in s.tiles() {
            for p in tile.block(&films::FILMS).iter().flat_map(|b| b.chunks_exact(films::FILM_VALUES)) {
                let covers = [p[films::TOP_COVER], p[films::BODY_COVER]];
                prop_assert!(p.iter().all(|v| v.is_finite()), "{p:?}");
                prop_assert!(p[films::TOP_UM] >= -1e-3 && p[films::BODY_UM] >= -1e-3, "{p:?}");
                prop_assert!(covers.iter().all(|v| (-1e-6..=1.0 + 1e-5).contains(v)), "{p:?}");
            }
            for layout in [&films::TOP, &films::BODY] {
                let values = tile.block(layout).iter().flat_map(|b| b.iter()).collect::<Vec<_>>();
                prop_assert!(values.iter().all(|v| v.is_finite() && **v >= -1e-3));
            }
        }
        let b = trace.balance;
        let want = before + b.gained();
        for (got, want) in films::on_sheet(&s).all().zip(want.all()) {
            let most = want.abs().max(b.brought.k[0] + before.k[0]).max(1.0);
            prop_assert!((got - want).abs() < 1e-4 * most, "{got} is not {want}: {b:?}");
        }
        let mut again = under();
        draw(&tool, &way, &mut again);
        prop_assert_eq!(again.checksum(), s.checksum());
    }
}

proptest! {
    // Each dries twice, which takes a second: few.
    #![proptest_config(ProptestConfig { cases: 8, ..ProptestConfig::default() })]
    #[test]
    fn any_wet_brush_leaves_a_sound_sheet(
        action in prop::sample::select(vec!["lay", "lay", "lift"]),
        seed in any::<u32>(),
        shares in prop::collection::vec(
            prop::array::uniform2(0.0_f64..1.0),
            wash::parameters::PARAMETERS.iter().count(),
        ),
        way in prop::collection::vec(prop::array::uniform5(0.0_f64..1.0), 2..8),
        room in prop::array::uniform4(0.0_f64..1.0),
    ) {
        let tool = thrown(common::demo_tool("wash-round-8"), action, seed, &shares);
        let way = hand(&way);
        thread_local!(static GROUND: Rc<Ground> = ground(Surface::ColdPressed));
        let run = || {
            let mut s = GROUND.with(|g| sheet(g, SIZE_MM, PIXEL_MM));
            draw(&common::demo_tool("wash-granulating"), &pull([4.0, 6.0], [20.0, 6.0], 0.4), &mut s);
            let [celsius, humidity, tilt_deg, falls_deg] = room;
            s.bring_into(Surroundings {
                celsius: 45.0 * celsius,
                // Air that is nearly full of water takes none: that sheet never dries.
                humidity: 95.0 * humidity,
                tilt_deg: 75.0 * tilt_deg * tilt_deg,
                falls_deg: 360.0 * falls_deg,
            }).expect("a room");
            let before = tool.medium.on_sheet(&s);
            let trace = draw(&tool, &way, &mut s);
            (s, before, trace)
        };
        let (s, before, trace) = run();
        for tile in s.tiles() {
            for (layout, block) in tile.blocks() {
                let material = &block[..layout.values * 64 * 64];
                prop_assert!(material.iter().all(|v| v.is_finite()), "{}", layout.name);
                // Velocities alone have a sign.
                if layout.name != "water" {
                    prop_assert!(material.iter().all(|v| *v >= 0.0), "{}", layout.name);
                }
            }
        }
        let gained = tool.medium.on_sheet(&s).mm3 - before.mm3;
        let told = trace.balance.gained().mm3;
        let scale = before.mm3 + trace.balance.brought.mm3;
        prop_assert!((gained - told).abs() < 2e-4 * scale, "{gained} mm³, told {told}");
        prop_assert_eq!(run().0.checksum(), s.checksum());
    }
}
