//! What a pen's reports tell of the pen, and of what bends them on the way: the operating system and the driver have
//! pressure curves of their own. Limits are our own, tuned on simulated pens (tests).

use serde::Serialize;

use super::Sample;

/// Reports needed before anything is said of how pressure is spread.
const ENOUGH: usize = 200;
/// Pressures closer than this are the same level.
const SAME: f64 = 1e-7;
/// Fewer levels than this show as steps in a light tone.
const FEW_LEVELS: f64 = 1500.0;
/// Full scale is reached from here on.
const FULL: f64 = 0.985;
/// A share of reports on the very highest level that is a pile-up, and no chance.
const PILE: f64 = 0.03;
/// A hand lands and lifts through light forces: a lowest report above this was put there.
const FLOOR: f64 = 0.03;
/// Levels of an unbent pen are equally far apart; the widest and the narrowest third may differ by this much.
const BENT: f64 = 1.6;

/// Something between hand and program that the painter should know of.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
pub struct Warning {
    pub code: &'static str,
    pub what: &'static str,
    pub means: &'static str,
    pub remedy: &'static str,
}

/// What was seen of a pen.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize, Default)]
pub struct Observed {
    pub reports: usize,
    /// Median reports a second while touching; 0 before there are two.
    pub rate_hz: f64,
    /// Different pressures seen.
    pub distinct_levels: usize,
    /// Levels that the pen has, by the least step seen; 0 while too few were seen to tell.
    pub levels: usize,
    pub lowest: f64,
    pub highest: f64,
    pub has_pressure: bool,
    pub has_tilt: bool,
    pub has_barrel: bool,
    pub warnings: Vec<Warning>,
}

/// Looks at the reports of strokes, each from touching down to lifting. `pen`: the browser says that they come from a pen.
pub fn observe(strokes: &[Vec<Sample>], pen: bool) -> Observed {
    let all: Vec<&Sample> = strokes.iter().flatten().collect();
    if all.is_empty() {
        return Observed::default();
    }
    let mut pressures: Vec<f64> = all.iter().map(|s| s.pressure).filter(|p| *p > 0.0).collect();
    pressures.sort_by(f64::total_cmp);
    let mut distinct = pressures.clone();
    distinct.dedup_by(|a, b| (*a - *b).abs() < SAME);
    let varies = |of: fn(&Sample) -> f64| all.iter().any(|s| (of(s) - of(all[0])).abs() > 1e-6);
    let steps = Steps::new(&distinct);
    let mut out = Observed {
        reports: all.len(),
        rate_hz: rate(strokes),
        distinct_levels: distinct.len(),
        levels: steps.as_ref().map_or(0, |s| (1.0 / s.least).round() as usize + 1),
        lowest: pressures.first().copied().unwrap_or(0.0),
        highest: pressures.last().copied().unwrap_or(0.0),
        has_pressure: distinct.len() > 1,
        has_tilt: varies(|s| s.tilt_x) || varies(|s| s.tilt_y),
        has_barrel: varies(|s| s.twist),
        warnings: Vec::new(),
    };
    out.warnings = warnings(&out, &pressures, steps.as_ref(), strokes.len(), pen);
    out
}

fn rate(strokes: &[Vec<Sample>]) -> f64 {
    let mut gaps: Vec<f64> = strokes
        .iter()
        .flat_map(|s| s.windows(2))
        .map(|w| w[1].t - w[0].t)
        .filter(|gap| *gap > 1e-5)
        .collect();
    if gaps.is_empty() {
        return 0.0;
    }
    gaps.sort_by(f64::total_cmp);
    1.0 / gaps[gaps.len() / 2]
}

/// How far apart levels lie.
struct Steps {
    least: f64,
    /// Least step in the lower, middle and upper third of what was seen.
    thirds: [f64; 3],
}

