//! Why a mark is as it is, as a medium tells it.

use crate::chain::{Qualities, Quality, Station};
use crate::said::Said;

use super::column::{self, Column};

/// What the trace tells of one contact.
#[derive(Debug, Clone, Copy)]
pub struct Told<'a> {
    pub qualities: Qualities,
    /// Area of the footprint, mm², and travel that the contact stands for, mm.
    pub area_mm2: f64,
    pub travel_mm: f64,
    /// The medium's columns and their values.
    pub columns: &'static [Column],
    pub values: &'a [f64],
}

impl Told<'_> {
    /// The value of a column.
    ///
    /// # Panics
    /// Where the medium declares no such column.
    pub fn value(&self, id: &str) -> f64 {
        column::value(self.columns, self.values, id).unwrap_or_else(|| panic!("{id} is a declared column"))
    }
}

/// One factor of a mark. All of them together multiply to it.
#[derive(Debug, Clone, PartialEq)]
pub struct Cause {
    pub station: Station,
    /// What acts, and how much of it: `tooth`, `43 % touched`.
    pub what: Said,
    pub much: Option<Said>,
    /// Under 1 takes away, over 1 adds.
    pub times: f64,
    /// The quality behind it, whose responses share it.
    pub quality: Option<Quality>,
    /// `times` is counted from the most that the quality's responses can give: all of it is theirs.
    pub of_most: bool,
    /// The parameter by which a painter changes it, where no quality stands behind it.
    pub parameter: Option<&'static str>,
}

impl Cause {
    /// A factor that no quality stands behind.
    pub fn plain(station: Station, what: impl Into<Said>, times: f64) -> Self {
        Self { station, what: what.into(), much: None, times, quality: None, of_most: false, parameter: None }
    }

    /// The same, with how much of it acts.
    #[must_use]
    pub fn so_much(self, much: Said) -> Self {
        Self { much: Some(much), ..self }
    }

    /// The same, changed by a parameter.
    #[must_use]
    pub fn mended_by(self, parameter: &'static str) -> Self {
        Self { parameter: Some(parameter), ..self }
    }

    /// What a quality's value takes from the mark.
    pub fn of_quality(quality: Quality, what: &'static str, times: f64) -> Self {
        Self { quality: Some(quality), ..Self::plain(Station::Touch, what, times) }
    }

    /// What a quality takes from the mark against the most that its responses can give.
    pub fn of_most(quality: Quality, what: &'static str, times: f64) -> Self {
        Self { of_most: true, ..Self::of_quality(quality, what, times) }
    }
}
