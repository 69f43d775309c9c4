//! Tools: kept versions (append-only) and drafts.

use std::collections::HashSet;

use chrono::{DateTime, Utc};
use diesel::dsl::sql;
use diesel::prelude::*;
use diesel::sql_types::{Bool, Integer, Text};
use serde_json::Value;
use uuid::Uuid;

use crate::changes::{Change, Tells};
use crate::error::THE_ID;
use crate::save_draft::{self, Held};
pub use crate::save_draft::{Document, SaveDraft};
use crate::schema::{drafts, tool_versions, tools};
use crate::uses::{self, User};
use crate::{Error, Result};

/// A save is tried so often where what was in its way is gone when it is looked at.
const SAVED_IN: u32 = 3;

/// A tool, with its newest kept version.
#[derive(Debug, Clone, PartialEq)]
pub struct Tool {
    pub id: Uuid,
    pub name: String,
    pub kept: Version,
    pub draft: Option<Draft>,
}

/// A kept version.
#[derive(Debug, Clone, PartialEq, Queryable, Selectable)]
#[diesel(table_name = tool_versions)]
pub struct Version {
    pub number: i32,
    pub document: Value,
    pub content_hash: String,
    pub kept_at: DateTime<Utc>,
    /// What its painter wrote to it.
    pub note: String,
}

/// A draft that differs from what is kept.
#[derive(Debug, Clone, PartialEq, Queryable, Selectable)]
#[diesel(table_name = drafts)]
pub struct Draft {
    pub document: Value,
    pub version: i32,
    pub based_on: i32,
    pub saved_at: DateTime<Utc>,
}

/// A draft as it was saved.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Saved {
    pub version: i32,
    pub saved_at: DateTime<Utc>,
}

/// A document as it is to be kept.
#[derive(Debug, Clone, Copy)]
pub struct Content<'a> {
    pub name: &'a str,
    pub document: &'a Value,
    pub hash: &'a str,
    /// Hashes of the images it needs.
    pub images: &'a [&'a str],
    /// What its painter writes to it.
    pub note: &'a str,
}

/// Where a draft or a keep starts from: 0 says there is none yet.
pub type Seen = i32;

/// A tool without its documents: what tells whether somebody has seen the newest.
#[derive(Debug, Clone, PartialEq, Queryable)]
pub struct Head {
    pub id: Uuid,
    pub name: String,
    /// Of the newest kept version.
    pub number: i32,
    pub content_hash: String,
    pub kept_at: DateTime<Utc>,
    /// Of the draft; nothing where there is none.
    pub draft: Option<i32>,
}

/// Tools that were not taken away, each with its newest version and its draft.
#[diesel::dsl::auto_type]
fn with_newest() -> _ {
    let newest = tool_versions::tool_id.eq(tools::id).and(tool_versions::number.eq(tools::newest));
    tools::table
        .inner_join(tool_versions::table.on(newest))
        .left_join(drafts::table.on(drafts::tool_id.eq(tools::id)))
        .filter(tools::taken_away_at.is_null())
}

/// Whether a tool that is found by its id is this painter's. No index serves it: by statistics that are old, all of a painter's tools may
/// seem to be found sooner than one.
#[diesel::dsl::auto_type]
fn is_of(owner: Uuid) -> _ {
    tools::owner_id.is_not_distinct_from(owner)
}

/// Tools of a painter by name, those behind `after`, at most so many.
pub fn heads(db: &mut PgConnection, owner: Uuid, after: Option<&str>, most: i64) -> Result<Vec<Head>> {
    let mine = tools::table
        .left_join(drafts::table.on(drafts::tool_id.eq(tools::id)))
        .filter(tools::owner_id.eq(owner).and(tools::taken_away_at.is_null()))
        // Every name is behind none.
        .filter(tools::name.gt(after.unwrap_or_default()));
    let columns = (
        tools::id,
        tools::name,
        tools::newest,
        tools::newest_hash,
        tools::newest_kept_at,
        drafts::version.nullable(),
    );
    Ok(mine.order(tools::name).limit(most).select(columns).load(db)?)
}

