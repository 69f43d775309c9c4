//! The native measures, as JSON on standard output.

use std::time::Instant;

fn main() -> Result<(), serde_json::Error> {
    let start = Instant::now();
    let figures = saltmarsh_bench::measure(&|| start.elapsed().as_secs_f64() * 1e3);
    println!("{}", serde_json::to_string_pretty(&figures)?);
    Ok(())
}
