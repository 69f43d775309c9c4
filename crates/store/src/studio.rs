//! Who paints on a server, whom its owners invite, and how much each keeps.

use chrono::{DateTime, Utc};
use diesel::prelude::*;
use diesel::sql_types;
use uuid::Uuid;

use crate::painters::Painter;
use crate::schema::{invitations, painters};
use crate::{Error, Result};

/// How much a painter keeps.
#[derive(Debug, Clone, Copy, PartialEq, Eq, QueryableByName)]
pub struct Used {
    /// Kept versions, drafts, gestures, grounds, images, styluses and curves.
    #[diesel(sql_type = sql_types::BigInt)]
    pub rows: i64,
    /// Bytes of their documents, ways and pictures as they are kept.
    #[diesel(sql_type = sql_types::BigInt)]
    pub bytes: i64,
}

/// Sizes of all that is kept, with whose it is.
const KEPT: &str = "SELECT owner_id, pg_column_size(document) AS size FROM tool_versions \
    UNION ALL SELECT owner_id, pg_column_size(document) FROM drafts \
    UNION ALL SELECT owner_id, pg_column_size(inkml) FROM gestures \
    UNION ALL SELECT owner_id, pg_column_size(recipe) FROM grounds \
    UNION ALL SELECT owner_id, octet_length(png) FROM images \
    UNION ALL SELECT owner_id, pg_column_size(document) FROM styluses \
    UNION ALL SELECT owner_id, pg_column_size(points) FROM curves";

/// How much a painter keeps; painters without anything keep nothing.
pub fn used(db: &mut PgConnection, painter: Uuid) -> Result<Used> {
    let sum = format!(
        "SELECT count(*) AS rows, coalesce(sum(size), 0)::bigint AS bytes FROM ({KEPT}) kept WHERE owner_id = $1"
    );
    Ok(diesel::sql_query(sum).bind::<sql_types::Uuid, _>(painter).get_result(db)?)
}

/// Somebody who paints here, and how much they keep.
#[derive(Debug, Clone, PartialEq, Eq, QueryableByName)]
pub struct Member {
    #[diesel(sql_type = sql_types::Text)]
    pub name: String,
    #[diesel(sql_type = sql_types::Bool)]
    pub owner: bool,
    #[diesel(sql_type = sql_types::Timestamptz)]
    pub created_at: DateTime<Utc>,
    #[diesel(embed)]
    pub used: Used,
}

/// All painters by name.
pub fn members(db: &mut PgConnection) -> Result<Vec<Member>> {
    let all = format!(
        "SELECT name, owner, created_at, count(kept.owner_id) AS rows, coalesce(sum(size), 0)::bigint AS bytes \
        FROM painters LEFT JOIN ({KEPT}) kept ON kept.owner_id = painters.id GROUP BY painters.id ORDER BY name"
    );
    Ok(diesel::sql_query(all).load(db)?)
}

/// An invitation that nobody has taken yet.
#[derive(Debug, Clone, PartialEq, Eq, Queryable)]
pub struct Invitation {
    pub id: Uuid,
    pub made_at: DateTime<Utc>,
    pub expires_at: DateTime<Utc>,
}

/// Makes an invitation.
pub fn invite(
    db: &mut PgConnection,
    by: Uuid,
    code_hash: &[u8],
    expires_at: DateTime<Utc>,
) -> Result<Invitation> {
    let row = (
        invitations::id.eq(Uuid::new_v4()),
        invitations::code_hash.eq(code_hash),
        invitations::made_by.eq(by),
        invitations::expires_at.eq(expires_at),
    );
    let columns = (invitations::id, invitations::made_at, invitations::expires_at);
    Ok(diesel::insert_into(invitations::table).values(row).returning(columns).get_result(db)?)
}

/// Invitations that can be taken, the newest first.
pub fn invitations(db: &mut PgConnection) -> Result<Vec<Invitation>> {
    Ok(invitations::table
        .filter(invitations::expires_at.gt(Utc::now()))
        .order(invitations::made_at.desc())
        .select((invitations::id, invitations::made_at, invitations::expires_at))
        .load(db)?)
}

/// Takes an invitation back.
///
/// # Errors
/// [`Error::Missing`] where it is not there any more.
pub fn withdraw(db: &mut PgConnection, id: Uuid) -> Result<()> {
    let gone = diesel::delete(invitations::table.find(id)).execute(db)?;
    if gone == 0 { Err(Error::Missing("invitation")) } else { Ok(()) }
}

/// Makes a painter who was invited; the invitation is used up.
///
/// # Errors
/// [`Error::Missing`] where there is no such invitation, or it has expired; [`Error::Taken`] where somebody has the name.
pub fn accept(db: &mut PgConnection, code_hash: &[u8], name: &str, password_hash: &str) -> Result<Painter> {
    db.transaction(|db| {
        let open = invitations::table
            .filter(invitations::code_hash.eq(code_hash))
            .filter(invitations::expires_at.gt(Utc::now()));
        if diesel::delete(open).execute(db)? == 0 {
            return Err(Error::Missing("invitation"));
        }
        let row = (
            painters::id.eq(Uuid::new_v4()),
            painters::name.eq(name),
            painters::password_hash.eq(password_hash),
        );
        let made = diesel::insert_into(painters::table).values(row).returning(Painter::as_returning());
        made.get_result(db).map_err(|e| Error::from(e).taken("the name"))
    })
}
