//! Height maps against ISO 25178-2:2021 (figures and tolerances of `data/04_surface_texture.json`, checked there with an
//! independent program) and against the bearing area of Abbott & Firestone 1933 (`data/11_coverage_rule.json`).

use saltmarsh_core::ground::texture;
use saltmarsh_formats::image::read_grey;
use serde_json::Value;

fn heights(case: &Value) -> (Vec<f64>, usize) {
    let name = case["png"].as_str().expect("a file name");
    let path = format!("{}/tests/data/maps/{name}", env!("CARGO_MANIFEST_DIR"));
    let grey = read_grey(&std::fs::read(path).expect("the map is there")).expect("a 16-bit grey PNG");
    let of = |field: &str| case[field].as_f64().expect("a number");
    let (low, step) = (of("z_min_um"), of("um_per_code"));
    (grey.values().iter().map(|v| low + f64::from(*v) * step).collect(), grey.width())
}

fn cases(text: &str) -> Vec<Value> {
    let data: Value = serde_json::from_str(text).expect("test data is JSON");
    data["cases"].as_array().expect("cases").clone()
}

#[test]
fn surfaces_measure_as_iso_25178_says() {
    for case in cases(include_str!("data/04_surface_texture.json")) {
        let (decoded, width) = heights(&case);
        let name = &case["name"];
        for which in ["as_is", "levelled"] {
            let map = if which == "levelled" { texture::levelled(&decoded, width) } else { decoded.clone() };
            let t = texture::measure(&map);
            let figures = [
                ("Sa_um", t.sa_um),
                ("Sq_um", t.sq_um),
                ("Ssk", t.ssk),
                ("Sku", t.sku),
                ("Sp_um", t.sp_um),
                ("Sv_um", t.sv_um),
                ("Sz_um", t.sz_um),
                ("Sdr_percent", texture::developed(&map, width, case["pixel_um"].as_f64().expect("a pitch"))),
            ];
            for (figure, got) in figures {
                let want = case[which][figure].as_f64().expect("a figure");
                let most = if figure == "Sdr_percent" { 1e-6 * want } else { (1e-9 * want.abs()).max(1e-9) };
                assert!((got - want).abs() <= most, "{name}, {which}: {figure} is {got}, want {want}");
            }
        }
        for at in case["Smr"].as_array().expect("material ratios") {
            let got = texture::material_ratio(&decoded, at["c_um"].as_f64().expect("a height"));
            let want = at["Smr"].as_f64().expect("a share");
            assert!((got - want).abs() < 1e-6, "{name}: Smr({}) is {got}, want {want}", at["c_um"]);
        }
    }
}

#[test]
fn a_flat_tip_covers_what_lies_over_its_depth() {
    for case in cases(include_str!("data/11_coverage_rule.json")) {
        let (map, width) = heights(&case);
        let covered = |under: &[f64], at: &Value| {
            let highest = under.iter().copied().fold(f64::MIN, f64::max);
            texture::material_ratio(under, highest - at["penetration_um"].as_f64().expect("a depth"))
        };
        for at in case["direct"].as_array().expect("depths") {
            let (got, want) = (covered(&map, at), at["coverage"].as_f64().expect("a share"));
            assert!((got - want).abs() < 2e-5, "{}: covers {got}, want {want}", case["map"]);
        }
        for at in case["window"].as_array().expect("windows") {
            let of = |name: &str| at[name].as_u64().expect("a whole number") as usize;
            let (x0, y0, size) = (of("x0"), of("y0"), of("size"));
            let under: Vec<f64> =
                (y0..y0 + size).flat_map(|y| map[y * width + x0..][..size].to_vec()).collect();
            let (got, want) = (covered(&under, at), at["coverage"].as_f64().expect("a share"));
            assert!((got - want).abs() < 2e-5, "{}, window: covers {got}, want {want}", case["map"]);
        }
    }
}
