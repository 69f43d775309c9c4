//! What of the hand's force and way a tool takes: declared once for every medium that has it.

use crate::chain::{Parameter, Quality, Settings, Station};

pub const FORCE: Parameter = Parameter::number("touch.force_gf", Station::Touch, "Force on the sheet", "gf", [0.0, 1500.0, 1.0, 150.0], "How hard the stick is pressed on the ground. Usually a response to pressure gives it; this is the force without one.").driven_as(Quality::Force);
pub const FLOW: Parameter = Parameter::number(
    "touch.flow",
    Station::Touch,
    "Flow",
    "×",
    [0.0, 2.0, 0.01, 1.0],
    "Share of the stick's deposit that one dab lays.",
)
.driven_as(Quality::Flow);
pub const OPACITY: Parameter = Parameter::number(
    "touch.opacity",
    Station::Touch,
    "Opacity",
    "",
    [0.0, 1.0, 0.01, 1.0],
    "Share of the tooth that this stroke may fill, however often it passes.",
)
.driven_as(Quality::Opacity);

/// Steadying of the way, read by [`crate::hand::Steadying::of`].
pub const STEADYING: &[Parameter] = &[
    Parameter::switch(
        "touch.steady",
        Station::Touch,
        "Steadying",
        false,
        "Calms the way of a trembling hand. The tip follows a little behind the pen; the trace tells how far.",
    ),
    Parameter::number(
        "touch.steady_hz",
        Station::Touch,
        "Tremor let through below",
        "Hz",
        [0.1, 20.0, 0.1, 1.5],
        "The slower, the calmer and the farther behind: cutoff of the one-euro filter for a pen at rest.",
    )
    .by_ratio()
    .idle(unsteady),
    Parameter::number(
        "touch.steady_speed",
        Station::Touch,
        "Freed by speed",
        "Hz/(mm/s)",
        [0.0, 2.0, 0.01, 0.1],
        "How much the cutoff rises with the pen's speed, so that fast strokes do not lag.",
    )
    .idle(unsteady),
];

fn unsteady(s: &Settings<'_>) -> Option<&'static str> {
    (!s.switch("touch.steady")).then_some("steadying is off")
}
