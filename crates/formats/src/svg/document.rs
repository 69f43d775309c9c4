//! The document: elements, transforms, size, and what is refused.

use std::cell::Cell;

use kurbo::{Affine, BezPath, PathEl, flatten};
use quick_xml::events::{BytesStart, Event};
use quick_xml::{Reader, XmlVersion};
use saltmarsh_core::FieldError;
use saltmarsh_core::hand::way::{MOST_POINTS, Outline};
use svgtypes::{Length, Transform, ViewBox};

use super::length::{PIXEL_MM, millimetres};
use super::shapes::{Attributes, outline, short};

/// Curves become lines this close, as a share of the drawing's size.
const TOLERANCE: f64 = 1.0 / 4000.0;
/// What is inside these is not drawn where it stands.
const NOT_DRAWN: [&str; 8] = ["defs", "symbol", "clipPath", "mask", "pattern", "marker", "metadata", "title"];

/// Outlines of a drawing.
#[derive(Debug, Clone, PartialEq)]
pub struct Drawing {
    /// Polylines in mm, in the order in which they are drawn.
    pub outline: Outline,
    /// Of all of them together, mm.
    pub length_mm: f64,
}

struct State {
    /// Transform of each open element, from user units.
    transforms: Vec<Affine>,
    /// How many of the open elements keep their content from being drawn.
    hidden: usize,
    open: Vec<(String, bool)>,
    path: BezPath,
    /// mm of a user unit.
    unit_mm: f64,
}

/// Reads the outlines of a drawing.
///
/// # Errors
/// Refuses a document that is not well-formed, too large, too deep, has a document type (entities), refers to other files,
/// or holds numbers that cannot be; and one without outlines.
pub fn read(text: &str) -> Result<Drawing, FieldError> {
    let refuse = |message: String| FieldError::new("svg", message);
    if text.len() > super::MOST_BYTES {
        return Err(refuse(format!("is {} bytes; at most {} are read", text.len(), super::MOST_BYTES)));
    }
    let mut reader = Reader::from_str(text);
    let mut state = State {
        transforms: vec![Affine::IDENTITY],
        hidden: 0,
        open: Vec::new(),
        path: BezPath::new(),
        unit_mm: PIXEL_MM,
    };
    let mut seen_root = false;
    loop {
        match reader.read_event().map_err(|e| refuse(format!("is not well-formed XML: {e}")))? {
            Event::DocType(_) => return Err(refuse("has a document type; entities are not read".to_owned())),
            Event::Start(e) => {
                if state.open.is_empty() && seen_root {
                    return Err(refuse("has more than one root".to_owned()));
                }
                seen_root = true;
                state.start(&e).map_err(refuse)?;
            }
            Event::Empty(e) => {
                if state.open.is_empty() {
                    return Err(refuse("holds no drawing".to_owned()));
                }
                state.start(&e).map_err(refuse)?;
                state.end();
            }
            Event::End(_) => state.end(),
            Event::Eof => break,
            Event::Text(_) | Event::GeneralRef(_) | Event::CData(_) => {}
            Event::Decl(_) | Event::PI(_) | Event::Comment(_) => {}
        }
    }
    if let Some((name, _)) = state.open.last() {
        return Err(refuse(format!("ends inside <{name}>: it is cut off")));
    }
    state.drawing().map_err(refuse)
}

impl State {
    fn start(&mut self, e: &BytesStart<'_>) -> Result<(), String> {
        let name = String::from_utf8_lossy(e.local_name().as_ref()).into_owned();
        let a = attributes(e)?;
        if self.open.is_empty() {
            if name != "svg" {
                return Err(format!("its root is <{}>, not <svg>", short(&name)));
            }
            self.unit_mm = unit_mm(&a)?;
        } else if name == "svg" {
            return Err("holds a drawing within the drawing; those are not read".to_owned());
        }
        if self.open.len() >= super::MOST_DEPTH {
            return Err(format!("is nested deeper than {} elements", super::MOST_DEPTH));
        }
        refuse_references(&name, &a)?;
        let above = *self.transforms.last().unwrap_or(&Affine::IDENTITY);
        let here = match a.get("transform") {
            Some(text) => {
                let t: Transform =
                    text.parse().map_err(|_| format!("transform=\"{}\" cannot be read", short(text)))?;
                above * Affine::new([t.a, t.b, t.c, t.d, t.e, t.f])
            }
            None => above,
        };
        let hides = NOT_DRAWN.contains(&name.as_str())
            || a.get("display").is_some_and(|v| v == "none")
            || a.get("style").is_some_and(|v| v.replace(' ', "").contains("display:none"));
        if self.hidden == 0 && !hides {
            let room = super::MOST_SEGMENTS - self.path.elements().len().min(super::MOST_SEGMENTS);
            if let Some(shape) = outline(&name, &a, room)? {
                if shape.elements().len() > room {
                    return Err(format!("more than {} segments", super::MOST_SEGMENTS));
                }
                let shape = here * shape;
                check(&shape)?;
                self.path.extend(shape);
            }
        }
        self.transforms.push(here);
        self.hidden += usize::from(hides);
        self.open.push((name, hides));
        Ok(())
    }

