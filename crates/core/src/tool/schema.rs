//! The JSON Schema of tool documents, made from the declarations.

use serde_json::{Map, Value, json};

use super::document::{FORMAT, VERSION};
use crate::chain::curve::MOST_POINTS;
use crate::chain::{Action, Kind, Quality, Signal};
use crate::ground::recipe::{NUMBERS, Surface};
use crate::ground::tint::TINTS;
use crate::medium::MEDIA;
use crate::paint::pigment;

/// A value that one of two media takes: media that have a parameter of one name may take different values.
fn either(known: &Value, mut entry: Value) -> Value {
    for (limit, wider) in [("minimum", f64::min as fn(f64, f64) -> f64), ("maximum", f64::max)] {
        if let (Some(a), Some(b)) = (known[limit].as_f64(), entry[limit].as_f64()) {
            entry[limit] = json!(wider(a, b));
        }
    }
    if let (Some(a), Some(b)) = (known["enum"].as_array(), entry["enum"].as_array()) {
        let more = a.iter().filter(|v| !b.contains(v));
        entry["enum"] = b.iter().chain(more).cloned().collect();
    }
    entry
}

/// JSON Schema (draft 2020-12) of a tool document of the present version.
pub fn schema() -> Value {
    let mut parameters = Map::new();
    for p in MEDIA.iter().flat_map(|m| m.parameters().iter()) {
        let text =
            if p.unit.is_empty() { p.help.to_owned() } else { format!("{} Unit: {}.", p.help, p.unit) };
        let mut entry = match p.kind {
            Kind::Number { low, high, default, .. } => {
                json!({"type": "number", "minimum": low, "maximum": high, "default": default})
            }
            Kind::Switch { default } => json!({"type": "boolean", "default": default}),
            Kind::Paint { default } => json!({
                "type": "object",
                "minProperties": 1,
                "maxProperties": pigment::MOST_PIGMENTS,
                "propertyNames": {"enum": pigment::all().iter().map(|p| &p.code).collect::<Vec<_>>()},
                "additionalProperties": {"type": "number", "minimum": 0, "maximum": pigment::MOST_PARTS},
                "default": default.iter().map(|(code, n)| ((*code).to_owned(), json!(n))).collect::<serde_json::Map<_, _>>(),
            }),
            Kind::Image => json!({"type": "string", "pattern": "^([0-9a-f]{64})?$", "default": ""}),
            Kind::Choice { default, options } => {
                json!({"enum": options.iter().map(|o| o.0).collect::<Vec<_>>(), "default": default})
            }
        };
        if let Some(known) = parameters.get(p.id) {
            entry = either(known, entry);
        }
        entry["title"] = json!(p.label);
        entry["description"] = json!(text);
        parameters.insert(p.id.to_owned(), entry);
    }
    let qualities: Vec<Value> = Quality::ALL.iter().map(|q| json!(q)).collect();
    let signals: Vec<Value> = Signal::ALL.iter().map(|s| json!(s)).collect();
    let pair = json!({"type": "array", "items": {"type": "number"}, "minItems": 2, "maxItems": 2});
    json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Saltmarsh tool",
        "type": "object",
        "additionalProperties": false,
        "required": ["format", "version", "name", "medium", "action"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "name": {"type": "string", "minLength": 1, "maxLength": 120},
            "intent": {"type": "string", "maxLength": 400},
            "medium": {"enum": MEDIA.iter().map(|m| m.name()).collect::<Vec<_>>()},
            "action": {"enum": Action::ALL},
            "seed": {"type": "integer", "minimum": 0, "maximum": u32::MAX},
            "ground": ground(),
            "parameters": {"type": "object", "additionalProperties": false, "properties": parameters},
            "responses": {"type": "array", "maxItems": 48, "items": {
                "type": "object",
                "additionalProperties": false,
                "required": ["id", "quality", "signal", "input", "curve", "output", "amount", "on"],
                "properties": {
                    "id": {"type": "string", "minLength": 1, "maxLength": 40},
                    "quality": {"enum": qualities},
                    "signal": {"enum": signals},
                    "input": pair,
                    "curve": {"type": "array", "minItems": 2, "maxItems": MOST_POINTS, "items": {
                        "type": "array", "minItems": 2, "maxItems": 2,
                        "items": {"type": "number", "minimum": 0, "maximum": 1}}},
                    "output": pair,
                    "amount": {"type": "number", "minimum": 0, "maximum": 1},
                    "on": {"type": "boolean"},
                    "repeat": {"type": "boolean", "description": "Begins again past the upper end of the input; distance and time only."},
                    "around": {"type": "boolean", "description": "The output is a spread around the quality's value, as a share of it (degrees for an angle); chance only."}
                }
            }},
            "combine": {"type": "object", "propertyNames": {"enum": qualities},
                "additionalProperties": {"enum": ["product", "sum", "smallest", "largest"]}}
        }
    })
}

/// JSON Schema of a ground's recipe.
pub fn ground() -> Value {
    let mut numbers = Map::new();
    for n in NUMBERS {
        let text =
            if n.unit.is_empty() { n.help.to_owned() } else { format!("{} Unit: {}.", n.help, n.unit) };
        let of: Vec<&str> = n.of.iter().map(|(s, _)| s.name()).collect();
        numbers.insert(
            n.id.to_owned(),
            json!({"type": "number", "minimum": n.low, "maximum": n.high, "title": n.label,
                "description": format!("{text} Of: {}.", of.join(", "))}),
        );
    }
    let recipe = |over: Option<Value>| {
        let mut properties = json!({
            "name": {"type": "string", "maxLength": 120},
            "surface": {"enum": Surface::ALL},
            "seed": {"type": "integer", "minimum": 0, "maximum": u32::MAX},
            "tint": {"enum": TINTS.map(|t| t.name)},
            "numbers": {"type": "object", "additionalProperties": false, "properties": numbers},
            "image": {"type": "string", "pattern": "^[0-9a-f]{64}$"}
        });
        if let Some(over) = over {
            properties["over"] = over;
        }
        json!({"type": "object", "additionalProperties": false, "required": ["surface"], "properties": properties})
    };
    let over = json!({"type": "object", "additionalProperties": false, "required": ["recipe", "hides"],
        "properties": {"recipe": recipe(None), "hides": {"type": "number", "minimum": 0, "maximum": 1}}});
    recipe(Some(over))
}
