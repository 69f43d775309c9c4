//! What strips lie on, laid once.

use std::cell::RefCell;
use std::rc::Rc;

use saltmarsh_core::sheet::{Sheet, Snapshot};

/// Sheets with nothing on them but what they lie on, by ground, size and place: laying one takes as long as a few strokes.
#[derive(Default)]
pub struct Beds(RefCell<Vec<Bed>>);

struct Bed {
    key: String,
    pixels: usize,
    snapshot: Rc<Snapshot>,
}

/// The newest beds of so many pixels together are kept (80 bytes each of powder, 152 of paste).
const MOST_BED_PIXELS: usize = 1_600_000;

impl Beds {
    pub(super) fn get(&self, key: &str) -> Option<Rc<Snapshot>> {
        self.0.borrow().iter().find(|b| b.key == key).map(|b| b.snapshot.clone())
    }

    pub(super) fn keep(&self, key: &str, sheet: &Sheet) {
        let pixels = sheet.width() * sheet.height();
        let mut beds = self.0.borrow_mut();
        beds.insert(0, Bed { key: key.to_owned(), pixels, snapshot: Rc::new(sheet.snapshot()) });
        let mut sum = 0;
        beds.retain(|b| {
            sum += b.pixels;
            sum <= MOST_BED_PIXELS
        });
    }
}
