//! Load: the paints a brush is loaded with, how much, and how they lie in it.

use super::{brings_nothing, no_hairs};
use crate::chain::choice::choices;
use crate::chain::{Action, Parameter, Quality, Settings, Station};

choices! {
    /// How paints lie in a brush.
    pub enum Order {
        One = "one", "one paint";
        Beside = "beside", "two side by side";
        Hairs = "hairs", "two hair by hair";
        Three = "three", "three side by side";
    }
}

choices! {
    /// What becomes of a brush after a stroke.
    pub enum Wash {
        No = "no", "left as it is";
        Rinsed = "rinsed", "rinsed";
        Cleaned = "cleaned", "cleaned";
    }
}

pub const OWN: &[Parameter] = &[
    Parameter::paint(
        "load.paint",
        Station::Load,
        "Paint",
        &[("PR101", 1.0)],
        "What the brush is loaded with: pigments by parts.",
    )
    .idle(brings_nothing),
    Parameter::choice::<Order>("load.order", Station::Load, "Lie", "one", "How the paints lie in the brush.")
        .idle(brings_nothing),
    Parameter::paint(
        "load.beside",
        Station::Load,
        "Beside it",
        &[("PW6", 1.0)],
        "A second paint in the brush.",
    )
    .idle(|s| brings_nothing(s).or_else(|| alone(s))),
    Parameter::paint("load.third", Station::Load, "Third", &[("PB29", 1.0)], "A third paint in the brush.")
        .idle(|s| {
            let three = s.chosen::<Order>("load.order") == Order::Three;
            brings_nothing(s).or_else(|| (!three).then_some("there are not three paints"))
        }),
    Parameter::number(
        "load.ml",
        Station::Load,
        "Amount",
        "ml",
        [0.0005, 5.0, 0.0005, 0.36],
        "Paint in the brush. What its hairs cannot hold is not taken.",
    )
    .by_ratio()
    .idle(brings_nothing),
    Parameter::switch("load.endless", Station::Load, "Endless", false, "The brush gives and never runs out.")
        .idle(brings_nothing),
    Parameter::switch(
        "load.refill",
        Station::Load,
        "Refilled each stroke",
        false,
        "After each stroke it is dipped into its paint again.",
    )
    .idle(|s| brings_nothing(s).or_else(|| s.switch("load.endless").then_some("it never runs out"))),
    Parameter::choice::<Wash>(
        "load.wash",
        Station::Load,
        "Between strokes",
        "no",
        "What becomes after each stroke of what the brush holds.",
    )
    .idle(keeps_all),
    Parameter::number(
        "load.rinse_left",
        Station::Load,
        "Stays when rinsed",
        "",
        [0.0, 1.0, 0.01, 0.15],
        "Share of what it holds that stays in the hair.",
    )
    .idle(|s| {
        keeps_all(s).or_else(|| {
            (s.chosen::<Wash>("load.wash") != Wash::Rinsed)
                .then_some("it is not rinsed after each stroke; Rinse leaves as much")
        })
    }),
    Parameter::number(
        "load.lean",
        Station::Load,
        "Heavier side",
        "",
        [-1.0, 1.0, 0.01, 0.0],
        "Weight of the load toward one edge of the tip: −1 left, 1 right.",
    )
    .idle(brings_nothing),
    Parameter::number(
        "load.medium",
        Station::Load,
        "Medium in it",
        "",
        [0.0, 0.8, 0.01, 0.0],
        "Share of oil or medium in the paint: thinner in body, more transparent. Where a response drives it, it is added as the paint leaves.",
    )
    .driven_as(Quality::Medium)
    .idle(brings_nothing),
    Parameter::number(
        "load.uneven",
        Station::Load,
        "Uneven amount",
        "",
        [0.0, 1.0, 0.01, 0.25],
        "How unevenly the hairs are loaded.",
    )
    .idle(brings_nothing),
    Parameter::number(
        "load.uneven_colour",
        Station::Load,
        "Uneven colour",
        "",
        [0.0, 1.0, 0.01, 0.5],
        "How far streaks of the second paint run into the first.",
    )
    .idle(|s| brings_nothing(s).or_else(|| alone(s))),
    Parameter::number(
        "load.uneven_width",
        Station::Load,
        "Uneven width",
        "",
        [0.0, 1.0, 0.01, 1.0],
        "How far the lines that hairs draw differ in width: 0 all alike, as of a comb.",
    )
    .idle(no_hairs),
    Parameter::number(
        "load.value",
        Station::Load,
        "Lighter",
        "%",
        [-30.0, 30.0, 0.5, 0.0],
        "How much lighter or darker what leaves the brush is than what it was loaded with. A response to chance lets it differ from stroke to stroke, or along the way.",
    )
    .driven_as(Quality::Value)
    .idle(brings_nothing),
    Parameter::number(
        "load.warmth",
        Station::Load,
        "Warmer",
        "%",
        [-30.0, 30.0, 0.5, 0.0],
        "How much warmer or cooler what leaves the brush is than what it was loaded with.",
    )
    .driven_as(Quality::Warmth)
    .idle(brings_nothing),
    Parameter::number(
        "load.stray_value",
        Station::Load,
        "Strays: value",
        "%",
        [0.0, 30.0, 0.5, 0.0],
        "How far the paint of single tufts is lighter or darker.",
    )
    .idle(brings_nothing),
    Parameter::number(
        "load.stray_warmth",
        Station::Load,
        "Strays: warmth",
        "%",
        [0.0, 30.0, 0.5, 0.0],
        "How far the paint of single tufts is warmer or cooler.",
    )
    .idle(brings_nothing),
];

fn keeps_all(s: &Settings<'_>) -> Option<&'static str> {
    matches!(s.action, Action::Lift | Action::Cut).then_some("nothing of what it holds comes out again")
}

fn alone(s: &Settings<'_>) -> Option<&'static str> {
    (s.chosen::<Order>("load.order") == Order::One).then_some("there is one paint")
}
