//! A ground's recipe: which surface it is and the physical numbers it is made with. Every number is declared once, here;
//! validation, the screen's controls and the schema read these declarations.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use crate::error::{FieldError, Result, text, within};

/// Which surface.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Surface {
    HotPressed,
    ColdPressed,
    Rough,
    Laid,
    CanvasFine,
    CanvasCoarse,
    Linen,
    Sanded,
    Gesso,
    /// A height map that was brought in.
    Image,
}

impl Surface {
    pub const ALL: [Surface; 10] = [
        Surface::HotPressed,
        Surface::ColdPressed,
        Surface::Rough,
        Surface::Laid,
        Surface::CanvasFine,
        Surface::CanvasCoarse,
        Surface::Linen,
        Surface::Sanded,
        Surface::Gesso,
        Surface::Image,
    ];
    /// Those that are made from numbers alone.
    pub const GENERATED: &'static [Surface] = Self::ALL.split_at(Self::ALL.len() - 1).0;

    /// As documents name it.
    pub fn name(self) -> &'static str {
        match self {
            Self::HotPressed => "hot-pressed",
            Self::ColdPressed => "cold-pressed",
            Self::Rough => "rough",
            Self::Laid => "laid",
            Self::CanvasFine => "canvas-fine",
            Self::CanvasCoarse => "canvas-coarse",
            Self::Linen => "linen",
            Self::Sanded => "sanded",
            Self::Gesso => "gesso",
            Self::Image => "image",
        }
    }

    /// As people call it.
    pub fn label(self) -> &'static str {
        match self {
            Self::HotPressed => "hot-pressed paper",
            Self::ColdPressed => "cold-pressed paper",
            Self::Rough => "rough paper",
            Self::Laid => "laid paper",
            Self::CanvasFine => "fine canvas, plain weave",
            Self::CanvasCoarse => "coarse canvas, plain weave",
            Self::Linen => "linen",
            Self::Sanded => "sanded ground",
            Self::Gesso => "gessoed board",
            Self::Image => "height map",
        }
    }

    /// The surface of this name.
    pub fn named(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|s| s.name() == name)
    }
}

/// The declaration of one number of a recipe.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Number {
    pub id: &'static str,
    pub label: &'static str,
    pub unit: &'static str,
    pub low: f64,
    pub high: f64,
    pub step: f64,
    /// Whether equal ratios feel like equal steps.
    pub ratio: bool,
    pub help: &'static str,
    /// The surfaces that have it, each with its default.
    pub of: &'static [(Surface, f64)],
}

use Surface as S;

