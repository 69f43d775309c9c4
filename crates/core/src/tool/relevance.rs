//! Which parameters act in a tool, and why the others do not. The reasons stand beside the declarations; here is only what holds
//! for all: a response may give what a parameter would.

use serde::Serialize;

use super::Tool;
use crate::chain::Quality;
use crate::said::Said;

/// Whether a parameter acts now.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Relevance {
    pub id: &'static str,
    pub acts: bool,
    /// Why it does not; empty where it does.
    pub reason: Said,
}

/// One entry a parameter, in the order of the declarations.
pub fn relevance(tool: &Tool) -> Vec<Relevance> {
    let settings = tool.settings();
    tool.medium
        .parameters()
        .iter()
        .map(|p| {
            let driven = p.quality.and_then(|q| driven(tool, q));
            let reason = driven.or_else(|| p.idle.and_then(|idle| idle(&settings)).map(Said::from));
            let reason = reason.unwrap_or_else(|| "".into());
            Relevance { id: p.id, acts: reason.is_empty(), reason }
        })
        .collect()
}

/// A quality whose first response acts in full leaves nothing to the parameter; what spreads around it does.
fn driven(tool: &Tool, quality: Quality) -> Option<Said> {
    if quality == Quality::Angle {
        return None;
    }
    let first = tool.responses.iter().find(|r| r.quality == quality && r.on && !r.around)?;
    (first.amount >= 1.0)
        .then(|| Said::new("{{signal}} gives it").phrase("signal", first.signal.info().label))
}
