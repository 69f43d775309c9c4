//! The declarations as a page for readers, in Markdown.

use std::fmt::Write as _;

use super::parameter::{Kind, PARAMETERS, Station};
use crate::hand::Signal;

/// Tables of parameters by station, and of signals.
pub fn markdown() -> String {
    let mut out = String::from(concat!(
        "# Parameters and signals\n\n",
        "Written by `cargo run -p saltmarsh-xtask -- docs` from the declarations in `crates/core/src/tool/table/`; a test\n",
        "holds this page to them. A parameter with a quality can be driven by responses to signals.\n"
    ));
    for (station, name) in [
        (Station::Touch, "Touch"),
        (Station::Tip, "Tip"),
        (Station::Load, "Load"),
        (Station::Mix, "Mix"),
        (Station::Ground, "Ground"),
    ] {
        let _ = write!(
            out,
            "\n## {name}\n\n| parameter | what | range, default | quality |\n| --- | --- | --- | --- |\n"
        );
        for p in PARAMETERS.iter().filter(|p| p.station == station) {
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
            };
            let quality = p.quality.map_or(String::new(), |q| format!("{q:?}").to_lowercase());
            let _ = writeln!(out, "| `{}` | **{}.** {} | {range} | {quality} |", p.id, p.label, p.help);
        }
    }
    out.push_str("\n## Signals\n\n| signal | what | range |\n| --- | --- | --- |\n");
    for signal in Signal::ALL {
        let s = signal.info();
        let range = format!("{} to {} {}", s.least, s.most, s.unit);
        let _ = writeln!(out, "| {} | {} | {} |", s.label, s.help, range.trim_end());
    }
    out
}
