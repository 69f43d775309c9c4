//! Paint that runs as the brush lifts: where it stands steeper than it can, a little of it goes to the lower side.
//!
//! Paint with body has a yield stress: below a slope it stays as it is (a Bingham body). Above it the surface spreads as by
//! diffusion, over the paste study's variance of 0.003 mm² (0.006 wiped out the marks of the hair), further where paint stands less.
//! Only what the pass has touched runs. Pairs of neighbours are evened out in four turns in which no two share a pixel, so that
//! neither tiles nor their order matter.

use super::lie::Lie;
use crate::medium::paste::blocks::{BODY_UM, FILM_VALUES, FILMS, STROKE, TOP_UM, blocks_of_in_place};
use crate::medium::paste::exchange::{pixel_at, pixels_at, run};
use crate::sheet::{Changed, Sheet, TILE};

/// Variance over which a surface spreads, mm², of paint that stands up to the slope beside it, µm/mm; and the most.
const VARIANCE_MM2: f32 = 0.003;
const STANDS: f32 = 110.0;
const MOST_MM2: f32 = 0.015;
/// The most of a difference that a turn evens out: stable up to a half.
const MOST_SHARE: f32 = 0.22;
/// So thin a film stands twice as steep, µm; next to bare ground it stands however steep it is.
const THIN_UM: f32 = 40.0;
/// Less than this does not run, µm.
const LEAST_UM: f32 = 0.02;

/// In which turn a pair is: across or down, its first pixel at an even or an odd place.
const TURNS: [(bool, usize); 4] = [(true, 0), (true, 1), (false, 0), (false, 1)];

/// What a pass left to run.
#[derive(Default)]
pub(super) struct Levelling {
    /// Tiles that it touched, and the number by which pixels know it.
    keys: Vec<(usize, usize)>,
    number: f32,
    /// Slope up to which paint stands, as a difference between neighbours, and the share of the rest that a turn evens out.
    stands_um: f32,
    share: f32,
    /// Whether the sheet's first pixel is an odd one of its ground's.
    odd: [bool; 2],
    /// Turns with their tiles that are still to be taken, the last first.
    left: Vec<(usize, (usize, usize))>,
}

impl Levelling {
    /// A pass of so many a number touches some tiles.
    pub fn touched(&mut self, keys: &[(usize, usize)], number: f32) {
        self.number = number;
        for key in keys {
            if !self.keys.iter().rev().any(|known| known == key) {
                self.keys.push(*key);
            }
        }
    }

    /// The pass is over: paint that stands up to such a slope, µm/mm, begins to run.
    pub fn begin(&mut self, stand_um_mm: f32, sheet: &Sheet) {
        let pixel = sheet.pixel_mm() as f32;
        self.odd =
            sheet.raster().origin_mm.map(|mm| libm::round(mm / sheet.pixel_mm()).rem_euclid(2.0) == 1.0);
        let variance = (VARIANCE_MM2 * STANDS / stand_um_mm).min(MOST_MM2);
        let whole = 0.5 * variance / (pixel * pixel);
        let sweeps = libm::ceilf(whole / MOST_SHARE).max(1.0);
        (self.stands_um, self.share) = (stand_um_mm * pixel, whole / sweeps);
        // Pairs are their left or upper pixel's, and what runs over a border runs on behind it.
        let mut keys = std::mem::take(&mut self.keys);
        let beside = |at: usize, count: usize| at.saturating_sub(1)..(at + 2).min(count);
        let around = |&(tx, ty): &(usize, usize)| {
            beside(ty, sheet.down()).flat_map(move |y| beside(tx, sheet.across()).map(move |x| (x, y)))
        };
        keys = keys.iter().flat_map(around).collect();
        keys.sort_unstable();
        keys.dedup();
        let turns = (0..sweeps as usize).flat_map(|_| 0..TURNS.len());
        self.left = turns.flat_map(|turn| keys.iter().map(move |key| (turn, *key))).collect();
        self.left.reverse();
    }

    /// Takes one tile's turn; gives how many pixels that took, or nothing where all rests.
    pub fn step_in_place(
        &mut self,
        lie: &mut Lie,
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) -> Option<usize> {
        let (turn, key) = self.left.pop()?;
        let (across, odd) = TURNS[turn];
        // Counted on the ground, which knows nothing of sheets.
        let odd = if self.odd[usize::from(!across)] { 1 - odd } else { odd };
        self.within_in_place(key, across, odd, lie, sheet, changed);
        // Tiles have an even side: pairs over their borders begin at an odd place.
        if odd == 1 {
            self.over_border_in_place(key, across, lie, sheet, changed);
        }
        Some(TILE * TILE / 4)
    }

