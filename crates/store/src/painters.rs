//! Painters and their sign-ins.

use chrono::{DateTime, Duration, Utc};
use diesel::prelude::*;
use uuid::Uuid;

use crate::schema::{painters, sessions};
use crate::{Error, Result};

/// Somebody who owns rows.
#[derive(Debug, Clone, PartialEq, Eq, Queryable, Selectable)]
pub struct Painter {
    pub id: Uuid,
    pub name: String,
    /// May invite others, and see who paints here.
    pub owner: bool,
}

/// The painter of this name, made if there is none.
pub fn ensure(db: &mut PgConnection, name: &str) -> Result<Painter> {
    let row = (painters::id.eq(Uuid::new_v4()), painters::name.eq(name));
    diesel::insert_into(painters::table).values(row).on_conflict_do_nothing().execute(db)?;
    Ok(painters::table.filter(painters::name.eq(name)).select(Painter::as_select()).first(db)?)
}

/// The painter of this name, with what is kept of the password.
pub fn known(db: &mut PgConnection, name: &str) -> Result<Option<(Painter, Option<String>)>> {
    Ok(painters::table
        .filter(painters::name.eq(name))
        .select((Painter::as_select(), painters::password_hash))
        .first(db)
        .optional()?)
}

/// Gives the painter of this name a password, as it is kept; whoever is signed in as that painter is so no longer.
pub fn set_password(db: &mut PgConnection, name: &str, hash: &str) -> Result<Painter> {
    db.transaction(|db| {
        let painter = ensure(db, name)?;
        diesel::update(painters::table.find(painter.id)).set(painters::password_hash.eq(hash)).execute(db)?;
        sign_out_everywhere(db, painter.id)?;
        Ok(painter)
    })
}

/// Says whether a painter is an owner of the studio.
pub fn set_owner(db: &mut PgConnection, painter: Uuid, owner: bool) -> Result<()> {
    diesel::update(painters::table.find(painter)).set(painters::owner.eq(owner)).execute(db)?;
    Ok(())
}

/// Ends a session.
pub fn sign_out(db: &mut PgConnection, token_hash: &[u8]) -> Result<()> {
    diesel::delete(sessions::table.find(token_hash)).execute(db)?;
    Ok(())
}

/// Ends all sessions of a painter.
pub fn sign_out_everywhere(db: &mut PgConnection, painter: Uuid) -> Result<()> {
    diesel::delete(sessions::table.filter(sessions::painter_id.eq(painter))).execute(db)?;
    Ok(())
}

/// Puts a new token in the place of one that is older than `age`; the old one is good for as long as what was sent with it may be under
/// way (`last`). Whether it did.
pub fn renew(
    db: &mut PgConnection,
    [old, new]: [&[u8]; 2],
    expires_at: DateTime<Utc>,
    [age, last]: [Duration; 2],
) -> Result<bool> {
    db.transaction(|db| {
        let now = Utc::now();
        let session = sessions::table.find(old).filter(sessions::created_at.lt(now - age));
        // One that was renewed already ends soon.
        let session = session.filter(sessions::expires_at.gt(now + last));
        let ends = sessions::expires_at.eq(now + last);
        let painter: Option<Uuid> =
            diesel::update(session).set(ends).returning(sessions::painter_id).get_result(db).optional()?;
        let Some(painter) = painter else { return Ok(false) };
        sign_in(db, painter, new, expires_at)?;
        Ok(true)
    })
}

/// Opens a session.
pub fn sign_in(
    db: &mut PgConnection,
    painter: Uuid,
    token_hash: &[u8],
    expires_at: DateTime<Utc>,
) -> Result<()> {
    let row = (
        sessions::token_hash.eq(token_hash),
        sessions::painter_id.eq(painter),
        sessions::expires_at.eq(expires_at),
    );
    diesel::insert_into(sessions::table).values(row).execute(db)?;
    Ok(())
}

/// Whose session this is.
///
/// # Errors
/// [`Error::Missing`] where there is none or it has expired.
pub fn signed_in(db: &mut PgConnection, token_hash: &[u8]) -> Result<Painter> {
    sessions::table
        .inner_join(painters::table.on(painters::id.eq(sessions::painter_id)))
        .filter(sessions::token_hash.eq(token_hash))
        .filter(sessions::expires_at.gt(Utc::now()))
        .select(Painter::as_select())
        .first(db)
        .optional()?
        .ok_or(Error::Missing("session"))
}
