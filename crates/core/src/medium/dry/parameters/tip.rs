//! Tip: the outline that a dry tool presses on, and the side of a stick that lies down.

use super::{forceless, lays_film, spray};
use crate::chain::{Parameter, Quality, Station};
use crate::tip::Shape;
use crate::tip::parameters as shared;

pub const OUTLINE: &[Parameter] = &[
    shared::SHAPE,
    shared::WIDTH,
    shared::ASPECT,
    shared::ANGLE,
    shared::TURNED_BY,
    shared::HARDNESS,
    shared::SIDE,
    Parameter::number("tip.bite", Station::Tip, "Bite of its end", "", [0.0, 1.0, 0.01, 0.0], "How much harder a side that lies down presses at the end its point is on than where it rises to the hand: that border of the stroke is dark, and fades across. 0: as hard all along.").idle(|s| {
        let upright = s.number("tip.side_mm") == 0.0 && !s.is_driven(Quality::Side);
        upright.then_some("no side lies down").or_else(|| spray(s)).or_else(|| forceless(s))
    }),
];

pub const COUNT: &[Parameter] = &[shared::COUNT.idle(|s| {
    let still = s.number("tip.scatter_mm") == 0.0
        && s.number("tip.scatter_along_mm") == 0.0
        && s.chosen::<Shape>("tip.shape") != Shape::Speckled
        && !s.is_driven(Quality::Scatter)
        && !s.is_driven(Quality::ScatterAlong);
    (lays_film(s) && still).then_some("a film in one place is one film")
})];
