//! What ill-meant documents cost until they are refused: time, and memory beyond the document itself. Each is read in a
//! process of its own, whose highest use of memory the kernel tells.

use std::process::Command;
use std::time::Instant;

use saltmarsh_formats::{inkml, svg};
use serde::{Deserialize, Serialize};

/// Argument that makes this program read one document and tell.
pub const ONE: &str = "hostile-document";

/// What one document came to.
#[derive(Debug, Serialize, Deserialize)]
pub struct Refusal {
    name: String,
    bytes: usize,
    ms: f64,
    /// Memory used while reading, beyond what was in use before, MiB.
    mib: f64,
    said: String,
}

type Make = fn() -> String;

const DOCUMENTS: [(&str, Make); 15] = [
    ("InkML, entity bomb", || format!("{BOMB}<ink><trace>&j;</trace></ink>")),
    ("InkML, external entity", || "<!DOCTYPE ink SYSTEM \"file:///etc/hostname\"><ink/>".to_owned()),
    ("InkML, a million nested groups", || format!("<ink>{}", "<traceGroup>".repeat(1_000_000))),
    ("InkML, a million points", || format!("<ink><trace>{}</trace></ink>", "1 1,".repeat(1_000_000))),
    ("InkML, a huge number", || format!("<ink><trace>{} 1</trace></ink>", "9".repeat(5_000_000))),
    ("InkML, 15 MiB cut off in a trace", || format!("<ink><trace>{}", " ".repeat(15 << 20))),
    ("InkML, 14 MiB of attributes", || {
        format!("<ink {}/>", (0..1_300_000).map(|i| format!("a{i}='' ")).collect::<String>())
    }),
    ("InkML, a million empty traces", || format!("<ink>{}</ink>", "<trace/>".repeat(1_000_000))),
    ("InkML, a hundred thousand contexts", || {
        format!("<ink>{}</ink>", "<context xml:id='a'/>".repeat(100_000))
    }),
    ("SVG, entity bomb", || format!("{BOMB}<svg><path d='&j;'/></svg>")),
    ("SVG, picture from elsewhere", || "<svg><image href='http://localhost/a.png'/></svg>".to_owned()),
    ("SVG, half a million nested groups", || format!("<svg>{}", "<g>".repeat(500_000))),
    ("SVG, arc of a huge radius", || "<svg><path d='M0 0A1e300 1e300 0 1 1 9 9'/></svg>".to_owned()),
    ("SVG, a million segments", || format!("<svg><path d='M0 0{}'/></svg>", "h1v1".repeat(500_000))),
    ("SVG, curves that flatten to millions", || {
        format!("<svg><path d='M0 0{}'/></svg>", "C9e6 9e6-9e6 9e6 0 0".repeat(30_000))
    }),
];

const BOMB: &str = "<!DOCTYPE x [<!ENTITY a \"ha\"><!ENTITY b \"&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;\"><!ENTITY j \"&b;&b;&b;&b;&b;&b;\">]>";

/// Reads every document in a process of its own.
pub fn all() -> Result<Vec<Refusal>, Box<dyn std::error::Error>> {
    let program = std::env::current_exe()?;
    let mut out = Vec::new();
    for index in 0..DOCUMENTS.len() {
        let done = Command::new(&program).args([ONE, &index.to_string()]).output()?;
        out.push(serde_json::from_slice(&done.stdout)?);
    }
    Ok(out)
}

/// Reads one document and tells what it came to.
///
/// # Errors
/// Where there is no such document, the kernel tells no memory, or the document was not refused.
pub fn one(index: &str) -> Result<Refusal, Box<dyn std::error::Error>> {
    let (name, make) = *DOCUMENTS.get(index.parse::<usize>()?).ok_or("no such document")?;
    let text = make();
    let before = memory("VmHWM")?;
    let start = Instant::now();
    let read = if name.starts_with("SVG") {
        svg::read(&text).map(|_| ())
    } else {
        inkml::read(&text).and_then(|d| inkml::to_gesture(&d)).map(|_| ())
    };
    let ms = start.elapsed().as_secs_f64() * 1e3;
    let said = read.err().ok_or_else(|| format!("{name} was taken"))?.to_string();
    let mib = (memory("VmHWM")? - before) / 1024.0;
    Ok(Refusal { name: name.to_owned(), bytes: text.len(), ms, mib, said: said.chars().take(80).collect() })
}

/// A figure of this process, KiB.
fn memory(field: &str) -> Result<f64, Box<dyn std::error::Error>> {
    let status = std::fs::read_to_string("/proc/self/status")?;
    let line = status.lines().find(|l| l.starts_with(field)).ok_or("the kernel does not tell")?;
    Ok(line.split_whitespace().nth(1).ok_or("the kernel does not tell")?.parse()?)
}
