//! The HTTP API and the command line of Saltmarsh, which `main.rs` runs.

pub mod api;
mod cli;
mod demo;
mod front;
mod stop;

pub use cli::run;