    fn end(&mut self) {
        self.transforms.pop();
        if let Some((_, true)) = self.open.pop() {
            self.hidden -= 1;
        }
    }

    fn drawing(self) -> Result<Drawing, String> {
        let bounds = self.path.control_box();
        let size = bounds.width().max(bounds.height());
        // An empty path has no finite box.
        if self.path.elements().is_empty() || !(size > 0.0 && size.is_finite()) {
            return Err("holds no line that has a length".to_owned());
        }
        let mut strokes: Vec<Vec<[f64; 2]>> = Vec::new();
        // Curves are made into lines only while there is room for more.
        let count = Cell::new(0_usize);
        let (mut length, mut first) = (0.0, [0.0; 2]);
        let unit = self.unit_mm;
        let within = self.path.into_iter().take_while(|_| count.get() <= MOST_POINTS);
        flatten(within, TOLERANCE * size, |element| {
            count.set(count.get() + 1);
            if count.get() > MOST_POINTS {
                return;
            }
            let at = |p: kurbo::Point| [p.x * unit, p.y * unit];
            let to = match element {
                PathEl::MoveTo(p) => {
                    first = at(p);
                    strokes.push(vec![first]);
                    return;
                }
                PathEl::LineTo(p) => at(p),
                // Flattened paths hold no curves.
                PathEl::ClosePath | PathEl::QuadTo(..) | PathEl::CurveTo(..) => first,
            };
            if let Some(stroke) = strokes.last_mut()
                && let Some(from) = stroke.last().copied()
            {
                length += kurbo::Point::from((from[0], from[1])).distance((to[0], to[1]).into());
                stroke.push(to);
            }
        });
        if count.get() > MOST_POINTS {
            return Err(format!("would give more than {MOST_POINTS} points"));
        }
        strokes.retain(|s| s.iter().any(|p| *p != s[0]));
        if strokes.is_empty() {
            return Err("holds no line that has a length".to_owned());
        }
        Ok(Drawing { outline: Outline { strokes }, length_mm: length })
    }
}

fn attributes(e: &BytesStart<'_>) -> Result<Attributes, String> {
    let mut out = Attributes::new();
    for attribute in e.attributes() {
        let attribute = attribute.map_err(|e| format!("has a bad attribute: {e}"))?;
        let value = attribute
            .normalized_value(XmlVersion::default())
            .map_err(|e| format!("has a bad attribute value: {e}"))?;
        let name = String::from_utf8_lossy(attribute.key.local_name().as_ref()).into_owned();
        out.insert(name, value.into_owned());
    }
    Ok(out)
}

/// Only what stands in the document itself is read; a link to click on leads nowhere here and does no harm.
fn refuse_references(name: &str, a: &Attributes) -> Result<(), String> {
    match a.get("href") {
        None => Ok(()),
        Some(_) if name == "a" => Ok(()),
        Some(_) if name == "use" => {
            Err("draws copies by reference (<use>); turn them into paths first".to_owned())
        }
        Some(to) if to.starts_with('#') => Ok(()),
        Some(to) => Err(format!("refers to \"{}\", outside of itself; that is not read", short(to))),
    }
}

fn check(shape: &BezPath) -> Result<(), String> {
    let far = |p: &kurbo::Point| !(p.x.abs() <= super::FARTHEST && p.y.abs() <= super::FARTHEST);
    let points = |e: &PathEl| match e {
        PathEl::MoveTo(p) | PathEl::LineTo(p) => far(p),
        PathEl::QuadTo(a, p) => far(a) || far(p),
        PathEl::CurveTo(a, b, p) => far(a) || far(b) || far(p),
        PathEl::ClosePath => false,
    };
    if shape.elements().iter().any(points) {
        return Err(format!("has a place farther out than {} units, or none", super::FARTHEST));
    }
    Ok(())
}

/// mm of a user unit, by the root's size and view box.
fn unit_mm(a: &Attributes) -> Result<f64, String> {
    let Some(view) = a.get("viewBox") else { return Ok(PIXEL_MM) };
    let view: ViewBox = view.parse().map_err(|_| format!("viewBox=\"{}\" cannot be read", short(view)))?;
    let stated = |key: &str| -> Result<Option<f64>, String> {
        let Some(text) = a.get(key) else { return Ok(None) };
        let length: Length = text.parse().map_err(|_| format!("{key}=\"{}\" is no length", short(text)))?;
        Ok(millimetres(length).filter(|mm| mm.is_finite() && *mm > 0.0))
    };
    let unit = match (stated("width")?, stated("height")?) {
        (Some(mm), _) => mm / view.w,
        (None, Some(mm)) => mm / view.h,
        (None, None) => PIXEL_MM,
    };
    if unit.is_finite() && (1e-9..=1e6).contains(&unit) {
        Ok(unit)
    } else {
        Err(format!("a unit of its view box would be {unit} mm"))
    }
}
