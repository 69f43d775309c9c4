//! Builds a WebAssembly module and its bindings: the engine for the front end, the measures for the benchmark.
//!
//! The toolchain is chosen in this order: the present one if it has `wasm32-unknown-unknown`; else Debian's `rustc-web`,
//! which has none either but ships the sources of `std` and can build them (`-Zbuild-std`).

use std::error::Error;
use std::path::Path;
use std::process::Command;

const TARGET: &str = "wasm32-unknown-unknown";
const DEBIAN_RUSTC: &str = "/usr/bin/rustc";

/// The crate that is the browser's engine, and where the front end looks for it.
pub const ENGINE: [&str; 2] = ["saltmarsh-browser", "web/src/engine/wasm"];
/// The crate that measures, and where the browser's benchmark looks for it.
pub const BENCH: [&str; 2] = ["saltmarsh-bench", "target/bench-wasm"];

/// The crate that proves that time is the same everywhere, and where the comparison looks for it.
pub const TRIAL: [&str; 2] = ["saltmarsh-trial", "target/trial-wasm"];

/// Builds the modules of crates, together, so that what they share is built once, and writes their bindings, each into a folder of
/// the repository.
pub fn build(modules: &[[&str; 2]]) -> Result<(), Box<dyn Error>> {
    let root =
        Path::new(env!("CARGO_MANIFEST_DIR")).ancestors().nth(2).ok_or("no workspace root")?.to_owned();
    let folder = root.join("target/wasm");
    let mut cargo = Command::new("cargo");
    cargo
        .current_dir(&root)
        .args(["build", "--release", "--locked", "--lib", "--target", TARGET])
        .args(modules.iter().flat_map(|[package, _]| ["-p", package]))
        .env("CARGO_TARGET_DIR", &folder)
        .env("RUSTFLAGS", "-C target-feature=+simd128");
    if !has_target() && !added_target() {
        if !Path::new(DEBIAN_RUSTC).exists() {
            return Err(format!(
                "no Rust toolchain here has {TARGET}: install Debian's rustc-web, rust-web-src and lld"
            )
            .into());
        }
        cargo
            .env("RUSTC", DEBIAN_RUSTC)
            .env("RUSTC_BOOTSTRAP", "1")
            .env("CARGO_TARGET_WASM32_UNKNOWN_UNKNOWN_LINKER", "wasm-ld")
            .arg("-Zbuild-std=std,panic_abort");
    }
    if !cargo.status()?.success() {
        return Err("the WebAssembly build failed".into());
    }
    for [package, out] in modules {
        let module = folder.join(TARGET).join("release").join(format!("{}.wasm", package.replace('-', "_")));
        let out = root.join(out);
        std::fs::create_dir_all(&out)?;
        wasm_bindgen_cli_support::Bindgen::new()
            .input_path(&module)
            .web(true)?
            .typescript(true)
            .generate(&out)?;
    }
    Ok(())
}

fn has_target() -> bool {
    let Ok(output) = Command::new("rustc").args(["--print", "target-libdir", "--target", TARGET]).output()
    else {
        return false;
    };
    let folder = String::from_utf8_lossy(&output.stdout).trim().to_owned();
    output.status.success() && Path::new(&folder).exists()
}

/// Asks rustup for the target, unless Debian's toolchain is already there to serve.
fn added_target() -> bool {
    if Path::new(DEBIAN_RUSTC).exists() {
        return false;
    }
    Command::new("rustup").args(["target", "add", TARGET]).output().is_ok_and(|o| o.status.success())
        && has_target()
}
