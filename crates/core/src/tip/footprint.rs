//! The footprint: an outline, or the outline swept along the side of a leaning stick, with analytic edges.
//!
//! Work is in the tip's own axes: `u` along its length, `v` across, both in mm. A stick that leans lays its side down: the
//! outline (half axes `half_length`, `half_width`) swept along `u` by `half_side` each way. Distances to the outline are
//! exact for the straight sides and first-order for the ends.

use super::Outline;
use crate::lanes::{LANES, Lanes, all, larger, smaller, where_greater};

/// Pressure across a footprint: `p(r) = norm·(1 − r²)^e`, mean 1 over the area.
///
/// `e = 1 − hardness`: a hard edge (1) presses evenly to the rim, ½ is the Hertz profile of a round point, 0 fades out as a
/// parabola. Hertz: Johnson, Contact Mechanics (1985) §3.2, from memory; the family is our own choice.
#[derive(Debug, Clone)]
pub struct Profile {
    hardness: f32,
    table: Vec<f32>,
    /// Mean over an outline (the same for all: see [`Outline`]), and over the width of a straight side, before scaling.
    mean_ellipse: f32,
    mean_strip: f32,
}

/// Steps of a profile from the middle (squared relative radius 0) to the rim (1).
pub const PROFILE_STEPS: usize = 96;
/// Entries of its table: one past the rim, and as many as fill whole lanes.
pub const PROFILE_ENTRIES: usize = (PROFILE_STEPS + 2).next_multiple_of(LANES);

impl Profile {
    pub fn new(hardness: f32) -> Self {
        let e = 1.0 - f64::from(hardness.clamp(0.0, 1.0));
        let shape = |r2: f64| if e == 0.0 { 1.0 } else { libm::pow(1.0 - r2, e) };
        let table =
            (0..PROFILE_ENTRIES).map(|i| shape((i as f64 / PROFILE_STEPS as f64).min(1.0)) as f32).collect();
        let n = 512;
        let mean = (0..n).map(|i| shape(libm::pow((f64::from(i) + 0.5) / f64::from(n), 2.0))).sum::<f64>();
        Self {
            hardness,
            table,
            mean_ellipse: (1.0 / (1.0 + e)) as f32,
            mean_strip: (mean / f64::from(n)) as f32,
        }
    }

    pub fn hardness(&self) -> f32 {
        self.hardness
    }

    /// Unscaled pressure at squared relative radii in even steps; past the rim as on it.
    pub fn table(&self) -> &[f32] {
        &self.table
    }

    /// Unscaled pressure at squared relative radius `r2`, 0..1.
    pub fn at(&self, r2: f32) -> f32 {
        let u = r2 * PROFILE_STEPS as f32;
        let i = u as usize;
        self.table[i] + (self.table[i + 1] - self.table[i]) * (u - i as f32)
    }
}

/// Points in a tip's own axes: `u` along its length in mm; how far past the straight side and from the middle line as shares
/// of the half axes; and the squared relative radius, 0 on the axis, 1 at the rim.
pub struct Place {
    u: Lanes,
    /// mm across, before the outline is moved aside.
    v: Lanes,
    end: Lanes,
    side: Lanes,
    pub radius2: Lanes,
}

/// One placement of the tip.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Footprint {
    /// Centre on the sheet, mm.
    pub x: f32,
    pub y: f32,
    pub outline: Outline,
    /// Half axes of the upright tip, mm.
    pub half_length: f32,
    pub half_width: f32,
    /// Half of what the stick's side adds along its length, mm.
    pub half_side: f32,
    /// Direction of the length axis on the sheet.
    pub cos: f32,
    pub sin: f32,
    /// Direction of travel, and how much travel (mm) this dab stands for. A dab is laid in two halves; the edges of each are
    /// softened by half the travel, so that the straight edges of successive dabs add up without a ripple.
    pub travel_cos: f32,
    pub travel_sin: f32,
    pub travel: f32,
}

impl Footprint {
    /// Area in mm².
    pub fn area(&self) -> f32 {
        let ends = self.outline.area() * self.half_length * self.half_width;
        ends + 4.0 * self.half_side * self.half_width
    }

    /// Factor that makes `profile` average 1 over this footprint.
    pub fn profile_norm(&self, profile: &Profile) -> f32 {
        let ends = self.outline.area() * self.half_length * self.half_width;
        let strip = 4.0 * self.half_side * self.half_width;
        (ends + strip) / (ends * profile.mean_ellipse + strip * profile.mean_strip)
    }

    /// Width of the footprint along a direction, mm.
    pub fn width_along(&self, cos: f32, sin: f32) -> f32 {
        let along = (cos * self.cos + sin * self.sin).abs();
        let across = (sin * self.cos - cos * self.sin).abs();
        let (a, b) = (self.half_length * along, self.half_width * across);
        let ellipse = if self.outline.is_round() {
            2.0 * (a * a + b * b).sqrt()
        } else {
            self.outline.chord(along / self.half_length, across / self.half_width)
        };
        // The chord through the middle is what overlaps along the way: never more than the ellipse's own for a side that
        // is pulled broadside.
        if across > 1e-6 {
            let chord = 2.0 * self.half_width / across;
            (ellipse + 2.0 * self.half_side * along).min(chord.max(ellipse))
        } else {
            ellipse + 2.0 * self.half_side * along
        }
    }

