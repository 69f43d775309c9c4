//! The WebAssembly face of the core, and nothing else: every number comes out of `saltmarsh-core`.
//!
//! Errors are thrown as JSON text `{"field", "message"}`.

mod hand;
mod surface;

use std::cell::{Cell, RefCell};
use std::rc::Rc;

use saltmarsh_core::FieldError;
use saltmarsh_core::chain::{Action, Curve, Signals};
use saltmarsh_core::describe;
use saltmarsh_core::ground::sampled::Raster;
use saltmarsh_core::ground::{Feel, Ground, Recipe};
use saltmarsh_core::hand::{Calibration, Gesture, Hand, Sample};
use saltmarsh_core::medium::MediumName;
use saltmarsh_core::recent::Recent;
use saltmarsh_core::relief::{eye, raking};
use saltmarsh_core::sheet::Surroundings;
use saltmarsh_core::stroke::drives::Drives;
use saltmarsh_core::stroke::under;
use saltmarsh_core::technique;
use saltmarsh_core::tip::{self, Footprint, Profile, Shape, Shelf};
use saltmarsh_formats::{image, inkml, pdf};
use wasm_bindgen::prelude::*;

pub use surface::Surface;

fn refuse(e: &FieldError) -> JsError {
    JsError::new(&serde_json::json!({"field": e.field, "message": e.message}).to_string())
}

fn json<T: serde::Serialize>(value: &T) -> Result<String, JsError> {
    serde_json::to_string(value).map_err(|e| JsError::new(&e.to_string()))
}

/// Grounds kept ready (pieces and tiles of each may take 100 MiB).
const MOST_GROUNDS: usize = 6;

/// Most pixels of a picture of a ground.
const MOST_PICTURE: usize = 4_000_000;

/// A picture of no more pixels shows a ground that is not at hand by a sketch of it: it is on its way to another.
const MOST_SKETCH: usize = 120_000;
/// A light over a ground.
#[derive(serde::Deserialize)]
struct Lit {
    azimuth_deg: f64,
    elevation_deg: f64,
    depth: f64,
}

/// A dab to be looked at.
#[derive(serde::Deserialize)]
struct Dab {
    length_mm: f64,
    width_mm: f64,
    side_mm: f64,
    angle_deg: f64,
    hardness: f64,
    grain_depth: f64,
}

/// The shape of a tool's tip under a pen that gives `signals` (JSON; its pressure is calibrated by `hand`), as JSON
/// ([`TipShape`](saltmarsh_core::medium::TipShape)), or `null` where its medium tells none.
#[wasm_bindgen(js_name = tipShape)]
pub fn tip_shape(tool: &str, hand: &str, signals: &str) -> Result<String, JsError> {
    let tool = saltmarsh_core::tool::Tool::parse(tool).map_err(|e| refuse(&e))?;
    let hand: Hand = serde_json::from_str(hand).map_err(|e| JsError::new(&e.to_string()))?;
    let mut signals: Signals = serde_json::from_str(signals).map_err(|e| JsError::new(&e.to_string()))?;
    signals.pressure = hand.calibration.apply(signals.raw_pressure);
    let (qualities, _) = Drives::new(&tool).at(&tool, &signals, &mut Vec::new());
    json(&tool.medium.tip_shape(&tool.settings(), &qualities, &signals))
}

/// A tool turned into one of another medium, as JSON ([`Turned`](saltmarsh_core::tool::turned::Turned)).
#[wasm_bindgen(js_name = turnedTo)]
pub fn turned_to(tool: &str, medium: &str) -> Result<String, JsError> {
    let tool = saltmarsh_core::tool::Tool::parse(tool).map_err(|e| refuse(&e))?;
    let medium = MediumName::named(medium)
        .ok_or_else(|| refuse(&FieldError::new("medium", "is none of this program")))?;
    json(&saltmarsh_core::tool::turned::turned(&tool, medium))
}

/// Holds the grounds and images; makes surfaces to draw on.
#[wasm_bindgen]
#[derive(Default)]
pub struct Studio {
    grounds: Recent<String, Rc<Ground>, MOST_GROUNDS>,
    shelf: Rc<RefCell<Shelf>>,
    beds: Rc<surface::Beds>,
    surroundings: Rc<Cell<Surroundings>>,
}

