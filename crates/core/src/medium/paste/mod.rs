//! Paste: oil and acrylic with bristles. Paint is volume and pigment: it is loaded, laid, ploughed, taken up and given back, and
//! none appears or vanishes.
//!
//! After the paste study, with Baxter, Wendt & Lin 2004 (NPAR) and Chu, Baxter, Wei & Govindaraju 2010 behind it: the patch in which
//! hairs touch has an outline with lanes on it; its leading side sweeps every pixel once, and there all that the passage of the tip
//! would exchange is exchanged in closed form.

mod acting;
mod advice;
mod bed;
pub mod blocks;
mod drying;
mod exchange;
mod eye;
mod make;
mod noise;
pub mod parameters;
mod profile;
mod reason;
mod stuff;

use crate::chain::{Action, Parameters, Qualities, Settings, Signals};
use crate::error::Result;
use crate::said::Said;
use crate::sheet::{Layout, Sheet, Tile};
use crate::tip::{Shelf, hair};

use super::{
    Acting, Amount, Care, Carried, Cause, Column, Held, Look, Medium, Nature, TipShape, Told, Under, Word,
};
use acting::PasteTool;

/// Oil and acrylic.
pub struct Paste;

/// What its trace tells, in the order in which [`acting`] gives it.
const COLUMNS: &[Column] = &[
    Column::new("bend_mm", "Hairs pressed down", "mm"),
    Column::share("touched", "Touched"),
    Column::share("contact", "Contact"),
    Column::new("laid_um", "Paint laid", "µm"),
    Column::new("taken_um", "Paint taken up", "µm"),
    Column::new("film_um", "Film", "µm"),
    Column::share("paint_left", "Paint left"),
    Column::share("found", "Found paint in the hair"),
];

impl Medium for Paste {
    fn name(&self) -> &'static str {
        "paste"
    }

    fn label(&self) -> &'static str {
        "paste: oil, acrylic"
    }

    fn actions(&self) -> &'static [(Action, &'static str)] {
        &[(Action::Lay, "lays"), (Action::Blend, "blends"), (Action::Lift, "lifts"), (Action::Cut, "cuts in")]
    }

    fn parameters(&self) -> Parameters {
        parameters::PARAMETERS
    }

    fn natures(&self) -> Vec<Nature> {
        hair::all()
            .map(|(option, values)| Nature { parameter: "tip.hair", option, values: values.into() })
            .collect()
    }

    fn layouts(&self) -> &'static [&'static Layout] {
        static LAYOUTS: [&Layout; 6] = [
            &drying::DRY_TOP,
            &drying::DRY_BODY,
            &drying::DRIED,
            &blocks::TOP,
            &blocks::BODY,
            &blocks::FILMS,
        ];
        &LAYOUTS
    }

    fn columns(&self) -> &'static [Column] {
        COLUMNS
    }

    fn unders(&self, action: Action) -> &'static [Under] {
        bed::unders(action)
    }

    fn show_in_place(&self, tile: &Tile, from: usize, _grain_within: f32, looks: &mut [Look]) {
        eye::show_in_place(tile, from, looks);
    }

    fn lit(&self) -> bool {
        true
    }

    fn wet(&self) -> &'static [&'static Layout] {
        static WET: [&Layout; 1] = [&blocks::FILMS];
        &WET
    }

    fn dry_in_place(&self, tile: &mut Tile, under: &[Look], until_min: f64) {
        drying::dry_in_place(tile, under, until_min as f32);
    }

    fn wet_in_place(&self, tile: &mut Tile, now_min: f64) {
        drying::wet_in_place(tile, (now_min + parameters::OPEN_MIN) as f32);
    }

    fn on_sheet(&self, sheet: &Sheet) -> Amount {
        blocks::on_sheet(sheet)
    }

    fn causes(&self, tool: &Settings<'_>, told: &Told<'_>) -> Vec<Cause> {
        reason::causes(tool, told)
    }

    fn headline(&self, tool: &Settings<'_>, told: &Told<'_>) -> Said {
        reason::headline(tool, told)
    }

    fn cares(&self) -> &'static [Care] {
        &[Care::Dip, Care::Rinse, Care::Wipe, Care::Clean]
    }

    fn care(&self, tool: &Settings<'_>, carried: Option<&Carried>, care: Care) -> Option<Carried> {
        acting::care::care(tool, carried, care)
    }

    fn held(&self, tool: &Settings<'_>, carried: Option<&Carried>) -> Vec<Held> {
        acting::care::held(tool, carried)
    }

    fn advice(&self, tool: &Settings<'_>, most_gf: f64) -> Vec<Word> {
        advice::advice(tool, most_gf)
    }

    fn tip_shape(&self, tool: &Settings<'_>, qualities: &Qualities, signals: &Signals) -> Option<TipShape> {
        Some(acting::shape::shape(tool, qualities, signals))
    }

    fn acting(
        &self,
        tool: &Settings<'_>,
        sheet: &Sheet,
        _shelf: &Shelf,
        carried: Option<&Carried>,
    ) -> Result<Box<dyn Acting>> {
        Ok(Box::new(PasteTool::new(tool, sheet, carried)))
    }
}
