//! What a pixel and the hairs that pass over it give each other: in closed form, for the whole passage of the tip.
//!
//! Heights in µm: g the ground, v the film on it, `H = g + v`; the hair's underside at z_c, the paint under it up to `z = z_c + ℓ`.
//! - Hair climbs over crowns and thins there: `ℓ ← ℓ/(1 + (g − z_c)⁺/60)`, `z_c ← max(z_c, g)`; never bare.
//! - Contact `C = S((δ − (z_c − g − body))/40 + ½)`: how far paint reaches down.
//! - Film that stands over z is cut; where none does, film is laid up to it, as far as there is contact.
//! - What lies between hair and z is replaced, and a little of the rest is exchanged.
//! - What was ploughed comes back into the gaps between hairs.
//!
//! Numbers are the paste study's, tuned by eye there. Whatever a pixel gains a lane has lost (tested to 1e-4 over 1,000 strokes).

use super::blocks::{
    BAND_VALUES, BODY_COVER, BODY_UM, Bands, DRIES_MIN, FILM_VALUES, STROKE, TOP_COVER, TOP_UM, bands,
    put_bands,
};
use super::profile::Profile;
use super::stuff::Stuff;
use crate::lanes::{Lanes, all};
use crate::num::smooth;

/// Film that is thinner than this is nothing, µm.
const LEAST: f32 = 1e-4;
/// How far contact is soft, µm.
const SOFT_UM: f32 = 40.0;
/// Hair climbs over crowns so high before its paint is half as thick, µm.
const CLIMB_UM: f32 = 60.0;
/// Paint that is heaped so thick covers, µm.
const HEAPED_UM: f32 = 12.0;
/// The most that comes back on a pixel in one visit, of the top and of the body, µm.
const MOST_BACK: [f32; 2] = [70.0, 110.0];

/// What a lane does in a step, as pixels between two lanes have it in proportion.
#[derive(Debug, Clone, Copy)]
pub struct LaneStep {
    /// z_c without hair lines, A, place in the hair profile (mm), ℓ.
    pub height: Lanes,
    /// δ, then what of the passage's length comes of cutting, giving and exchanging.
    pub passage: Lanes,
    /// min(1, 1.6 f), firmness, and what comes back from what was ploughed: of the top and of the body, µm.
    pub back: Lanes,
    /// K and S of a unit of what it gives, and of what it ploughed.
    pub gives: Bands,
    pub top: Bands,
    pub body: Bands,
    /// Mean ground under it, µm: a bead that bridges hollows goes by it.
    pub level: f32,
    /// Share of its own paint in what it gives.
    pub of_own: f32,
    /// What it may still give, µm·mm².
    pub left: f32,
    pub left_top: f32,
    pub left_body: f32,
}

/// What a lane gave and took in a step, µm·mm².
#[derive(Debug, Clone, Copy)]
pub struct Tally {
    pub gave: f32,
    pub gave_top: f32,
    pub gave_body: f32,
    pub exchanged: Stuff,
    pub top: Stuff,
    pub body: Stuff,
    /// When the last of what it took would have dried, min.
    pub dries_min: f32,
    /// Contact, and over how many pixels.
    pub contact: f32,
    pub pixels: f32,
}

impl Tally {
    pub const NONE: Self = Self {
        gave: 0.0,
        gave_top: 0.0,
        gave_body: 0.0,
        exchanged: Stuff::NONE,
        top: Stuff::NONE,
        body: Stuff::NONE,
        dries_min: 0.0,
        contact: 0.0,
        pixels: 0.0,
    };
}

/// The films of one pixel.
pub struct Pixel<'a> {
    pub top: &'a mut [f32],
    pub body: &'a mut [f32],
    pub films: &'a mut [f32],
    /// Height of the ground, µm.
    pub ground: f32,
}

