//! Touch: what the hand's force becomes.

use super::{film, forceless, lays, spray};
use crate::chain::choice::choices;
use crate::chain::{Parameter, Station};
use crate::touch::parameters::{FLOW, FORCE, OPACITY};

choices! {
    /// What overlapping dabs of one stroke do.
    pub enum Overlap {
        Builds = "builds", "builds";
        Even = "even", "even";
    }
}

pub const OWN: &[Parameter] = &[
    FORCE.idle(|s| spray(s).or_else(|| forceless(s))),
    FLOW,
    OPACITY.idle(|s| (!lays(s)).then_some("this tool lays no film")),
    Parameter::choice::<Overlap>(
        "touch.build",
        Station::Touch,
        "Overlap",
        "builds",
        "Whether overlapping dabs of one stroke accumulate, or the stroke stays one even film.",
    )
    .idle(|s| (!lays(s)).then_some("this tool lays no film").or_else(|| film(s))),
];
