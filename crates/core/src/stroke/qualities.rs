//! What a tool's qualities are at one place of a stroke.

use crate::hand::Signals;
use crate::tool::Tool;
use crate::tool::parameter::{Quality, quality_range};
use crate::touch::{Combine, Factor, Response};

const COUNT: usize = Quality::ALL.len();

/// Own values, limits and responses of every quality, laid out for quick reading.
#[derive(Debug, Clone)]
pub struct Qualities {
    own: [f64; COUNT],
    limits: [(f64, f64); COUNT],
    combine: [Combine; COUNT],
    /// Indices of the responses that are on, by quality: those that give the value, and those that spread around it.
    responses: [Vec<usize>; COUNT],
    spreads: [Vec<usize>; COUNT],
}

/// Qualities at one place: a value each, in the quality's unit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Values(pub [f64; COUNT]);

impl Values {
    pub fn get(&self, quality: Quality) -> f64 {
        self.0[quality.index()]
    }
}

impl Qualities {
    pub fn new(tool: &Tool) -> Self {
        let on = |q: Quality, around: bool| {
            let of = |(i, r): (usize, &Response)| (r.on && r.quality == q && r.around == around).then_some(i);
            tool.responses.iter().enumerate().filter_map(of).collect()
        };
        Self {
            own: Quality::ALL.map(|q| tool.number(q.parameter().id)),
            limits: Quality::ALL.map(|q| {
                let (low, high, _) = quality_range(q);
                (low, high)
            }),
            combine: Quality::ALL.map(|q| tool.combine_of(q)),
            responses: Quality::ALL.map(|q| on(q, false)),
            spreads: Quality::ALL.map(|q| on(q, true)),
        }
    }

    /// Evaluates every quality; appends what each response did to `factors`.
    pub fn at(&self, tool: &Tool, signals: &Signals, factors: &mut Vec<Factor>) -> Values {
        let mut out = [0.0; COUNT];
        for (q, quality) in Quality::ALL.into_iter().enumerate() {
            let mut value = self.own[q];
            for (n, &index) in self.responses[q].iter().enumerate() {
                let response = &tool.responses[index];
                let mut take = |without: f64| {
                    let factor = response.run(index, signals, without);
                    factors.push(factor);
                    factor.output
                };
                value = match self.combine[q] {
                    _ if quality == Quality::Angle => value + take(0.0),
                    Combine::Product if n > 0 => value * take(1.0),
                    Combine::Sum if n > 0 => value + take(0.0),
                    Combine::Smallest if n > 0 => value.min(take(self.own[q])),
                    Combine::Largest if n > 0 => value.max(take(self.own[q])),
                    _ => take(self.own[q]),
                };
            }
            for &index in &self.spreads[q] {
                let response = &tool.responses[index];
                let factor = response.run(index, signals, 0.0);
                factors.push(factor);
                value = response.spread(value, factor.output);
            }
            let (low, high) = self.limits[q];
            out[q] = if quality == Quality::Angle {
                crate::hand::angles::wrap_degrees(value)
            } else {
                value.clamp(low, high)
            };
        }
        Values(out)
    }
}
