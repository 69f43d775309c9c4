//! `saltmarsh calc TOPIC`: JSON lines in, one JSON line out for each, in order. A bad line answers an error that names its
//! field; the rest go on, and the exit code is 2 at the end.

use std::io::{BufRead, Read};

use clap::{Args, ValueEnum};
use saltmarsh_core::hand::angles;
use saltmarsh_core::hand::steadying::{Steadying, steady};
use saltmarsh_core::paint::blend::Blend;
use saltmarsh_core::paint::{bands, colour, film, pigment};
use saltmarsh_core::touch::levels;
use saltmarsh_core::{FieldError, Result};
use saltmarsh_formats::inkml;
use serde_json::{Map, Value, json};

use super::files::{read_text, tell};
use crate::stop::Stop;
use input::{Input, number};

mod brush;
mod input;
mod surface;

#[derive(Debug, Clone, Copy, ValueEnum)]
enum Topic {
    /// Tilt and spherical angles, either way.
    Angles,
    /// A response curve at given inputs.
    Curve,
    /// How many levels of a pen a curve leaves.
    Levels,
    /// A signal through the one-euro filter.
    Steady,
    /// Films of paint over a ground.
    Film,
    /// CIEDE2000 colour difference.
    #[value(name = "delta_e")]
    DeltaE,
    /// ISO 25178-2 figures and material ratio of a height map.
    Ground,
    /// What share of a height map a flat tip covers.
    Coverage,
    /// One colour over another by a blend mode.
    Blend,
    /// Traces of an InkML document.
    Inkml,
    /// A hair bent by a load at its end.
    Cantilever,
    /// Light that a smooth surface throws back.
    Fresnel,
    /// A ripple on a thin film that levels.
    Levelling,
    /// A colour of the screen as reflectances.
    Upsample,
}

/// Longest line that is read, and how much of a longer one is passed over to find the next, bytes.
const MOST_LINE: u64 = 1024 * 1024;
const MOST_PASSED: u64 = 64 * MOST_LINE;

/// The next line, or what is wrong with it; nothing at the end.
fn next_line(input: &mut impl BufRead) -> std::result::Result<Option<Result<String>>, Stop> {
    let failed = |e: std::io::Error| Stop::Input(format!("standard input: {e}"));
    let mut line = Vec::new();
    if input.take(MOST_LINE + 1).read_until(b'\n', &mut line).map_err(failed)? == 0 {
        return Ok(None);
    }
    let (mut passed, mut whole) = (line.len() as u64, line.ends_with(b"\n"));
    if passed <= MOST_LINE {
        let text = String::from_utf8(line).map_err(|_| FieldError::new("line", "is not UTF-8"));
        return Ok(Some(text));
    }
    while !whole {
        line.clear();
        let read = input.take(MOST_LINE).read_until(b'\n', &mut line).map_err(failed)? as u64;
        whole = read == 0 || line.ends_with(b"\n");
        passed += read;
        if passed > MOST_PASSED {
            return Err(Stop::Input(format!("standard input: a line has no end within {MOST_PASSED} bytes")));
        }
    }
    Ok(Some(Err(FieldError::new("line", format!("is longer than {MOST_LINE} bytes")))))
}

#[derive(Args)]
pub struct Calc {
    /// What to compute.
    topic: Topic,
}

impl Calc {
    pub fn run(&self) -> std::result::Result<(), Stop> {
        let mut bad = 0;
        let mut input = std::io::stdin().lock();
        while let Some(line) = next_line(&mut input)? {
            if line.as_ref().is_ok_and(|text| text.trim().is_empty()) {
                continue;
            }
            let answer = line.and_then(|text| {
                serde_json::from_str::<Map<String, Value>>(&text)
                    .map_err(|e| FieldError::new("line", format!("is not a JSON object: {e}")))
            });
            let answer = answer.and_then(|input| self.answer(&Input(input))).unwrap_or_else(|e| {
                bad += 1;
                json!({"error": {"field": e.field, "message": e.message}})
            });
            if !tell(&answer.to_string())? {
                return Ok(());
            }
        }
        if bad > 0 { Err(Stop::Input(format!("{bad} of the lines could not be answered"))) } else { Ok(()) }
    }

    fn answer(&self, input: &Input) -> Result<Value> {
        match self.topic {
            Topic::Angles => angles_of(input),
            Topic::Cantilever => brush::cantilever(input),
            Topic::Fresnel => brush::fresnel(input),
            Topic::Levelling => brush::levelling(input),
            Topic::Upsample => brush::upsample(input),
            Topic::Curve => {
                let curve = input.curve()?;
                let y: Vec<f64> = input.numbers("at")?.iter().map(|x| curve.at(*x)).collect();
                Ok(json!({"y": y, "slopes": curve.slopes()}))
            }
            Topic::Levels => {
                let count = input.number("levels")?;
                if !(2.0..=65_536.0).contains(&count) || count.fract() != 0.0 {
                    return Err(FieldError::new(
                        "levels",
                        format!("must be a whole number from 2 to 65536, got {count}"),
                    ));
                }
                Ok(json!(levels::usable(&input.curve()?, count as u32)))
            }
            Topic::Steady => steady_of(input),
            Topic::Film => film_of(input),
            Topic::DeltaE => {
                Ok(json!({"de00": colour::delta_e(input.triple("lab")?, input.triple("lab2")?)}))
            }
            Topic::Ground => surface::ground(input),
            Topic::Coverage => surface::coverage(input),
            Topic::Blend => blend_of(input),
            Topic::Inkml => inkml_of(input),
        }
    }
}

