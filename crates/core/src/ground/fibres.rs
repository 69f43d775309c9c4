//! A mat of fibres: curved capsules scattered over the paper, composited by **max** (impressions by max looked like felt;
//! creased noise looked like brain coral: dry study).

use super::{PERIOD_MM, PITCH_MM, Region};
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
    /// How deep a base may lie below 0; the mat is this deep where there is no fibre.
    pub depth: f32,
}

/// Side of the square in which fibres are counted, mm; the period is a whole number of them.
const CELL_MM: f64 = 0.8;
/// A fibre turns by at most this much from end to end, rad.
const BEND: f64 = 1.3;
const PIECES: usize = 6;

impl Mat {
    /// The mat over a region of ground pixels.
    pub fn over(&self, region: Region) -> Vec<f32> {
        let mut out = vec![-self.depth; region.len()];
        let cells = libm::round(PERIOD_MM / CELL_MM) as i64;
        let reach = self.length[1] * 0.5 + self.width;
        let cell = |mm: f64| libm::floor(mm / CELL_MM) as i64;
        let (left, top) = (region.x as f64 * PITCH_MM, region.y as f64 * PITCH_MM);
        let (right, bottom) = (left + region.width as f64 * PITCH_MM, top + region.height as f64 * PITCH_MM);
        for cy in cell(top - reach)..=cell(bottom + reach) {
            for cx in cell(left - reach)..=cell(right + reach) {
                let key = num::hash(self.seed, self.stream, cx.rem_euclid(cells), cy.rem_euclid(cells));
                let mean = self.density * CELL_MM * CELL_MM;
                let count = libm::floor(mean + f64::from(num::unit(key))) as i64;
                for n in 0..count {
                    let draw = |k: i64| f64::from(num::unit(num::hash(key, 1, n, k)));
                    let x = (cx as f64 + draw(0)) * CELL_MM;
                    let y = (cy as f64 + draw(1)) * CELL_MM;
                    let length = self.length[0] + (self.length[1] - self.length[0]) * draw(2);
                    let base = -self.depth * draw(3) as f32;
                    self.fibre(&mut out, region, [x, y], length, [draw(4), draw(5)], base);
                }
            }
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
        let heading = turn[0] * std::f64::consts::TAU;
        // Walk from the middle to both ends so that the centre stays in its cell.
        for side in [1.0, -1.0] {
            let (mut x, mut y, mut a) = (centre[0], centre[1], heading);
            for _ in 0..PIECES / 2 {
                let (nx, ny) = (x + side * piece * libm::cos(a), y + side * piece * libm::sin(a));
                self.piece(out, region, [x, y, nx, ny], base);
                (x, y) = (nx, ny);
                a += side * bend;
            }
        }
    }

    fn piece(&self, out: &mut [f32], region: Region, [x0, y0, x1, y1]: [f64; 4], base: f32) {
        let radius = (self.width * 0.5 / PITCH_MM) as f32;
        // To pixels of the region, pixel centres at whole numbers.
        let px = |v: f64, start: i64| (v / PITCH_MM - start as f64 - 0.5) as f32;
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
        for j in from(ay, by)..to(ay, by, region.height) {
            for i in from(ax, bx)..to(ax, bx, region.width) {
                let (x, y) = (i as f32 - ax, j as f32 - ay);
                let along = ((x * dx + y * dy) * inverse).clamp(0.0, 1.0);
                let (ex, ey) = (x - along * dx, y - along * dy);
                let r2 = (ex * ex + ey * ey) * thin;
                if r2 < 1.0 {
                    let value = base + height * (1.0 - r2).sqrt();
                    let cell = &mut out[j * region.width + i];
                    if value > *cell {
                        *cell = value;
                    }
                }
            }
        }
    }
}
