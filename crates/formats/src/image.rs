//! PNG out: what the command line and exports write.

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
