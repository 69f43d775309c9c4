//! Watercolour: water that goes on after the hand lifts, and the pigments it carries.
//!
//! After the wash study: a film of water on the paper, driven by its head and held by the line of the wet; pigments that go with it,
//! settle into the paper and are lifted again; paper that drinks; air that takes. The sheet's clock runs it in fixed steps.

pub(super) mod acting;
mod around;
mod awake;
pub(super) mod bed;
pub mod blocks;
mod clock;
mod drying;
mod eye;
mod grids;
mod lay;
mod paper;
pub mod parameters;
pub mod pigments;
pub(super) mod reason;
pub mod resist;
mod soak;
mod step;
#[cfg(test)]
mod trials;

use crate::chain::{Action, Parameters, Qualities, Settings, Signals};
use crate::error::Result;
use crate::said::Said;
use crate::sheet::{Layout, Sheet, Tile};
use crate::tip::{Shelf, hair};

use super::{
    Acting, Amount, Care, Carried, Cause, Column, Held, Look, Medium, Nature, TipShape, Told, Under,
};
use acting::WashTool;
use acting::make::Make;
use pigments::Vehicle;

/// Watercolour.
pub struct Wash;

const CALLED: reason::Called = reason::Called {
    tip: "brush",
    left: "{{share}} % of its water left",
    brings: "{{closed}}: brings {{water}} µm of water.",
    brings_none: "{{closed}}: brings no water.",
    drinks: "{{closed}}: drinks {{water}} µm of water.",
};

/// What its trace tells, in the order in which [`acting`] gives it.
pub(super) const COLUMNS: &[Column] = &[
    Column::new("bend_mm", "Hairs pressed down", "mm"),
    Column::share("touched", "Touched"),
    Column::new("water_um", "Water given", "µm"),
    Column::new("drunk_um", "Water taken up", "µm"),
    Column::new("paint_nm", "Paint given", "nm"),
    Column::new("lifted_nm", "Paint taken up", "nm"),
    Column::share("water_left", "Water left"),
    Column::share("fed", "Comes in time"),
];

impl Medium for Wash {
    fn name(&self) -> &'static str {
        "wash"
    }

    fn label(&self) -> &'static str {
        "wash: watercolour"
    }

    fn actions(&self) -> &'static [(Action, &'static str)] {
        &[
            (Action::Lay, "lays"),
            (Action::Blend, "wets"),
            (Action::Lift, "lifts"),
            (Action::Repel, "drives off"),
            (Action::Cut, "rubs off masking fluid"),
        ]
    }

    fn parameters(&self) -> Parameters {
        parameters::PARAMETERS
    }

    fn natures(&self) -> Vec<Nature> {
        hair::all()
            .map(|(option, values)| {
                // What draws together in a wash is water, not tufts.
                let values = values.into_iter().filter(|(id, _)| parameters::PARAMETERS.find(id).is_some());
                Nature { parameter: "tip.hair", option, values: values.collect() }
            })
            .collect()
    }

    fn layouts(&self) -> &'static [&'static Layout] {
        static LAYOUTS: std::sync::OnceLock<Vec<&'static Layout>> = std::sync::OnceLock::new();
        LAYOUTS
            .get_or_init(|| [&blocks::WATER, &resist::RESIST].into_iter().chain(&blocks::PIGMENTS).collect())
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

    fn wet(&self) -> &'static [&'static Layout] {
        static WET: [&Layout; 1] = [&blocks::WATER];
        &WET
    }

    fn dry_in_place(&self, tile: &mut Tile, _under: &[Look], _until_min: f64) {
        drying::dry_in_place(tile);
    }

    fn wet_in_place(&self, tile: &mut Tile, _now_min: f64) {
        drying::spray_in_place(tile);
    }

    fn on_sheet(&self, sheet: &Sheet) -> Amount {
        blocks::on_sheet(sheet, |vehicle| vehicle == Vehicle::Gum)
    }

    fn causes(&self, tool: &Settings<'_>, told: &Told<'_>) -> Vec<Cause> {
        reason::causes(tool, told, CALLED)
    }

    fn headline(&self, tool: &Settings<'_>, told: &Told<'_>) -> Said {
        reason::headline(tool, told, CALLED)
    }

    fn cares(&self) -> &'static [Care] {
        &[Care::Dip, Care::Rinse, Care::Wipe, Care::Clean]
    }

    fn care(&self, tool: &Settings<'_>, carried: Option<&Carried>, care: Care) -> Option<Carried> {
        acting::care::care(&Make::of_wash(tool), carried, care)
    }

    fn held(&self, tool: &Settings<'_>, carried: Option<&Carried>) -> Vec<Held> {
        acting::care::held(tool, &Make::of_wash(tool), carried)
    }

    fn tip_shape(&self, tool: &Settings<'_>, qualities: &Qualities, signals: &Signals) -> Option<TipShape> {
        Some(acting::shape::shape(Make::of_wash(tool), qualities, signals))
    }

    fn acting(
        &self,
        tool: &Settings<'_>,
        sheet: &Sheet,
        _shelf: &Shelf,
        carried: Option<&Carried>,
    ) -> Result<Box<dyn Acting>> {
        Ok(Box::new(WashTool::new(tool, Make::of_wash(tool), sheet, carried)))
    }
}
