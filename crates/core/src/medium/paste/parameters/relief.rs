//! Relief: how high paint comes to lie.

use super::{brings_nothing, is_blade, lays_nothing, no_hairs};
use crate::chain::{Action, Parameter, Settings, Station};

/// How long oil stays open unless a tool says otherwise, min: about a day and a half (common practice, no source).
pub const OPEN_MIN: f64 = 2000.0;

pub const OWN: &[Parameter] = &[
    Parameter::number(
        "relief.lay_um",
        Station::Relief,
        "Lays at most",
        "µm",
        [0.0, 600.0, 1.0, 55.0],
        "Thickness that a well loaded brush leaves under its hairs; of a blade, its gap over the ground at the lightest touch.",
    )
    .idle(|s| (!is_blade(s)).then(|| lays_nothing(s)).flatten()),
    Parameter::number(
        "relief.reach_um",
        Station::Relief,
        "Paint reaches",
        "µm",
        [10.0, 800.0, 1.0, 165.0],
        "How far under the hairs paint reaches down to the ground: far for closed strokes, little for crowns of the weave alone.",
    )
    .idle(|s| is_blade(s).then(|| lays_nothing(s)).flatten()),
    Parameter::number(
        "relief.hair_um",
        Station::Relief,
        "Hair lines",
        "µm",
        [0.0, 250.0, 1.0, 100.0],
        "Depth of the lines that hairs draw into the paint.",
    )
    .idle(|s| no_hairs(s).or_else(|| (s.action == Action::Cut).then_some("a furrow has no hair lines"))),
    Parameter::number(
        "relief.ride",
        Station::Relief,
        "Rides",
        "",
        [0.0, 1.0, 0.01, 1.0],
        "How far a loaded brush rides on wet paint instead of going through it.",
    )
    .idle(no_hairs),
    Parameter::number(
        "relief.rim",
        Station::Relief,
        "Sides",
        "",
        [0.0, 1.0, 0.01, 0.4],
        "Paint that is squeezed out to the edges of the stroke.",
    )
    .idle(brings_nothing),
    Parameter::number(
        "relief.furrow",
        Station::Relief,
        "Furrow",
        "",
        [0.0, 1.0, 0.01, 0.0],
        "Share of what it cuts off that is pushed to both sides, so that a furrow stays.",
    ),
    Parameter::number(
        "relief.shoulder_mm",
        Station::Relief,
        "Shoulder",
        "mm",
        [0.2, 3.0, 0.05, 0.35],
        "Width of what comes to lie at the sides.",
    )
    .by_ratio()
    .idle(|s| no_sides(s).then_some("nothing goes to the sides")),
    Parameter::number(
        "relief.stand_um_mm",
        Station::Relief,
        "Stands up to",
        "µm/mm",
        [20.0, 2000.0, 10.0, 110.0],
        "The steepest slope at which the paint stays as the brush left it; where it stands steeper it runs a little as the brush lifts. Less with medium in it.",
    )
    .by_ratio(),
    Parameter::number(
        "relief.open_min",
        Station::Relief,
        "Stays open",
        "min",
        [1.0, 10_000.0, 1.0, OPEN_MIN],
        "How long its paint stays wet: oil a day or two, acrylic minutes. What is mixed stays open as long as the slowest in it.",
    )
    .by_ratio()
    .idle(brings_nothing),
];

fn no_sides(s: &Settings<'_>) -> bool {
    let squeezed = s.action == Action::Lay && s.number("relief.rim") > 0.0;
    !squeezed && s.number("relief.furrow") == 0.0
}