#[wasm_bindgen]
impl Studio {
    #[wasm_bindgen(constructor)]
    pub fn new() -> Studio {
        Studio::default()
    }

    /// The ground of a recipe (JSON); the last few are kept.
    fn ground(&self, recipe: &str) -> Result<Rc<Ground>, JsError> {
        let recipe = Recipe::parse(recipe).map_err(|e| refuse(&e))?;
        let images = &self.shelf.borrow().images;
        // Toned paper is the same paper.
        let dyed = || self.grounds.find(|g| g.dyed(&recipe, images));
        let make = || Ok(Rc::new(dyed().unwrap_or_else(|| Ground::new(&recipe, images))?));
        self.grounds.try_of(recipe.key(), make).map_err(|e: FieldError| refuse(&e))
    }

    /// Whether the ground of a recipe (JSON) is at hand.
    #[wasm_bindgen(js_name = hasGround)]
    pub fn has_ground(&self, recipe: &str) -> Result<bool, JsError> {
        Ok(self.grounds.has(&Recipe::parse(recipe).map_err(|e| refuse(&e))?.key()))
    }

    /// Makes the ground of a recipe (JSON) ready to be drawn on.
    #[wasm_bindgen(js_name = readyGround)]
    pub fn ready_ground(&self, recipe: &str) -> Result<(), JsError> {
        self.ground(recipe).map(|_| ())
    }

    /// Gives the ground of a recipe (JSON) as [`Studio::stored_ground`] gave it. Refused (thrown) where that is not whole.
    #[wasm_bindgen(js_name = giveGround)]
    pub fn give_ground(&self, recipe: &str, stored: &[u8]) -> Result<(), JsError> {
        let recipe = Recipe::parse(recipe).map_err(|e| refuse(&e))?;
        let make = || Ok(Rc::new(Ground::from_stored(&recipe, &self.shelf.borrow().images, stored)?));
        self.grounds.try_of(recipe.key(), make).map(|_| ()).map_err(|e: FieldError| refuse(&e))
    }

    /// Pieces of the ground of a recipe (JSON) that were made here; 0 where it is not at hand.
    #[wasm_bindgen(js_name = groundMade)]
    pub fn ground_made(&self, recipe: &str) -> Result<usize, JsError> {
        let recipe = Recipe::parse(recipe).map_err(|e| refuse(&e))?;
        Ok(if self.grounds.has(&recipe.key()) { self.ground(&recipe.canonical())?.made() } else { 0 })
    }

    /// What has been made of the ground of a recipe (JSON), to be stored: at most `most` pieces of 256 KiB.
    #[wasm_bindgen(js_name = storedGround)]
    pub fn stored_ground(&self, recipe: &str, most: usize) -> Result<Vec<u8>, JsError> {
        Ok(self.ground(recipe)?.stored(most))
    }

    /// A sheet of `width × height` pixels of `pixel_mm`, its corner at (`x_mm`, `y_mm`) on the ground of a recipe (JSON).
    pub fn surface(
        &self,
        ground: &str,
        width: usize,
        height: usize,
        pixel_mm: f64,
        x_mm: f64,
        y_mm: f64,
    ) -> Result<Surface, JsError> {
        Surface::new(
            self.ground(ground)?,
            [width, height],
            pixel_mm,
            [x_mm, y_mm],
            self.beds.clone(),
            self.shelf.clone(),
            self.surroundings.clone(),
        )
        .map_err(|e| refuse(&e))
    }

    /// Brings every sheet into a room, its board tilted ([`Surroundings`] as JSON). Refused (thrown) by field.
    #[wasm_bindgen(js_name = bringInto)]
    pub fn bring_into(&self, surroundings: &str) -> Result<(), JsError> {
        let surroundings: Surroundings =
            serde_json::from_str(surroundings).map_err(|e| JsError::new(&e.to_string()))?;
        surroundings.check().map_err(|e| refuse(&e))?;
        self.surroundings.set(surroundings);
        Ok(())
    }

