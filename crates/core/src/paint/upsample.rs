//! A colour of the screen as reflectances in the eight bands: the smoothest that look so, from a table of 17³ nodes.

use std::sync::OnceLock;

use super::BANDS;
use super::colour::decode;

/// Nodes along each side of the table.
const SIDE: usize = 17;

/// The table: reflectances at equal steps of encoded sRGB, red slowest.
fn table() -> &'static [[f64; BANDS]] {
    static TABLE: OnceLock<Vec<[f64; BANDS]>> = OnceLock::new();
    TABLE.get_or_init(|| {
        let line = |line: &str| {
            let mut values = line.split(',').skip(3).map(|v| v.parse::<f64>().expect("a number"));
            std::array::from_fn(|_| values.next().expect("eight reflectances"))
        };
        include_str!("../../data/upsample_lut17_8.csv").lines().skip(1).map(line).collect()
    })
}

/// Reflectances of an sRGB colour: the cell is found in encoded values, weights are taken in light.
pub fn reflectance(srgb8: [u8; 3]) -> [f64; BANDS] {
    let axis = srgb8.map(|v| {
        let at = f64::from(v) / 255.0 * (SIDE - 1) as f64;
        let cell = (at as usize).min(SIDE - 2);
        let node = |i: usize| decode(i as f64 / (SIDE - 1) as f64);
        let (low, high) = (node(cell), node(cell + 1));
        (cell, (decode(f64::from(v) / 255.0) - low) / (high - low))
    });
    let mut out = [0.0; BANDS];
    for corner in 0..8 {
        let (mut weight, mut index) = (1.0, 0);
        for (k, (cell, share)) in axis.iter().enumerate() {
            let far = (corner >> k) & 1;
            weight *= if far == 1 { *share } else { 1.0 - share };
            index = index * SIDE + cell + far;
        }
        out.iter_mut().zip(&table()[index]).for_each(|(to, r)| *to += weight * r);
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::paint::colour;

    /// The table's makers state that a colour comes back within ΔE00 0.01 but for near-black ones, 2.3 at most (the colour data's
    /// own README); between nodes as on them.
    #[test]
    fn a_colour_of_the_screen_comes_back_from_its_reflectances() {
        let apart = |rgb: [u8; 3]| {
            let asked = colour::lab(colour::xyz_of_srgb(rgb.map(|v| f64::from(v) / 255.0)));
            colour::delta_e(asked, colour::lab(colour::xyz(&reflectance(rgb))))
        };
        for rgb in [
            [255, 255, 255],
            [200, 30, 40],
            [12, 90, 200],
            [250, 240, 60],
            [70, 160, 90],
            [60, 40, 30],
            [131, 7, 250],
        ] {
            assert!(apart(rgb) < 0.1, "{rgb:?}: {}", apart(rgb));
            assert!(reflectance(rgb).iter().all(|r| (0.0..=1.0).contains(r)), "{rgb:?}");
        }
        assert!(apart([3, 3, 3]) < 2.3);
    }
}
