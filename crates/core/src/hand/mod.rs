//! What the hand did: samples of a stylus, angles, the device in gram-force, and the signals a dab can be driven by.

pub mod angles;
pub mod calibration;
pub mod gesture;
pub mod profile;
pub mod signal;

pub use calibration::Calibration;
pub use gesture::{Gesture, Sample};
pub use profile::DeviceProfile;
pub use signal::{Signal, Signals};
