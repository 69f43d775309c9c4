//! The same water on every kind of machine.

use super::*;
use crate::medium::wash::clock::step_on;
use crate::packs::{self, Machine, Portable};

/// Washes that run into each other, over dry paper and down a board, some of the sheet closed by masking fluid, after so many steps.
fn washes(m: impl Machine) -> Sheet {
    let mut s = sheet(Surface::Rough, 192);
    for (code, at) in
        [("PB15:3", [60.0, 40.0]), ("PB29", [90.0, 70.0]), ("PY43", [140.0, 60.0]), ("PV19", [70.0, 110.0])]
    {
        wet(&mut s, &paint(code, 150.0, 0.03), disc(at[0], at[1], 28.0));
    }
    let masked = plane_in_place(s.tile_in_place(1, 1).block_in_place(&RESIST), MASK);
    masked[20 * TILE..30 * TILE].fill(1.0);
    let (paper, air) = (Paper::of(&s), Air { takes: 3.0, even: false });
    let pace = Pace::new(s.pixel_mm(), [0.05, 0.1]);
    for number in 1..=300 {
        step_on(m, &mut s, number, &pace, air, &paper, &mut Changed::default());
    }
    s
}

/// To the last bit, as the comparison with the browser has it for a machine of four lanes. Where registers are no wider than those, nothing is compared.
#[test]
fn wide_registers_give_the_sheet_that_narrow_ones_give() {
    let Some(wide) = packs::wide() else { return };
    let (wide, narrow) = (washes(wide), washes(Portable));
    for which in 0..WATER_PLANES {
        assert_eq!(
            water(&wide, which, [0, 0, 192, 192]),
            water(&narrow, which, [0, 0, 192, 192]),
            "plane {which}"
        );
    }
    for code in ["PB15:3", "PB29", "PY43", "PV19"] {
        for p in [SWIMS, LOOSE, BOUND] {
            assert_eq!(amounts(&wide, code, &[p]), amounts(&narrow, code, &[p]), "{code}, plane {p}");
        }
    }
    // Both ways through a step were taken: some of it stands yet, some of it has dried.
    let shares = |dry: bool| {
        let cells =
            water(&narrow, ON, [0, 0, 192, 192]).into_iter().zip(water(&narrow, COVER, [0, 0, 192, 192]));
        cells.filter(|(on, covered)| *covered > 0.0 && (*on == 0.0) == dry).count()
    };
    assert!(shares(false) > 100 && shares(true) > 100, "wet {}, dry {}", shares(false), shares(true));
}
