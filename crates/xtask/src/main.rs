//! Builds what the front end needs and the demo ships: `xtask wasm`, `xtask wasm-bench`, `xtask gestures`, `xtask docs`,
//! `xtask types`.

mod gestures;
mod wasm;

use std::process::ExitCode;

fn main() -> ExitCode {
    let task = std::env::args().nth(1).unwrap_or_default();
    let done = match task.as_str() {
        "wasm" => wasm::build(&[wasm::ENGINE, wasm::TRIAL]),
        "wasm-bench" => wasm::build(&[wasm::BENCH]),
        "gestures" => gestures::write(),
        "docs" => docs(),
        "types" => types(),
        _ => Err("usage: xtask wasm | wasm-bench | gestures | docs | types".into()),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("xtask: {error}");
            ExitCode::FAILURE
        }
    }
}

/// Writes the TypeScript types of what passes between core and page.
fn types() -> Result<(), Box<dyn std::error::Error>> {
    let file = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src/generated/core.ts");
    std::fs::create_dir_all(file.parent().ok_or("a file lies in a folder")?)?;
    std::fs::write(file, saltmarsh_core::describe::typescript::module())?;
    Ok(())
}

/// Writes the pages of `docs/` that come from declarations.
fn docs() -> Result<(), Box<dyn std::error::Error>> {
    let page = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/parameters.md");
    std::fs::write(page, saltmarsh_core::tool::reference::markdown())?;
    Ok(())
}
