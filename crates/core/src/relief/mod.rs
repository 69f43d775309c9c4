//! From material to what the eye sees.

pub mod eye;
pub mod flat;
pub mod fresnel;
pub mod levelling;
pub mod light;
pub mod lit;
pub mod raking;
pub mod view;
