//! What of a sheet is looked at: its colours under light or flat, how high it stands, how wet it is, or a section through it.

use serde::{Deserialize, Serialize};

use super::flat;
use super::light::{self, Lighting};
use super::lit::heights;
use super::raking::Light;
use crate::error::{Result, within};
use crate::medium::MEDIA;
use crate::num;
use crate::sheet::{Rect, Sheet, TILE};

/// What is shown of a sheet.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Seen {
    /// As its medium is seen: wet paint under light, powder flat.
    #[default]
    Natural,
    Lit,
    Flat,
    Height,
    Wetness,
}

/// How a sheet is looked at.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct View {
    pub seen: Seen,
    /// Where the light comes from, degrees from the right, clockwise, 0..360, and how high it stands, degrees, 5..90.
    pub azimuth_deg: f64,
    pub elevation_deg: f64,
    /// Share of the light that comes from the lamp, 0..1; how much of the gleam is shown, 0..2.
    pub strength: f64,
    pub gloss: f64,
    /// How far heights are exaggerated for the eye, 0..6.
    pub exaggeration: f64,
}

impl Default for View {
    fn default() -> Self {
        let Lighting { light, strength, depth, gloss } = Lighting::default();
        Self {
            seen: Seen::Natural,
            azimuth_deg: light.azimuth_deg,
            elevation_deg: light.elevation_deg,
            // As they are written on a screen.
            strength: (f64::from(strength) * 100.0).round() / 100.0,
            gloss: f64::from(gloss),
            exaggeration: f64::from(depth),
        }
    }
}

/// Lowest and highest that the view of heights tells apart, µm over the mean level of the bare ground.
pub const HEIGHTS_UM: [f32; 2] = [-100.0, 500.0];
/// From this thickness on wet paint looks as wet as any, µm.
pub const WETTEST_UM: f32 = 200.0;
/// And if it stays open so long, min: told apart by their powers, from minutes to days.
pub const WETTEST_MIN: f32 = 1440.0;
/// The view of wetness goes from this to this.
const DRY_RGB: [f32; 3] = [236.0, 230.0, 220.0];
const WET_RGB: [f32; 3] = [24.0, 72.0, 120.0];

impl View {
    /// # Errors
    /// Names the field and its limits.
    pub fn check(&self) -> Result<()> {
        within("view.azimuth_deg", self.azimuth_deg, 0.0, 360.0, "°")?;
        within("view.elevation_deg", self.elevation_deg, 5.0, 90.0, "°")?;
        within("view.strength", self.strength, 0.0, 1.0, "")?;
        within("view.gloss", self.gloss, 0.0, 2.0, "×")?;
        within("view.exaggeration", self.exaggeration, 0.0, 6.0, "×")?;
        Ok(())
    }

    /// Whether a pixel is seen by what is around it, on a sheet of a medium that is lit or not.
    pub fn looks_around(&self, medium_lit: bool) -> bool {
        match self.seen {
            Seen::Natural => medium_lit,
            Seen::Lit => true,
            _ => false,
        }
    }

    fn lighting(&self) -> Lighting {
        Lighting {
            light: Light { azimuth_deg: self.azimuth_deg, elevation_deg: self.elevation_deg },
            strength: self.strength as f32,
            depth: self.exaggeration as f32,
            gloss: self.gloss as f32,
        }
    }

    /// `rect` of a sheet as it is looked at: RGBA, 4 bytes a pixel, row by row.
    pub fn rgba(&self, sheet: &Sheet, rect: Rect, medium_lit: bool) -> Vec<u8> {
        if self.looks_around(medium_lit) {
            return light::rgba(sheet, rect, self.lighting());
        }
        let pixels = (rect.right - rect.left) * (rect.bottom - rect.top);
        match self.seen {
            Seen::Height => {
                let [low, high] = HEIGHTS_UM;
                let grey = |um: &f32| (255.0 * ((um - low) / (high - low)).clamp(0.0, 1.0)) as u8;
                heights(sheet, rect).iter().map(grey).flat_map(|v| [v, v, v, 255]).collect()
            }
            Seen::Wetness => wetness(sheet, rect).into_iter().flat_map(ramp).collect(),
            _ => {
                let mut out = vec![0; 4 * pixels];
                flat::rgba_in_place(sheet, rect, &mut out);
                out
            }
        }
    }
}

