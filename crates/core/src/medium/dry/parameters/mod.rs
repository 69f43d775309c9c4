//! What a dry tool can be tuned in: a file a station, each parameter with the reason why it may have no effect.

mod ground;
mod load;
mod mix;
mod tip;
mod touch;

pub use load::{LaidAs, Sharpened};
pub use touch::Overlap;

use super::entry::Entry;
use crate::chain::{Action, Parameters, Settings};

/// All parameters of a dry tool, in the order in which its stations show them.
pub const PARAMETERS: Parameters = Parameters(&[
    touch::OWN,
    crate::touch::parameters::STEADYING,
    tip::OUTLINE,
    crate::tip::parameters::PLACING,
    tip::COUNT,
    crate::tip::parameters::STENCIL,
    load::OWN,
    mix::OWN,
    ground::OWN,
]);

type Reason = Option<&'static str>;

fn lays(s: &Settings<'_>) -> bool {
    s.action == Action::Lay
}

/// How the ground enters: what moves powder always meets it by contact.
pub fn entry(s: &Settings<'_>) -> Entry {
    if lays(s) { s.chosen("ground.enters") } else { Entry::Contact }
}

/// An even film is laid, and no powder.
pub fn lays_film(s: &Settings<'_>) -> bool {
    entry(s) != Entry::Contact && s.chosen::<LaidAs>("load.film") != LaidAs::Powder
}

fn brings_nothing(s: &Settings<'_>) -> Reason {
    (!lays(s)).then_some("this tool brings no powder")
}

fn film(s: &Settings<'_>) -> Reason {
    lays_film(s).then_some("a film is no powder")
}

fn spray(s: &Settings<'_>) -> Reason {
    (s.action == Action::Fix).then_some("a spray needs no contact")
}

fn image(s: &Settings<'_>) -> Reason {
    (entry(s) != Entry::Contact).then_some("the ground enters as an image")
}

/// A multiplied tool lays the same however it presses.
fn forceless(s: &Settings<'_>) -> Reason {
    (entry(s) == Entry::Multiplied).then_some("the ground enters as an image, whatever the force")
}
