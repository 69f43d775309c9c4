//! What a wet brush can be tuned in: a file a station, each parameter with the reason why it may have no effect.

mod load;
mod mix;
mod tip;

pub use tip::{Form, halves, has_hairs, held_mm3};

use load::{Brings, Drives};

use crate::chain::{Action, Parameter, Parameters, Quality, Settings, Station};
use crate::touch::parameters as touch;

/// All parameters of watercolour, in the order in which its stations show them.
pub const PARAMETERS: Parameters =
    Parameters(&[TOUCH, touch::STEADYING, tip::OWN, load::OWN, mix::OWN, GROUND]);

const TOUCH: &[Parameter] = &[
    Parameter::number(
        "touch.force_gf",
        Station::Touch,
        "Force on the sheet",
        "gf",
        [0.0, 1500.0, 0.1, 2.0],
        "How hard the brush is pressed on the paper. Usually a response to pressure gives it; this is the force without one.",
    )
    .driven_as(Quality::Force)
    .idle(|s| (!has_hairs(s)).then_some("it is as large however hard it is pressed")),
    Parameter::number(
        "touch.flow",
        Station::Touch,
        "Flow",
        "×",
        [0.0, 2.0, 0.01, 1.0],
        "How readily water leaves the brush where it touches.",
    )
    .driven_as(Quality::Flow)
    .idle(brings_nothing),
];

const GROUND: &[Parameter] = &[
    Parameter::number(
        "ground.reach",
        Station::Ground,
        "Reaches into the tooth",
        "×",
        [0.0, 2.0, 0.01, 1.8],
        "How far down the tooth the water gets: 2 floods every pit, 1 leaves the deepest dry, below 0.5 only the crowns are met, as by a dry brush.",
    )
    .driven_as(Quality::Reach)
    .idle(rubs),
    Parameter::number(
        "ground.hair_lines",
        Station::Ground,
        "Hairs part",
        "",
        [0.0, 1.0, 0.01, 0.1],
        "How differently single hairs reach: 0 a closed wash, 1 separate lines.",
    )
    .idle(|s| rubs(s).or_else(|| drops(s)).or_else(|| floods(s))),
];

/// From here on every pit is flooded, however the hairs part; a brush that runs out gets there no longer.
pub const FLOODS: f64 = 1.7;

fn floods(s: &Settings<'_>) -> Reason {
    let full = s.action == Action::Lift || stuff(s) != Stuff::Water || s.switch("load.endless");
    let all = full && s.number("ground.reach") >= FLOODS && !s.is_driven(Quality::Reach);
    all.then_some("every pit is flooded")
}

/// It takes up no water.
fn drinks_nothing(s: &Settings<'_>) -> bool {
    s.number("mix.drink") == 0.0 && !s.is_driven(Quality::Pickup)
}

type Reason = Option<&'static str>;

/// What a tool works with.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Stuff {
    /// Water, with paint in it or without.
    Water,
    Mask,
    Salt,
    Spirit,
}

/// What a tool works with: all but those that lay masking fluid or drive off, with water.
pub fn stuff(s: &Settings<'_>) -> Stuff {
    match s.action {
        Action::Lay if s.chosen::<Brings>("load.brings") == Brings::Mask => Stuff::Mask,
        Action::Repel => match s.chosen("load.drives") {
            Drives::Salt => Stuff::Salt,
            Drives::Spirit => Stuff::Spirit,
        },
        _ => Stuff::Water,
    }
}

/// It lays what is no water, or rubs.
fn works_no_water(s: &Settings<'_>) -> Reason {
    match stuff(s) {
        _ if s.action == Action::Cut => Some("it rubs off masking fluid, and nothing else"),
        Stuff::Water => None,
        Stuff::Mask => Some("masking fluid is no water"),
        Stuff::Salt => Some("salt is no water"),
        Stuff::Spirit => Some("spirit is counted in drops, not as water"),
    }
}

fn brings_nothing(s: &Settings<'_>) -> Reason {
    let lifts = (s.action == Action::Lift).then_some("this tool brings nothing");
    lifts.or_else(|| works_no_water(s))
}

fn brings_no_paint(s: &Settings<'_>) -> Reason {
    brings_nothing(s).or_else(|| (s.action != Action::Lay).then_some("this tool brings clear water"))
}

fn drops(s: &Settings<'_>) -> Reason {
    (s.chosen::<Form>("tip.form") == Form::Drops).then_some("a drop has no hairs")
}

/// What rubs meets all of the tooth.
fn rubs(s: &Settings<'_>) -> Reason {
    (s.action == Action::Cut).then_some("what rubs goes over all of the tooth")
}
