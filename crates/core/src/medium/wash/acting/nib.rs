//! A nib: tines that are spread by force where they are pulled, and ink that comes through the slit no faster than it can.

/// How it opens and feeds.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Nib {
    /// How far its point opens, mm for a gf, and at most; nothing for a broad nib, whose edge is as wide as it is.
    pub opens_mm_gf: f64,
    pub most_mm: f64,
    /// Ink that its slit lets through, mm³/s.
    pub feeds_mm3_s: f64,
}

/// From this share of the ink that a line would take, it splits between the tines, and so much of an open one is then bare (tuned by eye).
const SPLITS: f64 = 0.6;
const BARE: f64 = 0.8;
/// A line narrower than this does not split, mm: its two edges meet.
const MEETS_MM: f64 = 0.35;

impl Nib {
    /// Half axes, mm. `pulled`: from 1 where it goes along its slit towards the hand to −1 where it is pushed; only a pull spreads tines.
    pub fn axes(&self, [half, thick]: [f64; 2], force_gf: f64, pulled: f64) -> [f64; 2] {
        let opens = (self.opens_mm_gf * force_gf.max(0.0)).min(self.most_mm);
        [half + 0.5 * opens * pulled.max(0.0), thick]
    }

    /// Of the ink that a line `width_mm` wide of a film takes at a speed, the share that comes.
    pub fn fed(&self, width_mm: f64, speed_mm_s: f64, film_um: f64) -> f64 {
        let takes = width_mm * speed_mm_s * 1e-3 * film_um;
        if takes > self.feeds_mm3_s { self.feeds_mm3_s / takes } else { 1.0 }
    }

    /// Share of the width that stays bare between the tines.
    pub fn gap(&self, half_mm: f64, fed: f64) -> f64 {
        let opens = self.opens_mm_gf > 0.0 && 2.0 * half_mm > MEETS_MM;
        if opens { BARE * (1.0 - fed / SPLITS).max(0.0) } else { 0.0 }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const NIB: Nib = Nib { opens_mm_gf: 0.007, most_mm: 1.4, feeds_mm3_s: 1.0 };

    #[test]
    fn a_pull_opens_and_a_push_does_not() {
        let wide = |gf: f64, pulled: f64| NIB.axes([0.1, 0.1], gf, pulled)[0];
        assert!(wide(150.0, 1.0) > 5.0 * wide(150.0, -1.0));
        assert_eq!(wide(150.0, -1.0), 0.1);
        assert!(wide(50.0, 1.0) < wide(150.0, 1.0) && wide(1000.0, 1.0) == wide(1e4, 1.0));
    }

    #[test]
    fn a_line_that_takes_more_than_comes_splits() {
        assert_eq!(NIB.fed(0.3, 50.0, 25.0), 1.0);
        let fast = NIB.fed(1.2, 150.0, 25.0);
        // 1.2 mm × 150 mm/s × 25 µm are 4.5 mm³/s.
        assert!((fast - 1.0 / 4.5).abs() < 1e-9);
        assert!(NIB.gap(0.6, fast) > 0.4 && NIB.gap(0.6, 1.0) == 0.0 && NIB.gap(0.1, fast) == 0.0);
    }
}
