//! Outlines of SVG drawings: lengths against geometry, units against CSS, and what is refused.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

mod damage;

use std::f64::consts::PI;

use damage::{config, damage, damaged};
use proptest::prelude::*;
use saltmarsh_core::hand::way::MOST_POINTS;
use saltmarsh_formats::svg::{self, Drawing};

/// A drawing of 100 × 50 mm in units of half a millimetre.
fn drawing(body: &str) -> Result<Drawing, saltmarsh_core::FieldError> {
    svg::read(&format!(
        "<?xml version=\"1.0\"?><svg xmlns=\"http://www.w3.org/2000/svg\" width=\"100mm\" height=\"50mm\" viewBox=\"0 0 200 100\">{body}</svg>"
    ))
}

#[track_caller]
fn length(body: &str, want_mm: f64) {
    let got = drawing(body).unwrap_or_else(|e| panic!("{body}: {e}")).length_mm;
    assert!((got / want_mm - 1.0).abs() < 2e-3, "{body}: {got} mm, want {want_mm} mm");
}

#[test]
fn shapes_have_the_length_of_their_geometry() {
    length("<path d=\"M10 10h30v40\"/>", 35.0);
    length("<path d=\"m10,10 l30-0 0,40z\"/>", 35.0 + 25.0);
    // A full circle of radius 20 units by two arcs, by an element, and by four Bézier curves.
    length("<path d=\"M30 50A20 20 0 0 1 70 50A20 20 0 0 1 30 50\"/>", 2.0 * PI * 10.0);
    length("<circle cx=\"50\" cy=\"50\" r=\"20\"/>", 2.0 * PI * 10.0);
    let k = 4.0 / 3.0 * (2.0_f64.sqrt() - 1.0) * 20.0;
    let quarter =
        |x: f64, y: f64| format!("<path d=\"M20 0C20 {k} {k} 20 0 20\" transform=\"translate({x} {y})\"/>");
    length(&quarter(40.0, 40.0), 0.5 * PI * 10.0);
    // The ellipse after Ramanujan's first approximation (1914), good to 1e-5 at this flatness.
    let (a, b) = (15.0_f64, 10.0_f64);
    let ramanujan = PI * (3.0 * (a + b) - ((3.0 * a + b) * (a + 3.0 * b)).sqrt());
    length("<ellipse cx=\"50\" cy=\"50\" rx=\"30\" ry=\"20\"/>", ramanujan);
    length("<rect x=\"5\" y=\"5\" width=\"40\" height=\"20\"/>", 60.0);
    length("<rect x=\"5\" y=\"5\" width=\"40\" height=\"20\" rx=\"4\"/>", 60.0 - 16.0 + 2.0 * PI * 2.0);
    length("<polyline points=\"0,0 30,0 30,40\"/><line x1=\"0\" y1=\"0\" x2=\"0\" y2=\"10\"/>", 40.0);
    length("<polygon points=\"0 0 30 0 30 40\"/>", 60.0);
    // Transforms nest: scaled by two, turned, moved.
    length(
        "<g transform=\"scale(2)\"><g transform=\"rotate(30) translate(4 5)\"><path d=\"M0 0L3 4\"/></g></g>",
        5.0,
    );
    length(
        "<defs><path d=\"M0 0H90\"/></defs><g display=\"none\"><path d=\"M0 0H90\"/></g><path d=\"M0 0H20\"/>",
        10.0,
    );
}

#[test]
fn strokes_lie_where_they_were_drawn_in_millimetres() {
    let two = drawing("<path d=\"M20 40L60 40M100 10q10 0 10 10\"/>").expect("two strokes").outline.strokes;
    assert_eq!((two.len(), two[0].clone()), (2, vec![[10.0, 20.0], [30.0, 20.0]]));
    assert!(
        two[1].len() > 4 && two[1][0] == [50.0, 5.0] && two[1].last() == Some(&[55.0, 10.0]),
        "{:?}",
        two[1]
    );
    // Without a size a unit is the CSS pixel, 1/96 inch.
    let plain = svg::read("<svg><path d=\"M0 0H96\"/></svg>").expect("read");
    assert!((plain.length_mm - 25.4).abs() < 1e-9);
}

