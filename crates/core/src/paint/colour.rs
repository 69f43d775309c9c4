//! Colours for the eye: reflectances to XYZ, CIELAB, sRGB, and how far two colours are apart.

use std::sync::OnceLock;

use super::bands::{BANDS, Spectrum, WHITE, weights};

/// XYZ relative to the white (each 1 for a perfect white).
pub fn xyz(reflectance: &[f64; BANDS]) -> [f64; 3] {
    weights().xyz.map(|w| w.iter().zip(reflectance).map(|(w, r)| w * r).sum())
}

/// Linear sRGB, not limited to 0..1.
pub fn linear_srgb(reflectance: &[f64; BANDS]) -> [f64; 3] {
    weights().rgb.map(|w| w.iter().zip(reflectance).map(|(w, r)| w * r).sum())
}

/// CIELAB of XYZ relative to the white (CIE 15:2004).
pub fn lab(relative: [f64; 3]) -> [f64; 3] {
    let f = |t: f64| if t > 216.0 / 24389.0 { libm::cbrt(t) } else { (24389.0 / 27.0 * t + 16.0) / 116.0 };
    let [x, y, z] = relative.map(f);
    [116.0 * y - 16.0, 500.0 * (x - y), 200.0 * (y - z)]
}

/// The white point in CIE XYZ, Y = 100.
pub fn white() -> [f64; 3] {
    WHITE
}

/// sRGB encoding of a linear value (IEC 61966-2-1), odd-symmetric below 0.
pub fn encode(linear: f64) -> f64 {
    let a = linear.abs();
    let e = if a <= 0.003_130_8 { 12.92 * a } else { 1.055 * libm::pow(a, 1.0 / 2.4) - 0.055 };
    if linear < 0.0 { -e } else { e }
}

/// Linear value of an sRGB one, 0..1 (IEC 61966-2-1).
pub fn decode(encoded: f64) -> f64 {
    if encoded <= 0.04045 { encoded / 12.92 } else { libm::pow((encoded + 0.055) / 1.055, 2.4) }
}

/// XYZ of an sRGB colour (0..1, encoded) relative to its white (IEC 61966-2-1).
pub fn xyz_of_srgb(encoded: [f64; 3]) -> [f64; 3] {
    const ROWS: [[f64; 3]; 3] =
        [[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]];
    let light = encoded.map(decode);
    ROWS.map(|row| row.iter().zip(light).map(|(a, v)| a * v).sum::<f64>() / row.iter().sum::<f64>())
}

/// Linear values of the 256 levels of sRGB.
pub fn decoded() -> &'static [f32; 256] {
    static TABLE: OnceLock<[f32; 256]> = OnceLock::new();
    TABLE.get_or_init(|| std::array::from_fn(|v| decode(v as f64 / 255.0) as f32))
}

/// Steps of linear light that [`Levels`] tells apart.
const STEPS: usize = 4096;

/// The levels of sRGB nearest to linear values.
pub struct Levels([u8; STEPS]);

impl Levels {
    /// Made once.
    pub fn shared() -> &'static Levels {
        static TABLE: OnceLock<Levels> = OnceLock::new();
        let level = |i: usize| libm::round(255.0 * encode(i as f64 / (STEPS - 1) as f64)) as u8;
        TABLE.get_or_init(|| Levels(std::array::from_fn(level)))
    }

    /// That of a linear value, 0..1, in steps of 1/4095.
    #[inline(always)]
    pub fn of(&self, linear: f32) -> u8 {
        self.0[(linear.clamp(0.0, 1.0) * (STEPS - 1) as f32) as usize]
    }
}

/// Light (Y) of an sRGB colour, 0..1, of its white (IEC 61966-2-1).
pub fn luminance(encoded: [f64; 3]) -> f64 {
    let [r, g, b] = encoded.map(decode);
    0.2126 * r + 0.7152 * g + 0.0722 * b
}

