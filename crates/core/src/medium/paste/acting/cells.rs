//! What lies under a brush on the whole: mean height of the ground and of the film that was there when the stroke came, in cells
//! of 0.68 mm that are anchored to the ground. What a stroke lays never lifts its own tip.

use std::collections::HashMap;

use super::lie::Lie;
use crate::medium::paste::blocks::{BODY_UM, FILM_VALUES, FILMS, STROKE, TOP_UM};
use crate::sheet::{Sheet, TILE};

/// Side of a cell, mm (after the paste study).
const CELL_MM: f64 = 0.68;
/// Cells of a chunk across and down.
const SIDE: i64 = 16;

type Chunk = Box<[Option<[f32; 2]>; (SIDE * SIDE) as usize]>;

/// Means that were asked for so far.
#[derive(Default)]
pub struct Cells {
    chunks: Vec<Chunk>,
    places: HashMap<(i64, i64), usize>,
    last: Option<((i64, i64), usize)>,
}

impl Cells {
    /// Forgets the film of a stroke that is over.
    pub fn clear(&mut self) {
        self.chunks.clear();
        self.places.clear();
        self.last = None;
    }

    /// Ground and film at a place on the ground, mm, between the middles of cells, µm each.
    pub fn at(&mut self, [x, y]: [f64; 2], stroke: f32, sheet: &Sheet, lie: &mut Lie) -> [f32; 2] {
        let (u, v) = (x / CELL_MM - 0.5, y / CELL_MM - 0.5);
        let (i, j) = (f64::floor(u) as i64, f64::floor(v) as i64);
        let (fu, fv) = ((u - i as f64) as f32, (v - j as f64) as f32);
        let mut cell = |di: i64, dj: i64| self.cell(i + di, j + dj, stroke, sheet, lie);
        let [a, b, c, d] = [cell(0, 0), cell(1, 0), cell(0, 1), cell(1, 1)];
        std::array::from_fn(|k| {
            let (above, below) = (a[k] + (b[k] - a[k]) * fu, c[k] + (d[k] - c[k]) * fu);
            above + (below - above) * fv
        })
    }

    fn cell(&mut self, i: i64, j: i64, stroke: f32, sheet: &Sheet, lie: &mut Lie) -> [f32; 2] {
        let key = (i.div_euclid(SIDE), j.div_euclid(SIDE));
        let chunk = match self.last {
            Some((k, at)) if k == key => at,
            _ => {
                let chunks = &mut self.chunks;
                let at = *self.places.entry(key).or_insert_with(|| {
                    chunks.push(Box::new([None; (SIDE * SIDE) as usize]));
                    chunks.len() - 1
                });
                self.last = Some((key, at));
                at
            }
        };
        let at = (j.rem_euclid(SIDE) * SIDE + i.rem_euclid(SIDE)) as usize;
        *self.chunks[chunk][at].get_or_insert_with(|| mean([i, j], stroke, sheet, lie))
    }
}

/// Means over the pixels whose middles lie in a cell; the nearest pixel's where there are none.
fn mean([i, j]: [i64; 2], stroke: f32, sheet: &Sheet, lie: &mut Lie) -> [f32; 2] {
    let (pixel, origin) = (sheet.pixel_mm(), sheet.raster().origin_mm);
    let size = [sheet.width(), sheet.height()];
    let span = |cell: i64, axis: usize| {
        let first = |c: i64| f64::ceil((c as f64 * CELL_MM - origin[axis]) / pixel - 0.5);
        let most = size[axis] as f64;
        let (from, to) = (first(cell).clamp(0.0, most - 1.0), first(cell + 1).clamp(1.0, most));
        (from as usize, (to as usize).max(from as usize + 1))
    };
    let ((x0, x1), (y0, y1)) = (span(i, 0), span(j, 1));
    let (mut ground, mut film) = (0.0_f32, 0.0_f32);
    let mut key = (usize::MAX, 0);
    let mut heights = None;
    let mut films = None;
    for y in y0..y1 {
        for x in x0..x1 {
            let now = (x / TILE, y / TILE);
            if now != key {
                key = now;
                heights = Some(lie.ground(key, sheet));
                films = sheet.tile(key.0, key.1).and_then(|t| t.block(&FILMS));
            }
            let index = (y % TILE) * TILE + x % TILE;
            ground += heights.as_ref().map_or(0.0, |h| h[index]);
            let Some(films) = films else { continue };
            let p = &films[index * FILM_VALUES..(index + 1) * FILM_VALUES];
            film += p[BODY_UM] + if p[STROKE] == stroke { 0.0 } else { p[TOP_UM] };
        }
    }
    let count = ((x1 - x0) * (y1 - y0)) as f32;
    [ground / count, film / count]
}
