//! Load: how much water, and how much paint in it.

use super::{brings_no_paint, brings_nothing, drinks_nothing};
use crate::chain::choice::choices;
use crate::chain::{Action, Parameter, Quality, Settings, Station};

choices! {
    /// What a tip that lays is loaded with.
    pub enum Brings {
        Paint = "paint", "paint in water";
        Mask = "mask", "masking fluid";
    }
}

choices! {
    /// What drives off.
    pub enum Drives {
        Salt = "salt", "salt";
        Spirit = "spirit", "spirit";
    }
}

pub const OWN: &[Parameter] = &[
    Parameter::choice::<Brings>(
        "load.brings",
        Station::Load,
        "Loaded with",
        "paint",
        "Masking fluid keeps paper white, from water and from powder, until it is rubbed off.",
    )
    .idle(|s| (s.action != Action::Lay).then_some("this tool lays nothing")),
    Parameter::choice::<Drives>(
        "load.drives",
        Station::Load,
        "Drives off with",
        "salt",
        "Grains of salt drink and push as long as it is wet; spirit spreads at once and is soon gone.",
    )
    .idle(drives_nothing),
    Parameter::number(
        "load.dose",
        Station::Load,
        "Grain or drop",
        "",
        [0.05, 1.0, 0.01, 0.7],
        "How much of a grain of salt or a drop of spirit acts where it falls.",
    )
    .idle(drives_nothing),
    Parameter::paint(
        "load.paint",
        Station::Load,
        "Paint",
        &[("PB29", 1.0)],
        "What is in the water: pigments by parts.",
    )
    .idle(|s| brings_no_paint(s).or_else(|| clear(s))),
    Parameter::number(
        "load.water_um",
        Station::Load,
        "Water",
        "µm",
        [0.0, 600.0, 1.0, 120.0],
        "How thick it stands on the sheet where a full brush touches: 30 a damp brush, 120 a wash, 500 a drop.",
    )
    .driven_as(Quality::Water)
    .idle(brings_nothing),
    Parameter::number(
        "load.strength",
        Station::Load,
        "Paint to water",
        "",
        [0.0, 0.3, 0.0005, 0.012],
        "Tube paint in as much water: 0.003 weak tea, 0.01 tea, 0.03 coffee, 0.06 milk, 0.12 cream, 0.25 butter; 0 is clear water. Fine strong pigments need a third of what earths need.",
    )
    .driven_as(Quality::Strength)
    .idle(brings_no_paint),
    Parameter::number(
        "load.ml",
        Station::Load,
        "Water in the brush",
        "ml",
        [0.001, 10.0, 0.001, 0.5],
        "What its hairs cannot hold is not taken.",
    )
    .by_ratio()
    .idle(|s| {
        let endless = s.switch("load.endless") && drinks_nothing(s);
        brings_nothing(s).or_else(|| endless.then_some("it never runs out"))
    }),
    Parameter::switch("load.endless", Station::Load, "Endless", false, "The brush gives and never runs out.")
        .idle(brings_nothing),
    Parameter::number(
        "load.uneven_water",
        Station::Load,
        "Uneven water",
        "",
        [0.0, 1.0, 0.01, 0.15],
        "How differently single hairs are loaded with water.",
    )
    .idle(brings_nothing),
    Parameter::number(
        "load.uneven",
        Station::Load,
        "Uneven paint",
        "",
        [0.0, 1.0, 0.01, 0.1],
        "How differently strong the paint in single hairs is.",
    )
    .idle(|s| brings_no_paint(s).or_else(|| clear(s))),
];

/// Of clear water.
fn clear(s: &Settings<'_>) -> super::Reason {
    let none = s.number("load.strength") == 0.0 && !s.is_driven(Quality::Strength);
    none.then_some("there is no paint in the water")
}

fn drives_nothing(s: &Settings<'_>) -> super::Reason {
    (s.action != Action::Repel).then_some("this tool drives nothing off")
}
