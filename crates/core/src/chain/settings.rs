//! The values of a tool as those read them who need not know tools: media and tips.

use std::collections::BTreeMap;

use super::{Action, Choice, Kind, Parameters, Quality, Value};

/// The values that a tool is tuned to.
#[derive(Debug, Clone, Copy)]
pub struct Settings<'a> {
    pub action: Action,
    /// Seed of everything left to chance.
    pub seed: u32,
    pub declared: Parameters,
    pub values: &'a BTreeMap<String, Value>,
    driven: [bool; Quality::COUNT],
}

impl<'a> Settings<'a> {
    /// `driven`: the qualities that a response drives or spreads.
    pub fn new(
        action: Action,
        seed: u32,
        declared: Parameters,
        values: &'a BTreeMap<String, Value>,
        driven: impl Iterator<Item = Quality>,
    ) -> Self {
        let mut is = [false; Quality::COUNT];
        driven.for_each(|q| is[q.index()] = true);
        Self { action, seed, declared, values, driven: is }
    }

    /// Whether a response drives or spreads a quality.
    pub fn is_driven(&self, quality: Quality) -> bool {
        self.driven[quality.index()]
    }

    /// A number; its default where there is none.
    ///
    /// # Panics
    /// Where the medium declares no such number.
    pub fn number(&self, id: &str) -> f64 {
        match (self.values.get(id), self.declared.find(id).map(|p| p.kind)) {
            (Some(Value::Number(n)), _) => *n,
            (_, Some(Kind::Number { default, .. })) => default,
            _ => panic!("{id} is not declared as a number"),
        }
    }

    /// # Panics
    /// Where the medium declares no such switch.
    pub fn switch(&self, id: &str) -> bool {
        match (self.values.get(id), self.declared.find(id).map(|p| p.kind)) {
            (Some(Value::Switch(on)), _) => *on,
            (_, Some(Kind::Switch { default })) => default,
            _ => panic!("{id} is not declared as a switch"),
        }
    }

    /// # Panics
    /// Where the medium declares no such choice.
    pub fn choice(&self, id: &str) -> &'a str {
        match (self.values.get(id), self.declared.find(id).map(|p| p.kind)) {
            (Some(Value::Choice(name)), _) => name,
            (_, Some(Kind::Choice { default, .. })) => default,
            _ => panic!("{id} is not declared as a choice"),
        }
    }

    /// A choice as the enum whose options the parameter declares.
    ///
    /// # Panics
    /// Where the value is none of them: a checked tool has none such.
    pub fn chosen<C: Choice>(&self, id: &str) -> C {
        let name = self.choice(id);
        C::named(name).unwrap_or_else(|| panic!("{id} is checked to be one of its options, and is {name}"))
    }

    /// A mixture: pigments with their parts, by code.
    ///
    /// # Panics
    /// Where the medium declares no such paint.
    pub fn paint(&self, id: &str) -> Vec<(&'a str, f64)> {
        match (self.values.get(id), self.declared.find(id).map(|p| p.kind)) {
            (Some(Value::Paint(parts)), _) => parts.iter().map(|(code, n)| (code.as_str(), *n)).collect(),
            (_, Some(Kind::Paint { default })) => default.to_vec(),
            _ => panic!("{id} is not declared as a paint"),
        }
    }

    /// The hash of an image; empty where the tool has none.
    pub fn image(&self, id: &str) -> &'a str {
        match self.values.get(id) {
            Some(Value::Choice(hash)) => hash,
            _ => "",
        }
    }
}
