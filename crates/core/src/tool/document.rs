//! The tool document: versioned JSON, read through one gate that names what it refuses.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use serde_json::Value as Json;
use sha2::{Digest, Sha256};

use crate::chain::{Action, Kind, Quality, Settings, Value};
use crate::error::{FieldError, Result, text, within};
use crate::ground::{Feel, Recipe};
use crate::image::is_hash;
use crate::medium::MediumName;
use crate::num;
use crate::paint::pigment;
use crate::touch::{Combine, Response};

/// One step of the migration path: brings a document of version `i + 1` to version `i + 2`.
type Migration = fn(&mut Json);
/// The steps, oldest first. A change of the document's shape adds one here; documents kept for years stay readable.
const MIGRATIONS: &[Migration] = &[paper_becomes_ground];
/// The document version this program writes, and the newest it reads.
pub const VERSION: u32 = MIGRATIONS.len() as u32 + 1;
const MOST_RESPONSES: usize = 48;
const LONGEST_NAME: usize = 120;
const LONGEST_INTENT: usize = 400;

/// A tool, checked. Parameters that a document leaves out have their defaults.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Tool {
    pub format: String,
    pub version: u32,
    pub name: String,
    /// What it is for, in a sentence.
    #[serde(default)]
    pub intent: String,
    #[cfg_attr(feature = "types", ts(type = "string"))]
    pub medium: MediumName,
    pub action: Action,
    /// Seed of everything left to chance.
    #[serde(default)]
    pub seed: u32,
    /// What it is tried on. A copy: a ground that changes later does not change a kept tool.
    #[serde(default)]
    pub ground: Recipe,
    #[serde(default)]
    #[cfg_attr(feature = "types", ts(type = "Record<string, Value>"))]
    pub parameters: BTreeMap<String, Value>,
    #[serde(default)]
    pub responses: Vec<Response>,
    /// How several responses on a quality combine, where it is not by product.
    #[serde(default)]
    #[cfg_attr(feature = "types", ts(type = "Record<string, Combine>"))]
    pub combine: BTreeMap<Quality, Combine>,
}

/// The `format` every tool document names.
pub const FORMAT: &str = "saltmarsh.tool";

impl Tool {
    /// Reads, migrates and checks a document.
    ///
    /// # Errors
    /// Names the first field that is refused and its limit; a document of a newer version is refused whole.
    pub fn parse(text: &str) -> Result<Self> {
        // Nearly all are of the newest version and hold: they need no tree of JSON.
        match serde_json::from_str::<Self>(text) {
            Ok(tool) if tool.version == VERSION => tool.checked(),
            _ => {
                let json: Json = serde_json::from_str(text)
                    .map_err(|e| FieldError::new("document", format!("is not JSON: {e}")))?;
                Self::from_json(json)
            }
        }
    }

    /// As [`Tool::parse`], from JSON already read.
    pub fn from_json(json: Json) -> Result<Self> {
        let json = migrate(json, MIGRATIONS)?;
        Self::deserialize(&json).map_err(|e| refusal(&json, &e))?.checked()
    }

    fn checked(mut self) -> Result<Self> {
        self.fill_in();
        self.check()?;
        Ok(self)
    }

    pub(super) fn fill_in(&mut self) {
        for p in self.medium.parameters().iter() {
            if !self.parameters.contains_key(p.id) {
                self.parameters.insert(p.id.to_owned(), p.default_value());
            }
        }
        self.ground.fill_in();
    }

    /// Checks every field against its declaration.
    ///
    /// # Errors
    /// Names the field and the limit.
    pub fn check(&self) -> Result<()> {
        if self.format != FORMAT {
            return Err(FieldError::new("format", format!("must be \"{FORMAT}\"")));
        }
        text("name", &self.name, 1, LONGEST_NAME)?;
        text("intent", &self.intent, 0, LONGEST_INTENT)?;
        self.ground.check().map_err(|e| e.within("ground"))?;
        if !self.medium.actions().iter().any(|(action, _)| *action == self.action) {
            return Err(FieldError::new(
                "action",
                format!("is nothing that a {} tool does", self.medium.name()),
            ));
        }
        for (id, value) in &self.parameters {
            check_value(self.medium, id, value).map_err(|e| e.within("parameters"))?;
        }
        if self.responses.len() > MOST_RESPONSES {
            let message = format!("at most {MOST_RESPONSES}, got {}", self.responses.len());
            return Err(FieldError::new("responses", message));
        }
        for (i, response) in self.responses.iter().enumerate() {
            let field = format!("responses[{i}]");
            let range = self.medium.parameters().range_of(response.quality).ok_or_else(|| {
                FieldError::new(
                    format!("{field}.quality"),
                    format!("is no quality of a {} tool", self.medium.name()),
                )
            })?;
            response.check(self.is_factor(i), range).map_err(|e| e.within(&field))?;
            if self.responses[..i].iter().any(|r| r.id == response.id) {
                return Err(FieldError::new(
                    format!("{field}.id"),
                    format!("\"{}\" is used twice", response.id),
                ));
            }
        }
        Ok(())
    }

