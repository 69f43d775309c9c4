//! How fast a ripple on a thin viscous film goes down by surface tension.
//!
//! Orchard 1962, thin-film limit: `a(t) = a₀·exp(−16·π⁴·γ·h³·t/(3·λ⁴·η))`. Paint that stands up has a yield stress besides, which no
//! ripple below it overcomes: this is how it would level without.

use std::f64::consts::PI;

/// Rate at which a ripple decays, 1/s: surface tension N/m, mean film and wavelength m, viscosity Pa·s.
pub fn rate(tension: f64, film_m: f64, wavelength_m: f64, viscosity: f64) -> f64 {
    let cube = film_m * film_m * film_m;
    let fourth = wavelength_m * wavelength_m * wavelength_m * wavelength_m;
    16.0 * libm::pow(PI, 4.0) * tension * cube / (3.0 * fourth * viscosity)
}

/// What is left of an amplitude after so long, s.
pub fn amplitude(first: f64, rate: f64, seconds: f64) -> f64 {
    first * libm::exp(-rate * seconds)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The thin-film equation `∂h/∂t = −(γ/3η)·∂/∂x(h³·∂³h/∂x³)` by finite differences, against the closed form.
    #[test]
    fn a_small_ripple_of_a_film_decays_at_orchards_rate() {
        let (tension, film, wavelength, viscosity) = (0.03, 5e-5, 2e-3, 1.0);
        let wanted = rate(tension, film, wavelength, viscosity);
        const N: usize = 32;
        let dx = wavelength / N as f64;
        let mut h: Vec<f64> =
            (0..N).map(|i| film * (1.0 + 0.02 * libm::cos(2.0 * PI * i as f64 / N as f64))).collect();
        let amplitude = |h: &[f64]| {
            let part = |i: usize| (h[i] - film) * libm::cos(2.0 * PI * i as f64 / N as f64);
            2.0 * (0..N).map(part).sum::<f64>() / N as f64
        };
        let first = amplitude(&h);
        // Well within the stable step of the stiffest ripple.
        let step = 0.05 * 3.0 * viscosity * dx * dx * dx * dx / (tension * film * film * film);
        let steps = (1.0 / wanted / step).ceil() as usize;
        for _ in 0..steps {
            let at = |i: isize| h[i.rem_euclid(N as isize) as usize];
            let flux: Vec<f64> = (0..N as isize)
                .map(|i| {
                    let third = (at(i + 2) - 3.0 * at(i + 1) + 3.0 * at(i) - at(i - 1)) / (dx * dx * dx);
                    let mean = 0.5 * (at(i) + at(i + 1));
                    tension / (3.0 * viscosity) * mean * mean * mean * third
                })
                .collect();
            h = (0..N).map(|i| h[i] - step * (flux[i] - flux[(i + N - 1) % N]) / dx).collect();
        }
        let seconds = steps as f64 * step;
        let got = -libm::log(amplitude(&h) / first) / seconds;
        assert!((got / wanted - 1.0).abs() < 0.02, "{got} for {wanted} 1/s");
        let volume: f64 = h.iter().sum::<f64>() / N as f64;
        assert!((volume / film - 1.0).abs() < 1e-9, "nothing is lost");
    }
}