/// Every number of a recipe. Defaults of roughness and size are the dry study's where it has the surface, else tuned by eye;
/// none is a measured paper.
pub const NUMBERS: &[Number] = &[
    Number {
        id: "sa_um",
        label: "Roughness Sa",
        unit: "µm",
        low: 2.0,
        high: 60.0,
        step: 0.1,
        ratio: true,
        help: "Mean distance of the surface from its mean level (ISO 25178-2).",
        of: &[
            (S::HotPressed, 2.0),
            (S::ColdPressed, 9.6),
            (S::Rough, 24.1),
            (S::Laid, 4.8),
            (S::CanvasFine, 15.8),
            (S::CanvasCoarse, 24.0),
            (S::Linen, 27.1),
            (S::Sanded, 11.0),
            (S::Gesso, 5.0),
        ],
    },
    Number {
        id: "tooth_mm",
        label: "Tooth length",
        unit: "mm",
        low: 0.4,
        high: 6.0,
        step: 0.01,
        ratio: true,
        help: "From one hump to the next; for a gessoed board the spacing of the brush marks.",
        of: &[(S::HotPressed, 1.4), (S::ColdPressed, 1.55), (S::Rough, 2.5), (S::Gesso, 0.9)],
    },
    Number {
        id: "direction",
        label: "Direction",
        unit: "",
        low: 0.0,
        high: 0.9,
        step: 0.01,
        ratio: false,
        help: "How far the tooth is drawn out along the sheet's width: 0 is the same every way.",
        of: &[(S::HotPressed, 0.0), (S::ColdPressed, 0.0), (S::Rough, 0.0), (S::Laid, 0.0), (S::Gesso, 0.6)],
    },
    Number {
        id: "line_mm",
        label: "Laid lines",
        unit: "mm",
        low: 0.5,
        high: 3.0,
        step: 0.01,
        ratio: true,
        help: "Distance between the lines that the mould's wires leave.",
        of: &[(S::Laid, 1.067)],
    },
    Number {
        id: "chain_mm",
        label: "Chain lines",
        unit: "mm",
        low: 10.0,
        high: 60.0,
        step: 0.1,
        ratio: true,
        help: "Distance between the lines that cross the laid lines.",
        of: &[(S::Laid, 25.6)],
    },
    Number {
        id: "warp_cm",
        label: "Warp",
        unit: "threads/cm",
        low: 4.0,
        high: 24.0,
        step: 0.1,
        ratio: true,
        help: "Threads to the centimetre that run down the sheet.",
        of: &[(S::CanvasFine, 14.1), (S::CanvasCoarse, 8.6), (S::Linen, 9.4)],
    },
    Number {
        id: "weft_cm",
        label: "Weft",
        unit: "threads/cm",
        low: 4.0,
        high: 24.0,
        step: 0.1,
        ratio: true,
        help: "Threads to the centimetre that run across the sheet.",
        of: &[(S::CanvasFine, 13.4), (S::CanvasCoarse, 8.0), (S::Linen, 8.2)],
    },
    Number {
        id: "uneven",
        label: "Uneven threads",
        unit: "",
        low: 0.0,
        high: 1.0,
        step: 0.01,
        ratio: false,
        help: "How much threads differ in thickness, wander, and thicken to slubs.",
        of: &[(S::CanvasFine, 0.35), (S::CanvasCoarse, 0.4), (S::Linen, 0.85)],
    },
    Number {
        id: "primer",
        label: "Primer",
        unit: "",
        low: 0.0,
        high: 1.0,
        step: 0.01,
        ratio: false,
        help: "How far primer fills the gaps between threads and rounds them.",
        of: &[(S::CanvasFine, 0.4), (S::CanvasCoarse, 0.35), (S::Linen, 0.3)],
    },
    Number {
        id: "grain_mm",
        label: "Grains",
        unit: "mm",
        low: 0.08,
        high: 0.6,
        step: 0.01,
        ratio: true,
        help: "Size of the largest grains of grit in the ground.",
        of: &[(S::Sanded, 0.2)],
    },
    Number {
        id: "rubbed",
        label: "Rubbed down",
        unit: "",
        low: 0.0,
        high: 1.0,
        step: 0.01,
        ratio: false,
        help: "How far the ridges are sanded flat: 0 leaves them as brushed.",
        of: &[(S::Gesso, 0.5)],
    },
    Number {
        id: "pitch_mm",
        label: "Pitch",
        unit: "mm",
        low: 0.005,
        high: 1.0,
        step: 0.001,
        ratio: true,
        help: "Side of one pixel of the height map on the sheet.",
        of: &[(S::Image, 0.05)],
    },
    Number {
        id: "depth_um",
        label: "Depth",
        unit: "µm",
        low: 1.0,
        high: 500.0,
        step: 1.0,
        ratio: true,
        help: "Height of white over black.",
        of: &[(S::Image, 80.0)],
    },
    Number {
        id: "join",
        label: "Joined over",
        unit: "",
        low: 0.02,
        high: 0.5,
        step: 0.01,
        ratio: false,
        help: "Share of the map's shorter side over which its opposite edges are blended so that it tiles without a seam.",
        of: &[(S::Image, 0.15)],
    },
    Number {
        id: "sizing",
        label: "Sizing",
        unit: "",
        low: 0.0,
        high: 1.0,
        step: 0.01,
        ratio: false,
        help: "How far glue keeps water out of the paper: 0 waterleaf, which drinks at once and feathers; 0.7 a watercolour paper; 1 hard-sized, on which water stands.",
        of: &[
            (S::HotPressed, SIZED),
            (S::ColdPressed, SIZED),
            (S::Rough, SIZED),
            (S::Laid, SIZED),
            (S::CanvasFine, SIZED),
            (S::CanvasCoarse, SIZED),
            (S::Linen, SIZED),
            (S::Sanded, SIZED),
            (S::Gesso, SIZED),
            (S::Image, SIZED),
        ],
    },
    Number {
        id: "dye",
        label: "Tint",
        unit: "",
        low: 0.0,
        high: 1.0,
        step: 0.01,
        ratio: false,
        help: "How strongly the ground is dyed.",
        of: &[
            (S::HotPressed, 0.5),
            (S::ColdPressed, 0.5),
            (S::Rough, 0.5),
            (S::Laid, 0.5),
            (S::CanvasFine, 0.5),
            (S::CanvasCoarse, 0.5),
            (S::Linen, 0.5),
            (S::Sanded, 0.5),
            (S::Gesso, 0.5),
            (S::Image, 0.5),
        ],
    },
];

/// Sizing of a watercolour paper.
pub const SIZED: f64 = 0.7;

/// The declaration named `id`, if `surface` has it.
pub fn number_of(surface: Surface, id: &str) -> Option<(&'static Number, f64)> {
    let number = NUMBERS.iter().find(|n| n.id == id)?;
    let (_, default) = number.of.iter().find(|(s, _)| *s == surface)?;
    Some((number, *default))
}

/// A second ground laid over the first.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Over {
    pub recipe: Box<Recipe>,
    /// How far it hides the tooth of what lies under it, 0..1.
    pub hides: f64,
}

