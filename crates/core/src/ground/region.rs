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

    /// The region of pixels twice as wide that covers this one, with a pixel to spare on every side.
    #[must_use]
    pub fn halved(self) -> Self {
        Self {
            x: self.x.div_euclid(2) - 1,
            y: self.y.div_euclid(2) - 1,
            width: self.width / 2 + 4,
            height: self.height / 2 + 4,
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

/// Interpolates a map of wide pixels over `half` to the pixels of `region` ([`Region::halved`]).
pub fn half_to_full(map: &[f32], half: Region, region: Region) -> Vec<f32> {
    // A pixel lies a quarter of a wide pixel from the nearer of its two neighbours.
    let taps = |px: i64, start: i64| {
        let near = (px.div_euclid(2) - start) as usize;
        if px.rem_euclid(2) == 0 { (near - 1, near) } else { (near + 1, near) }
    };
    let columns: Vec<_> = (0..region.width as i64).map(|i| taps(region.x + i, half.x)).collect();
    let mut out = Vec::with_capacity(region.len());
    let mut row = vec![0.0_f32; half.width];
    for j in 0..region.height as i64 {
        let (far, near) = taps(region.y + j, half.y);
        let (far, near) = (&map[far * half.width..][..half.width], &map[near * half.width..][..half.width]);
        for (r, (f, n)) in row.iter_mut().zip(far.iter().zip(near)) {
            *r = 0.25 * f + 0.75 * n;
        }
        out.extend(columns.iter().map(|(f, n)| 0.25 * row[*f] + 0.75 * row[*n]));
    }
    out
}
