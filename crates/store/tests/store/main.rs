//! The store against a real PostgreSQL (`DATABASE_URL`, which `./run test` sets). Each test works in a transaction that is
//! never committed.

mod drafts;
mod faults;

use std::sync::OnceLock;

use diesel::RunQueryDsl as _;
use diesel::connection::{Connection as _, SimpleConnection};
use diesel::pg::PgConnection;
use saltmarsh_store::changes::Tells;
use saltmarsh_store::tools::{Document, SaveDraft, Saved};
use saltmarsh_store::{
    Error, Pool, backup, curves, gestures, grounds, images, materials, painters, replace, styluses, tools,
};
use serde_json::{Value, json};
use uuid::Uuid;

fn url() -> String {
    std::env::var("DATABASE_URL").expect("DATABASE_URL names the test database; ./run test sets it")
}

/// A connection in a test transaction, with a painter.
fn studio() -> (PgConnection, Uuid) {
    static MIGRATED: OnceLock<()> = OnceLock::new();
    MIGRATED.get_or_init(|| Pool::connect(&url(), 1).and_then(|p| p.migrate()).expect("migrations run"));
    let mut db = PgConnection::establish(&url()).expect("the test database answers");
    db.begin_test_transaction().expect("a transaction");
    let painter = painters::ensure(&mut db, &format!("painter {}", Uuid::new_v4())).expect("a painter");
    (db, painter.id)
}

/// Some connections that see what each other does, with a painter.
fn shared(connections: u32) -> (Pool, Uuid) {
    let pool = Pool::connect(&url(), connections).expect("connections");
    pool.migrate().expect("migrations run");
    let painter =
        painters::ensure(&mut pool.get().expect("a connection"), &format!("painter {}", Uuid::new_v4()));
    (pool, painter.expect("a painter").id)
}

fn document(width: f64) -> Value {
    json!({"name": "reed pen", "parameters": {"tip.width_mm": width}})
}

fn content<'a>(name: &'a str, document: &'a Value) -> tools::Content<'a> {
    tools::Content { name, document, hash: "0123", images: &[], note: "" }
}

fn create(db: &mut PgConnection, owner: Uuid, content: tools::Content<'_>) -> Result<tools::Tool, Error> {
    tools::create(db, owner, Uuid::new_v4(), content)
}

/// Every tool of a painter, read in pages of two.
fn all_tools(db: &mut PgConnection, owner: Uuid) -> Result<Vec<tools::Tool>, Error> {
    let mut heads = Vec::new();
    let mut after: Option<String> = None;
    loop {
        let page = tools::heads(db, owner, after.as_deref(), 2)?;
        let Some(last) = page.last() else { break };
        after = Some(last.name.clone());
        heads.extend(page);
    }
    let ids: Vec<Uuid> = heads.iter().map(|h| h.id).collect();
    let all = tools::some(db, owner, &ids)?;
    let head = |t: &tools::Tool| tools::Head {
        id: t.id,
        name: t.name.clone(),
        number: t.kept.number,
        content_hash: t.kept.content_hash.clone(),
        kept_at: t.kept.kept_at,
        draft: t.draft.as_ref().map(|d| d.version),
    };
    assert_eq!(all.iter().map(head).collect::<Vec<_>>(), heads, "as they were told of");
    Ok(all)
}

/// Saves a draft of the tool `id`.
fn save(
    db: &mut impl Tells,
    owner: Uuid,
    id: Uuid,
    seen: i32,
    based_on: i32,
    document: &Value,
    images: &[&str],
) -> Result<Saved, Error> {
    let document = document.to_string();
    tools::save_draft(db, SaveDraft { id, owner, document: Document(&document), based_on, seen }, images)
}

fn gesture(name: &str) -> gestures::New<'_> {
    gestures::New {
        id: Uuid::new_v4(),
        name,
        note: "",
        content: ("<ink/>", "h"),
        stylus: None,
        on_proof: true,
    }
}

