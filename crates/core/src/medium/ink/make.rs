//! What an ink tool is made of, by its parameters.

use super::parameters::{Dries, Form};
use crate::chain::Settings;
use crate::medium::wash::acting::hairs::Hairs;
use crate::medium::wash::acting::make::Make;
use crate::medium::wash::acting::nib::Nib;
use crate::medium::wash::acting::prints::Face;
use crate::medium::wash::acting::shape;
use crate::medium::wash::parameters::Stuff;

/// Share of the water under it that a touch changes for ink: as a brush of watercolour does (tuned by eye).
const MINGLES: f32 = 0.06;

/// Its tip.
pub fn of(tool: &Settings<'_>) -> Make {
    let n = |id: &str| tool.number(id);
    let form: Form = tool.chosen("tip.form");
    let brush = form == Form::Brush;
    let half = 0.5 * n("tip.width_mm");
    let thick = if form == Form::Edge { 0.5 * n("tip.thick_mm").min(n("tip.width_mm")) } else { half };
    let ink_mm3 = 1e3 * n("load.ml");
    let nib = Nib {
        opens_mm_gf: if form == Form::Point { 1e-3 * n("tip.opens_um_gf") } else { 0.0 },
        most_mm: n("tip.most_mm"),
        feeds_mm3_s: n("load.feeds_mm3_s"),
    };
    Make {
        face: match form {
            Form::Point => Face::Point,
            Form::Edge => Face::Edge,
            Form::Brush => Face::Round,
        },
        seed: u64::from(tool.seed),
        turned_by: tool.chosen("tip.angle_from"),
        half_mm: [half, thick],
        bends: brush.then(|| shape::bends(tool)),
        splay: n("tip.splay"),
        hairs: Hairs::new(
            u64::from(tool.seed),
            if brush { n("ground.hair_lines") } else { 0.0 },
            [n("load.uneven_water"), 0.0],
        ),
        nib: (!brush).then_some(nib),
        stuff: Stuff::Water,
        dose: 0.0,
        vehicle: tool.chosen::<Dries>("load.dries").into(),
        gives: n("mix.gives") as f32,
        mingles: MINGLES,
        gives_back: 0.0,
        loosens: 0.0,
        endless: tool.switch("load.endless"),
        loaded_mm3: ink_mm3,
        most_mm3: ink_mm3,
        drop_mm: 0.0,
        apart_mm: 0.0,
    }
}
