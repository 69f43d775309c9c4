//! Papers: what a surface gauge would say of them, no seam, no repeat within a sheet.
#![allow(clippy::disallowed_methods)] // what is expected may come from the standard library

mod common;

use common::ground;
use saltmarsh_core::ground::{Feel, PERIOD_PX, Paper, Region, texture};

/// Figures of the dry study's own papers (tuned by eye there, not measured on real ones): Sa µm, Sq µm, Ssk, Sku.
const STUDY: [(Paper, [f64; 4]); 3] = [
    (Paper::HotPressed, [2.0, 2.5, -0.86, 3.8]),
    (Paper::ColdPressed, [9.6, 11.7, -0.31, 2.4]),
    (Paper::Rough, [24.1, 29.6, -0.21, 2.7]),
];

#[test]
fn papers_measure_as_the_study_s_do() {
    for (paper, [sa, sq, ssk, sku]) in STUDY {
        let patch = ground(paper).patch(Region::new(1000, 3000, 1024, 1024));
        let got = texture::measure(&patch.height);
        let name = paper.name();
        assert!((got.sa_um / sa - 1.0).abs() < 0.15, "{name}: Sa {} µm, study {sa}", got.sa_um);
        assert!((got.sq_um / sq - 1.0).abs() < 0.15, "{name}: Sq {} µm, study {sq}", got.sq_um);
        assert!((got.ssk - ssk).abs() < 0.6, "{name}: Ssk {}, study {ssk}", got.ssk);
        assert!((got.sku - sku).abs() < 0.9, "{name}: Sku {}, study {sku}", got.sku);
    }
}

#[test]
fn a_piece_is_the_same_wherever_it_is_cut_from() {
    for paper in Paper::ALL {
        let large = ground(paper).patch(Region::new(200, -300, 500, 200));
        let small = ground(paper).patch(Region::new(470, -180, 90, 40));
        for j in 0..40 {
            for i in 0..90 {
                let (a, b) = (large.height[(j + 120) * 500 + i + 270], small.height[j * 90 + i]);
                assert_eq!(a, b, "{} at {i}, {j}", paper.name());
            }
        }
    }
}

/// Root mean square of the step from one column to the next.
fn steps(heights: &[f32], width: usize, column: usize) -> f64 {
    let rows = heights.len() / width;
    let sum: f64 = heights
        .chunks_exact(width)
        .map(|row| f64::from(row[column + 1] - row[column]) * f64::from(row[column + 1] - row[column]))
        .sum();
    (sum / rows as f64).sqrt()
}

#[test]
fn papers_join_without_a_seam_where_they_repeat() {
    for paper in Paper::ALL {
        let ground = ground(paper);
        let patch = ground.patch(Region::new(PERIOD_PX - 40, 500, 80, 2400));
        let across = steps(&patch.height, 80, 39);
        let inside: Vec<f64> = (0..79).filter(|c| *c != 39).map(|c| steps(&patch.height, 80, c)).collect();
        let (low, high) = inside.iter().fold((f64::MAX, 0.0_f64), |(l, h), v| (l.min(*v), h.max(*v)));
        assert!(
            across >= 0.85 * low && across <= 1.15 * high,
            "{}: seam {across}, inside {low}–{high}",
            paper.name()
        );
        let again = ground.patch(Region::new(-40, 500, 80, 2400));
        assert_eq!(patch.height, again.height, "{} repeats after its period", paper.name());
    }
}

#[test]
fn no_paper_repeats_within_a_sheet() {
    // 150 mm, the width of a plate; rows apart, so that the mean over them is a mean over many places.
    let (width, rows) = (3000_usize, 48_usize);
    for paper in Paper::ALL {
        let ground = ground(paper);
        let mut lines: Vec<Vec<f64>> = Vec::new();
        for r in 0..rows {
            let row = ground.patch(Region::new(0, r as i64 * 12, width, 1)).height;
            let mean = row.iter().map(|h| f64::from(*h)).sum::<f64>() / width as f64;
            lines.push(row.iter().map(|h| f64::from(*h) - mean).collect());
        }
        let power: f64 = lines.iter().flatten().map(|h| h * h).sum::<f64>() / (rows * width) as f64;
        let mut worst = (0.0_f64, 0);
        for lag in (200..width - 300).step_by(1) {
            let sum: f64 = lines
                .iter()
                .map(|l| l[..width - lag].iter().zip(&l[lag..]).map(|(a, b)| a * b).sum::<f64>())
                .sum();
            let r = sum / (rows * (width - lag)) as f64 / power;
            if r > worst.0 {
                worst = (r, lag);
            }
        }
        assert!(
            worst.0 < 0.2,
            "{}: correlation {} after {} mm",
            paper.name(),
            worst.0,
            worst.1 as f64 * 0.05
        );
    }
}

#[test]
fn scale_depth_and_swap_do_what_they_say() {
    let ground = ground(Paper::ColdPressed);
    let raster = saltmarsh_core::ground::sampled::Raster { pixel_mm: 0.1, origin_mm: [0.0, 0.0] };
    let tile = |feel: Feel, x: i64| raster.tile(&ground, feel, x, 0, 64);
    let plain = tile(Feel::default(), 0);
    let swapped = tile(Feel { swap: true, ..Feel::default() }, 0);
    assert!(
        plain.height.iter().zip(&swapped.height).all(|(a, b)| *a == -*b),
        "peaks and hollows change places"
    );
    // Twice the scale at twice the pixel is the same tooth.
    let coarse = saltmarsh_core::ground::sampled::Raster { pixel_mm: 0.2, origin_mm: [0.0, 0.0] };
    let doubled = coarse.tile(&ground, Feel { scale: 2.0, ..Feel::default() }, 0, 0, 64);
    assert!(
        plain.height.iter().zip(&doubled.height).all(|(a, b)| (a - b).abs() < 1e-3),
        "scale widens the tooth"
    );
    // A tip that follows the swells meets less of them.
    let variance = |h: &[f32]| h.iter().map(|v| f64::from(v * v)).sum::<f64>() / h.len() as f64;
    let followed = tile(Feel { follow: 1.0, follow_mm: 0.4, ..Feel::default() }, 0);
    let less = variance(&followed.height) / variance(&plain.height);
    assert!(less < 0.8, "variance falls to {less}");
}
