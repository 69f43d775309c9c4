//! The native measures, as JSON on standard output.

mod hostile;

use std::time::Instant;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    if let [mode, index] = arguments.as_slice()
        && mode == hostile::ONE
    {
        println!("{}", serde_json::to_string(&hostile::one(index)?)?);
        return Ok(());
    }
    let start = Instant::now();
    if let [only] = arguments.as_slice()
        && only == "brushes"
    {
        let brushes = saltmarsh_bench::brushes::all(&|| start.elapsed().as_secs_f64() * 1e3);
        println!("{}", serde_json::to_string_pretty(&brushes)?);
        return Ok(());
    }
    if let [only] = arguments.as_slice()
        && only == "washes"
    {
        let washes = saltmarsh_bench::washes::all(&|| start.elapsed().as_secs_f64() * 1e3);
        println!("{}", serde_json::to_string_pretty(&washes)?);
        return Ok(());
    }
    let hostile = hostile::all()?;
    let mut figures =
        serde_json::to_value(saltmarsh_bench::measure(&|| start.elapsed().as_secs_f64() * 1e3))?;
    figures["hostile"] = serde_json::to_value(hostile)?;
    println!("{}", serde_json::to_string_pretty(&figures)?);
    Ok(())
}
