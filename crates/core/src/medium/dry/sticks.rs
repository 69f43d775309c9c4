//! What dry sticks are: the powder they leave, and how hard, friable, coarse and binding they are.
//!
//! Numbers of vine, compressed, sanguine, chalk and of graphite HB and 4B are the dry study's (tuned by eye there); grades of
//! graphite lie on a smooth run through those: the harder, the more clay (order of grades: common practice, no source).

use std::sync::OnceLock;

use crate::chain::Choice;
use crate::paint::BANDS;
use crate::paint::pigment::{Powder, find, mix};

/// Names and labels of all sticks. Pixels remember a stick by its place here: new ones join at the end.
pub const STICKS: [(&str, &str); 27] = [
    ("charcoal", "charcoal, vine"),
    ("compressed", "charcoal, compressed"),
    ("sanguine", "sanguine"),
    ("chalk", "chalk white"),
    ("graphite-2h", "graphite 2H"),
    ("graphite-hb", "graphite HB"),
    ("graphite-2b", "graphite 2B"),
    ("graphite-6b", "graphite 6B"),
    ("pastel-blue", "pastel, marsh blue"),
    ("pastel-umber", "pastel, umber"),
    ("graphite-6h", "graphite 6H"),
    ("graphite-5h", "graphite 5H"),
    ("graphite-4h", "graphite 4H"),
    ("graphite-3h", "graphite 3H"),
    ("graphite-h", "graphite H"),
    ("graphite-f", "graphite F"),
    ("graphite-b", "graphite B"),
    ("graphite-3b", "graphite 3B"),
    ("graphite-4b", "graphite 4B"),
    ("graphite-5b", "graphite 5B"),
    ("graphite-7b", "graphite 7B"),
    ("graphite-8b", "graphite 8B"),
    ("graphite-9b", "graphite 9B"),
    ("pencil-ochre", "coloured pencil, ochre"),
    ("pencil-blue", "coloured pencil, slate blue"),
    ("pencil-red", "coloured pencil, brick red"),
    ("willow", "charcoal, willow"),
];

/// One of the sticks.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Stick(u16);

impl Choice for Stick {
    const OPTIONS: &'static [(&'static str, &'static str)] = &STICKS;
    const ALL: &'static [Self] = &{
        let mut all = [Stick(0); STICKS.len()];
        let mut i = 0;
        while i < all.len() {
            all[i] = Stick(i as u16);
            i += 1;
        }
        all
    };
}

impl Stick {
    pub fn name(self) -> &'static str {
        STICKS[usize::from(self.0)].0
    }

    /// Its number, from 1, as pixels remember it; 0 is none.
    pub fn number(self) -> u16 {
        self.0 + 1
    }

    pub fn powder(self) -> &'static Powder {
        numbered(self.number())
    }
}

/// The powder of the stick of this number, which is one.
pub fn numbered(number: u16) -> &'static Powder {
    static TABLE: OnceLock<Vec<Powder>> = OnceLock::new();
    let table = TABLE.get_or_init(|| Stick::ALL.iter().map(|s| made(*s)).collect());
    &table[usize::from(number) - 1]
}

/// How many grades a graphite is softer than HB; nothing for another stick.
pub fn grade(stick: &str) -> Option<f64> {
    let grade = stick.strip_prefix("graphite-")?;
    let steps = |text: &str| if text.is_empty() { Some(1.0) } else { text.parse::<f64>().ok() };
    match grade {
        "hb" => Some(0.0),
        "f" => Some(-0.5),
        _ => match (grade.strip_suffix('b'), grade.strip_suffix('h')) {
            (Some(n), _) => steps(n),
            (_, Some(n)) => steps(n).map(|n| -n),
            _ => None,
        },
    }
}

