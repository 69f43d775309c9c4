//! How far apart dabs may be set.

use super::Profile;

/// Relative ripple of the laid amount w that nobody sees. The tone goes as `1 − e^(−w)`, which a relative change of w moves
/// by at most its 1/e-th part: this keeps the tone's ripple under 1/255.
const RIPPLE: f32 = std::f32::consts::E / 255.0;
/// Fractions of the footprint's width that `auto` chooses among, widest first.
const CANDIDATES: [f32; 14] =
    [0.3, 0.25, 0.22, 0.2, 0.18, 0.16, 0.14, 0.12, 0.1, 0.08, 0.06, 0.05, 0.04, 0.03];

/// The widest spacing, as a fraction of the footprint's width along the way, whose ripple down the middle of a straight
/// stroke stays under 1/255 of the tone (models.md §3).
///
/// A dab stands for its travel: it is laid in two halves, a quarter of the travel before and behind its middle, each with
/// a rim that is a ramp as long as half the travel (see [`super::Footprint`]).
pub fn auto_fraction(profile: &Profile) -> f32 {
    CANDIDATES.into_iter().find(|&f| ripple(profile, f) < RIPPLE).unwrap_or(CANDIDATES[CANDIDATES.len() - 1])
}

/// Relative peak-to-peak difference of the amount laid along the middle line.
fn ripple(profile: &Profile, fraction: f32) -> f32 {
    // Footprint of width 2 (−1..1), dabs every 2·fraction.
    let step = 2.0 * fraction;
    let half = |t: f32| (0.5 - (t.abs() - 1.0) / (0.5 * step)).clamp(0.0, 1.0) * profile.at((t * t).min(1.0));
    let dab = |t: f32| 0.5 * (half(t - 0.25 * step) + half(t + 0.25 * step));
    let reach = (2.0 / step) as i32 + 2;
    let (mut low, mut high) = (f32::MAX, 0.0_f32);
    for phase in 0..16 {
        let at = step * phase as f32 / 16.0;
        let sum: f32 = (-reach..=reach).map(|k| dab(at - k as f32 * step)).sum();
        low = low.min(sum);
        high = high.max(sum);
    }
    (high - low) / high
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn auto_spacing_keeps_the_ripple_below_one_level_and_is_not_needlessly_close() {
        for hardness in [0.0, 0.3, 0.5, 0.8, 1.0] {
            let profile = Profile::new(hardness);
            let f = auto_fraction(&profile);
            assert!(ripple(&profile, f) < RIPPLE, "hardness {hardness}: {f} ripples {}", ripple(&profile, f));
            assert!(f >= 0.08, "hardness {hardness}: {f} is closer than any eye needs");
        }
    }
}