    /// Whether response `i` is a factor: not the first of a product. Spreads do not count.
    pub fn is_factor(&self, i: usize) -> bool {
        let Response { quality, around, .. } = self.responses[i];
        self.combine_of(quality) == Combine::Product
            && !around
            && self.responses[..i].iter().any(|r| r.quality == quality && !r.around)
    }

    /// How responses on `quality` combine; angles always add.
    pub fn combine_of(&self, quality: Quality) -> Combine {
        if quality == Quality::Angle {
            return Combine::Sum;
        }
        self.combine.get(&quality).copied().unwrap_or_default()
    }

    /// Its values, as media and tips read them.
    pub fn settings(&self) -> Settings<'_> {
        let driven = self.responses.iter().filter(|r| r.on).map(|r| r.quality);
        Settings::new(self.action, self.seed, self.medium.parameters(), &self.parameters, driven)
    }

    /// A number parameter; its default where the document has none.
    pub fn number(&self, id: &str) -> f64 {
        self.settings().number(id)
    }

    pub fn switch(&self, id: &str) -> bool {
        self.settings().switch(id)
    }

    pub fn choice(&self, id: &str) -> &str {
        self.settings().choice(id)
    }

    /// The hash of an image; empty where the tool has none.
    pub fn image(&self, id: &str) -> &str {
        self.settings().image(id)
    }

    /// Hashes of all images it needs, its ground's too.
    pub fn images(&self) -> impl Iterator<Item = &str> {
        let declared = self.medium.parameters().iter();
        let own = declared.filter(|p| p.kind == Kind::Image).map(|p| self.image(p.id));
        own.filter(|hash| !hash.is_empty()).chain(self.ground.images())
    }

    /// How this tool meets its ground.
    pub fn feel(&self) -> Feel {
        // Water meets the paper as it is.
        let meets = self.medium.parameters().find("ground.scale").is_some();
        if meets { Feel::of(&self.settings()) } else { Feel::default() }
    }

    /// The document in its one canonical form: every parameter of its medium present and no other, keys sorted.
    pub fn canonical(&self) -> String {
        serde_json::to_string(self).expect("a checked tool holds only finite numbers and strings")
    }

    /// SHA-256 of the canonical form, in hexadecimal.
    pub fn content_hash(&self) -> String {
        num::hex(&Sha256::digest(self.canonical().as_bytes()))
    }
}

/// Which field of a document is to blame that is, as a whole, no tool by `whole`.
fn refusal(json: &Json, whole: &serde_json::Error) -> FieldError {
    if let Some(Err(e)) = json.get("medium").map(MediumName::deserialize) {
        return FieldError::new("medium", e.to_string());
    }
    for (i, response) in json.get("responses").and_then(Json::as_array).into_iter().flatten().enumerate() {
        if let Err(e) = read_response(response) {
            return e.within(&format!("responses[{i}]"));
        }
    }
    for (id, value) in json.get("parameters").and_then(Json::as_object).into_iter().flatten() {
        if Value::deserialize(value).is_err() {
            let message = "must be a number, true or false, a text, or pigments with their parts";
            return FieldError::new(id.as_str(), message).within("parameters");
        }
    }
    FieldError::new("document", whole.to_string())
}

