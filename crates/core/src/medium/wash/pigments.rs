//! How pigments behave in water: what settles, what rolls into hollows, what stains; in gum, as watercolour, and in ink.
//!
//! Constants are tuned by eye (the wash study's six), without a source; every other pigment takes after one of those six, as its chemistry
//! and the trade's charts of granulating and staining colours have it (common practice, no source): heavy, coarse earths and
//! cobalts granulate, ground organic colours stain, whites and cadmiums are fine but heavy. What is coarse settles at a little more than half the study's
//! speed and rolls a little more than half as readily, which leaves its grain as it was, and spreads as strongly as what is fine: in wet paper it stayed where it
//! was set.

use crate::paint::pigment;

/// What a pigment does in water.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct InWater {
    /// Colour-index code.
    pub code: &'static str,
    /// How fast it settles, µm/s.
    pub settles: f32,
    /// How much more of it settles into pits.
    pub pits: f32,
    /// How readily it rolls down into hollows.
    pub rolls: f32,
    /// Share of what settles that is bound at once.
    pub stains: f32,
    /// How readily what lies loose is lifted.
    pub lifts: f32,
    /// How far it gathers where some has settled.
    pub clumps: f32,
    /// How strongly it spreads over a wet surface.
    pub spreads: f32,
    /// How much of it goes with water through damp paper beyond the wet edge.
    pub creeps: f32,
}

/// How many the palette has.
const PALETTE: usize = 29;
/// Each of them in gum, in an ink that dries waterproof, in one that does not.
pub const COUNT: usize = 3 * PALETTE;

/// What pigment is ground in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Vehicle {
    Gum,
    /// Ink that dries waterproof, and ink that runs again when it is wet.
    Waterproof,
    Washable,
}

impl Vehicle {
    const ALL: [Self; 3] = [Self::Gum, Self::Waterproof, Self::Washable];

    /// The vehicle of a pigment by its number in the table.
    pub fn of(number: usize) -> Self {
        Self::ALL[number / PALETTE]
    }
}

/// What ink does whatever its pigment: ground so fine that it neither settles visibly nor granulates, it goes where water goes; shellac binds
/// all of it as it dries (common practice, no source for the numbers: tuned by eye).
const INKS: [[f32; 8]; 2] =
    [[0.25, 0.0, 0.0, 1.0, 0.0, 0.0, 2.0, 1.0], [0.25, 0.0, 0.0, 0.35, 0.9, 0.0, 2.5, 1.0]];

/// The table, the codes of all it holds, and the names of their layouts.
macro_rules! table {
    ($(of($code:literal, $values:expr),)+) => {
        const OWN: [(&str, [f32; 8]); PALETTE] = [$(($code, $values)),+];

        /// Names of what a sheet keeps of each.
        pub const NAMES: [&str; COUNT] =
            [$($code),+, $(concat!($code, ", waterproof ink")),+, $(concat!($code, ", washable ink")),+];
    };
}

