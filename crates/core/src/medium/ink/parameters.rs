//! What an ink tool can be tuned in.

use crate::chain::choice::choices;
use crate::chain::{Parameter, Parameters, Quality, Settings, Station};
use crate::medium::wash::parameters::FLOODS;
use crate::medium::wash::pigments::Vehicle;
use crate::tip::TurnedBy;
use crate::touch::parameters as touch;

/// All parameters of ink, in the order in which its stations show them.
pub const PARAMETERS: Parameters = Parameters(&[TOUCH, touch::STEADYING, TIP, LOAD, MIX, GROUND]);

choices! {
    /// What brings the ink.
    pub enum Form {
        Point = "point", "pointed nib";
        Edge = "edge", "broad nib";
        Brush = "brush", "brush";
    }
}

choices! {
    /// How ink dries.
    pub enum Dries {
        Waterproof = "waterproof", "waterproof";
        Washable = "washable", "runs again when wet";
    }
}

impl From<Dries> for Vehicle {
    fn from(dries: Dries) -> Self {
        match dries {
            Dries::Waterproof => Vehicle::Waterproof,
            Dries::Washable => Vehicle::Washable,
        }
    }
}

const TOUCH: &[Parameter] = &[
    Parameter::number(
        "touch.force_gf",
        Station::Touch,
        "Force on the sheet",
        "gf",
        [0.0, 1500.0, 0.1, 60.0],
        "How hard the pen is pressed: it spreads the tines of a pointed nib, and bends a brush. Usually a response to pressure gives it.",
    )
    .driven_as(Quality::Force)
    .idle(|s| (form(s) == Form::Edge).then_some("a broad nib is as wide however hard it is pressed")),
    Parameter::number(
        "touch.flow",
        Station::Touch,
        "Flow",
        "×",
        [0.0, 2.0, 0.01, 1.0],
        "How readily ink leaves the tip where it touches.",
    )
    .driven_as(Quality::Flow),
];

const TIP: &[Parameter] = &[
    Parameter::choice::<Form>("tip.form", Station::Tip, "Form", "point", "A point whose tines spread, a straight edge, or hairs."),
    Parameter::number("tip.width_mm", Station::Tip, "Width", "mm", [0.05, 20.0, 0.01, 0.2], "Of a pointed nib, its line when it is closed; of a broad one, its edge; of a brush, its belly.").by_ratio(),
    Parameter::number("tip.thick_mm", Station::Tip, "Thickness", "mm", [0.05, 3.0, 0.01, 0.25], "Thickness of a broad nib's edge: its thinnest line.").by_ratio().idle(|s| (form(s) != Form::Edge).then_some("it has no straight edge")),
    Parameter::number("tip.opens_um_gf", Station::Tip, "Opens", "µm/gf", [0.0, 40.0, 0.1, 6.0], "How far force spreads the tines where they are pulled towards the hand: 1 stiff, 6 flexible, 20 very soft.").idle(no_tines),
    Parameter::number("tip.most_mm", Station::Tip, "Opens at most", "mm", [0.0, 5.0, 0.05, 1.2], "The widest that the tines can be spread.").idle(no_tines),
    Parameter::number("tip.angle_deg", Station::Tip, "Angle", "°", [0.0, 360.0, 1.0, 0.0], "Direction of the width on the sheet, from the right, clockwise; the slit lies across it. A response to lean, barrel or heading adds to it.").driven_as(Quality::Angle).idle(turned_the_same),
    Parameter::choice::<TurnedBy>("tip.angle_from", Station::Tip, "Turned by", "bearing", "What turns the nib; the angle is added.").idle(turned_the_same),
    Parameter::number("tip.hair_length_mm", Station::Tip, "Free length", "mm", [4.0, 60.0, 0.5, 16.0], "How far the hairs stand out.").by_ratio().idle(no_hairs),
    Parameter::number("tip.hair_mm", Station::Tip, "Hair diameter", "mm", [0.04, 0.3, 0.01, 0.1], "A hair twice as thick is 16 times as stiff.").by_ratio().idle(no_hairs),
    Parameter::number("tip.hair_gpa", Station::Tip, "Stiffness of the hair", "GPa", [0.2, 8.0, 0.1, 3.0], "Young's modulus, wet.").by_ratio().idle(no_hairs),
    Parameter::number("tip.hair_count", Station::Tip, "Hairs", "", [6.0, 6000.0, 1.0, 400.0], "Hairs that share the pen's force.").by_ratio().idle(no_hairs),
    Parameter::number("tip.ends", Station::Tip, "Ends", "", [0.0, 1.0, 0.01, 0.2], "How unevenly long the hairs are.").idle(no_hairs),
    Parameter::number("tip.splay", Station::Tip, "Splay", "×", [0.0, 2.0, 0.05, 0.6], "How far hairs spread as they are pressed.").idle(no_hairs),
];