    /// What runs from the higher to the lower of two, µm; `v`: film on them, `h`: its surface.
    #[inline(always)]
    fn runs(&self, v: [f32; 2], h: [f32; 2]) -> f32 {
        let (high, low) = if h[0] > h[1] { (0, 1) } else { (1, 0) };
        let stands = self.stands_um * (1.0 + THIN_UM / v[high].max(1e-3) + THIN_UM / v[low].max(1e-3));
        (self.share * (h[high] - h[low] - stands)).min(0.25 * v[high])
    }

    /// Pairs within a tile.
    fn within_in_place(
        &self,
        key: (usize, usize),
        across: bool,
        odd: usize,
        lie: &mut Lie,
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) {
        // What lies around what was touched is perhaps bare.
        let touched = |films: &[f32]| films.chunks_exact(FILM_VALUES).any(|f| f[STROKE] == self.number);
        if sheet.tile(key.0, key.1).and_then(|t| t.block(&FILMS)).is_none_or(|films| !touched(films)) {
            return;
        }
        let size = [sheet.width() - key.0 * TILE, sheet.height() - key.1 * TILE].map(|s| s.min(TILE));
        let ground = lie.ground(key, sheet);
        let mut blocks = blocks_of_in_place(sheet.tile_in_place(key.0, key.1));
        let [wide, high] = size;
        let (last, step) = if across { ([wide - 1, high], 1) } else { ([wide, high - 1], TILE) };
        let (by_x, by_y) = if across { (2, 1) } else { (1, 2) };
        let (from_x, from_y) = if across { (odd, 0) } else { (0, odd) };
        let mut ran: Option<[usize; 4]> = None;
        for y in (from_y..last[1]).step_by(by_y) {
            for x in (from_x..last[0]).step_by(by_x) {
                let [i, j] = [y * TILE + x, y * TILE + x + step];
                let films = &blocks[2];
                let of = |at: usize, value: usize| films[at * FILM_VALUES + value];
                if of(i, STROKE) != self.number && of(j, STROKE) != self.number {
                    continue;
                }
                let v = [i, j].map(|at| of(at, TOP_UM) + of(at, BODY_UM));
                let h = [ground[i] + v[0], ground[j] + v[1]];
                let um = self.runs(v, h);
                if um > LEAST_UM {
                    let [a, b] = pixels_at(&mut blocks, [i, j]);
                    let [from, to] = if h[0] > h[1] { [a, b] } else { [b, a] };
                    run(from, to, um, self.number);
                    let [x1, y1] = [x + 1 + usize::from(across), y + 2 - usize::from(across)];
                    ran = Some(match ran {
                        None => [x, y, x1, y1],
                        Some(r) => [r[0].min(x), r[1].min(y), r[2].max(x1), r[3].max(y1)],
                    });
                }
            }
        }
        if let Some(ran) = ran {
            changed.tile(key, ran);
        }
    }

    /// Pairs of a tile's last pixels with the next tile's first.
    fn over_border_in_place(
        &self,
        (tx, ty): (usize, usize),
        across: bool,
        lie: &mut Lie,
        sheet: &mut Sheet,
        changed: &mut Changed,
    ) {
        let next = if across { (tx + 1, ty) } else { (tx, ty + 1) };
        if next.0 >= sheet.across() || next.1 >= sheet.down() {
            return;
        }
        let grounds = [(tx, ty), next].map(|key| lie.ground(key, sheet));
        let along = if across { sheet.height() - ty * TILE } else { sheet.width() - tx * TILE };
        for k in 0..along.min(TILE) {
            let [i, j] = if across { [k * TILE + TILE - 1, k * TILE] } else { [(TILE - 1) * TILE + k, k] };
            let film = |key: (usize, usize), at: usize| {
                let block = sheet.tile(key.0, key.1).and_then(|t| t.block(&FILMS));
                block.map_or([0.0; 2], |b| {
                    let f = &b[at * FILM_VALUES..];
                    [f[TOP_UM] + f[BODY_UM], f[STROKE]]
                })
            };
            let [a, b] = [film((tx, ty), i), film(next, j)];
            if a[1] != self.number && b[1] != self.number {
                continue;
            }
            let v = [a[0], b[0]];
            let h = [grounds[0][i] + v[0], grounds[1][j] + v[1]];
            let um = self.runs(v, h);
            if um <= LEAST_UM {
                continue;
            }
            let mut tiles = sheet.tiles_in_place(&[(tx, ty), next]).into_iter();
            let [mut a, mut b] =
                [tiles.next(), tiles.next()].map(|t| blocks_of_in_place(t.expect("asked for")));
            let pair = [pixel_at(&mut a, i, 0.0), pixel_at(&mut b, j, 0.0)];
            let [a, b] = pair;
            let [from, to] = if h[0] > h[1] { [a, b] } else { [b, a] };
            run(from, to, um, self.number);
            for (key, at) in [((tx, ty), i), (next, j)] {
                let [x, y] = [at % TILE, at / TILE];
                changed.tile(key, [x, y, x + 1, y + 1]);
            }
        }
    }
}