#[test]
fn kept_versions_pile_up_and_are_never_changed() {
    let (mut db, me) = studio();
    let first = document(2.0);
    let tool = create(&mut db, me, content("reed", &first)).expect("kept");
    assert_eq!((tool.kept.number, &tool.kept.document), (1, &first));
    let second = document(2.137_000_000_000_000_4);
    let tool = tools::keep(&mut db, me, tool.id, 1, content("reed", &second)).expect("kept again");
    assert_eq!(tool.kept.number, 2);
    let all = tools::versions(&mut db, me, tool.id).expect("versions");
    assert_eq!(all.iter().map(|v| v.number).collect::<Vec<_>>(), [2, 1]);
    assert_eq!(all[0].document, second, "numbers come back to the last bit");
    assert_eq!(all[1].document, first);
    let change = db.batch_execute("UPDATE tool_versions SET document = '{}'");
    assert!(change.expect_err("refused by the database").to_string().contains("written once"));
}

#[test]
fn two_windows_cannot_overwrite_each_other() {
    let (mut db, me) = studio();
    let tool = create(&mut db, me, content("reed", &document(2.0))).expect("kept");
    let (a, b) = (document(3.0), document(4.0));
    let saved = save(&mut db, me, tool.id, 0, 1, &a, &[]).expect("the first window saves");
    assert_eq!(saved.version, 1);
    let again = save(&mut db, me, tool.id, 0, 1, &a, &[]).expect("asked once more, its answer was lost");
    assert_eq!(again, saved);
    let late = save(&mut db, me, tool.id, 0, 1, &b, &[]).expect_err("the second has not seen it");
    assert!(matches!(late, Error::Conflict { present: 1, .. }), "{late:?}");
    let drop = tools::drop_draft(&mut db, me, tool.id, 7).expect_err("nor can it drop what it has not seen");
    assert!(matches!(drop, Error::Conflict { present: 1, .. }), "{drop:?}");
    let kept = tools::keep(&mut db, me, tool.id, 1, content("reed", &a)).expect("the first keeps");
    assert!(kept.kept.number == 2 && kept.draft.is_none(), "keeping ends the draft");
    let again = tools::keep(&mut db, me, tool.id, 1, content("reed", &a)).expect("asked once more");
    assert_eq!(again, kept, "it is kept once");
    let late = tools::keep(&mut db, me, tool.id, 1, content("reed", &b)).expect_err("the second comes late");
    assert!(matches!(late, Error::Conflict { present: 2, .. }), "{late:?}");
    let stale = save(&mut db, me, tool.id, 0, 1, &b, &[]).expect_err("a draft of an older version");
    assert!(matches!(stale, Error::Conflict { present: 2, .. }), "{stale:?}");
    assert_eq!(tools::get(&mut db, me, tool.id).expect("there").kept.document, a);
    // A draft that follows one which is gone goes on from its version: who saw that one has not seen this.
    let new = save(&mut db, me, tool.id, 0, 2, &b, &[]).expect("a new draft");
    assert_eq!(new.version, 2);
    let old = save(&mut db, me, tool.id, saved.version, 2, &document(5.0), &[]).expect_err("an old window");
    assert!(matches!(old, Error::Conflict { present: 2, .. }), "{old:?}");
    tools::drop_draft(&mut db, me, tool.id, 2).expect("dropped");
    assert_eq!(save(&mut db, me, tool.id, 0, 2, &a, &[]).expect("another").version, 3);
}

