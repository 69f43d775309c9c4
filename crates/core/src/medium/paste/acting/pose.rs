//! Where the hairs touch: the patch of a brush that is held somewhere and pressed so far, and how its hairs' ends trail behind.

use super::PasteTool;
use super::brush::{Column, Shape};
use super::{Step, sweep};
use crate::medium::paste::noise::{along, stream};
use crate::num::{self, smooth};

/// How a brush is held.
#[derive(Debug, Clone, Copy)]
pub struct Pose {
    /// mm on the ground.
    pub place: [f64; 2],
    /// Direction of the ferrule's width, and of the way, radians.
    pub direction: f64,
    pub heading: f64,
    /// How far it is lowered, as of hairs of 22 mm: the mean hair touches at 0.
    pub press: f64,
}

impl Pose {
    /// Between two.
    fn between(a: &Self, b: &Self, share: f64) -> Self {
        let mix = |a: f64, b: f64| a + (b - a) * share;
        let turn = |a: f64, b: f64| {
            let d = b - a;
            a + share * (d - std::f64::consts::TAU * libm::round(d / std::f64::consts::TAU))
        };
        Self {
            place: [mix(a.place[0], b.place[0]), mix(a.place[1], b.place[1])],
            direction: turn(a.direction, b.direction),
            heading: turn(a.heading, b.heading),
            press: mix(a.press, b.press),
        }
    }
}

/// A brush in a pose that touches.
#[derive(Debug, Clone)]
pub struct Stance {
    pub pose: Pose,
    /// Half axes of the patch, mm.
    pub axes: [f64; 2],
    /// Places of the lanes on the ground, mm.
    pub lanes: Vec<[f64; 2]>,
}

/// Free length that the study's lengths go by, mm.
const FREE_MM: f64 = 22.0;

/// Half axes of the patch in which a tip touches, mm, pressed so far and at the most lately (as of hairs of 22 mm).
pub(super) fn half_axes(shape: &Shape, splay: f64, press: f64, peak: f64) -> [f64; 2] {
    let ([half, thick], outline) = (shape.half_mm, shape.outline);
    if outline.blade {
        return [half, thick];
    }
    let w = press.max(0.0);
    let spread = w + 0.55 * (peak - w).max(0.0);
    let wide = half * (1.0 + 0.9 * splay * w / FREE_MM);
    let opened = |at: f64| f64::sqrt((spread / at).min(1.0));
    if outline.round {
        let a = half * (spread / 3.4).min(1.0 + 0.15 * splay);
        return [a, a];
    }
    let a = if outline.opens { wide * (0.03 + 0.97 * opened(2.8)) } else { wide };
    let s = f64::from(smooth((w / 3.2) as f32));
    [a, 0.5 * thick * s * (0.75 + 0.25 * w / 3.0)]
}

impl PasteTool {
    /// The step from where the tip last was to a pose; nothing where it does not touch in between. Lands and lifts exactly where
    /// the press passes nought, so that neither hangs on how long steps are.
    pub(super) fn go_to(&mut self, pose: Pose) -> Option<Step> {
        let before = self.last.replace(pose);
        let touched = self.stance.is_some();
        if pose.press <= 0.0 {
            let lifted = before.filter(|_| touched).map(|b| {
                let share = b.press / (b.press - pose.press).max(1e-9);
                Pose::between(&b, &pose, share.clamp(0.0, 1.0))
            });
            let out = lifted.map(|end| self.step_to(end));
            self.lifts = touched;
            return out;
        }
        if !touched {
            let landing = match before {
                Some(b) if b.press <= 0.0 => {
                    Pose::between(&b, &pose, (-b.press / (pose.press - b.press)).clamp(0.0, 1.0))
                }
                _ => pose,
            };
            self.land(landing);
        }
        Some(self.step_to(pose))
    }

    /// Puts the tip down: its outline begins as its middle line, or a hole would stay where it first stood.
    fn land(&mut self, pose: Pose) {
        self.peak = pose.press;
        let axes = self.axes(&pose);
        self.trail_in_place(&pose, 0.0);
        let round = self.brush.shape.outline.round;
        let lanes = self.places(&pose, axes, if round { 0.0 } else { 1.0 }, 0.0);
        self.stance = Some(Stance { pose, axes, lanes });
    }

    fn step_to(&mut self, pose: Pose) -> Step {
        let from = self.stance.take();
        let travel = from
            .as_ref()
            .map_or(0.0, |f| num::hypot(pose.place[0] - f.pose.place[0], pose.place[1] - f.pose.place[1]));
        self.way_mm += travel;
        // Hairs stay spread while the brush lifts; that fades over 12 mm.
        self.peak = pose.press + (self.peak - pose.press).max(0.0) * libm::exp(-travel / 12.0);
        let axes = self.axes(&pose);
        self.trail_in_place(&pose, travel);
        let lanes = self.places(&pose, axes, 1.0, 1.0);
        let to = Stance { pose, axes, lanes };
        self.stance = Some(to.clone());
        Step { from, to, travel }
    }

    /// Half axes of the patch, mm.
    fn axes(&self, pose: &Pose) -> [f64; 2] {
        half_axes(&self.brush.shape, self.splay, pose.press, self.peak)
    }

