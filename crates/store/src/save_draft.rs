//! One statement that no builder builds: a draft is what a painter's hand waits for most often.

use chrono::{DateTime, Utc};
use diesel::pg::Pg;
use diesel::prelude::*;
use diesel::query_builder::{AstPass, Query, QueryFragment, QueryId};
use diesel::sql_types::{Integer, Jsonb, Timestamptz, Uuid as SqlUuid};
use serde_json::Value;
use uuid::Uuid;

/// Writes a draft under the next version of its tool, and lets go of the images that the one before needed; gives that version and
/// when it was saved, as the database keeps it. Prepared once on each connection.
pub(crate) struct SaveDraft<'a> {
    pub id: Uuid,
    pub owner: Uuid,
    pub document: &'a Value,
    pub based_on: i32,
    pub saved_at: DateTime<Utc>,
}

impl QueryFragment<Pg> for SaveDraft<'_> {
    fn walk_ast<'b>(&'b self, mut out: AstPass<'_, 'b, Pg>) -> QueryResult<()> {
        out.push_sql("WITH gone AS (DELETE FROM image_uses WHERE draft_of = ");
        out.push_bind_param::<SqlUuid, _>(&self.id)?;
        out.push_sql("), next AS (UPDATE tools SET last_draft = last_draft + 1 WHERE id = ");
        out.push_bind_param::<SqlUuid, _>(&self.id)?;
        out.push_sql(
            " RETURNING id, last_draft) \
            INSERT INTO drafts (tool_id, version, owner_id, document, based_on, saved_at) \
            SELECT next.id, next.last_draft, ",
        );
        out.push_bind_param::<SqlUuid, _>(&self.owner)?;
        out.push_sql(", ");
        out.push_bind_param::<Jsonb, _>(self.document)?;
        out.push_sql(", ");
        out.push_bind_param::<Integer, _>(&self.based_on)?;
        out.push_sql(", ");
        out.push_bind_param::<Timestamptz, _>(&self.saved_at)?;
        out.push_sql(
            " FROM next ON CONFLICT (tool_id) DO UPDATE SET document = excluded.document, version = excluded.version, \
            based_on = excluded.based_on, saved_at = excluded.saved_at RETURNING version, saved_at",
        );
        Ok(())
    }
}

impl QueryId for SaveDraft<'_> {
    type QueryId = SaveDraft<'static>;
    const HAS_STATIC_QUERY_ID: bool = true;
}

impl Query for SaveDraft<'_> {
    type SqlType = (Integer, Timestamptz);
}

impl RunQueryDsl<PgConnection> for SaveDraft<'_> {}
