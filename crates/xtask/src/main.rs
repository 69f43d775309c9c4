//! Builds what the front end needs and the demo ships: `xtask wasm`, `xtask wasm-bench`, `xtask gestures`.

mod gestures;
mod wasm;

use std::process::ExitCode;

fn main() -> ExitCode {
    let task = std::env::args().nth(1).unwrap_or_default();
    let done = match task.as_str() {
        "wasm" => wasm::build(wasm::ENGINE),
        "wasm-bench" => wasm::build(wasm::BENCH),
        "gestures" => gestures::write(),
        _ => Err("usage: xtask wasm | wasm-bench | gestures".into()),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("xtask: {error}");
            ExitCode::FAILURE
        }
    }
}
