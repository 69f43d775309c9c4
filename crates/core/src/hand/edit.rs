//! What a painter does to a recorded gesture: turn it round, make it larger, cut its ends off.

use super::{Gesture, Sample};
use crate::error::{FieldError, Result, within};

impl Gesture {
    /// Seconds from the first report to the last.
    pub fn duration_s(&self) -> f64 {
        let mut samples = self.passes().iter().flatten();
        let first = samples.next().map_or(0.0, |s| s.t);
        samples.last().map_or(0.0, |s| s.t - first)
    }

    /// The same way from its end to its start, force and tilt with it, at the same speed.
    ///
    /// # Errors
    /// None of its own; what [`Gesture::new`] refuses.
    pub fn reversed(&self) -> Result<Self> {
        let end = self.passes().iter().flatten().map(|s| s.t).fold(0.0, f64::max);
        let turn = |s: &Sample| Sample { t: end - s.t, ..*s };
        Self::new(self.passes().iter().rev().map(|pass| pass.iter().rev().map(turn).collect()).collect())
    }

    /// The same hand on a way `by` times as large about its first report; time stays, so it is that much faster.
    ///
    /// # Errors
    /// A factor outside 0.05..20, or places farther out than a gesture may have.
    pub fn scaled(&self, by: f64) -> Result<Self> {
        within("scale", by, 0.05, 20.0, "×")?;
        let Some(o) = self.passes().first().and_then(|p| p.first()).copied() else { return Ok(self.clone()) };
        let grow = |s: &Sample| Sample { x: o.x + (s.x - o.x) * by, y: o.y + (s.y - o.y) * by, ..*s };
        Self::new(self.passes().iter().map(|pass| pass.iter().map(grow).collect()).collect())
    }

    /// What lies between two times, s from the first report.
    ///
    /// # Errors
    /// Where nothing would be left.
    pub fn trimmed(&self, from_s: f64, to_s: f64) -> Result<Self> {
        let first = self.passes().first().and_then(|p| p.first()).map_or(0.0, |s| s.t);
        let kept = |s: &&Sample| (from_s - 1e-9..=to_s + 1e-9).contains(&(s.t - first));
        let passes: Vec<Vec<Sample>> = self
            .passes()
            .iter()
            .map(|pass| pass.iter().filter(kept).copied().collect::<Vec<_>>())
            .filter(|pass| !pass.is_empty())
            .collect();
        if passes.is_empty() {
            return Err(FieldError::new("trim", format!("nothing lies between {from_s} and {to_s} s")));
        }
        Self::new(passes)
    }
}
