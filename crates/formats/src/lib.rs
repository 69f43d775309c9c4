//! Bytes to core types and back, for open formats.

pub mod image;
pub mod inkml;
pub mod pdf;
#[cfg(feature = "pictures")]
pub mod picture;
pub mod svg;
pub mod trace_csv;
