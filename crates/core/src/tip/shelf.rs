//! Images at hand, and the stencils that were made of them.

use std::rc::Rc;

use super::Stencil;
use crate::chain::Settings;
use crate::error::Result;
use crate::image::Images;
use crate::recent::Recent;

/// Stencils kept: making one of a large image takes as long as many strokes.
const MOST_STENCILS: usize = 8;

/// Images by name, and the last few stencils.
#[derive(Default)]
pub struct Shelf {
    pub images: Images,
    stencils: Recent<String, Option<Rc<Stencil>>, MOST_STENCILS>,
}

impl Shelf {
    /// The stencil of a tool; nothing where its whole footprint lays.
    ///
    /// # Errors
    /// Names the parameter whose image is not here.
    pub fn stencil(&self, tool: &Settings<'_>) -> Result<Option<Rc<Stencil>>> {
        let tip: Vec<_> = tool.values.iter().filter(|(id, _)| id.starts_with("tip.")).collect();
        let key = format!("{} {tip:?}", tool.seed);
        self.stencils.try_of(key, || Ok(Stencil::of(tool, &self.images)?.map(Rc::new)))
    }
}
