//! The declarations themselves, a file a station, in the order in which a station shows them.

mod ground;
mod load;
mod mix;
mod tip;
mod touch;

use super::parameter::{Kind, Parameter, Quality, Station};

const PARTS: [&[Parameter]; 5] =
    [touch::PARAMETERS, tip::PARAMETERS, load::PARAMETERS, mix::PARAMETERS, ground::PARAMETERS];

const COUNT: usize = {
    let (mut n, mut i) = (0, 0);
    while i < PARTS.len() {
        n += PARTS[i].len();
        i += 1;
    }
    n
};

/// All parameters of a dry tool.
pub const PARAMETERS: &[Parameter] = &joined();

const fn joined() -> [Parameter; COUNT] {
    let mut out = [touch::PARAMETERS[0]; COUNT];
    let (mut n, mut i) = (0, 0);
    while i < PARTS.len() {
        let mut k = 0;
        while k < PARTS[i].len() {
            out[n] = PARTS[i][k];
            n += 1;
            k += 1;
        }
        i += 1;
    }
    out
}

#[allow(clippy::too_many_arguments)]
pub(super) const fn number(
    id: &'static str,
    station: Station,
    label: &'static str,
    unit: &'static str,
    [low, high, step, default]: [f64; 4],
    ratio: bool,
    quality: Option<Quality>,
    help: &'static str,
) -> Parameter {
    Parameter {
        id,
        station,
        label,
        unit,
        kind: Kind::Number { low, high, step, default, ratio },
        quality,
        help,
    }
}

/// A declaration of several named options.
pub(super) const fn choice(
    id: &'static str,
    station: Station,
    label: &'static str,
    default: &'static str,
    options: &'static [(&'static str, &'static str)],
    help: &'static str,
) -> Parameter {
    Parameter { id, station, label, unit: "", kind: Kind::Choice { default, options }, quality: None, help }
}

pub(super) const fn switch(
    id: &'static str,
    station: Station,
    label: &'static str,
    default: bool,
    help: &'static str,
) -> Parameter {
    Parameter { id, station, label, unit: "", kind: Kind::Switch { default }, quality: None, help }
}

pub(super) const fn image(
    id: &'static str,
    station: Station,
    label: &'static str,
    help: &'static str,
) -> Parameter {
    Parameter { id, station, label, unit: "", kind: Kind::Image, quality: None, help }
}
