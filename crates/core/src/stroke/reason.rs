//! Why a mark is as it is: the factors of one dab in order of weight, and one sentence.

use serde::Serialize;

use super::trace::DabTrace;
use crate::hand::Signal;
use crate::tool::parameter::{Quality, Station};
use crate::tool::{Action, Tool};

/// One factor of the mark, as a line of the trace.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Line {
    pub station: Station,
    /// What acts, for example `force from pressure 88 gf`.
    pub what: String,
    /// Factor on the mark: under 1 takes away, over 1 adds.
    pub times: f64,
    /// Share of all the weight (|ln| of the factors), 0..1.
    pub weight: f64,
}

/// The reason of one dab.
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Reason {
    /// One sentence.
    pub sentence: String,
    /// Lines, heaviest first.
    pub lines: Vec<Line>,
    /// The product of all factors: the share of a closed, full layer that this dab works towards.
    pub mark: f64,
}

/// Factors below this take away so little that nobody would see it.
const SLIGHT: f64 = 0.97;
const LEAST: f64 = 1e-4;

/// Explains one dab.
pub fn explain(tool: &Tool, dab: &DabTrace) -> Reason {
    let mut lines = Vec::new();
    let mut push = |station: Station, what: String, times: f64| {
        lines.push(Line { station, what, times: times.max(LEAST), weight: 0.0 });
    };
    let enters = if tool.action == Action::Lay { tool.choice("ground.enters") } else { "contact" };
    // A multiplied tool lays the same whatever the force.
    let pressed = enters != "multiplied";
    for factor in &dab.factors {
        let response = &tool.responses[factor.response];
        let quality = match response.quality {
            Quality::Force if pressed => "force",
            Quality::Flow => "flow",
            Quality::Opacity => "opacity",
            _ => continue,
        };
        let info = response.signal.info();
        let unit = if info.unit.is_empty() { String::new() } else { format!(" {}", info.unit) };
        let digits = if info.unit.is_empty() { 2 } else { 0 };
        let what = match response.signal {
            // What the hand feels, not the share that the driver reports.
            Signal::Pressure => format!("{quality} from {} {:.0} gf", info.label, dab.hand_gf),
            _ => format!("{quality} from {} {:.digits$}{unit}", info.label, factor.input),
        };
        push(Station::Touch, what, factor.of_most);
    }
    let load = if pressed { dab.load.min(1.0) } else { 1.0 };
    if pressed {
        // At the responses' most, the stick would be loaded with full_load: what the footprint and the stick make of it.
        push(Station::Tip, format!("spread over {:.1} mm²", dab.area_mm2), dab.full_load.min(1.0));
    }
    if enters != "contact" {
        let what = format!("ground as an image, {:.0} % laid", 100.0 * dab.contact);
        push(Station::Ground, what, dab.contact / load.max(LEAST));
    } else if load > 0.0 {
        let what = format!("tooth, {:.0} % touched", 100.0 * dab.covered);
        push(Station::Ground, what, dab.covered / load);
    }
    let own = |q: Quality| {
        let driven = tool.responses.iter().any(|r| r.on && r.quality == q);
        if driven { 1.0 } else { dab.qualities[q.index()] }
    };
    push(Station::Touch, "flow".to_owned(), own(Quality::Flow));
    push(Station::Touch, "opacity".to_owned(), own(Quality::Opacity));
    push(Station::Load, format!("tooth already {:.0} % full", 100.0 * dab.full), 1.0 - dab.full);

    let weight = |times: f64| libm::log(times).abs();
    let all: f64 = lines.iter().map(|l| weight(l.times)).sum();
    for line in &mut lines {
        line.weight = if all > 0.0 { weight(line.times) / all } else { 0.0 };
    }
    lines.retain(|l| (l.times - 1.0).abs() > 0.004);
    lines.sort_by(|a, b| b.weight.total_cmp(&a.weight));
    let mark = lines.iter().map(|l| l.times).product::<f64>().min(1.0);
    Reason { sentence: sentence(tool, dab, &lines), lines, mark }
}

fn sentence(tool: &Tool, dab: &DabTrace, lines: &[Line]) -> String {
    let image = tool.action == Action::Lay && tool.choice("ground.enters") != "contact";
    let covered = 100.0 * if image { dab.contact } else { dab.covered };
    let tone = match covered {
        c if c < 1.0 => "hardly touches",
        c if c < 30.0 => "light",
        c if c < 70.0 => "broken",
        _ => "closed",
    };
    let head = match tool.action {
        Action::Lay => format!("{tone}, covers {covered:.0} %."),
        Action::Fix => "sprayed.".to_owned(),
        Action::Blend | Action::Lift | Action::Cut => {
            let taken = dab.pickup_um_per_mm * dab.travel_mm;
            format!("reaches {covered:.0} % of the tooth, picks up {taken:.2} µm.")
        }
    };
    let mut taking = lines.iter().filter(|l| l.times < SLIGHT);
    match (taking.next(), taking.next()) {
        (Some(a), Some(b)) => format!("{head} Mostly {}; then {}.", phrase(a), phrase(b)),
        (Some(a), None) => format!("{head} Because of {}.", phrase(a)),
        (None, _) => format!("{head} Nothing holds it back."),
    }
}

fn phrase(line: &Line) -> String {
    match line.station {
        Station::Touch => line.what.clone(),
        Station::Tip => format!("the force {}", line.what),
        // Without how much.
        Station::Ground => format!("the {}", line.what.split(',').next().unwrap_or_default()),
        _ => line.what.clone(),
    }
}
