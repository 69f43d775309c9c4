//! Which images are needed by what: written in the transaction that keeps what needs them.

use diesel::prelude::*;
use uuid::Uuid;

use crate::schema::{grounds, image_uses, images, tools};
use crate::{Error, Result};

/// What needs an image.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum User {
    Version(Uuid, i32),
    Draft(Uuid),
    Ground(Uuid),
}

/// Writes that `user` needs these images, and no others. They are held to the end of the transaction: nobody takes one away meanwhile.
///
/// # Errors
/// [`Error::NoImage`] where the painter has no image of one of the hashes.
pub(crate) fn write(
    db: &mut PgConnection,
    owner: Uuid,
    user: User,
    hashes: &[impl AsRef<str>],
) -> Result<()> {
    forget(db, user)?;
    put(db, owner, user, hashes)
}

/// As [`write`], where nothing is written of this user yet.
///
/// # Errors
/// As [`write`].
pub(crate) fn put(db: &mut PgConnection, owner: Uuid, user: User, hashes: &[impl AsRef<str>]) -> Result<()> {
    let hashes: Vec<&str> = hashes.iter().map(AsRef::as_ref).collect();
    if hashes.is_empty() {
        return Ok(());
    }
    let there: Vec<String> = images::table
        .filter(images::owner_id.eq(owner).and(images::hash.eq_any(&hashes)))
        .order(images::hash)
        .select(images::hash)
        .for_key_share()
        .load(db)?;
    if let Some(missing) = hashes.iter().find(|hash| !there.iter().any(|t| t == *hash)) {
        return Err(Error::NoImage((*missing).to_owned()));
    }
    let (version, draft, ground) = match user {
        User::Version(id, number) => (Some((id, number)), None, None),
        User::Draft(id) => (None, Some(id), None),
        User::Ground(id) => (None, None, Some(id)),
    };
    let row = |hash: String| {
        (
            image_uses::owner_id.eq(owner),
            image_uses::hash.eq(hash),
            image_uses::tool_id.eq(version.map(|v| v.0)),
            image_uses::number.eq(version.map(|v| v.1)),
            image_uses::draft_of.eq(draft),
            image_uses::ground_id.eq(ground),
        )
    };
    let rows: Vec<_> = there.into_iter().map(row).collect();
    diesel::insert_into(image_uses::table).values(rows).execute(db)?;
    Ok(())
}

/// The images that something needs.
pub(crate) fn of(db: &mut PgConnection, user: User) -> Result<Vec<String>> {
    let rows = image_uses::table.select(image_uses::hash).into_boxed();
    let rows = match user {
        User::Version(id, number) => {
            rows.filter(image_uses::tool_id.eq(id).and(image_uses::number.eq(number)))
        }
        User::Draft(id) => rows.filter(image_uses::draft_of.eq(id)),
        User::Ground(id) => rows.filter(image_uses::ground_id.eq(id)),
    };
    Ok(rows.load(db)?)
}

/// Tools of a painter of which a version or a draft needs an image.
pub(crate) fn tools(db: &mut PgConnection, owner: Uuid, hash: &str) -> Result<Vec<Uuid>> {
    let mine = image_uses::table.filter(image_uses::owner_id.eq(owner).and(image_uses::hash.eq(hash)));
    let users: Vec<(Option<Uuid>, Option<Uuid>)> =
        mine.select((image_uses::tool_id, image_uses::draft_of)).distinct().load(db)?;
    Ok(users.into_iter().filter_map(|(version_of, draft_of)| version_of.or(draft_of)).collect())
}

/// Names of the tools (their kept versions and drafts, also of those taken away) and grounds of a painter that need an image.
pub(crate) fn users(db: &mut PgConnection, owner: Uuid, hash: &str) -> Result<Vec<String>> {
    let mine = image_uses::table.filter(image_uses::owner_id.eq(owner).and(image_uses::hash.eq(hash)));
    let of_versions: Vec<String> = mine
        .inner_join(tools::table.on(image_uses::tool_id.eq(tools::id.nullable())))
        .select(tools::name)
        .distinct()
        .load(db)?;
    let of_drafts: Vec<String> = mine
        .inner_join(tools::table.on(image_uses::draft_of.eq(tools::id.nullable())))
        .select(tools::name)
        .load(db)?;
    let of_grounds: Vec<String> = mine
        .inner_join(grounds::table.on(image_uses::ground_id.eq(grounds::id.nullable())))
        .select(grounds::name)
        .load(db)?;
    let mut all: Vec<String> = of_versions.into_iter().chain(of_drafts).chain(of_grounds).collect();
    all.sort();
    all.dedup();
    Ok(all)
}

fn forget(db: &mut PgConnection, user: User) -> Result<()> {
    match user {
        // Written once, as the version is.
        User::Version(..) => {}
        User::Draft(id) => {
            diesel::delete(image_uses::table.filter(image_uses::draft_of.eq(id))).execute(db)?;
        }
        User::Ground(id) => {
            diesel::delete(image_uses::table.filter(image_uses::ground_id.eq(id))).execute(db)?;
        }
    }
    Ok(())
}
