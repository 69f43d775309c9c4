//! A brush or blade to be looked at: as it bends under the pen, and where it touches.

use super::blade::Blade;
use super::brush::Shape;
use super::pose::half_axes;
use crate::chain::{Qualities, Quality, Settings, Signals};
use crate::medium::{TipShape, superellipse};
use crate::tip::hair::{self, Stiffness};
use crate::tip::{TurnedBy, cantilever};

/// Hairs that are drawn from the side, and points of each.
const HAIRS: usize = 9;
const POINTS: usize = 12;
/// A blade seen from the side is so long, mm.
const BLADE_LONG_MM: f64 = 28.0;

/// A tool's tip, held so.
pub fn shape(tool: &Settings<'_>, qualities: &Qualities, signals: &Signals) -> TipShape {
    let shape = Shape::of(tool);
    let direction = tool.chosen::<TurnedBy>("tip.angle_from").direction(qualities, signals);
    let [half, thick] = shape.half_mm;
    let force = qualities.get(Quality::Force).max(0.0);
    let n = |id: &str| tool.number(id);
    let length = n("tip.hair_length_mm") * shape.outline.length;
    let uneven = hair::uneven_mm(tool);
    let tilt = signals.tilt_deg.clamp(0.0, 80.0).to_radians();
    let mut out = TipShape {
        side: Vec::new(),
        held_at: [[0.0; 2]; 2],
        patch: Vec::new(),
        section: outline(&shape, direction, [half, thick], [0.0; 2]),
        angle_deg: direction.to_degrees(),
        force_gf: force,
        lowered_mm: 0.0,
        touching: 0.0,
    };
    if let Some(mut blade) = Blade::of(tool) {
        let pressed = blade.hold(qualities, signals, direction);
        let gap = blade.gap_mm();
        let axis = [-libm::sin(tilt), libm::cos(tilt)];
        out.side = vec![vec![[0.0, gap], [axis[0] * BLADE_LONG_MM, gap + axis[1] * BLADE_LONG_MM]]];
        out.held_at = [out.side[0][1]; 2];
        out.lowered_mm = gap;
        if pressed > 0.0 {
            let aside = blade.aside() * half;
            let middle = [aside * libm::cos(direction), aside * libm::sin(direction)];
            out.patch = outline(&shape, direction, [half, thick], middle);
            out.touching = 1.0;
        }
        return out;
    }
    let stiff = Stiffness::new(
        n("tip.hair_mm"),
        n("tip.hair_gpa"),
        length,
        n("tip.hair_count"),
        uneven,
        signals.tilt_deg,
    );
    let lowered = stiff.lowered_mm(force);
    out.lowered_mm = lowered.max(0.0);
    // Lengths of hairs, from the shortest to the longest, one beside the other across the thickness.
    let at = |i: usize| 2.0 * i as f64 / (HAIRS - 1) as f64 - 1.0;
    let longer = |i: usize| uneven * 1.2 * at((i * 4) % HAIRS);
    let touching = (0..HAIRS).filter(|i| lowered + longer(*i) > 0.0).count();
    out.touching = touching as f64 / HAIRS as f64;
    // Along the pen's axis from the ferrule down, and across it, away from where the pen leans to.
    let (down, across) = ([libm::sin(tilt), -libm::cos(tilt)], [libm::cos(tilt), libm::sin(tilt)]);
    // The mean hair's end lies on the sheet, at the pen's place.
    let mean = cantilever::bend(cantilever::load_at((lowered.max(0.0) / length).min(0.9)));
    let ferrule = [0, 1].map(|k| -length * ((1.0 - mean.horizontal) * down[k] + mean.vertical * across[k]));
    let place = |along: f64, aside: f64, bent: f64| {
        [0, 1].map(|k| ferrule[k] + down[k] * along + across[k] * (aside + bent))
    };
    out.held_at = [place(0.0, -thick, 0.0), place(0.0, thick, 0.0)];
    out.side = (0..HAIRS)
        .map(|i| {
            let long = length + longer(i);
            let shortened = (lowered + longer(i)).max(0.0);
            let bend = cantilever::bend(cantilever::load_at((shortened / long).min(0.9)));
            let (end, aside) = (long * (1.0 - bend.horizontal), long * bend.vertical);
            let (cos, sin) = (libm::cos(bend.slope), libm::sin(bend.slope));
            (0..=POINTS)
                .map(|k| {
                    // Hermite between the clamped end and the free one, with their slopes.
                    let t = k as f64 / POINTS as f64;
                    let (t2, t3) = (t * t, t * t * t);
                    let (b, c, d) = (t3 - 2.0 * t2 + t, 3.0 * t2 - 2.0 * t3, t3 - t2);
                    let along = b * long + c * end + d * long * cos;
                    let [x, y] = place(along, thick * at(i) * (1.0 - 0.6 * t), c * aside + d * long * sin);
                    // What would go through the sheet lies on it.
                    [x, y.max(0.0)]
                })
                .collect()
        })
        .collect();
    let press = 22.0 * lowered / length;
    if press > 0.0 {
        let axes = half_axes(&shape, n("tip.splay") * shape.outline.spread, press, press);
        out.patch = outline(&shape, direction, axes, [0.0; 2]);
    }
    out
}

/// The tip's outline about a place.
fn outline(shape: &Shape, direction: f64, axes: [f64; 2], middle: [f64; 2]) -> Vec<[f64; 2]> {
    let points = superellipse(axes, shape.outline.exponent, shape.outline.slant, direction);
    points.into_iter().map(|[x, y]| [middle[0] + x, middle[1] + y]).collect()
}
