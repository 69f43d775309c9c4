//! Grey images that a painter keeps: shapes of tips, grain, height maps.

use chrono::{DateTime, Utc};
use diesel::prelude::*;
use uuid::Uuid;

use crate::schema::images;
use crate::{Error, Result, uses};

/// An image without its pixels.
#[derive(Debug, Clone, PartialEq, Queryable, Selectable)]
pub struct Image {
    pub id: Uuid,
    pub hash: String,
    pub name: String,
    pub tags: Vec<String>,
    pub width: i32,
    pub height: i32,
    pub created_at: DateTime<Utc>,
    /// Counts how often it was named anew, from 1.
    pub version: i32,
}

/// An image to keep.
#[derive(Debug, Clone, Copy)]
pub struct New<'a> {
    pub hash: &'a str,
    pub name: &'a str,
    pub tags: &'a [String],
    pub size: [i32; 2],
    /// 16-bit grey PNG.
    pub png: &'a [u8],
}

fn named(e: diesel::result::Error) -> Error {
    Error::from(e).taken("the name of the image")
}

/// All images of a painter, by name.
pub fn list(db: &mut PgConnection, owner: Uuid) -> Result<Vec<Image>> {
    Ok(images::table
        .filter(images::owner_id.eq(owner))
        .order(images::name)
        .select(Image::as_select())
        .load(db)?)
}

/// The pixels of an image, as the PNG they are kept in.
///
/// # Errors
/// [`Error::Missing`] where the painter has no image of this hash.
pub fn png(db: &mut PgConnection, owner: Uuid, hash: &str) -> Result<Vec<u8>> {
    images::table
        .filter(images::owner_id.eq(owner).and(images::hash.eq(hash)))
        .select(images::png)
        .first(db)
        .optional()?
        .ok_or(Error::Missing("image"))
}

/// Keeps an image; one of the same pixels that is there already is given instead.
///
/// # Errors
/// [`Error::Taken`] where the painter has another image of this name.
pub fn add(db: &mut PgConnection, owner: Uuid, new: New<'_>) -> Result<Image> {
    db.transaction(|db| {
        if let Some(image) = there(db, owner, new.hash)? {
            return Ok(image);
        }
        let row = (
            images::id.eq(Uuid::new_v4()),
            images::owner_id.eq(owner),
            images::hash.eq(new.hash),
            images::name.eq(new.name),
            images::tags.eq(new.tags),
            images::width.eq(new.size[0]),
            images::height.eq(new.size[1]),
            images::png.eq(new.png),
        );
        let added = diesel::insert_into(images::table)
            .values(row)
            .on_conflict((images::owner_id, images::hash))
            .do_nothing()
            .returning(Image::as_returning())
            .get_result(db)
            .optional()
            .map_err(named)?;
        // Taken in twice at once, it is there once.
        match added {
            Some(image) => Ok(image),
            None => there(db, owner, new.hash)?.ok_or(Error::Missing("image")),
        }
    })
}

/// The image of a hash, where the painter has it.
pub fn there(db: &mut PgConnection, owner: Uuid, hash: &str) -> Result<Option<Image>> {
    let same = images::table.filter(images::owner_id.eq(owner).and(images::hash.eq(hash)));
    Ok(same.select(Image::as_select()).first(db).optional()?)
}

/// Names and tags an image anew that is at version `seen`. Asked twice for the same, it is done once.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such image; [`Error::Conflict`] where it was named anew since; [`Error::Taken`] for a name in use.
pub fn rename(
    db: &mut PgConnection,
    owner: Uuid,
    id: Uuid,
    seen: i32,
    name: &str,
    tags: &[String],
) -> Result<Image> {
    let mine = images::table.filter(images::id.eq(id).and(images::owner_id.eq(owner)));
    let set = (images::name.eq(name), images::tags.eq(tags), images::version.eq(seen.saturating_add(1)));
    let renamed = diesel::update(mine.filter(images::version.eq(seen)))
        .set(set)
        .returning(Image::as_returning())
        .get_result(db)
        .optional();
    if let Some(image) = renamed.map_err(named)? {
        return Ok(image);
    }
    let present = mine.select(Image::as_select()).first(db).optional()?.ok_or(Error::Missing("image"))?;
    // Asked once more, since the answer was lost: it is done.
    if present.version == seen.saturating_add(1) && present.name == name && present.tags == tags {
        return Ok(present);
    }
    Err(Error::Conflict { what: "the name of the image", present: present.version })
}

/// What of the painter's needs an image: names of tools (kept versions and drafts) and of grounds.
pub fn used_by(db: &mut PgConnection, owner: Uuid, hash: &str) -> Result<Vec<String>> {
    uses::users(db, owner, hash)
}

/// Takes an image away that nothing needs.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such image; [`Error::InUse`] where something needs it.
pub fn remove(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<()> {
    db.transaction(|db| {
        let row = images::table.filter(images::id.eq(id).and(images::owner_id.eq(owner)));
        let hash: String =
            row.select(images::hash).for_update().first(db).optional()?.ok_or(Error::Missing("image"))?;
        let users = used_by(db, owner, &hash)?;
        if !users.is_empty() {
            return Err(Error::InUse { what: "the image", by: users });
        }
        diesel::delete(images::table.find(id)).execute(db)?;
        Ok(())
    })
}
