//! Mix: what goes from the brush to the sheet and back.

use super::{at_once, brings_nothing, lays_nothing};
use crate::chain::{Action, Parameter, Quality, Settings, Station};

pub const OWN: &[Parameter] = &[
    Parameter::number(
        "mix.give_mm",
        Station::Mix,
        "Gives over",
        "mm",
        [0.1, 20.0, 0.05, 0.2],
        "Length of contact over which a hair lays most of what it can.",
    )
    .by_ratio()
    .idle(|s| at_once(s).or_else(|| lays_nothing(s))),
    Parameter::number(
        "mix.feed_mm",
        Station::Mix,
        "Feeds over",
        "mm",
        [1.0, 40.0, 0.1, 5.0],
        "Way over which paint comes from the belly of the brush to the outside of its hairs.",
    )
    .by_ratio()
    .idle(brings_nothing),
    Parameter::number(
        "mix.pickup",
        Station::Mix,
        "Takes up",
        "",
        [0.0, 1.0, 0.01, 0.25],
        "How much of the wet paint that they meet goes into the hairs.",
    )
    .driven_as(Quality::Pickup)
    .idle(|s| at_once(s).or_else(|| cuts(s))),
    Parameter::number(
        "mix.carry_mm",
        Station::Mix,
        "Carries over",
        "mm",
        [1.0, 200.0, 0.5, 30.0],
        "How far found paint stays on the outside of the hairs before it goes into the belly.",
    )
    .by_ratio()
    .driven_as(Quality::Carry)
    .idle(|s| {
        let none = s.number("mix.pickup") == 0.0 && !s.is_driven(Quality::Pickup);
        at_once(s)
            .or_else(|| cuts(s))
            .or_else(|| (s.action == Action::Lift).then_some("it keeps what it takes up"))
            .or_else(|| none.then_some("nothing is taken up"))
    }),
    Parameter::number(
        "mix.drag",
        Station::Mix,
        "Drags along",
        "",
        [0.0, 1.0, 0.01, 0.5],
        "How readily wet paint is ploughed along.",
    )
    .driven_as(Quality::Drag)
    .idle(|s| at_once(s).or_else(|| cuts(s))),
    Parameter::number(
        "mix.own",
        Station::Mix,
        "Own colour",
        "",
        [0.0, 1.0, 0.01, 0.5],
        "Share of own against found paint in what is given: 1 only its own, 0 only what it found.",
    )
    .driven_as(Quality::Own)
    .idle(|s| {
        at_once(s)
            .or_else(|| lays_nothing(s))
            .or_else(|| (s.action != Action::Lay).then_some("it has no colour of its own"))
    }),
    Parameter::number(
        "mix.cut",
        Station::Mix,
        "Cuts in",
        "",
        [0.0, 1.0, 0.01, 0.35],
        "How far a firm tip goes through what lies there, and flattens it.",
    )
    .driven_as(Quality::Cut)
    .idle(at_once),
];

fn cuts(s: &Settings<'_>) -> Option<&'static str> {
    (s.action == Action::Cut).then_some("it pushes aside what it meets")
}