fn ramp(share: f32) -> [u8; 4] {
    let share = share.clamp(0.0, 1.0);
    let [r, g, b] = std::array::from_fn(|i| (DRY_RGB[i] + (WET_RGB[i] - DRY_RGB[i]) * share) as u8);
    [r, g, b, 255]
}

/// Thickness of what is wet, µm, row by row.
pub fn wet_um(sheet: &Sheet, rect: Rect) -> Vec<f32> {
    sum_of_wet(sheet, rect, |_, um| um)
}

/// How wet a sheet is, from 0 up to 1 or more, row by row: less where what is wet lies thin, and less the sooner it dries.
pub fn wetness(sheet: &Sheet, rect: Rect) -> Vec<f32> {
    let now_min = sheet.waited_min() as f32;
    sum_of_wet(sheet, rect, |dries_min, um| {
        let open_min = dries_min.map_or(WETTEST_MIN, |at| (at - now_min).max(0.0));
        (um / WETTEST_UM).clamp(0.0, 1.0).sqrt()
            * (num::ln(1.0 + open_min) / num::ln(1.0 + WETTEST_MIN)).min(1.0)
    })
}

/// Sums something of the wet layers of every pixel, of when it dries, min, and how thick it lies, µm.
fn sum_of_wet(sheet: &Sheet, rect: Rect, of: impl Fn(Option<f32>, f32) -> f32) -> Vec<f32> {
    let width = rect.right - rect.left;
    let mut out = vec![0.0; width * (rect.bottom - rect.top)];
    let wet = || MEDIA.iter().flat_map(|m| m.wet());
    for ((tx, ty), [x0, y0, x1, y1]) in rect.tiles() {
        let Some(tile) = sheet.tile(tx, ty) else { continue };
        for (layout, block) in wet().filter_map(|l| tile.block(l).map(|b| (l, b))) {
            for y in y0..y1 {
                for x in x0..x1 {
                    let value = |which: usize| block[layout.place(y * TILE + x, which)];
                    let at = (ty * TILE + y - rect.top) * width + tx * TILE + x - rect.left;
                    let um = layout.fresh.iter().map(|i| value(*i)).sum::<f32>();
                    out[at] += of(layout.dries_at.map(value), um);
                }
            }
        }
    }
    out
}

/// A section through a sheet from one place to another, mm on the sheet.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, PartialEq, Serialize)]
pub struct Section {
    /// Length of what of it lies on the sheet.
    pub length_mm: f64,
    /// Heights at equal steps, µm over the mean level of the bare ground: of the ground, of what has dried or is powder on it, and
    /// of all with what is wet.
    pub ground_um: Vec<f32>,
    pub dry_um: Vec<f32>,
    pub top_um: Vec<f32>,
    /// As it is seen flat at the same places: red, green, blue; and the share of the bare ground's light that is taken there, 0..1.
    pub rgb: Vec<[u8; 3]>,
    pub taken: Vec<f32>,
    /// How much more of the light the lower half of the ground takes than the upper, from edge to edge of what lies there: over 1 for paint that
    /// settles in hollows (it granulates), under 1 for powder that catches on crowns. Nothing where too little lies to tell.
    pub hollows_over_crowns: Option<f32>,
}

/// Light taken by less than this is bare ground; and so many places tell something.
const LEAST_TAKEN: f32 = 0.02;
const LEAST_LAIN: usize = 12;

