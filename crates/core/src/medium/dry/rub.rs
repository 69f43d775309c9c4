//! Tools that move powder instead of laying it: a finger or stump smears, a kneaded eraser lifts, a hard eraser cuts,
//! fixative binds (models.md §5; dry study, "Finger" and "Kneaded eraser"; the exchange is our own form, tuned by eye).
//!
//! Per pixel under the tip, with contact φ as for a stick and travel ds:
//! - taken: share `1 − e^(−φ·flow·ds/take)` of the loose powder, and `held` times that share of the held;
//! - a smearing tool keeps what it took in lanes across its width and gives back `1 − e^(−ds/lay)` of a lane, each pixel by
//!   its contact and the room left in its tooth;
//! - an eraser keeps it (until it is full) or crumbles it to dust; a hard one wears the tooth besides.
//!
//! Every amount that leaves a pixel is what the pixel lost, and every amount given what it gained: summed in f32 over a tile, in f64
//! from there, nothing is lost between (1e-4 over a thousand strokes, tested).

use crate::chain::{Action, Settings};
use crate::lanes::{self, LANES, Lanes, all, larger, smaller, where_greater};
use crate::medium;
use crate::paint::BANDS;

use super::blocks::{
    COVER, DryBlocks, FILM_VALUES, GRAIN_UM, HELD, KX, LAYER_VALUES, LOOSE, OUT_OF_REACH, POWDER_VALUES,
    RAISE, SX, TOP, WEAR,
};
use super::done::Done;
use super::press::{Contact, Dab, Part, Reach, each};
use super::sheer;

/// Lanes across the tip that hold what was taken up.
const ACROSS: usize = 24;
/// Share of a lane that goes to each neighbour, for a mm of travel: a finger is soft and rolls.
const SPREADS: f64 = 0.06;
/// A lane with less than this gives nothing, µm × pixels.
const LEAST: f64 = 1e-4;
/// Skin and paper give way around a peak: this share of their contact reaches the hollows too, in full from this load on.
const INTO_HOLLOWS: f32 = 0.3;
const NEAR_LOAD: f32 = 0.125;
/// One dab never fills more than this share of the room that is left.
const MOST_OF_GAP: f32 = 0.5;
/// The tooth is never worn off by more than this, µm.
const MOST_WEAR: f32 = 60.0;

/// What moves powder, for a whole stroke.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mover {
    pub action: Action,
    /// Travel in mm over which full contact takes up most (1 − 1/e) of what is loose, or fixes it.
    pub take_mm: f32,
    /// How readily held powder is taken, over loose.
    pub held: f32,
    /// Travel over which most of a lane is given back, mm.
    pub lay_mm: f32,
    /// The most it can hold, mm³.
    pub holds_mm3: f64,
    /// Wear of the tooth, µm for a mm of travel in full contact.
    pub wear: f32,
    /// δ, µm, and the room for powder in empty tooth, µm.
    pub give: f32,
    pub fill: f32,
    pub face: f32,
}

impl Mover {
    /// As a tool is tuned; nothing for one that lays powder.
    pub fn of(tool: &Settings<'_>) -> Option<Self> {
        let n = |id: &str| tool.number(id) as f32;
        (tool.action != Action::Lay).then(|| Self {
            action: tool.action,
            take_mm: n("mix.pickup_mm"),
            held: n("mix.pickup_held"),
            lay_mm: n("mix.release_mm"),
            holds_mm3: tool.number("mix.holds_mm3"),
            wear: n("mix.wear_um_mm"),
            give: n("load.give_um"),
            fill: n("load.fill_um"),
            face: n("load.face_um"),
        })
    }
}

/// An amount of powder with its colour: µm × pixels, and band totals.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
struct Amount {
    powder: f64,
    bands: [f64; 2 * BANDS],
}

impl Amount {
    fn add_in_place(&mut self, other: &Amount, share: f64) {
        self.powder += share * other.powder;
        self.bands.iter_mut().zip(other.bands).for_each(|(a, b)| *a += share * b);
    }
}

impl Amount {
    /// On pixels of an area of `pixel_mm2`.
    fn on_pixels(&self, pixel_mm2: f64) -> medium::Amount {
        let band = |from: usize| std::array::from_fn(|b| self.bands[from + b] * pixel_mm2);
        medium::Amount { mm3: self.powder * 1e-3 * pixel_mm2, k: band(0), s: band(BANDS) }
    }
}

