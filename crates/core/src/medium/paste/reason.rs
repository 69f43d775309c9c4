//! Why a stroke of paste is as it is: what of the closed film that its brush could lay is there.

use super::parameters::is_blade;
use crate::chain::{Action, Quality, Settings, Station};
use crate::medium::{Cause, Told};
use crate::said::Said;

/// The factors of a mark: contact × flow × how full the brush is.
pub fn causes(tool: &Settings<'_>, told: &Told<'_>) -> Vec<Cause> {
    let contact = told.value("contact");
    let left = told.value("paint_left");
    let tip = if is_blade(tool) { "blade" } else { "brush" };
    vec![
        Cause::plain(Station::Ground, "ground", contact)
            .so_much(Said::new("{{share}} % reached").count("share", 100.0 * contact, 0))
            .mended_by("relief.reach_um"),
        Cause::of_quality(Quality::Flow, "flow", told.qualities.get(Quality::Flow)),
        Cause::plain(Station::Load, tip, left)
            .so_much(Said::new("{{share}} % full").count("share", 100.0 * left, 0))
            .mended_by("load.ml"),
    ]
}

/// What the mark is like.
pub fn headline(tool: &Settings<'_>, told: &Told<'_>) -> Said {
    let contact = 100.0 * told.value("contact");
    let closed = match contact {
        c if c < 2.0 => "hardly touches",
        c if c < 40.0 => "dry, on the crowns",
        c if c < 85.0 => "broken",
        _ => "closed",
    };
    let (laid, taken) = (told.value("laid_um"), told.value("taken_um"));
    let said = |text| Said::new(text).phrase("closed", closed).count("taken", taken, 0);
    match tool.action {
        Action::Lay => said("{{closed}}: lays {{laid}} µm, takes up {{taken}} µm.").count("laid", laid, 0),
        Action::Blend => said("{{closed}}: moves {{taken}} µm."),
        _ => said("{{closed}}: takes off {{taken}} µm."),
    }
}
