//! Gestures on the proof sheet, kept as InkML.

use chrono::{DateTime, Utc};
use diesel::prelude::*;
use uuid::Uuid;

use crate::schema::gestures;
use crate::{Error, Result};

/// A recorded gesture.
#[derive(Debug, Clone, PartialEq, Eq, Queryable, Selectable)]
pub struct Gesture {
    pub id: Uuid,
    pub name: String,
    pub note: String,
    pub inkml: String,
    pub content_hash: String,
    pub place: i32,
    pub created_at: DateTime<Utc>,
}

/// All gestures of a painter in the order of the proof sheet.
pub fn list(db: &mut PgConnection, owner: Uuid) -> Result<Vec<Gesture>> {
    Ok(gestures::table
        .filter(gestures::owner_id.eq(owner))
        .order((gestures::place, gestures::created_at))
        .select(Gesture::as_select())
        .load(db)?)
}

/// One gesture.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such gesture.
pub fn get(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<Gesture> {
    gestures::table
        .filter(gestures::id.eq(id).and(gestures::owner_id.eq(owner)))
        .select(Gesture::as_select())
        .first(db)
        .optional()?
        .ok_or(Error::Missing("gesture"))
}

/// Adds a gesture at the end of the proof sheet.
///
/// # Errors
/// [`Error::Taken`] where the painter has a gesture of this name.
pub fn add(
    db: &mut PgConnection,
    owner: Uuid,
    name: &str,
    note: &str,
    inkml: &str,
    hash: &str,
) -> Result<Gesture> {
    let id = Uuid::new_v4();
    db.transaction(|db| {
        let last: Option<i32> = gestures::table
            .filter(gestures::owner_id.eq(owner))
            .select(diesel::dsl::max(gestures::place))
            .first(db)?;
        let row = (
            gestures::id.eq(id),
            gestures::owner_id.eq(owner),
            gestures::name.eq(name),
            gestures::note.eq(note),
            gestures::inkml.eq(inkml),
            gestures::content_hash.eq(hash),
            gestures::place.eq(last.map_or(0, |p| p + 1)),
        );
        diesel::insert_into(gestures::table).values(row).execute(db).map_err(|e| match Error::from(e) {
            Error::Taken(_) => Error::Taken("the name of the gesture"),
            other => other,
        })?;
        get(db, owner, id)
    })
}

/// Takes a gesture off.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such gesture.
pub fn remove(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<()> {
    let row = gestures::table.filter(gestures::id.eq(id).and(gestures::owner_id.eq(owner)));
    if diesel::delete(row).execute(db)? == 0 {
        return Err(Error::Missing("gesture"));
    }
    Ok(())
}