// Every pigment of the palette, in its order, in gum.
table! {
    // Fine, heavy and opaque: settles fast, evenly.
    of("PW6", [3.0, 0.2, 0.2, 0.4, 0.5, 0.3, 1.0, 0.2]),
    of("PW4", [2.0, 0.15, 0.15, 0.35, 0.55, 0.25, 1.0, 0.25]),
    of("PY35", [3.0, 0.3, 0.35, 0.35, 0.6, 0.35, 1.0, 0.15]),
    // The study's: an organic yellow, fine.
    of("PY74", [0.8, 0.1, 0.1, 0.6, 0.3, 0.1, 2.0, 0.8]),
    // The study's: a soft earth.
    of("PY43", [3.0, 0.35, 0.4, 0.3, 0.7, 0.4, 1.0, 0.15]),
    // Earths, coarser the more they are burnt.
    of("PBr7rs", [3.5, 0.5, 0.55, 0.3, 0.7, 0.55, 1.0, 0.12]),
    of("PR101", [2.4, 0.6, 0.5, 0.35, 0.6, 0.7, 2.0, 0.1]),
    // One of the study's: a coarse earth.
    of("PBr7bu", [2.8, 0.75, 0.55, 0.3, 0.7, 0.9, 3.0, 0.05]),
    // Cadmiums, as their yellow.
    of("PO20", [3.0, 0.3, 0.35, 0.35, 0.6, 0.35, 1.0, 0.15]),
    of("PR108", [3.2, 0.3, 0.35, 0.4, 0.55, 0.35, 1.0, 0.15]),
    // Quinacridones: fine organic colours.
    of("PR122", [0.6, 0.05, 0.05, 0.7, 0.25, 0.05, 3.0, 1.0]),
    // The study's.
    of("PV19", [0.6, 0.05, 0.05, 0.7, 0.25, 0.05, 3.0, 1.0]),
    of("PR177", [0.7, 0.08, 0.08, 0.75, 0.2, 0.08, 2.5, 0.9]),
    // One of the study's: flocculates and granulates.
    of("PB29", [2.8, 0.8, 0.6, 0.25, 0.8, 1.0, 3.0, 0.05]),
    // Cobalts: heavy and coarse, hardly staining.
    of("PB28", [2.8, 0.7, 0.55, 0.15, 0.9, 0.8, 3.0, 0.06]),
    of("PB35", [3.3, 0.85, 0.6, 0.15, 0.9, 0.9, 3.0, 0.04]),
    // The study's: the finest, and it stains.
    of("PB15:3", [0.6, 0.05, 0.05, 0.85, 0.15, 0.05, 3.0, 1.0]),
    of("PG7", [0.6, 0.05, 0.05, 0.85, 0.15, 0.05, 3.0, 1.0]),
    // A coarse hydrated oxide that lifts well.
    of("PG18", [2.6, 0.75, 0.55, 0.12, 0.95, 0.8, 3.0, 0.06]),
    of("PV23", [0.6, 0.05, 0.05, 0.85, 0.15, 0.05, 2.8, 1.0]),
    // Bone black is coarse, lamp black is the finest soot but flocculates.
    of("PBk9", [3.0, 0.4, 0.45, 0.4, 0.6, 0.5, 1.0, 0.15]),
    of("PBk6", [1.5, 0.2, 0.2, 0.6, 0.35, 0.4, 1.5, 0.5]),
    // A mixture of fine organic colours.
    of("sapG", [0.9, 0.15, 0.15, 0.6, 0.35, 0.15, 2.0, 0.7]),
    of("PR254", [0.8, 0.08, 0.08, 0.75, 0.2, 0.08, 2.5, 0.9]),
    of("PG17", [3.0, 0.45, 0.4, 0.3, 0.7, 0.5, 1.5, 0.08]),
    of("PV14", [3.3, 0.9, 0.6, 0.1, 0.95, 1.0, 3.0, 0.04]),
    of("PG50", [2.8, 0.75, 0.55, 0.15, 0.9, 0.85, 3.0, 0.06]),
    of("PY3", [0.8, 0.1, 0.1, 0.6, 0.3, 0.1, 2.0, 0.8]),
    of("PO62", [0.8, 0.1, 0.1, 0.65, 0.25, 0.1, 2.0, 0.8]),
}

/// What each does in water, by its number: the palette's pigments in gum, then in each ink.
pub static TABLE: [InWater; COUNT] = {
    let mut out = [in_water(0); COUNT];
    let mut i = 1;
    while i < COUNT {
        out[i] = in_water(i);
        i += 1;
    }
    out
};

const fn in_water(number: usize) -> InWater {
    let (code, own) = OWN[number % PALETTE];
    let v = if number < PALETTE { own } else { INKS[number / PALETTE - 1] };
    let [settles, pits, rolls, stains, lifts, clumps, spreads, creeps] = v;
    InWater { code, settles, pits, rolls, stains, lifts, clumps, spreads, creeps }
}

/// The number in the table of a pigment of the palette in a vehicle.
pub fn number(code: &str, vehicle: Vehicle) -> Option<usize> {
    let own = OWN.iter().position(|p| p.0 == code)?;
    Some(own + PALETTE * vehicle as usize)
}

/// K and S of a pigment for each µm of tube strength.
pub fn bands(number: usize) -> &'static [[f32; crate::paint::BANDS]; 2] {
    static ALL: std::sync::OnceLock<Vec<[[f32; crate::paint::BANDS]; 2]>> = std::sync::OnceLock::new();
    &ALL.get_or_init(|| {
        let per_um = |v: &[f64; crate::paint::BANDS]| v.map(|v| (v * 1e-3) as f32);
        let of = |p: &InWater| {
            let found = pigment::find(p.code).expect("a pigment of the palette (tested)");
            [per_um(&found.k), per_um(&found.s)]
        };
        TABLE.iter().map(of).collect()
    })[number]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_pigment_of_the_palette_behaves_in_water() {
        assert_eq!(
            TABLE[..PALETTE].iter().map(|p| p.code).collect::<Vec<_>>(),
            pigment::all().iter().map(|p| p.code.as_str()).collect::<Vec<_>>()
        );
    }
}