#[test]
fn a_tool_that_is_taken_away_comes_back_whole_and_its_name_is_free_meanwhile() {
    let (mut db, me) = studio();
    let other = painters::ensure(&mut db, &format!("other {}", Uuid::new_v4())).expect("a painter").id;
    let (first, second) = (document(2.0), document(3.0));
    let id = create(&mut db, me, content("reed", &first)).expect("kept").id;
    let note = tools::Content { note: "softer at the edge", ..content("reed", &second) };
    tools::keep(&mut db, me, id, 1, note).expect("kept again");
    save(&mut db, me, id, 0, 2, &document(4.0), &[]).expect("a draft");
    let whole = tools::get(&mut db, me, id).expect("there");
    assert_eq!(whole.kept.note, "softer at the edge");
    assert!(matches!(tools::take_away(&mut db, other, id), Err(Error::Missing(_))), "it is not theirs");
    tools::take_away(&mut db, me, id).expect("taken away");
    assert!(all_tools(&mut db, me).expect("a list").is_empty());
    assert!(matches!(tools::get(&mut db, me, id), Err(Error::Missing(_))));
    let late = tools::keep(&mut db, me, id, 2, content("reed", &first));
    assert!(matches!(late, Err(Error::Missing(_))), "{late:?}");
    assert!(tools::list_away(&mut db, other).expect("a list").is_empty());
    assert_eq!(tools::list_away(&mut db, me).expect("a list")[0].id, id);
    let heir = create(&mut db, me, content("reed", &first)).expect("the name is free").id;
    assert!(matches!(tools::bring_back(&mut db, other, id), Err(Error::Missing(_))));
    let refused = db.transaction(|db| tools::bring_back(db, me, id));
    assert!(matches!(refused, Err(Error::Taken(_))), "{refused:?}");
    tools::take_away(&mut db, me, heir).expect("taken away");
    assert_eq!(tools::bring_back(&mut db, me, id).expect("back"), whole);
    let head = &tools::heads(&mut db, me, None, 9).expect("heads")[0];
    assert_eq!(
        (head.id, head.number, &head.content_hash, head.draft),
        (id, 2, &whole.kept.content_hash, whole.draft.as_ref().map(|d| d.version))
    );
    assert!(tools::some(&mut db, other, &[id]).expect("some").is_empty(), "it is not theirs");
    assert!(tools::heads(&mut db, other, None, 9).expect("heads").is_empty());
    for name in ["a", "b", "z"] {
        create(&mut db, me, content(name, &first)).expect("kept");
    }
    let names: Vec<String> = all_tools(&mut db, me).expect("all").into_iter().map(|t| t.name).collect();
    assert_eq!(names, ["a", "b", "reed", "z"]);
    for name in ["a", "b", "z"] {
        let id =
            tools::heads(&mut db, me, None, 9).expect("heads").iter().find(|h| h.name == name).map(|h| h.id);
        tools::take_away(&mut db, me, id.expect("there")).expect("taken away");
    }
    assert_eq!(all_tools(&mut db, me).expect("a list"), [whole]);
}

#[test]
fn what_belongs_to_another_painter_is_not_there() {
    let (mut db, me) = studio();
    let other = painters::ensure(&mut db, &format!("other {}", Uuid::new_v4())).expect("a painter").id;
    let d = document(2.0);
    let tool = create(&mut db, me, content("reed", &d)).expect("kept").id;
    let gesture = gestures::add(&mut db, me, gesture("pull")).expect("added").id;
    let missing = |e: Error| assert!(matches!(e, Error::Missing(_)), "{e:?}");
    missing(tools::get(&mut db, other, tool).expect_err("get"));
    missing(tools::versions(&mut db, other, tool).expect_err("versions"));
    missing(tools::keep(&mut db, other, tool, 1, content("reed", &d)).expect_err("keep"));
    missing(save(&mut db, other, tool, 0, 1, &d, &[]).expect_err("draft"));
    missing(tools::drop_draft(&mut db, other, tool, 0).expect_err("drop"));
    missing(gestures::get(&mut db, other, gesture).expect_err("gesture"));
    missing(gestures::remove(&mut db, other, gesture).expect_err("remove"));
    missing(gestures::way(&mut db, other, gesture).expect_err("way"));
    missing(gestures::order(&mut db, other, &[gesture]).expect_err("order"));
    let to = gestures::Change { name: "theirs", note: "", tags: &[], on_proof: true, content: None };
    missing(gestures::change(&mut db, other, gesture, 1, to).expect_err("change"));
    missing(tools::take_away(&mut db, other, tool).expect_err("away"));
    let hash = "e".repeat(64);
    let new = images::New { hash: &hash, name: "rag", tags: &[], size: [8, 6], png: b"png" };
    let image = images::add(&mut db, me, new).expect("kept").id;
    missing(images::png(&mut db, other, &hash).expect_err("png"));
    missing(images::rename(&mut db, other, image, 1, "theirs", &[]).expect_err("rename"));
    missing(images::remove(&mut db, other, image).expect_err("image"));
    missing(replace::replace(&mut db, other, [&"f".repeat(64), &hash], None, |_| None).expect_err("replace"));
    let recipe = json!({"surface": "image", "image": &hash});
    let scan = grounds::Content { name: "scan", note: "", recipe: &recipe, images: &[&hash] };
    let ground = grounds::add(&mut db, me, scan).expect("kept").id;
    missing(grounds::change(&mut db, other, ground, 1, scan).expect_err("ground"));
    missing(grounds::remove(&mut db, other, ground).expect_err("ground"));
    assert!(images::used_by(&mut db, other, &hash).expect("users").is_empty());
    let pen = styluses::add(&mut db, me, "pen", "device", &json!({})).expect("kept").id;
    missing(styluses::save(&mut db, other, pen, 1, "theirs", &json!({})).expect_err("stylus"));
    missing(styluses::make_active(&mut db, other, pen).expect_err("stylus"));
    missing(styluses::remove(&mut db, other, pen).expect_err("stylus"));
    let curve = curves::add(&mut db, me, "toe", &json!([])).expect("kept").id;
    missing(curves::remove(&mut db, other, curve).expect_err("curve"));
    for theirs in [
        images::list(&mut db, other).expect("images").len(),
        grounds::list(&mut db, other).expect("grounds").len(),
        styluses::list(&mut db, other).expect("styluses").len(),
        curves::list(&mut db, other).expect("curves").len(),
        tools::list_away(&mut db, other).expect("away").len(),
    ] {
        assert_eq!(theirs, 0);
    }
    assert!(all_tools(&mut db, other).expect("list").is_empty());
    assert!(gestures::list(&mut db, other).expect("list").is_empty());
    // The same name is free for another painter.
    create(&mut db, other, content("reed", &d)).expect("kept");
}