/// Vectors of band totals.
const VECTORS: usize = 2 * BANDS / LANES;

/// An amount as pixels deal with it: four bands at once.
#[derive(Debug, Clone, Copy)]
struct Portion {
    powder: f32,
    bands: [Lanes; VECTORS],
}

impl Portion {
    const NONE: Self = Self { powder: 0.0, bands: [Lanes::ZERO; VECTORS] };

    fn of(amount: &Amount) -> Self {
        let four = |k: usize| Lanes::from(std::array::from_fn(|i| amount.bands[k * LANES + i] as f32));
        Self { powder: amount.powder as f32, bands: std::array::from_fn(four) }
    }

    #[inline(always)]
    fn add_in_place(&mut self, other: &Portion, share: f32) {
        self.powder += share * other.powder;
        for (sum, v) in self.bands.iter_mut().zip(other.bands) {
            *sum += all(share) * v;
        }
    }
}

impl From<Portion> for Amount {
    fn from(portion: Portion) -> Self {
        let bands = portion.bands.map(|v| v.to_array().map(f64::from));
        Self {
            powder: f64::from(portion.powder),
            bands: std::array::from_fn(|b| bands[b / LANES][b % LANES]),
        }
    }
}

/// What a tool holds between two strokes.
#[derive(Debug, Clone)]
pub struct Held {
    lanes: [Amount; ACROSS],
    /// Area of the pixels that its amounts are counted in.
    pixel_mm2: f64,
}

/// A tool in use: what it has taken up so far.
#[derive(Debug, Clone)]
pub struct Rub {
    mover: Mover,
    /// Area of a pixel, mm².
    pixel_mm2: f64,
    lanes: [Amount; ACROSS],
    /// How readily it takes in the dab under way, 0..1, and what a pixel's part of it has room for, µm.
    eager: f32,
    room: f32,
    /// What left the sheet as crumbs.
    crumbs: Amount,
    /// Pixels that may be given to, of the dab under way, and what those of each lane would want in full contact with
    /// empty tooth.
    wanting: Vec<Wanting>,
    most: [f64; ACROSS],
}

/// A pixel that may be given powder.
#[derive(Debug, Clone, Copy)]
struct Wanting {
    /// Tile of the dab, pixel of the tile, place across the tip.
    tile: usize,
    pixel: usize,
    between: Between,
    /// How much it wants, and the room left, µm.
    weight: f32,
    gap: f32,
}

/// A dab of which everything was taken, and which gives back.
pub struct Giving {
    /// What was held when it turned to giving, and as pixels deal with it.
    lanes: [Amount; ACROSS],
    sources: [Source; ACROSS],
    wanting: Vec<Wanting>,
}

/// A lane that gives: what it held, and the part of it for a weight of 1 and for 1 µm of powder.
struct Source {
    portion: Portion,
    for_weight: f32,
    for_um: f32,
}

impl Source {
    /// Nothing to give.
    const DRY: Self = Self { portion: Portion::NONE, for_weight: 0.0, for_um: 0.0 };
}

/// A place across the tip: between a lane and the next, and how far towards the next. Pixels are not as wide as lanes; were
/// each in one lane, some lanes would have more of them than others and show as streaks.
#[derive(Debug, Clone, Copy)]
struct Between {
    lane: usize,
    share: f32,
}

impl Between {
    /// `across`: −1 at one side of the tip, 1 at the other.
    fn of(across: f32) -> Self {
        let at = ((0.5 + 0.5 * across) * ACROSS as f32 - 0.5).clamp(0.0, (ACROSS - 1) as f32);
        let lane = (at as usize).min(ACROSS - 2);
        Self { lane, share: at - lane as f32 }
    }

    /// The two lanes and the share of each.
    fn shares(self) -> [(usize, f32); 2] {
        [(self.lane, 1.0 - self.share), (self.lane + 1, self.share)]
    }
}

