//! What a tip that works with water is made of, whichever medium's parameters say so.

use super::hairs::Hairs;
use super::nib::Nib;
use super::prints::Face;
use super::shape;
use crate::chain::{Action, Settings};
use crate::medium::wash::parameters::{self, Form, Stuff};
use crate::medium::wash::pigments::Vehicle;
use crate::tip::TurnedBy;
use crate::tip::hair::Bends;

/// A tip, and what it is loaded with.
#[derive(Debug, Clone)]
pub struct Make {
    pub face: Face,
    pub seed: u64,
    pub turned_by: TurnedBy,
    /// Half the width and half the thickness, mm.
    pub half_mm: [f64; 2],
    /// How its hairs bend and spread, and how they differ; nothing where it has none that bend.
    pub bends: Option<Bends>,
    pub splay: f64,
    pub hairs: Hairs,
    /// How it opens and feeds, if it is a nib.
    pub nib: Option<Nib>,
    pub stuff: Stuff,
    pub dose: f32,
    pub vehicle: Vehicle,
    /// Shares of what is missing that a touch gives; of the water there that it changes for its own; of found paint that goes back; how far
    /// it rubs loose.
    pub gives: f32,
    pub mingles: f32,
    pub gives_back: f32,
    pub loosens: f32,
    pub endless: bool,
    /// What it is loaded with, and the most that it can hold, mm³.
    pub loaded_mm3: f64,
    pub most_mm3: f64,
    /// Diameter of the largest drops, mm, and the travel from one to the next.
    pub drop_mm: f64,
    pub apart_mm: f64,
}

/// What is no brush can hold so many times what it is given (tuned by eye).
const SPONGE: f64 = 2.0;

impl Make {
    /// Of a tool of watercolour.
    pub fn of_wash(tool: &Settings<'_>) -> Self {
        let n = |id: &str| tool.number(id);
        let form: Form = tool.chosen("tip.form");
        let hairs = parameters::has_hairs(tool);
        let lines = if form == Form::Drops { 0.0 } else { n("ground.hair_lines") };
        let given = 1e3 * n("load.ml");
        let most_mm3 =
            if hairs { parameters::held_mm3(tool, tool.chosen("tip.hair")) } else { SPONGE * given };
        Self {
            face: match form {
                Form::Round | Form::Rigger => Face::Round,
                Form::Mop => Face::Mop,
                Form::Flat => Face::Flat,
                Form::Sponge => Face::Sponge,
                Form::Drops => Face::Drops,
            },
            seed: u64::from(tool.seed),
            turned_by: tool.chosen("tip.angle_from"),
            half_mm: parameters::halves(tool),
            bends: hairs.then(|| shape::bends(tool)),
            splay: n("tip.splay"),
            hairs: Hairs::new(u64::from(tool.seed), lines, [n("load.uneven_water"), n("load.uneven")]),
            nib: None,
            stuff: parameters::stuff(tool),
            dose: n("load.dose") as f32,
            vehicle: Vehicle::Gum,
            gives: n("mix.gives") as f32,
            mingles: if form == Form::Drops { 0.0 } else { n("mix.mingles") as f32 },
            gives_back: n("mix.gives_back") as f32,
            loosens: n("mix.loosen") as f32,
            endless: tool.action != Action::Lift && tool.switch("load.endless"),
            loaded_mm3: if tool.action == Action::Lift { 0.0 } else { given.min(most_mm3) },
            most_mm3,
            drop_mm: n("tip.drop_mm"),
            apart_mm: n("tip.apart_mm"),
        }
    }

    /// Half axes of its print, mm, held and moved so, and how far hairs are pressed down, mm.
    pub fn axes(&mut self, force_gf: f64, tilt_deg: f64, pulled: f64) -> ([f64; 2], f64) {
        if let Some(nib) = &self.nib {
            return (nib.axes(self.half_mm, force_gf, pulled), 0.0);
        }
        let Some(bends) = &mut self.bends else { return (self.half_mm, 0.0) };
        let lowered = bends.lowered_mm(force_gf, tilt_deg);
        (self.face.half_axes(self.half_mm, bends.length_mm(), self.splay, lowered), lowered.max(0.0))
    }
}