#[test]
fn names_are_taken_once() {
    let (mut db, me) = studio();
    let d = document(2.0);
    create(&mut db, me, content("reed", &d)).expect("kept");
    let second = create(&mut db, me, content("quill", &d)).expect("kept").id;
    let taken = tools::keep(&mut db, me, second, 1, content("reed", &d)).expect_err("renamed onto another");
    assert!(matches!(taken, Error::Taken(_)), "{taken:?}");
    assert_eq!(tools::get(&mut db, me, second).expect("there").kept.number, 1, "nothing of it was kept");
    gestures::add(&mut db, me, gesture("pull")).expect("added");
    assert!(matches!(gestures::add(&mut db, me, gesture("pull")), Err(Error::Taken(_))));
    let places: Vec<i32> =
        ["a", "b"].map(|n| gestures::add(&mut db, me, gesture(n)).expect("added").place).into();
    assert_eq!(places, [1, 2], "new gestures join at the end");
}

#[test]
fn sessions_end() {
    let (mut db, me) = studio();
    let hour = chrono::Duration::hours(1);
    painters::sign_in(&mut db, me, b"good", chrono::Utc::now() + hour).expect("signed in");
    painters::sign_in(&mut db, me, b"old", chrono::Utc::now() - hour).expect("signed in");
    assert_eq!(painters::signed_in(&mut db, b"good").expect("valid").id, me);
    for token in [&b"old"[..], b"made up", b""] {
        assert!(matches!(painters::signed_in(&mut db, token), Err(Error::Missing(_))));
    }
}

#[test]
fn pigments_are_made_once() {
    let (mut db, me) = studio();
    for _ in 0..2 {
        let pigment = materials::Pigment {
            code: "PBk9".into(),
            name: "bone black".into(),
            absorption: vec![1.0; 8],
            scattering: vec![0.1; 8],
            source: "made for this test".into(),
        };
        materials::ensure_pigment(&mut db, me, &pigment).expect("a pigment");
    }
    assert_eq!(materials::pigments(&mut db, me).expect("pigments")[0].absorption, [1.0; 8]);
}

