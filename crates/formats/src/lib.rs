//! Bytes to core types and back, for open formats.

pub mod image;
pub mod inkml;
pub mod svg;
pub mod trace_csv;
