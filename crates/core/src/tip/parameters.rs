//! What makes a tip that is pressed on as an outline, specks or an image: declared once for every medium that has such tips.

use super::mask::Flip;
use super::outline::{Shape, TurnedBy};
use super::stencil::{GrainOn, MaskedBy};
use crate::chain::{Parameter, Quality, Settings, Station};

pub const SHAPE: Parameter = Parameter::choice::<Shape>(
    "tip.shape",
    Station::Tip,
    "Shape",
    "round",
    "Outline of the end that touches.",
);
pub const WIDTH: Parameter = Parameter::number(
    "tip.width_mm",
    Station::Tip,
    "Width",
    "mm",
    [0.1, 40.0, 0.1, 2.5],
    "Width of the end that touches when the tool is upright.",
)
.by_ratio()
.driven_as(Quality::Width);
pub const ASPECT: Parameter = Parameter::number(
    "tip.aspect",
    Station::Tip,
    "Aspect",
    "×",
    [1.0, 10.0, 0.05, 1.0],
    "Length of the end over its width: 1 is round.",
)
.by_ratio()
.driven_as(Quality::Aspect);
pub const ANGLE: Parameter = Parameter::number("tip.angle_deg", Station::Tip, "Angle", "°", [0.0, 360.0, 1.0, 0.0], "Direction of the length on the sheet, from the right, clockwise. A response to lean, barrel or heading adds to it.").driven_as(Quality::Angle).idle(plain);
pub const TURNED_BY: Parameter = Parameter::choice::<TurnedBy>(
    "tip.angle_from",
    Station::Tip,
    "Turned by",
    "bearing",
    "What turns the tip; the angle is added. A side that lies down always follows the lean.",
)
.idle(plain);
pub const HARDNESS: Parameter = Parameter::number(
    "tip.hardness",
    Station::Tip,
    "Edge hardness",
    "",
    [0.0, 1.0, 0.01, 0.5],
    "0 fades out to the rim, 0.5 presses as a round end does, 1 presses evenly to the rim.",
)
.driven_as(Quality::Hardness);
pub const SIDE: Parameter = Parameter::number("tip.side_mm", Station::Tip, "Side on the paper", "mm", [0.0, 60.0, 0.1, 0.0], "Length of the side that lies down as the pen leans: this times the sine of the tilt is added along the lean.").driven_as(Quality::Side);

/// How far apart dabs lie, and how far they stray.
pub const PLACING: &[Parameter] = &[
    Parameter::switch(
        "tip.spacing_auto",
        Station::Tip,
        "Spacing by itself",
        true,
        "Sets dabs as far apart as their ripple stays invisible (under 1/255).",
    ),
    Parameter::number(
        "tip.spacing",
        Station::Tip,
        "Spacing",
        "×",
        [0.02, 3.0, 0.01, 0.12],
        "Distance between dabs, as a share of the footprint along the way.",
    )
    .by_ratio()
    .driven_as(Quality::Spacing)
    .idle(|s| s.switch("tip.spacing_auto").then_some("spacing sets itself")),
    Parameter::number(
        "tip.scatter_mm",
        Station::Tip,
        "Scatter",
        "mm",
        [0.0, 10.0, 0.01, 0.0],
        "How far dabs stray to either side of the way.",
    )
    .driven_as(Quality::Scatter),
    Parameter::number(
        "tip.scatter_along_mm",
        Station::Tip,
        "Scatter along",
        "mm",
        [0.0, 10.0, 0.01, 0.0],
        "How far dabs stray forward and back on the way.",
    )
    .driven_as(Quality::ScatterAlong),
];
pub const COUNT: Parameter = Parameter::number(
    "tip.count",
    Station::Tip,
    "Count",
    "",
    [1.0, 16.0, 1.0, 1.0],
    "Placements at each dab, each scattered by itself.",
)
.driven_as(Quality::Count);

