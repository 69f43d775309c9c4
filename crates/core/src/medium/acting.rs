//! The part of a tool that acts on a sheet, contact by contact.
//!
//! The engine says where and when; an acting part says how far off the next contact is, does the work of one tile by tile, and
//! may rest after any of them: what comes out is the same. Calls are one a tile, never one a pixel.

use std::any::Any;
use std::rc::Rc;

use crate::chain::{Qualities, Signals};
use crate::hand::path::Place;
use crate::sheet::{Changed, Sheet};

use super::Balance;

/// How much travel a contact stands for.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Travel {
    /// mm.
    Mm(f64),
    /// The tip is pressed on and lifted: as far as it is long itself.
    Press,
}

/// Where a contact is due.
#[derive(Debug, Clone, Copy)]
pub struct At {
    pub place: Place,
    pub signals: Signals,
    /// What responses make of the tool's qualities there, and the most that they could.
    pub qualities: Qualities,
    pub most: Qualities,
    pub travel: Travel,
    /// Number of the stroke that chance goes by, from 0, and by which pixels know it, from 1.
    pub stroke: u32,
    pub known_as: u32,
    /// Number of the contact in its pass.
    pub contact: u32,
    /// Travel of the gesture's passes before this one, mm.
    pub before_mm: f64,
}

impl At {
    /// Travel of the gesture up to here, mm.
    pub fn way_mm(&self) -> f64 {
        self.before_mm + self.signals.distance_mm
    }
}

/// How the way goes on from a contact.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Next {
    /// Travel to the next contact, mm.
    pub spacing_mm: f64,
    /// Length of this one along the way, mm.
    pub along_mm: f64,
}

/// What a contact was, for the trace.
#[derive(Debug, Clone, PartialEq)]
pub struct Mark {
    /// Place on the sheet, mm.
    pub x_mm: f64,
    pub y_mm: f64,
    /// The footprint: length and width, direction of its length in degrees, area.
    pub length_mm: f64,
    pub width_mm: f64,
    pub angle_deg: f64,
    pub area_mm2: f64,
    /// Travel it stood for.
    pub travel_mm: f64,
    /// A value for each of the medium's columns.
    pub values: Vec<f64>,
}

/// What a painter does to a tool between strokes.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize, serde::Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Care {
    /// Clean and as it was made: loaded anew, sharp.
    Clean,
    /// Dipped into its paint: what is missing is taken up.
    Dip,
    /// Rinsed: a share of what it holds stays.
    Rinse,
    /// Wiped off: it holds nothing.
    Wipe,
}

/// What a part of a tip holds: how full it is, over the fullest part of a freshly loaded one, and its colour.
#[cfg_attr(feature = "types", derive(ts_rs::TS))]
#[derive(Debug, Clone, Copy, PartialEq, serde::Serialize)]
pub struct Held {
    pub full: f64,
    pub rgb: [u8; 3],
}

/// What a tool carries from stroke to stroke: load, colours, wear of a point. Lives outside the engine, so that a stroke can be run
/// again from the state it started from.
#[derive(Clone)]
pub struct Carried {
    /// Travel since the tool was fresh, mm.
    pub travel_mm: f64,
    /// The medium's own.
    pub inside: Rc<dyn Any>,
}

impl std::fmt::Debug for Carried {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "what a tool carries after {} mm", self.travel_mm)
    }
}

/// What acts.
pub trait Acting {
    /// It acts where it is pressed on and lifted without travel, too.
    fn presses(&self) -> bool {
        false
    }

    /// What it holds of what it can hold, 0..1.
    fn paint_left(&self) -> f64;

    /// Opens a contact.
    fn open(&mut self, at: &At, sheet: &Sheet) -> Next;

    /// Works on the open contact for a while, one tile at most; gives about how many pixels that took, or nothing where the
    /// contact is done.
    fn work(&mut self, at: &At, sheet: &mut Sheet, changed: &mut Changed) -> Option<usize>;

    /// Closes the contact, which is done.
    fn close(&mut self) -> Mark;

    /// The pass is over, `travelled_mm` long: whatever it leaves behind is left.
    fn end_pass(&mut self, travelled_mm: f64, sheet: &mut Sheet, changed: &mut Changed);

    /// Goes on with what settles after a pass, one tile at most; gives about how many pixels that took, or nothing where all of
    /// it rests. Nothing else is done to the sheet before.
    fn settle(&mut self, _sheet: &mut Sheet, _changed: &mut Changed) -> Option<usize> {
        None
    }

    /// What it carries now.
    fn carried(&self) -> Carried;

    /// Where its material came from and went, since it was made.
    fn balance(&self) -> Balance;
}
