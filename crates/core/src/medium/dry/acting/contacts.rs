//! The ground under a sheet's tiles as one tool meets it, made where a dab first comes, and anew where paint has dried on it.

use std::collections::HashMap;
use std::rc::Rc;

use crate::ground::{Feel, GroundTile};
use crate::medium::dry::entry::Ranks;
use crate::medium::dry::laying::Powdering;
use crate::medium::dry::press::{Contact, GrainWithin, rank_in_place};
use crate::sheet::Sheet;

/// Tables of one tile's ground for one tooth depth.
struct TileContact {
    /// The ground with what had dried on it by then.
    ground: Rc<GroundTile>,
    dried: u64,
    tooth: f32,
    contact: Contact,
}

/// Tables of all tiles that were met.
pub struct Contacts {
    tiles: HashMap<(usize, usize), TileContact>,
    feel: Feel,
    /// The stick's, µm, and how far its grain varies what is shed.
    grit: f32,
    grain: f32,
    within: GrainWithin,
    /// Ranks of heights, where the ground enters as an image.
    ranks: Option<Ranks>,
}

impl Contacts {
    pub fn new(sheet: &Sheet, feel: Feel, stick: &Powdering, ranks: Option<Ranks>) -> Self {
        Self {
            tiles: HashMap::new(),
            feel,
            grit: stick.grit,
            grain: stick.grain,
            within: GrainWithin::of(sheet, feel),
            ranks,
        }
    }

    /// The tables of a tile, made or brought to `tooth` and to what has dried there where needed.
    pub fn of_in_place(&mut self, key: (usize, usize), sheet: &Sheet, tooth: f32) -> &Contact {
        let dried = sheet.tile(key.0, key.1).map_or(0, |t| t.dried_version());
        let make = |ground: &GroundTile| {
            let mut contact = Contact::new(ground, self.grit, self.grain, tooth, self.within);
            if let Some(ranks) = &self.ranks {
                rank_in_place(&mut contact, ground, ranks);
            }
            contact
        };
        let entry = self.tiles.entry(key).or_insert_with(|| {
            let ground = with_dried(sheet, key, self.feel);
            TileContact { contact: make(&ground), ground, dried, tooth }
        });
        if entry.dried != dried {
            entry.ground = with_dried(sheet, key, self.feel);
            (entry.contact, entry.dried, entry.tooth) = (make(&entry.ground), dried, tooth);
        } else if entry.tooth != tooth {
            (entry.contact, entry.tooth) = (make(&entry.ground), tooth);
        }
        &entry.contact
    }
}

/// The ground under a tile, with what has dried on it.
fn with_dried(sheet: &Sheet, key: (usize, usize), feel: Feel) -> Rc<GroundTile> {
    let ground = sheet.ground_tile(key.0, key.1, feel);
    let Some(tile) = sheet.tile(key.0, key.1).filter(|t| t.dried_version() > 0) else { return ground };
    let mut raised = (*ground).clone();
    tile.dried_in_place(&mut raised.height);
    Rc::new(raised)
}