/// CIEDE2000 colour difference (Sharma, Wu & Dalal 2005), kL = kC = kH = 1.
pub fn delta_e(a: [f64; 3], b: [f64; 3]) -> f64 {
    use libm::{atan2, cos, exp, pow, sin, sqrt};
    let deg = |x: f64| x.to_degrees();
    let rad = |x: f64| x.to_radians();
    let (c1, c2) = (sqrt(a[1] * a[1] + a[2] * a[2]), sqrt(b[1] * b[1] + b[2] * b[2]));
    let mean7 = pow((c1 + c2) / 2.0, 7.0);
    let g = 0.5 * (1.0 - sqrt(mean7 / (mean7 + pow(25.0, 7.0))));
    let (a1, a2) = ((1.0 + g) * a[1], (1.0 + g) * b[1]);
    let (c1, c2) = (sqrt(a1 * a1 + a[2] * a[2]), sqrt(a2 * a2 + b[2] * b[2]));
    let hue = |b: f64, a: f64| {
        let h = if a == 0.0 && b == 0.0 { 0.0 } else { deg(atan2(b, a)) };
        if h < 0.0 { h + 360.0 } else { h }
    };
    let (h1, h2) = (hue(a[2], a1), hue(b[2], a2));
    let (dl, dc) = (b[0] - a[0], c2 - c1);
    let dh = if c1 * c2 == 0.0 {
        0.0
    } else if (h2 - h1).abs() <= 180.0 {
        h2 - h1
    } else if h2 > h1 {
        h2 - h1 - 360.0
    } else {
        h2 - h1 + 360.0
    };
    let big_dh = 2.0 * sqrt(c1 * c2) * sin(rad(dh / 2.0));
    let (l, c) = ((a[0] + b[0]) / 2.0, (c1 + c2) / 2.0);
    let h = if c1 * c2 == 0.0 {
        h1 + h2
    } else if (h1 - h2).abs() <= 180.0 {
        (h1 + h2) / 2.0
    } else if h1 + h2 < 360.0 {
        (h1 + h2 + 360.0) / 2.0
    } else {
        (h1 + h2 - 360.0) / 2.0
    };
    let t = 1.0 - 0.17 * cos(rad(h - 30.0)) + 0.24 * cos(rad(2.0 * h)) + 0.32 * cos(rad(3.0 * h + 6.0))
        - 0.20 * cos(rad(4.0 * h - 63.0));
    let turn = (h - 275.0) / 25.0;
    let theta = 30.0 * exp(-turn * turn);
    let c7 = pow(c, 7.0);
    let rc = 2.0 * sqrt(c7 / (c7 + pow(25.0, 7.0)));
    let l50 = (l - 50.0) * (l - 50.0);
    let sl = 1.0 + 0.015 * l50 / sqrt(20.0 + l50);
    let (sc, sh) = (1.0 + 0.045 * c, 1.0 + 0.015 * c * t);
    let rt = -sin(rad(2.0 * theta)) * rc;
    let (x, y, z) = (dl / sl, dc / sc, big_dh / sh);
    sqrt(x * x + y * y + z * z + rt * y * z)
}

/// Steps of the display table; the index is the square root of the linear value, so that darks are finely stepped.
const DISPLAY_STEPS: usize = 4096;

/// Converts pixels: eight reflectances to 8-bit sRGB.
pub struct Display {
    encode: Vec<u8>,
    rgb: [[f32; BANDS]; 3],
    luminance: Spectrum,
}

impl Display {
    /// The converter; made once.
    pub fn shared() -> &'static Display {
        static TABLE: OnceLock<Display> = OnceLock::new();
        TABLE.get_or_init(|| Display {
            encode: (0..=DISPLAY_STEPS)
                .map(|i| {
                    let root = i as f64 / DISPLAY_STEPS as f64;
                    libm::round(encode(root * root) * 255.0) as u8
                })
                .collect(),
            rgb: weights().rgb.map(|row| row.map(|v| v as f32)),
            luminance: weights().xyz[1].map(|v| v as f32),
        })
    }

    /// 8-bit sRGB of [`Display::linear`].
    #[inline(always)]
    pub fn srgb8(&self, reflectance: &Spectrum) -> [u8; 3] {
        self.linear(reflectance).map(|v| self.encode[(v.sqrt() * DISPLAY_STEPS as f32 + 0.5) as usize])
    }

    /// Linear light of sRGB, 0..1. A colour outside sRGB is brought in by reducing its chroma towards the grey of the same luminance,
    /// not by clipping channels.
    #[inline(always)]
    pub fn linear(&self, reflectance: &Spectrum) -> [f32; 3] {
        let mut rgb = [0.0_f32; 3];
        for (out, row) in rgb.iter_mut().zip(&self.rgb) {
            for b in 0..BANDS {
                *out += row[b] * reflectance[b];
            }
        }
        let (least, most) = (rgb[0].min(rgb[1]).min(rgb[2]), rgb[0].max(rgb[1]).max(rgb[2]));
        if least < 0.0 || most > 1.0 {
            let y: f32 = self.luminance.iter().zip(reflectance).map(|(w, r)| w * r).sum();
            let y = y.clamp(0.0, 1.0);
            let mut keep = 1.0_f32;
            if least < 0.0 {
                keep = keep.min(y / (y - least).max(1e-12));
            }
            if most > 1.0 {
                keep = keep.min((1.0 - y) / (most - y).max(1e-12));
            }
            for v in &mut rgb {
                *v = y + (*v - y) * keep;
            }
        }
        rgb.map(|v| v.clamp(0.0, 1.0))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_perfect_white_and_a_flat_grey_are_neutral() {
        assert_eq!(Display::shared().srgb8(&[1.0; BANDS]), [255; 3]);
        let [r, g, b] = Display::shared().srgb8(&[0.2158605; BANDS]);
        // Linear 0.21586 is sRGB 128 (IEC 61966-2-1).
        assert_eq!([r, g, b], [128; 3]);
        let [l, a, b] = lab(xyz(&[0.5; BANDS]));
        assert!((l - 76.069).abs() < 0.01 && a.abs() < 1e-3 && b.abs() < 1e-3, "{l} {a} {b}");
    }

    #[test]
    fn table_encoding_is_within_one_level_of_the_formula() {
        for i in 0..=1000 {
            let linear = f64::from(i) / 1000.0;
            let got = f64::from(Display::shared().srgb8(&[linear as f32; BANDS])[0]);
            assert!((got - encode(linear) * 255.0).abs() <= 0.75, "{linear}: {got}");
        }
    }
}
