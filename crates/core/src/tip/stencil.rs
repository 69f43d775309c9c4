//! What of a footprint lays: an image or specks as the tip's shape, a grain image multiplied into it, a second outline over it.

use super::mask::{Flip, Making, Mask};
use super::outline::{Outline, Shape};
use super::{Footprint, footprint::Place};
use crate::chain::Settings;
use crate::chain::choice::choices;
use crate::error::Result;
use crate::image::Images;
use crate::lanes::{Lanes, all, larger, smaller};

/// Fields of specks that take turns, so that no two dabs in a row are alike.
const VARIANTS: usize = 8;

choices! {
    /// Whether strokes rub over one grain, or each dab has it.
    pub enum GrainOn {
        Sheet = "sheet", "the sheet";
        Tip = "tip", "the tip, and travels with it";
    }
}

choices! {
    /// A second outline over the first.
    pub enum MaskedBy {
        Nothing = "none", "nothing";
        Round = "round", "round";
        Flat = "flat", "flat";
        Filbert = "filbert", "filbert";
        Angled = "angled", "angled";
        Fan = "fan", "fan";
        Pointed = "pointed", "pointed";
    }
}

impl MaskedBy {
    fn outline(self) -> Option<Outline> {
        let shape = match self {
            Self::Nothing => return None,
            Self::Round => Shape::Round,
            Self::Flat => Shape::Flat,
            Self::Filbert => Shape::Filbert,
            Self::Angled => Shape::Angled,
            Self::Fan => Shape::Fan,
            Self::Pointed => Shape::Pointed,
        };
        Some(shape.outline())
    }
}

/// A grain image: it repeats every so many mm.
struct Grain {
    mask: Mask,
    /// Half of its length and width, mm.
    half: [f32; 2],
    cos: f32,
    sin: f32,
    /// It stays on the sheet, where the other kind travels with the tip.
    on_sheet: bool,
}

/// A second outline that masks the first.
struct Second {
    outline: Outline,
    /// Over the first one's half axes.
    size: f32,
    cos: f32,
    sin: f32,
}

/// What of a tool's footprint lays.
pub struct Stencil {
    masks: Vec<Mask>,
    grain: Option<Grain>,
    second: Option<Second>,
}

impl Stencil {
    /// The stencil of a tool; nothing where its whole footprint lays.
    ///
    /// # Errors
    /// Names the parameter whose image is not among `images`.
    pub fn of(tool: &Settings<'_>, images: &Images) -> Result<Option<Self>> {
        let n = |id: &str| tool.number(id) as f32;
        let masks = match tool.chosen::<Shape>("tip.shape") {
            Shape::Speckled => (0..VARIANTS as u64)
                .map(|k| {
                    let seed = u64::from(tool.seed).wrapping_add(k << 40);
                    let count = tool.number("tip.specks") as usize;
                    Mask::of_specks(
                        seed,
                        count,
                        n("tip.speck_size"),
                        n("tip.speck_spread"),
                        n("tip.speck_crowd"),
                    )
                })
                .collect(),
            // Without its image the whole box lays.
            Shape::Image if tool.image("tip.image").is_empty() => Vec::new(),
            Shape::Image => vec![Mask::named(
                "tip.image",
                tool.image("tip.image"),
                images,
                &making(tool, "tip.image"),
                false,
            )?],
            _ => Vec::new(),
        };
        let hash = tool.image("tip.grain");
        let grain = if hash.is_empty() {
            None
        } else {
            let mask = Mask::named("tip.grain", hash, images, &making(tool, "tip.grain"), true)?;
            let length = 0.5 * n("tip.grain_mm");
            let half = [length, length / mask.proportion()];
            let turn = tool.number("tip.grain_turn_deg").to_radians();
            let (cos, sin) = (libm::cos(turn) as f32, libm::sin(turn) as f32);
            Some(Grain {
                mask,
                half,
                cos,
                sin,
                on_sheet: tool.chosen::<GrainOn>("tip.grain_on") == GrainOn::Sheet,
            })
        };
        let second = tool.chosen::<MaskedBy>("tip.mask").outline().map(|outline| {
            let turn = tool.number("tip.mask_angle_deg").to_radians();
            Second {
                outline,
                size: n("tip.mask_size"),
                cos: libm::cos(turn) as f32,
                sin: libm::sin(turn) as f32,
            }
        });
        let none = masks.is_empty() && grain.is_none() && second.is_none();
        Ok((!none).then_some(Self { masks, grain, second }))
    }

