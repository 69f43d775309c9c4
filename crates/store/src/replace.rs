//! One image in the place of another, in everything of a painter's that needs it.

use diesel::prelude::*;
use serde_json::Value;
use uuid::Uuid;

use crate::changes;
use crate::schema::{drafts, grounds, images, tools as tool_rows};
use crate::tools::{self, Content};
use crate::uses::{self, User};
use crate::{Error, Result};

/// Something that an image was replaced in.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Replaced {
    pub id: Uuid,
    pub name: String,
}

/// Puts image `to` in the place of image `from`: each tool that needs it is kept as its next version, its draft follows, and
/// each ground is changed. Older versions of tools stay as they were. `only`: of these tools and grounds; `hash_of`: the
/// content hash of a tool document, nothing where it cannot be read.
///
/// # Errors
/// [`Error::Missing`] where the painter has no image `to`, or a tool cannot be read.
pub fn replace(
    db: &mut PgConnection,
    owner: Uuid,
    [from, to]: [&str; 2],
    only: Option<&[Uuid]>,
    hash_of: impl Fn(&Value) -> Option<String>,
) -> Result<Vec<Replaced>> {
    // What is needed once the one stands for the other.
    let others = |images: Vec<String>| -> Vec<String> {
        let mut images: Vec<String> = images.into_iter().filter(|hash| hash != from && hash != to).collect();
        images.push(to.to_owned());
        images
    };
    let wanted = |id: Uuid| only.is_none_or(|ids| ids.contains(&id));
    db.transaction(|db| {
        let there = images::table.filter(images::owner_id.eq(owner).and(images::hash.eq(to)));
        if there.count().get_result::<i64>(db)? == 0 {
            return Err(Error::Missing("image"));
        }
        // Nobody keeps or saves in between.
        let mine = tool_rows::table.filter(tool_rows::owner_id.eq(owner));
        mine.select(tool_rows::id).for_update().load::<Uuid>(db)?;
        let mine = drafts::table.filter(drafts::owner_id.eq(owner)).order(drafts::tool_id);
        mine.select(drafts::tool_id).for_update().load::<Uuid>(db)?;
        let (mut all, mut written) = (Vec::new(), Vec::new());
        let ids: Vec<Uuid> = uses::tools(db, owner, from)?.into_iter().filter(|id| wanted(*id)).collect();
        for tool in tools::some(db, owner, &ids)? {
            let kept = exchanged(&tool.kept.document, from, to);
            let drafted = tool.draft.as_ref().and_then(|d| exchanged(&d.document, from, to));
            if kept.is_none() && drafted.is_none() {
                continue;
            }
            let mut number = tool.kept.number;
            if let Some(document) = &kept {
                number += 1;
                let hash = hash_of(document).ok_or(Error::Missing("tool that can be read"))?;
                let images = others(uses::of(db, User::Version(tool.id, tool.kept.number))?);
                let images: Vec<&str> = images.iter().map(String::as_str).collect();
                let (name, note) = (&tool.name, "another image");
                let content = Content { name, document, hash: &hash, images: &images, note };
                tools::insert_version(db, owner, tool.id, number, content)?;
            }
            if let Some(draft) = &tool.draft {
                let version = draft.version + 1;
                let set = (
                    drafts::document.eq(drafted.as_ref().unwrap_or(&draft.document)),
                    drafts::version.eq(version),
                    drafts::based_on.eq(number),
                );
                diesel::update(drafts::table.find(tool.id)).set(set).execute(db)?;
                written.push(tools::draft_written(owner, tool.id, version));
                if drafted.is_some() {
                    let images = others(uses::of(db, User::Draft(tool.id))?);
                    uses::write(db, owner, User::Draft(tool.id), &images)?;
                }
            }
            all.push(Replaced { id: tool.id, name: tool.name });
        }
        let mine = grounds::table.filter(grounds::owner_id.eq(owner)).order(grounds::name).for_update();
        let rows = mine.select((grounds::id, grounds::name, grounds::recipe, grounds::version));
        for (id, name, recipe, version) in rows.load::<(Uuid, String, Value, i32)>(db)? {
            let Some(recipe) = exchanged(&recipe, from, to).filter(|_| wanted(id)) else { continue };
            let set = (grounds::recipe.eq(&recipe), grounds::version.eq(version + 1));
            diesel::update(grounds::table.find(id)).set(set).execute(db)?;
            let images = others(uses::of(db, User::Ground(id))?);
            uses::write(db, owner, User::Ground(id), &images)?;
            all.push(Replaced { id, name });
        }
        changes::tell(db, &written)?;
        Ok(all)
    })
}

/// The document with every text `from` as `to`; nothing where it has none.
fn exchanged(document: &Value, from: &str, to: &str) -> Option<Value> {
    let mut out = document.clone();
    exchange_in_place(&mut out, from, to).then_some(out)
}

fn exchange_in_place(value: &mut Value, from: &str, to: &str) -> bool {
    match value {
        Value::String(text) if text == from => {
            to.clone_into(text);
            true
        }
        // Every one, not only the first.
        Value::Array(all) => {
            all.iter_mut().filter_map(|v| exchange_in_place(v, from, to).then_some(())).count() > 0
        }
        Value::Object(all) => {
            all.values_mut().filter_map(|v| exchange_in_place(v, from, to).then_some(())).count() > 0
        }
        _ => false,
    }
}
