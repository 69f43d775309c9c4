//! A brush: lanes on the outline in which its hairs touch, and what each column of hairs holds.
//!
//! Lanes stand every 0.2 mm on the outline. The two long sides of a flat share their hairs: a column of hairs has one stock of
//! paint, whichever side it leads on; at the narrow ends, and of a round brush, every lane has its own.

use std::f64::consts::TAU;

use crate::chain::Settings;
use crate::medium::paste::noise::{self, stream};
use crate::medium::paste::parameters::{self, Outline};
use crate::medium::paste::stuff::Stuff;
use crate::num;

/// Lanes stand so far apart on the outline, mm.
pub const LANE_MM: f64 = 0.2;
/// Paints that a brush can be loaded with.
pub const PAINTS: usize = 3;
/// Columns that share a belly.
const BELLY: usize = 3;
/// Beyond this share of the half width lanes of a flat have hairs of their own.
const END: f64 = 0.97;

/// One place on the outline.
#[derive(Debug, Clone, Copy)]
pub struct Lane {
    /// Place in half axes, along the width and along the thickness.
    pub alpha: f64,
    pub beta: f64,
    pub column: usize,
}

/// A column of hairs: what it holds, and what it remembers of its way.
#[derive(Debug, Clone)]
pub struct Column {
    pub alpha: f64,
    pub tuft: usize,
    pub belly: usize,
    /// Which constants it has: lanes of one end share theirs.
    pub kin: usize,
    /// Unevenness of its length, of its tuft's; how readily it takes found paint in.
    pub uneven: f32,
    pub tuft_uneven: f32,
    pub absorbs: f32,
    pub ragged: f64,
    /// Own and found paint outside on the hair, and what it ploughs: of the top and of the body.
    pub own: Stuff,
    pub found: Stuff,
    pub bow_top: Stuff,
    pub bow_body: Stuff,
    /// Ground and film under it, smoothed; nothing before it touched.
    pub under: Option<[f32; 2]>,
    /// Contact lately, and press over the last mm.
    pub contact: f32,
    pub press: f32,
    /// Where its hairs' ends trail, mm.
    pub trails: Option<[f64; 2]>,
    pub travel: f32,
    /// Unevenness of its press at the moment, ±1.21.
    pub wavers: f32,
}

/// Paint in the belly of the brush over a few columns: its paints, and what was found.
#[derive(Debug, Clone)]
pub struct Belly {
    pub paints: [Stuff; PAINTS],
    pub found: Stuff,
    /// What it had when it was full, µm·mm².
    pub full: f32,
}

/// What makes a brush the same brush.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shape {
    pub outline: Outline,
    /// Half the width of the ferrule and half its thickness, mm.
    pub half_mm: [f64; 2],
    /// Width in which wet hair draws together, mm.
    pub tuft_mm: f64,
    /// Of its hairs, the same in every stroke.
    pub seed: u64,
}

impl Shape {
    /// Of a tool's brush.
    pub fn of(tool: &Settings<'_>) -> Self {
        let outline = parameters::outline(tool.chosen("tip.ferrule"));
        let half_mm = parameters::halves(tool);
        let tuft_mm = if outline.blade { half_mm[0] } else { tool.number("tip.tuft_mm") };
        Self { outline, half_mm, tuft_mm, seed: u64::from(tool.seed) }
    }
}

/// A brush with what it holds.
#[derive(Debug, Clone)]
pub struct Brush {
    pub shape: Shape,
    pub lanes: Vec<Lane>,
    pub columns: Vec<Column>,
    pub bellies: Vec<Belly>,
    pub tufts: Vec<Tuft>,
    /// What was squeezed out on the left and on the right of the way.
    pub rims: [Stuff; 2],
    /// When the last of what is in it dries, minutes of what was waited on the sheet.
    pub dries_min: f32,
}

/// Hairs that wet paint draws together: how they go at the moment.
#[derive(Debug, Clone, Copy, Default)]
pub struct Tuft {
    /// Travel: the farthest of its columns, mm.
    pub travel: f32,
    /// Unevenness of its press, ±1.26, and of its way to the side, ±1.6.
    pub press: f32,
    pub wander: f32,
}

impl Tuft {
    /// Takes its unevenness from its travel.
    pub fn heed(&mut self, seed: u64, which: usize) {
        let s = self.travel;
        self.press = 0.9 * noise::along(seed, stream::TUFT_SLOW, which, s / 22.0)
            + 0.36 * noise::along(seed, stream::TUFT_FAST, which, s / 7.0);
        self.wander = 1.6 * noise::along(seed, stream::WANDER_SLOW, which, s / 14.0);
    }
}

