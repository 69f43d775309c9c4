//! Paint under light: the colour of what lies there, the slopes of its surface lit, and the gleam of what is wet.
//!
//! Light that falls on a slope is diffuse by Lambert, over an ambient share; what glosses reflects by [`super::fresnel`] (n = 1.5)
//! over a GGX distribution of facets (Walter, Marschner, Li & Torrance, EGSR 2007). Heights may be exaggerated for the display. Shares
//! and roughness are tuned by eye after the paste study.

use super::fresnel;
use super::lit::{LOOKS, heights};
use super::raking::Light;
use crate::medium::{Eye, Look};
use crate::paint::colour;
use crate::sheet::{Rect, Sheet, TILE};

/// How a sheet is lit for the display.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Lighting {
    pub light: Light,
    /// How much of the light comes from the lamp; the rest from all around.
    pub strength: f32,
    /// Exaggeration of heights.
    pub depth: f32,
    /// Share of the gleam that is shown.
    pub gloss: f32,
}

impl Default for Lighting {
    fn default() -> Self {
        Self {
            light: Light { azimuth_deg: 225.0, elevation_deg: 42.0 },
            strength: 0.65,
            depth: 1.5,
            gloss: 1.0,
        }
    }
}

/// Roughness of wet paint and of bare ground.
const WET: f32 = 0.32;
const BARE: f32 = 0.62;
/// Index of oil paint's surface.
const INDEX: f64 = 1.5;
/// How much darker a place is that lies lower than its neighbours by as much as a pixel is wide, and at most.
const CAVITY: f32 = 0.3;
/// `rect` of a sheet under light: RGBA, 4 bytes a pixel, row by row. A part is lit as in the whole.
pub fn rgba(sheet: &Sheet, rect: Rect, lighting: Lighting) -> Vec<u8> {
    let wide = rect.grown(LOOKS, sheet.rect());
    let (width, rows) = (wide.right - wide.left, wide.bottom - wide.top);
    let surface = heights(sheet, wide);
    let lamp = Lamp::new(lighting, sheet.pixel_mm());
    let eye = Eye::on(sheet);
    let mut looks = [eye.ground(); TILE];
    let levels = colour::Levels::shared();
    let mut out = vec![255; 4 * (rect.right - rect.left) * (rect.bottom - rect.top)];
    let mut pixels = out.chunks_exact_mut(4);
    for y in rect.top..rect.bottom {
        let row = |y: usize| &surface[y.min(rows - 1) * width..][..width];
        let py = y - wide.top;
        let [north, here, south] = [row(py.saturating_sub(1)), row(py), row(py + 1)];
        let mut x = rect.left;
        while x < rect.right {
            let end = ((x / TILE + 1) * TILE).min(rect.right);
            let tile = sheet.tile(x / TILE, y / TILE);
            let looks = &mut looks[..end - x];
            match tile {
                Some(tile) => eye.look_in_place(tile, (y % TILE) * TILE + x % TILE, looks),
                None => looks.fill(eye.ground()),
            }
            for ((i, look), pixel) in looks.iter().enumerate().zip(&mut pixels) {
                let px = x + i - wide.left;
                let (west, east) = (px.saturating_sub(1), (px + 1).min(width - 1));
                let around = [north, here, south].map(|row| [row[west], row[px], row[east]]);
                for (to, light) in pixel.iter_mut().zip(lamp.on(eye.linear(look), look, around)) {
                    *to = levels.of(light);
                }
            }
            x = end;
        }
    }
    out
}

/// What is the same for all pixels.
struct Lamp {
    lighting: Lighting,
    to: [f32; 3],
    half: [f32; 3],
    /// What facets that throw the lamp's light to the eye throw back of it.
    mirrored: f32,
    /// Rise per run of a µm in Sobel's eight.
    slope: f32,
}