#[test]
fn what_may_do_harm_is_refused_by_name() {
    let refused = |text: &str| svg::read(text).expect_err(&text[..text.len().min(80)]).message;
    let bomb = "<!DOCTYPE svg [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;&a;&a;&a;&a;\">]><svg><path d=\"&b;\"/></svg>";
    assert!(refused(bomb).contains("document type"));
    let deep = format!("<svg>{}", "<g>".repeat(100_000));
    assert!(refused(&deep).contains("deeper"));
    let in_body = |body: &str| drawing(body).expect_err(body).message;
    assert!(in_body("<image href=\"http://localhost/x.png\"/>").contains("outside"));
    assert!(
        in_body("<image xlink:href=\"file:///etc/hostname\" xmlns:xlink=\"http://www.w3.org/1999/xlink\"/>")
            .contains("outside")
    );
    assert!(in_body("<g id=\"a\"><use href=\"#a\"/></g>").contains("use"));
    assert!(in_body("<path d=\"M0 0L1e308 1e308\"/>").contains("farther"));
    assert!(in_body("<g transform=\"scale(1e200)\"><path d=\"M0 0L9 9\"/></g>").contains("farther"));
    assert!(in_body("<path d=\"M0 0 L\"/>").contains("path"));
    assert!(in_body("<circle r=\"-3\"/>").contains("negative"));
    assert!(in_body(&format!("<path d=\"M0 0{}\"/>", "h1v1".repeat(200_000))).contains("segments"));
    assert!(in_body("<text>reed</text>").contains("no line"));
    assert!(refused("<svg><path d=\"M0 0H9\"/>").contains("cut off"));
    assert!(refused("<html/>").contains("no drawing") && refused("<ink></ink>").contains("root"));
    assert!(refused(&" ".repeat(svg::MOST_BYTES + 1)).contains("bytes"));
    assert!(refused("<svg viewBox=\"0 0 0 0\" width=\"1mm\"><path d=\"M0 0H9\"/></svg>").contains("viewBox"));
    let curves = format!("<svg><path d=\"M0 0{}\"/></svg>", "C9e6 9e6-9e6 9e6 0 0".repeat(30_000));
    let many = svg::read(&curves).map(|d| d.outline.strokes.len());
    assert!(many.is_err_and(|e| e.message.contains("200000 points")), "curves that flatten to millions");
}

const SOUND: &str = "<svg width=\"60mm\" viewBox=\"0 0 120 40\"><g transform=\"translate(3 4) scale(.9)\"><path d=\"M10 20C20 5 40 35 60 20S100 5 110 20a9 9 0 1 1 -5 5z\"/><circle cx=\"30\" cy=\"20\" r=\"7\"/><polyline points=\"1,2 3,4 5,9\"/><rect width=\"9\" height=\"4\" rx=\"2\"/></g></svg>";
const SNIPPETS: [&str; 20] = [
    "<",
    ">",
    "\"",
    "&",
    "-",
    "e",
    "1e999",
    "-1e38",
    "99999999999",
    "NaN",
    "A0 0 0 0 0 1 1",
    "z",
    "<g>",
    "</g>",
    "<svg>",
    "<!ENTITY a \"&a;\">",
    "transform=\"rotate(1e9)\"",
    "scale(0)",
    "%",
    "\u{feff}",
];

proptest! {
    #![proptest_config(config())]
    /// `PROPTEST_CASES=300000 cargo test -p saltmarsh-formats --test svg` runs more.
    #[test]
    fn damaged_drawings_do_no_harm(harm in damage(SNIPPETS.len())) {
        let text = damaged(SOUND, harm, &SNIPPETS);
        let Ok(drawing) = svg::read(&text) else { return Ok(()) };
        let points: Vec<f64> = drawing.outline.strokes.iter().flatten().flatten().copied().collect();
        prop_assert!(points.len() <= 2 * MOST_POINTS && points.iter().all(|v| v.is_finite()));
        prop_assert!(drawing.length_mm > 0.0 && drawing.length_mm.is_finite());
    }
}