fn read_response(json: &Json) -> Result<Response> {
    if let Some(points) = json.get("curve") {
        // JSON has no NaN: it arrives as null and would be refused without its name.
        let points = Vec::<[Option<f64>; 2]>::deserialize(points)
            .map_err(|_| FieldError::new("curve", "must be a list of [x, y] points"))?;
        for (i, point) in points.iter().enumerate() {
            if point.iter().any(Option::is_none) {
                return Err(FieldError::new(
                    format!("curve.points[{i}]"),
                    "must be two numbers from 0 to 1, got none",
                ));
            }
        }
        let points = points.into_iter().map(|p| [p[0].unwrap_or(0.0), p[1].unwrap_or(0.0)]).collect();
        crate::chain::Curve::new(points).map_err(|e| e.within("curve"))?;
    }
    Response::deserialize(json).map_err(|e| FieldError::new("", e.to_string()))
}

/// Checks one value against its declaration.
///
/// # Errors
/// Names the parameter and its range or options.
pub fn check_value(medium: MediumName, id: &str, value: &Value) -> Result<()> {
    let p = medium
        .parameters()
        .find(id)
        .ok_or_else(|| FieldError::new(id, format!("is not a parameter of a {} tool", medium.name())))?;
    match (p.kind, value) {
        (Kind::Number { low, high, .. }, Value::Number(n)) => within(id, *n, low, high, p.unit).map(|_| ()),
        (Kind::Number { low, high, .. }, _) => {
            Err(FieldError::new(id, format!("must be a number from {low} to {high} {}", p.unit)))
        }
        (Kind::Switch { .. }, Value::Switch(_)) => Ok(()),
        (Kind::Switch { .. }, _) => Err(FieldError::new(id, "must be true or false")),
        (Kind::Image, Value::Choice(hash)) if hash.is_empty() || is_hash(hash) => Ok(()),
        (Kind::Image, _) => {
            Err(FieldError::new(id, "must be the hash of an image, 64 hexadecimal digits, or empty"))
        }
        (Kind::Paint { .. }, Value::Paint(parts)) => pigment::check_parts(parts).map_err(|e| e.within(id)),
        (Kind::Paint { .. }, _) => Err(FieldError::new(id, "must be pigments with their parts")),
        (Kind::Choice { options, .. }, Value::Choice(name)) if options.iter().any(|o| o.0 == name) => Ok(()),
        (Kind::Choice { options, .. }, _) => {
            let names: Vec<_> = options.iter().map(|o| o.0).collect();
            Err(FieldError::new(id, format!("must be one of {}", names.join(", "))))
        }
    }
}

/// Version 1 named one of three papers; version 2 holds the recipe of any ground.
fn paper_becomes_ground(json: &mut Json) {
    // Written by hand, a ground is kept; a paper beside it is refused later, as a parameter that there is not.
    if json.get("ground").is_some() {
        return;
    }
    let named =
        json.get_mut("parameters").and_then(Json::as_object_mut).and_then(|p| p.remove("ground.paper"));
    json["ground"] = serde_json::json!({"surface": named.unwrap_or_else(|| Json::from("cold-pressed"))});
}

/// Brings a document of any older version to the newest, one step at a time.
fn migrate(mut json: Json, steps: &[Migration]) -> Result<Json> {
    let newest = steps.len() as u64 + 1;
    let range = || FieldError::new("version", format!("must be a whole number from 1 to {newest}"));
    if !json.is_object() {
        return Err(FieldError::new("document", "must be a JSON object"));
    }
    let version = json.get("version").and_then(Json::as_u64).ok_or_else(range)?;
    if version == 0 {
        return Err(range());
    }
    if version > newest {
        let message =
            format!("is {version}, newer than this program reads (up to {newest}); update the program");
        return Err(FieldError::new("version", message));
    }
    for step in &steps[version as usize - 1..] {
        step(&mut json);
    }
    json["version"] = Json::from(newest);
    Ok(json)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn older_documents_pass_through_every_later_step() {
        let steps: &[Migration] = &[
            |json| json["renamed"] = json["old"].take(),
            |json| json["doubled"] = Json::from(json["renamed"].as_f64().unwrap_or(0.0) * 2.0),
        ];
        let from_first = migrate(serde_json::json!({"version": 1, "old": 4}), steps).unwrap();
        assert_eq!((&from_first["version"], &from_first["doubled"]), (&Json::from(3), &Json::from(8.0)));
        let from_second = migrate(serde_json::json!({"version": 2, "renamed": 5}), steps).unwrap();
        assert_eq!(from_second["doubled"], Json::from(10.0));
        assert_eq!(migrate(serde_json::json!({"version": 4}), steps).unwrap_err().field, "version");
    }
}
