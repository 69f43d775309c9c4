//! Why a dry mark is as it is. The mark is the share of a closed, full layer that a dab works towards: covered × flow × opacity ×
//! (1 − full); for a tool that the ground enters as an image, what of it is laid in the place of covered.

use super::entry::Entry;
use super::parameters::entry;
use crate::chain::{Action, Quality, Settings, Station};
use crate::medium::{Cause, Told};
use crate::said::Said;

/// Loads below this touch nothing.
const LEAST_LOAD: f64 = 1e-9;

/// Share of the footprint that the tool reaches.
fn reached(entry: Entry, told: &Told<'_>) -> f64 {
    told.value(if entry == Entry::Contact { "covered" } else { "contact" })
}

/// The factors of a mark.
pub fn causes(tool: &Settings<'_>, told: &Told<'_>) -> Vec<Cause> {
    let entry = entry(tool);
    let reached = reached(entry, told);
    let mut out = Vec::new();
    // Beyond a load of 1 the tooth is closed: more force adds nothing.
    let closed = |load: f64| load.clamp(LEAST_LOAD, 1.0);
    let load = match entry {
        // It lays the same whatever the force.
        Entry::Multiplied => 1.0,
        _ => {
            let (load, full) = (closed(told.value("load")), closed(told.value("full_load")));
            out.push(Cause::of_most(Quality::Force, "force", load / full));
            out.push(
                Cause::plain(
                    Station::Tip,
                    Said::new("spread over {{area}} mm²").count("area", told.area_mm2, 1),
                    full,
                )
                .mended_by("tip.width_mm"),
            );
            load
        }
    };
    let (ground, much) = match entry {
        Entry::Contact => ("tooth", "{{share}} % touched"),
        _ => ("ground as an image", "{{share}} % laid"),
    };
    out.push(
        Cause::plain(Station::Ground, ground, reached / load)
            .so_much(Said::new(much).count("share", 100.0 * reached, 0))
            .mended_by("ground.tooth"),
    );
    out.push(Cause::of_quality(Quality::Flow, "flow", told.qualities.get(Quality::Flow)));
    if tool.action == Action::Lay {
        out.push(Cause::of_quality(Quality::Opacity, "opacity", told.qualities.get(Quality::Opacity)));
    }
    let full = told.value("full");
    out.push(
        Cause::plain(
            Station::Load,
            Said::new("tooth already {{share}} % full").count("share", 100.0 * full, 0),
            1.0 - full,
        )
        .mended_by("load.give_um"),
    );
    out
}

/// What the mark is like.
pub fn headline(tool: &Settings<'_>, told: &Told<'_>) -> Said {
    let covered = 100.0 * reached(entry(tool), told);
    let tone = match covered {
        c if c < 1.0 => "hardly touches",
        c if c < 30.0 => "light",
        c if c < 70.0 => "broken",
        _ => "closed",
    };
    match tool.action {
        Action::Lay => {
            Said::new("{{tone}}, covers {{covered}} %.").phrase("tone", tone).count("covered", covered, 0)
        }
        Action::Fix => "sprayed.".into(),
        // Powder knows no action that drives off.
        Action::Blend | Action::Lift | Action::Cut | Action::Repel => {
            let taken = told.value("pickup_um_per_mm") * told.travel_mm;
            Said::new("reaches {{covered}} % of the tooth, picks up {{taken}} µm.")
                .count("covered", covered, 0)
                .count("taken", taken, 2)
        }
    }
}
