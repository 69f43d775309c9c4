//! What of a sheet changed: tiles, each with the part of it that did.

use super::TILE;

/// A rectangle of sheet pixels, `right` and `bottom` not included.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Rect {
    pub left: usize,
    pub top: usize,
    pub right: usize,
    pub bottom: usize,
}

impl Rect {
    pub fn union(self, other: Rect) -> Rect {
        Rect {
            left: self.left.min(other.left),
            top: self.top.min(other.top),
            right: self.right.max(other.right),
            bottom: self.bottom.max(other.bottom),
        }
    }

    /// With `by` pixels more on every side, as far as `whole` goes.
    pub fn grown(self, by: usize, whole: Rect) -> Rect {
        Rect {
            left: self.left.saturating_sub(by).max(whole.left),
            top: self.top.saturating_sub(by).max(whole.top),
            right: (self.right + by).min(whole.right),
            bottom: (self.bottom + by).min(whole.bottom),
        }
    }

    /// Of a tile at `(x, y)` with its window `[x0, y0, x1, y1)`.
    pub fn of_tile((x, y): (usize, usize), [x0, y0, x1, y1]: [usize; 4]) -> Rect {
        let (left, top) = (x * TILE, y * TILE);
        Rect { left: left + x0, top: top + y0, right: left + x1, bottom: top + y1 }
    }

    /// The tiles under it, with the pixels of each that it holds.
    pub fn tiles(self) -> impl Iterator<Item = ((usize, usize), [usize; 4])> {
        let none = self.left >= self.right || self.top >= self.bottom;
        let across = self.left / TILE..=self.right.saturating_sub(1) / TILE;
        let down = self.top / TILE..=self.bottom.saturating_sub(1) / TILE;
        down.flat_map(move |ty| across.clone().map(move |tx| (tx, ty))).filter(move |_| !none).map(
            move |(tx, ty)| {
                let window = [
                    self.left.max(tx * TILE) - tx * TILE,
                    self.top.max(ty * TILE) - ty * TILE,
                    self.right.min((tx + 1) * TILE) - tx * TILE,
                    self.bottom.min((ty + 1) * TILE) - ty * TILE,
                ];
                ((tx, ty), window)
            },
        )
    }
}

/// Tiles that changed, in the order in which they first did.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Changed(Vec<((usize, usize), Rect)>);

impl Changed {
    /// A window `[x0, y0, x1, y1)` of a tile changed.
    pub fn tile(&mut self, key: (usize, usize), window: [usize; 4]) {
        let rect = Rect::of_tile(key, window);
        // The newest are asked again most often.
        match self.0.iter_mut().rev().find(|(k, _)| *k == key) {
            Some((_, known)) => *known = known.union(rect),
            None => self.0.push((key, rect)),
        }
    }

    /// A rectangle of the sheet changed.
    pub fn rect(&mut self, rect: Rect) {
        rect.tiles().for_each(|(key, window)| self.tile(key, window));
    }

    pub fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    /// The tiles that changed.
    pub fn tiles(&self) -> impl Iterator<Item = (usize, usize)> {
        self.0.iter().map(|(key, _)| *key)
    }

    /// What changed, a rectangle a tile.
    pub fn rects(&self) -> impl Iterator<Item = Rect> {
        self.0.iter().map(|(_, rect)| *rect)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_rectangle_is_its_tiles_and_a_tile_changes_once() {
        let mut changed = Changed::default();
        changed.rect(Rect { left: 60, top: 10, right: 130, bottom: 20 });
        changed.rect(Rect { left: 70, top: 5, right: 71, bottom: 6 });
        changed.rect(Rect { left: 7, top: 5, right: 7, bottom: 6 });
        let rects: Vec<Rect> = changed.rects().collect();
        let area = |r: &Rect| (r.right - r.left) * (r.bottom - r.top);
        assert_eq!(rects.len(), 3, "{rects:?}");
        assert_eq!(rects.iter().map(area).sum::<usize>(), 4 * 10 + 64 * 15 + 2 * 10, "{rects:?}");
    }
}
