//! Topics about height maps.

use saltmarsh_core::error::within;
use saltmarsh_core::ground::texture;
use saltmarsh_core::image::Grey;
use saltmarsh_core::{FieldError, Result};
use saltmarsh_formats::picture;
use serde_json::{Value, json};

use super::input::{Input, number};

/// A decoded map: heights in µm, `width` a row.
struct Map {
    heights: Vec<f64>,
    width: usize,
}

fn map(input: &Input) -> Result<Map> {
    let path = input.get("png")?.as_str().ok_or_else(|| FieldError::new("png", "must be text"))?;
    let bytes = std::fs::read(path).map_err(|e| FieldError::new("png", format!("{path}: {e}")))?;
    let grey: Grey = picture::read(&bytes).map_err(|e| FieldError::new("png", e.message))?.grey;
    let (low, step) = (input.number("z_min_um")?, input.number("um_per_code")?);
    Ok(Map {
        heights: grey.values().iter().map(|v| low + f64::from(*v) * step).collect(),
        width: grey.width(),
    })
}

pub(super) fn ground(input: &Input) -> Result<Value> {
    let Map { heights, width } = map(input)?;
    let pixel = within("pixel_um", input.number("pixel_um")?, 1e-3, 1e6, "µm")?;
    let cuts = input.numbers("heights_um")?;
    // The material ratio is asked at heights as they are decoded, whether or not the figures are of the levelled map.
    let smr: Vec<f64> = cuts.iter().map(|c| texture::material_ratio(&heights, *c)).collect();
    let levelled = input.0.get("levelled").and_then(Value::as_bool).unwrap_or(false);
    let measured = if levelled { texture::levelled(&heights, width) } else { heights };
    if width < 2 || measured.len() / width < 2 {
        return Err(FieldError::new("png", "must be at least 2 pixels wide and high"));
    }
    let t = texture::measure(&measured);
    Ok(
        json!({"sa_um": t.sa_um, "sq_um": t.sq_um, "ssk": t.ssk, "sku": t.sku, "sp_um": t.sp_um, "sv_um": t.sv_um,
        "sz_um": t.sz_um, "sdr_percent": texture::developed(&measured, width, pixel), "smr": smr}),
    )
}

pub(super) fn coverage(input: &Input) -> Result<Value> {
    let Map { heights, width } = map(input)?;
    let rows = heights.len() / width;
    let under = match input.0.get("window") {
        None => heights,
        Some(window) => {
            let whole = |name: &str| {
                let field = format!("window.{name}");
                let v = number(window.get(name).unwrap_or(&Value::Null), &field)?;
                within(&field, v, 0.0, 65_536.0, "pixels").map(|v| v as usize)
            };
            let (x0, y0, size) = (whole("x0")?, whole("y0")?, whole("size")?);
            if size == 0 || x0 + size > width || y0 + size > rows {
                return Err(FieldError::new("window", format!("must lie within {width} × {rows} pixels")));
            }
            (y0..y0 + size).flat_map(|y| heights[y * width + x0..][..size].to_vec()).collect()
        }
    };
    let highest = under.iter().copied().fold(f64::MIN, f64::max);
    let depths = input.numbers("penetration_um")?;
    let covered: Vec<f64> = depths.iter().map(|p| texture::material_ratio(&under, highest - p)).collect();
    Ok(json!({"coverage": covered}))
}
