//! `saltmarsh ground`: a ground's raking-light picture, its height map and what a surface gauge would say of it.

use clap::Args;
use saltmarsh_core::ground::{Ground as Made, PITCH_MM, Region, texture};
use saltmarsh_core::image::{Grey, Images};
use saltmarsh_core::relief::raking::{self, Light};
use saltmarsh_formats::image;

use super::files::{apart, ground_named, tell, write};
use crate::stop::Stop;

/// Longest side of a patch, ground pixels.
const MOST_SIDE: usize = 4096;
/// Heights in a written map are this many to the µm, white highest: 16 bits hold ±341 µm.
const STEPS_PER_UM: f32 = 96.0;

/// Prints ISO 25178-2 figures as JSON. Files named `-` are standard output.
#[derive(Args)]
pub struct Ground {
    /// A surface by name (hot-pressed, linen, …) or a recipe (JSON file).
    #[arg(long)]
    ground: String,
    /// Picture under raking light to write (PNG).
    #[arg(long)]
    out: Option<String>,
    /// Height map to write (16-bit grey PNG, 96 levels to the µm about the mean level).
    #[arg(long)]
    heights: Option<String>,
    /// Width and height of the patch, mm.
    #[arg(long, default_value_t = 51.2)]
    width_mm: f64,
    #[arg(long, default_value_t = 25.6)]
    height_mm: f64,
}

impl Ground {
    pub fn run(&self) -> Result<(), Stop> {
        apart(&[("--out", &self.out), ("--heights", &self.heights)])?;
        let recipe = ground_named(&self.ground)?;
        let side = |name: &str, mm: f64| {
            let px = (mm / PITCH_MM).round();
            if (8.0..=MOST_SIDE as f64).contains(&px) {
                return Ok(px as usize);
            }
            let (low, high) = (8.0 * PITCH_MM, MOST_SIDE as f64 * PITCH_MM);
            Err(Stop::Input(format!("--{name}: must be a number from {low} to {high} mm, got {mm}")))
        };
        let (width, height) = (side("width-mm", self.width_mm)?, side("height-mm", self.height_mm)?);
        let ground = Made::new(&recipe, &Images::default())?;
        let patch = ground.patch(Region::new(0, 0, width, height));
        let failed = |path: &str, e: &dyn std::fmt::Display| Stop::Failure(format!("{path}: {e}"));
        if let Some(path) = &self.out {
            let rgba = raking::rgba(&patch.height, width, PITCH_MM, 1.0, Light::default());
            let png =
                image::png(&rgba, width as u32, height as u32, PITCH_MM).map_err(|e| failed(path, &e))?;
            write(path, &png)?;
        }
        if let Some(path) = &self.heights {
            let level = ground.level();
            let code = |h: &f32| ((h - level) * STEPS_PER_UM + 32_768.0).round().clamp(0.0, 65_535.0) as u16;
            let grey = Grey::new(width, height, patch.height.iter().map(code).collect())?;
            write(path, &image::grey_png(&grey).map_err(|e| failed(path, &e))?)?;
        }
        let figures = texture::measure(&patch.height);
        let figures = serde_json::to_string(&figures).map_err(|e| Stop::Failure(e.to_string()))?;
        // Standard output holds one thing: a picture that was asked for there, else the figures.
        if [&self.out, &self.heights].into_iter().flatten().all(|path| path != "-") {
            tell(&figures)?;
        }
        Ok(())
    }
}
