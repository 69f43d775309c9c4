//! A ground under raking light: the way paper makers and conservators look at a surface.

use crate::paint::colour;

/// Where the light stands.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Light {
    /// Direction from which it comes, degrees from the right, clockwise as seen on the screen.
    pub azimuth_deg: f64,
    /// Height over the sheet, degrees.
    pub elevation_deg: f64,
}

impl Default for Light {
    /// From the upper left, low.
    fn default() -> Self {
        Self { azimuth_deg: 225.0, elevation_deg: 20.0 }
    }
}

/// Linear grey of a level place.
const LEVEL: f32 = 0.2;

/// Shades `heights` (µm, `width` a row, pixels of `step_mm`) as matt plaster: RGBA, 4 bytes a pixel. `depth` exaggerates the
/// heights.
pub fn rgba(heights: &[f32], width: usize, step_mm: f64, depth: f64, light: Light) -> Vec<u8> {
    let rows = heights.len() / width.max(1);
    let (azimuth, elevation) = (light.azimuth_deg.to_radians(), light.elevation_deg.to_radians());
    let flat = libm::cos(elevation);
    let (lx, ly) = ((flat * libm::cos(azimuth)) as f32, (flat * libm::sin(azimuth)) as f32);
    let lz = libm::sin(elevation).max(1e-3) as f32;
    // Rise per mm of run from µm per pixel, over two pixels.
    let slope = (depth * 1e-3 / (2.0 * step_mm)) as f32;
    let levels = colour::Levels::shared();
    let mut out = Vec::with_capacity(heights.len() * 4);
    for y in 0..rows {
        let (up, down) = (y.saturating_sub(1) * width, (y + 1).min(rows - 1) * width);
        let row = &heights[y * width..(y + 1) * width];
        for x in 0..width {
            let (left, right) = (x.saturating_sub(1), (x + 1).min(width - 1));
            let dx = slope * (row[right] - row[left]);
            let dy = slope * (heights[down + x] - heights[up + x]);
            let shade = (lz - dx * lx - dy * ly) / (1.0 + dx * dx + dy * dy).sqrt();
            let grey = levels.of(LEVEL * shade / lz);
            out.extend([grey, grey, grey, 255]);
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn slopes_that_face_the_light_are_brighter_and_level_ground_is_even() {
        // A ramp that rises to the right, lit from the left and from the right.
        let ramp: Vec<f32> = (0..64).map(|i| (i % 8) as f32 * 10.0).collect();
        let lit = |azimuth_deg| rgba(&ramp, 8, 0.05, 1.0, Light { azimuth_deg, elevation_deg: 30.0 })[4 * 20];
        let level = rgba(&[3.0; 64], 8, 0.05, 1.0, Light::default());
        assert!(lit(180.0) > level[0] && lit(0.0) < level[0], "{} {} {}", lit(180.0), lit(0.0), level[0]);
        assert!(level.chunks_exact(4).all(|p| p == &level[..4]));
    }
}
