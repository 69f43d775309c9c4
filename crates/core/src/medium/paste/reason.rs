//! Why a stroke of paste is as it is: what of the closed film that its brush could lay is there.

use super::parameters::is_blade;
use crate::chain::{Action, Quality, Settings, Station};
use crate::medium::{Cause, Told};

/// The factors of a mark: contact × flow × how full the brush is.
pub fn causes(tool: &Settings<'_>, told: &Told<'_>) -> Vec<Cause> {
    let contact = told.value("contact");
    let tip = if is_blade(tool) { "blade" } else { "brush" };
    vec![
        Cause::plain(Station::Ground, format!("ground, {:.0} % reached", 100.0 * contact), contact)
            .mended_by("relief.reach_um"),
        Cause::of_quality(Quality::Flow, "flow", told.qualities.get(Quality::Flow)),
        Cause::plain(
            Station::Load,
            format!("{tip}, {:.0} % full", 100.0 * told.value("paint_left")),
            told.value("paint_left"),
        )
        .mended_by("load.ml"),
    ]
}

/// What the mark is like.
pub fn headline(tool: &Settings<'_>, told: &Told<'_>) -> String {
    let contact = 100.0 * told.value("contact");
    let closed = match contact {
        c if c < 2.0 => "hardly touches",
        c if c < 40.0 => "dry, on the crowns",
        c if c < 85.0 => "broken",
        _ => "closed",
    };
    let (laid, taken) = (told.value("laid_um"), told.value("taken_um"));
    match tool.action {
        Action::Lay => format!("{closed}: lays {laid:.0} µm, takes up {taken:.0} µm."),
        Action::Blend => format!("{closed}: moves {taken:.0} µm."),
        _ => format!("{closed}: takes off {taken:.0} µm."),
    }
}
