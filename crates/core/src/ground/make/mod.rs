//! How grounds are made, after the dry study: each surface in a file of its own gives its tooth; here it is brought to its
//! roughness, laid over another where a recipe says so, and given the fine roughness and grain that every ground has. All
//! amplitudes and lengths are tuned by eye, not measured on real grounds; heights in µm, lengths in mm.
//!
//! Where the study used noise on one stored tile, this uses noise that can be made piece by piece ([`super::noise`]).

mod felt;
mod gesso;
mod hot;
mod laid;
mod picture;
mod sand;
mod thread;
mod tooth;
mod weave;

use super::noise::{blurred_white, coarse_white};
use super::recipe::{Recipe, Surface};
use super::{GRAIN_WITHIN_PIXEL, PERIOD_PX, REFERENCE, Region, texture};
use crate::error::Result;
use crate::image::Images;
use crate::num;
pub(super) use tooth::Norm;
use tooth::Tooth;

/// Root mean square of the fine roughness on every ground as ground pixels show it, µm (of 2.6 µm in all; what is finer than
/// the pitch is [`super::FINE_UM`]).
const FINE_SHOWN_UM: f32 = 2.2;
/// Length of that roughness, ground pixels.
const FINE_PX: f64 = 1.4;
/// Most that a surface's tooth is multiplied by to reach its roughness.
const MOST_GAIN: f32 = 64.0;

/// A surface brought to its roughness.
struct Layer {
    tooth: Box<dyn Tooth>,
    gain: f32,
}

/// What is found once of a surface, on the reference patch.
#[derive(Debug, Clone, Copy)]
pub(super) struct Fit {
    /// What its tooth is multiplied by to reach its roughness.
    pub gain: f32,
    pub norms: [Norm; 3],
}

/// What a ground is made of over a region, before it is brought to its roughness.
pub(super) struct Raw {
    under: Vec<f32>,
    /// Of what lies over it.
    over: Option<Vec<f32>>,
    fine: Vec<f32>,
}

impl Raw {
    /// The first of its rows and columns, `side` of each; it is `width` wide.
    pub(super) fn corner(&self, width: usize, side: usize) -> Self {
        let cut = |values: &Vec<f32>| {
            values.chunks(width).take(side).flat_map(|row| row[..side].to_vec()).collect()
        };
        Self { under: cut(&self.under), over: self.over.as_ref().map(cut), fine: cut(&self.fine) }
    }
}

/// One map out of square tiles of `side`, row by row, `across` of them in each.
fn joined<'a>(tiles: impl Iterator<Item = &'a Vec<f32>>, side: usize, across: usize) -> Vec<f32> {
    let tiles: Vec<_> = tiles.collect();
    let row = |y: usize| {
        tiles[y / side * across..][..across].iter().flat_map(move |tile| &tile[y % side * side..][..side])
    };
    (0..tiles.len() / across * side).flat_map(row).copied().collect()
}

/// Makes any region of one ground.
pub(super) struct Maker {
    seed: u64,
    under: Layer,
    /// What lies over it, and how far that hides the tooth under it.
    over: Option<(Layer, f32)>,
    periodic: bool,
}

impl Maker {
    /// `fits`: what [`Maker::fits`] gave for the same recipe.
    ///
    /// # Errors
    /// Names the image that is not among `images`.
    pub(super) fn new(recipe: &Recipe, images: &Images, fits: Option<[Fit; 2]>) -> Result<Self> {
        let seed = seed_of(recipe);
        let under = Layer::new(recipe, seed, images, fits.map(|f| f[0]))?;
        let over = match &recipe.over {
            Some(over) => {
                let own = seed_over(&over.recipe);
                let layer = Layer::new(&over.recipe, own, images, fits.map(|f| f[1]))
                    .map_err(|e| e.within("over.recipe"))?;
                Some((layer, over.hides as f32))
            }
            None => None,
        };
        let periodic = recipe.images().next().is_none();
        Ok(Self { seed, under, over, periodic })
    }

