//! Painters and their sign-ins.

use chrono::{DateTime, Utc};
use diesel::prelude::*;
use uuid::Uuid;

use crate::schema::{painters, sessions};
use crate::{Error, Result};

/// Somebody who owns rows.
#[derive(Debug, Clone, PartialEq, Eq, Queryable, Selectable)]
pub struct Painter {
    pub id: Uuid,
    pub name: String,
}

/// The painter of this name, made if there is none.
pub fn ensure(db: &mut PgConnection, name: &str) -> Result<Painter> {
    let row = (painters::id.eq(Uuid::new_v4()), painters::name.eq(name));
    diesel::insert_into(painters::table).values(row).on_conflict_do_nothing().execute(db)?;
    Ok(painters::table.filter(painters::name.eq(name)).select(Painter::as_select()).first(db)?)
}

/// Opens a session; expired ones go.
pub fn sign_in(
    db: &mut PgConnection,
    painter: Uuid,
    token_hash: &[u8],
    expires_at: DateTime<Utc>,
) -> Result<()> {
    db.transaction(|db| {
        diesel::delete(sessions::table.filter(sessions::expires_at.lt(Utc::now()))).execute(db)?;
        let row = (
            sessions::token_hash.eq(token_hash),
            sessions::painter_id.eq(painter),
            sessions::expires_at.eq(expires_at),
        );
        diesel::insert_into(sessions::table).values(row).execute(db)?;
        Ok(())
    })
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
