//! The computation of Saltmarsh: what the hand did (a gesture) and a tool go in, a sheet and its trace come out.
//!
//! [`chain`] holds the words in which causes are declared. Rooms follow the chain: [`hand`] → [`touch`], [`paint`] → [`ground`] →
//! [`sheet`], [`tip`] → [`medium`] → [`tool`] → [`stroke`] and [`relief`]; none knows one to its right. There is no I/O, clock, thread or
//! global random state here, and only IEEE operations and `libm`, so that a sheet is bit-identical natively and in the
//! browser.

pub mod blur;
pub mod chain;
pub mod describe;
pub mod error;
pub mod ground;
pub mod hand;
pub mod image;
pub mod lanes;
pub mod medium;
pub mod num;
pub mod packs;
pub mod paint;
pub mod recent;
pub mod relief;
pub mod said;
pub mod sheet;
pub mod stroke;
pub mod technique;
pub mod tip;
pub mod tool;
pub mod touch;

pub use error::{FieldError, Result};
pub use said::{Part, Said};
