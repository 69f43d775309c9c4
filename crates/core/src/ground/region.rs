//! A rectangle of ground pixels.

/// `width × height` ground pixels from `(x, y)`; coordinates may be negative.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Region {
    pub x: i64,
    pub y: i64,
    pub width: usize,
    pub height: usize,
}

impl Region {
    pub fn new(x: i64, y: i64, width: usize, height: usize) -> Self {
        Self { x, y, width, height }
    }

    /// Grown by `margin` pixels on every side.
    #[must_use]
    pub fn grown(self, margin: usize) -> Self {
        Self {
            x: self.x - margin as i64,
            y: self.y - margin as i64,
            width: self.width + 2 * margin,
            height: self.height + 2 * margin,
        }
    }

    pub fn len(self) -> usize {
        self.width * self.height
    }

    pub fn is_empty(self) -> bool {
        self.len() == 0
    }

    /// Cuts the middle out of values that lie on this region grown by `margin`.
    pub fn cut(self, grown: &[f32], margin: usize) -> Vec<f32> {
        let stride = self.width + 2 * margin;
        let mut out = Vec::with_capacity(self.len());
        for row in 0..self.height {
            let start = (row + margin) * stride + margin;
            out.extend_from_slice(&grown[start..start + self.width]);
        }
        out
    }
}
