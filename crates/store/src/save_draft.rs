//! The statements by which drafts are saved: what a painter's hand waits for most often. No builder builds them; each is prepared once on a
//! connection.

use std::io::Write as _;

use chrono::{DateTime, Utc};
use diesel::expression::AsExpression;
use diesel::pg::Pg;
use diesel::prelude::*;
use diesel::query_builder::{AstPass, Query, QueryFragment, QueryId};
use diesel::serialize::{IsNull, Output, Result as Written, ToSql};
use diesel::sql_types::{Array, Integer, Json, Timestamptz, Uuid as SqlUuid};
use uuid::Uuid;

use crate::Result;

/// A document, as the text of its JSON: it is read nowhere between whoever checked it and the database.
#[derive(Debug, Clone, Copy, AsExpression)]
#[diesel(sql_type = Json)]
pub struct Document<'a>(pub &'a str);

impl ToSql<Json, Pg> for Document<'_> {
    fn to_sql<'b>(&'b self, out: &mut Output<'b, '_, Pg>) -> Written {
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

/// What becomes of a draft that somebody else holds, or whose tool they hold where it has none yet.
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
/// Of the others the same is there, or the tool was kept, or its draft saved or dropped, by somebody else.
///
/// Each statement asks and writes. It looks at what decides once nobody else holds it, and as it is by then (PostgreSQL, 13.2.1, Read
/// Committed): nobody's work is overwritten.
pub(crate) fn run(db: &mut PgConnection, drafts: &[SaveDraft<'_>], held: Held) -> Result<Vec<SavedRow>> {
    let (firsts, others): (Vec<_>, Vec<_>) = drafts.iter().partition(|draft| draft.seen == 0);
    let now = Utc::now();
    let mut saved = Vec::with_capacity(drafts.len());
    for (first, drafts) in [(true, firsts), (false, others)] {
        if drafts.is_empty() {
            continue;
        }
        let sent = Sent::of(&drafts, now);
        let rows: Vec<SavedRow> = match (first, held) {
            (true, Held::Waits) => Save::<true, false>(sent).load(db)?,
            (true, Held::LeftOut) => Save::<true, true>(sent).load(db)?,
            (false, Held::Waits) => Save::<false, false>(sent).load(db)?,
            (false, Held::LeftOut) => Save::<false, true>(sent).load(db)?,
        };
        saved.extend(rows);
    }
    Ok(saved)
}

/// What is bound, a column each.
struct Sent<'a> {
    ids: Vec<Uuid>,
    owners: Vec<Uuid>,
    documents: Vec<Document<'a>>,
    based_on: Vec<i32>,
    seen: Vec<i32>,
    saved_at: DateTime<Utc>,
}

impl<'a> Sent<'a> {
    fn of(drafts: &[&SaveDraft<'a>], saved_at: DateTime<Utc>) -> Self {
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

/// A tool that takes a draft of who sent it, made from the version that they had. Written so that the key alone leads to it: as `is_of` of
/// tools says, old statistics make other ways seem shorter.
const TAKES_IT: &str = "tools.id = sent.id AND tools.owner_id IS NOT DISTINCT FROM sent.owner_id \
    AND tools.taken_away_at IS NOT DISTINCT FROM NULL AND tools.newest = sent.based_on";

/// The statement for tools that have no draft, or for those that have one.
///
/// What is looked up for one that was sent stands in a subquery that locks: it cannot be taken out of there and joined over whole tables, however
/// small the database thinks they are.
struct Save<'a, const FIRST: bool, const LEAVES_OUT: bool>(Sent<'a>);

impl<const FIRST: bool, const LEAVES_OUT: bool> QueryFragment<Pg> for Save<'_, FIRST, LEAVES_OUT> {
    fn walk_ast<'b>(&'b self, mut out: AstPass<'_, 'b, Pg>) -> QueryResult<()> {
        let Self(sent) = self;
        out.push_sql("WITH sent AS (SELECT * FROM unnest(");
        out.push_bind_param::<Array<SqlUuid>, _>(&sent.ids)?;
        out.push_sql(", ");
        out.push_bind_param::<Array<SqlUuid>, _>(&sent.owners)?;
        out.push_sql(", ");
        out.push_bind_param::<Array<Json>, _>(&sent.documents)?;
        out.push_sql(", ");
        out.push_bind_param::<Array<Integer>, _>(&sent.based_on)?;
        out.push_sql(", ");
        out.push_bind_param::<Array<Integer>, _>(&sent.seen)?;
        out.push_sql(") AS sent (id, owner_id, document, based_on, seen)), held AS (SELECT sent.*, last_draft FROM sent CROSS JOIN LATERAL (");
        // A tool is held against those who keep, take away or drop, and against other first drafts; a draft against all who write or drop it.
        if FIRST {
            out.push_sql("SELECT last_draft FROM tools WHERE ");
            out.push_sql(TAKES_IT);
            out.push_sql(
                " AND NOT EXISTS (SELECT FROM drafts WHERE tool_id = sent.id) FOR NO KEY UPDATE OF tools",
            );
        } else {
            out.push_sql("SELECT last_draft FROM drafts JOIN tools ON tools.id = drafts.tool_id WHERE ");
            out.push_sql(TAKES_IT);
            out.push_sql(
                " AND drafts.tool_id = sent.id AND drafts.version = sent.seen \
                AND (drafts.document::text <> sent.document::text OR drafts.based_on <> sent.based_on) \
                FOR NO KEY UPDATE OF drafts",
            );
        }
        if LEAVES_OUT {
            out.push_sql(" SKIP LOCKED");
        }
        out.push_sql(") AS there)");
        if FIRST {
            out.push_sql(
                " INSERT INTO drafts (tool_id, version, owner_id, based_on, document, saved_at) \
                SELECT id, last_draft + 1, owner_id, based_on, document, ",
            );
            out.push_bind_param::<Timestamptz, _>(&sent.saved_at)?;
            out.push_sql(" FROM held ON CONFLICT DO NOTHING");
        } else {
            out.push_sql(
                ", gone AS (DELETE FROM image_uses USING held WHERE draft_of = held.id) \
                UPDATE drafts SET version = drafts.version + 1, based_on = held.based_on, document = held.document, saved_at = ",
            );
            out.push_bind_param::<Timestamptz, _>(&sent.saved_at)?;
            out.push_sql(" FROM held WHERE drafts.tool_id = held.id");
        }
        out.push_sql(" RETURNING drafts.tool_id, drafts.version, drafts.saved_at");
        Ok(())
    }
}

impl<const FIRST: bool, const LEAVES_OUT: bool> QueryId for Save<'_, FIRST, LEAVES_OUT> {
    type QueryId = Save<'static, FIRST, LEAVES_OUT>;
    const HAS_STATIC_QUERY_ID: bool = true;
}

impl<const FIRST: bool, const LEAVES_OUT: bool> Query for Save<'_, FIRST, LEAVES_OUT> {
    type SqlType = (SqlUuid, Integer, Timestamptz);
}

impl<const FIRST: bool, const LEAVES_OUT: bool> RunQueryDsl<PgConnection> for Save<'_, FIRST, LEAVES_OUT> {}
