//! What a brush with paint can be tuned in: a file a station, each parameter with the reason why it may have no effect.

mod load;
mod mix;
mod relief;
mod tip;

pub use load::{Order, Wash};
pub use relief::OPEN_MIN;
pub use tip::{Ferrule, Outline, halves, is_blade, no_hairs, outline};

use crate::chain::{Action, Parameter, Parameters, Quality, Settings, Station};
use crate::ground::parameters as ground;
use crate::touch::parameters as touch;

/// All parameters of paste, in the order in which its stations show them.
pub const PARAMETERS: Parameters =
    Parameters(&[TOUCH, touch::STEADYING, tip::OWN, load::OWN, mix::OWN, GROUND, relief::OWN]);

const TOUCH: &[Parameter] = &[
    Parameter::number(
        "touch.force_gf",
        Station::Touch,
        "Force on the sheet",
        "gf",
        [0.0, 1500.0, 0.1, 20.0],
        "How hard the brush is pressed on the ground. Usually a response to pressure gives it; this is the force without one.",
    )
    .driven_as(Quality::Force),
    Parameter::number(
        "touch.flow",
        Station::Touch,
        "Flow",
        "×",
        [0.0, 2.0, 0.01, 1.0],
        "How much of what it would lay a brush lays.",
    )
    .driven_as(Quality::Flow)
    .idle(|s| lays_nothing(s).or_else(|| is_blade(s).then_some("a blade leaves what is under it"))),
];

const GROUND: &[Parameter] = &[
    // A brush meets one depth of tooth in a whole stroke: no response drives it.
    Parameter { quality: None, ..ground::TOOTH },
    ground::SCALE,
    ground::SWAP,
    ground::FOLLOW,
    ground::FOLLOW_OVER.idle(|s| (s.number("ground.follow") == 0.0).then_some("nothing is followed")),
];

/// Of a blade: it does it all at once.
fn at_once(s: &Settings<'_>) -> Reason {
    is_blade(s).then_some("a blade takes all that it meets, and gives it as it comes")
}

type Reason = Option<&'static str>;

fn lays_nothing(s: &Settings<'_>) -> Reason {
    matches!(s.action, Action::Lift | Action::Cut).then_some("this tool lays nothing")
}

fn brings_nothing(s: &Settings<'_>) -> Reason {
    (s.action != Action::Lay).then_some("this tool brings no paint")
}
