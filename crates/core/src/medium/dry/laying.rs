//! What a dab lays: powder of a stick, by contact or as an image.

use super::entry::Entering;
use super::parameters::Overlap;
use super::sticks::Stick;
use crate::chain::Settings;
use crate::paint::pigment::Powder;

/// What a stick is, for a whole stroke.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Powdering {
    pub powder: Powder,
    /// Its number ([`super::sticks::Stick::number`]).
    pub number: f32,
    /// H, gf/mm².
    pub hardness: f32,
    /// δ, µm.
    pub give: f32,
    /// k, µm per mm of travel.
    pub deposit: f32,
    /// M₀, µm.
    pub fill: f32,
    /// h_g, µm.
    pub grit: f32,
    /// g.
    pub grain: f32,
    /// τ, µm.
    pub face: f32,
    /// Share of powder that the paper holds.
    pub bound: f32,
    /// The stroke stays one even film instead of building up.
    pub even: bool,
}

/// What a dab lays.
pub struct Laying<'a> {
    pub stick: &'a Powdering,
    /// Share of the tooth that may be filled.
    pub opacity: f32,
    /// Number of this stroke, for even films.
    pub stroke: f32,
    /// Length of the footprint along the way, mm: one full pass, for even films.
    pub pass: f32,
    /// Where the ground enters as an image; nothing for contact.
    pub entering: Option<Entering>,
}

impl Powdering {
    /// As a tool is tuned.
    pub fn of(tool: &Settings<'_>) -> Self {
        let n = |id: &str| tool.number(id) as f32;
        let stick: Stick = tool.chosen("load.stick");
        Self {
            powder: *stick.powder(),
            number: f32::from(stick.number()),
            hardness: n("load.hardness_gf_mm2"),
            give: n("load.give_um"),
            deposit: n("load.deposit_um_mm"),
            fill: n("load.fill_um"),
            grit: n("load.grit_um"),
            grain: n("load.grain"),
            face: n("load.face_um"),
            bound: n("load.bound"),
            even: tool.chosen::<Overlap>("touch.build") == Overlap::Even,
        }
    }
}
