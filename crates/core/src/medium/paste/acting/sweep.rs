//! Which pixels a side of the outline sweeps between two poses: every one once, without seams.
//!
//! Corners lie on a lattice of 1/256 pixel. A side's quad is two triangles; one whose corners turn outwards leads, the rest trails
//! and is skipped. Edges that two triangles share give a pixel's middle to one of them alone (top-left rule).

use crate::sheet::Rect;

/// Steps of the lattice in a pixel.
pub const LATTICE: f64 = 256.0;

/// A place on the lattice.
pub type Corner = [i64; 2];

/// Twice the area of a triangle, lattice steps²; positive where its corners turn clockwise as seen on the sheet (y down).
#[inline]
fn twice_area([a, b, c]: [Corner; 3]) -> i64 {
    (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
}

/// The two triangles of a side that goes from `[i, j]` to `[i, j]`, each with the share of lane j at its corners.
pub fn triangles(from: [Corner; 2], to: [Corner; 2]) -> [([Corner; 3], [f32; 3]); 2] {
    // The outline runs clockwise on the sheet: outwards is to the left of its way.
    [([from[0], to[1], from[1]], [0.0, 1.0, 1.0]), ([from[0], to[0], to[1]], [0.0, 0.0, 1.0])]
}

/// Area that a triangle leads over, lattice steps²; 0 where it trails.
pub fn leads(triangle: [Corner; 3]) -> i64 {
    twice_area(triangle).max(0)
}

/// The pixels whose middles may lie in a triangle; nothing where there are none on the sheet.
pub fn bounds(corners: [Corner; 3], size: [usize; 2]) -> Option<Rect> {
    let step = LATTICE as i64;
    let half = step / 2;
    let [x, y] = [0, 1].map(|axis| {
        let all = corners.map(|c| c[axis]);
        // The first middle at or after the lowest corner, and one past the last at or before the highest.
        let low = (all[0].min(all[1]).min(all[2]) + half - 1).div_euclid(step).max(0);
        let high = ((all[0].max(all[1]).max(all[2]) - half).div_euclid(step) + 1).min(size[axis] as i64);
        (low, high)
    });
    (x.0 < x.1 && y.0 < y.1).then_some(Rect {
        left: x.0 as usize,
        top: y.0 as usize,
        right: x.1 as usize,
        bottom: y.1 as usize,
    })
}

/// Calls `visit` with every pixel of a leading triangle and its share of lane j.
pub fn pixels(
    corners: [Corner; 3],
    shares: [f32; 3],
    size: [usize; 2],
    mut visit: impl FnMut(usize, usize, f32),
) {
    let area = twice_area(corners);
    if area <= 0 {
        return;
    }
    let step = LATTICE as i64;
    let half = step / 2;
    let Some(Rect { left, top, right, bottom }) = bounds(corners, size) else { return };
    let (x, y) = ((left as i64, right as i64), (top as i64, bottom as i64));
    let edges = [(1, 2), (2, 0), (0, 1)].map(|(a, b)| {
        let (a, b): (Corner, Corner) = (corners[a], corners[b]);
        let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
        // A middle that lies on an edge belongs to the triangle below or to the right of it.
        let ours = (dy == 0 && dx > 0) || dy < 0;
        let at = |px: i64, py: i64| dx * (py - a[1]) - dy * (px - a[0]);
        (at(x.0 * step + half, y.0 * step + half), -dy * step, dx * step, if ours { 0 } else { 1 })
    });
    let [e, f, g] = edges;
    let scale = 1.0 / area as f32;
    let weight = shares.map(|s| s * scale);
    let mut starts = [e.0, f.0, g.0];
    for py in y.0..y.1 {
        let [mut p, mut q, mut r] = starts;
        for px in x.0..x.1 {
            if p >= e.3 && q >= f.3 && r >= g.3 {
                let u = p as f32 * weight[0] + q as f32 * weight[1] + r as f32 * weight[2];
                visit(px as usize, py as usize, u.clamp(0.0, 1.0));
            }
            (p, q, r) = (p + e.1, q + f.1, r + g.1);
        }
        starts = [starts[0] + e.2, starts[1] + f.2, starts[2] + g.2];
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A fan of triangles round a point covers a polygon: each of its pixels once, none beside it.
    #[test]
    fn triangles_that_share_edges_meet_every_pixel_once() {
        let ring: Vec<Corner> = (0..23)
            .map(|i| {
                let t = std::f64::consts::TAU * f64::from(i) / 23.0;
                [
                    (2600.0 + 2345.0 * libm::cos(t)).round() as i64,
                    (2560.0 + 2111.0 * libm::sin(t)).round() as i64,
                ]
            })
            .collect();
        let mut met = vec![0; 32 * 32];
        for middle in [[2600, 2560], [1920, 2176]] {
            met.fill(0);
            for i in 0..ring.len() {
                let corners = [middle, ring[i], ring[(i + 1) % ring.len()]];
                assert!(leads(corners) > 0);
                pixels(corners, [0.0; 3], [32, 32], |x, y, _| met[y * 32 + x] += 1);
            }
            assert!(met.iter().all(|n| *n <= 1));
            let whole: i64 =
                (0..ring.len()).map(|i| leads([[2600, 2560], ring[i], ring[(i + 1) % ring.len()]])).sum();
            let area = whole as f64 / 2.0 / (LATTICE * LATTICE);
            let pixels = met.iter().filter(|n| **n == 1).count() as f64;
            assert!((pixels / area - 1.0).abs() < 0.03, "{pixels} pixels of {area}");
        }
    }

    #[test]
    fn a_side_that_goes_outwards_leads_and_one_that_goes_inwards_trails() {
        // The upper side of an outline that runs clockwise on the sheet goes to the right.
        let (low, high) = ([[0, 2560], [2560, 2560]], [[0, 0], [2560, 0]]);
        let lead = |from, to| triangles(from, to).iter().map(|(t, _)| leads(*t)).sum::<i64>();
        assert_eq!((lead(low, high), lead(high, low)), (2 * 2560 * 2560, 0));
        let mut count = 0;
        for (t, shares) in triangles(low, high) {
            pixels(t, shares, [10, 10], |x, _, u| {
                assert!((u - (x as f32 + 0.5) / 10.0).abs() < 1e-3);
                count += 1;
            });
        }
        assert_eq!(count, 100);
    }
}
