//! What screens are told: declarations, figures and answers, as plain data with a type each. The page's TypeScript types are
//! written from these ([`typescript`], with the feature `types`).

pub mod figures;
#[cfg(feature = "types")]
pub mod typescript;

use serde::Serialize;

use crate::chain::{Action, Parameter, Quality, Signal, signal::SignalInfo};
use crate::ground::recipe::{self, Number, Surface};
use crate::ground::tint;
use crate::hand::{DeviceProfile, profile};
use crate::medium::{Amount, Balance, Care, Column, MEDIA, Medium, Nature, Under};
use crate::paint::colour::Display;
use crate::paint::{pigment, swatch};
use crate::relief::view::View;
use crate::said::Said;
use crate::sheet::Surroundings;
use crate::stroke::reason::{Reason, explain};
use crate::stroke::trace::COMMON;
use crate::stroke::{DabTrace, Trace};
use crate::technique::{self, Technique};
use crate::tool::Tool;

/// What the program declares: everything that a screen needs to lay out controls, plots and tables.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
pub struct Declarations {
    /// Version of the tool document that this program writes.
    pub tool_version: u32,
    pub media: Vec<MediumDeclared>,
    /// What every trace tells of a dab, whatever the medium.
    pub columns: Vec<Column>,
    /// In the order in which a dab's qualities stand.
    pub qualities: [Quality; Quality::COUNT],
    pub signals: Vec<SignalInfo>,
    pub surfaces: Vec<SurfaceDeclared>,
    pub ground_numbers: &'static [Number],
    pub tints: Vec<TintDeclared>,
    /// What paints are mixed of.
    pub pigments: Vec<PigmentDeclared>,
    pub techniques: &'static [Technique],
    pub samples: Samples,
    /// How sheets are looked at unless the painter chooses.
    pub view: View,
    /// The room and the board that sheets lie in unless the painter says otherwise.
    pub surroundings: Surroundings,
    /// The styluses that ship with the program, to play gestures through.
    pub simulated_styluses: Vec<DeviceProfile>,
    pub profile_fields: &'static [profile::Field],
}

/// What a medium declares.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
pub struct MediumDeclared {
    pub medium: &'static str,
    pub label: &'static str,
    pub actions: Vec<ActionDeclared>,
    pub parameters: Vec<&'static Parameter>,
    /// What its trace tells of a dab, in the order of a dab's values.
    pub columns: &'static [Column],
    pub natures: Vec<Nature>,
    /// What can be done to its tools between strokes.
    pub cares: &'static [Care],
    /// What it lays is wet until it dries.
    pub wet: bool,
    /// Its sheets are seen under light as they are.
    pub lit: bool,
    /// What it lays goes on by itself: the room and the slope of the board matter.
    pub moves: bool,
}

/// Something that a medium's tools do, the word for it, and what their strips may lie on, the usual first.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
pub struct ActionDeclared {
    pub action: Action,
    pub word: &'static str,
    pub unders: &'static [Under],
}

#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
pub struct SurfaceDeclared {
    pub surface: Surface,
    pub label: &'static str,
}

/// A tint as it looks at full strength.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
pub struct TintDeclared {
    pub tint: &'static str,
    pub srgb8: [u8; 3],
}

/// A pigment, by its colour-index code, and as it looks at full strength.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
pub struct PigmentDeclared {
    pub code: &'static str,
    pub name: &'static str,
    pub masstone: [u8; 3],
}

fn pigment_declared(pigment: &'static pigment::Pigment) -> PigmentDeclared {
    let alone = swatch::of(&[(pigment.code.clone(), 1.0)].into(), 0.0).expect("it ships");
    PigmentDeclared { code: &pigment.code, name: &pigment.name, masstone: alone.masstone }
}

/// The strokes that show a tool in the rack: one that lays, one that moves.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
pub struct Samples {
    pub lay: &'static Technique,
    #[serde(rename = "move")]
    pub moves: &'static Technique,
}

