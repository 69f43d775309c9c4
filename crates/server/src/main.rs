//! The program `saltmarsh`.

mod api;
mod cli;
mod demo;

use std::process::ExitCode;

fn main() -> ExitCode {
    cli::run()
}
