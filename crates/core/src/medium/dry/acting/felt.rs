//! What lies under a footprint: which pixels it may reach, and what a tip that rides on a closed layer feels.

use crate::medium::dry::blocks::Feeler;
use crate::sheet::{Rect, Sheet, TILE};
use crate::tip::Footprint;

/// The pixels of a sheet under a footprint, if there are any.
pub fn under(shown: &Footprint, pixel: f32, sheet: &Sheet) -> Option<Rect> {
    let (reach_x, reach_y) = shown.reach();
    let to_px = |mm: f32, ceil: bool, size: usize| {
        let px = mm / pixel + if ceil { 1.0 } else { -1.0 };
        let px = if ceil { px.ceil() } else { px.floor() };
        px.clamp(0.0, size as f32) as usize
    };
    let rect = Rect {
        left: to_px(shown.x - reach_x, false, sheet.width()),
        top: to_px(shown.y - reach_y, false, sheet.height()),
        right: to_px(shown.x + reach_x, true, sheet.width()),
        bottom: to_px(shown.y + reach_y, true, sheet.height()),
    };
    (rect.left < rect.right && rect.top < rect.bottom).then_some(rect)
}

/// Places along and across a footprint, as shares of its half axes, where what lies under it is felt.
const FELT_ALONG: [f32; 5] = [-0.8, -0.4, 0.0, 0.4, 0.8];
const FELT_ACROSS: [f32; 4] = [-0.6, -0.2, 0.2, 0.6];
const PLACES: usize = FELT_ALONG.len() * FELT_ACROSS.len();
/// How many of those places may have less.
const FELT_BARE: usize = 4;

/// Powder that lies everywhere under a footprint, µm: four places in five have as much. A tip rides on a closed layer; where
/// hollows are bare, it does not. `middle`: the footprint's, mm from the sheet's corner, as exactly as it is known: which pixel
/// is felt must not hang on where the sheet's corner lies. `even`: number of an even stroke, whose own powder is not felt.
pub fn lies_everywhere(shown: &Footprint, middle: [f64; 2], sheet: &Sheet, even: Option<f32>) -> f32 {
    let mut feeler = Feeler::on(sheet, even);
    let mut felt = [0.0_f32; PLACES];
    places(shown, middle, sheet, |i, x, y| felt[i] = feeler.um(x, y));
    felt.sort_by(f32::total_cmp);
    felt[FELT_BARE]
}

/// What has dried at places under a footprint, µm; nothing where nothing has in any tile of `rect`.
pub fn has_dried(shown: &Footprint, middle: [f64; 2], sheet: &Sheet, rect: Rect) -> Option<[f32; PLACES]> {
    let dried = |(x, y): (usize, usize)| sheet.tile(x, y).is_some_and(|t| t.dried_version() > 0);
    rect.tiles().any(|(key, _)| dried(key)).then(|| {
        let mut felt = [0.0_f32; PLACES];
        places(shown, middle, sheet, |i, x, y| {
            let tile =
                if x < sheet.width() && y < sheet.height() { sheet.tile(x / TILE, y / TILE) } else { None };
            felt[i] = tile.map_or(0.0, |t| t.dried_um((y % TILE) * TILE + x % TILE));
        });
        felt
    })
}

/// Calls `at` with the number and the pixel of every place that is felt under a footprint and not before the sheet's corner.
fn places(shown: &Footprint, middle: [f64; 2], sheet: &Sheet, mut at: impl FnMut(usize, usize, usize)) {
    let per_mm = 1.0 / sheet.pixel_mm();
    let places = FELT_ALONG.iter().flat_map(|a| FELT_ACROSS.iter().map(move |b| (a, b)));
    for (i, (along, across)) in places.enumerate() {
        let (u, v) = (along * (shown.half_length + shown.half_side), across * shown.half_width);
        let x = middle[0] + f64::from(u * shown.cos - v * shown.sin);
        let y = middle[1] + f64::from(u * shown.sin + v * shown.cos);
        if x >= 0.0 && y >= 0.0 {
            at(i, (x * per_mm) as usize, (y * per_mm) as usize);
        }
    }
}

/// Corner of a tile, mm.
pub fn corner((tx, ty): (usize, usize), pixel: f32) -> [f32; 2] {
    [(tx * TILE) as f32 * pixel, (ty * TILE) as f32 * pixel]
}
