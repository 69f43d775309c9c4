//! One element's outline, in its own coordinates.

use std::collections::HashMap;

use kurbo::{BezPath, Circle, Ellipse, Rect, RoundedRect, Shape};
use svgtypes::PointsParser;

use super::length::{PIXEL_MM, millimetres};
use super::path::{self, ARC_TOLERANCE};

pub(super) type Attributes = HashMap<String, String>;

/// The outline of a drawn element; nothing for one that is not drawn. `room`: segments it may have.
pub(super) fn outline(name: &str, a: &Attributes, room: usize) -> Result<Option<BezPath>, String> {
    let n = |key: &str| -> Result<f64, String> { a.get(key).map_or(Ok(0.0), |text| number(key, text)) };
    let size = |key: &str| -> Result<f64, String> {
        let value = n(key)?;
        if value < 0.0 { Err(format!("{key} is negative")) } else { Ok(value) }
    };
    let path = match name {
        "path" => path::from_data(a.get("d").map_or("", String::as_str), room)?,
        "line" => polyline(&[(n("x1")?, n("y1")?), (n("x2")?, n("y2")?)], false),
        "polyline" | "polygon" => {
            let text = a.get("points").map_or("", String::as_str);
            let points: Vec<(f64, f64)> = PointsParser::from(text).take(room + 1).collect();
            polyline(&points, name == "polygon")
        }
        "rect" => {
            let (x, y, w, h) = (n("x")?, n("y")?, size("width")?, size("height")?);
            let rect = Rect::new(x, y, x + w, y + h);
            let round = if a.contains_key("rx") { size("rx")? } else { size("ry")? };
            let round = round.min(0.5 * w).min(0.5 * h);
            if round > 0.0 {
                RoundedRect::from_rect(rect, round).to_path(ARC_TOLERANCE * w.max(h))
            } else {
                rect.to_path(ARC_TOLERANCE)
            }
        }
        "circle" => {
            let r = size("r")?;
            Circle::new((n("cx")?, n("cy")?), r).to_path(ARC_TOLERANCE * r.max(1e-9))
        }
        "ellipse" => {
            let (rx, ry) = (size("rx")?, size("ry")?);
            Ellipse::new((n("cx")?, n("cy")?), (rx, ry), 0.0).to_path(ARC_TOLERANCE * rx.max(ry).max(1e-9))
        }
        _ => return Ok(None),
    };
    Ok(Some(path))
}

/// A length without a unit, or in px, which is the user unit.
fn number(key: &str, text: &str) -> Result<f64, String> {
    let length: svgtypes::Length =
        text.parse().map_err(|_| format!("{key}=\"{}\" is no length", short(text)))?;
    match length.unit {
        svgtypes::LengthUnit::None | svgtypes::LengthUnit::Px => Ok(length.number),
        _ => millimetres(length)
            .map(|mm| mm / PIXEL_MM)
            .ok_or_else(|| format!("{key}=\"{}\" has a unit that depends on what is around it", short(text))),
    }
}

fn polyline(points: &[(f64, f64)], closed: bool) -> BezPath {
    let mut path = BezPath::new();
    for (i, p) in points.iter().enumerate() {
        if i == 0 { path.move_to(*p) } else { path.line_to(*p) }
    }
    if closed && points.len() > 1 {
        path.close_path();
    }
    path
}

/// Text of a document as an error may show it.
pub(super) fn short(text: &str) -> String {
    text.chars().take(40).collect()
}
