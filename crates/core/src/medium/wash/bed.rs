//! What strips of a wet brush may lie on.

use crate::chain::Action;
use crate::medium::Under;
use crate::medium::under::Blocks;

const BARE: Under = Under { id: "bare", label: "bare paper", laid: &[], dry: false };
const DAMP: Under = Under { id: "damp", label: "damp paper", laid: &WET, dry: false };
const FRESH: Under = Under { id: "wet-stripes", label: "three wet washes", laid: &WASHES, dry: false };
const STRIPES: Under = Under { id: "dry-stripes", label: "three dry washes", laid: &WASHES, dry: true };

/// A tool that lays an even wash with a flat.
macro_rules! wash {
    ($name:literal, $paint:literal, $strength:literal, $water:literal) => {
        concat!(
            r#"{"format": "saltmarsh.tool", "version": 2, "name": ""#,
            $name,
            r#"", "medium": "wash", "action": "lay", "seed": 5, "parameters": {"touch.force_gf": 12, "tip.form": "flat",
            "tip.width_mm": 12, "load.endless": true, "load.uneven": 0, "load.uneven_water": 0, "load.strength": "#,
            $strength,
            r#", "load.water_um": "#,
            $water,
            r#", "load.paint": "#,
            $paint,
            "}}"
        )
    };
}

const fn blocks(tool: &'static str, begin_mm: &'static [f64], long_mm: f64) -> Blocks {
    Blocks {
        tool,
        begin_mm,
        long_mm,
        period_mm: 80.0,
        first_mm: 4.0,
        row_mm: 9.0,
        speed_mm_s: 120.0,
        pressure: 0.5,
        altitude: 1.3,
    }
}

static WET: [Blocks; 1] = [blocks(wash!("water", r#"{"PB29": 1}"#, "0", "60"), &[4.0], 72.0)];
static WASHES: [Blocks; 3] = [
    blocks(wash!("rose", r#"{"PV19": 1}"#, "0.006", "90"), &[9.0], 18.0),
    blocks(wash!("ochre", r#"{"PY43": 1}"#, "0.02", "90"), &[30.0], 18.0),
    blocks(wash!("blue", r#"{"PB29": 1}"#, "0.015", "90"), &[51.0], 18.0),
];

static FLUID: [Blocks; 2] = [
    blocks(
        r#"{"format": "saltmarsh.tool", "version": 2, "name": "fluid", "medium": "wash", "action": "lay", "seed": 6,
            "parameters": {"touch.force_gf": 12, "tip.form": "flat", "tip.width_mm": 5, "load.brings": "mask"}}"#,
        &[12.0, 40.0],
        14.0,
    ),
    blocks(wash!("blue", r#"{"PB29": 1}"#, "0.015", "90"), &[6.0], 66.0),
];
const MASKED: Under = Under { id: "fluid", label: "masking fluid under a wash", laid: &FLUID, dry: true };

/// For a tool of `action`: what it is shown on first.
pub fn unders(action: Action) -> &'static [Under] {
    match action {
        Action::Lay => &[BARE, DAMP, STRIPES, FRESH],
        Action::Lift => &[FRESH, STRIPES, DAMP, BARE],
        Action::Repel => &[FRESH, DAMP, BARE],
        Action::Cut => &[MASKED, BARE],
        _ => &[STRIPES, FRESH, DAMP, BARE],
    }
}
