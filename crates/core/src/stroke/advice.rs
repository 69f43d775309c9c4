//! Advice on a tool as it stands: what its responses do, or fail to do, on the painter's own gestures, each with a remedy
//! that is one change of the tool. Which things trap painters is common practice, no source; the limits are our own.

use serde::{Deserialize, Serialize};

use super::trace::Trace;
use crate::chain::{Quality, Signal, Value};
use crate::hand::Hand;
use crate::medium::Word;
use crate::said::Said;
use crate::tip::{Profile, spacing};
use crate::tool::Tool;

/// A curve whose output moves less than this over all gestures is flat there.
const FLAT: f64 = 0.01;
/// A signal that moves less than this share of the response's input is not exercised.
const STILL: f64 = 0.005;
/// Dabs closer than what is needed by this much are worth a word.
const NEEDLESS: f64 = 1.8;

/// What the gestures asked of one response: lowest and highest input, in the signal's unit, and share of the curve's output.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Exercised {
    pub input: [f64; 2],
    pub share: [f64; 2],
}

impl Exercised {
    fn with(self, other: Self) -> Self {
        let both = |a: [f64; 2], b: [f64; 2]| [a[0].min(b[0]), a[1].max(b[1])];
        Self { input: both(self.input, other.input), share: both(self.share, other.share) }
    }
}

/// What a trace asked of every response of its tool, by index; nothing for those that are off.
pub fn exercised(trace: &Trace, responses: usize) -> Vec<Option<Exercised>> {
    let mut out: Vec<Option<Exercised>> = vec![None; responses];
    for factor in trace.dabs.iter().flat_map(|d| &d.factors) {
        let here = Exercised { input: [factor.input; 2], share: [factor.share; 2] };
        if let Some(slot) = out.get_mut(factor.response) {
            *slot = Some(slot.map_or(here, |s| s.with(here)));
        }
    }
    out
}

/// What several gestures asked together.
pub fn together(all: &[Vec<Option<Exercised>>]) -> Vec<Option<Exercised>> {
    let count = all.iter().map(Vec::len).max().unwrap_or(0);
    (0..count)
        .map(|i| all.iter().filter_map(|one| one.get(i).copied().flatten()).reduce(Exercised::with))
        .collect()
}

/// One piece of advice.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Advice {
    pub code: &'static str,
    /// The response it is about, if it is about one.
    pub response: Option<String>,
    pub sentence: Said,
    /// What the remedy does, in a few words, and the tool after it.
    pub remedy: Said,
    pub tool: Tool,
}

/// Looks a tool over. `asked`: see [`together`]; responses that no gesture reached are passed over.
pub fn advise(tool: &Tool, hand: &Hand, asked: &[Option<Exercised>]) -> Vec<Advice> {
    let mut out = Vec::new();
    out.extend(size_and_tone(tool));
    for (index, response) in tool.responses.iter().enumerate() {
        if !response.on || response.amount == 0.0 {
            continue;
        }
        let seen = asked.get(index).copied().flatten();
        let about = |text| {
            Said::new(text)
                .phrase("signal", response.signal.info().label)
                .phrase("quality", quality_label(tool, response.quality))
        };
        let off = || changed(tool, |t| t.responses[index].on = false);
        let mut say = |code, sentence: Said, remedy: &'static str, tool: Tool| {
            let response = Some(response.id.clone());
            out.push(Advice { code, response, sentence, remedy: remedy.into(), tool });
        };
        let leaning = matches!(response.signal, Signal::Tilt | Signal::Lean);
        if response.output[0] == response.output[1] {
            say(
                "no-range",
                about("{{signal}} → {{quality}}: both ends give the same, so it does nothing."),
                "turn it off",
                off(),
            );
        } else if leaning && hand.profile.tilt_range_deg == 0.0 {
            say(
                "no-tilt",
                about(
                    "{{signal}} → {{quality}}: this stylus reports no tilt, so one shape is all you will see.",
                ),
                "turn it off",
                off(),
            );
        } else if let Some(seen) = seen {
            let span = response.input[1] - response.input[0];
            if (seen.input[1] - seen.input[0]) < STILL * span {
                say(
                    "not-exercised",
                    about(
                        "{{signal}} → {{quality}}: no gesture on the proof sheet moves it; what it does is not seen here.",
                    ),
                    "turn it off",
                    off(),
                );
            } else if seen.share[1] - seen.share[0] < FLAT {
                let sentence = match response.signal.info().unit {
                    "" => about("{{signal}} → {{quality}}: your gestures stay at {{from}} to {{to}}, where its curve is flat."),
                    unit => about("{{signal}} → {{quality}}: your gestures stay at {{from}} to {{to}} {{unit}}, where its curve is flat.")
                        .phrase("unit", unit),
                };
                let sentence = sentence.count("from", seen.input[0], 2).count("to", seen.input[1], 2);
                let tool = changed(tool, |t| t.responses[index].input = seen.input);
                say("flat", sentence, "spread the curve over your own range", tool);
            }
        }
    }
    out.extend(close_dabs(tool));
    out.extend(of_medium(tool));
    out
}

