//! A part of a sheet laid by itself, as a loupe does: where a tool says that this is allowed, it is what the whole shows there, within a level of 255 on average.

use crate::common;

use common::{demo_gesture, demo_tools, differences, draw, picture};
use saltmarsh_core::chain::Action;
use saltmarsh_core::hand::Gesture;
use saltmarsh_core::relief::flat;
use saltmarsh_core::sheet::{Rect, Sheet};
use saltmarsh_core::stroke::under::stands_alone;
use saltmarsh_core::tool::Tool;

const PIXEL_MM: f64 = 0.2;
/// The part, pixels of the whole: not on the border of a tile.
const PART: Rect = Rect { left: 203, top: 11, right: 303, bottom: 61 };

/// Mean and largest difference between a part laid by itself and the same part cut out of the whole, in levels of 255.
fn apart(tool: &Tool, gesture: &Gesture) -> (f64, u8) {
    let ground = common::ground_of(&tool.ground);
    let mut whole = Sheet::new(ground.clone(), 400, 70, PIXEL_MM, [0.0, 0.0]).expect("valid");
    draw(tool, gesture, &mut whole);
    let origin = [PART.left, PART.top].map(|n| n as f64 * PIXEL_MM);
    let (wide, high) = (PART.right - PART.left, PART.bottom - PART.top);
    let mut part = Sheet::new(ground, wide, high, PIXEL_MM, origin).expect("valid");
    draw(tool, gesture, &mut part);
    let mut cut = vec![0; 4 * wide * high];
    flat::rgba_in_place(&whole, PART, &mut cut);
    differences(&cut, &picture(&part))
}

#[test]
fn a_part_that_stands_alone_is_what_the_whole_shows_there() {
    let gesture = demo_gesture("scrub");
    let mut held = 0;
    for (name, tool) in demo_tools() {
        if !stands_alone(&tool, None).expect("what it is shown on first") {
            continue;
        }
        // A point gives the very same; a side that reaches beyond the part knows only of the powder within it, so that single pixels differ.
        let (mean, most) = apart(&tool, &gesture);
        assert!(mean < 1.0, "{name}: {mean:.3} levels on average");
        if name.starts_with("Graphite HB, point") || name.starts_with("Coloured pencil") {
            assert!(most <= 1, "{name}: {most} levels at most");
        }
        held += 1;
    }
    assert!(held >= 12, "only {held} tools stand alone");
}

#[test]
fn what_lies_on_something_or_brings_wet_paint_does_not_stand_alone() {
    for (name, tool) in demo_tools() {
        if tool.medium.name() == "paste" || tool.action != Action::Lay {
            assert!(!stands_alone(&tool, None).expect("known"), "{name}");
        }
    }
}
