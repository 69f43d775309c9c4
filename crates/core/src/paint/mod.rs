//! Paint: bands, pigments as absorption and scattering spectra, films over a ground, and colours for the eye.

pub mod bands;
pub mod blend;
pub mod colour;
pub mod film;
pub mod pigment;
pub mod swatch;
pub mod upsample;

pub use bands::{BANDS, Spectrum};
pub use pigment::Pigment;
