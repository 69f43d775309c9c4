//! The tool document: what can be tuned, in which unit, whether it acts, and how a document is checked.

pub mod document;
pub mod parameter;
pub mod reference;
pub mod relevance;
pub mod schema;
mod table;

pub use document::{Action, Medium, Tool};
pub use parameter::{Parameter, Quality, Station, Value};