impl Rub {
    /// `pixel_mm2`: area of a pixel of the sheet.
    pub fn new(mover: Mover, pixel_mm2: f64) -> Self {
        Self {
            mover,
            pixel_mm2,
            lanes: [Amount::default(); ACROSS],
            eager: 1.0,
            room: f32::INFINITY,
            crumbs: Amount::default(),
            wanting: Vec::new(),
            most: [0.0; ACROSS],
        }
    }

    /// As it was left by strokes before, on pixels of an area of `pixel_mm2`.
    #[must_use]
    pub fn resuming(mut self, held: &Held) -> Self {
        let scale = held.pixel_mm2 / self.pixel_mm2;
        for (lane, before) in self.lanes.iter_mut().zip(&held.lanes) {
            lane.add_in_place(before, scale);
        }
        self
    }

    /// What it holds, to be resumed.
    pub fn held(&self) -> Held {
        Held { lanes: self.lanes, pixel_mm2: self.pixel_mm2 }
    }

    /// What is in it, and what went as crumbs.
    pub fn amounts(&self) -> [medium::Amount; 2] {
        let mut inside = Amount::default();
        self.lanes.iter().for_each(|lane| inside.add_in_place(lane, 1.0));
        [inside, self.crumbs].map(|amount| amount.on_pixels(self.pixel_mm2))
    }

    /// Powder in it, µm × pixels.
    fn powder(&self) -> f64 {
        self.lanes.iter().map(|l| l.powder).sum()
    }

    /// Takes up from (or fixes, wears) the pixels of a part of a tile; `tile` numbers it within the dab.
    pub fn take_in_place(
        &mut self,
        DryBlocks { powder: block, mut layer, mut film, .. }: DryBlocks<'_>,
        contact: &Contact,
        dab: &Dab<'_>,
        tile: usize,
        part: Part<'_>,
        done: &mut Done,
    ) {
        let r = self.mover;
        let width = f32::max(dab.footprint.half_width, 1e-3) + dab.footprint.half_side;
        // What this tile gives to each lane, gives up for good, and would want.
        let (mut lanes, mut crumbs, mut most) = ([Portion::NONE; ACROSS], Portion::NONE, [0.0_f32; ACROSS]);
        let (eager, inverse_room) = (self.eager, all(1.0 / self.room.max(1e-6)));
        Reach::new(dab, part).visit(|first, [dx, dy], press| {
            let rate = all(eager * dab.flow * dab.thin * dab.travel / r.take_mm);
            let cells = &mut block[first * POWDER_VALUES..(first + LANES) * POWDER_VALUES];
            let there = each(|i| cells[i * POWDER_VALUES + HELD] + cells[i * POWDER_VALUES + LOOSE]);
            let worn = each(|i| cells[i * POWDER_VALUES + WEAR]);
            let ground = |values: &[f32]| -> Lanes { lanes::four(&values[first..]) };
            let inverse_sigma = ground(&contact.inverse_sigma);
            let z = ground(&contact.height) + all(r.face) * press.face + all(RAISE) * there - worn;
            let t = (z - press.level) * inverse_sigma;
            let (touched, above) = lanes::normal(t);
            let (_, deep) = lanes::normal(t - all(r.give) * inverse_sigma);
            let phi = larger(ground(&contact.sigma) * (above - deep) * all(1.0 / r.give), Lanes::ZERO);
            // A spray needs no contact.
            let phi = if r.action == Action::Fix {
                all(1.0)
            } else {
                where_greater(t, all(OUT_OF_REACH), phi, Lanes::ZERO)
            };
            let share = all(1.0) - lanes::exp(-(rate * phi * press.cover));
            let share = share / (all(1.0) + share * there * inverse_room);
            let room = larger(all(r.fill) * ground(&contact.room) - there, Lanes::ZERO);
            done.cover += sum(press.cover);
            done.load += sum(press.cover * press.load);
            done.touched += sum(press.cover * touched);
            done.contact += sum(press.cover * phi);
            let (share, room, cover) = (share.to_array(), room.to_array(), press.cover.to_array());
            let near = smaller(press.load * all(1.0 / NEAR_LOAD), all(1.0)).to_array();
            let phi = phi.to_array();
            for i in 0..LANES {
                let cell = &mut cells[i * POWDER_VALUES..(i + 1) * POWDER_VALUES];
                if cover[i] <= 0.0 {
                    continue;
                }
                done.thickest = done.thickest.max(cell[HELD] + cell[LOOSE]);
                if r.action == Action::Fix {
                    let fixed = cell[LOOSE] * share[i];
                    cell[LOOSE] -= fixed;
                    cell[HELD] += fixed;
                    continue;
                }
                let across = (dy * dab.footprint.travel_cos
                    - (dx + i as f32 * part.pixel) * dab.footprint.travel_sin)
                    / width;
                let between = Between::of(across);
                if share[i] > 0.0 && cell[HELD] + cell[LOOSE] > 0.0 {
                    let (taken, stays) = taken_in_place(cell, share[i], share[i] * r.held);
                    if let Some(film) = film.as_deref_mut() {
                        let at = (first + i) * FILM_VALUES;
                        sheer::bare_in_place(&mut film[at..at + FILM_VALUES], stays);
                    }
                    if let Some(layer) = layer.as_deref_mut() {
                        // What stays keeps its place; a finger works it into what lies below.
                        let on_top = if r.action == Action::Blend { 1.0 - share[i] } else { 1.0 };
                        layer[(first + i) * LAYER_VALUES + TOP] *= stays * on_top;
                    }
                    done.taken += taken.powder;
                    if r.action == Action::Cut {
                        crumbs.add_in_place(&taken, 1.0);
                    } else {
                        for (lane, share) in between.shares() {
                            lanes[lane].add_in_place(&taken, share);
                        }
                    }
                }
                if r.action == Action::Cut {
                    if let Some(film) = film.as_deref_mut() {
                        let at = (first + i) * FILM_VALUES;
                        sheer::cut_in_place(&mut film[at..at + FILM_VALUES], share[i]);
                    }
                    cell[WEAR] = (cell[WEAR] + r.wear * phi[i] * cover[i] * dab.travel).min(MOST_WEAR);
                }
                if r.action == Action::Blend {
                    for (lane, share) in between.shares() {
                        most[lane] += cover[i] * r.fill * share;
                    }
                    let reached = INTO_HOLLOWS * near[i] + (1.0 - INTO_HOLLOWS) * phi[i];
                    let (pixel, weight) = (first + i, reached * cover[i] * room[i]);
                    if weight > 0.0 {
                        self.wanting.push(Wanting { tile, pixel, between, weight, gap: room[i] });
                    }
                }
            }
        });
        for lane in 0..ACROSS {
            self.lanes[lane].add_in_place(&lanes[lane].into(), 1.0);
            self.most[lane] += f64::from(most[lane]);
        }
        self.crumbs.add_in_place(&crumbs.into(), 1.0);
    }

