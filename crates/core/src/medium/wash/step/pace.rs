//! What a step is on a sheet of some pitch. All constants are the wash study's, tuned by eye there, without a source.

use crate::sheet::STEP_S;

/// Time of a step of water on a sheet of the study's pitch, s.
const DT_S: f64 = 1.0 / 30.0;
/// Steps of the sheet's own clock in it, and at most for one step of water.
const EVERY: f64 = DT_S / STEP_S;
const LONGEST: f64 = 8.0;
/// The study's pitch, mm. A finer sheet takes more, shorter steps.
const PITCH_MM: f64 = 0.085;
/// The longest step of all, steps of the clock: water that dries is looked at three times a second.
const SLOWEST: f64 = 20.0;
/// So much is used of what a wave may cross in a step, squared, where that is longer than the usual; and where it is not.
const SURELY: f64 = 0.8;
const HOLDS: f64 = 0.95;
/// Water runs through cells over so much of one in a step that is longer than the usual, at most.
const RUNS: f64 = 0.2;
/// Water spreads in the paper, mm²/s; over so much of a cell in a pair of steps, at most, it would swing.
const SOAKS_MM2_S: f64 = 0.025;
const SOAKS_MOST: f64 = 0.24;
/// How water falls: µm of head a mm, mm/s².
const FALLS: f64 = 0.016_26;
/// What slows it: of a film of 1 µm, squared, µm²/s.
const DRAG: f64 = 5760.0;
/// A line of water runs over dry paper so fast at most, mm/s, and where all is wet so much faster: together about as fast as the study's runs went, whose cells gave no
/// more than 0.36 of themselves in a step.
const LINE_MM_S: f64 = 0.28 * PITCH_MM / DT_S;
const WET_MM_S: f64 = 0.11 * PITCH_MM / DT_S;
/// Water lifts half as much as the fastest where it runs so fast on the mean of a cell's left and right faces and of its upper and lower ones, summed.
const LIFTS_MM_S: f64 = 0.05 * PITCH_MM / DT_S;
/// How paint drifts down a gradient of its pull, mm²/s.
const DRIFT_MM2_S: f64 = 8.5 * PITCH_MM;
/// It drifts no faster than the study's, which went so many cells in a pair of steps, mm/s; nor farther than so many in a pair of longer ones, since a cell
/// gives no more than it has.
const DRIFT_MM_S: f64 = 0.13 * PITCH_MM / (2.0 * DT_S);
const MOST_DRIFT: f64 = 0.2;

/// Pull that would give this share of the fastest drift gives half of it, and a slighter one less and less: the face of water bears a slight one (tuned by
/// eye: what moves slowly and long in an even wash is seen in the squares of the grid).
const QUIET: f64 = 0.1;
/// Where drift is faster than this share of its most, it stirs paint besides, by no more than another share of it.
const STIRS_OVER: f64 = 0.05;
const STIRS_MOST: f64 = 0.5;

/// Paint drifts over no more than so much of a cell in a pair of steps for a whole unit of pull, where no mean is taken: the pull is found anew every two
/// pairs, and what goes up and down from node to node would change sides until then. (So much over so deep a film that all drifts; over 60 µm half of it.)
const STEADY: f64 = 1.4;
/// So much of a mean over nodes a strength of paint is at most: under the whole of it what goes up and down from node to node would not be seen, and stay.
const MOST_SMOOTH: f64 = 0.9;