/// The pixel of an index within a tile, of the tile's blocks.
#[inline(always)]
pub fn pixel_at<'a>([top, body, films]: &'a mut [&mut [f32]; 3], index: usize, ground: f32) -> Pixel<'a> {
    let bands = index * BAND_VALUES..(index + 1) * BAND_VALUES;
    Pixel {
        top: &mut top[bands.clone()],
        body: &mut body[bands],
        films: &mut films[index * FILM_VALUES..(index + 1) * FILM_VALUES],
        ground,
    }
}

/// Two pixels of one tile, the first before the second.
#[inline(always)]
pub fn pixels_at<'a>(blocks: &'a mut [&mut [f32]; 3], [i, j]: [usize; 2]) -> [Pixel<'a>; 2] {
    let [top, body, films] = blocks;
    let (top_i, top_j) = top.split_at_mut(j * BAND_VALUES);
    let (body_i, body_j) = body.split_at_mut(j * BAND_VALUES);
    let (films_i, films_j) = films.split_at_mut(j * FILM_VALUES);
    let bands = i * BAND_VALUES..(i + 1) * BAND_VALUES;
    let first = Pixel {
        top: &mut top_i[bands.clone()],
        body: &mut body_i[bands],
        films: &mut films_i[i * FILM_VALUES..(i + 1) * FILM_VALUES],
        ground: 0.0,
    };
    let second = Pixel {
        top: &mut top_j[..BAND_VALUES],
        body: &mut body_j[..BAND_VALUES],
        films: &mut films_j[..FILM_VALUES],
        ground: 0.0,
    };
    [first, second]
}

/// What is the same for all pixels of a stroke.
pub struct Stroke<'a> {
    pub profile: &'a Profile,
    pub number: f32,
    /// When what it leaves dries, min: what is mixed stays open as long as the slowest in it.
    pub dries_min: f32,
    /// mm².
    pub pixel_mm2: f32,
    pub exchange_um: f32,
    pub takes_free: f32,
    /// Share to which contact goes by the mean ground instead of each pixel's.
    pub bridges: f32,
}

/// What a visit did, for the trace, µm.
#[derive(Debug, Clone, Copy, Default)]
pub struct Done {
    pub laid: f32,
    pub taken: f32,
    pub contact: f32,
    pub touched: f32,
    pub height: f32,
}

impl Done {
    #[inline(always)]
    pub fn add(&mut self, other: &Self) {
        self.laid += other.laid;
        self.taken += other.taken;
        self.contact += other.contact;
        self.touched += other.touched;
        self.height += other.height;
    }
}

/// The bands of a pixel as a stroke finds them: its first touch merges what lay on top with what lay below.
#[inline(always)]
fn begin(top: &[f32], body: &[f32], films: &mut [f32], number: f32) -> (Bands, Bands) {
    if films[STROKE] == number {
        return (bands(top), bands(body));
    }
    let mut merged = bands(body);
    if films[TOP_UM] > 0.0 {
        for (a, b) in merged.iter_mut().zip(bands(top)) {
            *a += b;
        }
        films[BODY_COVER] = films[BODY_COVER].max(films[TOP_COVER]);
        films[BODY_UM] += films[TOP_UM];
    }
    (films[STROKE], films[TOP_UM], films[TOP_COVER]) = (number, 0.0, 0.0);
    (Stuff::NONE.bands, merged)
}

/// Heaps so much of a paint that dries at a time, min, on a pixel's top film, µm.
pub fn heap(pixel: Pixel<'_>, um: f32, unit: &Bands, dries_min: f32, number: f32) {
    let (mut top, body) = begin(&pixel.top[..], &pixel.body[..], pixel.films, number);
    for (a, b) in top.iter_mut().zip(unit) {
        *a += *b * all(um);
    }
    pixel.films[TOP_UM] += um;
    pixel.films[TOP_COVER] = pixel.films[TOP_COVER].max(smooth(um / HEAPED_UM));
    pixel.films[DRIES_MIN] = pixel.films[DRIES_MIN].max(dries_min);
    put_bands(pixel.top, &top);
    put_bands(pixel.body, &body);
}

