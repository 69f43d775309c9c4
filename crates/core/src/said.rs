//! Sentences that can be said in another language: the English text, under which a catalogue would hold its translation, and apart
//! from it what is counted and named in it.

use std::borrow::Cow;
use std::collections::BTreeMap;
use std::fmt;

use serde::Serialize;

/// A sentence or a phrase; `{{name}}` in its text stands for the value of that name.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Said {
    #[cfg_attr(feature = "types", ts(type = "string"))]
    pub text: Cow<'static, str>,
    #[cfg_attr(feature = "types", ts(type = "Record<string, Part>"))]
    pub values: BTreeMap<&'static str, Part>,
}

/// What stands in a sentence.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
#[serde(untagged)]
pub enum Part {
    /// A number, written with so many digits after the point.
    Counted { number: f64, digits: usize },
    /// A phrase that is said by itself.
    Phrase(Said),
}

impl Said {
    pub fn new(text: impl Into<Cow<'static, str>>) -> Self {
        Self { text: text.into(), values: BTreeMap::new() }
    }

    /// With a number in the place `name`, written with `digits` after the point.
    #[must_use]
    pub fn count(mut self, name: &'static str, number: f64, digits: usize) -> Self {
        self.values.insert(name, Part::Counted { number, digits });
        self
    }

    /// With a phrase in the place `name`.
    #[must_use]
    pub fn phrase(mut self, name: &'static str, phrase: impl Into<Self>) -> Self {
        self.values.insert(name, Part::Phrase(phrase.into()));
        self
    }

    /// Whether there is nothing to say.
    pub fn is_empty(&self) -> bool {
        self.text.is_empty()
    }
}

impl From<&'static str> for Said {
    fn from(text: &'static str) -> Self {
        Self::new(text)
    }
}

impl From<String> for Said {
    fn from(text: String) -> Self {
        Self::new(text)
    }
}

/// In English.
impl fmt::Display for Said {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut rest = self.text.as_ref();
        while let Some((before, after)) = rest.split_once("{{") {
            let (name, after) = after.split_once("}}").ok_or(fmt::Error)?;
            f.write_str(before)?;
            match self.values.get(name).ok_or(fmt::Error)? {
                Part::Counted { number, digits } => write!(f, "{number:.digits$}")?,
                Part::Phrase(phrase) => phrase.fmt(f)?,
            }
            rest = after;
        }
        f.write_str(rest)
    }
}