/// Everything that is declared.
pub fn declarations() -> Declarations {
    let display = Display::shared();
    let tint =
        |t: &tint::Tint| TintDeclared { tint: t.name, srgb8: display.srgb8(&tint::reflectance(t, 1.0)) };
    Declarations {
        tool_version: crate::tool::document::VERSION,
        media: MEDIA.iter().map(|m| medium(*m)).collect(),
        columns: COMMON.iter().map(|(column, _)| *column).collect(),
        qualities: Quality::ALL,
        signals: Signal::ALL.iter().map(|s| s.info()).collect(),
        surfaces: Surface::ALL.map(|s| SurfaceDeclared { surface: s, label: s.label() }).into(),
        ground_numbers: recipe::NUMBERS,
        tints: tint::TINTS.iter().map(tint).collect(),
        pigments: pigment::all().iter().map(pigment_declared).collect(),
        techniques: technique::all(),
        view: View::default(),
        surroundings: Surroundings::default(),
        samples: Samples { lay: technique::sample(Action::Lay), moves: technique::sample(Action::Blend) },
        simulated_styluses: profile::simulated().into(),
        profile_fields: &profile::FIELDS,
    }
}

fn medium(medium: &dyn Medium) -> MediumDeclared {
    let action = |(action, word): &(Action, &'static str)| ActionDeclared {
        action: *action,
        word,
        unders: medium.unders(*action),
    };
    MediumDeclared {
        medium: medium.name(),
        label: medium.label(),
        actions: medium.actions().iter().map(action).collect(),
        parameters: medium.parameters().iter().collect(),
        columns: medium.columns(),
        natures: medium.natures(),
        cares: medium.cares(),
        wet: medium.lays_wet(),
        lit: medium.lit(),
        moves: medium.moves(),
    }
}

/// An amount for a screen: how much it is, and what it looks like where it lies thick.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[cfg_attr(feature = "types", ts(rename = "Amount"))]
pub struct AmountShown {
    pub mm3: f64,
    pub rgb: Option<[u8; 3]>,
}

impl From<Amount> for AmountShown {
    fn from(amount: Amount) -> Self {
        Self { mm3: amount.mm3, rgb: amount.masstone() }
    }
}

/// A balance for a screen, and all of the tool's medium on the sheet after it.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[cfg_attr(feature = "types", ts(rename = "Balance"))]
pub struct BalanceShown {
    pub brought: AmountShown,
    pub held_before: AmountShown,
    pub held: AmountShown,
    pub found: AmountShown,
    pub gone: AmountShown,
    pub sheet: AmountShown,
}

/// A trace for a screen: no more dabs than it can show.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[cfg_attr(feature = "types", ts(rename = "Trace"))]
pub struct TraceShown<'a> {
    pub length_mm: f64,
    pub dabs: Vec<&'a DabTrace>,
    pub balance: BalanceShown,
    /// Why the stroke was not laid to its end; nothing where it was.
    pub cut: Option<&'a Said>,
}

impl<'a> TraceShown<'a> {
    /// At most `most` dabs of a trace and its last; `sheet`: what is on the sheet after it.
    pub fn of(trace: &'a Trace, most: usize, sheet: Amount) -> Self {
        let Balance { brought, held_before, held, found, gone } = trace.balance;
        let balance = BalanceShown {
            brought: brought.into(),
            held_before: held_before.into(),
            held: held.into(),
            found: found.into(),
            gone: gone.into(),
            sheet: sheet.into(),
        };
        let step = trace.dabs.len().div_ceil(most.max(1)).max(1);
        let mut dabs: Vec<_> = trace.dabs.iter().step_by(step).collect();
        if let Some(last) = trace.dabs.last()
            && dabs.last().is_none_or(|d| d.at_mm < last.at_mm)
        {
            dabs.push(last);
        }
        let cut = trace.cut.as_ref();
        Self { length_mm: trace.length_mm(), dabs, balance, cut }
    }
}

/// A dab and why it is as it is.
#[derive(Debug, Serialize)]
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
pub struct Explained<'a> {
    pub dab: &'a DabTrace,
    pub reason: Reason,
}

impl<'a> Explained<'a> {
    /// The dab of a trace nearest to `at_mm` of travel; nothing where there is none.
    pub fn of(tool: &Tool, trace: &'a Trace, at_mm: f64) -> Option<Self> {
        trace.nearest(at_mm).map(|dab| Self { dab, reason: explain(tool, dab) })
    }
}