#[test]
fn grounds_and_their_images_are_guarded() {
    let (mut db, me) = studio();
    let hash = "a".repeat(64);
    let recipe = serde_json::json!({"surface": "image", "image": hash});
    let needs = [hash.as_str()];
    let content = |name: &'static str| grounds::Content { name, note: "", recipe: &recipe, images: &needs };
    let new = |hash, name| images::New { hash, name, tags: &[], size: [8, 6], png: b"png" };
    // An image of another painter's is none of mine.
    let other = painters::ensure(&mut db, &format!("other {}", Uuid::new_v4())).expect("a painter").id;
    images::add(&mut db, other, new(&hash, "theirs")).expect("kept");
    let refused = db.transaction(|db| grounds::add(db, me, content("scan")));
    assert!(matches!(refused, Err(Error::NoImage(ref h)) if *h == hash), "{refused:?}");
    let image = images::add(&mut db, me, new(&hash, "rag")).expect("kept");
    let map = grounds::add(&mut db, me, content("scan")).expect("kept");
    assert!(matches!(grounds::add(&mut db, me, content("scan")), Err(Error::Taken(_))));
    let changed = grounds::change(&mut db, me, map.id, 1, content("scan of rag")).expect("changed");
    assert_eq!((changed.version, changed.name.as_str()), (2, "scan of rag"));
    let late = grounds::change(&mut db, me, map.id, 1, content("late"));
    assert!(matches!(late, Err(Error::Conflict { present: 2, .. })), "{late:?}");

    // The same pixels are the same image, whatever they are called.
    assert_eq!(images::add(&mut db, me, new(&hash, "again")).expect("there").id, image.id);
    let other = "b".repeat(64);
    assert!(matches!(images::add(&mut db, me, new(&other, "rag")), Err(Error::Taken(_))));
    let Err(Error::InUse { by, .. }) = images::remove(&mut db, me, image.id) else {
        panic!("a ground needs it")
    };
    assert_eq!(by, ["scan of rag"]);
    grounds::remove(&mut db, me, map.id).expect("taken away");
    images::remove(&mut db, me, image.id).expect("nothing needs it now");
    assert!(matches!(images::png(&mut db, me, &hash), Err(Error::Missing(_))));
}

#[test]
fn an_image_is_replaced_wherever_it_is_needed_and_back() {
    let (mut db, me) = studio();
    let [old, new] = ["a", "b"].map(|c| c.repeat(64));
    for (hash, name) in [(&old, "worn"), (&new, "fresh")] {
        images::add(&mut db, me, images::New { hash, name, tags: &[], size: [8, 6], png: b"png" })
            .expect("kept");
    }
    let with = |hash: &str| json!({"parameters": {"tip.image": hash}, "ground": {"over": {"recipe": {"image": "x"}}}});
    let document_of_old = with(&old);
    let stamp = tools::Content { images: &[&old], ..content("stamp", &document_of_old) };
    let stamped = create(&mut db, me, stamp).expect("kept").id;
    let plain = create(&mut db, me, content("reed", &document(2.0))).expect("kept").id;
    let drafted = json!({"parameters": {"tip.image": &old, "tip.width_mm": 3.0}});
    for id in [stamped, plain] {
        save(&mut db, me, id, 0, 1, &drafted, &[&old]).expect("saved");
    }
    let recipe = json!({"surface": "laid", "over": {"recipe": {"surface": "image", "image": &old}}});
    let ground = grounds::Content { name: "scan", note: "", recipe: &recipe, images: &[&old] };
    let map = grounds::add(&mut db, me, ground).expect("kept").id;

    let hash_of = |_: &Value| Some("4567".to_owned());
    let missing = replace::replace(&mut db, me, [&old, &"c".repeat(64)], None, hash_of);
    assert!(matches!(missing, Err(Error::Missing("image"))), "{missing:?}");
    let all = replace::replace(&mut db, me, [&old, &new], None, hash_of).expect("replaced");
    let names: Vec<&str> = all.iter().map(|r| r.name.as_str()).collect();
    assert_eq!(names, ["reed", "stamp", "scan"]);
    let tool = tools::get(&mut db, me, stamped).expect("there");
    assert_eq!(
        (tool.kept.number, tool.kept.document, tool.kept.content_hash.as_str()),
        (2, with(&new), "4567")
    );
    let draft = tool.draft.expect("the draft goes on");
    assert_eq!((draft.based_on, draft.version), (2, 2));
    assert_eq!(draft.document["parameters"], json!({"tip.image": &new, "tip.width_mm": 3.0}));
    let reed = tools::get(&mut db, me, plain).expect("there");
    assert_eq!((reed.kept.number, reed.draft.expect("a draft").based_on), (1, 1), "only its draft needed it");
    let scan = grounds::list(&mut db, me).expect("grounds").into_iter().find(|g| g.id == map).expect("there");
    assert_eq!((&scan.recipe["over"]["recipe"]["image"], scan.version), (&json!(new), 2));
    // The version that was kept with it still needs the old one.
    assert_eq!(images::used_by(&mut db, me, &old).expect("users"), ["stamp"]);

    let back = replace::replace(&mut db, me, [&new, &old], Some(&[stamped]), hash_of).expect("put back");
    assert_eq!(back.iter().map(|r| r.id).collect::<Vec<_>>(), [stamped]);
    assert_eq!(tools::get(&mut db, me, stamped).expect("there").kept.document, with(&old));
}

