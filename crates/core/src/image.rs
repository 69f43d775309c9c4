//! Grey images that tools and grounds are made with: shapes of tips, grain, height maps. They are named by the SHA-256 of
//! their pixels, so that a document always means the same image.

use std::collections::HashMap;
use std::rc::Rc;

use sha2::{Digest, Sha256};

use crate::error::{FieldError, Result};

/// Longest side of an image, pixels.
pub const MOST_SIDE: usize = 4096;

/// A grey image of 16 bits.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Grey {
    width: usize,
    height: usize,
    values: Vec<u16>,
}

impl Grey {
    /// An image of `width × height` values, row by row; 0 is black.
    ///
    /// # Errors
    /// Names the side that is not 1 to [`MOST_SIDE`], or `values` that are not so many.
    pub fn new(width: usize, height: usize, values: Vec<u16>) -> Result<Self> {
        for (name, side) in [("width", width), ("height", height)] {
            if side == 0 || side > MOST_SIDE {
                return Err(FieldError::new(name, format!("must be 1 to {MOST_SIDE} pixels, got {side}")));
            }
        }
        if values.len() != width * height {
            return Err(FieldError::new(
                "values",
                format!("must be {}, got {}", width * height, values.len()),
            ));
        }
        Ok(Self { width, height, values })
    }

    pub fn width(&self) -> usize {
        self.width
    }

    pub fn height(&self) -> usize {
        self.height
    }

    /// Row by row.
    pub fn values(&self) -> &[u16] {
        &self.values
    }

    /// SHA-256 of sides and values, in hexadecimal.
    pub fn hash(&self) -> String {
        let mut sha = Sha256::new();
        for side in [self.width, self.height] {
            sha.update((side as u32).to_le_bytes());
        }
        for v in &self.values {
            sha.update(v.to_le_bytes());
        }
        crate::num::hex(&sha.finalize())
    }
}

/// Whether a text can be the name of an image.
pub fn is_hash(text: &str) -> bool {
    text.len() == 64 && text.bytes().all(|b| b.is_ascii_digit() || (b'a'..=b'f').contains(&b))
}

/// Images by name.
#[derive(Debug, Clone, Default)]
pub struct Images(HashMap<String, Rc<Grey>>);

impl Images {
    /// Adds an image; gives its name.
    pub fn add(&mut self, image: Grey) -> String {
        let hash = image.hash();
        self.0.entry(hash.clone()).or_insert_with(|| Rc::new(image));
        hash
    }

    /// The image of this name.
    ///
    /// # Errors
    /// Says of `field` that its image is not here.
    pub fn get(&self, field: &str, hash: &str) -> Result<&Rc<Grey>> {
        self.0.get(hash).ok_or_else(|| FieldError::new(field, format!("image {hash} is not here")))
    }

    pub fn has(&self, hash: &str) -> bool {
        self.0.contains_key(hash)
    }
}