    /// What it holds of what it can hold, 0..1.
    pub fn fullness(&self) -> f64 {
        (self.powder() * self.pixel_mm2 * 1e-3 / self.mover.holds_mm3).clamp(0.0, 1.0)
    }

    /// A dab of a footprint of `area` mm² begins. The fuller a tool that keeps what it takes, the less it takes: 1 empty, 0 full;
    /// and no part of its end takes more than that part still has room for. Both as the dab begins: or what it takes would hang on
    /// the order of its tiles.
    pub fn begin(&mut self, area: f32) {
        (self.eager, self.room) = match self.mover.action {
            Action::Blend | Action::Lift => {
                let left = 1.0 - self.fullness();
                (left as f32, (left * self.mover.holds_mm3 * 1e3 / f64::from(area)) as f32)
            }
            _ => (1.0, f32::INFINITY),
        };
    }

    /// Everything of a dab was taken: what is held now is given back over its `travel`, mm, tile by tile; nothing where the tool
    /// gives nothing back.
    pub fn turn_to_giving(&mut self, travel: f32) -> Option<Giving> {
        if self.mover.action != Action::Blend {
            return None;
        }
        self.spread_in_place(travel);
        let share = f64::from(1.0 - libm::expf(-travel / self.mover.lay_mm));
        let most = std::mem::take(&mut self.most);
        let source = |lane: usize| match self.lanes[lane] {
            held if held.powder < LEAST || most[lane] <= 0.0 => Source::DRY,
            held => Source {
                portion: Portion::of(&held),
                for_weight: (share / most[lane]) as f32,
                for_um: (1.0 / held.powder) as f32,
            },
        };
        Some(Giving {
            lanes: self.lanes,
            sources: std::array::from_fn(source),
            wanting: std::mem::take(&mut self.wanting),
        })
    }