    /// Whether the image of this name was given.
    #[wasm_bindgen(js_name = hasImage)]
    pub fn has_image(&self, hash: &str) -> bool {
        self.shelf.borrow().images.has(hash)
    }

    /// Gives an image, as the PNG of 16-bit grey that the server keeps; answers its name.
    #[wasm_bindgen(js_name = giveImage)]
    pub fn give_image(&self, png: &[u8]) -> Result<String, JsError> {
        let grey = image::read_grey(png).map_err(|e| refuse(&e))?;
        Ok(self.shelf.borrow_mut().images.add(grey))
    }

    /// A ground of a recipe (JSON) under raking light: RGBA of `width × height` pixels of `pixel_mm`. `light`: JSON
    /// `{azimuth_deg, elevation_deg, depth}`, the depth exaggerating the heights.
    #[wasm_bindgen(js_name = rakingLight)]
    pub fn raking_light(
        &self,
        ground: &str,
        width: usize,
        height: usize,
        pixel_mm: f64,
        light: &str,
    ) -> Result<Vec<u8>, JsError> {
        let light: Lit = serde_json::from_str(light).map_err(|e| JsError::new(&e.to_string()))?;
        if width == 0 || height == 0 || width * height > MOST_PICTURE {
            return Err(refuse(&FieldError::new(
                "width",
                format!("must give at most {MOST_PICTURE} pixels"),
            )));
        }
        saltmarsh_core::error::within("pixel_mm", pixel_mm, 0.01, 2.0, "mm").map_err(|e| refuse(&e))?;
        let raster = Raster { pixel_mm, origin_mm: [0.0, 0.0] };
        let (feel, corner, size) = (Feel::default(), [0, 0], [width, height]);
        let heights = if width * height <= MOST_SKETCH && !self.has_ground(ground)? {
            let recipe = Recipe::parse(ground).map_err(|e| refuse(&e))?;
            let under = raster.ground_under(feel, corner, size);
            let made = Ground::sketch(&recipe, &self.shelf.borrow().images, under).map_err(|e| refuse(&e))?;
            raster.averaged(feel, corner, size, &made)
        } else {
            raster.area(&*self.ground(ground)?, feel, corner, size).height
        };
        let from = raking::Light { azimuth_deg: light.azimuth_deg, elevation_deg: light.elevation_deg };
        Ok(raking::rgba(&heights, width, pixel_mm, light.depth, from))
    }

    /// A tool's tip to look at: a byte a pixel of how hard it presses, `side × side` pixels of `pixel_mm`. `dab`: JSON
    /// `{length_mm, width_mm, side_mm, angle_deg, hardness, grain_depth}`.
    #[wasm_bindgen(js_name = tipView)]
    pub fn tip_view(&self, tool: &str, dab: &str, side: usize, pixel_mm: f32) -> Result<Vec<u8>, JsError> {
        let tool = saltmarsh_core::tool::Tool::parse(tool).map_err(|e| refuse(&e))?;
        let dab: Dab = serde_json::from_str(dab).map_err(|e| JsError::new(&e.to_string()))?;
        let shelf = self.shelf.borrow();
        let stencil = shelf.stencil(&tool.settings()).map_err(|e| refuse(&e))?;
        let angle = dab.angle_deg.to_radians();
        let footprint = Footprint {
            x: 0.0,
            y: 0.0,
            outline: tool.settings().chosen::<Shape>("tip.shape").outline(),
            half_length: (0.5 * (dab.length_mm - dab.side_mm)).max(0.01) as f32,
            half_width: (0.5 * dab.width_mm).max(0.01) as f32,
            half_side: (0.5 * dab.side_mm) as f32,
            cos: libm::cos(angle) as f32,
            sin: libm::sin(angle) as f32,
            travel_cos: 1.0,
            travel_sin: 0.0,
            travel: 0.0,
        };
        let profile = Profile::new(dab.hardness as f32);
        let side = side.clamp(1, 1024);
        Ok(tip::view::pressure(
            &footprint,
            &profile,
            stencil.as_deref(),
            side,
            pixel_mm.max(1e-3),
            dab.grain_depth as f32,
            tool.number("tip.bite") as f32,
        ))
    }

