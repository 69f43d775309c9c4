//! A medium as documents name it.

use std::ops::Deref;

use serde::de::Error;
use serde::{Deserialize, Deserializer, Serialize, Serializer};

use super::{MEDIA, Medium};

/// One of the table of media.
#[derive(Clone, Copy)]
pub struct MediumName(&'static dyn Medium);

impl MediumName {
    /// The medium that documents name so.
    pub fn named(name: &str) -> Option<Self> {
        MEDIA.iter().find(|m| m.name() == name).map(|m| Self(*m))
    }

    /// All of them.
    pub fn all() -> impl Iterator<Item = Self> {
        MEDIA.iter().map(|m| Self(*m))
    }
}

impl Deref for MediumName {
    type Target = dyn Medium;
    fn deref(&self) -> &Self::Target {
        self.0
    }
}

impl std::fmt::Debug for MediumName {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(self.name())
    }
}

impl PartialEq for MediumName {
    fn eq(&self, other: &Self) -> bool {
        self.name() == other.name()
    }
}

impl Serialize for MediumName {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name())
    }
}

impl<'de> Deserialize<'de> for MediumName {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let name = String::deserialize(deserializer)?;
        let known = || MEDIA.iter().map(|m| m.name()).collect::<Vec<_>>().join(", ");
        Self::named(&name).ok_or_else(|| D::Error::custom(format!("must be one of {}, got {name}", known())))
    }
}
