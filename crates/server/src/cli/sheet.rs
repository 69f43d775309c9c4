//! `saltmarsh sheet`: the techniques, each laid on its sheet with the tools of a folder.

use std::collections::HashMap;
use std::rc::Rc;

use clap::Args;
use saltmarsh_core::FieldError;
use saltmarsh_core::ground::{Ground, Recipe, Surface};
use saltmarsh_core::hand::Hand;
use saltmarsh_core::relief::view::View;
use saltmarsh_core::sheet::Sheet as Paper;
use saltmarsh_core::stroke::Engine;
use saltmarsh_core::technique::{self, Technique};
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::Tool;
use saltmarsh_formats::image;

use super::files::{MOST_DOCUMENT_BYTES, ground_named, read_text, write};
use crate::stop::Stop;

/// Sheets stand beside each other up to this width, this far apart, mm.
const ACROSS_MM: f64 = 185.0;
const APART_MM: f64 = 2.0;
/// Between sheets.
const MOUNT: [u8; 4] = [255, 255, 255, 255];

/// Techniques name the tools they were made with; a folder of tool documents is searched for those names.
#[derive(Args)]
pub struct Sheet {
    /// Folder of tool documents (JSON).
    #[arg(long)]
    tools: String,
    /// A technique, by its name in a refusal (tone-scale, hatching, …, oil-glaze, …); may be given several times; all if left out.
    #[arg(long)]
    technique: Vec<String>,
    /// Ground to lay each on, one beside the other (a surface, or a file with its recipe); may be given several times; its own if left out.
    #[arg(long)]
    ground: Vec<String>,
    /// Picture to write (PNG).
    #[arg(long)]
    out: String,
    /// Pixels per inch, 20 to 1200.
    #[arg(long, default_value_t = 200.0)]
    dpi: f64,
}

impl Sheet {
    pub fn run(&self) -> Result<(), Stop> {
        if !(20.0..=1200.0).contains(&self.dpi) {
            return Err(Stop::Input(format!("--dpi: must be a number from 20 to 1200, got {}", self.dpi)));
        }
        let chosen = self.chosen()?;
        let tools = self.tools()?;
        let pixel = 25.4 / self.dpi;
        let grounds = self.ground.iter().map(|name| ground_named(name)).collect::<Result<Vec<_>, _>>()?;
        let rows = if grounds.is_empty() {
            let own = |t: &Technique| t.ground.clone().unwrap_or_else(|| Recipe::of(Surface::ColdPressed));
            in_rows(chosen.iter().map(|t| lay(t, &own(t), &tools, pixel)).collect::<Result<_, _>>()?, pixel)
        } else {
            let on_each = |t: &&'static Technique| grounds.iter().map(|g| lay(t, g, &tools, pixel)).collect();
            chosen.iter().map(on_each).collect::<Result<Vec<Vec<_>>, _>>()?
        };
        let (rgba, width, height) = mounted(&rows, pixel);
        let png = image::png(&rgba, width as u32, height as u32, pixel)
            .map_err(|e| Stop::Failure(format!("{}: {e}", self.out)))?;
        write(&self.out, &png)
    }

    /// The techniques that were asked for, in that order.
    fn chosen(&self) -> Result<Vec<&'static Technique>, Stop> {
        let all = technique::all();
        if self.technique.is_empty() {
            return Ok(all.iter().collect());
        }
        let named = |id: &String| {
            all.iter().find(|t| t.id == *id).ok_or_else(|| {
                let known: Vec<_> = all.iter().map(|t| t.id.as_str()).collect();
                Stop::Input(format!("--technique: must be one of {}, got {id}", known.join(", ")))
            })
        };
        self.technique.iter().map(named).collect()
    }

    /// The folder's tools by name.
    fn tools(&self) -> Result<HashMap<String, Tool>, Stop> {
        let wrong = |e: &dyn std::fmt::Display| Stop::Input(format!("--tools: {}: {e}", self.tools));
        let mut found = HashMap::new();
        for entry in std::fs::read_dir(&self.tools).map_err(|e| wrong(&e))? {
            let path = entry.map_err(|e| wrong(&e))?.path();
            if path.extension().is_some_and(|e| e == "json") {
                let text = read_text(&path.to_string_lossy(), MOST_DOCUMENT_BYTES)?;
                let tool = Tool::parse(&text).map_err(|e| Stop::Input(format!("{}: {e}", path.display())))?;
                found.insert(tool.name.clone(), tool);
            }
        }
        Ok(found)
    }
}

