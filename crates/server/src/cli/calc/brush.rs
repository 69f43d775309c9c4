//! What brushes and wet, glossy paint are held against: bent hairs, levelling films, light thrown back, colours as reflectances.

use saltmarsh_core::paint::{colour, upsample};
use saltmarsh_core::relief::{fresnel, levelling};
use saltmarsh_core::tip::cantilever;
use saltmarsh_core::{FieldError, Result};
use serde_json::{Value, json};

use super::input::Input;

fn positive(input: &Input, name: &str, most: f64) -> Result<f64> {
    let value = input.number(name)?;
    if value > 0.0 && value <= most {
        return Ok(value);
    }
    Err(FieldError::new(name, format!("must be a number over 0 and at most {most}, got {value}")))
}

/// A hair bent by its load, or by a force with its length, diameter and modulus.
pub fn cantilever(input: &Input) -> Result<Value> {
    if input.0.contains_key("load") {
        let load = input.number("load")?;
        return Ok(bent(within(load)?));
    }
    let force_mn = input.number("force_mn")?;
    let length = positive(input, "length_mm", 1e4)?;
    let diameter = positive(input, "diameter_mm", 1e3)?;
    let modulus = positive(input, "modulus_gpa", 1e4)?;
    // A GPa is 10⁶ mN/mm².
    let stiffness = 1e6 * modulus * cantilever::second_moment_mm4(diameter);
    let load = within(force_mn * length * length / stiffness)?;
    let mut out = bent(load);
    out["deflection_mm"] = json!(length * cantilever::bend(load).vertical);
    out["linear_deflection_mm"] = json!(length * load / 3.0);
    Ok(out)
}

fn within(load: f64) -> Result<f64> {
    if (0.0..=cantilever::MOST_LOAD).contains(&load) {
        return Ok(load);
    }
    Err(FieldError::new("load", format!("must be a number from 0 to {}, got {load}", cantilever::MOST_LOAD)))
}

fn bent(load: f64) -> Value {
    let bend = cantilever::bend(load);
    json!({"load": load, "vertical_over_length": bend.vertical, "horizontal_over_length": bend.horizontal, "tip_slope_rad": bend.slope})
}

/// Power that a smooth surface throws back.
pub fn fresnel(input: &Input) -> Result<Value> {
    let (n, angle) = (input.number("n")?, input.number("angle_deg")?);
    if !(1.0..=10.0).contains(&n) {
        return Err(FieldError::new("n", format!("must be a number from 1 to 10, got {n}")));
    }
    if !(0.0..=90.0).contains(&angle) {
        return Err(FieldError::new("angle_deg", format!("must be a number from 0 to 90, got {angle}")));
    }
    let out = fresnel::reflected_at(n, angle);
    Ok(json!({"rs": out.s, "rp": out.p, "r": out.mean()}))
}

/// A ripple on a thin film as it goes down.
pub fn levelling(input: &Input) -> Result<Value> {
    let of = |name: &str| positive(input, name, 1e9);
    let rate = levelling::rate(
        of("surface_tension_n_per_m")?,
        of("film_m")?,
        of("wavelength_m")?,
        of("viscosity_pa_s")?,
    );
    let first = input.number("amplitude_m")?;
    let left: Vec<f64> =
        input.numbers("t_s")?.iter().map(|t| levelling::amplitude(first, rate, *t)).collect();
    Ok(json!({"rate_per_s": rate, "amplitude_m": left}))
}

/// A colour of the screen as reflectances, and how it comes back.
pub fn upsample(input: &Input) -> Result<Value> {
    let srgb = input.numbers("srgb8")?;
    let whole = |v: &f64| (0.0..=255.0).contains(v) && v.fract() == 0.0;
    let [r, g, b] = srgb[..] else { return Err(FieldError::new("srgb8", "must be three numbers")) };
    if !srgb.iter().all(whole) {
        return Err(FieldError::new("srgb8", "must be whole numbers from 0 to 255"));
    }
    let wanted = [r, g, b].map(|v| v as u8);
    let reflectance = upsample::reflectance(wanted);
    let back = colour::linear_srgb(&reflectance).map(|v| (255.0 * colour::encode(v.clamp(0.0, 1.0))).round());
    let asked = colour::lab(colour::xyz_of_srgb([r, g, b].map(|v| v / 255.0)));
    let apart = colour::delta_e(asked, colour::lab(colour::xyz(&reflectance)));
    Ok(json!({"reflectance": reflectance, "back_srgb8": back, "de00": apart}))
}
