//! A response: a signal, through a range and a curve, to a quality.

use serde::{Deserialize, Serialize};

use crate::chain::{Curve, Quality, Signal, Signals};
use crate::error::{FieldError, Result, text, within};

/// How several responses on one quality come together.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Combine {
    /// The first response gives the value, every further one a factor.
    #[default]
    Product,
    /// All are in the quality's unit and add (angles always do).
    Sum,
    Smallest,
    Largest,
}

/// The link between one signal and one quality.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Response {
    /// Stable name within the tool, 1 to 40 characters.
    pub id: String,
    pub quality: Quality,
    pub signal: Signal,
    /// Range of the signal that is spread over the curve, in the signal's unit.
    pub input: [f64; 2],
    #[cfg_attr(feature = "types", ts(type = "[number, number][]"))]
    pub curve: Curve,
    /// What the curve's 0 and 1 mean: the quality's unit, or a factor (see [`Combine::Product`]).
    pub output: [f64; 2],
    /// Share of the response that acts, 0..1; the rest is the quality's own value (or a factor of 1).
    pub amount: f64,
    /// Off keeps the curve but takes it out of the stroke.
    pub on: bool,
    /// Begins again past the upper end of the input; for distance and time only.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[cfg_attr(feature = "types", ts(as = "Option<bool>", optional))]
    pub repeat: bool,
    /// The output is a spread around what the other responses make of the quality: a share of it, −1..1 (for an angle
    /// degrees, −180..180). For chance only.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[cfg_attr(feature = "types", ts(as = "Option<bool>", optional))]
    pub around: bool,
}

/// What one response did at one place: for the trace.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Factor {
    /// Index of the response in the tool.
    pub response: usize,
    /// Signal in its unit.
    pub input: f64,
    /// Curve output, 0..1.
    pub share: f64,
    /// Output in the quality's unit or as a factor, amount applied.
    pub output: f64,
    /// Share of the most this response can give (1 where it limits nothing).
    pub of_most: f64,
}

impl Response {
    /// Checks ranges against the signal and the quality, whose range and unit is `range`. `as_factor`: it is not the first of a
    /// product.
    ///
    /// # Errors
    /// Names the field and the limit.
    pub fn check(&self, as_factor: bool, range: (f64, f64, &str)) -> Result<()> {
        text("id", &self.id, 1, 40)?;
        let info = self.signal.info();
        for (i, value) in self.input.iter().enumerate() {
            within(&format!("input[{i}]"), *value, info.least, info.most, info.unit)?;
        }
        if self.input[1] <= self.input[0] {
            return Err(FieldError::new("input", "the upper end must lie above the lower end"));
        }
        let (low, high, unit) = match (self.around, self.quality) {
            (true, Quality::Angle) => (-180.0, 180.0, "°"),
            (true, _) => (-1.0, 1.0, "×"),
            (false, _) if as_factor => (0.0, 2.0, "×"),
            (false, _) => range,
        };
        for (i, value) in self.output.iter().enumerate() {
            within(&format!("output[{i}]"), *value, low, high, unit)?;
        }
        within("amount", self.amount, 0.0, 1.0, "")?;
        if self.repeat && !matches!(self.signal, Signal::Distance | Signal::Time) {
            return Err(FieldError::new("repeat", "is for distance and time only"));
        }
        if self.around && !matches!(self.signal, Signal::ChancePerDab | Signal::ChancePerStroke) {
            return Err(FieldError::new("around", "is for chance only"));
        }
        Ok(())
    }

    /// What a spread makes of a value: added to an angle, a share of anything else.
    pub fn spread(&self, value: f64, output: f64) -> f64 {
        if self.quality == Quality::Angle { value + output } else { value * (1.0 + output) }
    }

    /// Runs the response; `without` is what the quality is without it (1 for a factor, 0 for a spread).
    pub fn run(&self, index: usize, signals: &Signals, without: f64) -> Factor {
        let input = signals.get(self.signal);
        let along = (input - self.input[0]) / (self.input[1] - self.input[0]);
        let u = if self.repeat && along > 0.0 { along - f64::floor(along) } else { along.clamp(0.0, 1.0) };
        let share = self.curve.at(u);
        let full = self.output[0] + (self.output[1] - self.output[0]) * share;
        let output = without + (full - without) * self.amount;
        let most = self.output[0].max(self.output[1]);
        let most = without + (most - without) * self.amount;
        let of_most = match (self.around, self.quality) {
            (true, Quality::Angle) => 1.0,
            (true, _) => (1.0 + output) / (1.0 + most).max(f64::MIN_POSITIVE),
            (false, _) if most > 0.0 => output / most,
            (false, _) => 1.0,
        };
        Factor { response: index, input, share, output, of_most }
    }
}