/// A sheet, and whether what lies on it is seen under light.
type Laid = (Paper, bool);

/// A technique on a ground.
fn lay(
    technique: &Technique,
    recipe: &Recipe,
    tools: &HashMap<String, Tool>,
    pixel: f64,
) -> Result<Laid, Stop> {
    let shelf = Shelf::default();
    let named = |e: FieldError| Stop::Input(format!("{}: {e}", technique.id));
    let ground = Rc::new(Ground::new(recipe, &shelf.images).map_err(named)?);
    let [width, height] = technique.size_mm.map(|mm| (mm / pixel).round().max(1.0) as usize);
    let mut paper = Paper::new(ground, width, height, pixel, [0.0, 0.0]).map_err(named)?;
    let mut lit = false;
    for (i, step) in technique.steps.iter().enumerate() {
        let role = technique.role(step);
        let tool = tools.get(&role.tool).ok_or_else(|| {
            Stop::Input(format!("--tools: {} needs “{}”, which is not there", technique.id, role.tool))
        })?;
        let tool = technique.tool_of(i, tool);
        lit |= tool.medium.lit();
        technique.wait_in_place(i, &mut paper);
        let mut engine = Engine::with(Rc::new(tool), Hand::default(), &paper, &shelf, None).map_err(named)?;
        for pass in technique.strokes(i).map_err(named)?.passes() {
            engine.extend(pass, &mut paper).map_err(named)?;
            engine.lift(&mut paper);
        }
    }
    paper.rest();
    Ok((paper, lit))
}

/// Sheets side by side, as many in a row as there is room for.
fn in_rows(sheets: Vec<Laid>, pixel: f64) -> Vec<Vec<Laid>> {
    let (across, apart) = ((ACROSS_MM / pixel) as usize, (APART_MM / pixel) as usize);
    let mut rows: Vec<Vec<Laid>> = Vec::new();
    let mut taken = across;
    for laid in sheets {
        let width = laid.0.width();
        if taken + width > across {
            rows.push(Vec::new());
            taken = 0;
        }
        taken += width + apart;
        rows.last_mut().expect("a row was begun").push(laid);
    }
    rows
}

/// Rows of sheets under each other: RGBA, width, height.
fn mounted(rows: &[Vec<Laid>], pixel: f64) -> (Vec<u8>, usize, usize) {
    let apart = (APART_MM / pixel) as usize;
    let across =
        |row: &Vec<Laid>| row.iter().map(|(s, _)| s.width() + apart).sum::<usize>().saturating_sub(apart);
    let down = |row: &Vec<Laid>| row.iter().map(|(s, _)| s.height()).max().unwrap_or(0);
    let width = rows.iter().map(across).max().unwrap_or(1);
    let height = rows.iter().map(|row| down(row) + apart).sum::<usize>().saturating_sub(apart).max(1);
    let mut out = MOUNT.repeat(width * height);
    let mut y = 0;
    for row in rows {
        let mut x = 0;
        for (sheet, lit) in row {
            let rgba = View::default().rgba(sheet, sheet.rect(), *lit);
            for (i, line) in rgba.chunks_exact(4 * sheet.width()).enumerate() {
                let at = ((y + i) * width + x) * 4;
                out[at..at + line.len()].copy_from_slice(line);
            }
            x += sheet.width() + apart;
        }
        y += down(row) + apart;
    }
    (out, width, height)
}
