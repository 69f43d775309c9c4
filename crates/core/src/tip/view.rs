//! A tip to look at: what of it lays and how hard it presses there, without any ground.

use super::{Bite, Footprint, Profile, Stencil};
use crate::lanes::{LANES, Lanes, all, four};

/// Shades `side × side` pixels of `pixel_mm` about the footprint's middle, its end biting by `bite`: 0 where nothing presses, 255 where the pressure is
/// the greatest of this tip. One byte a pixel, row by row.
pub fn pressure(
    footprint: &Footprint,
    profile: &Profile,
    stencil: Option<&Stencil>,
    side: usize,
    pixel_mm: f32,
    depth: f32,
    bite: f32,
) -> Vec<u8> {
    let bite = Bite::of(bite, footprint);
    let (shown, _) = footprint.for_pixels(pixel_mm);
    let stamp = stencil.map(|s| s.stamp(&shown, [0.0, 0.0], 0, depth, pixel_mm));
    let most = profile.at(0.0).max(profile.at(0.999)) * bite.as_ref().map_or(1.0, Bite::most);
    let wide = side.next_multiple_of(LANES);
    let mut out = Vec::with_capacity(side * side);
    let steps: Lanes = four(&[0.0, 1.0, 2.0, 3.0]);
    for y in 0..side {
        let dy = (y as f32 + 0.5 - 0.5 * side as f32) * pixel_mm;
        for x in (0..wide).step_by(LANES) {
            let dx = (all(x as f32 + 0.5 - 0.5 * side as f32) + steps) * all(pixel_mm);
            let place = shown.place(dx, dy);
            let mut cover = shown.cover(&place, pixel_mm);
            if let Some(stamp) = &stamp {
                cover *= stamp.at(&shown, &place, dx, dy);
            }
            let along = bite.as_ref().map_or(all(1.0), |b| b.at(shown.in_box(&place).0)).to_array();
            let (cover, radius2) = (cover.to_array(), place.radius2.to_array());
            for i in 0..LANES.min(side - x.min(side)) {
                let press = along[i] * profile.at(radius2[i].clamp(0.0, 0.999)) / most;
                out.push((255.0 * cover[i] * (0.25 + 0.75 * press)).round().clamp(0.0, 255.0) as u8);
            }
        }
    }
    out
}