/// Lets so much paint run from one pixel to another, µm, what lies on top first: a layer to the same layer.
pub fn run(from: Pixel<'_>, to: Pixel<'_>, um: f32, number: f32) {
    let (mut from_top, mut from_body) = begin(&from.top[..], &from.body[..], from.films, number);
    let (mut to_top, mut to_body) = begin(&to.top[..], &to.body[..], to.films, number);
    let layers = [
        (TOP_UM, TOP_COVER, &mut from_top, &mut to_top),
        (BODY_UM, BODY_COVER, &mut from_body, &mut to_body),
    ];
    let mut left = um;
    for (volume, cover, a, b) in layers {
        let moved = left.min(from.films[volume]);
        if moved <= 0.0 {
            continue;
        }
        left -= moved;
        let share = moved / from.films[volume];
        for (a, b) in a.iter_mut().zip(b) {
            let part = *a * all(share);
            *a -= part;
            *b += part;
        }
        from.films[volume] -= moved;
        // Paint that runs onto paint of its layer covers no more than that does.
        if to.films[volume] <= 0.0 {
            to.films[cover] = smooth(moved / HEAPED_UM);
        }
        to.films[volume] += moved;
    }
    to.films[DRIES_MIN] = to.films[DRIES_MIN].max(from.films[DRIES_MIN]);
    put_bands(from.top, &from_top);
    put_bands(from.body, &from_body);
    put_bands(to.top, &to_top);
    put_bands(to.body, &to_body);
}

