//! What commands read and write.

use std::io::{Read, Write};

use saltmarsh_core::ground::{Recipe, Surface};

use crate::stop::Stop;

/// Largest document of a tool or ground, bytes.
pub(super) const MOST_DOCUMENT_BYTES: usize = 1024 * 1024;

/// Reads a text file, or standard input for `-`; at most `most` bytes.
pub(super) fn read_text(path: &str, most: usize) -> Result<String, Stop> {
    let mut text = String::new();
    let limit = most as u64 + 1;
    let read = if path == "-" {
        std::io::stdin().lock().take(limit).read_to_string(&mut text)
    } else {
        std::fs::File::open(path).and_then(|f| f.take(limit).read_to_string(&mut text))
    };
    read.map_err(|e| Stop::Input(format!("{path}: {e}")))?;
    if text.len() > most {
        return Err(Stop::Input(format!("{path}: is larger than {most} bytes")));
    }
    Ok(text)
}

/// A surface by its name, or a recipe from a file.
pub(super) fn ground_named(name: &str) -> Result<Recipe, Stop> {
    if let Some(surface) = Surface::named(name).filter(|s| *s != Surface::Image) {
        return Ok(Recipe::of(surface));
    }
    if name.to_ascii_lowercase().ends_with(".json") {
        let text = read_text(name, MOST_DOCUMENT_BYTES)?;
        return Recipe::parse(&text).map_err(|e| Stop::Input(format!("{name}: {e}")));
    }
    let known: Vec<_> = Surface::GENERATED.iter().map(|s| s.name()).collect();
    Err(Stop::Input(format!(
        "--ground: must be one of {}, or a file that ends in .json, got {name}",
        known.join(", ")
    )))
}

/// Writes a file, or standard output for `-`.
pub(super) fn write(path: &str, bytes: &[u8]) -> Result<(), Stop> {
    if path == "-" {
        return put(bytes).map(|_| ());
    }
    std::fs::write(path, bytes).map_err(|e| Stop::Failure(format!("{path}: {e}")))
}

/// Writes a line to standard output; false once nobody reads it any more: whoever asked (`| head`) has enough.
pub(super) fn tell(text: &str) -> Result<bool, Stop> {
    put(format!("{text}\n").as_bytes())
}

fn put(bytes: &[u8]) -> Result<bool, Stop> {
    let mut out = std::io::stdout().lock();
    match out.write_all(bytes).and_then(|()| out.flush()) {
        Ok(()) => Ok(true),
        Err(e) if e.kind() == std::io::ErrorKind::BrokenPipe => Ok(false),
        Err(e) => Err(Stop::Failure(format!("standard output: {e}"))),
    }
}

/// Refuses two outputs that would go to one place, by the options that name them.
pub(super) fn apart(outputs: &[(&str, &Option<String>)]) -> Result<(), Stop> {
    // As seen from here, so that `a` and `./a` are one.
    let place = |path: &String| std::path::absolute(path).unwrap_or_else(|_| path.into());
    for (i, (option, path)) in outputs.iter().enumerate() {
        let Some(path) = path else { continue };
        let same = |other: &&(&str, &Option<String>)| other.1.as_ref().map(place) == Some(place(path));
        if let Some((other, _)) = outputs[..i].iter().find(same) {
            return Err(Stop::Input(format!("{option}: {path} is where {other} goes")));
        }
    }
    Ok(())
}
