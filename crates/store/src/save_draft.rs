//! Statements that no builder builds: a draft is what a painter's hand waits for most often. Each is prepared once on a connection.

use chrono::{DateTime, Utc};
use diesel::pg::Pg;
use diesel::prelude::*;
use diesel::query_builder::{AstPass, Query, QueryFragment, QueryId};
use diesel::sql_types::{Integer, Jsonb, Timestamptz, Uuid as SqlUuid};
use serde_json::Value;
use uuid::Uuid;

use crate::Result;

/// A draft to be written under the next version of its tool.
pub(crate) struct SaveDraft<'a> {
    pub id: Uuid,
    pub owner: Uuid,
    pub document: &'a Value,
    pub based_on: i32,
    /// The version whose place it takes; 0 where there is to be none yet.
    pub seen: i32,
    pub saved_at: DateTime<Utc>,
}

/// Writes a draft, and lets go of the images that the one before needed; gives its version and when it was saved, as the database keeps it.
/// Nothing where the same is there, or the tool was kept, or its draft saved or dropped, by somebody else; what it did is then to be taken back.
///
/// One statement asks and writes. It waits for whoever holds the tool's row, and then looks at that row, and at the draft that it is to
/// replace, as they are by then (PostgreSQL, 13.2.1, Read Committed): nobody's work is overwritten.
pub(crate) fn run(db: &mut PgConnection, save: SaveDraft<'_>) -> Result<Option<(i32, DateTime<Utc>)>> {
    let saved = if save.seen == 0 { First(save).get_result(db) } else { Next(save).get_result(db) };
    Ok(saved.optional()?)
}

/// The first draft of a tool, and one that follows another.
struct First<'a>(SaveDraft<'a>);
struct Next<'a>(SaveDraft<'a>);

impl SaveDraft<'_> {
    /// The tool's next draft version, if the tool is as it was seen.
    fn with_next<'b>(&'b self, out: &mut AstPass<'_, 'b, Pg>) -> QueryResult<()> {
        out.push_sql("WITH next AS (UPDATE tools SET last_draft = last_draft + 1 WHERE id = ");
        out.push_bind_param::<SqlUuid, _>(&self.id)?;
        // As `is_of` of tools.
        out.push_sql(" AND owner_id IS NOT DISTINCT FROM ");
        out.push_bind_param::<SqlUuid, _>(&self.owner)?;
        out.push_sql(" AND taken_away_at IS NULL AND newest = ");
        out.push_bind_param::<Integer, _>(&self.based_on)?;
        out.push_sql(" RETURNING id, owner_id, newest, last_draft)");
        Ok(())
    }
}

impl QueryFragment<Pg> for First<'_> {
    fn walk_ast<'b>(&'b self, mut out: AstPass<'_, 'b, Pg>) -> QueryResult<()> {
        self.0.with_next(&mut out)?;
        out.push_sql(
            " INSERT INTO drafts (tool_id, version, owner_id, based_on, document, saved_at) \
            SELECT id, last_draft, owner_id, newest, ",
        );
        out.push_bind_param::<Jsonb, _>(self.0.document)?;
        out.push_sql(", ");
        out.push_bind_param::<Timestamptz, _>(&self.0.saved_at)?;
        out.push_sql(" FROM next ON CONFLICT DO NOTHING RETURNING version, saved_at");
        Ok(())
    }
}

impl QueryFragment<Pg> for Next<'_> {
    fn walk_ast<'b>(&'b self, mut out: AstPass<'_, 'b, Pg>) -> QueryResult<()> {
        self.0.with_next(&mut out)?;
        out.push_sql(", new AS (SELECT ");
        out.push_bind_param::<Jsonb, _>(self.0.document)?;
        out.push_sql(
            " AS document), gone AS (DELETE FROM image_uses USING next WHERE draft_of = next.id) \
            UPDATE drafts SET version = last_draft, based_on = newest, document = new.document, saved_at = ",
        );
        out.push_bind_param::<Timestamptz, _>(&self.0.saved_at)?;
        out.push_sql(" FROM next, new WHERE drafts.tool_id = next.id AND drafts.version = ");
        out.push_bind_param::<Integer, _>(&self.0.seen)?;
        out.push_sql(
            " AND (drafts.document <> new.document OR drafts.based_on <> newest) \
            RETURNING drafts.version, drafts.saved_at",
        );
        Ok(())
    }
}

impl QueryId for First<'_> {
    type QueryId = First<'static>;
    const HAS_STATIC_QUERY_ID: bool = true;
}

impl QueryId for Next<'_> {
    type QueryId = Next<'static>;
    const HAS_STATIC_QUERY_ID: bool = true;
}

impl Query for First<'_> {
    type SqlType = (Integer, Timestamptz);
}

impl Query for Next<'_> {
    type SqlType = (Integer, Timestamptz);
}

impl RunQueryDsl<PgConnection> for First<'_> {}
impl RunQueryDsl<PgConnection> for Next<'_> {}
