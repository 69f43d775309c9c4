//! PNG: what the command line and exports write, and the one form in which images are kept.

use std::io::Cursor;

use saltmarsh_core::FieldError;
use saltmarsh_core::image::{Grey, MOST_SIDE};

/// A PNG of 8-bit RGBA with its resolution. `rgba` holds `4 × width × height` bytes, row by row.
///
/// # Errors
/// Passes on what the encoder refuses.
pub fn png(rgba: &[u8], width: u32, height: u32, pixel_mm: f64) -> Result<Vec<u8>, png::EncodingError> {
    let mut out = Vec::new();
    let mut encoder = png::Encoder::new(&mut out, width, height);
    encoder.set_color(png::ColorType::Rgba);
    encoder.set_depth(png::BitDepth::Eight);
    encoder.set_source_srgb(png::SrgbRenderingIntent::RelativeColorimetric);
    let per_metre = (1000.0 / pixel_mm).round() as u32;
    encoder.set_pixel_dims(Some(png::PixelDimensions {
        xppu: per_metre,
        yppu: per_metre,
        unit: png::Unit::Meter,
    }));
    let mut writer = encoder.write_header()?;
    writer.write_image_data(rgba)?;
    writer.finish()?;
    Ok(out)
}

/// The one form in which images are kept: a PNG of 16-bit grey.
///
/// # Errors
/// Passes on what the encoder refuses.
pub fn grey_png(grey: &Grey) -> Result<Vec<u8>, png::EncodingError> {
    let mut out = Vec::new();
    let mut encoder = png::Encoder::new(&mut out, grey.width() as u32, grey.height() as u32);
    encoder.set_color(png::ColorType::Grayscale);
    encoder.set_depth(png::BitDepth::Sixteen);
    let mut writer = encoder.write_header()?;
    let bytes: Vec<u8> = grey.values().iter().flat_map(|v| v.to_be_bytes()).collect();
    writer.write_image_data(&bytes)?;
    writer.finish()?;
    Ok(out)
}

/// Reads what [`grey_png`] writes.
///
/// # Errors
/// Refuses anything else, naming `image`.
pub fn read_grey(bytes: &[u8]) -> saltmarsh_core::Result<Grey> {
    let refuse = |what: String| FieldError::new("image", what);
    let mut reader =
        png::Decoder::new(Cursor::new(bytes)).read_info().map_err(|e| refuse(format!("is no PNG: {e}")))?;
    let info = reader.info();
    let (width, height) = (info.width as usize, info.height as usize);
    if (info.color_type, info.bit_depth) != (png::ColorType::Grayscale, png::BitDepth::Sixteen) {
        return Err(refuse("must be a PNG of 16-bit grey".into()));
    }
    if width > MOST_SIDE || height > MOST_SIDE {
        return Err(refuse(format!(
            "must be at most {MOST_SIDE} pixels wide and high, got {width} × {height}"
        )));
    }
    let mut pixels = vec![0; width * height * 2];
    reader.next_frame(&mut pixels).map_err(|e| refuse(format!("is no whole PNG: {e}")))?;
    Grey::new(width, height, pixels.chunks_exact(2).map(|v| u16::from_be_bytes([v[0], v[1]])).collect())
}
