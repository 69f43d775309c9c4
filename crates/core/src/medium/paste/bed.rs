//! What strips of paste may lie on.

use crate::chain::Action;
use crate::medium::Under;
use crate::medium::under::Blocks;

const BARE: Under = Under { id: "bare", label: "bare ground", laid: &[], dry: false };
const THREE: Under = Under { id: "stripes", label: "three wet stripes", laid: &STRIPES, dry: false };
const ONE: Under = Under { id: "wet", label: "one wet colour", laid: &WASH, dry: false };
const DRY: Under = Under { id: "dry", label: "a dry layer", laid: &LAYER, dry: true };

/// A tool that lays a closed wet film of one paint. Strokes lie closer than it is wide.
macro_rules! film {
    ($name:literal, $paint:literal) => {
        concat!(
            r#"{"format": "saltmarsh.tool", "version": 2, "name": ""#,
            $name,
            r#"", "medium": "paste", "action": "lay", "seed": 3, "parameters": {"touch.force_gf": 36, "tip.width_mm": 12,
            "load.endless": true, "relief.lay_um": 80, "relief.reach_um": 800, "relief.hair_um": 30, "relief.rim": 0,
            "load.paint": "#,
            $paint,
            "}}"
        )
    };
}

/// Blocks of a wet film that begin at `begin_mm` of every 80 mm, so long.
const fn blocks(tool: &'static str, begin_mm: &'static [f64], long_mm: f64) -> Blocks {
    Blocks {
        tool,
        begin_mm,
        long_mm,
        period_mm: 80.0,
        first_mm: 4.0,
        row_mm: 9.0,
        speed_mm_s: 60.0,
        pressure: 0.5,
        altitude: 1.3,
    }
}

static STRIPES: [Blocks; 3] = [
    blocks(film!("red", r#"{"PR108": 1}"#), &[9.0], 20.0),
    blocks(film!("yellow", r#"{"PY35": 1}"#), &[30.0], 20.0),
    blocks(film!("blue", r#"{"PB29": 1, "PW6": 1}"#), &[51.0], 20.0),
];
static LAYER: [Blocks; 3] = [
    blocks(film!("white", r#"{"PW6": 1}"#), &[9.0], 20.0),
    blocks(film!("ochre", r#"{"PY43": 1}"#), &[30.0], 20.0),
    blocks(film!("dark", r#"{"PBr7bu": 3, "PBk9": 1}"#), &[51.0], 20.0),
];
static WASH: [Blocks; 1] = [blocks(film!("grey", r#"{"PW6": 4, "PBk9": 1, "PB29": 1}"#), &[4.0], 72.0)];

/// For a tool of `action`: what it is shown on first.
pub fn unders(action: Action) -> &'static [Under] {
    if action == Action::Lay { &[BARE, THREE, ONE, DRY] } else { &[THREE, ONE, BARE, DRY] }
}
