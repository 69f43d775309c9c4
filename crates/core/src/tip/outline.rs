//! Shapes of a tip as gauges: a function ρ(a, b) of the place in half axes that is 1 on the outline, grows in proportion to
//! the distance from the middle, and so gives edge, inside and pressure for any shape alike.
//!
//! Each half of the length has a norm of its own (`ρᵖ = |a|ᵖ + |b|ᵖ`): an ellipse, a rectangle with rounded corners, a
//! diamond. Shear slants the outline, bend curves it; both keep its area and how much of it lies within each ρ.

use crate::chain::choice::choices;
use crate::chain::{Qualities, Quality, Signals};
use crate::lanes::{Lanes, all, larger, where_greater};

choices! {
    /// Shapes that a painter chooses among.
    pub enum Shape {
        Round = "round", "round";
        Flat = "flat", "flat";
        Filbert = "filbert", "filbert";
        Angled = "angled", "angled";
        Fan = "fan", "fan";
        Pointed = "pointed", "pointed";
        /// Many small spots within a round.
        Speckled = "speckled", "speckled";
        /// What an image shows.
        Image = "image", "image";
    }
}

choices! {
    /// What turns the tip on the sheet.
    pub enum TurnedBy {
        Bearing = "bearing", "nothing: a fixed bearing";
        Lean = "lean", "lean";
        Barrel = "barrel", "barrel";
        Heading = "heading", "heading";
    }
}

impl TurnedBy {
    /// Direction of a tip's width on the sheet, radians.
    pub fn direction(self, qualities: &Qualities, signals: &Signals) -> f64 {
        let turned = match self {
            TurnedBy::Bearing => 0.0,
            TurnedBy::Lean => signals.lean_deg,
            TurnedBy::Barrel => signals.barrel_deg,
            TurnedBy::Heading => signals.heading_deg,
        };
        (turned + qualities.get(Quality::Angle)).to_radians()
    }
}

impl Shape {
    pub fn outline(self) -> Outline {
        use Norm::{Box, Diamond, Ellipse, Rounded};
        let plain = |front, back| Outline { front, back, shear: 0.0, bend: 0.0 };
        match self {
            Self::Round | Self::Speckled => Outline::ROUND,
            Self::Flat => plain(Rounded, Rounded),
            Self::Filbert => plain(Ellipse, Rounded),
            // Its long edges slant: by this many half widths from the middle to the end.
            Self::Angled => Outline { shear: 0.7, ..plain(Rounded, Rounded) },
            Self::Fan => Outline { bend: 1.3, ..plain(Rounded, Rounded) },
            Self::Pointed => plain(Diamond, Ellipse),
            Self::Image => plain(Box, Box),
        }
    }
}

/// How `|a|` and `|b|` make ρ.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Norm {
    /// p = 1.
    Diamond,
    /// p = 2.
    Ellipse,
    /// p = 8: a rectangle with small round corners.
    Rounded,
    /// p = ∞.
    Box,
}

impl Norm {
    /// Area within ρ = 1 for half axes of 1: `4·Γ(1 + 1/p)²/Γ(1 + 2/p)`.
    fn area(self) -> f32 {
        match self {
            Self::Diamond => 2.0,
            Self::Ellipse => std::f32::consts::PI,
            Self::Rounded => 3.914_2,
            Self::Box => 4.0,
        }
    }

    /// ρ².
    #[inline(always)]
    fn radius2(self, a: Lanes, b: Lanes) -> Lanes {
        match self {
            Self::Diamond => {
                let sum = a.abs() + b.abs();
                sum * sum
            }
            Self::Ellipse => a * a + b * b,
            Self::Rounded => {
                let (a2, b2) = (a * a, b * b);
                let (a4, b4) = (a2 * a2, b2 * b2);
                (a4 * a4 + b4 * b4).sqrt().sqrt()
            }
            Self::Box => larger(a * a, b * b),
        }
    }