    /// Finds the gains on the reference patch; gives what it is made of too, in square tiles of `side` row by row: made piece by
    /// piece, a ground is the same to the last bit whichever of them was first.
    ///
    /// # Errors
    /// As [`Maker::new`].
    pub(super) fn found(recipe: &Recipe, images: &Images, side: usize) -> Result<(Self, Vec<Raw>)> {
        let mut maker = Self::new(recipe, images, None)?;
        let across = REFERENCE / side;
        let place =
            |i: usize| Region::new((i % across * side) as i64, (i / across * side) as i64, side, side);
        let raw: Vec<_> = (0..across * across).map(|i| maker.raw(place(i))).collect();
        // A height map has its own depth.
        let gain = |recipe: &Recipe, tooth: Vec<f32>, fine: Vec<f32>| match recipe.surface {
            Surface::Image => 1.0,
            _ => gain_for(recipe.number("sa_um"), &tooth, &fine),
        };
        let whole = |of: fn(&Raw) -> Option<&Vec<f32>>| joined(raw.iter().filter_map(of), side, across);
        maker.under.gain = gain(recipe, whole(|r| Some(&r.under)), whole(|r| Some(&r.fine)));
        if let (Some((layer, _)), Some(over)) = (&mut maker.over, &recipe.over) {
            let own = fine(seed_over(&over.recipe), Region::new(0, 0, REFERENCE, REFERENCE));
            layer.gain = gain(&over.recipe, whole(|r| r.over.as_ref()), own);
        }
        Ok((maker, raw))
    }

    /// Heights over a region, µm, brought to their roughness by that region alone: about what [`Maker::brought`] gives, far sooner.
    ///
    /// # Errors
    /// As [`Maker::new`].
    pub(super) fn sketch(recipe: &Recipe, images: &Images, region: Region) -> Result<Vec<f32>> {
        let maker = Self::new(recipe, images, None)?;
        let fine = fine(maker.seed, region);
        let brought = |layer: &Layer, recipe: &Recipe| {
            let mut tooth = layer.tooth.over(region);
            if recipe.surface != Surface::Image {
                let gain = gain_for(recipe.number("sa_um"), &tooth, &fine);
                tooth.iter_mut().for_each(|h| *h *= gain);
            }
            tooth
        };
        let mut height = brought(&maker.under, recipe);
        if let (Some((layer, hides)), Some(over)) = (&maker.over, &recipe.over) {
            let above = brought(layer, &over.recipe);
            height.iter_mut().zip(above).for_each(|(h, o)| *h = *h * (1.0 - hides) + o);
        }
        height.iter_mut().zip(fine).for_each(|(h, f)| *h += f);
        Ok(height)
    }

    /// What was found of the surface, and of what lies over it (nothing to do where nothing does).
    pub(super) fn fits(&self) -> [Fit; 2] {
        let of = |layer: &Layer| Fit { gain: layer.gain, norms: layer.tooth.norms() };
        let none = Fit { gain: 1.0, norms: [Norm::default(); 3] };
        [of(&self.under), self.over.as_ref().map_or(none, |(layer, _)| of(layer))]
    }

    /// After how many ground pixels the ground repeats, if that is known.
    pub(super) fn period(&self) -> Option<i64> {
        self.periodic.then_some(PERIOD_PX)
    }

    pub(super) fn raw(&self, region: Region) -> Raw {
        Raw {
            under: self.under.tooth.over(region),
            over: self.over.as_ref().map(|(layer, _)| layer.tooth.over(region)),
            fine: fine(self.seed, region),
        }
    }

    /// Heights (µm) and grain over the region that `raw` is of.
    pub(super) fn finished(&self, raw: Raw, region: Region) -> (Vec<f32>, Vec<f32>) {
        (self.brought(raw), self.grain(region))
    }

