//! Names, notes and tags of what a painter keeps: trimmed, and held to their limits.

use super::ApiError;

const LONGEST_NAME: usize = 80;
const LONGEST_NOTE: usize = 400;
const MOST_TAGS: usize = 20;
const LONGEST_TAG: usize = 40;

/// The name as it is kept.
pub fn name(text: &str) -> Result<String, ApiError> {
    let name = text.trim();
    if name.is_empty() || name.chars().count() > LONGEST_NAME {
        return Err(ApiError::invalid("name", format!("must be 1 to {LONGEST_NAME} characters")));
    }
    Ok(name.to_owned())
}

/// The note as it is kept; it may be empty.
pub fn note(text: &str) -> Result<String, ApiError> {
    if text.chars().count() > LONGEST_NOTE {
        return Err(ApiError::invalid("note", format!("must be at most {LONGEST_NOTE} characters")));
    }
    Ok(text.trim().to_owned())
}

/// Tags as they are kept: empty ones are dropped.
pub fn tags(list: &[String]) -> Result<Vec<String>, ApiError> {
    let tags: Vec<String> = list.iter().map(|t| t.trim().to_owned()).filter(|t| !t.is_empty()).collect();
    if tags.len() > MOST_TAGS || tags.iter().any(|t| t.chars().count() > LONGEST_TAG) {
        let message = format!("must be at most {MOST_TAGS} words of at most {LONGEST_TAG} characters");
        return Err(ApiError::invalid("tags", message));
    }
    Ok(tags)
}
