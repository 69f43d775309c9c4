//! Relief: how high paint comes to lie.

use super::{brings_nothing, lays_nothing};
use crate::chain::{Parameter, Station};

pub const OWN: &[Parameter] = &[
    Parameter::number(
        "relief.lay_um",
        Station::Relief,
        "Lays at most",
        "µm",
        [0.0, 600.0, 1.0, 55.0],
        "Thickness that a well loaded brush leaves under its hairs.",
    )
    .idle(lays_nothing),
    Parameter::number(
        "relief.reach_um",
        Station::Relief,
        "Paint reaches",
        "µm",
        [10.0, 800.0, 1.0, 165.0],
        "How far under the hairs paint reaches down to the ground: far for closed strokes, little for crowns of the weave alone.",
    ),
    Parameter::number(
        "relief.hair_um",
        Station::Relief,
        "Hair lines",
        "µm",
        [0.0, 250.0, 1.0, 100.0],
        "Depth of the lines that hairs draw into the paint.",
    ),
    Parameter::number(
        "relief.ride",
        Station::Relief,
        "Rides",
        "",
        [0.0, 1.0, 0.01, 1.0],
        "How far a loaded brush rides on wet paint instead of going through it.",
    ),
    Parameter::number(
        "relief.rim",
        Station::Relief,
        "Sides",
        "",
        [0.0, 1.0, 0.01, 0.4],
        "Paint that is squeezed out to the edges of the stroke.",
    )
    .idle(brings_nothing),
];
