//! How a tip presses on the tooth: the ground as a tool meets it, load and plane across the footprint, and where it reaches.

use std::rc::Rc;

use crate::ground::plane::Plane;
use crate::ground::{Feel, GroundTile};
use crate::lanes::{self, LANES, Lanes, all, larger, smaller};
use crate::sheet::{Sheet, TILE};
use crate::tip::{Bite, Footprint, PROFILE_ENTRIES, PROFILE_STEPS, Profile, Stamp};

use super::blocks::RAISE;
use super::entry::Ranks;
use super::face::Face;

/// How much the grain varies the room for powder, as a share of how much it varies what is shed (the study's .25 at g = .75).
const ROOM_GRAIN: f32 = 1.0 / 3.0;
/// How far the grain's unevenness closes as contact closes.
pub(super) const GRAIN_CLOSES: f32 = 0.55;

/// Within a pixel it is the high grains that touch, and they shed more; how much of that holds although they fill first (set so that sheets of half and double the resolution hold as much powder,
/// tested).
const TILT: f32 = 0.45;
/// Side of the pixels at which what sticks shed was tuned by eye, mm: 300 dpi.
const TUNED_PIXEL_MM: f64 = 25.4 / 300.0;

/// How much of the grain's variance lies within the pixels of a sheet.
#[derive(Debug, Clone, Copy)]
pub struct GrainWithin {
    share: f32,
    /// What of it lies there beyond what does at [`TUNED_PIXEL_MM`].
    beyond: f32,
}

impl GrainWithin {
    pub fn of(sheet: &Sheet, feel: Feel) -> Self {
        let share = sheet.grain_within(feel);
        Self { share, beyond: share - sheet.ground().grain_within(TUNED_PIXEL_MM, feel) }
    }
}

/// The ground of one tile as one stick meets it: what does not change from dab to dab. A value a pixel, row by row.
#[derive(Debug, Clone)]
pub struct Contact {
    /// Height with the stick's grit on it, µm.
    pub(super) height: Vec<f32>,
    /// Deviation within the pixel, µm, and its inverse.
    pub(super) sigma: Vec<f32>,
    pub(super) inverse_sigma: Vec<f32>,
    /// What an open grain sheds, and how far that falls as contact closes.
    pub(super) sheds: Vec<f32>,
    pub(super) sheds_fall: Vec<f32>,
    /// `1 + gγ/3`.
    pub(super) room: Vec<f32>,
    /// γ over its own deviation between pixels.
    pub(super) grain: Vec<f32>,
    /// `g` times the covariance of height and γ within a pixel, beyond that at [`TUNED_PIXEL_MM`], as [`TILT`] has it, µm.
    pub(super) tilt: f32,
    /// Share of the ground that lies below; only for tools that the ground enters as an image.
    pub rank: Vec<f32>,
}

impl Contact {
    /// `grit` and `grain` are the tool's; `tooth` scales the ground's heights; `within`: how grain lies within pixels.
    pub fn new(ground: &GroundTile, grit: f32, grain: f32, tooth: f32, within: GrainWithin) -> Self {
        let GrainWithin { share: grain_within, beyond: grain_beyond } = within;
        let fine = all(grit * grit * grain_within);
        let shown = 1.0 - grain_within;
        // Less half the variance that pixels show, so that the mean is the same at every resolution.
        let sheds = |by: f32, g: Lanes| lanes::exp(all(by) * g - all(0.5 * by * by * shown));
        let closed = grain * (1.0 - GRAIN_CLOSES);
        let planes = || vec![0.0_f32; ground.height.len()];
        let mut out = Self {
            height: planes(),
            sigma: planes(),
            inverse_sigma: planes(),
            sheds: planes(),
            sheds_fall: planes(),
            room: planes(),
            rank: Vec::new(),
            tilt: TILT * grain * grit * grain_beyond,
            grain: ground.grain.iter().map(|g| g / shown.max(1e-3).sqrt()).collect(),
        };
        for first in (0..ground.height.len()).step_by(LANES) {
            let of = |values: &[f32]| lanes::four(&values[first..]);
            let put =
                |values: &mut [f32], v: Lanes| values[first..first + LANES].copy_from_slice(&v.to_array());
            let g = of(&ground.grain);
            let sigma = larger((all(tooth * tooth) * of(&ground.variance) + fine).sqrt(), all(0.05));
            let open = sheds(grain, g);
            put(&mut out.height, all(tooth) * of(&ground.height) + all(grit) * g);
            put(&mut out.sigma, sigma);
            put(&mut out.inverse_sigma, all(1.0) / sigma);
            put(&mut out.sheds, open);
            put(&mut out.sheds_fall, sheds(closed, g) - open);
            put(&mut out.room, larger(all(1.0) + all(ROOM_GRAIN * grain) * g, all(0.1)));
        }
        out
    }
}

