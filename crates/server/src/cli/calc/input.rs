//! One line of input, by field.

use saltmarsh_core::chain::Curve;
use saltmarsh_core::{FieldError, Result};
use serde_json::{Map, Value};

/// One line of input.
pub(super) struct Input(pub(super) Map<String, Value>);

impl Input {
    pub(super) fn get(&self, field: &str) -> Result<&Value> {
        self.0.get(field).ok_or_else(|| FieldError::new(field, "is missing"))
    }

    pub(super) fn number(&self, field: &str) -> Result<f64> {
        number(self.get(field)?, field)
    }

    pub(super) fn numbers(&self, field: &str) -> Result<Vec<f64>> {
        let list =
            self.get(field)?.as_array().ok_or_else(|| FieldError::new(field, "must be a list of numbers"))?;
        list.iter().enumerate().map(|(i, v)| number(v, &format!("{field}[{i}]"))).collect()
    }

    pub(super) fn triple(&self, field: &str) -> Result<[f64; 3]> {
        self.numbers(field)?.try_into().map_err(|_| FieldError::new(field, "must be three numbers"))
    }

    pub(super) fn curve(&self) -> Result<Curve> {
        let list = self
            .get("points")?
            .as_array()
            .ok_or_else(|| FieldError::new("points", "must be a list of [x, y]"))?;
        let points = list.iter().enumerate().map(|(i, p)| {
            let field = format!("points[{i}]");
            match p.as_array().map(Vec::as_slice) {
                Some([x, y]) => Ok([number(x, &field)?, number(y, &field)?]),
                _ => Err(FieldError::new(field, "must be [x, y]")),
            }
        });
        Curve::new(points.collect::<Result<_>>()?)
    }
}

pub(super) fn number(value: &Value, field: &str) -> Result<f64> {
    value.as_f64().filter(|v| v.is_finite()).ok_or_else(|| FieldError::new(field, "must be a finite number"))
}
