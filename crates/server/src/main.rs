//! The program `saltmarsh`.

use std::process::ExitCode;

fn main() -> ExitCode {
    saltmarsh_server::run()
}