/// What of the footprint lays, read by [`super::Stencil::of`].
pub const STENCIL: &[Parameter] = &[
    Parameter::number(
        "tip.specks",
        Station::Tip,
        "Specks",
        "",
        [1.0, 400.0, 1.0, 40.0],
        "Spots in a speckled tip.",
    )
    .by_ratio()
    .idle(unspeckled),
    Parameter::number(
        "tip.speck_size",
        Station::Tip,
        "Size of a speck",
        "×",
        [0.005, 0.5, 0.005, 0.04],
        "Diameter of a spot over the tip's width.",
    )
    .by_ratio()
    .idle(unspeckled),
    Parameter::number(
        "tip.speck_spread",
        Station::Tip,
        "Specks differ by",
        "×",
        [0.0, 1.0, 0.01, 0.5],
        "How much spots differ in size: 0 are all alike.",
    )
    .idle(unspeckled),
    Parameter::number(
        "tip.speck_crowd",
        Station::Tip,
        "Crowded",
        "",
        [0.0, 1.0, 0.01, 0.2],
        "0 spreads spots evenly, 1 gathers them in the middle.",
    )
    .idle(unspeckled),
    Parameter::image("tip.image", Station::Tip, "Image", "White lays, black does not, grey lays a part.")
        .idle(shapeless),
    Parameter::choice::<Flip>("tip.image_flip", Station::Tip, "Image: flip", "none", "Turns the image over.")
        .idle(imageless),
    Parameter::switch(
        "tip.image_invert",
        Station::Tip,
        "Image: invert",
        false,
        "Lets black lay and white not.",
    )
    .idle(imageless),
    Parameter::number(
        "tip.image_low",
        Station::Tip,
        "Image: black up to",
        "",
        [0.0, 1.0, 0.01, 0.0],
        "Levels of the image up to this lay nothing.",
    )
    .idle(imageless),
    Parameter::number(
        "tip.image_high",
        Station::Tip,
        "Image: white from",
        "",
        [0.0, 1.0, 0.01, 1.0],
        "Levels from this on lay in full; not above the black level, it is a threshold there.",
    )
    .idle(imageless),
    Parameter::number(
        "tip.image_blur",
        Station::Tip,
        "Image: blur",
        "×",
        [0.0, 0.2, 0.002, 0.0],
        "Softens the image over this share of its width.",
    )
    .idle(imageless),
    Parameter::number(
        "tip.image_feather",
        Station::Tip,
        "Image: feather",
        "×",
        [0.0, 0.5, 0.01, 0.0],
        "Fades the image out to its rim over this share of its shorter side.",
    )
    .idle(imageless),
    Parameter::image(
        "tip.grain",
        Station::Tip,
        "Grain image",
        "Multiplied into the shape: where it is black, nothing is laid.",
    ),
    Parameter::number(
        "tip.grain_depth",
        Station::Tip,
        "Grain depth",
        "",
        [0.0, 1.0, 0.01, 1.0],
        "How far black of the grain takes away.",
    )
    .driven_as(Quality::Grain)
    .idle(grainless),
    Parameter::number(
        "tip.grain_mm",
        Station::Tip,
        "Grain length",
        "mm",
        [0.5, 200.0, 0.1, 20.0],
        "Length of the grain image on the sheet; it repeats beyond.",
    )
    .by_ratio()
    .idle(grainless),
    Parameter::choice::<GrainOn>(
        "tip.grain_on",
        Station::Tip,
        "Grain stays on",
        "sheet",
        "Whether strokes rub over one grain, or each dab has it.",
    )
    .idle(grainless),
    Parameter::number(
        "tip.grain_turn_deg",
        Station::Tip,
        "Grain turned by",
        "°",
        [0.0, 360.0, 1.0, 0.0],
        "Direction of the grain image.",
    )
    .idle(grainless),
    Parameter::choice::<Flip>("tip.grain_flip", Station::Tip, "Grain: flip", "none", "Turns the image over.")
        .idle(grainless),
    Parameter::switch(
        "tip.grain_invert",
        Station::Tip,
        "Grain: invert",
        false,
        "Lets black lay and white not.",
    )
    .idle(grainless),
    Parameter::number(
        "tip.grain_low",
        Station::Tip,
        "Grain: black up to",
        "",
        [0.0, 1.0, 0.01, 0.0],
        "Levels of the image up to this lay nothing.",
    )
    .idle(grainless),
    Parameter::number(
        "tip.grain_high",
        Station::Tip,
        "Grain: white from",
        "",
        [0.0, 1.0, 0.01, 1.0],
        "Levels from this on lay in full; not above the black level, it is a threshold there.",
    )
    .idle(grainless),
    Parameter::number(
        "tip.grain_blur",
        Station::Tip,
        "Grain: blur",
        "×",
        [0.0, 0.2, 0.002, 0.0],
        "Softens the grain over this share of its length.",
    )
    .idle(grainless),
    Parameter::choice::<MaskedBy>(
        "tip.mask",
        Station::Tip,
        "Masked by",
        "none",
        "A second outline over the first: only what lies in both is laid.",
    ),
    Parameter::number(
        "tip.mask_size",
        Station::Tip,
        "Mask size",
        "×",
        [0.1, 3.0, 0.01, 0.8],
        "Size of the second outline over the first.",
    )
    .by_ratio()
    .idle(unmasked),
    Parameter::number(
        "tip.mask_angle_deg",
        Station::Tip,
        "Mask angle",
        "°",
        [0.0, 360.0, 1.0, 0.0],
        "Direction of the second outline against the first.",
    )
    .idle(unmasked),
];

fn unspeckled(s: &Settings<'_>) -> Option<&'static str> {
    (s.chosen::<Shape>("tip.shape") != Shape::Speckled).then_some("the tip is not speckled")
}

fn shapeless(s: &Settings<'_>) -> Option<&'static str> {
    (s.chosen::<Shape>("tip.shape") != Shape::Image).then_some("the tip's shape is no image")
}

fn imageless(s: &Settings<'_>) -> Option<&'static str> {
    shapeless(s).or_else(|| s.image("tip.image").is_empty().then_some("there is no image yet"))
}

fn grainless(s: &Settings<'_>) -> Option<&'static str> {
    s.image("tip.grain").is_empty().then_some("there is no grain image")
}

fn unmasked(s: &Settings<'_>) -> Option<&'static str> {
    (s.chosen::<MaskedBy>("tip.mask") == MaskedBy::Nothing).then_some("nothing masks the tip")
}

/// A plain round end has no direction.
fn plain(s: &Settings<'_>) -> Option<&'static str> {
    let round = s.chosen::<Shape>("tip.shape") == Shape::Round
        && s.chosen::<MaskedBy>("tip.mask") == MaskedBy::Nothing
        && (s.image("tip.grain").is_empty() || s.chosen::<GrainOn>("tip.grain_on") == GrainOn::Sheet);
    let still = !s.is_driven(Quality::Aspect) && !s.is_driven(Quality::Side);
    let upright = s.number("tip.aspect") == 1.0 && s.number("tip.side_mm") == 0.0;
    (round && still && upright).then_some("the tip is round")
}
