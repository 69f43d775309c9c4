//! What is done to a brush between strokes: dipped into its paint, rinsed, wiped; and how full of what it is, across its tip.

use std::rc::Rc;

use super::Kept;
use super::brush::{Brush, Shape};
use super::loading;
use crate::chain::{Action, Settings};
use crate::medium::paste::parameters::Wash;
use crate::medium::paste::stuff::Stuff;
use crate::medium::{Amount, Care, Carried, Held};

/// Parts across the tip that are told apart.
const PARTS: usize = 24;

impl Brush {
    /// A clean brush, loaded as its tool is.
    pub fn loaded(tool: &Settings<'_>) -> Self {
        let mut brush = Self::new(Shape::of(tool));
        if tool.action == Action::Lay {
            loading::fill_in_place(&mut brush, tool);
        }
        brush
    }

    /// Dips it: where it holds less than a fresh one, it takes up what is missing of a fresh one's paint. Gives what it took.
    pub fn dip(&mut self, fresh: &Self) -> Amount {
        let mut took = Amount::default();
        for (belly, full) in self.bellies.iter_mut().zip(&fresh.bellies) {
            let [all, has] = [full, &*belly].map(|b| b.paints.iter().map(|p| p.volume).sum::<f32>());
            let lacks = all - has - belly.found.volume;
            if lacks <= 0.0 {
                continue;
            }
            belly.full = full.full;
            for (to, from) in belly.paints.iter_mut().zip(&full.paints) {
                to.add_share(from, lacks / all);
                took += from.share(lacks / all).amount();
            }
        }
        for (column, full) in self.columns.iter_mut().zip(&fresh.columns) {
            let lacks = full.own.volume - column.own.volume - column.found.volume;
            if lacks > 0.0 {
                column.own.add_share(&full.own, lacks / full.own.volume);
                took += full.own.share(lacks / full.own.volume).amount();
            }
        }
        took
    }

    /// Washes it: a share of all that it holds stays. Gives what is gone.
    pub fn wash(&mut self, stays: f64) -> Amount {
        let gone = (1.0 - stays) as f32;
        let mut out = Amount::default();
        let bellies = self.bellies.iter_mut().flat_map(|b| b.paints.iter_mut().chain([&mut b.found]));
        let columns =
            self.columns.iter_mut().flat_map(|c| [&mut c.own, &mut c.found, &mut c.bow_top, &mut c.bow_body]);
        for stuff in bellies.chain(columns).chain(&mut self.rims) {
            out += stuff.take(gone).amount();
        }
        // What is clean has nothing in it that is open longer than what it is dipped into.
        if stays <= 0.0 {
            self.dries_min = 0.0;
        }
        out
    }
}

/// What a tool's brush carries after a care; nothing where it is as it was made.
pub fn care(tool: &Settings<'_>, carried: Option<&Carried>, care: Care) -> Option<Carried> {
    let kept = carried.and_then(|c| c.inside.downcast_ref::<Kept>());
    let shape = Shape::of(tool);
    let fresh = || Brush::loaded(tool);
    let (mut brush, full, mut dipped) = match kept.filter(|k| k.brush.shape == shape) {
        Some(kept) => (kept.brush.clone(), kept.full, kept.dipped),
        None => {
            let brush = fresh();
            let (full, loaded) = (loading::store(&brush), brush.holds());
            (brush, full, loaded)
        }
    };
    match care {
        Care::Clean => return None,
        Care::Dip if tool.action == Action::Lay => dipped += brush.dip(&fresh()),
        Care::Dip => {}
        // What is washed out before the next stroke never was in it.
        Care::Rinse => dipped = dipped - washed(&mut brush, tool.number("load.rinse_left"), dipped),
        Care::Wipe => dipped = dipped - washed(&mut brush, 0.0, dipped),
    }
    let travel_mm = carried.map_or(0.0, |c| c.travel_mm);
    Some(Carried { travel_mm, inside: Rc::new(Kept { brush, full, dipped }) })
}

/// Washes a brush; gives what of `dipped`, its newest paint, went with it.
fn washed(brush: &mut Brush, stays: f64, dipped: Amount) -> Amount {
    brush.wash(stays);
    dipped * (1.0 - stays)
}

/// What a tool does to its brush after every stroke.
pub struct AfterStroke {
    /// Share that stays when it is washed; nothing where it is not.
    stays: Option<f64>,
    /// The brush as it is when it has been loaded anew; nothing where it is not.
    fresh: Option<Brush>,
}

impl AfterStroke {
    pub fn of(tool: &Settings<'_>) -> Self {
        let stays = match tool.chosen("load.wash") {
            Wash::No => None,
            Wash::Rinsed => Some(tool.number("load.rinse_left")),
            Wash::Cleaned => Some(0.0),
        };
        let refills = tool.action == Action::Lay && tool.switch("load.refill");
        Self { stays, fresh: refills.then(|| Brush::loaded(tool)) }
    }

    /// Gives what is gone, and what was loaded.
    pub fn tend(&self, brush: &mut Brush) -> [Amount; 2] {
        let gone = self.stays.map(|stays| brush.wash(stays)).unwrap_or_default();
        let loaded = self.fresh.as_ref().map(|fresh| brush.dip(fresh)).unwrap_or_default();
        [gone, loaded]
    }
}

/// How full of what a brush is across its tip, from its left to its right; a fresh one's where nothing is carried.
pub fn held(tool: &Settings<'_>, carried: Option<&Carried>) -> Vec<Held> {
    let kept = carried.and_then(|c| c.inside.downcast_ref::<Kept>());
    let fresh = Brush::loaded(tool);
    let brush = kept.map(|k| &k.brush).filter(|b| b.shape == fresh.shape).unwrap_or(&fresh);
    // What a column of hairs has, on the mean of those of a part: at the ends of a flat many stand behind one another.
    let parts = |brush: &Brush| -> Vec<Stuff> {
        let mut out = vec![(Stuff::NONE, 0.0_f32); PARTS];
        let mut shares = vec![0.0_f32; brush.bellies.len()];
        brush.columns.iter().for_each(|c| shares[c.belly] += 1.0);
        for c in &brush.columns {
            let part = ((0.5 * (c.alpha + 1.0) * PARTS as f64) as usize).min(PARTS - 1);
            let belly = &brush.bellies[c.belly];
            let (stuff, count) = &mut out[part];
            *count += 1.0;
            [&c.own, &c.found].into_iter().for_each(|s| stuff.add(s));
            for held in belly.paints.iter().chain([&belly.found]) {
                stuff.add_share(held, 1.0 / shares[c.belly]);
            }
        }
        // A narrow brush has fewer columns than parts.
        (0..PARTS)
            .map(|i| {
                let near = (0..PARTS).filter(|k| out[*k].1 > 0.0).min_by_key(|k| k.abs_diff(i));
                let (stuff, count) = out[near.unwrap_or(i)];
                if count > 0.0 { stuff.share(1.0 / count) } else { Stuff::NONE }
            })
            .collect()
    };
    let most = parts(&fresh).iter().map(|s| s.volume).fold(1.0, f32::max);
    parts(brush)
        .into_iter()
        .map(|stuff| Held {
            full: f64::from(stuff.volume / most),
            rgb: stuff.amount().masstone().unwrap_or_default(),
        })
        .collect()
}
