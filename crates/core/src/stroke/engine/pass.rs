//! One pass of a stroke: from where the pen touches down to where it lifts.

use crate::hand::path::{Path, Place};
use crate::hand::steadying::SteadyWay;
use crate::hand::{Hand, Sample, angles};

/// Speed is smoothed over this time, s (tuned by eye: a pen's reports jitter).
const SPEED_SMOOTHING_S: f64 = 0.012;

/// Where the pen is within a pass.
pub(super) struct Pass {
    pub(super) number: u32,
    pub(super) path: Path,
    /// Where the tool steadies the hand.
    pub(super) steady: Option<SteadyWay>,
    /// Travel since touching down, and since the last dab.
    pub(super) travelled: f64,
    pub(super) since_dab: f64,
    pub(super) next_spacing: f64,
    /// Length of the last footprint along the way, mm.
    pub(super) width_along: f64,
    pub(super) dabs: u32,
    pub(super) last: Option<Place>,
    pub(super) started_t: f64,
    pub(super) speed: Option<f64>,
    pub(super) heading: f64,
    pub(super) hardest: f64,
}

impl Pass {
    /// A pass that begins with a sample. `steady`: where the tool steadies the hand.
    pub(super) fn begin(number: u32, first: &Sample, steady: Option<SteadyWay>) -> Self {
        Self {
            number,
            path: Path::default(),
            steady,
            travelled: 0.0,
            since_dab: 0.0,
            next_spacing: 0.0,
            width_along: 0.0,
            dabs: 0,
            last: None,
            started_t: first.t,
            speed: None,
            heading: 0.0,
            hardest: 0.0,
        }
    }

    /// Takes the direction of travel where there is one.
    pub(super) fn turn(&mut self, place: &Place, length: f64) {
        if libm::hypot(place.vx, place.vy) > 1e-6 && length > 0.0 {
            self.heading = angles::wrap_degrees(libm::atan2(place.vy, place.vx).to_degrees());
        }
    }

    /// Takes speed and the hardest press.
    pub(super) fn heed(&mut self, place: &Place, hand: &Hand, dt: f64) {
        let speed = libm::hypot(place.vx, place.vy);
        self.speed = Some(match self.speed {
            None => speed,
            Some(before) => speed + (before - speed) * libm::exp(-dt / SPEED_SMOOTHING_S),
        });
        self.hardest = self.hardest.max(hand.calibration.apply(place.pressure));
    }
}
