//! Gestures from decoded traces, and back.

use std::fmt::Write as _;

use saltmarsh_core::hand::angles;
use saltmarsh_core::{FieldError, hand::Gesture, hand::Sample};

use super::channel::Channel;
use super::document::{Document, Trace};

/// Without units, device units are taken as hundredths of a millimetre (common practice, no source).
const DEVICE_UNIT_MM: f64 = 0.01;
/// Without times, reports are taken to be this far apart, s.
const REPORT_S: f64 = 1.0 / 120.0;
/// Pause between traces that give no times, s.
const LIFT_S: f64 = 0.1;

/// Makes one gesture of all pen-down traces, a pass each.
///
/// X and Y are needed; F (with its min and max) becomes pressure, OTx/OTy or OA/OE tilt, OR the barrel turn, T time. What
/// a trace does not have is: pressure ½, upright, no turn, 120 reports a second.
///
/// # Errors
/// Refuses a document with refused traces, without traces, without X or Y, or with values out of range, naming them.
pub fn to_gesture(document: &Document) -> Result<Gesture, FieldError> {
    check(document)?;
    gesture_of(document.traces.iter())
}

/// The gestures of a document: one for each outermost trace group that has a title, and one without a name of all other
/// traces.
///
/// # Errors
/// As [`to_gesture`], for any of them.
pub fn to_gestures(document: &Document) -> Result<Vec<(Option<String>, Gesture)>, FieldError> {
    check(document)?;
    let title = |t: &Trace| t.group.filter(|g| document.titles.get(*g).is_some_and(Option::is_some));
    let mut out = Vec::new();
    for (index, name) in document.titles.iter().enumerate() {
        let Some(name) = name else { continue };
        let of = document.traces.iter().filter(|t| title(t) == Some(index));
        let gesture = gesture_of(of).map_err(|e| e.within(&format!("\"{name}\"")))?;
        out.push((Some(name.clone()), gesture));
    }
    let rest: Vec<&Trace> = document.traces.iter().filter(|t| title(t).is_none()).collect();
    if out.is_empty() || rest.iter().any(|t| !t.pen_up) {
        out.push((None, gesture_of(rest.into_iter())?));
    }
    Ok(out)
}

fn check(document: &Document) -> Result<(), FieldError> {
    match document.refused.first() {
        Some(refused) => Err(FieldError::new(format!("trace {}", refused.id), refused.reason.clone())),
        None => Ok(()),
    }
}

fn gesture_of<'a>(traces: impl Iterator<Item = &'a Trace>) -> Result<Gesture, FieldError> {
    let mut passes = Vec::new();
    let mut clock = 0.0;
    for trace in traces.filter(|t| !t.pen_up) {
        let mut pass = samples(trace).map_err(|e| e.within(&format!("trace {}", trace.id)))?;
        let (first, has_time) = (pass[0].t, trace.channels.iter().any(|c| c.name == "T"));
        // A trace whose time starts again, or that has none, follows the one before.
        let shift = if !has_time || first < clock {
            let start = if passes.is_empty() { 0.0 } else { clock + LIFT_S };
            start - first
        } else {
            0.0
        };
        pass.iter_mut().for_each(|s| s.t += shift);
        clock = pass[pass.len() - 1].t;
        passes.push(pass);
    }
    if passes.is_empty() {
        return Err(FieldError::new("inkml", "holds no trace"));
    }
    Gesture::new(passes)
}

fn samples(trace: &Trace) -> Result<Vec<Sample>, FieldError> {
    let find = |name: &str| trace.channels.iter().position(|c| c.name == name);
    let need = |name: &str| find(name).ok_or_else(|| FieldError::new(name, "the trace has no such channel"));
    let (x, y) = (need("X")?, need("Y")?);
    let (force, time, turn) = (find("F"), find("T"), find("OR"));
    let (tilt_x, tilt_y) = (find("OTx"), find("OTy"));
    let (azimuth, elevation) = (find("OA"), find("OE"));
    let mut out: Vec<Sample> = Vec::with_capacity(trace.points.len());
    for (n, point) in trace.points.iter().enumerate() {
        let at = |i: Option<usize>| i.and_then(|i| point[i].map(|v| (v, &trace.channels[i])));
        let place = |i: usize| {
            let v = point[i].ok_or_else(|| {
                FieldError::new(
                    format!("point {n}.{}", trace.channels[i].name),
                    "a position must be reported",
                )
            })?;
            Ok(v * millimetres(&trace.channels[i]))
        };
        let (tilt_x, tilt_y) = match (at(azimuth), at(elevation)) {
            (Some((a, ca)), Some((e, ce))) => angles::to_tilt(radians(e, ce), radians(a, ca)),
            _ => (
                at(tilt_x).map_or(0.0, |(v, c)| degrees(v, c)),
                at(tilt_y).map_or(0.0, |(v, c)| degrees(v, c)),
            ),
        };
        out.push(Sample {
            t: at(time).map_or(n as f64 * REPORT_S, |(v, c)| v * if c.units == "s" { 1.0 } else { 1e-3 }),
            x: place(x)?,
            y: place(y)?,
            pressure: at(force).map_or(0.5, |(v, c)| share(v, c)),
            tilt_x,
            tilt_y,
            twist: at(turn).map_or(0.0, |(v, c)| angles::wrap_degrees(degrees(v, c))),
        });
    }
    Ok(out)
}

