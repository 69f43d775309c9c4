//! What a wet tip carries from stroke to stroke: its water, and paint that it found on the sheet.

use std::rc::Rc;

use super::amount_of;
use crate::chain::{Action, Settings};
use crate::medium::wash::lay::{Did, count};
use crate::medium::wash::parameters::{self, Form};
use crate::medium::{Amount, Care, Carried, Held as Part};
use crate::paint::pigment;
use crate::tip::hair;

/// Hairs hold so many times more water than paint from the tube (common practice, no source for the number).
const WATER_HELD: f64 = 1.5;
/// Clear water, as it is drawn, sRGB.
const CLEAR: [u8; 3] = [196, 214, 226];
/// Parts across the tip that are told.
const PARTS: usize = 24;

/// What it holds.
#[derive(Debug, Clone, PartialEq)]
pub struct Held {
    /// Water, and what it had when it was full, µm·mm².
    water: f64,
    full: f64,
    /// Paint that was taken up, µm·mm² of tube strength, by the pigments' numbers.
    found: Vec<(usize, f64)>,
}

impl Held {
    /// A clean tip, loaded as its tool is.
    pub fn loaded(tool: &Settings<'_>) -> Self {
        let full = if tool.action == Action::Lift { 0.0 } else { 1e3 * holds_mm3(tool) };
        Self { water: full, full, found: Vec::new() }
    }

    /// Of the water that it had, what is left, 0..1.
    pub fn left(&self) -> f64 {
        if self.full > 0.0 { (self.water / self.full).clamp(0.0, 1.0) } else { 0.0 }
    }

    /// After a touch of cells of so many mm².
    pub fn after(&mut self, did: &Did, pixel_mm2: f64) {
        self.water = (self.water - did.water_given * pixel_mm2).max(0.0);
        did.taken.iter().for_each(|(number, um)| count(&mut self.found, *number, um * pixel_mm2));
    }

    /// Paint that it found.
    pub fn found(&self) -> Amount {
        amount_of(&self.found)
    }
}

/// Water in a fresh tip, mm³: what it is given, as far as its hairs hold it.
fn holds_mm3(tool: &Settings<'_>) -> f64 {
    let given = 1e3 * tool.number("load.ml");
    if !parameters::has_hairs(tool) {
        return given;
    }
    let [half, thick] = parameters::halves(tool);
    let round = tool.chosen::<Form>("tip.form") != Form::Flat;
    let hair = hair::holds_mm3(
        tool.chosen("tip.hair"),
        [2.0 * half, 2.0 * thick],
        tool.number("tip.hair_length_mm"),
        round,
    );
    given.min(WATER_HELD * hair)
}

/// What a tip carries after a care; nothing where it is as it was made.
pub fn care(tool: &Settings<'_>, carried: Option<&Carried>, care: Care) -> Option<Carried> {
    let fresh = Held::loaded(tool);
    let held = carried.and_then(|c| c.inside.downcast_ref::<Held>()).cloned();
    let mut held = held.unwrap_or_else(|| fresh.clone());
    match care {
        Care::Clean => return None,
        Care::Dip => held.water = held.water.max(fresh.full),
        Care::Rinse => held.found.clear(),
        Care::Wipe => (held.water, held.found) = (0.0, Vec::new()),
    }
    let travel_mm = carried.map_or(0.0, |c| c.travel_mm);
    Some(Carried { travel_mm, inside: Rc::new(held) })
}

/// How full it is across its tip, and of what colour.
pub fn held(tool: &Settings<'_>, carried: Option<&Carried>) -> Vec<Part> {
    let kept = carried.and_then(|c| c.inside.downcast_ref::<Held>()).cloned();
    let held = kept.unwrap_or_else(|| Held::loaded(tool));
    if tool.action == Action::Lift {
        return Vec::new();
    }
    if tool.action != Action::Lay {
        return vec![Part { full: held.left(), rgb: CLEAR }; PARTS];
    }
    let parts = tool.paint("load.paint");
    let sum: f64 = parts.iter().map(|p| p.1).sum();
    let mix = pigment::mix(parts.iter().map(|(code, n)| (*code, n / sum)));
    let (k, s) = mix.expect("a checked mixture");
    let amount = Amount { mm3: 1.0, k: k.map(|v| v * 1e-3 * 1e3), s: s.map(|v| v * 1e-3 * 1e3) };
    let rgb = amount.masstone().unwrap_or_default();
    vec![Part { full: held.left(), rgb }; PARTS]
}
