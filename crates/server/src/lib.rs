//! The HTTP API and the command line of Saltmarsh, which `main.rs` runs.

pub mod api;
mod backup;
mod cli;
mod demo;
mod front;
mod jobs;
mod stop;

pub use cli::run;
