//! Loading a brush: how much its hairs take up, and how the paints lie across it.

use super::brush::{Brush, LANE_MM, PAINTS};
use crate::chain::{Quality, Settings};
use crate::medium::paste::make;
use crate::medium::paste::noise::{self, stream};
use crate::medium::paste::parameters::Order;
use crate::medium::paste::stuff::Stuff;
use crate::num;
use crate::tip::hair;

/// What the outside of the hairs over a mm of width holds when it is as full as it stays while fed, µm·mm² (the paste study's).
pub const OUTSIDE: f32 = 600.0;
/// How much more its heavier side is loaded: so many times the logarithm.
const LEANS: f32 = 1.5;
/// Three paints side by side meet here, as a share of half the width.
const THIRD: f64 = 1.0 / 3.0;
/// What a mm of a blade can carry, mm³ (the paste study's).
const BLADE_HOLDS: f64 = 14.0;
/// How much more than that a freshly loaded brush has outside.
const FRESH: f32 = 2.2;

/// From this share of what it can hold on a brush feeds as one that is full.
const FED_FROM: f32 = 0.5;

/// The same of the bead before a blade.
const BEAD: f32 = 900.0;

/// What the outside of one column of hairs holds, or the bead of a blade over as much of its width.
pub fn outside(blade: bool) -> f32 {
    if blade { BEAD * LANE_MM as f32 } else { OUTSIDE * LANE_MM as f32 }
}

/// Fills a clean brush as its tool is loaded.
pub fn fill_in_place(brush: &mut Brush, tool: &Settings<'_>) {
    let [half, thick] = brush.shape.half_mm;
    let length = tool.number("tip.hair_length_mm") * brush.shape.outline.length;
    let blade = brush.shape.outline.blade;
    let holds = if blade {
        BLADE_HOLDS * 2.0 * half
    } else {
        hair::holds_mm3(tool.chosen("tip.hair"), [2.0 * half, 2.0 * thick], length, brush.shape.outline.round)
    };
    // mm³ are thousands of µm·mm².
    let volume = 1e3 * (1e3 * tool.number("load.ml")).min(holds) as f32;
    let full = FED_FROM * 1e3 * holds as f32 / brush.bellies.len() as f32;
    // What a response drives is added as the paint leaves.
    let medium = if tool.is_driven(Quality::Medium) { 0.0 } else { tool.number("load.medium") };
    let order: Order = tool.chosen("load.order");
    let paints = ["load.paint", "load.beside", "load.third"].map(|id| make::mixture(&tool.paint(id), medium));
    let uneven = tool.number("load.uneven") as f32;
    let streaked = tool.number("load.uneven_colour") as f32;
    let (seed, count) = (u64::from(tool.seed), brush.bellies.len());
    let places: Vec<f64> =
        (0..count).map(|i| brush.columns.iter().find(|c| c.belly == i).map_or(0.0, |c| c.alpha)).collect();
    let leans = LEANS * tool.number("load.lean") as f32;
    let weight =
        |i: usize| num::exp(0.8 * uneven * noise::constant(seed, stream::LOAD, i) + leans * places[i] as f32);
    let weights: Vec<f32> = (0..count).map(weight).collect();
    let sum: f32 = weights.iter().sum();
    for (i, belly) in brush.bellies.iter_mut().enumerate() {
        let mine = volume * weights[i] / sum;
        // Which of them is here, and which runs into it in streaks.
        let second = |is: bool| if is { (1, 0) } else { (0, 1) };
        let (here, other) = match order {
            Order::One => (0, 0),
            Order::Beside => second(places[i] > 0.0),
            Order::Hairs => second(noise::constant(seed, stream::HAIRS, i) > 0.0),
            Order::Three if places[i] < -THIRD => (0, 1),
            Order::Three if places[i] > THIRD => (2, 1),
            Order::Three => (1, if places[i] < 0.0 { 0 } else { 2 }),
        };
        let runs_in = if here == other { 0.0 } else { 0.6 * streaked };
        let runs = runs_in * noise::constant(seed, stream::STREAKS, i).abs();
        belly.full = full;
        belly.paints = [Stuff::NONE; PAINTS];
        let strays = |stream: u64, id: &str| 0.01 * tool.number(id) as f32 * noise::constant(seed, stream, i);
        let (value, warmth) = (
            strays(stream::STRAY_VALUE, "load.stray_value"),
            strays(stream::STRAY_WARMTH, "load.stray_warmth"),
        );
        let paint = |which: usize| {
            let tint = make::tint(value, warmth);
            std::array::from_fn(|b| paints[which][b] * tint[b])
        };
        belly.paints[here].add(&Stuff::of(mine * (1.0 - runs), &paint(here)));
        belly.paints[other].add(&Stuff::of(mine * runs, &paint(other)));
    }
    for column in &mut brush.columns {
        let belly = &mut brush.bellies[column.belly];
        let has: f32 = belly.paints.iter().map(|p| p.volume).sum();
        if has <= 0.0 {
            continue;
        }
        let wanted = if blade { 1.0 } else { FRESH } * outside(blade) * num::pow((has / full).min(1.0), 0.6);
        let share = (wanted / has).min(0.2);
        for paint in &mut belly.paints {
            column.own.add(&paint.take(share));
        }
    }
}

/// What a brush has to give of its own, µm·mm².
pub fn store(brush: &Brush) -> f64 {
    let outside: f32 = brush.columns.iter().map(|c| c.own.volume).sum();
    let inside: f32 = brush.bellies.iter().map(|b| b.paints.iter().map(|p| p.volume).sum::<f32>()).sum();
    f64::from(outside + inside)
}
