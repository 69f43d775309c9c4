//! What outlives a stroke: what a tool carries, what the sheet was before, and dried paint as ground for what comes.

use crate::common;

use std::rc::Rc;

use common::{demo_tool, draw, ground, mean, powder, pull, sheet};
use saltmarsh_core::ground::Surface;
use saltmarsh_core::hand::{Gesture, Hand};
use saltmarsh_core::medium::Carried;
use saltmarsh_core::medium::dry::blocks::{POWDER, powder_mm3};
use saltmarsh_core::sheet::{Layout, Sheet, TILE};
use saltmarsh_core::stroke::{Engine, Trace};
use saltmarsh_core::tip::Shelf;
use saltmarsh_core::tool::Tool;

/// One stroke with what the tool carries from before.
pub(crate) fn draw_on(
    tool: &Tool,
    gesture: &Gesture,
    sheet: &mut Sheet,
    carried: Option<&Carried>,
) -> (Trace, Carried) {
    let tool = Rc::new(tool.clone());
    let mut engine =
        Engine::with(tool, Hand::default(), sheet, &Shelf::default(), carried).expect("the tool is valid");
    for pass in gesture.passes() {
        engine.extend(pass, sheet).expect("the reports are valid");
        engine.lift(sheet);
    }
    let carried = engine.carried();
    (engine.into_trace(), carried)
}

/// A finger that went through charcoal, and what it carries.
fn dirtied() -> (Tool, Carried, f64) {
    let mut s = sheet(&ground(Surface::ColdPressed), [30.0, 16.0], 0.1);
    draw(&demo_tool("vine-charcoal-side"), &pull([3.0, 8.0], [26.0, 8.0], 0.7), &mut s);
    let finger = demo_tool("finger");
    let (trace, carried) = draw_on(&finger, &pull([6.0, 8.0], [24.0, 8.0], 0.6), &mut s, None);
    assert!(trace.balance.held.mm3 > 0.01, "it took powder: {:?}", trace.balance);
    assert_eq!(trace.balance.held_before.mm3, 0.0, "it was clean");
    (finger, carried, trace.balance.held.mm3)
}

#[test]
fn a_dirty_finger_marks_bare_paper_and_a_clean_one_does_not() {
    let (finger, carried, held) = dirtied();
    let stroke = pull([4.0, 8.0], [26.0, 8.0], 0.6);
    let bare = || sheet(&ground(Surface::ColdPressed), [30.0, 16.0], 0.1);

    let mut clean = bare();
    draw_on(&finger, &stroke, &mut clean, None);
    assert_eq!(powder_mm3(&clean), 0.0);

    let mut dirty = bare();
    let (trace, after) = draw_on(&finger, &stroke, &mut dirty, Some(&carried));
    let (laid, balance) = (powder_mm3(&dirty), trace.balance);
    assert!(laid > 0.1 * held, "{laid} mm³ of {held} went onto the paper");
    assert_eq!(balance.held_before.mm3, held, "it began with what it had carried");
    assert!(
        (laid + balance.held.mm3 + balance.gone.mm3 - held).abs() < 1e-6 * held,
        "{laid} mm³: {balance:?}"
    );
    // Not volume alone: every band of the powder's colour is on the paper or still on the finger.
    let on_paper = saltmarsh_core::medium::dry::blocks::on_sheet(&dirty);
    for (b, before) in balance.held_before.k.iter().enumerate() {
        let now = on_paper.k[b] + balance.held.k[b] + balance.gone.k[b];
        assert!(*before > 0.0 && (now / before - 1.0).abs() < 1e-4, "band {b}: {now} of {before}");
    }

    // A re-run starts from the state that its stroke started from; the next one from what it left.
    let mut again = bare();
    draw_on(&finger, &stroke, &mut again, Some(&carried));
    assert_eq!(again.checksum(), dirty.checksum());
    let mut next = bare();
    draw_on(&finger, &stroke, &mut next, Some(&after));
    assert!(powder_mm3(&next) < 0.9 * laid, "{} mm³ after {laid}", powder_mm3(&next));
}

#[test]
fn a_point_stays_blunted_from_stroke_to_stroke() {
    let pencil = demo_tool("graphite-2b-point");
    let stroke = pull([4.0, 8.0], [104.0, 8.0], 0.6);
    let of = |carried: Option<&Carried>| {
        let mut s = sheet(&ground(Surface::HotPressed), [110.0, 16.0], 0.1);
        let (trace, after) = draw_on(&pencil, &stroke, &mut s, carried);
        (trace.dabs.first().expect("a dab").width_mm, trace.dabs.last().expect("a dab").width_mm, after)
    };
    let (mut width, _, mut carried) = of(None);
    let sharp = width;
    for _ in 0..4 {
        let (first, last, after) = of(Some(&carried));
        assert!(first > width && last > first, "{first}–{last} mm wide after {width} mm");
        (width, carried) = (first, after);
    }
    assert!(width > 1.1 * sharp, "{width} mm wide after 400 mm, {sharp} mm at first");
}

