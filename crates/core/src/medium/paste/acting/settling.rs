//! What hairs hold after a step: what they gave is gone, what they took goes where it goes, and they are fed.

use super::PasteTool;
use crate::medium::Amount;
use crate::medium::paste::exchange::{LaneStep, Tally};
use crate::medium::paste::make::Leaves;
use crate::medium::paste::noise::{self, stream, toward};
use crate::medium::paste::stuff::Stuff;
use crate::num;

impl PasteTool {
    /// What a lane's hairs gave in a step is gone. All lanes' before any takes: two of them may be one column's.
    pub(super) fn give_up(&mut self, k: usize, of_own: f32, tally: &Tally) {
        let column = &mut self.brush.columns[self.brush.lanes[k].column];
        own_leaves(&mut column.own, tally.gave * of_own, self.leaves.as_ref(), &mut self.brought);
        column.found.take_volume(tally.gave * (1.0 - of_own));
        column.bow_top.take_volume(tally.gave_top);
        column.bow_body.take_volume(tally.gave_body);
    }

    /// What a lane's hairs took in a step goes where it goes, and they are fed. `side` of the way on which it lies: 0 left, 1 right.
    pub(super) fn take_up(&mut self, (k, side): (usize, usize), sigma: f32, tally: &Tally) {
        let make = self.make;
        let seed = self.seed;
        let outside = self.outside();
        let lane = self.brush.lanes[k];
        let column = &mut self.brush.columns[lane.column];
        let share = make.own;
        if tally.pixels > 0.0 {
            column.contact += (tally.contact / tally.pixels - column.contact) * toward(sigma / 1.5);
        }
        let (tn, bn) = (self.brush.tufts[column.tuft].press, column.wavers);
        let tuft = noise::constant(seed, stream::SURFACES, column.tuft);
        let surfaces = (make.surfaces * num::exp(2.0 * tuft + 1.3 * tn + 1.6 * bn)).min(1.0);
        let mut top = tally.top;
        let mut body = tally.body;
        top.add(&body.take(surfaces));
        // What is pushed aside goes to the side on which it lies.
        if make.furrow > 0.0 {
            self.brush.rims[side].add(&top.take(make.furrow));
            self.brush.rims[side].add(&body.take(make.furrow));
        }
        let column = &mut self.brush.columns[lane.column];
        let absorbed = (make.absorbs * num::exp(1.3 * column.absorbs)).min(1.0);
        column.found.add(&tally.exchanged);
        column.found.add(&top.take(absorbed));
        column.bow_top.add(&top);
        column.bow_body.add(&body);
        if self.blade.is_some() {
            self.feed_bead(lane.column, sigma);
            return;
        }
        // Found paint goes on into the belly, and paint of the belly comes out.
        let belly = &mut self.brush.bellies[column.belly];
        belly.found.add(&column.found.take(toward(sigma * make.carry)));
        let own: f32 = belly.paints.iter().map(|p| p.volume).sum();
        let found = if share >= 1.0 { 0.0 } else { belly.found.volume };
        let has = own + found;
        let lacks = outside * num::pow(has / belly.full.max(1e-6), 0.6).min(1.3) - column.own.volume;
        if lacks > 0.0 && has > 0.0 {
            let part = (lacks * toward(sigma * make.feed) / has).min(0.5);
            if self.endless {
                for paint in &belly.paints {
                    column.own.add_share(paint, part);
                    self.brought += paint.share(part).amount();
                }
            } else {
                for paint in &mut belly.paints {
                    column.own.add(&paint.take(part));
                }
                if share < 1.0 {
                    column.own.add(&belly.found.take(part));
                }
            }
        }
    }

    /// A blade's bead is fed from the paint that lies on it.
    fn feed_bead(&mut self, column: usize, sigma: f32) {
        let lacks = self.outside();
        let column = &mut self.brush.columns[column];
        let belly = &mut self.brush.bellies[column.belly];
        let has: f32 = belly.paints.iter().map(|p| p.volume).sum();
        let lacks = lacks - column.own.volume - column.found.volume;
        if lacks <= 0.0 || has <= 0.0 {
            return;
        }
        let part = (lacks * toward(sigma * self.make.feed) / has).min(0.5);
        for paint in &mut belly.paints {
            if self.endless {
                column.own.add_share(paint, part);
                self.brought += paint.share(part).amount();
            } else {
                column.own.add(&paint.take(part));
            }
        }
    }

    /// What is ploughed runs sideways: lanes beside one another on the front even it out.
    pub(super) fn even_out(&mut self, lane_steps: &[Option<LaneStep>], travel: f32) {
        let share = 0.5 * toward(self.make.sideways * travel);
        let count = lane_steps.len();
        for k in 0..count {
            let next = (k + 1) % count;
            if lane_steps[k].is_none() || lane_steps[next].is_none() {
                continue;
            }
            let (i, j) = (self.brush.lanes[k].column, self.brush.lanes[next].column);
            if i == j {
                continue;
            }
            let [a, b] = self.brush.columns.get_disjoint_mut([i, j]).expect("two columns");
            if self.blade.is_some() {
                level(&mut a.own, &mut b.own, share);
                level(&mut a.found, &mut b.found, share);
            } else {
                level(&mut a.bow_top, &mut b.bow_top, share);
                level(&mut a.bow_body, &mut b.bow_body, share);
            }
        }
    }
}

/// Takes so much of what leaves out of a hair's own paint; gives it as it leaves.
pub(super) fn own_leaves(
    own: &mut Stuff,
    volume: f32,
    leaves: Option<&Leaves>,
    brought: &mut Amount,
) -> Stuff {
    let Some(leaves) = leaves else { return own.take_volume(volume) };
    let (out, more) = leaves.leave(&own.take_volume(volume * leaves.paint));
    *brought += more;
    out
}

/// Lets a share of their difference run from the fuller to the other.
fn level(a: &mut Stuff, b: &mut Stuff, share: f32) {
    let moved = 0.5 * share * (a.volume - b.volume);
    if moved > 0.0 {
        b.add(&a.take_volume(moved));
    } else if moved < 0.0 {
        a.add(&b.take_volume(-moved));
    }
}
