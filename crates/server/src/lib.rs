//! The HTTP API and the command line of Saltmarsh, which `main.rs` runs.

pub mod api;
mod cli;
mod demo;

pub use cli::run;
