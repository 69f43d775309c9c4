//! A tool turned into one of another medium: what carries over, and what does not.

use std::collections::BTreeMap;

use serde::Serialize;

use super::Tool;
use super::document::check_value;
use crate::medium::MediumName;
use crate::said::Said;

/// A tool in another medium.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Turned {
    pub tool: Tool,
    /// What the painter had set and the other medium does not have, or not so far, by what people call it.
    pub lost: Vec<Said>,
}

/// Turns a tool: its name, ground, seed, the parameters that both media have and the responses of qualities that both have stay.
pub fn turned(tool: &Tool, medium: MediumName) -> Turned {
    let mut lost = Vec::new();
    let mut parameters = BTreeMap::new();
    for (id, value) in &tool.parameters {
        let Some(p) = tool.medium.parameters().find(id) else { continue };
        if check_value(medium, id, value).is_ok() {
            parameters.insert(id.clone(), value.clone());
        } else if *value != p.default_value() {
            lost.push(p.label.into());
        }
    }
    let actions = medium.actions();
    let action = actions.iter().find(|a| a.0 == tool.action).map_or(actions[0].0, |a| a.0);
    if action != tool.action {
        let word = tool.medium.actions().iter().find(|a| a.0 == tool.action).map_or("", |a| a.1);
        lost.push(Said::new("that it {{word}}").phrase("word", word));
    }
    let mut next =
        Tool { medium, action, parameters, responses: Vec::new(), combine: BTreeMap::new(), ..tool.clone() };
    for (quality, combine) in &tool.combine {
        if medium.parameters().of_quality(*quality).is_some() {
            next.combine.insert(*quality, *combine);
        }
    }
    for response in &tool.responses {
        next.responses.push(response.clone());
        if next.check().is_err() {
            next.responses.pop();
            let what = tool.medium.parameters().of_quality(response.quality).map_or("", |p| p.label);
            lost.push(
                Said::new("{{signal}} → {{quality}}")
                    .phrase("signal", response.signal.info().label)
                    .phrase("quality", what.to_lowercase()),
            );
        }
    }
    next.fill_in();
    Turned { tool: next, lost }
}