    /// Draws the hairs' ends after their roots: each is pulled only when farther off than a hair so bent reaches.
    fn trail_in_place(&mut self, pose: &Pose, travel: f64) {
        let [half, thick] = self.brush.shape.half_mm;
        let (seed, w) = (self.seed, pose.press.max(0.0));
        let stiff = self.blade.is_some();
        let scale = self.bends.length_mm() / FREE_MM;
        let splay = if stiff { 0.0 } else { self.splay };
        let wide = half * (1.0 + 0.9 * splay * w / FREE_MM);
        let ([ac, asn], [hc, hs]) = (unit(pose.direction), unit(pose.heading));
        self.brush.tufts.iter_mut().enumerate().for_each(|(i, tuft)| tuft.heed(seed, i));
        for i in 0..self.brush.columns.len() {
            let column = &self.brush.columns[i];
            let own = 0.5 * along(seed, stream::WANDER_FAST, column.kin, column.travel / 8.0);
            let wander = if stiff {
                0.0
            } else {
                f64::from(0.26 * (self.brush.tufts[column.tuft].wander + own)) * (half / 9.0).min(1.0)
            };
            let place = column.alpha * wide + wander;
            let ragged = if stiff { 0.0 } else { 0.1 * 2.0 * thick * column.ragged };
            let root = [pose.place[0] + place * ac - ragged * asn, pose.place[1] + place * asn + ragged * ac];
            let w_i = (w + f64::from(0.27 * column.uneven + 0.35 * column.tuft_uneven)).clamp(0.05, 18.0);
            let q = w_i / FREE_MM;
            // A blade is where it is held.
            let reach = if stiff { 0.0 } else { 0.47 }
                * FREE_MM
                * scale
                * f64::sqrt(q * (2.0 - q))
                * (1.0 - 0.12 * q);
            let before = column.trails;
            let now = match before {
                None => [root[0] - 0.35 * reach * hc, root[1] - 0.35 * reach * hs],
                Some(l) => {
                    let d = [root[0] - l[0], root[1] - l[1]];
                    let far = num::hypot(d[0], d[1]);
                    let pull = if far > reach { 1.0 - reach / far } else { 0.0 };
                    [l[0] + d[0] * pull, l[1] + d[1] * pull]
                }
            };
            let column: &mut Column = &mut self.brush.columns[i];
            column.trails = Some(now);
            if let (Some(b), true) = (before, travel > 0.0) {
                column.travel += num::hypot(now[0] - b[0], now[1] - b[1]) as f32;
                let tuft = &mut self.brush.tufts[column.tuft];
                tuft.travel = tuft.travel.max(column.travel);
            }
        }
    }

    /// Places of the lanes: ends of their hairs and their own place on the outline, which is `wide` and `thick` so far opened.
    fn places(&self, pose: &Pose, [a, b]: [f64; 2], wide: f64, thick: f64) -> Vec<[f64; 2]> {
        let [half, _] = self.brush.shape.half_mm;
        let splay = if self.blade.is_some() { 0.0 } else { self.splay };
        let full = half * (1.0 + 0.9 * splay * pose.press.max(0.0) / FREE_MM);
        let [ac, asn] = unit(pose.direction);
        let slant = self.brush.shape.outline.slant;
        self.brush
            .lanes
            .iter()
            .map(|lane| {
                let l = self.brush.columns[lane.column].trails.unwrap_or(pose.place);
                let (u, v) = (lane.alpha * (wide * a - full), thick * lane.beta * b + slant * lane.alpha * a);
                [l[0] + u * ac - v * asn, l[1] + u * asn + v * ac]
            })
            .collect()
    }

    /// The tip is taken off.
    pub(super) fn lift(&mut self) {
        self.brush.lift();
        self.cells.clear();
        (self.stance, self.last, self.way_mm, self.peak, self.lifts) = (None, None, 0.0, 0.0, false);
    }
}

fn unit(angle: f64) -> [f64; 2] {
    [libm::cos(angle), libm::sin(angle)]
}

/// A place on the sheet's lattice.
pub(super) fn corner(place: [f64; 2], origin: [f64; 2], pixel: f64) -> sweep::Corner {
    [0, 1].map(|k| libm::round((place[k] - origin[k]) / pixel * sweep::LATTICE) as i64)
}

#[cfg(test)]
mod tests {
    use std::rc::Rc;

    use super::*;
    use crate::ground::Ground;
    use crate::image::Images;
    use crate::sheet::Sheet;
    use crate::tool::Tool;

    #[test]
    fn a_brush_that_hovered_before_it_landed_lands_once() {
        let tool = Tool::parse(
            r#"{"format": "saltmarsh.tool", "version": 2, "name": "t", "medium": "paste", "action": "lay", "seed": 5,
                "ground": {"surface": "canvas-fine"}, "parameters": {}, "responses": []}"#,
        )
        .expect("a brush");
        let ground = Ground::new(&tool.ground, &Images::default()).expect("a ground");
        let sheet = Sheet::new(Rc::new(ground), 64, 64, 0.2, [0.0; 2]).expect("a sheet");
        let mut brush = PasteTool::new(&tool.settings(), &sheet, None);
        let mut pose = |x: f64, press: f64| {
            let step = brush.go_to(Pose { place: [x, 4.0], direction: 0.0, heading: 0.0, press });
            (step.is_some(), std::mem::take(&mut brush.lifts))
        };
        let steps = [(1.0, -0.3), (1.2, -0.1), (1.4, 0.4), (1.6, 0.5), (1.8, -0.1)];
        assert_eq!(
            steps.map(|(x, press)| pose(x, press)),
            [(false, false), (false, false), (true, false), (true, false), (true, true)]
        );
    }
}