/// What the tool's medium says of it.
fn of_medium(tool: &Tool) -> Vec<Advice> {
    let force = tool
        .responses
        .iter()
        .filter(|r| r.on && r.quality == Quality::Force)
        .map(|r| r.output[0].max(r.output[1]));
    let own = tool.medium.parameters().of_quality(Quality::Force).map_or(0.0, |p| tool.number(p.id));
    let words = tool.medium.advice(&tool.settings(), force.reduce(f64::max).unwrap_or(own));
    let told = |word: Word| Advice {
        code: word.code,
        response: None,
        sentence: word.sentence,
        remedy: word.remedy,
        tool: changed(tool, |t| t.parameters.extend(word.set.into_iter().map(|(id, v)| (id.to_owned(), v)))),
    };
    words.into_iter().map(told).collect()
}

fn changed(tool: &Tool, change: impl FnOnce(&mut Tool)) -> Tool {
    let mut tool = tool.clone();
    change(&mut tool);
    tool
}

fn quality_label(tool: &Tool, quality: Quality) -> String {
    tool.medium.parameters().of_quality(quality).map_or_else(String::new, |p| p.label.to_lowercase())
}

/// Size and opacity or flow, both on pressure: neither can be set without the other.
fn size_and_tone(tool: &Tool) -> Option<Advice> {
    let on_pressure = |of: &[Quality]| {
        tool.responses.iter().position(|r| {
            r.on && r.amount > 0.0
                && matches!(r.signal, Signal::Pressure | Signal::HardestPress)
                && of.contains(&r.quality)
        })
    };
    on_pressure(&[Quality::Width, Quality::Side])?;
    let tone = on_pressure(&[Quality::Opacity, Quality::Flow])?;
    let quality = quality_label(tool, tool.responses[tone].quality);
    Some(Advice {
        code: "size-and-tone",
        response: Some(tool.responses[tone].id.clone()),
        sentence: Said::new(
            "Width and {{quality}} both hang on pressure: a thin dark line and a broad faint one are out of reach.",
        )
        .phrase("quality", quality.clone()),
        remedy: Said::new("take {{quality}} off pressure").phrase("quality", quality),
        tool: changed(tool, |t| t.responses[tone].on = false),
    })
}

/// Dabs set much closer than the ripple asks for.
fn close_dabs(tool: &Tool) -> Option<Advice> {
    // Only what is laid in dabs of a tip has spacing.
    tool.medium.parameters().find("tip.spacing_auto")?;
    let driven = |q: Quality| tool.responses.iter().any(|r| r.on && r.quality == q);
    if tool.switch("tip.spacing_auto") || driven(Quality::Spacing) || driven(Quality::Hardness) {
        return None;
    }
    let needed = f64::from(spacing::auto_fraction(&Profile::new(tool.number("tip.hardness") as f32)));
    let times = needed / tool.number("tip.spacing");
    (times > NEEDLESS).then(|| Advice {
        code: "close-dabs",
        response: None,
        sentence: Said::new(
            "Dabs lie {{times}} times closer than the eye can tell: as much more work for the same stroke.",
        )
        .count("times", times, 1),
        remedy: "let spacing set itself".into(),
        tool: changed(tool, |t| {
            t.parameters.insert("tip.spacing_auto".to_owned(), Value::Switch(true));
        }),
    })
}