/// What a stick is by nature, as parameters of a tool: a point of it for graphite and pencils, its side for the rest.
pub fn nature(stick: Stick) -> [(&'static str, f64); 8] {
    let name = stick.name();
    let [hardness, give, deposit, fill, grit, grain, face, bound] = match name {
        "charcoal" => [16.0, 18.0, 6.2, 12.0, 4.6, 0.75, 3.2, 0.15],
        "compressed" => [23.0, 22.0, 8.5, 13.0, 4.2, 0.7, 3.0, 0.5],
        "sanguine" => [19.0, 21.0, 9.0, 24.0, 4.0, 0.6, 3.0, 0.3],
        "chalk" => [17.0, 20.0, 13.0, 30.0, 4.0, 0.7, 3.0, 0.3],
        "willow" => [20.0, 17.0, 6.8, 11.0, 4.2, 0.72, 2.8, 0.18],
        _ if name.starts_with("pastel") => [14.0, 26.0, 12.0, 32.0, 3.4, 0.55, 2.4, 0.25],
        // Wax and clay: it builds a film that holds, and burnishes.
        _ if name.starts_with("pencil") => [620.0, 13.0, 7.0, 12.0, 1.8, 0.45, 0.9, 0.97],
        _ => {
            let g = grade(name).expect("every other stick is a grade of graphite (tested)");
            [
                1500.0 * libm::exp(-0.166 * g),
                12.0 + 0.25 * g.max(-4.0),
                12.0 * libm::exp(0.0766 * g),
                5.5 * libm::exp(0.091 * g),
                2.2 + 0.1 * g.max(-6.0),
                0.6 + 0.013 * g,
                1.2 + 0.085 * g.max(-6.0),
                0.85 - 0.0217 * g,
            ]
        }
    };
    let round = |v: f64, to: f64| libm::round(v / to) * to;
    [
        ("load.hardness_gf_mm2", round(hardness, 1.0)),
        ("load.give_um", round(give, 0.5)),
        ("load.deposit_um_mm", round(deposit, 0.1)),
        ("load.fill_um", round(fill, 0.5)),
        ("load.grit_um", round(grit, 0.1)),
        ("load.grain", round(grain, 0.01)),
        ("load.face_um", round(face, 0.1)),
        ("load.bound", round(bound.clamp(0.0, 0.98), 0.01)),
    ]
}

/// The powder of a stick.
///
/// Made as in the dry study: blacks take their absorption from the pigment and scatter as much as makes a closed layer
/// reflect R∞ (air lies between the grains); earths and whites are mixtures with more scatter than in oil; in a pencil's wax
/// little air is left. The factors and R∞ are tuned by eye.
fn made(stick: Stick) -> Powder {
    let black = |code: &str, reflectance: f64| {
        let p = find(code).expect("the blacks ship with the program");
        let ratio = (1.0 - reflectance) * (1.0 - reflectance) / (2.0 * reflectance);
        (p.k, p.k.map(|k| k / ratio))
    };
    let mixed = |parts: &[(&str, f64)], scatter: f64| {
        let (k, s) = mix(parts.iter().copied()).expect("shipped pigments");
        (k, s.map(|s| s * scatter))
    };
    let (k, s) = match stick.name() {
        "charcoal" => black("PBk9", 0.055),
        "compressed" => black("PBk6", 0.036),
        "sanguine" => mixed(&[("PR101", 0.85), ("PW4", 0.15)], 1.5),
        // The softer the grade, the more graphite and the less clay: blacker.
        "graphite-2h" => black("PBk6", 0.18),
        "graphite-hb" => black("PBk6", 0.14),
        "graphite-2b" => black("PBk6", 0.108),
        "graphite-6b" => black("PBk6", 0.072),
        "pastel-blue" => mixed(&[("PB29", 0.17), ("PBr7bu", 0.09), ("PW4", 0.55), ("PW6", 0.06)], 1.0),
        "pastel-umber" => mixed(&[("PBr7bu", 0.56), ("PBk9", 0.06), ("PW4", 0.38)], 1.0),
        "pencil-ochre" => mixed(&[("PY43", 0.5), ("PBr7bu", 0.16), ("PW4", 0.1)], 0.8),
        "pencil-blue" => mixed(&[("PB29", 0.3), ("PBk9", 0.05), ("PW4", 0.15)], 0.8),
        "pencil-red" => mixed(&[("PR101", 0.4), ("PW4", 0.1)], 0.8),
        "chalk" => {
            let white = find("PW6").expect("shipped pigment");
            let ochre = find("PY43").expect("shipped pigment");
            let mut out = (white.k.map(|k| k * 2.0), white.s.map(|s| s * 1.3));
            for b in 0..BANDS {
                out.0[b] += 0.012 * ochre.k[b];
                out.1[b] += 0.012 * ochre.s[b];
            }
            out
        }
        "willow" => black("PBk9", 0.05),
        name => {
            let g = grade(name).expect("every other stick is a grade of graphite (tested)");
            black("PBk6", 0.14 * libm::exp(-0.111 * g))
        }
    };
    // Graphite's flakes lie flat and gleam; wax a little (tuned by eye).
    let sheen = match stick.name() {
        name if name.starts_with("graphite") => 0.45,
        name if name.starts_with("pencil") => 0.15,
        _ => 0.0,
    };
    Powder { k_um: k.map(|v| (v * 1e-3) as f32), s_um: s.map(|v| (v * 1e-3) as f32), sheen }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::chain::Kind;
    use crate::medium::dry::parameters::PARAMETERS;
    use crate::paint::{colour, film};

    #[test]
    fn every_stick_has_its_number_and_its_nature_lies_within_limits() {
        for (i, stick) in Stick::ALL.iter().enumerate() {
            assert_eq!(usize::from(stick.number()), i + 1);
            assert_eq!(*stick.powder(), made(*stick));
            for (id, value) in nature(*stick) {
                let declared = PARAMETERS.find(id).unwrap_or_else(|| panic!("{id} is no parameter"));
                let Kind::Number { low, high, .. } = declared.kind else { panic!("{id} is no number") };
                assert!(low <= value && value <= high, "{}: {id} is {value}", stick.name());
            }
        }
    }

    /// Handbook order of grades, hard to soft and pale to dark (common practice, no source).
    #[test]
    fn grades_of_graphite_run_from_hard_and_pale_to_soft_and_dark() {
        let order = [
            "6h", "5h", "4h", "3h", "2h", "h", "f", "hb", "b", "2b", "3b", "4b", "5b", "6b", "7b", "8b", "9b",
        ];
        let of = |grade: &str| {
            let name = format!("graphite-{grade}");
            let stick = Stick::named(&name).expect("a stick");
            let p = stick.powder();
            (nature(stick)[0].1, f64::from(p.s_um[4] / p.k_um[4]))
        };
        for pair in order.windows(2) {
            let (hard, soft) = (of(pair[0]), of(pair[1]));
            assert!(hard.0 > soft.0, "{} is harder than {}", pair[0], pair[1]);
            assert!(hard.1 > soft.1, "{} is paler than {}", pair[0], pair[1]);
        }
    }

    /// The dry study, "what mattered", 3: a pass must not saturate, or spots become flat patches.
    #[test]
    fn a_thin_layer_of_pastel_is_paler_than_a_thick_one() {
        let lightness = |stick: &str, um: f32| {
            let p = Stick::named(stick).expect("a stick").powder();
            let film = film::over(&p.k_um.map(|k| k * um), &p.s_um.map(|s| s * um), &[0.9; BANDS]);
            colour::lab(colour::xyz(&film.map(f64::from)))[0]
        };
        for stick in ["pastel-blue", "pastel-umber", "sanguine"] {
            let [thin, middle, thick] = [6.0, 12.0, 24.0].map(|um| lightness(stick, um));
            assert!(thin - middle > 3.0 && middle - thick > 3.0, "{stick}: L* {thin} {middle} {thick}");
        }
    }
}
