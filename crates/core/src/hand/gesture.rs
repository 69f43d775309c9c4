//! A gesture: the recorded stylus signal, the input of a stroke.

use serde::{Deserialize, Serialize};

use crate::error::{FieldError, Result, within};

/// The most samples one gesture may hold.
pub const MOST_SAMPLES: usize = 200_000;
/// Positions must lie within this many mm of the origin.
pub const FARTHEST_MM: f64 = 10_000.0;

/// One report of a stylus.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Sample {
    /// Time in s, not before the sample before it.
    pub t: f64,
    /// Position in mm, x to the right, y towards the painter.
    pub x: f64,
    pub y: f64,
    /// Pressure as the driver reports it, 0..1.
    pub pressure: f64,
    /// Tilts in degrees, −90..90.
    pub tilt_x: f64,
    pub tilt_y: f64,
    /// Barrel turn in degrees, 0..360.
    pub twist: f64,
}

impl Sample {
    /// How many numbers a sample is in the packed form `t, x, y, pressure, tilt_x, tilt_y, twist`.
    pub const PACKED: usize = 7;

    pub fn pack(&self) -> [f64; Self::PACKED] {
        [self.t, self.x, self.y, self.pressure, self.tilt_x, self.tilt_y, self.twist]
    }

    pub fn unpack(v: &[f64]) -> Self {
        Self { t: v[0], x: v[1], y: v[2], pressure: v[3], tilt_x: v[4], tilt_y: v[5], twist: v[6] }
    }

    /// Checks that every field is a number within its limits.
    ///
    /// # Errors
    /// Names the field and the limit.
    pub fn check(&self) -> Result<()> {
        within("t", self.t, 0.0, 86_400.0, "s")?;
        within("x", self.x, -FARTHEST_MM, FARTHEST_MM, "mm")?;
        within("y", self.y, -FARTHEST_MM, FARTHEST_MM, "mm")?;
        within("pressure", self.pressure, 0.0, 1.0, "")?;
        within("tilt_x", self.tilt_x, -90.0, 90.0, "°")?;
        within("tilt_y", self.tilt_y, -90.0, 90.0, "°")?;
        within("twist", self.twist, 0.0, 360.0, "°")?;
        Ok(())
    }
}

/// One or more passes of the pen: each from touching down to lifting.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "Vec<Vec<Sample>>", into = "Vec<Vec<Sample>>")]
pub struct Gesture {
    passes: Vec<Vec<Sample>>,
}

impl Gesture {
    /// Checks the samples: finite, in range, time never going back, at least one and at most [`MOST_SAMPLES`].
    ///
    /// # Errors
    /// Names the pass, the sample and the field.
    pub fn new(passes: Vec<Vec<Sample>>) -> Result<Self> {
        let count: usize = passes.iter().map(Vec::len).sum();
        if count == 0 || passes.iter().any(Vec::is_empty) {
            return Err(FieldError::new("samples", "a gesture needs at least one sample in every pass"));
        }
        if count > MOST_SAMPLES {
            return Err(FieldError::new("samples", format!("at most {MOST_SAMPLES} samples, got {count}")));
        }
        let mut before = 0.0;
        for (p, pass) in passes.iter().enumerate() {
            for (i, sample) in pass.iter().enumerate() {
                sample.check().map_err(|e| e.within(&format!("passes[{p}][{i}]")))?;
                if sample.t < before {
                    let field = format!("passes[{p}][{i}].t");
                    return Err(FieldError::new(
                        field,
                        format!("time goes back from {before} s to {} s", sample.t),
                    ));
                }
                before = sample.t;
            }
        }
        Ok(Self { passes })
    }

    pub fn passes(&self) -> &[Vec<Sample>] {
        &self.passes
    }

    pub fn sample_count(&self) -> usize {
        self.passes.iter().map(Vec::len).sum()
    }

    /// `[left, top, right, bottom]` in mm.
    pub fn bounds_mm(&self) -> [f64; 4] {
        let mut b = [f64::MAX, f64::MAX, f64::MIN, f64::MIN];
        for s in self.passes.iter().flatten() {
            b = [b[0].min(s.x), b[1].min(s.y), b[2].max(s.x), b[3].max(s.y)];
        }
        b
    }
}

impl TryFrom<Vec<Vec<Sample>>> for Gesture {
    type Error = FieldError;
    fn try_from(passes: Vec<Vec<Sample>>) -> Result<Self> {
        Self::new(passes)
    }
}

impl From<Gesture> for Vec<Vec<Sample>> {
    fn from(gesture: Gesture) -> Self {
        gesture.passes
    }
}