    /// Length over width of the tip's own image; 1 where it has none.
    pub fn proportion(&self) -> f32 {
        self.masks.first().map_or(1.0, Mask::proportion)
    }

    /// Share of the footprint that the shape lays, so that the force is shared among what touches.
    pub fn share(&self, outline: &Outline) -> f32 {
        // Means are over the box; the outline fills only a part of it.
        let box_share = outline.area() / 4.0;
        self.masks.first().map_or(1.0, |m| (m.mean() / box_share).clamp(1e-3, 1.0))
    }

    /// What is laid at the rim of the tip's own image, 0..1.
    pub fn hard_rim(&self) -> f32 {
        self.masks.first().map_or(0.0, Mask::hard_rim)
    }

    /// The stencil as one dab uses it. `turn`: which of the fields of specks; `depth`: how far grain takes away, 0..1.
    pub fn stamp(
        &self,
        footprint: &Footprint,
        origin_mm: [f64; 2],
        turn: usize,
        depth: f32,
        pixel: f32,
    ) -> Stamp<'_> {
        let mask = self.masks.get(turn % self.masks.len().max(1));
        let texels = |mask: &Mask, half_mm: f32| pixel * mask.width() / (2.0 * half_mm).max(1e-6);
        Stamp {
            stencil: self,
            level: mask.map_or(0.0, |m| m.level_for(texels(m, footprint.half_length + footprint.half_side))),
            mask,
            grain_level: self.grain.as_ref().map_or(0.0, |g| g.mask.level_for(texels(&g.mask, g.half[0]))),
            origin: [footprint.x + origin_mm[0] as f32, footprint.y + origin_mm[1] as f32],
            depth,
            pixel,
        }
    }
}

/// A stencil for one dab.
pub struct Stamp<'a> {
    stencil: &'a Stencil,
    mask: Option<&'a Mask>,
    level: f32,
    grain_level: f32,
    /// The footprint's middle on the ground, mm.
    origin: [f32; 2],
    depth: f32,
    pixel: f32,
}

impl Stamp<'_> {
    /// Share 0..1 that is laid at four places of the tip, which lie `(dx, dy)` mm from the footprint's middle on the sheet.
    #[inline]
    pub fn at(&self, footprint: &Footprint, place: &Place, dx: Lanes, dy: f32) -> Lanes {
        let mut out = all(1.0);
        if let Some(mask) = self.mask {
            let (along, across) = footprint.in_box(place);
            out = mask.at(along, across, self.level);
        }
        if let Some(grain) = &self.stencil.grain {
            let (u, v) = if grain.on_sheet {
                (dx + all(self.origin[0]), all(dy + self.origin[1]))
            } else {
                footprint.in_mm(place)
            };
            let along = (u * all(grain.cos) + v * all(grain.sin)) * all(1.0 / grain.half[0]);
            let across = (v * all(grain.cos) - u * all(grain.sin)) * all(1.0 / grain.half[1]);
            let g = grain.mask.at(along, across, self.grain_level);
            out *= all(1.0) - all(self.depth) * (all(1.0) - g);
        }
        if let Some(second) = &self.stencil.second {
            let (u, v) = footprint.in_mm(place);
            let along = u * all(second.cos) + v * all(second.sin);
            let across = v * all(second.cos) - u * all(second.sin);
            let half = [footprint.half_length + footprint.half_side, footprint.half_width];
            let (a, b) =
                (along * all(1.0 / (half[0] * second.size)), across * all(1.0 / (half[1] * second.size)));
            let b = b - second.outline.aside(a);
            let r = second.outline.radius2(along, a.abs(), b).sqrt();
            // First-order distance from the outline, in mm, by the smaller half axis.
            let distance = (r - all(1.0)) * all(half[0].min(half[1]) * second.size);
            out *= smaller(larger(all(0.5) - distance * all(1.0 / self.pixel), Lanes::ZERO), all(1.0));
        }
        out
    }
}

fn making(tool: &Settings<'_>, id: &str) -> Making {
    let n = |name: &str| tool.number(&format!("{id}_{name}"));
    let flip = tool.chosen::<Flip>(&format!("{id}_flip"));
    Making {
        flip_along: matches!(flip, Flip::Along | Flip::Both),
        flip_across: matches!(flip, Flip::Across | Flip::Both),
        invert: tool.switch(&format!("{id}_invert")),
        low: n("low") as f32,
        high: n("high") as f32,
        blur: n("blur"),
        // A grain repeats: it has no rim to fade at.
        feather: if id == "tip.image" { n("feather") as f32 } else { 0.0 },
    }
}