/// The section at so many places, each the pixel nearest to it; places off the sheet are left out.
pub fn section(sheet: &Sheet, from: [f64; 2], to: [f64; 2], count: usize) -> Section {
    let count = count.clamp(2, 2_000);
    let step_mm = num::hypot(to[0] - from[0], to[1] - from[1]) / (count - 1) as f64;
    let mut out = Section {
        length_mm: 0.0,
        ground_um: Vec::new(),
        dry_um: Vec::new(),
        top_um: Vec::new(),
        rgb: Vec::new(),
        taken: Vec::new(),
        hollows_over_crowns: None,
    };
    for i in 0..count {
        let share = i as f64 / (count - 1) as f64;
        let [x, y] = [0, 1].map(|k| f64::floor((from[k] + (to[k] - from[k]) * share) / sheet.pixel_mm()));
        if x < 0.0 || y < 0.0 || x >= sheet.width() as f64 || y >= sheet.height() as f64 {
            continue;
        }
        let (x, y) = (x as usize, y as usize);
        let pixel = Rect { left: x, top: y, right: x + 1, bottom: y + 1 };
        let (all, wet) = (heights(sheet, pixel)[0], wet_um(sheet, pixel)[0]);
        let ground =
            sheet.ground_tile(x / TILE, y / TILE, Default::default()).height[(y % TILE) * TILE + x % TILE];
        out.ground_um.push(ground);
        out.dry_um.push(all - wet);
        out.top_um.push(all);
        let mut seen = [0; 4];
        flat::rgba_in_place(sheet, pixel, &mut seen);
        out.rgb.push([seen[0], seen[1], seen[2]]);
        out.taken.push(f32::from(flat::taken_light(sheet, pixel)[0]) / 65_535.0);
    }
    out.length_mm = step_mm * out.top_um.len().saturating_sub(1) as f64;
    out.hollows_over_crowns = hollows_over_crowns(&out.ground_um, &out.taken);
    out
}

fn hollows_over_crowns(ground_um: &[f32], taken: &[f32]) -> Option<f32> {
    // From edge to edge of the stroke: what stays bare within it counts.
    let lies = |t: &f32| *t > LEAST_TAKEN;
    let stroke = taken.iter().position(lies)?..taken.iter().rposition(lies)? + 1;
    let places = ground_um[stroke.clone()].iter().copied().zip(taken[stroke].iter().copied());
    let mut places: Vec<(f32, f32)> = places.collect();
    if places.len() < LEAST_LAIN {
        return None;
    }
    places.sort_by(|a, b| a.0.total_cmp(&b.0));
    let (hollows, crowns) = places.split_at(places.len() / 2);
    let mean = |part: &[(f32, f32)]| part.iter().map(|(_, taken)| taken).sum::<f32>() / part.len() as f32;
    Some(mean(hollows) / mean(crowns))
}

#[cfg(test)]
mod tests {
    use std::rc::Rc;

    use super::*;
    use crate::ground::{Ground, Surface};

    #[test]
    fn a_section_is_as_long_as_what_lies_on_the_sheet_and_a_view_is_refused_by_field() {
        let ground = Rc::new(Ground::generated(Surface::CanvasFine));
        let sheet = Sheet::new(ground, 100, 40, 0.2, [0.0; 2]).expect("a sheet");
        // 24 mm across a sheet of 8 mm.
        let cut = section(&sheet, [10.0, -8.0], [10.0, 16.0], 241);
        assert!((cut.length_mm - 8.0).abs() < 0.2, "{} mm", cut.length_mm);
        assert_eq!((cut.ground_um.len(), cut.top_um.len()), (cut.dry_um.len(), cut.dry_um.len()));
        assert_eq!(cut.ground_um, cut.top_um, "nothing lies on it");
        let refused = View { elevation_deg: 3.0, ..View::default() }.check().expect_err("too low");
        assert_eq!(refused.field, "view.elevation_deg");
        // A quarter of the sheet is seen as in the whole.
        let view = View { seen: Seen::Height, ..View::default() };
        let (whole, part) = (
            view.rgba(&sheet, sheet.rect(), true),
            view.rgba(&sheet, Rect { left: 50, top: 20, right: 100, bottom: 40 }, true),
        );
        assert_eq!(whole[4 * (20 * 100 + 50)..][..200], part[..200]);
    }
}
