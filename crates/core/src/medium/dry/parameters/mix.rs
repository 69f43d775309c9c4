//! Mix: what a tool that moves powder takes, holds and gives back.

use super::{Reason, lays};
use crate::chain::{Action, Parameter, Settings, Station};

pub const OWN: &[Parameter] = &[
    Parameter::number("mix.pickup_mm", Station::Mix, "Pickup over", "mm", [0.1, 50.0, 0.1, 3.5], "Travel over which full contact picks up most (63 %) of what lies loose; for fixative, over which most is fixed.").by_ratio().idle(only_lays),
    Parameter::number("mix.pickup_held", Station::Mix, "Pickup of held powder", "×", [0.0, 1.0, 0.01, 0.12], "How readily powder that the paper holds is picked up, over what lies loose.").idle(|s| only_lays(s).or_else(|| (s.action == Action::Fix).then_some("nothing is picked up"))),
    Parameter::number("mix.release_mm", Station::Mix, "Release over", "mm", [0.2, 500.0, 0.1, 7.0], "Travel over which most of what was picked up is released to tooth that has room.").by_ratio().idle(|s| only_lays(s).or_else(|| (s.action != Action::Blend).then_some("what is picked up is not released"))),
    Parameter::number("mix.holds_mm3", Station::Mix, "Holds", "mm³", [0.01, 50.0, 0.01, 2.0], "Powder that the tool can hold; the fuller it is, the less it takes.").by_ratio().idle(|s| only_lays(s).or_else(|| matches!(s.action, Action::Cut | Action::Fix).then_some("nothing is picked up"))),
    Parameter::number("mix.wear_um_mm", Station::Mix, "Wears the tooth", "µm/mm", [0.0, 5.0, 0.01, 0.05], "How much of the tooth full contact rubs off for each mm of travel.").idle(|s| only_lays(s).or_else(|| (s.action != Action::Cut).then_some("only a cutting tool wears the tooth"))),
];

fn only_lays(s: &Settings<'_>) -> Reason {
    lays(s).then_some("a stick only lays")
}
