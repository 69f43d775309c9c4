//! What a medium tells of a contact in the trace, declared once: the trace's CSV, comparing, screens and their types read it.

use serde::Serialize;

/// One number of every contact.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Column {
    pub id: &'static str,
    pub label: &'static str,
    pub unit: &'static str,
    /// How people read it.
    pub kind: Reading,
}

/// How a number of the trace is read.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum Reading {
    /// In its unit.
    Amount,
    /// A share of 0..1, in %.
    Share,
    /// Degrees that come round again.
    Turn,
    /// Says where, when, or beside what to read another, and is not compared.
    Place,
}

impl Column {
    pub const fn new(id: &'static str, label: &'static str, unit: &'static str) -> Self {
        Self { id, label, unit, kind: Reading::Amount }
    }

    /// Where or when it was, or beside what to read another: not compared.
    pub const fn place(id: &'static str, label: &'static str, unit: &'static str) -> Self {
        Self { id, label, unit, kind: Reading::Place }
    }

    /// Degrees that come round again.
    pub const fn turn(id: &'static str, label: &'static str) -> Self {
        Self { id, label, unit: "°", kind: Reading::Turn }
    }

    /// A share of 0..1.
    pub const fn share(id: &'static str, label: &'static str) -> Self {
        Self { id, label, unit: "", kind: Reading::Share }
    }
}

/// The value of the column named `id` among those of a contact; nothing where there is no such column.
pub fn value(columns: &[Column], values: &[f64], id: &str) -> Option<f64> {
    columns.iter().position(|c| c.id == id).and_then(|i| values.get(i)).copied()
}