#[test]
fn an_image_goes_or_what_needs_it_is_kept_and_never_both() {
    let (pool, me) = shared(2);
    let mut db = pool.get().expect("a connection");
    let (mut went, mut stayed) = (0, 0);
    for k in 0..60 {
        let hash = format!("{k:064x}");
        let new = images::New { hash: &hash, name: &format!("n{k}"), tags: &[], size: [1, 1], png: b"p" };
        let image = images::add(&mut db, me, new).expect("taken in").id;
        let document = json!({"parameters": {"tip.image": &hash}});
        let (kept, removed) = std::thread::scope(|scope| {
            let remove = scope.spawn(|| {
                // Now before the other, now after it.
                std::thread::sleep(std::time::Duration::from_micros(100 * (k % 20)));
                images::remove(&mut pool.get().expect("a connection"), me, image)
            });
            let needs = tools::Content { images: &[&hash], ..content("", &document) };
            let name = format!("t{k}");
            let kept = create(&mut db, me, tools::Content { name: &name, ..needs });
            (kept, remove.join().expect("it ends"))
        });
        match (kept, removed) {
            (Ok(_), Err(Error::InUse { by, .. })) => {
                assert_eq!(by, [format!("t{k}")]);
                stayed += 1;
            }
            (Err(Error::NoImage(_)), Ok(())) => went += 1,
            other => panic!("both or neither: {other:?}"),
        }
    }
    assert!(went > 0 && stayed > 0, "it was tried both ways: {went} went, {stayed} stayed");
}

#[test]
fn what_is_new_and_sent_twice_is_there_once() {
    let (mut db, me) = studio();
    let other = painters::ensure(&mut db, &format!("other {}", Uuid::new_v4())).expect("a painter").id;
    let (id, d) = (Uuid::new_v4(), document(2.0));
    let first = tools::create(&mut db, me, id, content("reed", &d)).expect("kept");
    assert_eq!(tools::create(&mut db, me, id, content("reed", &d)).expect("asked once more"), first);
    let taken = |e: Error| assert!(matches!(e, Error::Taken("the id")), "{e:?}");
    taken(tools::create(&mut db, me, id, content("quill", &document(3.0))).expect_err("another tool"));
    taken(db.transaction(|db| tools::create(db, other, id, content("reed", &d))).expect_err("not theirs"));
    let new = gesture("pull");
    let added = gestures::add(&mut db, me, new).expect("added");
    assert_eq!(gestures::add(&mut db, me, new).expect("asked once more"), added);
    let way = gestures::New { content: ("<ink></ink>", "other"), ..new };
    taken(gestures::add(&mut db, me, way).expect_err("another way"));
    taken(db.transaction(|db| gestures::add(db, other, new)).expect_err("not theirs"));
    assert_eq!(
        (all_tools(&mut db, me).expect("all").len(), gestures::list(&mut db, me).expect("all").len()),
        (1, 1)
    );
}

#[test]
fn every_table_is_backed_up_but_sign_ins_tries_and_jobs() {
    let (mut db, _) = studio();
    let all: Vec<TableName> = diesel::sql_query(
        "SELECT table_name::text AS name FROM information_schema.tables WHERE table_schema = 'public' ORDER BY name",
    )
    .load(&mut db)
    .expect("names");
    let mut backed: Vec<&str> = backup::tables()
        .chain(["__diesel_schema_migrations", "fang_tasks", "invitations", "sessions", "wrong_tries"])
        .collect();
    backed.sort_unstable();
    assert_eq!(all.iter().map(|t| t.name.as_str()).collect::<Vec<_>>(), backed);
}

#[derive(diesel::QueryableByName)]
struct TableName {
    #[diesel(sql_type = diesel::sql_types::Text)]
    name: String,
}
