//! Dry media: sticks that leave powder in the tooth of a ground, what moves that powder, and films laid as images.

mod acting;
mod bed;
pub mod blocks;
mod done;
mod dust;
pub mod entry;
mod eye;
pub mod face;
mod lay;
mod laying;
pub mod parameters;
mod press;
mod reason;
mod rub;
mod sheer;
pub mod sticks;
mod top;

use crate::chain::{Action, Choice, Parameters, Qualities, Settings, Signals};
use crate::error::Result;
use crate::said::Said;
use crate::sheet::{Layout, Sheet, Tile};
use crate::tip::Shelf;

use super::{Acting, Amount, Carried, Cause, Column, Look, Medium, Nature, TipShape, Told, Under};
use acting::DryTool;

/// Charcoal, graphite, pastel, chalk and coloured pencil; fingers, stumps, erasers, fixative.
pub struct Dry;

/// What its trace tells, in the order in which [`acting`] gives it.
const COLUMNS: &[Column] = &[
    Column::new("load", "Load on the tooth", ""),
    Column::place("full_load", "Load at the responses' most", ""),
    Column::share("covered", "Touched"),
    Column::share("contact", "Contact"),
    Column::share("full", "Tooth already full"),
    Column::new("laid_um_per_mm", "Powder laid", "µm/mm"),
    Column::new("pickup_um_per_mm", "Powder picked up", "µm/mm"),
    Column::new("film_um", "Thickest film", "µm"),
];

impl Medium for Dry {
    fn name(&self) -> &'static str {
        "dry"
    }

    fn label(&self) -> &'static str {
        "dry: charcoal, graphite, pastel, chalk"
    }

    fn actions(&self) -> &'static [(Action, &'static str)] {
        &[
            (Action::Lay, "lays"),
            (Action::Blend, "blends"),
            (Action::Lift, "lifts"),
            (Action::Cut, "rubs off"),
            (Action::Fix, "fixes"),
        ]
    }

    fn parameters(&self) -> Parameters {
        parameters::PARAMETERS
    }

    fn natures(&self) -> Vec<Nature> {
        let of = |stick: &sticks::Stick| Nature {
            parameter: "load.stick",
            option: stick.name(),
            values: sticks::nature(*stick).into(),
        };
        sticks::Stick::ALL.iter().map(of).collect()
    }

    fn layouts(&self) -> &'static [&'static Layout] {
        static LAYOUTS: [&Layout; 4] = [&blocks::POWDER, &blocks::LAYER, &blocks::FILM, &blocks::EVEN];
        &LAYOUTS
    }

    fn columns(&self) -> &'static [Column] {
        COLUMNS
    }

    fn unders(&self, action: Action) -> &'static [Under] {
        bed::unders(action)
    }

    fn show_in_place(&self, tile: &Tile, from: usize, grain_within: f32, looks: &mut [Look]) {
        eye::show_in_place(tile, from, grain_within, looks);
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

    fn tip_shape(&self, tool: &Settings<'_>, qualities: &Qualities, signals: &Signals) -> Option<TipShape> {
        Some(acting::stand::shape(tool, qualities, signals))
    }

    fn acting(
        &self,
        tool: &Settings<'_>,
        sheet: &Sheet,
        shelf: &Shelf,
        carried: Option<&Carried>,
    ) -> Result<Box<dyn Acting>> {
        Ok(Box::new(DryTool::new(tool, sheet, shelf, carried)?))
    }
}