    /// What a tool's image lays at its rim, 0..1: over nothing, it will show as a line where dabs end.
    #[wasm_bindgen(js_name = hardRim)]
    pub fn hard_rim(&self, tool: &str) -> Result<f32, JsError> {
        let tool = saltmarsh_core::tool::Tool::parse(tool).map_err(|e| refuse(&e))?;
        let stencil = self.shelf.borrow().stencil(&tool.settings()).map_err(|e| refuse(&e))?;
        Ok(stencil.map_or(0.0, |s| s.hard_rim()))
    }

    /// Blurs RGBA (`width` a row, pixels of `pixel_mm`) as an eye at `distance_mm` does.
    #[wasm_bindgen(js_name = fromAfar)]
    pub fn from_afar(&self, rgba: &[u8], width: usize, pixel_mm: f64, distance_mm: f64) -> Vec<u8> {
        let mut out = rgba.to_vec();
        eye::from_afar_in_place(&mut out, width, pixel_mm, distance_mm);
        out
    }

    /// What a tool meets in its ground: ISO figures, material ratio, contact depths and a section, as JSON.
    #[wasm_bindgen(js_name = groundFigures)]
    pub fn ground_figures(&self, tool: &str) -> Result<String, JsError> {
        let tool = saltmarsh_core::tool::Tool::parse(tool).map_err(|e| refuse(&e))?;
        let ground = self.ground(&tool.ground.canonical())?;
        json(&describe::figures::ground(&tool, &ground))
    }
}

/// A PNG of RGBA that says how large its pixels are, mm.
#[wasm_bindgen(js_name = pngOf)]
pub fn png_of(rgba: &[u8], width: u32, height: u32, pixel_mm: f64) -> Result<Vec<u8>, JsError> {
    image::png(rgba, width, height, pixel_mm).map_err(|e| JsError::new(&e.to_string()))
}

/// A page of pictures at their true size, with captions; lengths in mm from its upper left.
#[wasm_bindgen]
pub struct Page(pdf::Page);

#[wasm_bindgen]
impl Page {
    #[wasm_bindgen(constructor)]
    pub fn new(width_mm: f64, height_mm: f64) -> Result<Page, JsError> {
        pdf::Page::new(width_mm, height_mm).map(Page).map_err(|e| refuse(&e))
    }

    /// Puts RGBA, its pixels of `pixel_mm`.
    pub fn picture(
        &mut self,
        rgba: &[u8],
        width: usize,
        height: usize,
        left_mm: f64,
        top_mm: f64,
        pixel_mm: f64,
    ) -> Result<(), JsError> {
        self.0.picture(rgba, [width, height], [left_mm, top_mm], pixel_mm).map_err(|e| refuse(&e))
    }

    /// Writes a line from its baseline's beginning, letters of `size_pt` points, from black (0) to white (1).
    pub fn text(&mut self, text: &str, left_mm: f64, base_mm: f64, size_pt: f64, grey: f64) {
        self.0.text(text, [left_mm, base_mm], size_pt, grey);
    }

    /// The PDF.
    pub fn finish(self, title: &str) -> Vec<u8> {
        self.0.finish(title)
    }
}

/// Whether a part of a strip may be laid without the rest. `under`: what it lies on, as [`Surface::make_ready`] takes it.
#[wasm_bindgen(js_name = standsAlone)]
pub fn stands_alone(tool: &str, under: Option<String>) -> Result<bool, JsError> {
    let tool = saltmarsh_core::tool::Tool::parse(tool).map_err(|e| refuse(&e))?;
    under::stands_alone(&tool, under.as_deref()).map_err(|e| refuse(&e))
}

/// Checks a tool document; gives its canonical form.
#[wasm_bindgen(js_name = checkTool)]
pub fn check_tool(document: &str) -> Result<String, JsError> {
    saltmarsh_core::tool::Tool::parse(document).map(|t| t.canonical()).map_err(|e| refuse(&e))
}

/// Swatches of a paint (pigments by parts, JSON) with a share of medium, as JSON.
#[wasm_bindgen]
pub fn swatches(parts: &str, medium: f64) -> Result<String, JsError> {
    let parts = serde_json::from_str(parts).map_err(|e| JsError::new(&e.to_string()))?;
    json(&saltmarsh_core::paint::swatch::of(&parts, medium).map_err(|e| refuse(&e))?)
}