/// A pixel between lanes `i` and `j`, at the share `u` of the way.
#[inline]
pub fn meet(
    pixel: Pixel<'_>,
    [i, j]: [&mut LaneStep; 2],
    [ti, tj]: [&mut Tally; 2],
    u: f32,
    stroke: &Stroke<'_>,
) -> Done {
    let share = all(u);
    let [zc, hair, place, mut lay] = (i.height + (j.height - i.height) * share).to_array();
    let [reach, cuts, gives, exchanges] = (i.passage + (j.passage - i.passage) * share).to_array();
    let [replaces, firm, back_top, back_body] = (i.back + (j.back - i.back) * share).to_array();
    let (line, gap) = stroke.profile.at(place);
    let g = pixel.ground;
    let mut zc = zc + hair * line;
    lay /= 1.0 + (g - zc).max(0.0) * (1.0 / CLIMB_UM);
    zc = zc.max(g);
    let z = zc + lay;

    let f = pixel.films;
    // A stroke's first touch merges what lay on top with what lay below.
    let fresh = f[STROKE] != stroke.number;
    let (top, body) = if fresh { (0.0, f[TOP_UM] + f[BODY_UM]) } else { (f[TOP_UM], f[BODY_UM]) };
    let v = top + body;
    let h = g + v;
    let met = g + (i.level + (j.level - i.level) * u - g) * stroke.bridges;
    let contact = smooth((reach - (zc - met - body)) * (1.0 / SOFT_UM) + 0.5);
    let cut = (h - z).max(0.0) * cuts;
    let deposit = if h < z { (contact * (z - g) - v).max(0.0) * gives } else { 0.0 };
    let mut replaced = (h.min(z) - zc).clamp(0.0, v) * cuts * contact * replaces;
    let cut = cut.min(v);
    replaced = replaced.min(v - cut);
    let mut exchanged = (v - cut - replaced).min(stroke.exchange_um) * exchanges * contact;

    // Give first: what a poor lane cannot replace it does not take, unless it is one that blends.
    let mm2 = stroke.pixel_mm2;
    let wanted = deposit + replaced + exchanged;
    let give = |wanted: f32, lane: &mut f32| {
        let given = (wanted * mm2).min(0.5 * *lane);
        *lane -= given;
        given
    };
    let (gi, gj) = (give(wanted * (1.0 - u), &mut i.left), give(wanted * u, &mut j.left));
    let given = (gi + gj) / mm2;
    if wanted > 0.0 {
        let could = (given / wanted).min(1.0).max(stroke.takes_free);
        replaced *= could;
        exchanged *= could;
    }
    let weight = 1.0 + 0.9 * firm * (0.15 + 0.85 * gap - 1.0);
    let back = |wanted: f32, most: f32, lane: &mut f32| {
        let given = ((wanted * weight).clamp(0.0, most) * mm2).min(*lane);
        *lane -= given;
        given
    };
    let (bi, bj) = (
        back(back_top * (1.0 - u), MOST_BACK[0], &mut i.left_top),
        back(back_top * u, MOST_BACK[0], &mut j.left_top),
    );
    let (di, dj) = (
        back(back_body * (1.0 - u), MOST_BACK[1], &mut i.left_body),
        back(back_body * u, MOST_BACK[1], &mut j.left_body),
    );
    let taken = cut + replaced + exchanged;
    let returned = (bi + bj + di + dj) / mm2;
    let near = if u < 0.5 { &mut *ti } else { &mut *tj };
    near.contact += contact;
    near.pixels += 1.0;
    let done = Done {
        laid: given + returned,
        taken,
        contact,
        touched: if contact > 0.5 { 1.0 } else { 0.0 },
        height: v + given + returned - taken,
    };
    if given + taken + returned < LEAST {
        return done;
    }

    let (mut top_bands, mut body_bands) = begin(&pixel.top[..], &pixel.body[..], f, stroke.number);
    let (mut top, mut body) = (top, body);
    if taken > 0.0 {
        near.dries_min = near.dries_min.max(f[DRIES_MIN]);
        let from_top = taken.min(top);
        let from_body = (taken - from_top).min(body);
        let swapped = exchanged / taken;
        if from_top > 0.0 {
            let all_of = Stuff { volume: top * mm2, bands: top_bands.map(|b| b * all(mm2)) };
            let share = from_top / top;
            near.exchanged.add_share(&all_of, share * swapped);
            near.top.add_share(&all_of, share * (1.0 - swapped));
            top_bands = top_bands.map(|b| b - b * all(share));
            top -= from_top;
        }
        if from_body > 0.0 {
            let all_of = Stuff { volume: body * mm2, bands: body_bands.map(|b| b * all(mm2)) };
            let share = from_body / body;
            near.body.add_share(&all_of, share);
            body_bands = body_bands.map(|b| b - b * all(share));
            body -= from_body;
        }
    }
    let per = 1.0 / mm2;
    let add = |to: &mut Bands, volume: &mut f32, amount: f32, unit: &Bands| {
        if amount > 0.0 {
            *volume += amount * per;
            for (a, b) in to.iter_mut().zip(unit) {
                *a += *b * all(amount * per);
            }
        }
    };
    add(&mut top_bands, &mut top, gi, &i.gives);
    add(&mut top_bands, &mut top, gj, &j.gives);
    add(&mut top_bands, &mut top, bi, &i.top);
    add(&mut top_bands, &mut top, bj, &j.top);
    add(&mut body_bands, &mut body, di, &i.body);
    add(&mut body_bands, &mut body, dj, &j.body);
    (ti.gave, tj.gave) = (ti.gave + gi, tj.gave + gj);
    (ti.gave_top, tj.gave_top) = (ti.gave_top + bi, tj.gave_top + bj);
    (ti.gave_body, tj.gave_body) = (ti.gave_body + di, tj.gave_body + dj);
    f[TOP_UM] = top;
    f[BODY_UM] = body;
    if given + returned > 0.0 {
        f[DRIES_MIN] = f[DRIES_MIN].max(stroke.dries_min);
    }
    f[TOP_COVER] = if top > 0.0 { f[TOP_COVER].max(contact) } else { 0.0 };
    if di + dj > 0.0 {
        f[BODY_COVER] = f[BODY_COVER].max(contact);
    }
    put_bands(pixel.top, &top_bands);
    put_bands(pixel.body, &body_bands);
    done
}
