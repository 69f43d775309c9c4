//! What strips of paste may lie on.

use crate::chain::Action;
use crate::medium::Under;
use crate::medium::under::Blocks;

const BARE: Under = Under { id: "bare", label: "bare ground", laid: None };
const WET: Under = Under { id: "wet", label: "wet paint, with bare ground between", laid: Some(&STRIPES) };

/// Laid with a broad brush; strokes lie closer than it is wide.
static STRIPES: Blocks = Blocks {
    tool: r#"{"format": "saltmarsh.tool", "version": 2, "name": "wet paint", "medium": "paste", "action": "lay", "seed": 3,
    "parameters": {"touch.force_gf": 25, "tip.width_mm": 12, "load.paint": {"PR101": 1}, "load.endless": true, "relief.hair_um": 30}}"#,
    begin_mm: &[5.0, 45.0],
    long_mm: 24.0,
    period_mm: 80.0,
    first_mm: 4.0,
    row_mm: 9.0,
    speed_mm_s: 60.0,
    pressure: 0.5,
    altitude: 1.3,
};

/// For a tool of `action`: what it is shown on first.
pub fn unders(action: Action) -> &'static [Under] {
    if action == Action::Lay { &[BARE, WET] } else { &[WET, BARE] }
}
