//! Media: what a tool is made of, and how a contact moves material between tip and sheet.
//!
//! A medium is one folder and one line of [`MEDIA`]. It declares its parameters, the blocks it keeps on a sheet, the columns of its
//! trace, how it lies over what is under it and what a strip may lie on; and it makes the [`Acting`] part of a tool,
//! which does the work. Nothing outside its folder knows what a medium's values mean.

pub mod acting;
pub mod amount;
pub mod cause;
pub mod column;
pub mod dry;
pub mod eye;
pub mod ink;
mod name;
pub mod paste;
mod tip_shape;
pub mod under;
pub mod wash;

use crate::chain::{Action, Parameters, Qualities, Settings, Signals, Value};
use crate::error::{FieldError, Result};
use crate::ground::Feel;
use crate::said::Said;
use crate::sheet::{Changed, LONGEST_REST, Layout, STEP_S, Sheet, TILE_PIXELS, Tile};
use crate::tip::Shelf;

pub use acting::{Acting, At, Care, Carried, Held, Mark, Next, Travel};
pub use amount::{Amount, Balance};
pub use cause::{Cause, Told};
pub use column::{Column, Reading};
pub use eye::{Eye, Look};
pub use name::MediumName;
pub use tip_shape::{TipShape, superellipse};
pub use under::Under;

/// Every medium, from the ground up as they lie on each other. A new one is its folder and a line here.
pub static MEDIA: &[&dyn Medium] = &[&wash::Wash, &ink::Ink, &dry::Dry, &paste::Paste];

/// What a parameter's options are by nature: numbers that go with each of them.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, serde::Serialize)]
pub struct Nature {
    /// The parameter, and one of its options.
    pub parameter: &'static str,
    pub option: &'static str,
    /// Parameters with what they are for that option.
    #[cfg_attr(feature = "types", ts(type = "[string, number][]"))]
    pub values: Vec<(&'static str, f64)>,
}

/// What becomes of what is wet or has dried on a sheet.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Turn {
    /// All that is wet dries.
    Dry,
    /// All that has dried is wet again.
    Wet,
    /// So many minutes go by: what stays open no longer dries.
    Wait(f64),
}

/// Lets what is wet on a sheet dry, or makes all that has dried wet again.
pub fn turn_in_place(turn: Turn, sheet: &mut Sheet) {
    if let Turn::Wait(minutes) = turn {
        sheet.wait(minutes);
        // What moves by itself goes on meanwhile, until it rests.
        let steps = ((minutes * 60.0 / STEP_S) as u64).min(LONGEST_REST);
        sheet.rest_for(steps, &mut Changed::default());
    }
    let (across, down, now_min) = (sheet.across(), sheet.down(), sheet.waited_min());
    let ground = sheet.ground().clone();
    let eye = Eye::new(ground.bare(), sheet.grain_within(Feel::default()));
    for key in (0..down).flat_map(|ty| (0..across).map(move |tx| (tx, ty))) {
        if sheet.tile(key.0, key.1).is_none() {
            continue;
        }
        let tile = sheet.tile_in_place(key.0, key.1);
        for medium in MEDIA.iter().filter(|m| !m.wet().is_empty()) {
            match turn {
                // What has a clock has dried by it, or goes on drying.
                Turn::Wait(_) if medium.wet().iter().any(|l| l.clock.is_some()) => {}
                Turn::Dry | Turn::Wait(_) => {
                    let until_min = if turn == Turn::Dry { f64::INFINITY } else { now_min };
                    let under = eye.under(*medium, tile).unwrap_or_else(|| vec![eye.ground(); TILE_PIXELS]);
                    medium.dry_in_place(tile, &under, until_min);
                }
                Turn::Wet => medium.wet_in_place(tile, now_min),
            }
        }
    }
}

/// A word of advice from a medium: what is seen, and parameters that mend it.
#[derive(Debug, Clone, PartialEq)]
pub struct Word {
    pub code: &'static str,
    pub sentence: Said,
    pub remedy: Said,
    pub set: Vec<(&'static str, Value)>,
}

/// A medium.
pub trait Medium: Sync {
    /// As documents name it, and as people call it.
    fn name(&self) -> &'static str;
    fn label(&self) -> &'static str;

