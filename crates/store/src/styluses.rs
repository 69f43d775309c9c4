//! Styluses a painter knows: device profile and calibration, one active for each device.

use diesel::prelude::*;
use serde_json::Value;
use uuid::Uuid;

use crate::schema::styluses;
use crate::{Error, Result};

/// A kept stylus.
#[derive(Debug, Clone, PartialEq, Queryable, Selectable)]
#[diesel(table_name = styluses)]
pub struct Stylus {
    pub id: Uuid,
    pub name: String,
    pub device: String,
    pub document: Value,
    pub version: i32,
    pub active: bool,
}

/// All styluses of a painter by name.
pub fn list(db: &mut PgConnection, owner: Uuid) -> Result<Vec<Stylus>> {
    Ok(styluses::table
        .filter(styluses::owner_id.eq(owner))
        .order(styluses::name)
        .select(Stylus::as_select())
        .load(db)?)
}

/// One stylus, held against other writers where this is part of a transaction.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such stylus.
fn hold(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<Stylus> {
    styluses::table
        .filter(styluses::id.eq(id).and(styluses::owner_id.eq(owner)))
        .select(Stylus::as_select())
        .for_update()
        .first(db)
        .optional()?
        .ok_or(Error::Missing("stylus"))
}

fn named(e: diesel::result::Error) -> Error {
    Error::from(e).taken("the name of the stylus")
}

/// Keeps a stylus and makes it the active one of its device.
///
/// # Errors
/// [`Error::Taken`] where the painter has a stylus of this name.
pub fn add(db: &mut PgConnection, owner: Uuid, name: &str, device: &str, document: &Value) -> Result<Stylus> {
    let id = Uuid::new_v4();
    db.transaction(|db| {
        let row = (
            styluses::id.eq(id),
            styluses::owner_id.eq(owner),
            styluses::name.eq(name),
            styluses::device.eq(device),
            styluses::document.eq(document),
            styluses::active.eq(false),
        );
        diesel::insert_into(styluses::table).values(row).execute(db).map_err(named)?;
        make_active(db, owner, id)
    })
}

/// Saves a stylus as its next version.
///
/// # Errors
/// [`Error::Conflict`] where somebody else saved it since version `seen`; [`Error::Taken`] for a name in use.
pub fn save(
    db: &mut PgConnection,
    owner: Uuid,
    id: Uuid,
    seen: i32,
    name: &str,
    document: &Value,
) -> Result<Stylus> {
    db.transaction(|db| {
        let there = hold(db, owner, id)?;
        if there.version != seen {
            return Err(Error::Conflict { what: "the stylus", present: there.version });
        }
        diesel::update(styluses::table.find(id))
            .set((styluses::name.eq(name), styluses::document.eq(document), styluses::version.eq(seen + 1)))
            .execute(db)
            .map_err(named)?;
        hold(db, owner, id)
    })
}

/// Makes a stylus the active one of its device.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such stylus.
pub fn make_active(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<Stylus> {
    db.transaction(|db| {
        let chosen = hold(db, owner, id)?;
        let others = styluses::table.filter(
            styluses::owner_id.eq(owner).and(styluses::device.eq(&chosen.device)).and(styluses::id.ne(id)),
        );
        diesel::update(others).set(styluses::active.eq(false)).execute(db)?;
        diesel::update(styluses::table.find(id)).set(styluses::active.eq(true)).execute(db)?;
        hold(db, owner, id)
    })
}

/// Takes a stylus away.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such stylus.
pub fn remove(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<()> {
    let row = styluses::table.filter(styluses::id.eq(id).and(styluses::owner_id.eq(owner)));
    if diesel::delete(row).execute(db)? == 0 {
        return Err(Error::Missing("stylus"));
    }
    Ok(())
}
