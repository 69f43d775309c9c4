//! A mat of fibres: curved capsules scattered over the paper, composited by **max** (impressions by max looked like felt;
//! creased noise looked like brain coral: dry study).

use super::{PERIOD_MM, Region};
use crate::lanes::{LANES, Lanes, all, larger, smaller, where_greater};
use crate::num;

/// Fibres of one kind.
#[derive(Debug, Clone, Copy)]
pub struct Mat {
    pub seed: u64,
    pub stream: u64,
    /// Fibres per mm².
    pub density: f64,
    /// Shortest and longest, mm.
    pub length: [f64; 2],
    /// Width, mm.
    pub width: f64,
    /// Height of a fibre over its own base.
    pub height: f32,
    /// Side of a pixel of the regions asked for, mm.
    pub pitch: f64,
    /// How far fibres lie along the sheet's width: 0 every way, 1 all along it.
    pub direction: f64,
    /// How deep a base may lie below 0; the mat is this deep where there is no fibre.
    pub depth: f32,
}

/// Side of the square in which fibres are counted, mm; the period is a whole number of them.
const CELL_MM: f64 = 0.8;
/// A fibre turns by at most this much from end to end, rad.
const BEND: f64 = 1.3;
const PIECES: usize = 6;

impl Mat {
    /// The mat over a region of pixels of `pitch`.
    pub fn over(&self, region: Region) -> Vec<f32> {
        let mut fibres = Vec::new();
        let cells = libm::round(PERIOD_MM / CELL_MM) as i64;
        let reach = self.length[1] * 0.5 + self.width;
        let cell = |mm: f64| f64::floor(mm / CELL_MM) as i64;
        let (left, top) = (region.x as f64 * self.pitch, region.y as f64 * self.pitch);
        let (right, bottom) =
            (left + region.width as f64 * self.pitch, top + region.height as f64 * self.pitch);
        for cy in cell(top - reach)..=cell(bottom + reach) {
            for cx in cell(left - reach)..=cell(right + reach) {
                let key = num::hash(self.seed, self.stream, cx.rem_euclid(cells), cy.rem_euclid(cells));
                let mean = self.density * CELL_MM * CELL_MM;
                let count = f64::floor(mean + f64::from(num::unit(key))) as i64;
                for n in 0..count {
                    let draw = |k: i64| f64::from(num::unit(num::hash(key, 1, n, k)));
                    let x = (cx as f64 + draw(0)) * CELL_MM;
                    let y = (cy as f64 + draw(1)) * CELL_MM;
                    let length = self.length[0] + (self.length[1] - self.length[0]) * draw(2);
                    let own = length * 0.5 + self.width;
                    if x + own < left || x - own > right || y + own < top || y - own > bottom {
                        continue;
                    }
                    let base = -self.depth * draw(3) as f32;
                    fibres.push((base, [x, y], length, [draw(4), draw(5)]));
                }
            }
        }
        // The highest first: what they bury need not be worked out.
        fibres.sort_by(|a, b| b.0.total_cmp(&a.0));
        let mut out = vec![-self.depth; region.len()];
        for (base, centre, length, turn) in fibres {
            self.fibre(&mut out, region, centre, length, turn, base);
        }
        out
    }

    fn fibre(
        &self,
        out: &mut [f32],
        region: Region,
        centre: [f64; 2],
        length: f64,
        turn: [f64; 2],
        base: f32,
    ) {
        let piece = length / PIECES as f64;
        let bend = (turn[1] - 0.5) * 2.0 * BEND / PIECES as f64;
        // Fibres have no front: half a turn holds every direction.
        let heading = (turn[0] - 0.5) * std::f64::consts::PI * (1.0 - self.direction);
        // Walk from the middle to both ends so that the centre stays in its cell.
        let (turn_cos, turn_sin) = (libm::cos(bend), libm::sin(bend));
        let start = [libm::cos(heading), libm::sin(heading)];
        for side in [1.0, -1.0] {
            let (mut x, mut y, [mut c, mut s]) = (centre[0], centre[1], start);
            for _ in 0..PIECES / 2 {
                let (nx, ny) = (x + side * piece * c, y + side * piece * s);
                self.piece(out, region, [x, y, nx, ny], base);
                (x, y) = (nx, ny);
                (c, s) = (c * turn_cos - side * s * turn_sin, s * turn_cos + side * c * turn_sin);
            }
        }
    }

