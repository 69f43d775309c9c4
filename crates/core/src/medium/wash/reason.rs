//! Why a wet touch is as it is: what of the water or ink that the tip could leave is there.

use crate::chain::{Action, Quality, Settings, Station};
use crate::medium::{Cause, Told};

/// The factors of a touch: tooth reached × flow × how full the tip is × what comes in time. `tip`, `liquid`: as its painter calls them.
pub fn causes(tool: &Settings<'_>, told: &Told<'_>, [tip, liquid]: [&str; 2]) -> Vec<Cause> {
    let touched = told.value("touched");
    let mut out = vec![
        Cause::plain(Station::Ground, format!("tooth, {:.0} % reached", 100.0 * touched), touched)
            .mended_by("ground.reach"),
    ];
    if brings(tool) {
        out.push(Cause::of_quality(Quality::Flow, "flow", told.qualities.get(Quality::Flow)));
        let left = told.value("water_left");
        out.push(
            Cause::plain(Station::Load, format!("{tip}, {:.0} % of its {liquid} left", 100.0 * left), left)
                .mended_by("load.ml"),
        );
        let fed = told.value("fed");
        if fed < 1.0 {
            let what = format!("slit, {:.0} % of the ink comes in time", 100.0 * fed);
            out.push(Cause::plain(Station::Load, what, fed).mended_by("load.feeds_mm3_s"));
        }
    }
    out
}

/// Whether what it does is to bring water or ink.
fn brings(tool: &Settings<'_>) -> bool {
    matches!(tool.action, Action::Lay | Action::Blend)
}

/// What the touch is like.
pub fn headline(tool: &Settings<'_>, told: &Told<'_>) -> String {
    let touched = 100.0 * told.value("touched");
    let closed = match touched {
        t if t < 2.0 => "hardly touches",
        t if t < 40.0 => "dry, on the crowns",
        t if t < 90.0 => "broken",
        _ => "closed",
    };
    let (given, taken) = (told.value("water_um"), told.value("drunk_um"));
    match tool.action {
        Action::Lay if given == 0.0 => format!("{closed}: brings no water."),
        Action::Lay | Action::Blend => format!("{closed}: brings {given:.0} µm of water."),
        Action::Repel => format!("{closed}: drives off what is wet."),
        Action::Cut => "rubs off masking fluid.".to_owned(),
        _ => format!("{closed}: drinks {taken:.0} µm of water."),
    }
}
