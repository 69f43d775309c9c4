//! How far apart dabs may be set.

use super::Profile;

/// Ripple that nobody sees: one level of an 8-bit channel.
const RIPPLE: f32 = 1.0 / 255.0;
/// Fractions of the footprint's width that `auto` chooses among, widest first.
const CANDIDATES: [f32; 14] =
    [0.3, 0.25, 0.22, 0.2, 0.18, 0.16, 0.14, 0.12, 0.1, 0.08, 0.06, 0.05, 0.04, 0.03];

/// The widest spacing, as a fraction of the footprint's width along the way, whose ripple down the middle of a straight
/// stroke stays under 1/255 of the laid amount (models.md §3).
///
/// A dab stands for its travel: its rim is a ramp as long as the spacing (see [`super::Footprint`]), its inside follows the
/// pressure profile.
pub fn auto_fraction(profile: &Profile) -> f32 {
    CANDIDATES.into_iter().find(|&f| ripple(profile, f) < RIPPLE).unwrap_or(CANDIDATES[CANDIDATES.len() - 1])
}

/// Relative peak-to-peak difference of the amount laid along the middle line.
fn ripple(profile: &Profile, fraction: f32) -> f32 {
    // Footprint of width 2 (−1..1), dabs every 2·fraction.
    let step = 2.0 * fraction;
    let dab = |t: f32| {
        let cover = (0.5 - (t.abs() - 1.0) / step).clamp(0.0, 1.0);
        cover * profile.at((t * t).min(1.0))
    };
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