/// Numbers of a step.
#[derive(Debug, Clone, Copy)]
pub struct Pace {
    /// A step of water is so many of the sheet's own clock, and is taken in so many parts.
    pub every: u64,
    pub parts: u64,
    /// Water dries for so long at once, and paint settles, s: as long as a pair of steps takes or took, and two pairs.
    pub dries_s: f32,
    pub settles_s: f32,
    /// A µm of head gives so much speed, cells a step; the slope of the board gives this across and down.
    pub head: f32,
    pub slope: [f32; 2],
    /// Film at which paper's drag halves the speed, squared, µm².
    pub drag: f32,
    /// Fastest line over dry paper, and what wet ground adds, cells a step.
    pub line: f32,
    pub wet: f32,
    /// Speed of water at which lifting is half of its most, cells a step, summed over both faces across and both down.
    pub lifts_half: f32,
    /// A µm of film, and a cell a step, bring water so much nearer to swinging in the usual step: over 1 together it does, and in a step of some share of it
    /// where that share of them is over 1. Where water runs over `v` cells in a step and takes with it what stood upstream, it swings where `2c² > 1 - v`
    /// (as in [`Pace::bears`], without drag).
    pub swings: [f32; 2],
    /// Mixing of paint between neighbours, a pair of steps.
    pub mixes: f32,
    /// Rolling for each µm of slope between neighbours, and at most, two pairs.
    pub rolls: f32,
    pub rolls_most: f32,
    /// Spread of water in the paper, a pair.
    pub soaks: f32,
    /// Drift of paint for the difference across two nodes, and what it is limited to softly, cells a pair.
    pub drifts: f32,
    pub drifts_most: f32,
    /// Drift that becomes half of itself, cells a pair.
    pub drifts_quiet: f32,
    /// No more than this for the difference, or it would go to and fro between nodes.
    pub drifts_steepest: f32,
    /// Drift over which it stirs paint, and how strongly that does at most, cells a pair.
    pub stirs_over: f32,
    pub stirs_most: f32,
    /// Spread and settling of humidity, and how often a turn of it is run.
    pub humid_spreads: f32,
    pub humid_settles: f32,
    pub humid_runs: usize,
    /// How much of a node's roundness, and of its strength of paint, is the mean over the nodes around it.
    pub round_smooth: f32,
    pub drift_smooth: f32,
}

impl Pace {
    #[cfg(test)]
    /// On a sheet of pixels of `dx` mm, its board tilted by `slope` (tangent, across and down).
    pub fn new(dx: f64, slope: [f64; 2]) -> Self {
        let (every, parts) = usual(dx);
        Self::in_parts(dx, slope, every, parts)
    }

    /// The step, of the clock's, and in how many parts it is taken, for water of which the deepest has so many µm, the fastest runs through over so much of a
    /// cell in a step of the clock and which `swings` by so much in the usual step (see the field): a shorter one where it would, else as long a one as it
    /// bears.
    ///
    /// Water is pulled first and flows then, with drag taken at the end of a step: at rest it swings where `c² > (1 + f) / 4f`, of `c` cells that a wave
    /// crosses in a step and the share `f` of its speed that drag leaves it (von Neumann's analysis of the shortest wave across and down at once, worked out for this step: no source for the sum).
    pub fn bears(dx: f64, deepest: f32, fastest: f32, swings: f32) -> [u64; 2] {
        let (usual, parts) = usual(dx);
        let keeps_still = |every: f64| {
            let (dt, deep) = (every * STEP_S / parts, f64::from(deepest));
            let wave = head_of(dx, dt) * deep;
            let left = deep * deep / (deep * deep + DRAG * dt);
            let soaks = SOAKS_MM2_S * 2.0 * dt / (dx * dx);
            4.0 * left * wave <= SURELY * (1.0 + left)
                && soaks <= SOAKS_MOST
                && f64::from(fastest) * every / parts <= RUNS
        };
        if swings > 1.0 {
            // In a share of the step, what speed brings to it goes by the share, what depth does by its square; the more of it is speed, the shorter.
            let runs = (LINE_MM_S + WET_MM_S) * usual * STEP_S / parts / dx;
            let deep = f64::from(swings) - runs;
            let every = usual * 2.0 / (runs + f64::sqrt(runs * runs + 4.0 * deep));
            return [f64::floor(every).max(1.0), f64::ceil(parts / every.min(1.0))].map(|n| n as u64);
        }
        let mut every = usual;
        while every + 1.0 <= SLOWEST && keeps_still(every + 1.0) {
            every += 1.0;
        }
        [every, parts].map(|n| n as u64)
    }

