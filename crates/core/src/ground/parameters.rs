//! How a tool meets the tooth, read by [`super::Feel::of`]: declared once for every medium.

use crate::chain::{Parameter, Quality, Station};

pub const TOOTH: Parameter = Parameter::number(
    "ground.tooth",
    Station::Ground,
    "Tooth",
    "×",
    [0.0, 3.0, 0.01, 1.0],
    "Depth of the tooth as this tool meets it: 1 is the paper as it is.",
)
.driven_as(Quality::Tooth);
pub const SCALE: Parameter = Parameter::number(
    "ground.scale",
    Station::Ground,
    "Scale",
    "×",
    [0.25, 4.0, 0.01, 1.0],
    "Size of the tooth: 2 makes every hollow twice as wide.",
)
.by_ratio();
pub const SWAP: Parameter = Parameter::switch(
    "ground.swap",
    Station::Ground,
    "Swap peaks and hollows",
    false,
    "Meets the hollows where the peaks were: fills the opposite of what an unswapped pass fills.",
);
pub const FOLLOW: Parameter = Parameter::number(
    "ground.follow",
    Station::Ground,
    "Follow",
    "",
    [0.0, 1.0, 0.01, 0.0],
    "How much the tip follows the paper's swells instead of bridging them. A corner follows, a long side bridges.",
);
pub const FOLLOW_OVER: Parameter = Parameter::number(
    "ground.follow_mm",
    Station::Ground,
    "Follow over",
    "mm",
    [0.2, 1.6, 0.05, 0.8],
    "Length of the swells that the tip can follow.",
);