    /// Half extents of the box that holds the footprint on the sheet, mm.
    pub fn reach(&self) -> (f32, f32) {
        if !self.outline.is_round() {
            let (length, width) =
                (self.half_length + self.half_side, self.half_width * self.outline.half_across());
            let (cos, sin) = (self.cos.abs(), self.sin.abs());
            let travel = 0.5 * self.travel;
            return (
                length * cos + width * sin + travel * self.travel_cos.abs(),
                length * sin + width * cos + travel * self.travel_sin.abs(),
            );
        }
        let x = ((self.half_length * self.cos) * (self.half_length * self.cos)
            + (self.half_width * self.sin) * (self.half_width * self.sin))
            .sqrt()
            + self.half_side * self.cos.abs();
        let y = ((self.half_length * self.sin) * (self.half_length * self.sin)
            + (self.half_width * self.cos) * (self.half_width * self.cos))
            .sqrt()
            + self.half_side * self.sin.abs();
        (x + 0.5 * self.travel * self.travel_cos.abs(), y + 0.5 * self.travel * self.travel_sin.abs())
    }

    /// Squared relative radii below which a pixel is wholly inside, and beyond which it is wholly outside.
    pub fn rim(&self, pixel: f32) -> (f32, f32) {
        let steep = self.outline.steep();
        let share = 0.5 * steep * (pixel + 0.5 * self.travel) / self.half_length.min(self.half_width);
        let inner = (1.0 - share).max(0.0);
        (inner * inner, (1.0 + share) * (1.0 + share))
    }

    /// Where points at `(dx, dy)` mm from the centre lie in the tip's own axes.
    #[inline(always)]
    pub fn place(&self, dx: Lanes, dy: f32) -> Place {
        let u = dx * all(self.cos) + all(dy * self.sin);
        let v = all(dy * self.cos) - dx * all(self.sin);
        let end = larger(u.abs() - all(self.half_side), Lanes::ZERO) * all(1.0 / self.half_length);
        let side = v * all(1.0 / self.half_width);
        if self.outline.is_round() {
            return Place { u, v, end, side, radius2: end * end + side * side };
        }
        let side = side - self.outline.aside(self.along(u));
        Place { u, v, end, side, radius2: self.outline.radius2(u, end, side) }
    }

    /// Place along the whole length, −1..1.
    #[inline(always)]
    fn along(&self, u: Lanes) -> Lanes {
        u * all(1.0 / (self.half_length + self.half_side))
    }

    /// Where a place lies in the box of the whole footprint, −1..1 along and across.
    #[inline(always)]
    pub fn in_box(&self, at: &Place) -> (Lanes, Lanes) {
        (self.along(at.u), at.v * all(1.0 / self.half_width))
    }

    /// mm along and across from the middle.
    #[inline(always)]
    pub fn in_mm(&self, at: &Place) -> (Lanes, Lanes) {
        (at.u, at.v)
    }

    /// Share of pixels of `pixel` mm that is under the tip, 0..1.
    #[inline(always)]
    pub fn cover(&self, at: &Place, pixel: f32) -> Lanes {
        // Gradient of the relative radius in mm (times the radius): how fast the outline is left, and in which direction.
        let (gu, gv, signed_u) = self.slope(at);
        let g = (gu * gu + gv * gv).sqrt();
        let r = at.radius2.sqrt();
        let inverse = all(1.0) / larger(g, all(1e-9));
        let distance = (r - all(1.0)) * r * inverse;
        let normal_x = signed_u * all(self.cos) - gv * all(self.sin);
        let normal_y = signed_u * all(self.sin) + gv * all(self.cos);
        let along = (normal_x * all(self.travel_cos) + normal_y * all(self.travel_sin)).abs() * inverse;
        let ramp = all(pixel) + all(0.5 * self.travel) * along;
        let cover = smaller(larger(all(0.5) - distance / ramp, Lanes::ZERO), all(1.0));
        where_greater(g, all(1e-9), cover, all(1.0))
    }

    /// ρ·∇ρ over mm along (its size, and with its sign) and across.
    #[inline(always)]
    fn slope(&self, at: &Place) -> (Lanes, Lanes, Lanes) {
        let (by_length, by_width) = (all(1.0 / self.half_length), all(1.0 / self.half_width));
        if self.outline.is_round() {
            let (gu, gv) = (at.end * by_length, at.side * by_width);
            return (gu, gv, where_greater(Lanes::ZERO, at.u, -gu, gu));
        }
        let (ga, gb) = self.outline.slope(at.u, at.end, at.side, at.radius2);
        let ends = ga * by_length;
        let whole = all(1.0 / (self.half_length + self.half_side));
        let aside = gb * self.outline.aside_slope(self.along(at.u)) * whole;
        let signed = where_greater(Lanes::ZERO, at.u, -ends, ends) - aside;
        (signed, gb * by_width, signed)
    }

