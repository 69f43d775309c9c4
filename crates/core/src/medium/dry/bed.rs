//! What dry strips may lie on: bare ground, or a bed of charcoal with bare paper between, for tools that move powder (a finger on
//! bare paper would show nothing).

use crate::chain::Action;
use crate::medium::Under;
use crate::medium::under::Blocks;

const BARE: Under = Under { id: "bare", label: "bare ground", laid: &[], dry: false };
const CHARCOAL: Under = Under { id: "charcoal", label: "a bed of charcoal", laid: &BED, dry: false };

/// Laid with a soft stick on its side; strokes lie a little closer than the side is long.
static BED: [Blocks; 1] = [Blocks {
    tool: r#"{"format": "saltmarsh.tool", "version": 2, "name": "bed", "medium": "dry", "action": "lay", "seed": 3,
    "parameters": {"touch.force_gf": 190, "tip.width_mm": 2.4, "tip.side_mm": 7.2, "load.stick": "charcoal"}}"#,
    begin_mm: &[5.0, 45.0],
    long_mm: 24.0,
    period_mm: 80.0,
    first_mm: 4.0,
    row_mm: 6.0,
    speed_mm_s: 60.0,
    pressure: 0.5,
    altitude: 0.5,
}];

/// For a tool of `action`: what it is shown on first.
pub fn unders(action: Action) -> &'static [Under] {
    if action == Action::Lay { &[BARE, CHARCOAL] } else { &[CHARCOAL, BARE] }
}