    fn piece(&self, out: &mut [f32], region: Region, [x0, y0, x1, y1]: [f64; 4], base: f32) {
        let radius = (self.width * 0.5 / self.pitch) as f32;
        // To pixels of the region, pixel centres at whole numbers.
        let px = |v: f64, start: i64| (v / self.pitch - start as f64 - 0.5) as f32;
        let (ax, ay) = (px(x0, region.x), px(y0, region.y));
        let (bx, by) = (px(x1, region.x), px(y1, region.y));
        // Thinner than a pixel: drawn a pixel wide and as much lower.
        let (radius, height) =
            if radius < 0.6 { (0.6, self.height * radius / 0.6) } else { (radius, self.height) };
        let from = |a: f32, b: f32| (a.min(b) - radius).ceil().max(0.0) as usize;
        let to =
            |a: f32, b: f32, size: usize| (a.max(b) + radius + 1.0).floor().clamp(0.0, size as f32) as usize;
        let (dx, dy) = (bx - ax, by - ay);
        let inverse = 1.0 / (dx * dx + dy * dy).max(1e-9);
        let thin = 1.0 / (radius * radius);
        let (first, last) = (from(ax, bx), to(ax, bx, region.width));
        // On one row the fibre lies where its line is within the radius: a slanted piece leaves most of its box empty.
        let half = if dy.abs() > 1e-3 { radius * (dx * dx + dy * dy).sqrt() / dy.abs() } else { f32::MAX };
        let slope = if dy.abs() > 1e-3 { dx / dy } else { 0.0 };
        for j in from(ay, by)..to(ay, by, region.height) {
            let middle = ax + (j as f32 - ay) * slope;
            let start = first.max((middle - half).max(0.0) as usize);
            let end = last.min((middle + half + 2.0).max(0.0) as usize);
            if start >= end {
                continue;
            }
            let y = all(j as f32 - ay);
            let over = |at: usize, cells: Lanes| {
                let x = all(at as f32) + Lanes::from([0.0, 1.0, 2.0, 3.0]) - all(ax);
                let along = (x * all(dx) + y * all(dy)) * all(inverse);
                let along = smaller(larger(along, all(0.0)), all(1.0));
                let (ex, ey) = (x - along * all(dx), y - along * all(dy));
                let left = all(1.0) - (ex * ex + ey * ey) * all(thin);
                let top = all(base) + all(height) * larger(left, all(0.0)).sqrt();
                // What lies beside the fibre stays as it is.
                let top = where_greater(left, all(0.0), top, all(f32::NEG_INFINITY));
                where_greater(top, cells, top, cells)
            };
            let row = &mut out[j * region.width..][..region.width];
            // Beyond its end the fibre changes nothing: only at the border of the region four are too many.
            let (fours, _) = row[start..].as_chunks_mut::<LANES>();
            let count = fours.len().min((end - start).div_ceil(LANES));
            for (n, cells) in fours[..count].iter_mut().enumerate() {
                // Buried whole.
                if Lanes::from(*cells).simd_ge(all(base + height)).all() {
                    continue;
                }
                *cells = over(start + n * LANES, Lanes::from(*cells)).to_array();
            }
            let at = start + count * LANES;
            if at < end {
                let mut cells = [0.0; LANES];
                cells[..region.width - at].copy_from_slice(&row[at..]);
                row[at..].copy_from_slice(&over(at, Lanes::from(cells)).to_array()[..region.width - at]);
            }
        }
    }
}
