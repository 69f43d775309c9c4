//! The tip: the footprint a tool presses on the sheet, what of it lays, and how closely dabs are set.

pub mod bite;
pub mod cantilever;
pub mod footprint;
pub mod hair;
pub mod mask;
pub mod outline;
pub mod parameters;
pub mod shelf;
pub mod spacing;
pub mod stencil;
pub mod view;

pub use bite::Bite;
pub use footprint::{Footprint, PROFILE_ENTRIES, PROFILE_STEPS, Profile};
pub use mask::Mask;
pub use outline::{Outline, Shape, TurnedBy};
pub use shelf::Shelf;
pub use stencil::{Stamp, Stencil};