type Row = (Uuid, String, Version, Option<Draft>);

fn tool_of((id, name, kept, draft): Row) -> Tool {
    Tool { id, name, kept, draft }
}

/// Those of these tools that a painter has, by name.
pub fn some(db: &mut PgConnection, owner: Uuid, ids: &[Uuid]) -> Result<Vec<Tool>> {
    let mine = with_newest().filter(is_of(owner)).filter(tools::id.eq_any(ids)).order(tools::name);
    let columns = (tools::id, tools::name, Version::as_select(), Option::<Draft>::as_select());
    Ok(mine.select(columns).load::<Row>(db)?.into_iter().map(tool_of).collect())
}

/// A tool that was taken away.
#[derive(Debug, Clone, PartialEq, Queryable)]
pub struct Away {
    pub id: Uuid,
    pub name: String,
    pub taken_away_at: DateTime<Utc>,
}

/// Tools that a painter took away, the last first.
pub fn list_away(db: &mut PgConnection, owner: Uuid) -> Result<Vec<Away>> {
    Ok(tools::table
        .filter(tools::owner_id.eq(owner).and(tools::taken_away_at.is_not_null()))
        .order(tools::taken_away_at.desc())
        .select((tools::id, tools::name, tools::taken_away_at.assume_not_null()))
        .load(db)?)
}

