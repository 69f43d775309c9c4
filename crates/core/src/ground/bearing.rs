//! What of a ground bears a flat tip: a fair sample of its heights, and how deep sticks sink into it.

use std::cell::RefCell;
use std::collections::HashMap;
use std::rc::Rc;

use super::feel::Feel;
use super::patch::Patch;
use super::plane::Plane;
use super::{FINE_UM, GRAIN_WITHIN_PIXEL, PITCH_MM};
use crate::blur;

/// Every how many ground pixels the statistics look.
const SAMPLE_EVERY: usize = 3;

/// A fair sample of the ground as one tool meets it.
pub struct Bearing {
    /// µm from the mean level.
    heights: Vec<f32>,
    grain: Vec<f32>,
    planes: RefCell<HashMap<[u32; 3], Rc<Plane>>>,
}

impl Bearing {
    /// Takes the sample from a ground's reference patch, whose mean is `level` µm.
    pub fn new(reference: &Patch, level: f32, feel: Feel) -> Self {
        let mut heights: Vec<f32> = reference.height.iter().map(|h| h - level).collect();
        if feel.follow > 0.0 {
            let swells = blur::gaussian(&heights, reference.region.width, feel.follow_mm / PITCH_MM);
            for (h, s) in heights.iter_mut().zip(swells) {
                *h -= feel.follow * s;
            }
        }
        let sign = if feel.swap { -1.0 } else { 1.0 };
        let heights = heights.into_iter().step_by(SAMPLE_EVERY).map(|h| sign * h).collect();
        let grain = reference.grain.iter().copied().step_by(SAMPLE_EVERY).collect();
        Self { heights, grain, planes: RefCell::default() }
    }

    /// Heights of the sample, µm from the mean level.
    pub fn heights(&self) -> &[f32] {
        &self.heights
    }

    /// The plane of a stick with `grit` and `give` (µm) on this ground with its heights scaled by `tooth`.
    pub fn plane(&self, tooth: f32, grit: f32, give: f32) -> Rc<Plane> {
        let key = [tooth.to_bits(), grit.to_bits(), give.to_bits()];
        let mut planes = self.planes.borrow_mut();
        if planes.len() > 256 {
            planes.clear();
        }
        let make = || {
            let heights = self.heights.iter().zip(&self.grain).map(|(h, g)| tooth * h + grit * g);
            let fine = FINE_UM * tooth;
            Rc::new(Plane::new(heights, (fine * fine + grit * grit * GRAIN_WITHIN_PIXEL).sqrt(), give))
        };
        planes.entry(key).or_insert_with(make).clone()
    }
}