/// What a ground is made from. Numbers that a document leaves out have the surface's defaults.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Recipe {
    /// What its maker calls it; nothing where it is a plain surface.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    #[cfg_attr(feature = "types", ts(as = "Option<String>", optional))]
    pub name: String,
    pub surface: Surface,
    /// Seed of everything left to chance.
    #[serde(default)]
    pub seed: u32,
    /// What it is dyed with: a name of [`super::tint::TINTS`].
    #[serde(default = "undyed")]
    pub tint: String,
    #[serde(default)]
    #[cfg_attr(feature = "types", ts(type = "Record<string, number>"))]
    pub numbers: BTreeMap<String, f64>,
    /// SHA-256 of the height map, where it is one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "types", ts(optional))]
    pub image: Option<String>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[cfg_attr(feature = "types", ts(optional))]
    pub over: Option<Over>,
}

fn undyed() -> String {
    super::tint::TINTS[0].name.to_owned()
}

const LONGEST_NAME: usize = 120;

impl Default for Recipe {
    fn default() -> Self {
        Self::of(Surface::ColdPressed)
    }
}

impl Recipe {
    /// A surface with its defaults.
    pub fn of(surface: Surface) -> Self {
        let mut recipe = Self {
            name: String::new(),
            surface,
            seed: 0,
            tint: undyed(),
            numbers: BTreeMap::new(),
            image: None,
            over: None,
        };
        recipe.fill_in();
        recipe
    }

    /// Reads and checks a document.
    ///
    /// # Errors
    /// Names the first field that is refused and its limit.
    pub fn parse(text: &str) -> Result<Self> {
        let mut recipe: Self =
            serde_json::from_str(text).map_err(|e| FieldError::new("ground", e.to_string()))?;
        recipe.fill_in();
        recipe.check()?;
        Ok(recipe)
    }

    pub(crate) fn fill_in(&mut self) {
        for n in NUMBERS {
            if let Some((_, default)) = n.of.iter().find(|(s, _)| *s == self.surface) {
                self.numbers.entry(n.id.to_owned()).or_insert(*default);
            }
        }
        if let Some(over) = &mut self.over {
            over.recipe.fill_in();
        }
    }

    /// A number; the surface's default where the document has none.
    pub fn number(&self, id: &str) -> f64 {
        let own = self.numbers.get(id).copied();
        own.or_else(|| number_of(self.surface, id).map(|(_, default)| default))
            .unwrap_or_else(|| panic!("{} has no {id}", self.surface.name()))
    }

    /// How far it is sized, 0..1: what lies over it counts as far as it hides it.
    pub fn sizing(&self) -> f64 {
        let own = self.number("sizing");
        self.over.as_ref().map_or(own, |over| own + over.hides * (over.recipe.number("sizing") - own))
    }

    /// Checks every field against its declaration.
    ///
    /// # Errors
    /// Names the field and the limit.
    pub fn check(&self) -> Result<()> {
        text("name", &self.name, 0, LONGEST_NAME)?;
        if super::tint::find(&self.tint).is_none() {
            let names: Vec<_> = super::tint::TINTS.iter().map(|t| t.name).collect();
            return Err(FieldError::new("tint", format!("must be one of {}", names.join(", "))));
        }
        for (id, value) in &self.numbers {
            let field = format!("numbers.{id}");
            let (n, _) = number_of(self.surface, id).ok_or_else(|| {
                FieldError::new(&field, format!("is no number of {}", self.surface.label()))
            })?;
            within(&field, *value, n.low, n.high, n.unit)?;
        }
        match (&self.image, self.surface) {
            (None, Surface::Image) => return Err(FieldError::new("image", "a height map needs its image")),
            (Some(_), s) if s != Surface::Image => {
                return Err(FieldError::new("image", "only a height map has an image"));
            }
            (Some(hash), _) if !crate::image::is_hash(hash) => {
                return Err(FieldError::new("image", "must be 64 hexadecimal digits"));
            }
            _ => {}
        }
        if let Some(over) = &self.over {
            within("over.hides", over.hides, 0.0, 1.0, "")?;
            if over.recipe.over.is_some() {
                return Err(FieldError::new("over.recipe.over", "only one ground can lie over another"));
            }
            over.recipe.check().map_err(|e| e.within("over.recipe"))?;
        }
        Ok(())
    }

    /// Hashes of the images it needs.
    pub fn images(&self) -> impl Iterator<Item = &str> {
        let over = self.over.as_ref().and_then(|o| o.recipe.image.as_deref());
        self.image.as_deref().into_iter().chain(over)
    }

    /// The document in its one canonical form; equal for equal grounds.
    pub fn canonical(&self) -> String {
        serde_json::to_string(self).expect("a recipe holds only finite numbers and strings")
    }

    /// As [`Recipe::canonical`] without what people call it: equal where the surface is the same.
    pub fn key(&self) -> String {
        Self { name: String::new(), ..self.clone() }.canonical()
    }

    /// As [`Recipe::key`] without its colour and its sizing: equal where the heights and the grain are the same.
    pub fn relief_key(&self) -> String {
        let mut same = Self { name: String::new(), tint: String::new(), ..self.clone() };
        same.numbers.remove("dye");
        same.numbers.remove("sizing");
        if let Some(over) = &mut same.over {
            over.recipe.numbers.remove("sizing");
        }
        same.canonical()
    }
}