    /// In steps of `every` of the clock's, taken in so many parts.
    pub fn in_parts(dx: f64, slope: [f64; 2], every: f64, parts: f64) -> Self {
        let dt = every * STEP_S / parts;
        let (head, usual) = (head_of(dx, dt), usual(dx));
        let speed = |mm_s: f64| mm_s * dt / dx;
        let spread = 0.0433 * 4.0 * dt / (4.0 * dx * dx);
        let runs = f64::ceil(spread / 0.21).max(1.0);
        let spread = spread / runs;
        let nodes = 0.51 / (2.0 * dx);
        let drifts_most = (DRIFT_MM_S * 2.0 * dt / dx).min(MOST_DRIFT);
        Self {
            every: every as u64,
            parts: parts as u64,
            dries_s: (2.0 * dt) as f32,
            settles_s: (4.0 * dt) as f32,
            head: head as f32,
            slope: slope.map(|tan| (head * 1000.0 * dx * tan) as f32),
            drag: (DRAG * dt) as f32,
            line: speed(LINE_MM_S).min(0.28) as f32,
            wet: speed(WET_MM_S).min(0.42) as f32,
            lifts_half: (2.0 * speed(LIFTS_MM_S)) as f32,
            swings: [
                2.0 * head_of(dx, usual.0 * STEP_S / usual.1) / HOLDS,
                usual.0 * parts / (usual.1 * every),
            ]
            .map(|per| per as f32),
            mixes: (3.25e-4 * 2.0 * dt / (dx * dx)) as f32,
            rolls: (6.9e-5 * 4.0 * dt / (dx * dx)) as f32,
            rolls_most: (0.0102 * 4.0 * dt / dx) as f32,
            soaks: (SOAKS_MM2_S * 2.0 * dt / (dx * dx)) as f32,
            drifts: (DRIFT_MM2_S * 2.0 * dt / (8.0 * dx * dx)) as f32,
            drifts_steepest: (STEADY / (1.0 - smooth(dx, MOST_SMOOTH))) as f32,
            drifts_most: drifts_most as f32,
            drifts_quiet: (QUIET * drifts_most) as f32,
            stirs_over: (STIRS_OVER * drifts_most) as f32,
            stirs_most: (STIRS_MOST * drifts_most) as f32,
            humid_spreads: spread as f32,
            humid_settles: (spread / (nodes * nodes)) as f32,
            humid_runs: runs as usize,
            round_smooth: smooth(dx, 1.0) as f32,
            drift_smooth: smooth(dx, MOST_SMOOTH) as f32,
        }
    }
}

/// Speed that a µm of head gives in a step of `dt` s, cells a step.
fn head_of(dx: f64, dt: f64) -> f64 {
    FALLS * dt * dt / (dx * dx)
}

/// Steps of the clock for one of water on a sheet of pixels of `dx` mm, whatever stands on it, and in how many parts it is taken.
fn usual(dx: f64) -> (f64, f64) {
    // A wave may not cross half a cell; with room for pixels that are the study's but for rounding.
    let parts = f64::ceil(PITCH_MM * PITCH_MM / (dx * dx) - 0.1).max(1.0);
    // On a coarser sheet it has farther to go: longer steps do.
    (f64::floor(EVERY * dx / PITCH_MM + 0.02).clamp(EVERY, LONGEST), parts)
}

/// How much of a binomial mean over nodes of four pixels of `dx` mm makes it as wide in mm as `most` of it is at the study's pitch (variances of a node's
/// side, and of the mean); so much on finer sheets, where it would have to be more.
fn smooth(dx: f64, most: f64) -> f64 {
    const NODE: f64 = 16.0 / 12.0;
    const MEAN: f64 = 8.0;
    (((NODE + most * MEAN) * PITCH_MM * PITCH_MM / (dx * dx) - NODE) / MEAN).clamp(0.0, most)
}
