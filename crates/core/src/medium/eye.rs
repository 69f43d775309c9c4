//! What the eye sees of a pixel: the ground, and over it what each medium has there, from the ground up.

use super::{MEDIA, Medium};
use crate::ground::Feel;
use crate::paint::Spectrum;
use crate::paint::colour::{self, Display};
use crate::sheet::{Sheet, TILE_PIXELS, Tile};

/// What a pixel looks like.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Look {
    /// Reflectance of all that is material.
    pub reflectance: Spectrum,
    /// Something lies there: it is no longer the bare ground.
    pub laid: bool,
    /// How far its surface gleams as wet paint does, 0..1.
    pub gloss: f32,
    /// Share of the pixel that shows a colour of its own instead (a film laid as an image), and that colour, sRGB 0..1.
    pub film: f32,
    pub film_colour: [f32; 3],
}

/// How pixels of one sheet are shown.
pub struct Eye<'a> {
    display: &'static Display,
    ground: &'a Spectrum,
    bare: [u8; 3],
    grain_within: f32,
}

/// sRGB 0..1.
pub fn encoded(rgb: [u8; 3]) -> [f64; 3] {
    rgb.map(|v| f64::from(v) / 255.0)
}

/// A colour with a share of another over it.
pub fn over(under: [f64; 3], share: f64, colour: &[f32]) -> [f64; 3] {
    let mut out = under;
    for (c, film) in out.iter_mut().zip(colour) {
        *c += share * (f64::from(*film) - *c);
    }
    out
}

impl<'a> Eye<'a> {
    pub fn on(sheet: &'a Sheet) -> Self {
        Self::new(sheet.ground().bare(), sheet.grain_within(Feel::default()))
    }

    /// `grain_within`: share of the grain's variance that lies within a pixel ([`Sheet::grain_within`]).
    pub fn new(ground: &'a Spectrum, grain_within: f32) -> Self {
        let display = Display::shared();
        Self { display, ground, bare: display.srgb8(ground), grain_within }
    }

    /// The bare ground, sRGB.
    pub fn bare(&self) -> [u8; 3] {
        self.bare
    }

    pub fn grain_within(&self) -> f32 {
        self.grain_within
    }

    /// The look of the bare ground.
    pub fn ground(&self) -> Look {
        Look { reflectance: *self.ground, laid: false, gloss: 0.0, film: 0.0, film_colour: [0.0; 3] }
    }

    /// Looks of the pixels `from..from + looks.len()` of a tile: all media, one over the other.
    pub fn look_in_place(&self, tile: &Tile, from: usize, looks: &mut [Look]) {
        self.fold_in_place(MEDIA, tile, from, looks);
    }

    /// Looks of a whole tile without a medium and what lies over it; nothing where only the ground can lie there.
    pub fn under(&self, medium: &dyn Medium, tile: &Tile) -> Option<Vec<Look>> {
        let below = MEDIA.iter().position(|m| m.name() == medium.name()).filter(|below| *below > 0)?;
        let mut looks = vec![self.ground(); TILE_PIXELS];
        self.fold_in_place(&MEDIA[..below], tile, 0, &mut looks);
        Some(looks)
    }

    fn fold_in_place(&self, media: &[&dyn Medium], tile: &Tile, from: usize, looks: &mut [Look]) {
        looks.fill(self.ground());
        for medium in media {
            medium.show_in_place(tile, from, self.grain_within, looks);
        }
    }

    /// sRGB of the material alone, without any film.
    #[inline]
    pub fn material(&self, look: &Look) -> [u8; 3] {
        if look.laid { self.display.srgb8(&look.reflectance) } else { self.bare }
    }

    /// sRGB of a look.
    #[inline]
    pub fn colour(&self, look: &Look) -> [u8; 3] {
        let under = self.material(look);
        if look.film <= 0.0 {
            return under;
        }
        over(encoded(under), f64::from(look.film), &look.film_colour).map(|v| libm::round(v * 255.0) as u8)
    }

    /// Linear light of a look, sRGB 0..1: not through 8 bits, where it is to be lit.
    #[inline]
    pub fn linear(&self, look: &Look) -> [f32; 3] {
        if look.film > 0.0 || !look.laid {
            let decode = colour::decoded();
            return self.colour(look).map(|v| decode[usize::from(v)]);
        }
        self.display.linear(&look.reflectance)
    }

    /// Light (Y) of a look, of a perfect white.
    pub fn light(&self, look: &Look) -> f64 {
        if look.film > 0.0 {
            return colour::luminance(encoded(self.colour(look)));
        }
        luminance(&look.reflectance)
    }
}

/// Light (Y) of a reflectance.
pub fn luminance(reflectance: &Spectrum) -> f64 {
    colour::xyz(&reflectance.map(f64::from))[1]
}
