//! Why a wet touch is as it is: what of the water or ink that the tip could leave is there.

use crate::chain::{Action, Quality, Settings, Station};
use crate::medium::{Cause, Told};
use crate::said::Said;

/// What the painter of such a tool calls its tip, and what it brings.
#[derive(Debug, Clone, Copy)]
pub struct Called {
    pub tip: &'static str,
    /// How much of it is left in the tip: `{{share}}`, in %.
    pub left: &'static str,
    /// What a touch brings, or drinks; `{{closed}}`, and `{{water}}` in µm.
    pub brings: &'static str,
    pub brings_none: &'static str,
    pub drinks: &'static str,
}

/// The factors of a touch: tooth reached × flow × how full the tip is × what comes in time. `called`: as its painter calls them.
pub fn causes(tool: &Settings<'_>, told: &Told<'_>, called: Called) -> Vec<Cause> {
    let touched = told.value("touched");
    let mut out = vec![
        Cause::plain(Station::Ground, "tooth", touched)
            .so_much(Said::new("{{share}} % reached").count("share", 100.0 * touched, 0))
            .mended_by("ground.reach"),
    ];
    if brings(tool) {
        out.push(Cause::of_quality(Quality::Flow, "flow", told.qualities.get(Quality::Flow)));
        let left = told.value("water_left");
        out.push(
            Cause::plain(Station::Load, called.tip, left)
                .so_much(Said::new(called.left).count("share", 100.0 * left, 0))
                .mended_by("load.ml"),
        );
        let fed = told.value("fed");
        if fed < 1.0 {
            let much = Said::new("{{share}} % of the ink comes in time").count("share", 100.0 * fed, 0);
            out.push(Cause::plain(Station::Load, "slit", fed).so_much(much).mended_by("load.feeds_mm3_s"));
        }
    }
    out
}

/// Whether what it does is to bring water or ink.
fn brings(tool: &Settings<'_>) -> bool {
    matches!(tool.action, Action::Lay | Action::Blend)
}

/// What the touch is like.
pub fn headline(tool: &Settings<'_>, told: &Told<'_>, called: Called) -> Said {
    let touched = 100.0 * told.value("touched");
    let closed = match touched {
        t if t < 2.0 => "hardly touches",
        t if t < 40.0 => "dry, on the crowns",
        t if t < 90.0 => "broken",
        _ => "closed",
    };
    let (given, taken) = (told.value("water_um"), told.value("drunk_um"));
    let said = |text| Said::new(text).phrase("closed", closed);
    match tool.action {
        Action::Lay if given == 0.0 => said(called.brings_none),
        Action::Lay | Action::Blend => said(called.brings).count("water", given, 0),
        Action::Repel => said("{{closed}}: drives off what is wet."),
        Action::Cut => "rubs off masking fluid.".into(),
        _ => said(called.drinks).count("water", taken, 0),
    }
}
