//! What can be tuned, declared once: station, unit, range, step, default, help, and why it may have no effect. Validation, the
//! browser's controls, the JSON Schema and the docs all read these declarations.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize, Serializer};

use super::{Choice, Quality, Settings, Station};

/// A value of a parameter.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(untagged)]
pub enum Value {
    // Tried in this order, and most are numbers.
    Number(f64),
    Switch(bool),
    Choice(String),
    /// Pigments with their parts.
    Paint(BTreeMap<String, f64>),
}

/// What values a parameter takes.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[serde(tag = "kind", rename_all = "kebab-case")]
pub enum Kind {
    Number {
        low: f64,
        high: f64,
        step: f64,
        default: f64,
        /// Whether equal ratios feel like equal steps.
        ratio: bool,
    },
    Switch {
        default: bool,
    },
    Choice {
        default: &'static str,
        options: &'static [(&'static str, &'static str)],
    },
    /// The hash of an image; empty for none.
    Image,
    /// A mixture: pigments by parts.
    Paint {
        #[cfg_attr(feature = "types", ts(type = "Record<string, number>"))]
        #[serde(serialize_with = "by_code")]
        default: &'static [(&'static str, f64)],
    },
}

/// Parts by pigment, as documents have them.
fn by_code<S: Serializer>(parts: &&'static [(&'static str, f64)], to: S) -> Result<S::Ok, S::Error> {
    to.collect_map(parts.iter().copied())
}

/// Why a parameter has no effect in a tool; nothing where it has.
pub type Idle = fn(&Settings<'_>) -> Option<&'static str>;

/// The declaration of one parameter.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, Serialize)]
pub struct Parameter {
    pub id: &'static str,
    pub station: Station,
    pub label: &'static str,
    pub unit: &'static str,
    #[serde(flatten)]
    pub kind: Kind,
    /// The quality a response may drive in its place.
    pub quality: Option<Quality>,
    pub help: &'static str,
    #[serde(skip)]
    pub idle: Option<Idle>,
}

impl Parameter {
    /// A number from `low` to `high` in steps: `[low, high, step, default]`.
    pub const fn number(
        id: &'static str,
        station: Station,
        label: &'static str,
        unit: &'static str,
        [low, high, step, default]: [f64; 4],
        help: &'static str,
    ) -> Self {
        let kind = Kind::Number { low, high, step, default, ratio: false };
        Self { id, station, label, unit, kind, quality: None, help, idle: None }
    }

    /// One of several named options.
    pub const fn choice<C: Choice>(
        id: &'static str,
        station: Station,
        label: &'static str,
        default: &'static str,
        help: &'static str,
    ) -> Self {
        let kind = Kind::Choice { default, options: C::OPTIONS };
        Self { id, station, label, unit: "", kind, quality: None, help, idle: None }
    }

    pub const fn switch(
        id: &'static str,
        station: Station,
        label: &'static str,
        default: bool,
        help: &'static str,
    ) -> Self {
        Self { id, station, label, unit: "", kind: Kind::Switch { default }, quality: None, help, idle: None }
    }

    pub const fn image(id: &'static str, station: Station, label: &'static str, help: &'static str) -> Self {
        Self { id, station, label, unit: "", kind: Kind::Image, quality: None, help, idle: None }
    }

    pub const fn paint(
        id: &'static str,
        station: Station,
        label: &'static str,
        default: &'static [(&'static str, f64)],
        help: &'static str,
    ) -> Self {
        Self { id, station, label, unit: "", kind: Kind::Paint { default }, quality: None, help, idle: None }
    }

    /// Equal ratios of it feel like equal steps.
    #[must_use]
    pub const fn by_ratio(mut self) -> Self {
        if let Kind::Number { ratio, .. } = &mut self.kind {
            *ratio = true;
        }
        self
    }

    /// Responses may drive `quality` in its place.
    #[must_use]
    pub const fn driven_as(mut self, quality: Quality) -> Self {
        self.quality = Some(quality);
        self
    }

    /// Says when it has no effect, and why.
    #[must_use]
    pub const fn idle(mut self, idle: Idle) -> Self {
        self.idle = Some(idle);
        self
    }

    /// What a document that leaves it out has.
    pub fn default_value(&self) -> Value {
        match self.kind {
            Kind::Number { default, .. } => Value::Number(default),
            Kind::Switch { default } => Value::Switch(default),
            Kind::Choice { default, .. } => Value::Choice(default.to_owned()),
            Kind::Image => Value::Choice(String::new()),
            Kind::Paint { default } => {
                Value::Paint(default.iter().map(|(code, parts)| ((*code).to_owned(), *parts)).collect())
            }
        }
    }
}

/// All parameters that a medium's tools have, in tables: what it shares with other media, and its own.
#[derive(Debug, Clone, Copy)]
pub struct Parameters(pub &'static [&'static [Parameter]]);

impl Parameters {
    /// In the order in which stations show them.
    pub fn iter(self) -> impl Iterator<Item = &'static Parameter> {
        self.0.iter().flat_map(|table| table.iter())
    }

    /// The declaration named `id`.
    pub fn find(self, id: &str) -> Option<&'static Parameter> {
        self.iter().find(|p| p.id == id)
    }

    /// The parameter that is a quality's own value; nothing where the medium does not have the quality.
    pub fn of_quality(self, quality: Quality) -> Option<&'static Parameter> {
        self.iter().find(|p| p.quality == Some(quality))
    }

    /// Range and unit of a quality: `(low, high, unit)`.
    pub fn range_of(self, quality: Quality) -> Option<(f64, f64, &'static str)> {
        let p = self.of_quality(quality)?;
        match p.kind {
            Kind::Number { low, high, .. } => Some((low, high, p.unit)),
            _ => None,
        }
    }
}