fn millimetres(c: &Channel) -> f64 {
    match c.units.as_str() {
        "mm" => 1.0,
        "cm" => 10.0,
        "m" => 1000.0,
        "in" => 25.4,
        "pt" => 25.4 / 72.0,
        "pc" => 25.4 / 6.0,
        _ => DEVICE_UNIT_MM,
    }
}

fn degrees(value: f64, c: &Channel) -> f64 {
    if c.units == "rad" { value.to_degrees() } else { value }
}

fn radians(value: f64, c: &Channel) -> f64 {
    if c.units == "rad" { value } else { value.to_radians() }
}

fn share(value: f64, c: &Channel) -> f64 {
    let (low, high) = (c.min.unwrap_or(0.0), c.max.unwrap_or(if c.units == "%" { 100.0 } else { 1.0 }));
    (value - low) / (high - low)
}

/// Writes a gesture: X, Y in mm (0.1 µm), F as share of full pressure (1e-6), OTx, OTy, OR in degrees (1e-3), T in ms
/// (1e-3). Reading it back gives the same numbers to those steps.
pub fn write(gesture: &Gesture) -> String {
    let mut out = String::from(HEAD);
    passes(gesture, "pass", &mut out);
    out.push_str("</ink>\n");
    out
}

/// Writes several gestures, each a trace group with its name as title: [`to_gestures`] gives them back.
pub fn write_all(gestures: &[(String, Gesture)]) -> String {
    let mut out = String::from(HEAD);
    for (i, (name, gesture)) in gestures.iter().enumerate() {
        let name = quick_xml::escape::escape(name.as_str());
        let _ = writeln!(out, "  <traceGroup>\n  <annotation type=\"title\">{name}</annotation>");
        passes(gesture, &format!("gesture{}-pass", i + 1), &mut out);
        out.push_str("  </traceGroup>\n");
    }
    out.push_str("</ink>\n");
    out
}

const HEAD: &str = concat!(
    "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n",
    "<ink xmlns=\"http://www.w3.org/2003/InkML\">\n",
    "  <definitions>\n",
    "    <traceFormat xml:id=\"stylus\">\n",
    "      <channel name=\"X\" type=\"decimal\" units=\"mm\"/>\n",
    "      <channel name=\"Y\" type=\"decimal\" units=\"mm\"/>\n",
    "      <channel name=\"F\" type=\"decimal\" min=\"0\" max=\"1\" units=\"dev\"/>\n",
    "      <channel name=\"OTx\" type=\"decimal\" units=\"deg\"/>\n",
    "      <channel name=\"OTy\" type=\"decimal\" units=\"deg\"/>\n",
    "      <channel name=\"OR\" type=\"decimal\" units=\"deg\"/>\n",
    "      <channel name=\"T\" type=\"decimal\" units=\"ms\"/>\n",
    "    </traceFormat>\n",
    "    <context xml:id=\"pen\" traceFormatRef=\"#stylus\"/>\n",
    "  </definitions>\n",
);

fn passes(gesture: &Gesture, id: &str, out: &mut String) {
    for (i, pass) in gesture.passes().iter().enumerate() {
        let _ = write!(out, "  <trace xml:id=\"{id}{}\" contextRef=\"#pen\">", i + 1);
        for (n, s) in pass.iter().enumerate() {
            let comma = if n > 0 { "," } else { "" };
            let fixed = [
                decimal(s.x, 4),
                decimal(s.y, 4),
                decimal(s.pressure, 6),
                decimal(s.tilt_x, 3),
                decimal(s.tilt_y, 3),
                decimal(s.twist, 3),
                decimal(s.t * 1e3, 3),
            ];
            let _ = write!(out, "{comma}{}", fixed.join(" "));
        }
        out.push_str("</trace>\n");
    }
}

fn decimal(value: f64, digits: usize) -> String {
    let text = format!("{value:.digits$}");
    let text = text.trim_end_matches('0').trim_end_matches('.');
    if text == "-0" { "0".to_owned() } else { text.to_owned() }
}
