//! Blend modes and source-over compositing (W3C Compositing and Blending Level 1, §9–10), for films that are laid
//! like images and not mixed like paint. Straight colours in 0..1.

use serde::{Deserialize, Serialize};

/// A blend mode; the last four are not separable: they take the colour as a whole.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Blend {
    Normal,
    Multiply,
    Screen,
    Overlay,
    Darken,
    Lighten,
    ColorDodge,
    ColorBurn,
    HardLight,
    SoftLight,
    Difference,
    Exclusion,
    Hue,
    Saturation,
    Color,
    Luminosity,
}

impl Blend {
    /// All modes with their names, in the standard's order.
    pub const ALL: [(&'static str, Self); 16] = [
        ("normal", Self::Normal),
        ("multiply", Self::Multiply),
        ("screen", Self::Screen),
        ("overlay", Self::Overlay),
        ("darken", Self::Darken),
        ("lighten", Self::Lighten),
        ("color-dodge", Self::ColorDodge),
        ("color-burn", Self::ColorBurn),
        ("hard-light", Self::HardLight),
        ("soft-light", Self::SoftLight),
        ("difference", Self::Difference),
        ("exclusion", Self::Exclusion),
        ("hue", Self::Hue),
        ("saturation", Self::Saturation),
        ("color", Self::Color),
        ("luminosity", Self::Luminosity),
    ];

    /// The mode of a name; nothing where it is none.
    pub fn named(name: &str) -> Option<Self> {
        Self::ALL.iter().find(|m| m.0 == name).map(|m| m.1)
    }

    /// `B(Cb, Cs)` of one channel of a separable mode (others as [`Blend::Normal`]): `backdrop` below, `source` above.
    pub fn channel(self, backdrop: f64, source: f64) -> f64 {
        let (b, s) = (backdrop, source);
        match self {
            Self::Normal | Self::Hue | Self::Saturation | Self::Color | Self::Luminosity => s,
            Self::Multiply => b * s,
            Self::Screen => b + s - b * s,
            Self::Overlay => Self::HardLight.channel(s, b),
            Self::Darken => b.min(s),
            Self::Lighten => b.max(s),
            Self::ColorDodge if b == 0.0 => 0.0,
            Self::ColorDodge if s >= 1.0 => 1.0,
            Self::ColorDodge => (b / (1.0 - s)).min(1.0),
            Self::ColorBurn if b >= 1.0 => 1.0,
            Self::ColorBurn if s <= 0.0 => 0.0,
            Self::ColorBurn => 1.0 - ((1.0 - b) / s).min(1.0),
            Self::HardLight if s <= 0.5 => b * 2.0 * s,
            Self::HardLight => Self::Screen.channel(b, 2.0 * s - 1.0),
            Self::SoftLight if s <= 0.5 => b - (1.0 - 2.0 * s) * b * (1.0 - b),
            Self::SoftLight => {
                let d = if b <= 0.25 { ((16.0 * b - 12.0) * b + 4.0) * b } else { f64::sqrt(b) };
                b + (2.0 * s - 1.0) * (d - b)
            }
            Self::Difference => (b - s).abs(),
            Self::Exclusion => b + s - 2.0 * b * s,
        }
    }

    /// `B(Cb, Cs)` of a colour.
    pub fn colour(self, backdrop: [f64; 3], source: [f64; 3]) -> [f64; 3] {
        let (b, s) = (backdrop, source);
        match self {
            Self::Hue => with_luminosity(with_saturation(s, saturation(b)), luminosity(b)),
            Self::Saturation => with_luminosity(with_saturation(b, saturation(s)), luminosity(b)),
            Self::Color => with_luminosity(s, luminosity(b)),
            Self::Luminosity => with_luminosity(b, luminosity(s)),
            _ => [0, 1, 2].map(|c: usize| self.channel(b[c], s[c])),
        }
    }

    /// `source` over `backdrop` (straight colour, then alpha): premultiplied colour and alpha.
    pub fn over(self, backdrop: [f64; 4], source: [f64; 4]) -> [f64; 4] {
        let (ab, as_) = (backdrop[3], source[3]);
        let mut out = [0.0; 4];
        let straight = |c: [f64; 4]| [c[0], c[1], c[2]];
        let blended = self.colour(straight(backdrop), straight(source));
        for c in 0..3 {
            let mixed = (1.0 - ab) * source[c] + ab * blended[c];
            out[c] = as_ * mixed + ab * backdrop[c] * (1.0 - as_);
        }
        out[3] = as_ + ab * (1.0 - as_);
        out
    }
}

fn luminosity([r, g, b]: [f64; 3]) -> f64 {
    0.3 * r + 0.59 * g + 0.11 * b
}

fn saturation(c: [f64; 3]) -> f64 {
    c[0].max(c[1]).max(c[2]) - c[0].min(c[1]).min(c[2])
}

/// `SetLum` with `ClipColor`.
fn with_luminosity(c: [f64; 3], wanted: f64) -> [f64; 3] {
    let d = wanted - luminosity(c);
    let mut c = c.map(|v| v + d);
    let (low, high) = (c[0].min(c[1]).min(c[2]), c[0].max(c[1]).max(c[2]));
    if low < 0.0 {
        c = c.map(|v| wanted + (v - wanted) * wanted / (wanted - low));
    }
    if high > 1.0 {
        c = c.map(|v| wanted + (v - wanted) * (1.0 - wanted) / (high - wanted));
    }
    c
}

/// `SetSat`: the least channel becomes 0, the greatest `wanted`, the middle one keeps its place between.
fn with_saturation(c: [f64; 3], wanted: f64) -> [f64; 3] {
    let low = c[0].min(c[1]).min(c[2]);
    let span = saturation(c);
    if span == 0.0 { [0.0; 3] } else { c.map(|v| (v - low) / span * wanted) }
}
