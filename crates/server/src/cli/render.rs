//! `saltmarsh render`: a gesture, a tool and a ground to a picture.

use std::rc::Rc;

use clap::Args;
use saltmarsh_core::ground::Ground;
use saltmarsh_core::hand::Hand;
use saltmarsh_core::relief::light::{self, Lighting};
use saltmarsh_core::relief::raking::Light;
use saltmarsh_core::relief::{flat, lit};
use saltmarsh_core::sheet::{Sheet, Surroundings};
use saltmarsh_core::stroke::{self, under};
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::Tool;
use saltmarsh_formats::{image, inkml, picture, trace_csv};

use super::files::{MOST_DOCUMENT_BYTES, apart, ground_named, read_text, tell, write};
use crate::stop::Stop;

/// Most pixels of a rendered sheet.
const MOST_AREA: usize = 100_000_000;

/// Files named `-` are standard input or output.
#[derive(Args)]
pub struct Render {
    /// Tool document (JSON).
    #[arg(long)]
    tool: String,
    /// Gesture (InkML).
    #[arg(long)]
    gesture: String,
    /// Ground: a surface by name (hot-pressed, linen, …) or a recipe (JSON file); the tool's own if left out.
    #[arg(long)]
    ground: Option<String>,
    /// Image that the tool or the ground names (PNG, JPEG or WebP); may be given several times.
    #[arg(long)]
    image: Vec<String>,
    /// Picture to write (PNG).
    #[arg(long)]
    out: Option<String>,
    /// Trace to write: JSON, or comma-separated values where the name ends in `.csv`.
    #[arg(long)]
    trace: Option<String>,
    /// Pixels per inch, 5 to 2400.
    #[arg(long, default_value_t = 300.0)]
    dpi: f64,
    /// Left, top, width and height of the sheet in mm; the gesture's own box with a margin if left out.
    #[arg(long, value_name = "LEFT,TOP,WIDTH,HEIGHT", value_parser = four_numbers, allow_hyphen_values = true)]
    sheet_mm: Option<[f64; 4]>,
    /// What the stroke lies on, of what the tool's medium knows (bare, charcoal; stripes, wet, dry); a tool that only moves what lies there has a bed
    /// to act on if left out.
    #[arg(long, value_name = "NAME")]
    on: Option<String>,
    /// Tilt of the board, degrees, and the direction in which it falls (degrees clockwise from the right): wet paint runs.
    #[arg(long, default_value_t = 0.0)]
    tilt_deg: f64,
    #[arg(long, default_value_t = 90.0)]
    falls_deg: f64,
    /// Temperature (°C) and relative humidity (%) of the room in which wet paint dries.
    #[arg(long, default_value_t = 20.0)]
    celsius: f64,
    #[arg(long, default_value_t = 50.0)]
    humidity: f64,
    /// Show the sheet as matt plaster under raking light, the ground with what lies on it, instead of its colours.
    #[arg(long)]
    raking: bool,
    /// Show the sheet under light: slopes lit, wet paint gleaming.
    #[arg(long, conflicts_with = "raking")]
    lit: bool,
    /// Print the checksum of the sheet's material.
    #[arg(long)]
    checksum: bool,
}

impl Render {
    pub fn run(&self) -> Result<(), Stop> {
        apart(&[("--out", &self.out), ("--trace", &self.trace)])?;
        if !(5.0..=2400.0).contains(&self.dpi) {
            return Err(Stop::Input(format!("--dpi: must be a number from 5 to 2400, got {}", self.dpi)));
        }
        if self.tool == "-" && self.gesture == "-" {
            return Err(Stop::Input("--gesture: standard input can be read only once".into()));
        }
        let named = |path: &str, e: saltmarsh_core::FieldError| Stop::Input(format!("{path}: {e}"));
        let tool =
            Tool::parse(&read_text(&self.tool, MOST_DOCUMENT_BYTES)?).map_err(|e| named(&self.tool, e))?;
        let document = inkml::read(&read_text(&self.gesture, inkml::MOST_BYTES)?);
        let gesture = document.and_then(|d| inkml::to_gesture(&d)).map_err(|e| named(&self.gesture, e))?;
        let recipe = match self.ground.as_deref() {
            Some(name) => ground_named(name)?,
            None => tool.ground.clone(),
        };

        let mut shelf = Shelf::default();
        for path in &self.image {
            let bytes = std::fs::read(path).map_err(|e| Stop::Input(format!("{path}: {e}")))?;
            shelf.images.add(picture::read(&bytes).map_err(|e| named(path, e))?.grey);
        }
        let pixel = 25.4 / self.dpi;
        let margin = 10.0;
        let [left, top, right, bottom] = gesture.bounds_mm();
        let own = [left - margin, top - margin, right - left + 2.0 * margin, bottom - top + 2.0 * margin];
        let [x, y, width, height] = self.sheet_mm.unwrap_or(own);
        let px = |mm: f64| (mm / pixel).round().max(0.0) as usize;
        if px(width).saturating_mul(px(height)) > MOST_AREA {
            return Err(Stop::Input(format!(
                "--sheet-mm: the sheet would have more than {MOST_AREA} pixels"
            )));
        }
        let mut sheet =
            Sheet::new(Rc::new(Ground::new(&recipe, &shelf.images)?), px(width), px(height), pixel, [x, y])?;
        let (tilt_deg, falls_deg) = (self.tilt_deg, self.falls_deg);
        let room = Surroundings { celsius: self.celsius, humidity: self.humidity, tilt_deg, falls_deg };
        sheet
            .bring_into(room)
            .map_err(|e| Stop::Input(format!("--{}: {}", e.field.replace('_', "-"), e.message)))?;
        let lies_on = tool.medium.under(tool.action, self.on.as_deref());
        let lies_on = lies_on.map_err(|e| Stop::Input(format!("--on: {}", e.message)))?;
        under::lay_in_place(&lies_on, &mut sheet)?;
        let trace = stroke::run_with(&tool, &Hand::default(), &gesture, &mut sheet, &shelf)?;

        if let Some(path) = &self.out {
            let rgba = if self.raking {
                lit::rgba(&sheet, sheet.rect(), 1.0, Light::default())
            } else if self.lit {
                light::rgba(&sheet, sheet.rect(), Lighting::default())
            } else {
                flat::rgba(&sheet)
            };
            let png = image::png(&rgba, sheet.width() as u32, sheet.height() as u32, pixel)
                .map_err(|e| Stop::Failure(format!("{path}: {e}")))?;
            write(path, &png)?;
        }
        if let Some(path) = &self.trace {
            let bytes = if path.to_ascii_lowercase().ends_with(".csv") {
                trace_csv::write(&tool, &trace).into_bytes()
            } else {
                serde_json::to_vec_pretty(&trace).map_err(|e| Stop::Failure(e.to_string()))?
            };
            write(path, &bytes)?;
        }
        if self.checksum {
            tell(&sheet.checksum())?;
        }
        Ok(())
    }
}

fn four_numbers(text: &str) -> Result<[f64; 4], String> {
    let numbers: Option<Vec<f64>> =
        text.split(',').map(|n| n.trim().parse().ok().filter(|v: &f64| v.is_finite())).collect();
    numbers
        .and_then(|n| n.try_into().ok())
        .ok_or_else(|| "must be four numbers, mm, with commas between".to_owned())
}