/// Which parameters act in a tool and why the others do not, as JSON.
#[wasm_bindgen]
pub fn relevance(document: &str) -> Result<String, JsError> {
    let tool = saltmarsh_core::tool::Tool::parse(document).map_err(|e| refuse(&e))?;
    json(&saltmarsh_core::tool::relevance::relevance(&tool))
}

/// Declarations of parameters, qualities and signals, as JSON.
#[wasm_bindgen]
pub fn declarations() -> Result<String, JsError> {
    json(&describe::declarations())
}

/// A curve through `points` (x, y, x, y, …) at `count` even steps of 0..1.
#[wasm_bindgen(js_name = curveSamples)]
pub fn curve_samples(points: &[f64], count: usize) -> Result<Vec<f64>, JsError> {
    let curve = curve(points)?;
    let top = count.max(2) - 1;
    Ok((0..=top).map(|i| curve.at(i as f64 / top as f64)).collect())
}

/// What a calibration, and a curve over the part `low`..`high` of its output, leave of a device's levels, as JSON.
#[wasm_bindgen(js_name = usableLevels)]
pub fn usable_levels(
    calibration: &[f64],
    low: f64,
    high: f64,
    points: &[f64],
    levels: u32,
) -> Result<String, JsError> {
    if high.is_nan() || low.is_nan() || high <= low {
        return Err(refuse(&FieldError::new("high", "must lie above low")));
    }
    let calibration = Calibration { curve: curve(calibration)? };
    let levels = levels.clamp(2, 65_536);
    json(&saltmarsh_core::touch::levels::usable_through(&calibration, [low, high], &curve(points)?, levels))
}

fn curve(points: &[f64]) -> Result<Curve, JsError> {
    let points = points.chunks_exact(2).map(|p| [p[0], p[1]]).collect();
    Curve::new(points).map_err(|e| refuse(&e))
}

/// A gesture, read from InkML or recorded.
#[wasm_bindgen]
pub struct Recording {
    pub(crate) gesture: Gesture,
}

#[wasm_bindgen]
impl Recording {
    /// Reads InkML.
    pub fn read(text: &str) -> Result<Recording, JsError> {
        let gesture = inkml::read(text).and_then(|d| inkml::to_gesture(&d)).map_err(|e| refuse(&e))?;
        Ok(Recording { gesture })
    }

    /// The strokes of a step of a technique, or of the sample that shows a tool in the rack.
    #[wasm_bindgen(js_name = ofTechnique)]
    pub fn of_technique(id: &str, step: usize) -> Result<Recording, JsError> {
        let samples = [Action::Lay, Action::Blend].map(technique::sample);
        let found = technique::all().iter().chain(samples).find(|t| t.id == id && step < t.steps.len());
        let technique =
            found.ok_or_else(|| refuse(&FieldError::new("technique", "there is no such step")))?;
        technique.strokes(step).map(|gesture| Recording { gesture }).map_err(|e| refuse(&e))
    }

    /// Takes one pass of packed samples (`t, x, y, pressure, tilt_x, tilt_y, twist`; s, mm, 0..1, degrees).
    pub fn record(samples: &[f64]) -> Result<Recording, JsError> {
        let pass = samples.chunks_exact(Sample::PACKED).map(Sample::unpack).collect();
        Gesture::new(vec![pass]).map(|gesture| Recording { gesture }).map_err(|e| refuse(&e))
    }

    /// InkML of this gesture.
    pub fn write(&self) -> String {
        inkml::write(&self.gesture)
    }

    #[wasm_bindgen(getter, js_name = passCount)]
    pub fn pass_count(&self) -> usize {
        self.gesture.passes().len()
    }

    /// Packed samples of one pass.
    pub fn pass(&self, index: usize) -> Vec<f64> {
        self.gesture.passes().get(index).into_iter().flatten().flat_map(Sample::pack).collect()
    }

    /// `[left, top, right, bottom]`, mm.
    pub fn bounds(&self) -> Vec<f64> {
        self.gesture.bounds_mm().to_vec()
    }
}
