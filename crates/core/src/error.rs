//! Refusals. Every one names the field it is about, so that a screen can point at it.

use serde::Serialize;

/// Bad input: which field, and what would be accepted.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, thiserror::Error)]
#[error("{field}: {message}")]
pub struct FieldError {
    /// Path of the field, for example `responses[2].points[1]`.
    pub field: String,
    /// What is wrong and the limit.
    pub message: String,
}

impl FieldError {
    /// A refusal of `field`.
    pub fn new(field: impl Into<String>, message: impl Into<String>) -> Self {
        Self { field: field.into(), message: message.into() }
    }

    /// The same refusal, seen from the document that holds the field.
    #[must_use]
    pub fn within(self, parent: &str) -> Self {
        let joint = if self.field.is_empty() || self.field.starts_with('[') { "" } else { "." };
        Self { field: format!("{parent}{joint}{}", self.field), message: self.message }
    }
}

pub type Result<T> = std::result::Result<T, FieldError>;

/// Checks that a number is finite and within `low..=high`.
///
/// # Errors
/// Names `field` and the limits.
pub fn within(field: &str, value: f64, low: f64, high: f64, unit: &str) -> Result<f64> {
    if value.is_finite() && value >= low && value <= high {
        return Ok(value);
    }
    let unit = if unit.is_empty() { String::new() } else { format!(" {unit}") };
    Err(FieldError::new(field, format!("must be a number from {low} to {high}{unit}, got {value}")))
}

/// Checks that a text has `least..=most` characters, without the white space around it, and no control characters but line breaks
/// and tabs: they cannot be seen, and a database or a file may not take them.
///
/// # Errors
/// Names `field` and the limit.
pub fn text<'a>(field: &str, value: &'a str, least: usize, most: usize) -> Result<&'a str> {
    let value = value.trim();
    let count = value.chars().count();
    if count < least || count > most {
        let limits = if least == 0 { format!("at most {most}") } else { format!("{least} to {most}") };
        return Err(FieldError::new(field, format!("must be {limits} characters, has {count}")));
    }
    match value.chars().enumerate().find(|(_, c)| c.is_control() && !"\n\r\t".contains(*c)) {
        Some((n, c)) => {
            let what =
                format!("may not hold control characters; character {} is U+{:04X}", n + 1, u32::from(c));
            Err(FieldError::new(field, what))
        }
        None => Ok(value),
    }
}