/// Ranks the ground of a tile for an image-like tool.
pub fn rank_in_place(contact: &mut Contact, ground: &GroundTile, ranks: &Ranks) {
    contact.rank = ground.height.iter().map(|h| ranks.rank(*h)).collect();
}

/// Pixels this wide over the tip's half width, and wider, are looked at in parts.
const NARROW: f32 = 0.05;
/// Where those lie across them (the two points of Gauss and Legendre).
const PARTS: [f32; 2] = [0.211_324_87, 0.788_675_1];
/// What is a mean over pixels needs no fine table.
const COARSE_STEPS: usize = 22;

/// Load and plane across a footprint, by squared relative radius in the profile's steps.
pub struct Press {
    load: [f32; PROFILE_ENTRIES],
    level: [f32; PROFILE_ENTRIES],
    /// Places in the tables for a squared relative radius of 1.
    steps: f32,
    /// The last place that is asked for.
    last: f32,
    /// How much higher it all lies on a closed layer of powder and on what has dried, µm.
    raised: f32,
    /// Where a side presses harder at its end: how, and the plane that such loads meet.
    bite: Option<(Bite, Rc<Plane>)>,
}

impl Press {
    /// `load`: load at a pressure of 1 in the profile's scale.
    pub fn new(profile: &Profile, plane: &Plane, load: f32) -> Self {
        let mut out = Self::empty(PROFILE_STEPS as f32, PROFILE_STEPS);
        for first in (0..PROFILE_ENTRIES).step_by(LANES) {
            out.put(first, all(load) * lanes::four(&profile.table()[first..]), plane);
        }
        out
    }

    /// As [`Press::new`], for pixels that are `wide` over the half width of the tip and `long` over its half length, where that is not
    /// little: each has the load at which its contact is the mean of what its part under the tip has. At its middle alone, a tip a
    /// few pixels wide would lay less the coarser the pixels are: at the rim it presses on a part of a pixel whose middle lies
    /// outside.
    pub fn on_pixels(profile: &Profile, plane: &Plane, load: f32, [wide, long]: [f32; 2]) -> Self {
        if wide < NARROW {
            return Self::new(profile, plane, load);
        }
        let half = all(0.5 * wide);
        // What a pixel reaches to both sides of the way out has a mean square of a twelfth; the tip's rim cuts off about half of
        // that (set so that points a few pixels wide lay as much at half and double the resolution, tested).
        let beside = all(long * long / 24.0);
        let outer = 1.0 + 0.5 * wide;
        let mut out = Self::empty(COARSE_STEPS as f32 / (outer * outer), COARSE_STEPS);
        for first in (0..COARSE_STEPS + 2).step_by(LANES) {
            let steps = Lanes::from(std::array::from_fn(|i| (first + i) as f32));
            let radius = smaller((steps * all(1.0 / out.steps)).sqrt(), all(outer));
            let (from, to) = (radius - half, smaller(radius + half, all(1.0)));
            let mut contact = Lanes::ZERO;
            for share in PARTS {
                let r = from + (to - from) * all(share);
                let pressure = lanes::between(
                    profile.table(),
                    smaller(r * r + beside, all(1.0)) * all(PROFILE_STEPS as f32),
                );
                contact += plane.contact(all(load) * pressure);
            }
            out.put(first, plane.load_for(contact * all(1.0 / PARTS.len() as f32)), plane);
        }
        out
    }

