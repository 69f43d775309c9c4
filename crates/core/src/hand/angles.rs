//! Tilt and spherical angles of a stylus, both ways.
//!
//! W3C Pointer Events Level 3, "Converting between tiltX / tiltY and altitudeAngle / azimuthAngle". x points right, y
//! towards the painter; azimuth 0 is +x and grows towards +y; altitude π/2 is upright. All edge cases of the standard are
//! kept: where one tilt is ±90° the direction can be read only if the other is 0.

use std::f64::consts::{FRAC_PI_2, PI, TAU};

const DEGREE: f64 = PI / 180.0;

/// `(altitude_rad, azimuth_rad)` from tilts in degrees (−90..90). Altitude 0..π/2, azimuth 0..2π.
pub fn to_spherical(tilt_x_deg: f64, tilt_y_deg: f64) -> (f64, f64) {
    let (x, y) = (tilt_x_deg * DEGREE, tilt_y_deg * DEGREE);
    let flat_x = tilt_x_deg.abs() == 90.0;
    let flat_y = tilt_y_deg.abs() == 90.0;

    let azimuth = if tilt_x_deg == 0.0 {
        if tilt_y_deg > 0.0 {
            FRAC_PI_2
        } else if tilt_y_deg < 0.0 {
            3.0 * FRAC_PI_2
        } else {
            0.0
        }
    } else if tilt_y_deg == 0.0 {
        if tilt_x_deg < 0.0 { PI } else { 0.0 }
    } else if flat_x || flat_y {
        0.0
    } else {
        let a = libm::atan2(libm::tan(y), libm::tan(x));
        if a < 0.0 { a + TAU } else { a }
    };

    let altitude = if flat_x || flat_y {
        0.0
    } else if tilt_x_deg == 0.0 {
        FRAC_PI_2 - y.abs()
    } else if tilt_y_deg == 0.0 {
        FRAC_PI_2 - x.abs()
    } else {
        let (tx, ty) = (libm::tan(x), libm::tan(y));
        libm::atan(1.0 / f64::sqrt(tx * tx + ty * ty))
    };
    (altitude, azimuth)
}

/// `(tilt_x_deg, tilt_y_deg)`, unrounded, from altitude and azimuth in radians.
pub fn to_tilt(altitude_rad: f64, azimuth_rad: f64) -> (f64, f64) {
    let near = |value: f64| (azimuth_rad - value).abs() < 1e-9;
    if altitude_rad.abs() < 1e-9 {
        // Lying on the surface: only the quadrant is left of the direction.
        let (mut x, mut y) = (0.0, 0.0);
        if near(0.0) || near(TAU) {
            x = 90.0;
        } else if near(FRAC_PI_2) {
            y = 90.0;
        } else if near(PI) {
            x = -90.0;
        } else if near(3.0 * FRAC_PI_2) {
            y = -90.0;
        } else {
            x = if !(FRAC_PI_2..=3.0 * FRAC_PI_2).contains(&azimuth_rad) { 90.0 } else { -90.0 };
            y = if azimuth_rad < PI { 90.0 } else { -90.0 };
        }
        return (x, y);
    }
    let t = libm::tan(altitude_rad);
    (libm::atan(libm::cos(azimuth_rad) / t) / DEGREE, libm::atan(libm::sin(azimuth_rad) / t) / DEGREE)
}

/// Wraps an angle in degrees to 0..360.
pub fn wrap_degrees(angle: f64) -> f64 {
    let a = angle - 360.0 * f64::floor(angle / 360.0);
    if a >= 360.0 { 0.0 } else { a }
}

/// From `a` to `b` the short way round, in degrees, at share `f`.
pub fn mix_degrees(a: f64, b: f64, f: f64) -> f64 {
    let difference = wrap_degrees(b - a + 180.0) - 180.0;
    wrap_degrees(a + difference * f)
}
