//! Lengths with units.

use svgtypes::{Length, LengthUnit};

/// A user unit where the document states no size: the CSS pixel, mm.
pub(super) const PIXEL_MM: f64 = 25.4 / 96.0;

/// A length in mm, where its unit has one.
pub(super) fn millimetres(length: Length) -> Option<f64> {
    let unit = match length.unit {
        LengthUnit::None | LengthUnit::Px => PIXEL_MM,
        LengthUnit::Mm => 1.0,
        LengthUnit::Cm => 10.0,
        LengthUnit::In => 25.4,
        LengthUnit::Pt => 25.4 / 72.0,
        LengthUnit::Pc => 25.4 / 6.0,
        LengthUnit::Em | LengthUnit::Ex | LengthUnit::Percent => return None,
    };
    Some(length.number * unit)
}
