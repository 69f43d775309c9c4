//! Mix: what goes from the tip to the sheet, and from the sheet to the tip.

use super::{brings_nothing, drinks_nothing, drops, works_no_water};
use crate::chain::{Parameter, Quality, Settings, Station};

/// Neither does it drink, nor do its water and the sheet's change places.
fn takes_no_paint(s: &Settings<'_>) -> bool {
    drinks_nothing(s) && (s.number("mix.mingles") == 0.0 || drops(s).is_some())
}

pub const OWN: &[Parameter] = &[
    Parameter::number(
        "mix.gives",
        Station::Mix,
        "Gives at a touch",
        "",
        [0.01, 1.0, 0.01, 0.6],
        "Share of the water that is missing under the tip which one touch gives.",
    )
    .idle(brings_nothing),
    Parameter::number(
        "mix.mingles",
        Station::Mix,
        "Mingles at a touch",
        "",
        [0.0, 0.5, 0.005, 0.06],
        "Share of the water under the tip that one touch changes for what the tip holds: colour goes into a film that wants no more water, and the brush gets dirty. 0 keeps both as they are.",
    )
    .idle(|s| brings_nothing(s).or_else(|| drops(s))),
    Parameter::number(
        "mix.drink",
        Station::Mix,
        "Drinks",
        "",
        [0.0, 1.0, 0.01, 0.0],
        "Share of the water over what it would leave that the tip takes at a touch, with the paint that swims in it: a thirsty brush.",
    )
    .driven_as(Quality::Pickup)
    .idle(works_no_water),
    Parameter::number(
        "mix.gives_back",
        Station::Mix,
        "Gives back",
        "",
        [0.0, 1.0, 0.01, 0.0],
        "How much of the paint that it took up goes back with its water: 0 it stays between the hairs, 1 the water is as dirty on the sheet as in the brush.",
    )
    .idle(|s| brings_nothing(s).or_else(|| takes_no_paint(s).then_some("it takes up no paint"))),
    Parameter::number(
        "mix.loosen",
        Station::Mix,
        "Loosens",
        "",
        [0.0, 1.0, 0.01, 0.05],
        "How far it rubs settled paint loose where it is wet: staining colours give little.",
    )
    .idle(works_no_water),
];