    /// What its tools can do, with the word for it.
    fn actions(&self) -> &'static [(Action, &'static str)];

    /// What its tools can be tuned in.
    fn parameters(&self) -> Parameters;

    /// What options of its parameters are by nature.
    fn natures(&self) -> Vec<Nature>;

    /// What it keeps on a sheet.
    fn layouts(&self) -> &'static [&'static Layout];

    /// What its trace tells of a contact, beside what every trace tells.
    fn columns(&self) -> &'static [Column];

    /// What a strip may lie on, so that its tools show what they do; the first is what a tool of `action` is shown on unless
    /// the painter chooses.
    fn unders(&self, action: Action) -> &'static [Under];

    /// What strips of a tool of `action` lie on: what `id` names, or the first.
    ///
    /// # Errors
    /// Names `under` and what there is where `id` is none of it.
    fn under(&self, action: Action, id: Option<&str>) -> Result<Under> {
        let all = self.unders(action);
        let found = match id {
            Some(id) => all.iter().find(|u| u.id == id),
            None => all.first(),
        };
        let known = || all.iter().map(|u| u.id).collect::<Vec<_>>().join(", ");
        found.copied().ok_or_else(|| FieldError::new("under", format!("must be one of {}", known())))
    }

    /// Lays what it holds over the looks of the pixels `from..from + looks.len()` of a tile. `grain_within`: share of the ground's
    /// grain that lies within a pixel.
    fn show_in_place(&self, tile: &Tile, from: usize, grain_within: f32, looks: &mut [Look]);

    /// Sheets of its tools are seen under light, for what stands up and gleams; otherwise flat.
    fn lit(&self) -> bool {
        false
    }

    /// Layouts whose fresh values are wet until they dry.
    fn wet(&self) -> &'static [&'static Layout] {
        &[]
    }

    /// The medium in whose blocks lies what its tools lay; nothing where it has its own.
    fn lies_as(&self) -> Option<&'static dyn Medium> {
        None
    }

    /// Whether what its tools lay is wet until it dries; whether it goes on by itself.
    fn lays_wet(&self) -> bool {
        self.lies_as().map_or(!self.wet().is_empty(), Medium::lays_wet)
    }
    fn moves(&self) -> bool {
        self.lies_as().map_or_else(|| self.layouts().iter().any(|l| l.clock.is_some()), Medium::moves)
    }

    /// Makes the `n`-th piece of what its clocks keep of the paper under a sheet; false where there are not so many.
    fn prepare(&self, sheet: &Sheet, n: usize) -> bool {
        match self.lies_as() {
            Some(medium) => medium.prepare(sheet, n),
            None => self.layouts().iter().find_map(|l| l.clock).is_some_and(|clock| clock.prepare(sheet, n)),
        }
    }

    /// Lets what of it is wet on a tile and dries by a time (min, of what was waited) dry, over what the tile's pixels look like
    /// without it; and makes what has dried wet again at a time. A medium that never dries does nothing.
    fn dry_in_place(&self, _tile: &mut Tile, _under: &[Look], _until_min: f64) {}
    fn wet_in_place(&self, _tile: &mut Tile, _now_min: f64) {}

    /// All of it on a sheet.
    fn on_sheet(&self, sheet: &Sheet) -> Amount;

    /// Why a mark is as it is: what takes from it, in factors whose product it is.
    fn causes(&self, tool: &Settings<'_>, told: &Told<'_>) -> Vec<Cause>;

    /// What a mark is like, in a few words with a full stop.
    fn headline(&self, tool: &Settings<'_>, told: &Told<'_>) -> Said;

    /// What can be done to its tools between strokes.
    fn cares(&self) -> &'static [Care] {
        &[Care::Clean]
    }

    /// What a tool carries after a care; nothing where it is clean and fresh. One that it does not have changes nothing.
    fn care(&self, _tool: &Settings<'_>, carried: Option<&Carried>, care: Care) -> Option<Carried> {
        carried.filter(|_| care != Care::Clean).cloned()
    }

    /// What a tool holds across its tip, from left to right; nothing for those that have no store.
    fn held(&self, _tool: &Settings<'_>, _carried: Option<&Carried>) -> Vec<Held> {
        Vec::new()
    }

    /// The shape of a tool's tip as it is held, to be looked at; nothing where it has none that bends.
    fn tip_shape(
        &self,
        _tool: &Settings<'_>,
        _qualities: &Qualities,
        _signals: &Signals,
    ) -> Option<TipShape> {
        None
    }

    /// What there is to say of a tool whose parts cannot go together, pressed with `most_gf` at the most.
    fn advice(&self, _tool: &Settings<'_>, _most_gf: f64) -> Vec<Word> {
        Vec::new()
    }

    /// The part of a tool that acts on a sheet. `carried`: what the tool carries from strokes before; nothing where it is clean
    /// and fresh.
    ///
    /// # Errors
    /// Names the parameter whose image is not on the shelf.
    fn acting(
        &self,
        tool: &Settings<'_>,
        sheet: &Sheet,
        shelf: &Shelf,
        carried: Option<&Carried>,
    ) -> Result<Box<dyn Acting>>;
}
