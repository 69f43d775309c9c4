//! What the hand did: samples of a stylus, angles, the device in gram-force, and the signals a dab can be driven by.

pub mod angles;
pub mod calibration;
pub mod document;
pub mod edit;
pub mod generate;
pub mod gesture;
pub mod observed;
pub mod path;
pub mod profile;
pub mod propose;
pub mod steadying;
pub mod way;

pub use calibration::Calibration;
pub use document::Hand;
pub use gesture::{Gesture, Sample};
pub use profile::DeviceProfile;
pub use steadying::Steadying;