impl Brush {
    /// A clean brush.
    pub fn new(shape: Shape) -> Self {
        let Shape { outline, half_mm: [a, b], tuft_mm, seed } = shape;
        let power = |v: f64| libm::copysign(libm::pow(v.abs(), 2.0 / outline.exponent), v);
        let at = |t: f64| [power(libm::cos(t)), power(libm::sin(t))];
        // Places at equal steps of the outline's length.
        const FINE: usize = 4096;
        let fine: Vec<[f64; 2]> = (0..=FINE).map(|i| at(TAU * i as f64 / FINE as f64)).collect();
        let mut way = vec![0.0];
        for p in fine.windows(2) {
            let last = way[way.len() - 1];
            way.push(last + num::hypot(a * (p[1][0] - p[0][0]), b * (p[1][1] - p[0][1])));
        }
        let whole = way[FINE];
        // An even number on each quarter, so that both sides have lanes at equal places.
        let count = 4 * (libm::round(whole / LANE_MM / 4.0) as usize).max(3);
        let places: Vec<[f64; 2]> = (0..count)
            .map(|i| {
                let wanted = whole * i as f64 / count as f64;
                let k = way.partition_point(|w| *w <= wanted).clamp(1, FINE);
                let f = (wanted - way[k - 1]) / (way[k] - way[k - 1]);
                let (p, q) = (fine[k - 1], fine[k]);
                [p[0] + (q[0] - p[0]) * f, p[1] + (q[1] - p[1]) * f]
            })
            .collect();
        let tufts = if outline.round { whole } else { 2.0 * a } / tuft_mm;
        let tufts = (libm::round(tufts) as usize).max(1);
        let mut columns: Vec<Column> = Vec::new();
        let mut lanes = Vec::with_capacity(count);
        for (i, [alpha, beta]) in places.iter().copied().enumerate() {
            let mirror = (count - i) % count;
            let shared = !outline.round && alpha.abs() <= END;
            if shared && beta < 0.0 && mirror < i {
                let column = lanes.get(mirror).map_or(0, |l: &Lane| l.column);
                lanes.push(Lane { alpha, beta, column });
                continue;
            }
            let share = if outline.round { i as f64 / count as f64 } else { 0.5 * (alpha + 1.0) };
            let tuft = ((share * tufts as f64) as usize).min(tufts - 1);
            // Lanes of one end follow one another along one line: were they different, one of them would always draw it.
            let kin =
                if !outline.round && alpha.abs() > END { usize::from(alpha > 0.0) + 100_000 } else { i };
            lanes.push(Lane { alpha, beta, column: columns.len() });
            let of = |stream: u64, which: usize| noise::constant(seed, stream, which);
            columns.push(Column {
                alpha,
                tuft,
                belly: 0,
                kin,
                uneven: of(stream::LENGTH, kin),
                tuft_uneven: of(stream::TUFT_LENGTH, tuft),
                absorbs: of(stream::ABSORBS, kin),
                ragged: f64::from(of(stream::RAGGED, tuft)),
                own: Stuff::NONE,
                found: Stuff::NONE,
                bow_top: Stuff::NONE,
                bow_body: Stuff::NONE,
                under: None,
                contact: 0.0,
                press: 0.0,
                trails: None,
                travel: 0.0,
                wavers: 0.0,
            });
        }
        let bellies = columns.len().div_ceil(BELLY);
        columns.iter_mut().enumerate().for_each(|(i, c)| c.belly = i / BELLY);
        let none = Belly { paints: [Stuff::NONE; PAINTS], found: Stuff::NONE, full: 1.0 };
        let tufts = vec![Tuft::default(); tufts];
        Self {
            shape,
            lanes,
            columns,
            bellies: vec![none; bellies],
            tufts,
            rims: [Stuff::NONE; 2],
            dries_min: 0.0,
        }
    }

    /// Everything it holds.
    pub fn holds(&self) -> crate::medium::Amount {
        let mut out = crate::medium::Amount::default();
        for c in &self.columns {
            for s in [&c.own, &c.found, &c.bow_top, &c.bow_body] {
                out += s.amount();
            }
        }
        for b in &self.bellies {
            for s in b.paints.iter().chain([&b.found]) {
                out += s.amount();
            }
        }
        self.rims.iter().for_each(|s| out += s.amount());
        out
    }

    /// What of that it found on the sheet: what it ploughs of its own is the sheet's again.
    pub fn found(&self) -> crate::medium::Amount {
        let of_columns = self.columns.iter().flat_map(|c| [&c.found, &c.bow_top, &c.bow_body]);
        let of_bellies = self.bellies.iter().map(|b| &b.found);
        of_columns.chain(of_bellies).chain(&self.rims).fold(Default::default(), |sum, s| sum + s.amount())
    }

    /// Lifted off: what was ploughed stays in it, what it felt is forgotten.
    pub fn lift(&mut self) {
        for c in &mut self.columns {
            let belly = &mut self.bellies[c.belly];
            for stuff in [
                std::mem::replace(&mut c.bow_top, Stuff::NONE),
                std::mem::replace(&mut c.bow_body, Stuff::NONE),
            ] {
                belly.found.add(&stuff);
            }
            (c.under, c.contact, c.press, c.trails, c.travel) = (None, 0.0, 0.0, None, 0.0);
        }
        let rims = std::mem::replace(&mut self.rims, [Stuff::NONE; 2]);
        let last = self.bellies.len() - 1;
        rims.iter().zip([0, last]).for_each(|(rim, side)| self.bellies[side].found.add(rim));
        self.tufts.fill(Tuft::default());
    }
}