/// Takes a tool away; with its versions and its draft it can be brought back.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such tool.
pub fn take_away(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<()> {
    let mine = tools::id.eq(id).and(is_of(owner)).and(tools::taken_away_at.is_null());
    let row = diesel::update(tools::table.filter(mine)).set(tools::taken_away_at.eq(Utc::now()));
    if row.execute(db)? == 0 { Err(Error::Missing("tool")) } else { Ok(()) }
}

/// Brings a tool back that was taken away.
///
/// # Errors
/// [`Error::Missing`] where the painter took no such tool away; [`Error::Taken`] where another has its name by now.
pub fn bring_back(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<Tool> {
    let mine = tools::id.eq(id).and(is_of(owner)).and(tools::taken_away_at.is_not_null());
    let row = diesel::update(tools::table.filter(mine)).set(tools::taken_away_at.eq(None::<DateTime<Utc>>));
    if row.execute(db).map_err(taken)? == 0 {
        return Err(Error::Missing("tool"));
    }
    get(db, owner, id)
}

/// One tool.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such tool, or took it away.
pub fn get(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<Tool> {
    let columns = (tools::id, tools::name, Version::as_select(), Option::<Draft>::as_select());
    let found = with_newest()
        .filter(is_of(owner))
        .filter(tools::id.eq(id))
        .select(columns)
        .first::<Row>(db)
        .optional()?;
    found.map(tool_of).ok_or(Error::Missing("tool"))
}

/// All kept versions of a tool, newest first.
pub fn versions(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<Vec<Version>> {
    get(db, owner, id)?;
    Ok(tool_versions::table
        .filter(tool_versions::tool_id.eq(id))
        .order(tool_versions::number.desc())
        .select(Version::as_select())
        .load(db)?)
}

/// Keeps a new tool as its version 1. Asked twice for the same `id`, it is kept once.
///
/// # Errors
/// [`Error::Taken`] where the painter has another tool of this name, or the id is somebody else's; [`Error::NoImage`].
pub fn create(db: &mut PgConnection, owner: Uuid, id: Uuid, content: Content<'_>) -> Result<Tool> {
    db.transaction(|db| {
        if let Some(tool) = created_already(db, owner, id, content)? {
            return Ok(tool);
        }
        let row = (tools::id.eq(id), tools::owner_id.eq(owner), tools::name.eq(content.name));
        diesel::insert_into(tools::table).values(row).execute(db).map_err(taken)?;
        insert_version(db, owner, id, 1, content)?;
        get(db, owner, id)
    })
}

/// The tool that [`create`] made when it was asked before, where the answer was lost.
///
/// # Errors
/// [`Error::Taken`] where another tool has the id.
pub fn created_already(
    db: &mut PgConnection,
    owner: Uuid,
    id: Uuid,
    content: Content<'_>,
) -> Result<Option<Tool>> {
    let Some(tool) = Error::found(get(db, owner, id))? else { return Ok(None) };
    let first = tool_versions::table.find((id, 1)).select(tool_versions::document);
    let same = first.first::<Value>(db)? == *content.document;
    if same { Ok(Some(tool)) } else { Err(Error::Taken(THE_ID)) }
}

/// The tool whose next version [`keep`] kept when it was asked before, where the answer was lost.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such tool.
pub fn kept_already(
    db: &mut PgConnection,
    owner: Uuid,
    id: Uuid,
    seen: Seen,
    content: Content<'_>,
) -> Result<Option<Tool>> {
    let tool = get(db, owner, id)?;
    let kept = &tool.kept;
    let same = kept.number == seen + 1 && kept.document == *content.document && kept.note == content.note;
    Ok(same.then_some(tool))
}

/// Keeps the next version of a tool; its draft ends. Asked twice for the same, it is kept once.
///
/// # Errors
/// [`Error::Conflict`] where another version was kept since `seen`; [`Error::Taken`] for a name in use; [`Error::NoImage`].
pub fn keep(db: &mut PgConnection, owner: Uuid, id: Uuid, seen: Seen, content: Content<'_>) -> Result<Tool> {
    db.transaction(|db| {
        let present = lock(db, owner, id)?;
        if let Some(tool) = kept_already(db, owner, id, seen, content)? {
            return Ok(tool);
        }
        if present != seen {
            return Err(Error::Conflict { what: "the kept tool", present });
        }
        diesel::update(tools::table.find(id)).set(tools::name.eq(content.name)).execute(db).map_err(taken)?;
        insert_version(db, owner, id, present + 1, content)?;
        diesel::delete(drafts::table.find(id)).execute(db)?;
        get(db, owner, id)
    })
}

/// Saves a draft, and which images it needs. Its versions never begin anew, whatever became of the draft before; what is there
/// already is not saved again.
///
/// # Errors
/// [`Error::Conflict`] where the draft was saved, or the tool kept, by somebody else since `seen` and `based_on`; [`Error::NoImage`].
pub fn save_draft(db: &mut impl Tells, save: SaveDraft<'_>, images: &[&str]) -> Result<Saved> {
    let in_vain = || Error::Conflict { what: "the draft", present: save.seen };
    for _ in 0..SAVED_IN {
        let saved = db.written_and_told(|db| {
            let saved = save_draft::run(db, &[save], Held::Waits)?;
            // What it did in vain is taken back.
            let (id, version, saved_at) = saved.into_iter().next().ok_or_else(in_vain)?;
            uses::put(db, save.owner, User::Draft(id), images)?;
            Ok((Saved { version, saved_at }, vec![told_of(&save, version)]))
        });
        match saved {
            Err(Error::Conflict { .. }) => {}
            done => return done,
        }
        let there = db.written_and_told(|db| Ok((saved_already(db, &save)?, Vec::new())));
        if let Some(saved) = there? {
            return Ok(saved);
        }
    }
    Err(in_vain())
}

/// Saves drafts that need no images all at once: one commit, and one notice, for what would be as many. Nothing in the place of one that
/// is not saved by it: somebody else holds it or its tool, or it is to be refused, or is there already; [`save_draft`] tells which.
///
/// # Errors
/// None of them is saved.
pub fn save_drafts(db: &mut impl Tells, saves: &[SaveDraft<'_>]) -> Result<Vec<Option<Saved>>> {
    let mut seen = HashSet::new();
    // The first of each tool: another follows what is not there yet.
    let (places, firsts): (Vec<usize>, Vec<SaveDraft<'_>>) =
        saves.iter().copied().enumerate().filter(|(_, save)| seen.insert(save.id)).unzip();
    db.written_and_told(|db| {
        let rows = save_draft::run(db, &firsts, Held::LeftOut)?;
        let mut all = vec![None; saves.len()];
        let mut changes = Vec::with_capacity(rows.len());
        for (id, version, saved_at) in rows {
            if let Some(place) = firsts.iter().position(|save| save.id == id) {
                all[places[place]] = Some(Saved { version, saved_at });
                changes.push(told_of(&firsts[place], version));
            }
        }
        Ok((all, changes))
    })
}

fn told_of(save: &SaveDraft<'_>, version: i32) -> Change {
    draft_written(save.owner, save.id, version)
}

/// What whoever writes a draft tells.
pub(crate) fn draft_written(owner: Uuid, id: Uuid, version: i32) -> Change {
    Change { owner, kind: "drafts".to_owned(), id, version }
}

/// Why a draft was not saved: the same that is there; nothing where whatever was in the way is gone.
fn saved_already(db: &mut PgConnection, save: &SaveDraft<'_>) -> Result<Option<Saved>> {
    let newest = lock(db, save.owner, save.id)?;
    if newest != save.based_on {
        return Err(Error::Conflict { what: "the kept tool", present: newest });
    }
    let same = sql::<Bool>("document::text = ").bind::<Text, _>(save.document.0);
    let same = same.sql(" AND based_on = ").bind::<Integer, _>(save.based_on);
    // Whoever is writing it is waited for.
    let there = drafts::table.find(save.id).for_update().select((drafts::version, drafts::saved_at, same));
    match there.first::<(i32, DateTime<Utc>, bool)>(db).optional()? {
        Some((version, saved_at, true)) => Ok(Some(Saved { version, saved_at })),
        there if there.map_or(0, |t| t.0) == save.seen => Ok(None),
        there => Err(Error::Conflict { what: "the draft", present: there.map_or(0, |t| t.0) }),
    }
}

/// Puts a draft back to what is kept.
///
/// # Errors
/// [`Error::Conflict`] where the draft was saved by somebody else since `seen`.
pub fn drop_draft(db: &mut PgConnection, owner: Uuid, id: Uuid, seen: Seen) -> Result<()> {
    db.transaction(|db| {
        lock(db, owner, id)?;
        let version = drafts::table.find(id).select(drafts::version).for_update();
        let present = version.first(db).optional()?.unwrap_or(0);
        if present != seen {
            return Err(Error::Conflict { what: "the draft", present });
        }
        diesel::delete(drafts::table.find(id)).execute(db)?;
        Ok(())
    })
}

/// Holds a tool, though not a draft that it has, against other writers to the end of the transaction; gives the number of its newest version.
fn lock(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<i32> {
    tools::table
        .filter(tools::id.eq(id).and(is_of(owner)).and(tools::taken_away_at.is_null()))
        .select(tools::newest)
        .for_update()
        .first(db)
        .optional()?
        .ok_or(Error::Missing("tool"))
}

/// Writes a version, and which images it needs; the numbers before it must be there.
pub(crate) fn insert_version(
    db: &mut PgConnection,
    owner: Uuid,
    id: Uuid,
    number: i32,
    content: Content<'_>,
) -> Result<()> {
    let row = (
        tool_versions::tool_id.eq(id),
        tool_versions::owner_id.eq(owner),
        tool_versions::number.eq(number),
        tool_versions::document.eq(content.document),
        tool_versions::content_hash.eq(content.hash),
        tool_versions::note.eq(content.note),
    );
    let kept = diesel::insert_into(tool_versions::table).values(row).returning(tool_versions::kept_at);
    let kept_at: DateTime<Utc> = kept.get_result(db)?;
    let newest =
        (tools::newest.eq(number), tools::newest_hash.eq(content.hash), tools::newest_kept_at.eq(kept_at));
    diesel::update(tools::table.find(id)).set(newest).execute(db)?;
    uses::write(db, owner, User::Version(id, number), content.images)
}

fn taken(e: diesel::result::Error) -> Error {
    Error::from(e).taken("the name of the tool")
}