    fn empty(steps: f32, last: usize) -> Self {
        Self {
            load: [0.0; PROFILE_ENTRIES],
            level: [0.0; PROFILE_ENTRIES],
            steps,
            last: last as f32,
            raised: 0.0,
            bite: None,
        }
    }

    /// Four loads from an entry on.
    fn put(&mut self, first: usize, loads: Lanes, plane: &Plane) {
        self.load[first..first + LANES].copy_from_slice(&loads.to_array());
        self.level[first..first + LANES].copy_from_slice(&plane.at(loads).to_array());
    }

    /// Rides on a layer of powder of `um` that lies everywhere under the tip: the tooth it meets is that layer's.
    #[must_use]
    pub fn riding(mut self, um: f32) -> Self {
        self.raised += RAISE * um;
        self
    }

    /// Rides `um` higher on what has dried on the ground.
    #[must_use]
    pub fn raised(mut self, um: f32) -> Self {
        self.raised += um;
        self
    }

    /// Presses harder towards the point's end of a side that lies down, the mean as before.
    #[must_use]
    pub fn biting(mut self, bite: f32, footprint: &Footprint, plane: &Rc<Plane>) -> Self {
        self.bite = Bite::of(bite, footprint).map(|bite| (bite, plane.clone()));
        self
    }

    /// Load and plane at four squared relative radii.
    #[inline(always)]
    fn at(&self, radius2: Lanes) -> (Lanes, Lanes) {
        let u = smaller(radius2 * all(self.steps), all(self.last));
        (lanes::between(&self.load, u), lanes::between(&self.level, u))
    }
}

/// How the tip meets four neighbouring pixels.
pub(super) struct Pressed {
    /// Share of the pixel under the tip; 0 where the tip does not reach.
    pub(super) cover: Lanes,
    /// Load there, and the height of the stick's plane, µm.
    pub(super) load: Lanes,
    pub(super) level: Lanes,
    /// Unevenness of the worn face.
    pub(super) face: Lanes,
}

/// One dab, whatever it does: where the tip lies and how it presses.
pub struct Dab<'a> {
    pub footprint: Footprint,
    /// What of the footprint acts; nothing where all of it does.
    pub stamp: Option<Stamp<'a>>,
    pub press: &'a Press,
    pub face: &'a Face,
    /// Share of what it would do.
    pub flow: f32,
    /// Travel this dab stands for, mm.
    pub travel: f32,
    /// Share of a pixel that a tip thinner than it covers.
    pub thin: f32,
}

/// The pixels of one tile that a dab visits.
#[derive(Debug, Clone, Copy)]
pub struct Part<'a> {
    /// Place of the tile's corner on the sheet, mm, and side of its pixels.
    pub corner_mm: [f32; 2],
    pub pixel: f32,
    /// `[x0, y0, x1, y1)` within the tile.
    pub window: [usize; 4],
    /// Share of each pixel of the tile that nothing keeps a tip from; nothing where it meets all of it.
    pub bare: Option<&'a [f32]>,
}

/// Where a dab reaches, and how hard it presses there.
pub(super) struct Reach<'a> {
    dab: &'a Dab<'a>,
    part: Part<'a>,
    /// Squared relative radii: wholly inside up to `inner`, outside from `outer`.
    inner: f32,
    outer: f32,
    /// The dab is two halves of its travel, this far before and behind its middle: the ripple of dabs twice as close, for one
    /// visit of the pixel.
    ahead: [f32; 2],
}

