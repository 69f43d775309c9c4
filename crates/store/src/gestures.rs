//! Gestures on the proof sheet, kept as InkML.

use std::collections::HashMap;

use chrono::{DateTime, Utc};
use diesel::prelude::*;
use diesel::sql_types::{Array, Integer, Uuid as SqlUuid};
use serde_json::Value;
use uuid::Uuid;

use crate::error::THE_ID;
use crate::schema::{gestures, painters};
use crate::{Error, Result};

/// A recorded gesture, without its way: that is long, and [`way`] gives it.
#[derive(Debug, Clone, PartialEq, Queryable, Selectable)]
pub struct Gesture {
    pub id: Uuid,
    pub name: String,
    pub note: String,
    pub content_hash: String,
    pub place: i32,
    pub created_at: DateTime<Utc>,
    pub on_proof: bool,
    pub tags: Vec<String>,
    /// Device profile of the stylus that recorded it; none for the plain pen.
    pub stylus: Option<Value>,
    /// Counts its changes, from 1; its place is none of them.
    pub version: i32,
}

/// A gesture to add.
#[derive(Debug, Clone, Copy)]
pub struct New<'a> {
    pub id: Uuid,
    pub name: &'a str,
    pub note: &'a str,
    /// InkML and its content hash.
    pub content: (&'a str, &'a str),
    pub stylus: Option<&'a Value>,
    pub on_proof: bool,
}

/// What of a gesture a painter may change.
#[derive(Debug, Clone, Copy)]
pub struct Change<'a> {
    pub name: &'a str,
    pub note: &'a str,
    pub tags: &'a [String],
    pub on_proof: bool,
    /// InkML and its content hash; none: it stays.
    pub content: Option<(&'a str, &'a str)>,
}

impl Gesture {
    /// Whether it is what a change makes of it.
    fn is(&self, to: Change<'_>) -> bool {
        (self.name.as_str(), self.note.as_str(), self.tags.as_slice(), self.on_proof)
            == (to.name, to.note, to.tags, to.on_proof)
            && to.content.is_none_or(|(_, hash)| hash == self.content_hash)
    }
}

fn named(e: diesel::result::Error) -> Error {
    Error::from(e).taken("the name of the gesture")
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

/// Name and InkML of a gesture.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such gesture.
pub fn way(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<(String, String)> {
    gestures::table
        .filter(gestures::id.eq(id).and(gestures::owner_id.eq(owner)))
        .select((gestures::name, gestures::inkml))
        .first(db)
        .optional()?
        .ok_or(Error::Missing("gesture"))
}

/// Adds a gesture at the end of the proof sheet. Asked twice for the same id, it is added once.
///
/// # Errors
/// [`Error::Taken`] where the painter has another gesture of this name, or the id is somebody else's.
pub fn add(db: &mut PgConnection, owner: Uuid, new: New<'_>) -> Result<Gesture> {
    db.transaction(|db| {
        // One at a time for each painter: no two take the same place.
        painters::table.find(owner).select(painters::id).for_update().first::<Uuid>(db)?;
        if let Some(gesture) = added_already(db, owner, new)? {
            return Ok(gesture);
        }
        let last: Option<i32> = gestures::table
            .filter(gestures::owner_id.eq(owner))
            .select(diesel::dsl::max(gestures::place))
            .first(db)?;
        let row = (
            gestures::id.eq(new.id),
            gestures::owner_id.eq(owner),
            gestures::name.eq(new.name),
            gestures::note.eq(new.note),
            gestures::inkml.eq(new.content.0),
            gestures::content_hash.eq(new.content.1),
            gestures::stylus.eq(new.stylus),
            gestures::on_proof.eq(new.on_proof),
            gestures::place.eq(last.map_or(0, |p| p + 1)),
        );
        diesel::insert_into(gestures::table).values(row).execute(db).map_err(named)?;
        get(db, owner, new.id)
    })
}

/// The gesture that [`add`] added when it was asked before, where the answer was lost.
///
/// # Errors
/// [`Error::Taken`] where another gesture has the id.
pub fn added_already(db: &mut PgConnection, owner: Uuid, new: New<'_>) -> Result<Option<Gesture>> {
    let Some(gesture) = Error::found(get(db, owner, new.id))? else { return Ok(None) };
    let same = gesture.content_hash == new.content.1;
    if same { Ok(Some(gesture)) } else { Err(Error::Taken(THE_ID)) }
}

/// Changes a gesture that is at version `seen`. Asked twice for the same, it is changed once.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such gesture; [`Error::Conflict`] where it was changed since; [`Error::Taken`] for a name in use.
pub fn change(db: &mut PgConnection, owner: Uuid, id: Uuid, seen: i32, to: Change<'_>) -> Result<Gesture> {
    let row = gestures::table.filter(gestures::id.eq(id).and(gestures::owner_id.eq(owner)));
    let set = (
        gestures::version.eq(seen.saturating_add(1)),
        gestures::name.eq(to.name),
        gestures::note.eq(to.note),
        gestures::tags.eq(to.tags),
        gestures::on_proof.eq(to.on_proof),
        to.content.map(|(inkml, hash)| (gestures::inkml.eq(inkml), gestures::content_hash.eq(hash))),
    );
    let seen_row = row.filter(gestures::version.eq(seen));
    let changed =
        diesel::update(seen_row).set(set).returning(Gesture::as_returning()).get_result(db).optional();
    if let Some(gesture) = changed.map_err(named)? {
        return Ok(gesture);
    }
    let present = get(db, owner, id)?;
    // Asked once more, since the answer was lost: it is done.
    if present.version == seen.saturating_add(1) && present.is(to) {
        return Ok(present);
    }
    Err(Error::Conflict { what: "the gesture", present: present.version })
}

/// Puts gestures in this order; those that are not named come after, as they were.
///
/// # Errors
/// [`Error::Missing`] where one of them is not the painter's, or is named twice: nothing is moved then.
pub fn order(db: &mut PgConnection, owner: Uuid, ids: &[Uuid]) -> Result<()> {
    db.transaction(|db| {
        // Held in one order, whichever they are to be put in: two that order at once wait for each other, and neither for ever.
        let mut all: Vec<(Uuid, i32)> = gestures::table
            .filter(gestures::owner_id.eq(owner))
            .order(gestures::id)
            .select((gestures::id, gestures::place))
            .for_update()
            .load(db)?;
        let places: HashMap<Uuid, usize> = ids.iter().enumerate().map(|(place, id)| (*id, place)).collect();
        if places.len() < ids.len() || places.keys().any(|id| all.binary_search_by_key(id, |g| g.0).is_err()) {
            return Err(Error::Missing("gesture"));
        }
        all.sort_by_key(|(id, place)| (places.get(id).copied().unwrap_or(ids.len()), *place));
        let (ids, places): (Vec<Uuid>, Vec<i32>) = (0..).zip(&all).map(|(place, (id, _))| (*id, place)).unzip();
        diesel::sql_query(
            "UPDATE gestures SET place = put.place FROM unnest($1, $2) AS put (id, place) WHERE gestures.id = put.id",
        )
        .bind::<Array<SqlUuid>, _>(ids)
        .bind::<Array<Integer>, _>(places)
        .execute(db)?;
        Ok(())
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
