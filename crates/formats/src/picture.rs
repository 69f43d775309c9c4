//! Pictures from outside (PNG, JPEG, WebP) to 16-bit grey: white lays material, black none.
//!
//! Sides are read and checked before any pixel is decoded, and the decoder may not take more memory than the largest image
//! needs.

use std::io::Cursor;

use image::metadata::Orientation;
use image::{ColorType, DynamicImage, ImageDecoder, ImageFormat, ImageReader, Limits};
use saltmarsh_core::FieldError;
use saltmarsh_core::image::{Grey, MOST_SIDE};

/// Largest file, bytes.
pub const MOST_BYTES: usize = 32 * 1024 * 1024;
/// Most memory the decoder may take: the largest image with four 16-bit channels, and as much again to work in.
const MOST_MEMORY: u64 = 2 * 8 * (MOST_SIDE * MOST_SIDE) as u64;

/// A picture, read.
#[derive(Debug, Clone)]
pub struct Read {
    pub grey: Grey,
    /// What was changed on the way, in words.
    pub changes: Vec<String>,
}

/// Reads a picture.
///
/// # Errors
/// Names `image` and what is wrong: the format, the sides, the memory it would take, an animation, damage.
pub fn read(bytes: &[u8]) -> Result<Read, FieldError> {
    let refuse = |what: String| FieldError::new("image", what);
    if bytes.len() > MOST_BYTES {
        return Err(refuse(format!("may be at most {} MiB", MOST_BYTES / 1024 / 1024)));
    }
    let mut reader = ImageReader::new(Cursor::new(bytes))
        .with_guessed_format()
        .map_err(|e| refuse(format!("cannot be read: {e}")))?;
    let format = match reader.format() {
        Some(f @ (ImageFormat::Png | ImageFormat::Jpeg | ImageFormat::WebP)) => f,
        _ => return Err(refuse("must be a PNG, JPEG or WebP".into())),
    };
    if is_animated(bytes, format) {
        return Err(refuse("is an animation; a tip or ground needs one picture".into()));
    }
    let mut limits = Limits::no_limits();
    limits.max_alloc = Some(MOST_MEMORY);
    reader.limits(limits.clone());
    let mut decoder = reader.into_decoder().map_err(|e| refuse(format!("cannot be read: {e}")))?;
    let (width, height) = decoder.dimensions();
    if width as usize > MOST_SIDE || height as usize > MOST_SIDE {
        return Err(refuse(format!(
            "must be at most {MOST_SIDE} pixels wide and high, got {width} × {height}"
        )));
    }
    limits.reserve(decoder.total_bytes()).map_err(|_| refuse("would take too much memory".into()))?;
    decoder.set_limits(limits).map_err(|e| refuse(format!("would take too much memory: {e}")))?;
    let turned = decoder.orientation().unwrap_or(Orientation::NoTransforms);
    let colour = decoder.color_type();
    let mut picture = DynamicImage::from_decoder(decoder).map_err(|e| refuse(format!("is damaged: {e}")))?;
    let mut changes = Vec::new();
    if turned != Orientation::NoTransforms {
        picture.apply_orientation(turned);
        changes.push("was turned upright".to_owned());
    }
    if colour.has_color() {
        changes.push("colour was turned to grey".to_owned());
    }
    if colour.has_alpha() {
        changes.push("what is transparent counts as black".to_owned());
    }
    let values = grey_values(&picture, colour);
    let grey = Grey::new(picture.width() as usize, picture.height() as usize, values)?;
    Ok(Read { grey, changes })
}

/// Grey on black, of 16 bits. Weights of the encoded channels: ITU-R BT.709 luma.
fn grey_values(picture: &DynamicImage, colour: ColorType) -> Vec<u16> {
    if colour.has_color() {
        let grey = |[r, g, b, a]: [u16; 4]| {
            let luma = 2126 * u64::from(r) + 7152 * u64::from(g) + 722 * u64::from(b);
            (luma * u64::from(a) / 65_535 / 10_000) as u16
        };
        return picture.to_rgba16().pixels().map(|p| grey(p.0)).collect();
    }
    let on_black = |[v, a]: [u16; 2]| (u32::from(v) * u32::from(a) / 65_535) as u16;
    picture.to_luma_alpha16().pixels().map(|p| on_black(p.0)).collect()
}

/// Whether a PNG has an animation chunk before its pixels, or a WebP an animation flag.
fn is_animated(bytes: &[u8], format: ImageFormat) -> bool {
    match format {
        ImageFormat::Png => {
            let mut at = 8;
            while let Some(head) = bytes.get(at..at + 8) {
                match &head[4..] {
                    b"acTL" => return true,
                    b"IDAT" | b"IEND" => return false,
                    _ => {}
                }
                let length = u32::from_be_bytes([head[0], head[1], head[2], head[3]]) as usize;
                at = at.saturating_add(length).saturating_add(12);
            }
            false
        }
        ImageFormat::WebP => bytes.get(12..16) == Some(b"VP8X") && bytes.get(20).is_some_and(|f| f & 2 != 0),
        _ => false,
    }
}