impl<'a> Reach<'a> {
    pub(super) fn new(dab: &'a Dab<'a>, part: Part<'a>) -> Self {
        let footprint = &dab.footprint;
        let (inner, outer) = footprint.rim(part.pixel);
        let quarter = 0.25 * footprint.travel;
        let ahead = [quarter * footprint.travel_cos, quarter * footprint.travel_sin];
        Self { dab, part, inner, outer, ahead }
    }

    /// Visits four neighbouring pixels at a time where the tip reaches: index of the first within the tile, its place from the
    /// footprint's middle in mm, and how they are met.
    #[inline(always)]
    pub(super) fn visit(&self, mut act: impl FnMut(usize, [f32; 2], Pressed)) {
        let Part { corner_mm, pixel, window: [x0, y0, x1, y1], bare } = self.part;
        for y in y0..y1 {
            let dy = corner_mm[1] + (y as f32 + 0.5) * pixel - self.dab.footprint.y;
            for from in (x0..x1).step_by(LANES) {
                // The last four of a row may reach back to pixels that are done.
                let start = from.min(TILE - LANES);
                let dx = corner_mm[0] + (start as f32 + 0.5) * pixel - self.dab.footprint.x;
                if let Some(mut press) = self.find(dx, dy, from - start, (x1 - start).min(LANES)) {
                    let first = y * TILE + start;
                    if let Some(bare) = bare {
                        press.cover *= lanes::four(&bare[first..]);
                    }
                    act(first, [dx, dy], press);
                }
            }
        }
    }

    /// How the tip meets the pixels `from..to` of four whose first lies at `(dx, dy)` mm from the footprint's middle; nothing
    /// where it reaches none of them.
    #[inline(always)]
    fn find(&self, dx: f32, dy: f32, from: usize, to: usize) -> Option<Pressed> {
        const STEPS: [f32; LANES] = [0.0, 1.0, 2.0, 3.0];
        let (f, pixel, [ax, ay]) = (&self.dab.footprint, self.part.pixel, self.ahead);
        let x = all(dx) + Lanes::from(STEPS) * all(pixel);
        let a = f.place(x - all(ax), dy - ay);
        let b = f.place(x + all(ax), dy + ay);
        let nearest = smaller(a.radius2, b.radius2).to_array();
        if nearest[from..to].iter().all(|r2| *r2 >= self.outer) {
            return None;
        }
        let inside = larger(a.radius2, b.radius2).to_array().iter().all(|r2| *r2 <= self.inner);
        let (cover_a, cover_b) =
            if inside { (all(1.0), all(1.0)) } else { (f.cover(&a, pixel), f.cover(&b, pixel)) };
        let (cover_a, cover_b) = match &self.dab.stamp {
            None => (cover_a, cover_b),
            Some(stamp) => (cover_a * stamp.at(f, &a, x, dy), cover_b * stamp.at(f, &b, x, dy)),
        };
        let sum = cover_a + cover_b;
        if self.dab.stamp.is_some() && !sum.simd_gt(Lanes::ZERO).any() {
            return None;
        }
        // Where one half alone reaches, it alone presses.
        let share = cover_a / larger(sum, all(1e-9));
        let (mut load, mut level) = self.dab.press.at(b.radius2 + (a.radius2 - b.radius2) * share);
        if let Some((bite, plane)) = &self.dab.press.bite {
            let (first, second) = (f.in_box(&a).0, f.in_box(&b).0);
            load *= bite.at(second + (first - second) * share);
            level = plane.at(load);
        }
        let level = level + all(self.dab.press.raised);
        let face = self.dab.face.at(all(dy * f.travel_cos) - x * all(f.travel_sin));
        let mut cover = (all(0.5) * sum).to_array();
        cover[..from].fill(0.0);
        cover[to..].fill(0.0);
        Some(Pressed { cover: cover.into(), load, level, face })
    }
}

#[inline(always)]
pub(super) fn each(value: impl Fn(usize) -> f32) -> Lanes {
    Lanes::from([value(0), value(1), value(2), value(3)])
}