impl Steps {
    /// Nothing where so few levels were seen that neighbours need not be among them. The ends are left out: a cap or a floor
    /// may lie between two levels.
    fn new(distinct: &[f64]) -> Option<Self> {
        let distinct = distinct.get(1..distinct.len().saturating_sub(1))?;
        let (first, last) = (*distinct.first()?, *distinct.last()?);
        let span = last - first;
        let mut thirds = [f64::INFINITY; 3];
        let mut counts = [0.0; 3];
        for pair in distinct.windows(2) {
            let third = (((pair[0] - first) / span * 3.0) as usize).min(2);
            thirds[third] = thirds[third].min(pair[1] - pair[0]);
            counts[third] += 1.0;
        }
        let least = thirds.iter().copied().fold(f64::INFINITY, f64::min);
        // Of n places among N, about n²/N neighbours are both seen.
        let enough = counts.iter().all(|n: &f64| n * n * least / (span / 3.0) >= 8.0);
        (span > 0.0 && enough).then_some(Self { least, thirds })
    }

    fn bent(&self) -> bool {
        let most = self.thirds.iter().copied().fold(0.0, f64::max);
        most > BENT * self.least
    }
}

fn warnings(
    seen: &Observed,
    sorted: &[f64],
    steps: Option<&Steps>,
    strokes: usize,
    pen: bool,
) -> Vec<Warning> {
    let mut out = Vec::new();
    let mut say = |yes: bool, code, what, means, remedy| {
        if yes {
            out.push(Warning { code, what, means, remedy });
        }
    };
    let constant = seen.reports >= 8 && !seen.has_pressure;
    say(
        constant && !pen,
        "no-force",
        "This device reports one force only.",
        "A mouse, a finger or a trackpad says that it touches, not how hard.",
        "Use the stand-ins, or play a gesture through a simulated stylus.",
    );
    say(
        constant && pen,
        "force-stuck",
        "The pen's force never changes.",
        "The browser sees a pen, but its driver hands on no pressure.",
        "Turn pressure on in the pen's own settings, then draw here again.",
    );
    if seen.has_pressure && seen.reports >= ENOUGH {
        let top = sorted.iter().filter(|p| (**p - seen.highest).abs() < SAME).count();
        let piled = top as f64 >= PILE * sorted.len() as f64;
        say(
            piled && seen.highest < FULL,
            "capped",
            "Force stops short of full.",
            "Many reports lie on one highest value below full: something before this program caps the pen.",
            "Take the cap out of the pen's own settings, or put full output at that value in the curve below.",
        );
        say(
            strokes >= 3 && seen.lowest > FLOOR,
            "floor",
            "The lightest touch already counts as force.",
            "Every stroke begins above nothing: something before this program lifts light marks.",
            "Take the lift out of the pen's own settings, or begin the curve below at the lightest value.",
        );
        say(
            steps.is_some_and(Steps::bent),
            "bent",
            "Force was bent before it came here.",
            "The pen's levels lie closer together in one part of the range than in another: a curve was laid over them.",
            "Set the pen's own curve straight and shape it here, where you see what is left of the levels.",
        );
        say(
            steps.is_some_and(|s| 1.0 / s.least < FEW_LEVELS),
            "few-levels",
            "The pen has few levels.",
            "Light tones may step. Curves that are steep at the start make it worse.",
            "Keep the first part of the curve flat, or let force drive width rather than tone.",
        );
    }
    say(
        pen && seen.reports >= ENOUGH && !seen.has_tilt,
        "no-tilt",
        "Tilt never changes.",
        "The pen has none, or its driver does not hand it on. Tools that go by tilt or lean do not answer.",
        "Use the stand-in for tilt and lean, or tools that do without.",
    );
    say(
        pen && seen.reports >= ENOUGH && !seen.has_barrel,
        "no-barrel",
        "The barrel's turn never changes.",
        "Most pens cannot tell it. Tools that turn with the barrel keep one angle.",
        "Let the angle follow lean or heading, or use the stand-in.",
    );
    out
}
