//! What hairs hold after a step: what they gave is gone, what they took goes where it goes, and they are fed.

use super::PasteTool;
use super::loading::outside;
use crate::lanes;
use crate::medium::paste::exchange::{LaneStep, Tally};
use crate::medium::paste::noise::{self, stream, toward};
use crate::medium::paste::stuff::Stuff;
use crate::num;

impl PasteTool {
    /// What a lane's hairs hold after a step: what they gave is gone, what they took goes where it goes, and they are fed.
    pub(super) fn settle(&mut self, k: usize, sigma: f32, of_own: f32, tally: &Tally) {
        let make = self.make;
        let seed = self.seed;
        let lane = self.brush.lanes[k];
        let column = &mut self.brush.columns[lane.column];
        let share = make.own;
        column.own.take_volume(tally.gave * of_own);
        column.found.take_volume(tally.gave * (1.0 - of_own));
        column.bow_top.take_volume(tally.gave_top);
        column.bow_body.take_volume(tally.gave_body);
        if tally.pixels > 0.0 {
            column.contact += (tally.contact / tally.pixels - column.contact) * toward(sigma / 1.5);
        }
        let (tn, bn) = (self.brush.tufts[column.tuft].press, column.wavers);
        let tuft = noise::constant(seed, stream::SURFACES, column.tuft);
        let surfaces = (make.surfaces * num::exp(2.0 * tuft + 1.3 * tn + 1.6 * bn)).min(1.0);
        let mut top = tally.top;
        let mut body = tally.body;
        top.add(&body.take(surfaces));
        let absorbed = (make.absorbs * num::exp(1.3 * column.absorbs)).min(1.0);
        column.found.add(&tally.exchanged);
        column.found.add(&top.take(absorbed));
        column.bow_top.add(&top);
        column.bow_body.add(&body);
        // Found paint goes on into the belly, and paint of the belly comes out.
        let belly = &mut self.brush.bellies[column.belly];
        belly.found.add(&column.found.take(toward(sigma * make.carry)));
        let [a, b] = [belly.paints[0].volume, belly.paints[1].volume];
        let found = if share >= 1.0 { 0.0 } else { belly.found.volume };
        let has = a + b + found;
        let lacks = outside() * num::pow(has / belly.full.max(1e-6), 0.6).min(1.3) - column.own.volume;
        if lacks > 0.0 && has > 0.0 {
            let part = (lacks * toward(sigma * make.feed) / has).min(0.5);
            if self.endless {
                let [p, q] = [belly.paints[0], belly.paints[1]];
                for paint in [p, q] {
                    column.own.add_share(&paint, part);
                    self.brought += Stuff {
                        volume: paint.volume * part,
                        bands: paint.bands.map(|v| v * lanes::all(part)),
                    }
                    .amount();
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
            let columns = &mut self.brush.columns;
            for which in 0..2 {
                let bow = |c: &super::brush::Column| if which == 0 { c.bow_top } else { c.bow_body };
                let (a, b) = (bow(&columns[i]), bow(&columns[j]));
                let moved = 0.5 * share * (a.volume - b.volume).abs();
                if moved <= 0.0 {
                    continue;
                }
                let (from, to) = if a.volume > b.volume { (i, j) } else { (j, i) };
                let source =
                    if which == 0 { &mut columns[from].bow_top } else { &mut columns[from].bow_body };
                let part = source.take_volume(moved);
                let target = if which == 0 { &mut columns[to].bow_top } else { &mut columns[to].bow_body };
                target.add(&part);
            }
        }
    }
}
