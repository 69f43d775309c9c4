//! Builds what the front end needs and the demo ships: `xtask wasm`, `xtask wasm-bench`, `xtask gestures`, `xtask docs`.

mod gestures;
mod wasm;

use std::process::ExitCode;

fn main() -> ExitCode {
    let task = std::env::args().nth(1).unwrap_or_default();
    let done = match task.as_str() {
        "wasm" => wasm::build(wasm::ENGINE),
        "wasm-bench" => wasm::build(wasm::BENCH),
        "gestures" => gestures::write(),
        "docs" => docs(),
        _ => Err("usage: xtask wasm | wasm-bench | gestures | docs".into()),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("xtask: {error}");
            ExitCode::FAILURE
        }
    }
}

/// Writes the pages of `docs/` that come from declarations.
fn docs() -> Result<(), Box<dyn std::error::Error>> {
    let page = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/parameters.md");
    std::fs::write(page, saltmarsh_core::tool::reference::markdown())?;
    Ok(())
}
