//! Grounds that a painter keeps: recipes by name.

use diesel::prelude::*;
use serde_json::Value;
use uuid::Uuid;

use crate::schema::grounds;
use crate::uses::{self, User};
use crate::{Error, Result};

/// A named ground.
#[derive(Debug, Clone, PartialEq, Queryable, Selectable)]
pub struct Ground {
    pub id: Uuid,
    pub name: String,
    pub note: String,
    pub recipe: Value,
    pub version: i32,
}

/// What a ground is to be.
#[derive(Debug, Clone, Copy)]
pub struct Content<'a> {
    pub name: &'a str,
    pub note: &'a str,
    pub recipe: &'a Value,
    /// Hashes of the images it needs.
    pub images: &'a [&'a str],
}

fn named(e: diesel::result::Error) -> Error {
    Error::from(e).taken("the name of the ground")
}

/// All grounds of a painter, by name.
pub fn list(db: &mut PgConnection, owner: Uuid) -> Result<Vec<Ground>> {
    Ok(grounds::table
        .filter(grounds::owner_id.eq(owner))
        .order(grounds::name)
        .select(Ground::as_select())
        .load(db)?)
}

/// Keeps a new ground.
///
/// # Errors
/// [`Error::Taken`] where the painter has a ground of this name; [`Error::NoImage`].
pub fn add(db: &mut PgConnection, owner: Uuid, new: Content<'_>) -> Result<Ground> {
    let id = Uuid::new_v4();
    let row = (
        grounds::id.eq(id),
        grounds::owner_id.eq(owner),
        grounds::name.eq(new.name),
        grounds::note.eq(new.note),
        grounds::recipe.eq(new.recipe),
    );
    db.transaction(|db| {
        let ground = diesel::insert_into(grounds::table)
            .values(row)
            .returning(Ground::as_returning())
            .get_result(db)
            .map_err(named)?;
        uses::write(db, owner, User::Ground(id), new.images)?;
        Ok(ground)
    })
}

/// Changes a ground that is still at `version`.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such ground; [`Error::Conflict`] where it has been changed since;
/// [`Error::Taken`] for a name in use; [`Error::NoImage`].
pub fn change(db: &mut PgConnection, owner: Uuid, id: Uuid, version: i32, to: Content<'_>) -> Result<Ground> {
    db.transaction(|db| {
        let own = grounds::table.filter(grounds::id.eq(id).and(grounds::owner_id.eq(owner)));
        let present: i32 = own
            .select(grounds::version)
            .for_update()
            .first(db)
            .optional()?
            .ok_or(Error::Missing("ground"))?;
        if present != version {
            return Err(Error::Conflict { what: "the ground", present });
        }
        let set = (
            grounds::name.eq(to.name),
            grounds::note.eq(to.note),
            grounds::recipe.eq(to.recipe),
            grounds::version.eq(version + 1),
        );
        uses::write(db, owner, User::Ground(id), to.images)?;
        diesel::update(grounds::table.find(id))
            .set(set)
            .returning(Ground::as_returning())
            .get_result(db)
            .map_err(named)
    })
}

/// Takes a ground away.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such ground.
pub fn remove(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<()> {
    let row = grounds::table.filter(grounds::id.eq(id).and(grounds::owner_id.eq(owner)));
    if diesel::delete(row).execute(db)? == 0 {
        return Err(Error::Missing("ground"));
    }
    Ok(())
}
