//! Mix: what moves powder that lies there.

use super::number;
use crate::tool::parameter::{Parameter, Station};

pub(super) const PARAMETERS: &[Parameter] = &[
    number(
        "mix.pickup_mm",
        Station::Mix,
        "Pickup over",
        "mm",
        [0.1, 50.0, 0.1, 3.5],
        true,
        None,
        "Travel over which full contact picks up most (63 %) of what lies loose; for fixative, over which most is fixed.",
    ),
    number(
        "mix.pickup_held",
        Station::Mix,
        "Pickup of held powder",
        "×",
        [0.0, 1.0, 0.01, 0.12],
        false,
        None,
        "How readily powder that the paper holds is picked up, over what lies loose.",
    ),
    number(
        "mix.release_mm",
        Station::Mix,
        "Release over",
        "mm",
        [0.2, 500.0, 0.1, 7.0],
        true,
        None,
        "Travel over which most of what was picked up is released to tooth that has room.",
    ),
    number(
        "mix.holds_mm3",
        Station::Mix,
        "Holds",
        "mm³",
        [0.01, 50.0, 0.01, 2.0],
        true,
        None,
        "Powder that the tool can hold; the fuller it is, the less it takes.",
    ),
    number(
        "mix.wear_um_mm",
        Station::Mix,
        "Wears the tooth",
        "µm/mm",
        [0.0, 5.0, 0.01, 0.05],
        false,
        None,
        "How much of the tooth full contact rubs off for each mm of travel.",
    ),
];
