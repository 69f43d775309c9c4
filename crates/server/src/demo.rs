//! Loads the demo scenario: a folder of tools (JSON) and gestures (InkML), through the same gates as everything else.

use std::path::Path;

use saltmarsh_core::ground::Recipe;
use saltmarsh_core::num;
use saltmarsh_core::paint::pigment;
use saltmarsh_core::tool::Tool;
use saltmarsh_formats::inkml;
use saltmarsh_store::{Error, Pool, gestures, grounds, materials, painters, tools};
use serde::Deserialize;
use sha2::{Digest, Sha256};
use uuid::Uuid;

use crate::stop::Stop;

/// What a folder that is loaded holds is told there.
pub const CONTENTS: &str = "demo.json";

/// What the demo holds, in order.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Contents {
    tools: Vec<String>,
    gestures: Vec<NamedGesture>,
    grounds: Vec<NamedGround>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct NamedGesture {
    file: String,
    name: String,
    note: String,
    /// It is not run on the proof sheet until the painter says so.
    #[serde(default)]
    aside: bool,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct NamedGround {
    file: String,
    note: String,
}

/// Adds what of the demo the painter does not have yet; what is there stays as it is.
///
/// # Errors
/// A file that cannot be read or is refused, or the database.
pub fn load(pool: &Pool, folder: &Path, painter: &str) -> Result<(), Stop> {
    let read = |name: &str| {
        let path = folder.join(name);
        std::fs::read_to_string(&path).map_err(|e| Stop::Input(format!("{}: {e}", path.display())))
    };
    let database = |e: Error| Stop::Failure(e.to_string());
    let contents: Contents =
        serde_json::from_str(&read(CONTENTS)?).map_err(|e| Stop::Input(format!("{CONTENTS}: {e}")))?;
    let mut db = pool.get().map_err(database)?;
    let owner = painters::ensure(&mut db, painter).map_err(database)?.id;
    let unless_there = |done: saltmarsh_store::Result<()>| match done {
        Err(Error::Taken(_)) => Ok(()),
        other => other.map_err(database),
    };
    let away = tools::list_away(&mut db, owner).map_err(database)?;
    for file in &contents.tools {
        let tool = Tool::parse(&read(file)?).map_err(|e| Stop::Input(format!("{file}: {e}")))?;
        // What a painter took away does not come back by itself.
        if away.iter().any(|a| a.name == tool.name) {
            continue;
        }
        let json = serde_json::to_value(&tool).map_err(|e| Stop::Failure(e.to_string()))?;
        let (hash, images) = (tool.content_hash(), tool.images().collect::<Vec<_>>());
        let content =
            tools::Content { name: &tool.name, document: &json, hash: &hash, images: &images, note: "" };
        unless_there(tools::create(&mut db, owner, Uuid::new_v4(), content).map(|_| ()))?;
    }
    for g in &contents.gestures {
        let named = |e: saltmarsh_core::FieldError| Stop::Input(format!("{}: {e}", g.file));
        let document = inkml::read(&read(&g.file)?).map_err(named)?;
        let text = inkml::write(&inkml::to_gesture(&document).map_err(named)?);
        let hash: String = num::hex(&Sha256::digest(text.as_bytes()));
        let content = (text.as_str(), hash.as_str());
        let new = gestures::New {
            id: Uuid::new_v4(),
            name: &g.name,
            note: &g.note,
            content,
            stylus: None,
            on_proof: !g.aside,
        };
        unless_there(gestures::add(&mut db, owner, new).map(|_| ()))?;
    }
    for g in &contents.grounds {
        let named = |e: saltmarsh_core::FieldError| Stop::Input(format!("{}: {e}", g.file));
        let recipe = Recipe::parse(&read(&g.file)?).map_err(named)?;
        let json = serde_json::to_value(&recipe).map_err(|e| Stop::Failure(e.to_string()))?;
        let images: Vec<&str> = recipe.images().collect();
        let content = grounds::Content { name: &recipe.name, note: &g.note, recipe: &json, images: &images };
        unless_there(grounds::add(&mut db, owner, content).map(|_| ()))?;
    }
    for p in pigment::all() {
        let row = materials::Pigment {
            code: p.code.clone(),
            name: p.name.clone(),
            absorption: p.k.to_vec(),
            scattering: p.s.to_vec(),
            source: "approximation made for this project, not measured".to_owned(),
        };
        materials::ensure_pigment(&mut db, owner, &row).map_err(database)?;
    }
    Ok(())
}
