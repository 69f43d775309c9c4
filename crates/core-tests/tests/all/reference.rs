//! The core against published values. Each file in `data/` names its source and how it was checked; the tolerances are those
//! it advises for 64-bit arithmetic.

use saltmarsh_core::hand::angles;
use saltmarsh_core::hand::steadying::{Steadying, steady};
use saltmarsh_core::paint::{bands::BANDS, blend::Blend, colour, film, pigment};
use saltmarsh_core::{chain::Curve, touch::levels};
use serde_json::Value;

fn data(text: &str) -> Value {
    serde_json::from_str(text).expect("test data is JSON")
}

fn number(v: &Value) -> f64 {
    v.as_f64().expect("a number")
}

fn numbers(v: &Value) -> Vec<f64> {
    v.as_array().expect("a list").iter().map(number).collect()
}

fn cases(v: &Value) -> &[Value] {
    v.as_array().expect("a list of cases")
}

#[track_caller]
fn close(got: f64, want: f64, tolerance: f64, what: &str) {
    assert!(
        (got - want).abs() <= tolerance,
        "{what}: got {got}, want {want}, off by {:e}",
        (got - want).abs()
    );
}

/// W3C Pointer Events Level 3, "Converting between tiltX/tiltY and altitudeAngle/azimuthAngle".
#[test]
fn stylus_angles_convert_both_ways() {
    let data = data(include_str!("data/01_angles.json"));
    for c in cases(&data["tilt_to_spherical"]) {
        let (altitude, azimuth) = angles::to_spherical(number(&c["tiltX"]), number(&c["tiltY"]));
        close(altitude, number(&c["altitudeAngle"]), 1e-9, &format!("altitude of {c}"));
        close(azimuth, number(&c["azimuthAngle"]), 1e-9, &format!("azimuth of {c}"));
    }
    for c in cases(&data["spherical_to_tilt"]) {
        let (x, y) = angles::to_tilt(number(&c["altitudeAngle"]), number(&c["azimuthAngle"]));
        close(x, number(&c["tiltX"]), 1e-9, &format!("tilt x of {c}"));
        close(y, number(&c["tiltY"]), 1e-9, &format!("tilt y of {c}"));
    }
}

/// Casiez, Roussel & Vogel, CHI 2012, against the authors' own package.
#[test]
fn steadying_is_the_published_filter() {
    for c in cases(&data(include_str!("data/08_one_euro.json"))["cases"]) {
        let input = numbers(&c["input"]);
        let times = c.get("t_s").map(numbers);
        for o in cases(&c["outputs"]) {
            let settings = Steadying {
                min_cutoff_hz: number(&o["mincutoff"]),
                beta: number(&o["beta"]),
                derivative_cutoff_hz: number(&o["dcutoff"]),
            };
            let got = steady(settings, &input, number(&c["rate_hz"]), times.as_deref());
            for (i, (got, want)) in got.iter().zip(numbers(&o["output"])).enumerate() {
                close(*got, want, 1e-9, &format!("{} at {i}, {settings:?}", c["signal"]));
            }
        }
    }
}

fn curve_of(c: &Value) -> Curve {
    let points = cases(&c["control_points"]).iter().map(|p| [number(&p[0]), number(&p[1])]).collect();
    Curve::new(points).expect("reference curves are valid")
}

/// Fritsch & Carlson 1980 with the slopes of Fritsch & Butland 1984, as a published implementation gives them.
#[test]
fn curves_are_monotone_piecewise_cubics() {
    for c in cases(&data(include_str!("data/02_curves.json"))["cases"]) {
        let curve = curve_of(c);
        for (i, want) in numbers(&c["slopes"]).iter().enumerate() {
            close(
                curve.slopes()[i],
                *want,
                1e-12 * want.abs().max(1.0),
                &format!("{}, slope {i}", c["name"]),
            );
        }
        for (i, want) in numbers(&c["samples"]).iter().enumerate() {
            close(curve.at(i as f64 / 32.0), *want, 1e-12, &format!("{} at {i}/32", c["name"]));
        }
    }
}