    /// Heights, µm, of what a ground is made of.
    pub(super) fn brought(&self, raw: Raw) -> Vec<f32> {
        let mut height = raw.under;
        let gain = self.under.gain;
        match (&self.over, raw.over) {
            (Some((over, hides)), Some(above)) => {
                let kept = gain * (1.0 - hides);
                for (h, o) in height.iter_mut().zip(above) {
                    *h = kept * *h + over.gain * o;
                }
            }
            _ => height.iter_mut().for_each(|h| *h *= gain),
        }
        for (h, r) in height.iter_mut().zip(raw.fine) {
            *h += r;
        }
        height
    }

    fn grain(&self, region: Region) -> Vec<f32> {
        // Grain .75·G.014 + .6·G.05 + .45·G.13 of white noise, unit variance in all; the first part is finer than a pixel
        // and shows about half of its variance.
        let (fine, middle, coarse) = (
            blurred_white(self.seed, 31, 0.0, region),
            blurred_white(self.seed, 32, 1.0, region),
            coarse_white(self.seed, 33, 2.6, region),
        );
        let all = (0.75_f32 * 0.75 + 0.6 * 0.6 + 0.45 * 0.45).sqrt();
        let shown = (0.75 * 0.75 - GRAIN_WITHIN_PIXEL * all * all).sqrt();
        (0..region.len()).map(|i| (shown * fine[i] + 0.6 * middle[i] + 0.45 * coarse[i]) / all).collect()
    }
}

impl Layer {
    fn new(recipe: &Recipe, seed: u64, images: &Images, fit: Option<Fit>) -> Result<Self> {
        let mut tooth: Box<dyn Tooth> = match recipe.surface {
            Surface::HotPressed => Box::new(hot::Hot::new(recipe, seed)),
            Surface::ColdPressed | Surface::Rough => Box::new(felt::Felted::new(recipe, seed)),
            Surface::Laid => Box::new(laid::Laid::new(recipe, seed)),
            Surface::CanvasFine | Surface::CanvasCoarse | Surface::Linen => {
                Box::new(weave::Weave::new(recipe, seed))
            }
            Surface::Sanded => Box::new(sand::Sand::new(recipe, seed)),
            Surface::Gesso => Box::new(gesso::Gesso::new(recipe, seed)),
            Surface::Image => Box::new(picture::Picture::new(recipe, images)?),
        };
        if let Some(fit) = fit {
            tooth.take_norms(fit.norms);
        }
        Ok(Self { tooth, gain: fit.map_or(1.0, |f| f.gain) })
    }
}

/// What the tooth is multiplied by so that it measures `sa_um` with the fine roughness on it: bisection of a rising function.
fn gain_for(sa_um: f64, tooth: &[f32], fine: &[f32]) -> f32 {
    let sa = |gain: f32| {
        let heights: Vec<f32> = tooth.iter().zip(fine).step_by(3).map(|(t, f)| gain * t + f).collect();
        texture::measure(&heights).sa_um
    };
    let (mut low, mut high) = (0.0_f32, MOST_GAIN);
    for _ in 0..22 {
        let middle = 0.5 * (low + high);
        if sa(middle) < sa_um { low = middle } else { high = middle }
    }
    0.5 * (low + high)
}

/// Every surface has its own chance, and every seed another.
fn seed_of(recipe: &Recipe) -> u64 {
    let own = match recipe.surface {
        Surface::ColdPressed => 0x51a7,
        Surface::Rough => 0x3e0d,
        Surface::HotPressed => 0x7a11,
        other => 0x6d00 + other as u64,
    };
    if recipe.seed == 0 { own } else { num::hash(own, 0, i64::from(recipe.seed), 0) }
}

/// What lies over a ground has its own chance, even where it is made as what lies under.
fn seed_over(over: &Recipe) -> u64 {
    num::hash(seed_of(over), 1, 0, 0)
}

fn fine(seed: u64, region: Region) -> Vec<f32> {
    let mut out = blurred_white(seed, 30, FINE_PX, region);
    out.iter_mut().for_each(|v| *v *= FINE_SHOWN_UM);
    out
}