    /// ρ·∇ρ over a and b.
    #[inline(always)]
    fn slope(self, a: Lanes, b: Lanes, radius2: Lanes) -> (Lanes, Lanes) {
        match self {
            Self::Diamond => {
                let r = radius2.sqrt();
                let signed = |v: Lanes| where_greater(Lanes::ZERO, v, -r, r);
                (signed(a), signed(b))
            }
            Self::Ellipse => (a, b),
            Self::Rounded => {
                let inverse = all(1.0) / larger(radius2, all(1e-12));
                let of = |v: Lanes| {
                    let share = v * v * inverse;
                    v * share * share * share
                };
                (of(a), of(b))
            }
            Self::Box => {
                let along = where_greater(a * a, b * b, all(1.0), Lanes::ZERO);
                (a * along, b * (all(1.0) - along))
            }
        }
    }

    fn radius(self, a: f32, b: f32) -> f32 {
        self.radius2(all(a), all(b)).sqrt().to_array()[0]
    }
}

/// The outline of a tip.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Outline {
    /// Norms of the half towards the direction of the length axis and of the other.
    front: Norm,
    back: Norm,
    /// How far the outline slants and curves, half widths.
    shear: f32,
    bend: f32,
}

impl Outline {
    pub const ROUND: Outline = Outline { front: Norm::Ellipse, back: Norm::Ellipse, shear: 0.0, bend: 0.0 };

    /// A plain ellipse: what most tips are, and quick.
    #[inline(always)]
    pub fn is_round(&self) -> bool {
        *self == Self::ROUND
    }

    /// Area for half axes of 1.
    pub fn area(&self) -> f32 {
        0.5 * (self.front.area() + self.back.area())
    }

    /// How far the outline is moved aside at `along` (−1..1 of the whole length), half widths.
    #[inline(always)]
    pub fn aside(&self, along: Lanes) -> Lanes {
        all(self.shear) * along + all(self.bend) * (along * along - all(1.0 / 3.0))
    }

    /// The same of one place.
    pub fn aside_at(&self, along: f32) -> f32 {
        self.aside(all(along)).to_array()[0]
    }

    /// Its rim along a direction, half axes; before it is moved aside.
    pub fn rim(&self, [a, b]: [f32; 2]) -> [f32; 2] {
        let norm = if a > 0.0 { self.front } else { self.back };
        let far = 1.0 / norm.radius(a, b).max(1e-9);
        [a * far, b * far]
    }

    /// Its change with `along`.
    #[inline(always)]
    pub fn aside_slope(&self, along: Lanes) -> Lanes {
        all(self.shear) + all(2.0 * self.bend) * along
    }

    /// ρ² at half axes `end` (not negative) and `side`; `u` tells front from back.
    #[inline(always)]
    pub fn radius2(&self, u: Lanes, end: Lanes, side: Lanes) -> Lanes {
        let front = self.front.radius2(end, side);
        if self.front == self.back {
            return front;
        }
        where_greater(u, Lanes::ZERO, front, self.back.radius2(end, side))
    }

    /// ρ·∇ρ over `end` and `side`.
    #[inline(always)]
    pub fn slope(&self, u: Lanes, end: Lanes, side: Lanes, radius2: Lanes) -> (Lanes, Lanes) {
        let front = self.front.slope(end, side, radius2);
        if self.front == self.back {
            return front;
        }
        let back = self.back.slope(end, side, radius2);
        (where_greater(u, Lanes::ZERO, front.0, back.0), where_greater(u, Lanes::ZERO, front.1, back.1))
    }

    /// With a share of its slant and curve; all of them from 1 on.
    #[must_use]
    pub fn straightened(self, share: f32) -> Self {
        let share = share.min(1.0);
        Self { shear: self.shear * share, bend: self.bend * share, ..self }
    }

    /// How much steeper than an ellipse's ρ may rise.
    pub fn steep(&self) -> f32 {
        let corner = if self.front == Norm::Diamond { std::f32::consts::SQRT_2 } else { 1.0 };
        corner * (1.0 + self.shear.abs() + 2.0 * self.bend.abs())
    }

    /// Half extent across, half widths.
    pub fn half_across(&self) -> f32 {
        1.0 + self.shear.abs() + 0.67 * self.bend.abs()
    }

    /// Length of the chord through the middle along a direction, given as shares of the half axes for a mm.
    pub fn chord(&self, a: f32, b: f32) -> f32 {
        1.0 / self.front.radius(a, b).max(1e-9) + 1.0 / self.back.radius(a, b).max(1e-9)
    }
}