    /// The footprint as pixels of `pixel` mm can show it, and the share of a pixel it then covers at most: a tip thinner
    /// than a pixel is drawn one pixel wide and as much fainter, so that its amount is kept.
    #[must_use]
    pub fn for_pixels(mut self, pixel: f32) -> (Self, f32) {
        // What is only a few pixels wide shows no curve or slant.
        self.outline = self.outline.straightened(self.half_width / (2.5 * pixel));
        let mut share = 1.0;
        for half in [&mut self.half_length, &mut self.half_width] {
            if *half < 0.5 * pixel {
                share *= *half / (0.5 * pixel);
                *half = 0.5 * pixel;
            }
        }
        (self, share)
    }
}

#[cfg(test)]
mod tests {
    use super::super::Shape;
    use super::*;

    const SHAPES: [Shape; 7] =
        [Shape::Round, Shape::Flat, Shape::Filbert, Shape::Angled, Shape::Fan, Shape::Pointed, Shape::Image];

    fn cover(f: &Footprint, x: f32, y: f32, pixel: f32) -> f32 {
        f.cover(&f.place(all(x), y), pixel).to_array()[0]
    }

    fn covered_area(f: &Footprint, pixel: f32) -> f32 {
        let mut sum = 0.0;
        for j in -200..200 {
            for i in -200..200 {
                sum += cover(f, i as f32 * pixel, j as f32 * pixel, pixel);
            }
        }
        sum * pixel * pixel
    }

    fn tip(half_length: f32, half_width: f32, half_side: f32, angle: f64) -> Footprint {
        Footprint {
            x: 0.0,
            y: 0.0,
            outline: Outline::ROUND,
            half_length,
            half_width,
            half_side,
            cos: libm::cos(angle) as f32,
            sin: libm::sin(angle) as f32,
            travel_cos: 1.0,
            travel_sin: 0.0,
            travel: 0.0,
        }
    }

    #[test]
    fn soft_pixels_add_up_to_the_area_of_the_shape() {
        for f in [tip(1.5, 1.5, 0.0, 0.0), tip(3.0, 1.0, 0.0, 0.7), tip(1.0, 0.8, 4.0, 1.1)] {
            for shape in SHAPES {
                let f = Footprint { outline: shape.outline(), ..f };
                let (sum, area) = (covered_area(&f, 0.05), f.area());
                assert!((sum / area - 1.0).abs() < 0.015, "{shape:?}: covered {sum} mm², shape {area} mm²");
                let ((reach_x, reach_y), mut beyond) = (f.reach(), 0.0_f32);
                for j in -200..200 {
                    for i in -200..200 {
                        let (x, y) = (i as f32 * 0.05, j as f32 * 0.05);
                        if x.abs() > reach_x + 0.05 || y.abs() > reach_y + 0.05 {
                            beyond = beyond.max(cover(&f, x, y, 0.05));
                        }
                    }
                }
                assert_eq!(beyond, 0.0, "{shape:?} lies within its box");
            }
        }
    }

    #[test]
    fn a_tenth_of_a_pixel_changes_the_image_smoothly_for_a_tiny_tip() {
        // A tip 2 px wide, moved by 0.1 px: no pixel jumps by more than the moved share of its edge.
        for shape in SHAPES {
            let f = Footprint { outline: shape.outline(), ..tip(0.1, 0.1, 0.0, 0.3) };
            let (f, _) = f.for_pixels(0.1);
            let mut worst = 0.0_f32;
            for step in 0..20 {
                let shift = step as f32 * 0.01;
                for j in -4..5 {
                    for i in -4..5 {
                        let at = |s: f32| cover(&f, i as f32 * 0.1 - s, j as f32 * 0.1, 0.1);
                        worst = worst.max((at(shift + 0.01) - at(shift)).abs());
                    }
                }
            }
            // A corner moves along two edges at once.
            let most = if shape == Shape::Round { 0.16 } else { 0.22 };
            assert!(worst < most, "{shape:?}: a pixel jumped by {worst}");
        }
    }

    #[test]
    fn pressure_profile_averages_one_over_the_footprint() {
        for (hardness, shape) in [0.0, 0.4, 0.5, 1.0].into_iter().flat_map(|h| SHAPES.map(|s| (h, s))) {
            let f = Footprint { outline: shape.outline(), ..tip(1.2, 0.9, 2.0, 0.3) };
            let p = Profile::new(hardness);
            let norm = f.profile_norm(&p);
            let (mut sum, mut n) = (0.0, 0.0);
            for j in -400..400 {
                for i in -400..400 {
                    let (x, y) = (i as f32 * 0.01, j as f32 * 0.01);
                    let cover = cover(&f, x, y, 0.01);
                    sum += cover * norm * p.at(f.place(all(x), y).radius2.to_array()[0].min(1.0));
                    n += cover;
                }
            }
            assert!(
                (sum / n - 1.0).abs() < 0.01,
                "{shape:?}, hardness {hardness}: mean pressure {}",
                sum / n
            );
        }
    }
}