impl Lamp {
    fn new(lighting: Lighting, pixel_mm: f64) -> Self {
        let (azimuth, elevation) =
            (lighting.light.azimuth_deg.to_radians(), lighting.light.elevation_deg.to_radians());
        let flat = libm::cos(elevation);
        let to = [flat * libm::cos(azimuth), flat * libm::sin(azimuth), libm::sin(elevation).max(0.02)]
            .map(|v| v as f32);
        let length = (to[0] * to[0] + to[1] * to[1] + (to[2] + 1.0) * (to[2] + 1.0)).sqrt();
        let half = [to[0] / length, to[1] / length, (to[2] + 1.0) / length];
        // Facets turned halfway between lamp and eye meet its light at the angle of that half.
        let mirrored = fresnel::reflected(INDEX, f64::from(half[2])).mean() as f32;
        Self { lighting, to, half, mirrored, slope: lighting.depth * (1e-3 / (8.0 * pixel_mm)) as f32 }
    }

    /// Linear light of a pixel of a colour, from the heights around it, row by row.
    fn on(
        &self,
        rgb: [f32; 3],
        look: &Look,
        [[nw, n, ne], [w, here, e], [sw, s, se]]: [[f32; 3]; 3],
    ) -> [f32; 3] {
        let dx = self.slope * (ne + 2.0 * e + se - nw - 2.0 * w - sw);
        let dy = self.slope * (sw + 2.0 * s + se - nw - 2.0 * n - ne);
        let by = 1.0 / (1.0 + dx * dx + dy * dy).sqrt();
        let normal = [-dx * by, -dy * by, by];
        let dot = |a: [f32; 3], b: [f32; 3]| a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
        let facing = dot(normal, self.to).max(0.0);
        // What lies lower than what is around it sees less of the sky.
        let lower = 0.125 * (n + s + w + e + nw + ne + sw + se) - here;
        let cavity = 1.0 - CAVITY * (self.slope * 8.0 * lower).clamp(-0.5, 1.0);
        let strength = self.lighting.strength;
        let diffuse = ((1.0 - strength) * normal[2] + strength * facing / self.to[2]) * cavity;
        let rough = BARE + (WET - BARE) * look.gloss;
        let alpha = rough * rough;
        let nh = dot(normal, self.half).max(0.0);
        let d = nh * nh * (alpha * alpha - 1.0) + 1.0;
        let facets = alpha * alpha / (std::f32::consts::PI * d * d);
        let k = 0.5 * alpha;
        let shade = |c: f32| c / (c * (1.0 - k) + k).max(1e-4);
        let gleam = self.mirrored * facets * shade(facing) * shade(normal[2]) * 0.25 / normal[2].max(0.1);
        let gleam = self.lighting.gloss * strength * 3.0 * gleam * (0.15 + 0.85 * look.gloss);
        rgb.map(|c| c * diffuse + gleam)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn look(gloss: f32) -> Look {
        Look { reflectance: [0.2; 8], laid: true, gloss, film: 0.0, film_colour: [0.0; 3] }
    }

    #[test]
    fn slopes_that_face_the_lamp_are_brighter_and_wet_ones_gleam() {
        let lamp = Lamp::new(Lighting::default(), 0.1);
        // Light comes from the upper left: a slope that rises to the right and down faces it.
        let slope = |rise: f32| [-1.0, 0.0, 1.0].map(|dy| [-1.0, 0.0, 1.0].map(|dx| rise * (dx + dy)));
        let matt = |rise: f32| lamp.on([0.2; 3], &look(0.0), slope(rise))[0];
        assert!(matt(30.0) > 1.2 * matt(0.0) && matt(-30.0) < 0.8 * matt(0.0));
        // The facets that mirror the lamp stand at half its angle from the zenith: there wet paint is brightest.
        let gleam = |rise: f32| lamp.on([0.0; 3], &look(1.0), slope(rise))[0];
        let steps: Vec<f32> = (0..60).map(|i| gleam(i as f32)).collect();
        let brightest = (0..60).max_by(|a, b| steps[*a].total_cmp(&steps[*b])).expect("some") as f32;
        // The rise of µm over 0.1 mm that tilts by 24° along the diagonal, exaggerated 1.5 times.
        let want = libm::tanf(24.0_f32.to_radians()) * 100.0 / 1.5 / std::f32::consts::SQRT_2;
        assert!((brightest - want).abs() < 6.0, "brightest at {brightest} µm, the mirror stands at {want}");
        assert!(gleam(brightest) > 2.0 * lamp.on([0.0; 3], &look(0.0), slope(brightest))[0]);
    }
}
