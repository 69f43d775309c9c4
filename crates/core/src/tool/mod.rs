//! The tool document: what can be tuned, in which unit, whether it acts, and how a document is checked.

pub mod document;
pub mod reference;
pub mod relevance;
pub mod schema;
pub mod turned;

pub use document::Tool;
