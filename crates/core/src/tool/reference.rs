//! The declarations as a page for readers, in Markdown.

use std::fmt::Write as _;

use crate::chain::{Kind, Parameters, Quality, Signal, Station};
use crate::medium::MEDIA;

/// Tables of parameters by station, and of signals.
pub fn markdown() -> String {
    let mut out = String::from(concat!(
        "# Parameters and signals\n\n",
        "Written by `cargo run -p saltmarsh-xtask -- docs` from the declarations of the media (`crates/core/src/medium/`);\n",
        "a test holds this page to them. A parameter with a quality can be driven by responses to signals.\n"
    ));
    for medium in MEDIA {
        let _ = write!(out, "\n# Medium `{}`: {}\n", medium.name(), medium.label());
        stations(&mut out, medium.parameters());
    }
    out.push_str("\n# Signals\n\n| signal | what | range |\n| --- | --- | --- |\n");
    for signal in Signal::ALL {
        let s = signal.info();
        let range = format!("{} to {} {}", s.least, s.most, s.unit);
        let _ = writeln!(out, "| {} | {} | {} |", s.label, s.help, range.trim_end());
    }
    out
}

/// The parameters of one medium, a table a station.
fn stations(out: &mut String, parameters: Parameters) {
    for (station, name) in [
        (Station::Touch, "Touch"),
        (Station::Tip, "Tip"),
        (Station::Load, "Load"),
        (Station::Mix, "Mix"),
        (Station::Ground, "Ground"),
        (Station::Relief, "Relief"),
    ] {
        if !parameters.iter().any(|p| p.station == station) {
            continue;
        }
        let _ = write!(
            *out,
            "\n## {name}\n\n| parameter | what | range, default | quality |\n| --- | --- | --- | --- |\n"
        );
        for p in parameters.iter().filter(|p| p.station == station) {
            let range = match p.kind {
                Kind::Number { low, high, default, .. } => {
                    format!("{low} to {high} {}, {default}", p.unit).replace(" ,", ",")
                }
                Kind::Switch { default } => format!("on or off, {}", if default { "on" } else { "off" }),
                Kind::Choice { default, options } => {
                    let names: Vec<_> = options.iter().map(|o| o.0).collect();
                    format!("{}; {default}", names.join(", "))
                }
                Kind::Image => "an image, none".to_owned(),
                Kind::Paint { default } => {
                    let parts: Vec<String> = default.iter().map(|(code, n)| format!("{n} {code}")).collect();
                    format!("pigments by parts, {}", parts.join(" + "))
                }
            };
            let quality = p.quality.map_or(String::new(), |q| named(&q));
            let _ = writeln!(*out, "| `{}` | **{}.** {} | {range} | {quality} |", p.id, p.label, p.help);
        }
    }
}

/// As documents name a quality.
fn named(quality: &Quality) -> String {
    let json = serde_json::to_value(quality).expect("a quality is a name");
    json.as_str().unwrap_or_default().to_owned()
}