const LOAD: &[Parameter] = &[
    Parameter::paint(
        "load.paint",
        Station::Load,
        "Ink",
        &[("PBk6", 1.0)],
        "What colours the ink: pigments by parts.",
    ),
    Parameter::choice::<Dries>(
        "load.dries",
        Station::Load,
        "Dries",
        "waterproof",
        "Waterproof ink stays where it dried under any wash; the other is taken up by water again.",
    ),
    Parameter::number(
        "load.strength",
        Station::Load,
        "Depth of the ink",
        "",
        [0.005, 0.5, 0.005, 0.25],
        "Tube paint in as much water: 0.03 diluted grey, 0.1 brown, 0.25 black.",
    )
    .driven_as(Quality::Strength),
    Parameter::number(
        "load.water_um",
        Station::Load,
        "Film",
        "µm",
        [1.0, 200.0, 1.0, 24.0],
        "How thick the ink stands where the tip has passed.",
    )
    .driven_as(Quality::Water),
    Parameter::number(
        "load.ml",
        Station::Load,
        "Ink in it",
        "ml",
        [0.001, 5.0, 0.001, 0.04],
        "What it was dipped for, or its cartridge holds.",
    )
    .by_ratio()
    .idle(|s| s.switch("load.endless").then_some("it never runs out")),
    Parameter::switch("load.endless", Station::Load, "Endless", false, "It gives and never runs out."),
    Parameter::number(
        "load.feeds_mm3_s",
        Station::Load,
        "Feeds",
        "mm³/s",
        [0.05, 50.0, 0.05, 2.0],
        "Ink that the slit lets through: a fast wide line that takes more splits between the tines.",
    )
    .by_ratio()
    .idle(|s| has_hairs(s).then_some("hairs give what they are asked for")),
    Parameter::number(
        "load.uneven_water",
        Station::Load,
        "Uneven ink",
        "",
        [0.0, 1.0, 0.01, 0.05],
        "How differently much ink comes across the tip.",
    ),
];

const MIX: &[Parameter] = &[Parameter::number(
    "mix.gives",
    Station::Mix,
    "Gives at a touch",
    "",
    [0.01, 1.0, 0.01, 0.9],
    "Share of the ink that is missing under the tip which one touch gives.",
)];

const GROUND: &[Parameter] = &[
    Parameter::number(
        "ground.reach",
        Station::Ground,
        "Reaches into the tooth",
        "×",
        [0.0, 2.0, 0.01, 1.7],
        "How far down the tooth the ink gets: 2 floods every pit, 1 leaves the deepest bare, as a nib does that skips over rough paper.",
    )
    .driven_as(Quality::Reach),
    Parameter::number(
        "ground.hair_lines",
        Station::Ground,
        "Hairs part",
        "",
        [0.0, 1.0, 0.01, 0.1],
        "How differently single hairs reach: 0 a closed line, 1 separate lines.",
    )
    .idle(|s| no_hairs(s).or_else(|| floods(s))),
];

fn floods(s: &Settings<'_>) -> Reason {
    let all = s.switch("load.endless") && s.number("ground.reach") >= FLOODS && !s.is_driven(Quality::Reach);
    all.then_some("every pit is flooded")
}

type Reason = Option<&'static str>;

fn form(s: &Settings<'_>) -> Form {
    s.chosen("tip.form")
}

fn has_hairs(s: &Settings<'_>) -> bool {
    form(s) == Form::Brush
}

fn no_tines(s: &Settings<'_>) -> Reason {
    (form(s) != Form::Point).then_some("it has no tines that spread")
}

fn no_hairs(s: &Settings<'_>) -> Reason {
    (!has_hairs(s)).then_some("a nib has no hairs")
}

fn turned_the_same(s: &Settings<'_>) -> Reason {
    has_hairs(s).then_some("it is the same whichever way it is turned")
}
