//! Brushes and knives that tests can afford, and how they are drawn with.

use std::rc::Rc;

use saltmarsh_core::ground::{Ground, Surface};
use saltmarsh_core::hand::{Gesture, Hand, Sample};
use saltmarsh_core::medium::{Amount, Balance, Carried};
use saltmarsh_core::sheet::Sheet;
use saltmarsh_core::stroke::Engine;
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::Tool;

use super::hand_drawn;

/// A brush whose force follows the pen up to `most` gf.
pub fn brush(action: &str, most: f64, parameters: &str) -> Tool {
    Tool::parse(&format!(
        r#"{{"format": "saltmarsh.tool", "version": 2, "name": "t", "medium": "paste", "action": "{action}", "seed": 5,
        "ground": {{"surface": "canvas-fine"}}, "parameters": {{{parameters}}},
        "responses": [{{"id": "f", "quality": "force", "signal": "pressure", "input": [0, 1], "curve": [[0, 0], [1, 1]],
        "output": [0, {most}], "amount": 1, "on": true}}]}}"#
    ))
    .expect("a brush")
}

/// A small flat of few lanes, which tests can afford.
pub const SMALL: &str = r#""tip.width_mm": 5, "tip.thick_mm": 2, "tip.hair_count": 80"#;

/// A small palette knife.
pub const KNIFE: &str =
    r#""tip.ferrule": "blade", "tip.width_mm": 6, "relief.lay_um": 120, "relief.furrow": 0.2"#;

/// From one place to another in `seconds`, pressed on and lifted over a tenth of the way each.
pub fn pulled(rate_hz: f64, from: [f64; 2], to: [f64; 2], press: f64, seconds: f64) -> Gesture {
    hand_drawn(rate_hz, seconds, |t| {
        let f = t / seconds;
        let pressure = press * (10.0 * f).min(10.0 * (1.0 - f)).clamp(0.0, 1.0);
        let at = |k: usize| from[k] + (to[k] - from[k]) * f;
        Sample { t, x: at(0), y: at(1), pressure, tilt_x: 0.0, tilt_y: 25.0, twist: 0.0 }
    })
}

pub fn run(
    tool: &Tool,
    gesture: &Gesture,
    sheet: &mut Sheet,
    carried: Option<&Carried>,
) -> (Balance, Carried) {
    let tool = Rc::new(tool.clone());
    let mut engine =
        Engine::with(tool, Hand::default(), sheet, &Shelf::default(), carried).expect("an engine");
    for pass in gesture.passes() {
        engine.hear(pass).expect("reports");
        engine.hear_lift();
    }
    engine.work(usize::MAX, sheet);
    (engine.balance(), engine.carried())
}

pub fn canvas() -> Rc<Ground> {
    super::ground(Surface::CanvasFine)
}

/// The largest difference of two amounts over what there is.
pub fn off(a: Amount, b: Amount) -> f64 {
    a.all().zip(b.all()).map(|(a, b)| (a - b).abs() / a.abs().max(b.abs()).max(1e-9)).fold(0.0, f64::max)
}
