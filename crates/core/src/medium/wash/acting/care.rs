//! What a wet tip carries from stroke to stroke: its water, and paint that it found on the sheet.

use std::rc::Rc;

use super::make::Make;
use crate::chain::{Action, Settings};
use crate::medium::wash::blocks::amount_of;
use crate::medium::wash::lay::{Did, count};
use crate::medium::wash::parameters::Stuff;
use crate::medium::{Amount, Care, Carried, Held as Part};
use crate::paint::pigment;

/// Clear water, as it is drawn, sRGB.
const CLEAR: [u8; 3] = [196, 214, 226];
/// Parts across the tip that are told.
const PARTS: usize = 24;

/// What it holds.
#[derive(Debug, Clone, PartialEq)]
pub struct Held {
    /// Water, what it had when it was loaded, and the most that it can hold, µm·mm².
    water: f64,
    full: f64,
    most: f64,
    /// Water among it that came from the sheet, and has none of its own paint, µm·mm².
    thin: f64,
    /// Paint that was taken up, µm·mm² of tube strength, by the pigments' numbers.
    found: Vec<(usize, f64)>,
}

impl Held {
    /// A clean tip, loaded as it is made.
    pub fn loaded(make: &Make) -> Self {
        let (full, most) = (1e3 * make.loaded_mm3, 1e3 * make.most_mm3);
        Self { water: full, full, most, thin: 0.0, found: Vec::new() }
    }

    /// How readily it drinks: wholly while it is dry, not at all once it is full.
    pub fn thirst(&self) -> f64 {
        if self.most > 0.0 { (1.0 - self.water / self.most).clamp(0.0, 1.0) } else { 0.0 }
    }

    /// Of the water that it had, what is left, 0..1.
    pub fn left(&self) -> f64 {
        if self.full > 0.0 { (self.water / self.full).clamp(0.0, 1.0) } else { 0.0 }
    }

    /// Of its own paint, how much is in its water still, 0..1: water that it drank, or that changed places with its own, has thinned it.
    pub fn own(&self) -> f64 {
        if self.water > 0.0 { 1.0 - self.thin / self.water } else { 0.0 }
    }

    /// After a touch of cells of so many mm² with paint of such a strength in all; one that is `endless` loses nothing.
    pub fn after(&mut self, did: &Did, strength: f64, pixel_mm2: f64, endless: bool) {
        let given = if endless { 0.0 } else { did.water_given * pixel_mm2 };
        let taken = did.water_taken * pixel_mm2;
        if !endless {
            if self.water > 0.0 {
                self.thin *= (1.0 - given / self.water).max(0.0);
            }
            self.thin += taken + if strength > 0.0 { did.mingled / strength * pixel_mm2 } else { 0.0 };
        }
        self.water = (self.water + taken - given).clamp(0.0, self.most);
        self.thin = self.thin.min(self.water);
        did.taken.iter().for_each(|(number, um)| count(&mut self.found, *number, um * pixel_mm2));
    }

    /// How strong found paint is in its water, by the pigments' numbers.
    pub fn strengths(&self) -> impl Iterator<Item = (usize, f64)> {
        let water = self.water;
        self.found.iter().filter(move |_| water > 0.0).map(move |(number, um)| (*number, um / water))
    }

    /// So much of found paint is on the sheet again, µm·mm².
    pub fn gave_back(&mut self, paints: impl Iterator<Item = (usize, f64)>) {
        for (number, um) in paints {
            if let Some((_, held)) = self.found.iter_mut().find(|(n, _)| *n == number) {
                *held = (*held - um).max(0.0);
            }
        }
    }

    /// Paint that it found.
    pub fn found(&self) -> Amount {
        amount_of(self.found.iter().copied())
    }
}

/// What a tip carries after a care; nothing where it is as it was made.
pub fn care(make: &Make, carried: Option<&Carried>, care: Care) -> Option<Carried> {
    let fresh = Held::loaded(make);
    let held = carried.and_then(|c| c.inside.downcast_ref::<Held>()).cloned();
    let mut held = held.unwrap_or_else(|| fresh.clone());
    match care {
        Care::Clean => return None,
        Care::Dip => held.water = held.water.max(fresh.full),
        Care::Rinse => (held.thin, held.found) = (0.0, Vec::new()),
        Care::Wipe => (held.water, held.thin, held.found) = (0.0, 0.0, Vec::new()),
    }
    let travel_mm = carried.map_or(0.0, |c| c.travel_mm);
    Some(Carried { travel_mm, inside: Rc::new(held) })
}

/// How full it is across its tip, and of what colour.
pub fn held(tool: &Settings<'_>, make: &Make, carried: Option<&Carried>) -> Vec<Part> {
    let kept = carried.and_then(|c| c.inside.downcast_ref::<Held>()).cloned();
    let held = kept.unwrap_or_else(|| Held::loaded(make));
    if matches!(tool.action, Action::Lift | Action::Cut) || make.stuff != Stuff::Water {
        return Vec::new();
    }
    if tool.action != Action::Lay {
        return vec![Part { full: held.left(), rgb: CLEAR }; PARTS];
    }
    let parts = tool.paint("load.paint");
    let sum: f64 = parts.iter().map(|p| p.1).sum();
    let mix = pigment::mix(parts.iter().map(|(code, n)| (*code, n / sum)));
    let (k, s) = mix.expect("a checked mixture");
    let rgb = Amount { mm3: 1.0, k, s }.masstone().unwrap_or_default();
    vec![Part { full: held.left(), rgb }; PARTS]
}
