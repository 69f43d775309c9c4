//! Advice on a brush: what of its parts and its load cannot go together. Which things trap painters is common practice, no source;
//! the limits are our own.

use super::parameters::{halves, is_blade, outline};
use crate::chain::{Action, Settings, Value};
use crate::medium::Word;
use crate::said::Said;
use crate::tip::hair::{self, Stiffness};

/// Hairs that are lowered by more than this share of their length lie flat on the sheet.
const FLAT: f64 = 0.57;
/// Lines of hairs are seen apart down to this, mm.
const LINES_MM: f64 = 0.5;
/// A load that is given within this way is gone before a stroke is, mm.
const SHORT_MM: f64 = 25.0;
/// Of how far paint reaches so much can be laid.
const OF_REACH: f64 = 0.7;

/// What there is to say of a tool that is pressed with `most_gf` at the most.
pub fn advice(tool: &Settings<'_>, most_gf: f64) -> Vec<Word> {
    let n = |id: &str| tool.number(id);
    let mut out = Vec::new();
    let lays = tool.action == Action::Lay;
    let [half, thick] = halves(tool);
    let count = n("tip.hair_count");
    if !is_blade(tool) {
        let length = n("tip.hair_length_mm") * outline(tool.chosen("tip.ferrule")).length;
        let of = |hairs: f64| {
            Stiffness::new(n("tip.hair_mm"), n("tip.hair_gpa"), length, hairs, hair::uneven_mm(tool), 30.0)
                .lowered_mm(most_gf)
        };
        // A blender is meant to lie down.
        if lays && of(count) > FLAT * length {
            // Force is shared: so many hairs more bend so much less.
            let mut hairs = count;
            while hairs < 400.0 && of(hairs) > 0.8 * FLAT * length {
                hairs = (1.2 * hairs).ceil().min(400.0);
            }
            let more = of(hairs) <= FLAT * length;
            let stiffer = (n("tip.hair_mm") * 1.3).min(0.3);
            out.push(Word {
                code: "limp-hairs",
                sentence: Said::new("Pressed with {{force}} gf, {{count}} hairs of this kind lie flat: their marks overlap and the press is felt no more.")
                    .count("force", most_gf, 0)
                    .count("count", count, 0),
                remedy: if more {
                    Said::new("take {{count}} hairs").count("count", hairs, 0)
                } else {
                    Said::new("take hairs of {{thick}} mm").count("thick", stiffer, 2)
                },
                set: if more {
                    vec![("tip.hair_count", Value::Number(hairs))]
                } else {
                    vec![("tip.hair_mm", Value::Number((stiffer * 100.0).round() / 100.0))]
                },
            });
        }
        // Hairs in the front row of a tip of so many over its section.
        let row = (count * half / thick).sqrt();
        if n("relief.hair_um") > 0.0 && tool.action != Action::Cut && row < 2.0 * half / LINES_MM / 4.0 {
            let wanted = 2.0 * half / LINES_MM / 3.0;
            let needed = (wanted * wanted * thick / half).ceil().clamp(6.0, 400.0);
            out.push(Word {
                code: "few-hairs",
                sentence: Said::new(
                    "{{count}} hairs over {{width}} mm stand too far apart for the lines that they are to draw.",
                )
                .count("count", count, 0)
                .count("width", 2.0 * half, 0),
                remedy: Said::new("take {{count}} hairs").count("count", needed, 0),
                set: vec![("tip.hair_count", Value::Number(needed))],
            });
        }
    }
    if lays && !tool.switch("load.endless") {
        let per_mm = 1e-3 * n("relief.lay_um").max(1.0) * 2.0 * half;
        let lasts = 1e3 * n("load.ml") / per_mm;
        if lasts < SHORT_MM {
            let wanted = (4.0 * SHORT_MM * per_mm * 1e-3 / 0.0005).ceil() * 0.0005;
            out.push(Word {
                code: "short-load",
                sentence: Said::new(
                    "The load is given within about {{way}} mm: no stroke of the proof sheet is as short.",
                )
                .count("way", lasts, 0),
                remedy: Said::new("load {{load}} ml").count("load", wanted.min(5.0), 3),
                set: vec![("load.ml", Value::Number(wanted.min(5.0)))],
            });
        }
    }
    let (lay, reach) = (n("relief.lay_um"), n("relief.reach_um"));
    if lays && !is_blade(tool) && lay > OF_REACH * reach {
        let wanted = (lay / OF_REACH).ceil().min(800.0);
        out.push(Word {
            code: "two-limits",
            sentence: Said::new("Load and height limit each other: {{lay}} µm are to be laid, but paint reaches {{reach}} µm, of which {{most}} can be.")
                .count("lay", lay, 0)
                .count("reach", reach, 0)
                .count("most", OF_REACH * reach, 0),
            remedy: Said::new("let paint reach {{reach}} µm").count("reach", wanted, 0),
            set: vec![("relief.reach_um", Value::Number(wanted))],
        });
    }
    out
}
