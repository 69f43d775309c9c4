//! Names, notes and tags of what a painter keeps: trimmed, and held to their limits.

use saltmarsh_core::error::text;

use super::ApiError;

pub const LONGEST_NAME: usize = 80;
const LONGEST_NOTE: usize = 400;
const MOST_TAGS: usize = 20;
const LONGEST_TAG: usize = 40;

/// The name as it is kept.
pub fn name(name: &str) -> Result<String, ApiError> {
    Ok(text("name", name, 1, LONGEST_NAME)?.to_owned())
}

/// The note as it is kept; it may be empty.
pub fn note(note: &str) -> Result<String, ApiError> {
    Ok(text("note", note, 0, LONGEST_NOTE)?.to_owned())
}

/// Tags as they are kept: empty ones are dropped.
pub fn tags(list: &[String]) -> Result<Vec<String>, ApiError> {
    let mut tags = Vec::new();
    for (i, tag) in list.iter().enumerate() {
        let tag = text(&format!("tags[{i}]"), tag, 0, LONGEST_TAG)?;
        if !tag.is_empty() {
            tags.push(tag.to_owned());
        }
    }
    if tags.len() > MOST_TAGS {
        return Err(ApiError::invalid("tags", format!("must be at most {MOST_TAGS}, are {}", tags.len())));
    }
    Ok(tags)
}