fn angles_of(input: &Input) -> Result<Value> {
    use std::f64::consts::{FRAC_PI_2, TAU};
    if input.0.contains_key("tilt_x_deg") {
        let tilt = |field: &str| saltmarsh_core::error::within(field, input.number(field)?, -90.0, 90.0, "°");
        let (altitude, azimuth) = angles::to_spherical(tilt("tilt_x_deg")?, tilt("tilt_y_deg")?);
        return Ok(json!({"altitude_rad": altitude, "azimuth_rad": azimuth}));
    }
    let altitude =
        saltmarsh_core::error::within("altitude_rad", input.number("altitude_rad")?, 0.0, FRAC_PI_2, "rad")?;
    let azimuth =
        saltmarsh_core::error::within("azimuth_rad", input.number("azimuth_rad")?, 0.0, TAU, "rad")?;
    let (x, y) = angles::to_tilt(altitude, azimuth);
    Ok(json!({"tilt_x_deg": x, "tilt_y_deg": y}))
}

fn steady_of(input: &Input) -> Result<Value> {
    let settings = Steadying {
        min_cutoff_hz: input.number("min_cutoff_hz")?,
        beta: input.number("beta")?,
        derivative_cutoff_hz: input.number("derivative_cutoff_hz")?,
    };
    settings.check()?;
    let x = input.numbers("x")?;
    let rate = saltmarsh_core::error::within("rate_hz", input.number("rate_hz")?, 0.001, 1e6, "Hz")?;
    let times = if input.0.contains_key("t_s") { Some(input.numbers("t_s")?) } else { None };
    if times.as_ref().is_some_and(|t| t.len() != x.len()) {
        return Err(FieldError::new("t_s", format!("must have as many numbers as x, {}", x.len())));
    }
    Ok(json!({"y": steady(settings, &x, rate, times.as_deref())}))
}

fn film_of(input: &Input) -> Result<Value> {
    let ground = saltmarsh_core::error::within("ground", input.number("ground")?, 0.0, 1.0, "")?;
    let mut reflectance = [ground; bands::BANDS];
    let layers =
        input.get("layers")?.as_array().ok_or_else(|| FieldError::new("layers", "must be a list"))?;
    for (i, layer) in layers.iter().enumerate() {
        let within = |e: FieldError| e.within(&format!("layers[{i}]"));
        let parts = layer
            .get("concentrations")
            .and_then(Value::as_object)
            .ok_or_else(|| within(FieldError::new("concentrations", "must be an object of pigment codes")))?;
        let parts =
            parts.iter().map(|(code, v)| Ok((code.as_str(), number(v, &format!("concentrations.{code}"))?)));
        let (k, s) = pigment::mix(parts.collect::<Result<Vec<_>>>().map_err(within)?).map_err(within)?;
        let thickness = match layer.get("thickness_mm") {
            Some(Value::String(text)) if text == "inf" => f64::INFINITY,
            Some(value) => {
                let x = number(value, "thickness_mm").map_err(within)?;
                saltmarsh_core::error::within("thickness_mm", x, 0.0, 1e6, "mm").map_err(within)?
            }
            None => return Err(within(FieldError::new("thickness_mm", "is missing"))),
        };
        for b in 0..bands::BANDS {
            reflectance[b] = film::reflectance(k[b], s[b], thickness, reflectance[b]);
        }
    }
    let srgb = colour::linear_srgb(&reflectance).map(colour::encode);
    let pixel = colour::Display::shared().srgb8(&reflectance.map(|r| r as f32));
    Ok(
        json!({"reflectance": reflectance, "lab": colour::lab(colour::xyz(&reflectance)), "srgb": srgb, "srgb8": pixel}),
    )
}

fn inkml_of(input: &Input) -> Result<Value> {
    let path = input.get("path")?.as_str().ok_or_else(|| FieldError::new("path", "must be text"))?;
    let text = read_text(path, inkml::MOST_BYTES).map_err(|e| FieldError::new("path", e.to_string()))?;
    let document = inkml::read(&text)?;
    let traces: Vec<Value> = document
        .traces
        .iter()
        .map(|t| {
            let names: Vec<&str> = t.channels.iter().map(|c| c.name.as_str()).collect();
            json!({"id": t.id, "channels": names, "points": t.points})
        })
        .collect();
    let refused: Vec<Value> =
        document.refused.iter().map(|r| json!({"id": r.id, "reason": r.reason})).collect();
    Ok(json!({"traces": traces, "refused": refused}))
}

fn blend_of(input: &Input) -> Result<Value> {
    let mode: Blend = serde_json::from_value(input.get("mode")?.clone())
        .map_err(|_| FieldError::new("mode", "must be a blend mode, for example soft-light"))?;
    let colour = |field: &str| -> Result<[f64; 4]> {
        let levels: [f64; 4] = input
            .numbers(field)?
            .try_into()
            .map_err(|_| FieldError::new(field, "must be four numbers, red, green, blue, alpha"))?;
        for (i, v) in levels.iter().enumerate() {
            saltmarsh_core::error::within(&format!("{field}[{i}]"), *v, 0.0, 255.0, "")?;
        }
        Ok(levels.map(|v| v / 255.0))
    };
    Ok(json!({"premultiplied": mode.over(colour("backdrop")?, colour("source")?)}))
}
