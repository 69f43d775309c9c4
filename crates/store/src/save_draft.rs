//! The statement by which drafts are saved: what a painter's hand waits for most often. No builder builds it; it is prepared once on a
//! connection.

use std::io::Write as _;

use chrono::{DateTime, Utc};
use diesel::expression::AsExpression;
use diesel::pg::Pg;
use diesel::prelude::*;
use diesel::query_builder::{AstPass, Query, QueryFragment, QueryId};
use diesel::serialize::{IsNull, Output, Result as Written, ToSql};
use diesel::sql_types::{Array, Integer, Jsonb, Timestamptz, Uuid as SqlUuid};
use uuid::Uuid;

use crate::Result;

/// A document, as the text of its JSON: it is read nowhere between whoever checked it and the database.
#[derive(Debug, Clone, Copy, AsExpression)]
#[diesel(sql_type = Jsonb)]
pub struct Document<'a>(pub &'a str);

/// PostgreSQL's `jsonb_recv`: a version, and the text.
impl ToSql<Jsonb, Pg> for Document<'_> {
    fn to_sql<'b>(&'b self, out: &mut Output<'b, '_, Pg>) -> Written {
        out.write_all(&[1])?;
        out.write_all(self.0.as_bytes())?;
        Ok(IsNull::No)
    }
}

/// A draft to be written under the next version of its tool.
#[derive(Debug, Clone, Copy)]
pub struct SaveDraft<'a> {
    pub id: Uuid,
    pub owner: Uuid,
    pub document: Document<'a>,
    pub based_on: i32,
    /// The version whose place it takes; 0 where there is to be none yet.
    pub seen: i32,
}

/// What becomes of a draft whose tool somebody else holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Held {
    /// It waits for them, and is saved if they changed nothing.
    Waits,
    /// It is left out: whoever waits for nobody crosses nobody, whatever the order of what is saved at once.
    LeftOut,
}

/// A draft that was saved: its tool, its version and when it was saved, as the database keeps them.
pub(crate) type SavedRow = (Uuid, i32, DateTime<Utc>);

/// Writes drafts, no two of one tool, and lets go of the images that those before needed; gives those that were written, in any order.
/// Of the others the same is there, or the tool was kept, or its draft saved or dropped, by somebody else; a version number may be gone by
/// such a one, unless what was done is taken back.
///
/// One statement asks and writes. It looks at a tool's row once nobody else holds it, and at the draft that it is to replace as it is by
/// then (PostgreSQL, 13.2.1, Read Committed): nobody's work is overwritten.
pub(crate) fn run(db: &mut PgConnection, drafts: &[SaveDraft<'_>], held: Held) -> Result<Vec<SavedRow>> {
    let now = Utc::now();
    Ok(match held {
        Held::Waits => Save::<false>::of(drafts, now).load(db)?,
        Held::LeftOut => Save::<true>::of(drafts, now).load(db)?,
    })
}

/// The statement and what it binds, a column each.
struct Save<'a, const LEAVES_OUT: bool> {
    ids: Vec<Uuid>,
    owners: Vec<Uuid>,
    documents: Vec<Document<'a>>,
    based_on: Vec<i32>,
    seen: Vec<i32>,
    saved_at: DateTime<Utc>,
}

impl<'a, const LEAVES_OUT: bool> Save<'a, LEAVES_OUT> {
    fn of(drafts: &[SaveDraft<'a>], saved_at: DateTime<Utc>) -> Self {
        Self {
            ids: drafts.iter().map(|d| d.id).collect(),
            owners: drafts.iter().map(|d| d.owner).collect(),
            documents: drafts.iter().map(|d| d.document).collect(),
            based_on: drafts.iter().map(|d| d.based_on).collect(),
            seen: drafts.iter().map(|d| d.seen).collect(),
            saved_at,
        }
    }
}

impl<const LEAVES_OUT: bool> QueryFragment<Pg> for Save<'_, LEAVES_OUT> {
    fn walk_ast<'b>(&'b self, mut out: AstPass<'_, 'b, Pg>) -> QueryResult<()> {
        out.push_sql("WITH sent AS (SELECT * FROM unnest(");
        out.push_bind_param::<Array<SqlUuid>, _>(&self.ids)?;
        out.push_sql(", ");
        out.push_bind_param::<Array<SqlUuid>, _>(&self.owners)?;
        out.push_sql(", ");
        out.push_bind_param::<Array<Jsonb>, _>(&self.documents)?;
        out.push_sql(", ");
        out.push_bind_param::<Array<Integer>, _>(&self.based_on)?;
        out.push_sql(", ");
        out.push_bind_param::<Array<Integer>, _>(&self.seen)?;
        // Written so that the key alone leads to a tool: as `is_of` of tools says, old statistics make other ways seem shorter.
        out.push_sql(
            ") AS sent (id, owner_id, document, based_on, seen)), \
            held AS (SELECT tools.id, sent.document, sent.seen FROM sent JOIN tools ON tools.id = sent.id \
            LEFT JOIN drafts ON drafts.tool_id = tools.id \
            WHERE tools.owner_id IS NOT DISTINCT FROM sent.owner_id AND tools.taken_away_at IS NOT DISTINCT FROM NULL \
            AND tools.newest = sent.based_on AND coalesce(drafts.version, 0) = sent.seen \
            AND (drafts.document IS DISTINCT FROM sent.document OR drafts.based_on <> sent.based_on) \
            FOR UPDATE OF tools",
        );
        if LEAVES_OUT {
            out.push_sql(" SKIP LOCKED");
        }
        out.push_sql(
            "), next AS (UPDATE tools SET last_draft = last_draft + 1 FROM held WHERE tools.id = held.id \
            RETURNING tools.id, owner_id, newest, last_draft, held.document, held.seen), \
            gone AS (DELETE FROM image_uses USING next WHERE draft_of = next.id), \
            first AS (INSERT INTO drafts (tool_id, version, owner_id, based_on, document, saved_at) \
            SELECT id, last_draft, owner_id, newest, document, ",
        );
        out.push_bind_param::<Timestamptz, _>(&self.saved_at)?;
        out.push_sql(
            " FROM next WHERE seen = 0 ON CONFLICT DO NOTHING RETURNING tool_id, version, saved_at), \
            other AS (UPDATE drafts SET version = last_draft, based_on = newest, document = next.document, saved_at = ",
        );
        out.push_bind_param::<Timestamptz, _>(&self.saved_at)?;
        out.push_sql(
            " FROM next WHERE drafts.tool_id = next.id AND drafts.version = next.seen \
            RETURNING drafts.tool_id, drafts.version, drafts.saved_at) \
            SELECT * FROM first UNION ALL SELECT * FROM other",
        );
        Ok(())
    }
}

impl<const LEAVES_OUT: bool> QueryId for Save<'_, LEAVES_OUT> {
    type QueryId = Save<'static, LEAVES_OUT>;
    const HAS_STATIC_QUERY_ID: bool = true;
}

impl<const LEAVES_OUT: bool> Query for Save<'_, LEAVES_OUT> {
    type SqlType = (SqlUuid, Integer, Timestamptz);
}

impl<const LEAVES_OUT: bool> RunQueryDsl<PgConnection> for Save<'_, LEAVES_OUT> {}