/// Definitions in the data: a level is usable where its output differs from a neighbour's.
#[test]
fn usable_levels_are_counted_exactly() {
    for c in cases(&data(include_str!("data/02_curves.json"))["cases"]) {
        let curve = curve_of(c);
        for u in cases(&c["usable"]) {
            let got = levels::usable(&curve, u["device_levels"].as_u64().expect("levels") as u32);
            let name = &c["name"];
            assert_eq!(
                got.usable_levels as u64,
                u["usable_levels"].as_u64().unwrap(),
                "{name}, usable levels"
            );
            assert_eq!(
                got.distinct_outputs as u64,
                u["distinct_outputs"].as_u64().unwrap(),
                "{name}, outputs"
            );
            let want = number(&u["max_step"]);
            close(got.max_step, want, 1e-9 * want, &format!("{name}, largest step"));
            assert_eq!(got.max_step_at as u64, u["max_step_at_level"].as_u64().unwrap(), "{name}, where");
        }
    }
}

/// Kubelka 1948. The pigments' spectra are approximations made for this project, not measurements; what is checked is
/// the optics: eight bands against themselves computed elsewhere, and against thirty-six.
#[test]
fn films_of_mixtures_reflect_as_computed_elsewhere() {
    for c in cases(&data(include_str!("data/20_films.json"))["cases"]) {
        let mut reflectance = [number(&c["ground"]); BANDS];
        for layer in cases(&c["layers"]) {
            let parts = layer["concentrations"].as_object().expect("concentrations");
            let (k, s) =
                pigment::mix(parts.iter().map(|(code, v)| (code.as_str(), number(v)))).expect("a mixture");
            let thickness = layer["thickness_mm"].as_f64().unwrap_or(f64::INFINITY);
            for b in 0..BANDS {
                reflectance[b] = film::reflectance(k[b], s[b], thickness, reflectance[b]);
            }
        }
        for (b, want) in numbers(&c["band8"]["reflectance"]).iter().enumerate() {
            close(reflectance[b], *want, 1e-4, &format!("{} {}, band {b}", c["id"], c["kind"]));
        }
        let lab = colour::lab(colour::xyz(&reflectance));
        let fine: [f64; 3] = numbers(&c["expected"]["Lab"]).try_into().expect("three numbers");
        let allowed = number(&c["band8"]["dE00_vs_36"]) + 0.05;
        let apart = colour::delta_e(lab, fine);
        assert!(apart <= allowed, "{}: {apart} from 36 bands, allowed {allowed}", c["id"]);
    }
}

/// Sharma, Wu & Dalal 2005, table 1 (pair 14 from memory).
#[test]
fn colour_differences_match_the_published_pairs() {
    let mut count = 0;
    for line in include_str!("data/ciede2000_sharma.csv").lines().skip(1) {
        let v: Vec<f64> = line.split(',').map(|cell| cell.parse().expect("a number")).collect();
        let (a, b) = ([v[1], v[2], v[3]], [v[4], v[5], v[6]]);
        close(colour::delta_e(a, b), v[7], 1e-4, &format!("pair {}", v[0]));
        close(colour::delta_e(b, a), v[7], 1e-4, &format!("pair {}, turned round", v[0]));
        count += 1;
    }
    assert_eq!(count, 34);
}

/// W3C Compositing and Blending Level 1: twelve separable modes and four that are not, premultiplied results.
#[test]
fn colours_blend_as_the_standard_says() {
    let data = data(include_str!("data/05_blend_modes.json"));
    let mut checked = 0;
    for case in cases(&data["cases"]) {
        let colour = |name: &str| -> [f64; 4] {
            numbers(&case[name])
                .iter()
                .map(|v| v / 255.0)
                .collect::<Vec<_>>()
                .try_into()
                .expect("four channels")
        };
        for (mode, want) in case["blend"].as_object().expect("modes") {
            let blend: Blend =
                serde_json::from_value(Value::from(mode.as_str())).expect("a mode of the standard");
            let got = blend.over(colour("backdrop"), colour("source"));
            for (c, (got, want)) in got.iter().zip(numbers(want)).enumerate() {
                close(*got, want, 1e-8, &format!("{mode}, channel {c} of {case}"));
            }
            checked += 1;
        }
    }
    assert_eq!(checked, 640, "every case of every mode");
}