    /// Gives the pixels of a tile, by its number within the dab, what they want.
    pub fn give_in_place(
        &mut self,
        giving: &Giving,
        tile: usize,
        DryBlocks { powder, mut film, .. }: DryBlocks<'_>,
        done: &mut Done,
    ) {
        let within = |at: &dyn Fn(&Wanting) -> bool| giving.wanting.partition_point(at);
        let mut parts = [0.0_f64; ACROSS];
        for w in &giving.wanting[within(&|w| w.tile < tile)..within(&|w| w.tile <= tile)] {
            let cell = &mut powder[w.pixel * POWDER_VALUES..(w.pixel + 1) * POWDER_VALUES];
            let mut sum = Portion::NONE;
            let shares = w.between.shares().map(|(number, of_pixel)| {
                let source = &giving.sources[number];
                let part = of_pixel * (w.weight * source.for_weight).min(MOST_OF_GAP * w.gap * source.for_um);
                sum.add_in_place(&source.portion, part);
                (number, part)
            });
            if sum.powder <= 0.0 {
                continue;
            }
            let given = given_in_place(cell, &sum);
            // What was gained is what was meant, but for rounding.
            let true_share = f64::from(given / sum.powder);
            for (number, part) in shares {
                parts[number] += f64::from(part) * true_share;
            }
            done.laid += given;
            if let Some(film) = film.as_deref_mut() {
                let film = &mut film[w.pixel * FILM_VALUES..(w.pixel + 1) * FILM_VALUES];
                sheer::hide_in_place(film, cell[COVER], given);
            }
        }
        for (lane, (held, part)) in self.lanes.iter_mut().zip(giving.lanes.iter().zip(parts)) {
            lane.add_in_place(held, -part);
        }
    }

    /// A dab is done: its lists are used again for the next.
    pub fn done_giving(&mut self, giving: Giving) {
        self.wanting = giving.wanting;
        self.wanting.clear();
    }

    /// What the tip holds rolls a little to its sides.
    fn spread_in_place(&mut self, travel: f32) {
        let share = (SPREADS * f64::from(travel)).min(0.25);
        let before = self.lanes;
        for (i, lane) in before.iter().enumerate() {
            for next in [i.checked_sub(1), (i + 1 < ACROSS).then_some(i + 1)].into_iter().flatten() {
                self.lanes[i].add_in_place(lane, -share);
                self.lanes[next].add_in_place(lane, share);
            }
        }
    }
}

fn sum(v: Lanes) -> f32 {
    v.to_array().iter().sum()
}

/// Takes shares of a pixel's loose and held powder; gives what it lost, and the share that stays.
#[inline(always)]
fn taken_in_place(cell: &mut [f32], of_loose: f32, of_held: f32) -> (Portion, f32) {
    let (loose, held) = (cell[LOOSE], cell[HELD]);
    cell[LOOSE] = loose - loose * of_loose;
    cell[HELD] = held - held * of_held;
    let stays = (cell[LOOSE] + cell[HELD]) / (loose + held);
    let mut lost =
        Portion { powder: (loose - cell[LOOSE]) + (held - cell[HELD]), bands: [Lanes::ZERO; VECTORS] };
    for (values, lost) in cell[KX..SX + BANDS].chunks_exact_mut(LANES).zip(&mut lost.bands) {
        let before = lanes::four(values);
        let after = before * all(stays);
        values.copy_from_slice(&after.to_array());
        *lost = before - after;
    }
    (lost, stays)
}

/// Gives a pixel powder, loose; gives how much it gained, µm.
#[inline(always)]
fn given_in_place(cell: &mut [f32], portion: &Portion) -> f32 {
    let before = cell[LOOSE];
    cell[LOOSE] = before + portion.powder;
    for (values, band) in cell[KX..SX + BANDS].chunks_exact_mut(LANES).zip(portion.bands) {
        let after = lanes::four(values) + band;
        values.copy_from_slice(&after.to_array());
    }
    cell[COVER] = cell[COVER].max(((cell[LOOSE] + cell[HELD]) / GRAIN_UM).min(1.0));
    cell[LOOSE] - before
}
