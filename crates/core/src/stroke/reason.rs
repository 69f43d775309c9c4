//! Why a mark is as it is: the factors of one dab in order of weight, and one sentence. What the factors are is the medium's to say;
//! here they are shared out among the responses behind them.

use serde::Serialize;

use super::trace::DabTrace;
use crate::chain::{Qualities, Quality, Signal, Station};
use crate::medium::{Cause, Told};
use crate::said::Said;
use crate::tool::Tool;
use crate::touch::Factor;

/// One factor of the mark, as a line of the trace.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Line {
    pub station: Station,
    /// What acts, for example `force from pressure 88 gf`, and how much of it, for example `43 % touched`.
    pub what: Said,
    pub much: Option<Said>,
    /// Factor on the mark: under 1 takes away, over 1 adds.
    pub times: f64,
    /// Share of all the weight (|ln| of the factors), 0..1.
    pub weight: f64,
    /// What changes it: a response of the tool's, by its place among them, else a parameter.
    pub response: Option<usize>,
    pub parameter: Option<&'static str>,
}

/// The reason of one dab.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Reason {
    /// One sentence.
    pub sentence: Said,
    /// Lines, heaviest first. Their product is the mark.
    pub lines: Vec<Line>,
    /// What the medium calls the mark: for dry tools the share of a closed, full layer that this dab works towards.
    pub mark: f64,
}

/// Factors over this take away so little that nobody would see it.
const SLIGHT: f64 = 0.97;
/// Factors count as no less than this when they are weighed.
const LEAST: f64 = 1e-4;

fn weight(times: f64) -> f64 {
    libm::log(times.max(LEAST)).abs()
}

/// Explains one dab.
pub fn explain(tool: &Tool, dab: &DabTrace) -> Reason {
    let mut qualities = [0.0; Quality::COUNT];
    qualities.iter_mut().zip(&dab.qualities).for_each(|(q, v)| *q = *v);
    let told = Told {
        qualities: Qualities(qualities),
        area_mm2: dab.area_mm2,
        travel_mm: dab.travel_mm,
        columns: tool.medium.columns(),
        values: &dab.values,
    };
    let settings = tool.settings();
    let mut lines = Vec::new();
    for cause in tool.medium.causes(&settings, &told) {
        share_out(tool, dab, cause, &mut lines);
    }
    let all: f64 = lines.iter().map(|l: &Line| weight(l.times)).sum();
    for line in &mut lines {
        line.weight = if all > 0.0 { weight(line.times) / all } else { 0.0 };
    }
    let mark = lines.iter().map(|l| l.times).product();
    lines.retain(|l| l.times != 1.0);
    lines.sort_by(|a, b| b.weight.total_cmp(&a.weight));
    let sentence = sentence(tool.medium.headline(&settings, &told), &lines);
    Reason { sentence, lines, mark }
}

/// A cause as lines: what its quality's responses did of it, and what is left.
fn share_out(tool: &Tool, dab: &DabTrace, cause: Cause, lines: &mut Vec<Line>) {
    let Cause { station, what, much, times, quality, of_most, parameter } = cause;
    let mut push = |station, what: Said, times: f64, response, parameter| {
        lines.push(Line { station, what, much: much.clone(), times, weight: 0.0, response, parameter });
    };
    let Some(quality) = quality else { return push(station, what, times, None, parameter) };
    let behind: Vec<&Factor> =
        dab.factors.iter().filter(|f| tool.responses[f.response].quality == quality).collect();
    let weights: f64 = behind.iter().map(|f| weight(f.of_most)).sum();
    // Where force beyond what closes the tooth is lost, the responses' factors count for less than they say.
    let share = |f: &Factor| match of_most {
        true if weights > 0.0 => libm::pow(times, weight(f.of_most) / weights),
        true => 1.0,
        false => f.of_most.max(LEAST),
    };
    let mut left = times;
    for factor in behind {
        let by = share(factor);
        left /= by;
        push(Station::Touch, said(tool, dab, &what, factor), by, Some(factor.response), None);
    }
    // What no response took: the quality's own value, and nothing but rounding where all of it is theirs.
    let own = tool.medium.parameters().iter().find(|p| p.quality == Some(quality));
    push(station, what, left, None, own.map(|p| p.id));
}

/// What a response did, in words.
fn said(tool: &Tool, dab: &DabTrace, what: &Said, factor: &Factor) -> Said {
    let info = tool.responses[factor.response].signal.info();
    // What the hand feels, not the share that the driver reports.
    let (input, unit) = match info.signal {
        Signal::Pressure => (dab.hand_gf, "gf"),
        _ => (factor.input, info.unit),
    };
    let said = match unit {
        "" => Said::new("{{what}} from {{signal}} {{input}}").count("input", input, 2),
        unit => Said::new("{{what}} from {{signal}} {{input}} {{unit}}")
            .count("input", input, 0)
            .phrase("unit", unit),
    };
    said.phrase("what", what.clone()).phrase("signal", info.label)
}

fn sentence(head: Said, lines: &[Line]) -> Said {
    let mut taking = lines.iter().filter(|l| l.times < SLIGHT);
    let said = |text| Said::new(text).phrase("head", head);
    match (taking.next(), taking.next()) {
        (Some(a), Some(b)) => said("{{head}} Mostly {{most}}; then {{then}}.")
            .phrase("most", phrase(a))
            .phrase("then", phrase(b)),
        (Some(a), None) => said("{{head}} Because of {{most}}.").phrase("most", phrase(a)),
        (None, _) => said("{{head}} Nothing holds it back."),
    }
}

/// A line within the sentence: of the ground and of what is shared out without how much.
fn phrase(line: &Line) -> Said {
    let what = line.what.clone();
    match (line.station, &line.much) {
        (Station::Tip, _) => Said::new("the force {{spread}}").phrase("spread", what),
        (Station::Ground, _) => Said::new("the {{what}}").phrase("what", what),
        (_, Some(much)) => Said::new("{{what}}, {{much}}").phrase("what", what).phrase("much", much.clone()),
        (_, None) => what,
    }
}
