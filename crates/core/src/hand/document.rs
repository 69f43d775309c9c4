//! The hand behind every tool, and the document in which a stylus is kept and exchanged.

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value, json};

use super::profile::FIELDS;
use super::{Calibration, DeviceProfile};
use crate::chain::curve::MOST_POINTS;
use crate::error::{FieldError, Result};

/// What the `format` field says.
pub const FORMAT: &str = "saltmarsh.stylus";
/// The document version this program writes, and the newest it reads.
pub const VERSION: u32 = 1;
/// Largest document, bytes.
pub const MOST_BYTES: usize = 256 * 1024;

/// The device and its calibration, in front of every tool.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[serde(default)]
pub struct Hand {
    pub calibration: Calibration,
    pub profile: DeviceProfile,
}

/// Reads and checks a stylus document (JSON).
///
/// # Errors
/// Names the first field that is refused and its limit; a document of a newer version is refused whole.
pub fn parse(text: &str) -> Result<Hand> {
    if text.len() > MOST_BYTES {
        return Err(FieldError::new("document", format!("at most {MOST_BYTES} bytes, got {}", text.len())));
    }
    let json: Value =
        serde_json::from_str(text).map_err(|e| FieldError::new("document", format!("is not JSON: {e}")))?;
    let object = json.as_object().ok_or_else(|| FieldError::new("document", "must be a JSON object"))?;
    if object.get("format").and_then(Value::as_str) != Some(FORMAT) {
        return Err(FieldError::new("format", format!("must be \"{FORMAT}\"")));
    }
    match object.get("version").and_then(Value::as_u64) {
        Some(v) if v == u64::from(VERSION) => {}
        Some(v) if v > u64::from(VERSION) => {
            let message =
                format!("is {v}, newer than this program reads (up to {VERSION}); update the program");
            return Err(FieldError::new("version", message));
        }
        _ => return Err(FieldError::new("version", format!("must be a whole number from 1 to {VERSION}"))),
    }
    if let Some(unknown) =
        object.keys().find(|k| !["format", "version", "profile", "calibration"].contains(&k.as_str()))
    {
        return Err(FieldError::new(unknown.clone(), "is not known"));
    }
    let part = |name: &str| object.get(name).cloned().ok_or_else(|| FieldError::new(name, "is missing"));
    let profile: DeviceProfile =
        serde_json::from_value(part("profile")?).map_err(|e| FieldError::new("profile", e.to_string()))?;
    profile.check().map_err(|e| e.within("profile"))?;
    let calibration: Calibration = serde_json::from_value(part("calibration")?)
        .map_err(|e| FieldError::new("calibration.curve", e.to_string()))?;
    Ok(Hand { calibration, profile })
}

/// The document of a stylus.
pub fn to_json(hand: &Hand) -> Value {
    json!({"format": FORMAT, "version": VERSION, "profile": hand.profile, "calibration": hand.calibration})
}

/// JSON Schema (draft 2020-12) of stylus documents.
pub fn schema() -> Value {
    let mut fields: Map<String, Value> = FIELDS
        .iter()
        .map(|f| {
            let kind = if f.key == "levels" { "integer" } else { "number" };
            let text =
                if f.unit.is_empty() { f.help.to_owned() } else { format!("{} Unit: {}.", f.help, f.unit) };
            (
                f.key.to_owned(),
                json!({"type": kind, "minimum": f.low, "maximum": f.high, "description": text}),
            )
        })
        .collect();
    fields.insert("name".to_owned(), json!({"type": "string", "minLength": 1, "maxLength": 80}));
    fields.insert(
        "barrel".to_owned(),
        json!({"type": "boolean", "description": "Whether the barrel's turn is reported."}),
    );
    json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Saltmarsh stylus",
        "type": "object",
        "additionalProperties": false,
        "required": ["format", "version", "profile", "calibration"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "profile": {"type": "object", "additionalProperties": false, "properties": fields},
            "calibration": {"type": "object", "additionalProperties": false, "required": ["curve"], "properties": {
                "curve": {"type": "array", "minItems": 2, "maxItems": MOST_POINTS, "items": {
                    "type": "array", "minItems": 2, "maxItems": 2,
                    "items": {"type": "number", "minimum": 0, "maximum": 1}}}
            }}
        }
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_stylus_document_is_read_back_and_bad_ones_are_refused_by_field() {
        let hand = Hand::default();
        let good = to_json(&hand);
        assert_eq!(parse(&good.to_string()), Ok(hand));
        let refused = |change: fn(&mut Value)| {
            let mut json = good.clone();
            change(&mut json);
            parse(&json.to_string()).expect_err("must be refused").field
        };
        assert_eq!(refused(|j| j["version"] = json!(2)), "version");
        assert_eq!(refused(|j| j["profile"]["full_gf"] = json!(3.0)), "profile.full_gf");
        assert_eq!(refused(|j| j["profile"]["rate_hz"] = json!(5000)), "profile.rate_hz");
        assert_eq!(refused(|j| j["profile"]["colour"] = json!(1)), "profile");
        assert_eq!(
            refused(|j| j["calibration"]["curve"] = json!([[0.5, 0.0], [0.2, 1.0]])),
            "calibration.curve"
        );
        assert_eq!(refused(|j| j["sheet"] = json!(1)), "sheet");
    }
}