#[test]
fn a_snapshot_brings_back_the_sheet_and_shares_what_was_not_touched() {
    let mut s = sheet(&ground(Surface::ColdPressed), [40.0, 16.0], 0.1);
    let vine = demo_tool("vine-charcoal-side");
    draw(&vine, &pull([4.0, 8.0], [34.0, 8.0], 0.6), &mut s);
    let (before, sum) = (s.snapshot(), s.checksum());
    let shared =
        |s: &Sheet, x: usize| s.tile(x, 1).and_then(|t| t.share(&POWDER)).expect("powder lies there");
    let (near, far) = (shared(&s, 0), shared(&s, 4));
    draw(&vine, &pull([2.0, 8.0], [4.0, 8.0], 0.9), &mut s);
    assert_ne!(s.checksum(), sum);
    assert!(Rc::ptr_eq(&far, &shared(&s, 4)), "a tile that no dab touched is not copied");
    assert!(!Rc::ptr_eq(&near, &shared(&s, 0)));
    s.restore(&before);
    assert_eq!(s.checksum(), sum);
    // On another sheet of the size, too; and what changes there is newer than what came.
    let mut other = sheet(&ground(Surface::ColdPressed), [40.0, 16.0], 0.1);
    other.restore(&before);
    assert_eq!(other.checksum(), sum);
    let version = |s: &Sheet| s.tile(0, 1).expect("a tile").version(&POWDER);
    let came = version(&other);
    draw(&vine, &pull([2.0, 8.0], [4.0, 8.0], 0.9), &mut other);
    assert!(version(&other) > came, "version {} after {came}", version(&other));
    // The stroke number comes back too: an even stroke drawn now is the one it would have been.
    let strokes = s.strokes();
    s.next_stroke();
    s.restore(&before);
    assert_eq!(s.strokes(), strokes);
}

/// Dried paint, for lack of a medium that dries.
static CRUST: Layout = Layout {
    name: "crust",
    order: 201,
    values: 1,
    planes: false,
    beside: 0,
    material: 0..1,
    tells: false,
    fresh: &[],
    dried: &[0],
    dries_at: None,
    clock: None,
};

/// Ridges of dried paint 60 µm high and 8 pixels wide, every 16.
fn ridges_in_place(s: &mut Sheet) {
    for ty in 0..s.down() {
        for tx in 0..s.across() {
            let block = s.tile_in_place(tx, ty).block_in_place(&CRUST);
            for (i, um) in block.iter_mut().enumerate() {
                *um = if ((i % TILE) / 8).is_multiple_of(2) { 60.0 } else { 0.0 };
            }
        }
    }
}

#[test]
fn a_stick_meets_what_has_dried_on_the_ground() {
    let vine = Rc::new(demo_tool("vine-charcoal-side"));
    let mut s = sheet(&ground(Surface::HotPressed), [26.0, 26.0], 0.1);
    let mut engine = Engine::new(vine, Hand::default(), &s).expect("the tool is valid");
    let mut stroke = |s: &mut Sheet, y: f64, begins: f64| {
        let mut samples = pull([4.0, y], [22.0, y], 0.1).passes()[0].clone();
        samples.iter_mut().for_each(|sample| sample.t += begins);
        engine.extend(&samples, s).expect("the reports are valid");
        engine.lift(s);
    };
    // The same engine in the same tiles before and after: what has dried since is met, not the ground as it was first read.
    stroke(&mut s, 14.5, 0.0);
    ridges_in_place(&mut s);
    stroke(&mut s, 17.5, 2.0);
    let columns = |top: usize| {
        let at = |x: usize| mean(&powder(&s, [x, top, x + 8, top + 20]));
        // Ridges begin at multiples of 16 of each tile, so of the sheet.
        let over = |shift: usize| mean(&(5..12).map(|i| at(16 * i + shift)).collect::<Vec<_>>());
        over(0) / over(8)
    };
    let (smooth, ridged) = (columns(130), columns(170));
    assert!((0.8..1.25).contains(&smooth), "the bare ground has no ridges: {smooth}");
    assert!(ridged > 4.0, "powder lies on the ridges: {ridged} × the grooves");
}
