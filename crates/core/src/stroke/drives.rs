//! What responses make of a tool's qualities at one place of a stroke.

use crate::chain::{Qualities, Quality, Signals};
use crate::tool::Tool;
use crate::touch::{Combine, Factor, Response};

/// Own values, limits and responses of every quality, laid out for quick reading.
#[derive(Debug, Clone)]
pub struct Drives {
    qualities: Vec<Drive>,
}

/// One quality that the tool's medium has.
#[derive(Debug, Clone)]
struct Drive {
    quality: Quality,
    own: f64,
    limits: (f64, f64),
    combine: Combine,
    /// Indices of the responses that are on: those that give the value, and those that spread around it.
    responses: Vec<usize>,
    spreads: Vec<usize>,
}

impl Drives {
    pub fn new(tool: &Tool) -> Self {
        let parameters = tool.medium.parameters();
        let on = |q: Quality, around: bool| {
            let of = |(i, r): (usize, &Response)| (r.on && r.quality == q && r.around == around).then_some(i);
            tool.responses.iter().enumerate().filter_map(of).collect()
        };
        let drive = |quality: Quality| {
            let parameter = parameters.of_quality(quality)?;
            let (low, high, _) = parameters.range_of(quality)?;
            Some(Drive {
                quality,
                own: tool.number(parameter.id),
                limits: (low, high),
                combine: tool.combine_of(quality),
                responses: on(quality, false),
                spreads: on(quality, true),
            })
        };
        Self { qualities: Quality::ALL.into_iter().filter_map(drive).collect() }
    }

    /// Evaluates every quality, and the most that its responses could make of it; appends what each response did to `factors`.
    pub fn at(&self, tool: &Tool, signals: &Signals, factors: &mut Vec<Factor>) -> (Qualities, Qualities) {
        let (mut out, mut most) = ([0.0; Quality::COUNT], [0.0; Quality::COUNT]);
        for drive in &self.qualities {
            let first = factors.len();
            let value = drive.value(tool, signals, factors);
            let (low, high) = drive.limits;
            let value = if drive.quality == Quality::Angle {
                crate::hand::angles::wrap_degrees(value)
            } else {
                value.clamp(low, high)
            };
            out[drive.quality.index()] = value;
            most[drive.quality.index()] = factors[first..]
                .iter()
                .filter(|f| f.of_most > 0.0)
                .fold(f64::from(value as f32), |sum, f| sum / f.of_most);
        }
        (Qualities(out), Qualities(most))
    }
}

impl Drive {
    fn value(&self, tool: &Tool, signals: &Signals, factors: &mut Vec<Factor>) -> f64 {
        let mut value = self.own;
        for (n, &index) in self.responses.iter().enumerate() {
            let response = &tool.responses[index];
            let mut take = |without: f64| {
                let factor = response.run(index, signals, without);
                factors.push(factor);
                factor.output
            };
            value = match self.combine {
                _ if self.quality == Quality::Angle => value + take(0.0),
                Combine::Product if n > 0 => value * take(1.0),
                Combine::Sum if n > 0 => value + take(0.0),
                Combine::Smallest if n > 0 => value.min(take(self.own)),
                Combine::Largest if n > 0 => value.max(take(self.own)),
                _ => take(self.own),
            };
        }
        for &index in &self.spreads {
            let response = &tool.responses[index];
            let factor = response.run(index, signals, 0.0);
            factors.push(factor);
            value = response.spread(value, factor.output);
        }
        value
    }
}
