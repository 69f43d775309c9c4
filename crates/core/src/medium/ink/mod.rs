//! Ink: a nib or a brush that is fed with it.
//!
//! On the sheet ink is water with pigment of its own behaviour, and all that watercolour knows of both holds for it: it soaks in, feathers
//! in paper that is not sized, runs into what is wet. What is its own is how it comes: through a slit, no faster than it can, from tines
//! that force spreads; and that it dries waterproof, or does not.

mod make;
pub mod parameters;

use crate::chain::{Action, Parameters, Qualities, Settings, Signals};
use crate::error::Result;
use crate::said::Said;
use crate::sheet::{Layout, Sheet, Tile};
use crate::tip::Shelf;

use super::wash::acting::{WashTool, care, shape};
use super::wash::pigments::Vehicle;
use super::wash::{self, blocks, reason};
use super::{
    Acting, Amount, Care, Carried, Cause, Column, Held, Look, Medium, Nature, TipShape, Told, Under,
};

/// Ink.
pub struct Ink;

const CALLED: reason::Called = reason::Called {
    tip: "tip",
    left: "{{share}} % of its ink left",
    brings: "{{closed}}: brings {{water}} µm of ink.",
    brings_none: "{{closed}}: brings no ink.",
    drinks: "{{closed}}: drinks {{water}} µm of ink.",
};

impl Medium for Ink {
    fn name(&self) -> &'static str {
        "ink"
    }

    fn label(&self) -> &'static str {
        "ink: nib and brush"
    }

    fn actions(&self) -> &'static [(Action, &'static str)] {
        &[(Action::Lay, "lays")]
    }

    fn parameters(&self) -> Parameters {
        parameters::PARAMETERS
    }

    fn natures(&self) -> Vec<Nature> {
        Vec::new()
    }

    fn layouts(&self) -> &'static [&'static Layout] {
        &[]
    }

    fn lies_as(&self) -> Option<&'static dyn Medium> {
        Some(&wash::Wash)
    }

    fn columns(&self) -> &'static [Column] {
        wash::COLUMNS
    }

    fn unders(&self, _action: Action) -> &'static [Under] {
        wash::bed::unders(Action::Lay)
    }

    fn show_in_place(&self, _tile: &Tile, _from: usize, _grain_within: f32, _looks: &mut [Look]) {}

    fn on_sheet(&self, sheet: &Sheet) -> Amount {
        blocks::on_sheet(sheet, |vehicle| vehicle != Vehicle::Gum)
    }

    fn causes(&self, tool: &Settings<'_>, told: &Told<'_>) -> Vec<Cause> {
        reason::causes(tool, told, CALLED)
    }

    fn headline(&self, tool: &Settings<'_>, told: &Told<'_>) -> Said {
        let fed = told.value("fed");
        if fed < 0.5 {
            return Said::new("starved: {{share}} % of the ink comes in time.").count(
                "share",
                100.0 * fed,
                0,
            );
        }
        reason::headline(tool, told, CALLED)
    }

    fn cares(&self) -> &'static [Care] {
        &[Care::Dip, Care::Wipe, Care::Clean]
    }

    fn care(&self, tool: &Settings<'_>, carried: Option<&Carried>, care: Care) -> Option<Carried> {
        care::care(&make::of(tool), carried, care)
    }

    fn held(&self, tool: &Settings<'_>, carried: Option<&Carried>) -> Vec<Held> {
        care::held(tool, &make::of(tool), carried)
    }

    fn tip_shape(&self, tool: &Settings<'_>, qualities: &Qualities, signals: &Signals) -> Option<TipShape> {
        Some(shape::shape(make::of(tool), qualities, signals))
    }

    fn acting(
        &self,
        tool: &Settings<'_>,
        sheet: &Sheet,
        _shelf: &Shelf,
        carried: Option<&Carried>,
    ) -> Result<Box<dyn Acting>> {
        Ok(Box::new(WashTool::new(tool, make::of(tool), sheet, carried)))
    }
}
