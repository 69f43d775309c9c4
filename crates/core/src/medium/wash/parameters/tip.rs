//! Tip: a brush by its hairs, a sponge, or drops.

use crate::chain::choice::choices;
use crate::chain::{Action, Choice, Parameter, Quality, Settings, Station};
use crate::tip::TurnedBy;
use crate::tip::hair::{self, Hair};

choices! {
    /// What touches the sheet.
    pub enum Form {
        Round = "round", "round";
        Mop = "mop", "mop: round, full";
        Flat = "flat", "flat";
        Rigger = "rigger", "rigger: round, long";
        Sponge = "sponge", "sponge";
        Drops = "drops", "drops: shaken off";
    }
}

pub const OWN: &[Parameter] = &[
    Parameter::choice::<Form>("tip.form", Station::Tip, "Form", "round", "What touches the sheet: the outline of the hairs, a sponge, or drops shaken off a brush."),
    Parameter::choice::<Hair>("tip.hair", Station::Tip, "Hair", "sable", "What the hairs are made of. Their diameter, stiffness and ends can be taken as this kind's own; how much they hold is.").idle(|s| no_hairs(s).or_else(|| holds_enough(s))),
    Parameter::number("tip.width_mm", Station::Tip, "Width", "mm", [0.1, 60.0, 0.1, 8.0], "Width of the ferrule, or diameter of a round one; of a sponge, its face; of drops, the field they fall on.").by_ratio(),
    Parameter::number("tip.thick_mm", Station::Tip, "Thickness", "mm", [0.5, 20.0, 0.1, 4.0], "Thickness of a flat across its width.").by_ratio().idle(|s| (s.chosen::<Form>("tip.form") != Form::Flat).then_some("it is as thick as it is wide")),
    Parameter::number("tip.angle_deg", Station::Tip, "Angle", "°", [0.0, 360.0, 1.0, 90.0], "Direction of the width on the sheet, from the right, clockwise. A response to lean, barrel or heading adds to it.").driven_as(Quality::Angle).idle(turned_the_same),
    Parameter::choice::<TurnedBy>("tip.angle_from", Station::Tip, "Turned by", "bearing", "What turns the ferrule; the angle is added.").idle(turned_the_same),
    Parameter::number("tip.hair_length_mm", Station::Tip, "Free length", "mm", [4.0, 60.0, 0.5, 25.0], "How far the hairs stand out of the ferrule.").by_ratio().idle(no_hairs),
    Parameter::number("tip.hair_mm", Station::Tip, "Hair diameter", "mm", [0.04, 0.3, 0.01, 0.08], "A hair twice as thick is 16 times as stiff.").by_ratio().idle(no_hairs),
    Parameter::number("tip.hair_gpa", Station::Tip, "Stiffness of the hair", "GPa", [0.2, 8.0, 0.1, 1.8], "Young's modulus, wet.").by_ratio().idle(no_hairs),
    Parameter::number("tip.hair_count", Station::Tip, "Hairs", "", [6.0, 6000.0, 1.0, 1800.0], "Hairs that share the pen's force: a full soft brush has thousands.").by_ratio().idle(no_hairs),
    Parameter::number("tip.ends", Station::Tip, "Ends", "", [0.0, 1.0, 0.01, 0.25], "How unevenly long the hairs are: 0 cut even, 1 worn and split.").idle(no_hairs),
    Parameter::number("tip.splay", Station::Tip, "Splay", "×", [0.0, 2.0, 0.05, 1.0], "How far hairs spread as they are pressed.").idle(no_hairs),
    Parameter::number("tip.drop_mm", Station::Tip, "Drops", "mm", [0.2, 12.0, 0.1, 1.5], "Diameter of the largest drops; most are smaller.").by_ratio().idle(|s| (s.chosen::<Form>("tip.form") != Form::Drops).then_some("nothing is shaken off")),
    Parameter::number("tip.apart_mm", Station::Tip, "Drops every", "mm", [0.2, 60.0, 0.1, 4.0], "Travel from one drop to the next, on the mean.").by_ratio().idle(|s| (s.chosen::<Form>("tip.form") != Form::Drops).then_some("nothing is shaken off")),
];

/// Whether it is a brush whose hairs bend: what rubs does not.
pub fn has_hairs(s: &Settings<'_>) -> bool {
    s.action != Action::Cut && !matches!(s.chosen::<Form>("tip.form"), Form::Sponge | Form::Drops)
}

/// Half the width and half the thickness, mm.
pub fn halves(s: &Settings<'_>) -> [f64; 2] {
    let width = s.number("tip.width_mm");
    let thick =
        if s.chosen::<Form>("tip.form") == Form::Flat { s.number("tip.thick_mm").min(width) } else { width };
    [0.5 * width, 0.5 * thick]
}

fn no_hairs(s: &Settings<'_>) -> super::Reason {
    (!has_hairs(s)).then_some("it has no hairs that bend")
}

fn turned_the_same(s: &Settings<'_>) -> super::Reason {
    (s.chosen::<Form>("tip.form") != Form::Flat).then_some("it is the same whichever way it is turned")
}

/// Hairs hold so many times more water than paint from the tube (common practice, no source for the number).
const WATER_HELD: f64 = 1.5;

/// Water that a brush of a kind of hair can hold, mm³.
pub fn held_mm3(s: &Settings<'_>, hair: Hair) -> f64 {
    let [half, thick] = halves(s);
    let round = s.chosen::<Form>("tip.form") != Form::Flat;
    let length = s.number("tip.hair_length_mm");
    WATER_HELD * hair::holds_mm3(hair, [2.0 * half, 2.0 * thick], length, round)
}

/// All kinds hold what it is given, and it takes up no more.
fn holds_enough(s: &Settings<'_>) -> super::Reason {
    let given =
        if s.action == Action::Lift || s.switch("load.endless") { 0.0 } else { 1e3 * s.number("load.ml") };
    let enough = Hair::ALL.iter().all(|hair| held_mm3(s, *hair) >= given);
    let reason = "hairs of any kind hold what it is given";
    super::works_no_water(s).or_else(|| (super::drinks_nothing(s) && enough).then_some(reason))
}
