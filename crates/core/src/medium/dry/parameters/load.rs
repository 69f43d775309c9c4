//! Load: the stick.

use super::{Reason, brings_nothing, entry, film, forceless, image, lays, spray};
use crate::chain::choice::choices;
use crate::chain::{Action, Choice, Parameter, Settings, Station};
use crate::medium::dry::entry::Entry;
use crate::medium::dry::sticks::Stick;
use crate::paint::blend::Blend;

choices! {
    /// How a tool that the ground enters as an image meets what lies there.
    pub enum LaidAs {
        Powder = "none", "powder";
        Normal = "normal", "even film, normal";
        Multiply = "multiply", "even film, multiply";
        Screen = "screen", "even film, screen";
        Overlay = "overlay", "even film, overlay";
        Darken = "darken", "even film, darken";
        Lighten = "lighten", "even film, lighten";
        ColorDodge = "color-dodge", "even film, color-dodge";
        ColorBurn = "color-burn", "even film, color-burn";
        HardLight = "hard-light", "even film, hard-light";
        SoftLight = "soft-light", "even film, soft-light";
        Difference = "difference", "even film, difference";
        Exclusion = "exclusion", "even film, exclusion";
        Hue = "hue", "even film, hue";
        Saturation = "saturation", "even film, saturation";
        Color = "color", "even film, color";
        Luminosity = "luminosity", "even film, luminosity";
    }
}

impl LaidAs {
    /// The blend mode of a film; nothing for powder.
    pub fn blend(self) -> Option<Blend> {
        Blend::named(Self::OPTIONS[self as usize].0)
    }
}

choices! {
    /// When a point is sharp again.
    pub enum Sharpened {
        Never = "never", "never: it wears on";
        BeforeStroke = "stroke", "before each stroke";
    }
}

pub const OWN: &[Parameter] = &[
    Parameter::choice::<Stick>("load.stick", Station::Load, "Stick", "charcoal", "What the stick is made of: its absorption and scattering spectra.").idle(brings_nothing),
    Parameter::choice::<LaidAs>("load.film", Station::Load, "Laid as", "none", "How a tool that the ground enters as an image meets what lies there: as powder, or as an even film of the stick's colour by a blend mode (W3C Compositing and Blending).").idle(|s| brings_nothing(s).or_else(|| (entry(s) == Entry::Contact).then_some("the ground enters by contact"))),
    Parameter::number("load.hardness_gf_mm2", Station::Load, "Hardness", "gf/mm²", [2.0, 6000.0, 1.0, 16.0], "Pressure at which the stick gives way by its whole depth of give. Soft sticks close the paper at a light touch.").by_ratio().idle(|s| spray(s).or_else(|| forceless(s))),
    Parameter::number("load.give_um", Station::Load, "Give", "µm", [2.0, 80.0, 0.5, 18.0], "How deep the stick sinks into the tooth at its hardness pressure.").idle(|s| spray(s).or_else(|| image(s))),
    Parameter::number("load.deposit_um_mm", Station::Load, "Deposit", "µm/mm", [0.1, 60.0, 0.1, 6.2], "Powder laid for each mm of travel in full contact with empty tooth.").by_ratio().idle(|s| brings_nothing(s).or_else(|| film(s))),
    Parameter::number("load.fill_um", Station::Load, "Fill", "µm", [1.0, 60.0, 0.5, 12.0], "Powder the tooth can hold before it is full.").idle(|s| lays_nothing(s).or_else(|| film(s))),
    Parameter::number("load.grit_um", Station::Load, "Grit", "µm", [0.0, 12.0, 0.1, 4.6], "Roughness of the stick's grain, as height.").idle(|s| spray(s).or_else(|| image(s))),
    Parameter::number("load.grain", Station::Load, "Grain", "", [0.0, 1.5, 0.01, 0.75], "How unevenly the grain sheds.").idle(|s| lays_nothing(s).or_else(|| film(s)).or_else(|| (lays(s) && s.number("load.deposit_um_mm") == 0.0).then_some("nothing is laid"))),
    Parameter::number("load.face_um", Station::Load, "Streaks", "µm", [0.0, 10.0, 0.1, 3.2], "Unevenness of the worn face, which draws faint streaks along the way.").idle(|s| spray(s).or_else(|| image(s))),
    Parameter::number("load.bound", Station::Load, "Held", "", [0.0, 1.0, 0.01, 0.15], "Share of the powder that the paper holds; the rest lies loose and can be smeared or lifted.").idle(|s| brings_nothing(s).or_else(|| film(s))),
    Parameter::number("load.dust", Station::Load, "Dust", "", [0.0, 0.2, 0.001, 0.0], "Share of what full contact wears off that does not stick and falls as dust.").idle(|s| brings_nothing(s).or_else(|| image(s))),
    Parameter::number("load.dust_mm", Station::Load, "Dust falls over", "mm", [0.5, 30.0, 0.1, 4.0], "Travel over which most of the dust has fallen into hollows of the tooth.").by_ratio().idle(|s| brings_nothing(s).or_else(|| (s.number("load.dust") == 0.0).then_some("no dust falls")).or_else(|| image(s))),
    Parameter::number("load.blunt", Station::Load, "Blunts to", "×", [1.0, 8.0, 0.05, 1.0], "Width of the worn point over the sharp one: 1 never blunts.").by_ratio().idle(brings_nothing),
    Parameter::number("load.blunt_mm", Station::Load, "Blunts over", "mm", [10.0, 20000.0, 10.0, 800.0], "Travel over which most of a sharp point is worn.").by_ratio().idle(|s| brings_nothing(s).or_else(|| unworn(s))),
    Parameter::choice::<Sharpened>("load.sharpen", Station::Load, "Sharpened", "never", "When the point is sharp again.").idle(|s| brings_nothing(s).or_else(|| unworn(s))),
];

fn lays_nothing(s: &Settings<'_>) -> Reason {
    (!lays(s) && s.action != Action::Blend).then_some("this tool lays nothing")
}

fn unworn(s: &Settings<'_>) -> Reason {
    (s.number("load.blunt") == 1.0).then_some("the point never blunts")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_film_has_its_mode() {
        for laid in LaidAs::ALL {
            assert_eq!(laid.blend().is_none(), *laid == LaidAs::Powder, "{laid:?}");
        }
        assert_eq!(LaidAs::ALL.len(), Blend::ALL.len() + 1);
    }
}
