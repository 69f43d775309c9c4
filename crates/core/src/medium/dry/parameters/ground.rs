//! Ground: how a dry tool meets the tooth.

use super::{Reason, entry, image, lays, spray};
use crate::chain::{Parameter, Quality, Settings, Station};
use crate::ground::parameters as shared;
use crate::medium::dry::entry::Entry;

pub const OWN: &[Parameter] = &[
    Parameter::choice::<Entry>(
        "ground.enters",
        Station::Ground,
        "Ground enters",
        "contact",
        "Sticks meet the tooth by contact; tools that are more like images are textured by it.",
    )
    .idle(|s| (!lays(s)).then_some("only a tool that lays can be textured")),
    Parameter::number(
        "ground.depth",
        Station::Ground,
        "Depth",
        "",
        [0.0, 1.0, 0.01, 1.0],
        "How far an image-like entry takes away in the hollows: 0 not at all.",
    )
    .driven_as(Quality::Depth)
    .idle(by_contact),
    Parameter::number(
        "ground.least",
        Station::Ground,
        "Least laid",
        "",
        [0.0, 1.0, 0.01, 0.0],
        "Share that the deepest hollows still get.",
    )
    .driven_as(Quality::LeastDepth)
    .idle(|s| by_contact(s).or_else(|| deep_enough(s))),
    shared::TOOTH.idle(|s| spray(s).or_else(|| image(s))),
    shared::SCALE.idle(|s| spray(s).or_else(|| toothless(s))),
    shared::SWAP.idle(|s| spray(s).or_else(|| toothless(s))),
    shared::FOLLOW.idle(|s| spray(s).or_else(|| toothless(s))),
    shared::FOLLOW_OVER
        .idle(|s| spray(s).or_else(|| (s.number("ground.follow") == 0.0).then_some("nothing is followed"))),
];

fn by_contact(s: &Settings<'_>) -> Reason {
    (entry(s) == Entry::Contact).then_some("the ground enters by contact")
}

/// Depth leaves more than the least by itself.
fn deep_enough(s: &Settings<'_>) -> Reason {
    let leaves = s.number("ground.least") < 1.0 - s.number("ground.depth");
    let still = !s.is_driven(Quality::Depth) && !s.is_driven(Quality::LeastDepth);
    (entry(s) != Entry::Subtracted && leaves && still).then_some("the depth leaves more than that")
}

fn toothless(s: &Settings<'_>) -> Reason {
    let flat = s.number("ground.tooth") == 0.0 && !s.is_driven(Quality::Tooth);
    (flat && entry(s) == Entry::Contact).then_some("the tooth has no depth")
}
