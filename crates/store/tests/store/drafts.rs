//! Drafts: saved one by one and many at once, by hands that cross each other.

use std::thread;
use std::time::Duration;

use diesel::RunQueryDsl as _;
use diesel::connection::{Connection as _, SimpleConnection};
use diesel::pg::PgConnection;
use diesel::sql_types::BigInt;
use saltmarsh_store::changes::Listening;
use saltmarsh_store::tools::{Document, SaveDraft};
use saltmarsh_store::{Error, images, painters, replace, tools};
use serde_json::json;
use uuid::Uuid;

use crate::{content, create, document, save, shared, studio, url};

/// A save that is refused holds nothing: the next is another connection's.
#[test]
fn a_refused_save_lets_others_save() {
    let (pool, me) = shared(2);
    let (mut one, mut two) = (pool.get().expect("a connection"), pool.get().expect("another"));
    let tool = create(&mut one, me, content("reed", &document(3.0))).expect("kept").id;
    let refused = save(&mut one, me, tool, 7, 1, &document(4.0), &[]).expect_err("not seen");
    assert!(matches!(refused, Error::Conflict { present: 0, .. }), "{refused}");
    assert_eq!(save(&mut two, me, tool, 0, 1, &document(5.0), &[]).expect("saved").version, 1);
    assert_eq!(save(&mut one, me, tool, 1, 1, &document(6.0), &[]).expect("saved").version, 2);
    let seen = tools::get(&mut two, me, tool).expect("there").draft.expect("a draft");
    assert_eq!((seen.version, seen.document), (2, document(6.0)));
}

/// Of drafts that are saved at once each is looked at by itself: what is not to be saved is left out, and waited for is nobody.
#[test]
fn drafts_that_are_saved_at_once_stand_each_for_itself() {
    let (pool, me) = shared(2);
    let mut db = pool.get().expect("a connection");
    let other = painters::ensure(&mut db, &format!("painter {}", Uuid::new_v4())).expect("another").id;
    let mut tool =
        |owner: Uuid, name: &str| create(&mut db, owner, content(name, &document(1.0))).expect("kept").id;
    let [first, next, same, late, away, held] =
        ["first", "next", "same", "late", "away", "held"].map(|name| tool(me, name));
    let strange = tool(other, "strange");
    for id in [next, same, late] {
        save(&mut db, me, id, 0, 1, &document(2.0), &[]).expect("a draft");
    }
    let hash = "7".repeat(64);
    let picture = images::New { hash: &hash, name: "thumb", tags: &[], size: [1, 1], png: &[1] };
    images::add(&mut db, me, picture).expect("a picture");
    let [stamped, printed] = [document(3.0), document(4.0)];
    save(&mut db, me, next, 1, 1, &stamped, &[&hash]).expect("a draft with a picture");
    tools::take_away(&mut db, me, away).expect("taken away");
    let mut holder = pool.get().expect("another connection");
    let hold = format!("BEGIN; SELECT 1 FROM tools WHERE id = '{held}' FOR UPDATE");
    holder.batch_execute(&hold).expect("held");
    let [printed, stamped, two] = [printed, stamped, document(2.0)].map(|d| d.to_string());
    let wanted = |id: Uuid, seen: i32, based_on: i32, document| SaveDraft {
        id,
        owner: me,
        document: Document(document),
        based_on,
        seen,
    };
    let saves = [
        wanted(first, 0, 1, &printed),
        wanted(next, 2, 1, &printed),
        wanted(next, 3, 1, &stamped),
        wanted(same, 1, 1, &two),
        wanted(late, 0, 1, &printed),
        wanted(away, 0, 1, &printed),
        wanted(held, 0, 1, &printed),
        wanted(strange, 0, 1, &printed),
        wanted(first, 0, 1, &stamped),
    ];
    let versions =
        |saved: Vec<Option<tools::Saved>>| saved.iter().map(|s| s.map(|s| s.version)).collect::<Vec<_>>();
    let saved = versions(tools::save_drafts(&mut db, &saves).expect("saved"));
    assert_eq!(saved, [Some(1), Some(3), None, None, None, None, None, None, None]);
    let draft = |db: &mut PgConnection, id| {
        tools::get(db, me, id).expect("there").draft.map(|d| (d.version, d.document))
    };
    assert_eq!(
        [draft(&mut db, first), draft(&mut db, next)],
        [1, 3].map(|version| Some((version, document(4.0))))
    );
    assert_eq!(images::used_by(&mut db, me, &hash).expect("there"), Vec::<String>::new(), "it was let go of");
    assert_eq!(
        (draft(&mut db, same), draft(&mut db, late)),
        (Some((1, document(2.0))), Some((1, document(2.0))))
    );
    holder.batch_execute("COMMIT").expect("let go");
    // Asked once more, after what they follow is there.
    let saved = versions(tools::save_drafts(&mut db, &saves[2..]).expect("saved"));
    assert_eq!(saved, [Some(4), None, None, None, Some(1), None, None]);
    assert_eq!(save(&mut db, me, next, 3, 1, &document(3.0), &[]).expect("there already").version, 4);
}

/// However many save and drop a draft at once, each version gives way to one other at most: that of whoever had seen it.
#[test]
fn saves_that_cross_each_other_overwrite_nothing() {
    let (pool, me) = shared(4);
    let tool = create(&mut pool.get().expect("a connection"), me, content("reed", &document(0.0)));
    let tool = tool.expect("kept").id;
    let work = |number: u32| {
        let mut db = pool.get().expect("a connection");
        let (mut seen_by_saves, mut seen_by_drops, mut crossed) = (Vec::new(), Vec::new(), 0);
        for k in 0..60_u32 {
            let there = tools::get(&mut db, me, tool).expect("there").draft.map_or(0, |d| d.version);
            let done = if there > 0 && (k + 3 * number) % 9 == 4 {
                tools::drop_draft(&mut db, me, tool, there).map(|()| seen_by_drops.push(there))
            } else {
                // No two are the same: such would be one save that is asked for twice.
                let mine = document(f64::from(1000 * number + k)).to_string();
                let draft =
                    SaveDraft { id: tool, owner: me, document: Document(&mine), based_on: 1, seen: there };
                let saved = match k % 2 {
                    0 => tools::save_draft(&mut db, draft, &[]),
                    _ => tools::save_drafts(&mut db, &[draft]).and_then(|saved| {
                        saved[0].ok_or(Error::Conflict { what: "the draft", present: there })
                    }),
                };
                saved.map(|_| seen_by_saves.push(there))
            };
            match done {
                Err(Error::Conflict { .. }) => crossed += 1,
                done => done.expect("nothing but conflicts"),
            }
        }
        (seen_by_saves, seen_by_drops, crossed)
    };
    let (mut seen, mut drops, mut crossed) = (Vec::new(), 0, 0);
    std::thread::scope(|scope| {
        let threads: Vec<_> = (0..4).map(|number| scope.spawn(move || work(number))).collect();
        for (saves, dropped, in_vain) in threads.into_iter().map(|t| t.join().expect("it ends")) {
            drops += dropped.len();
            crossed += in_vain;
            seen.extend([saves, dropped].concat());
        }
    });
    let firsts = seen.iter().filter(|version| **version == 0).count();
    assert!(crossed > 0 && drops > 0, "they crossed each other: {crossed}, {drops}");
    assert!(firsts <= drops + 1, "{firsts} first drafts after {drops} drops");
    seen.retain(|version| *version > 0);
    let all = seen.len();
    seen.sort_unstable();
    seen.dedup();
    assert_eq!(seen.len(), all, "a version gave way twice");
}

/// One image takes another's place in what a hand has just saved, not in what was there before it; who listens is told.
#[test]
fn what_is_saved_while_an_image_is_replaced_is_not_lost() {
    let (pool, me) = shared(2);
    let mut db = pool.get().expect("a connection");
    let [old, new] = ["a", "b"].map(|c| c.repeat(64));
    for hash in [&old, &new] {
        let picture = images::New { hash, name: &hash[..4], tags: &[], size: [1, 1], png: &[1] };
        images::add(&mut db, me, picture).expect("a picture");
    }
    let tool = create(&mut db, me, content("stamp", &document(1.0))).expect("kept").id;
    let with = |hash: &str, width: f64| json!({"parameters": {"tip.image": hash, "tip.width_mm": width}});
    save(&mut db, me, tool, 0, 1, &with(&old, 2.0), &[&old]).expect("a draft");
    let mut listening = Listening::to(&url()).expect("it listens");
    let saved = format!(
        "BEGIN; UPDATE drafts SET version = 2, document = '{}' WHERE tool_id = '{tool}'",
        with(&old, 3.0)
    );
    db.batch_execute(&saved).expect("on its way");
    let replaced = thread::spawn({
        let (pool, pair) = (pool.clone(), [old.clone(), new.clone()]);
        move || {
            let [old, new] = pair;
            let mut db = pool.get()?;
            replace::replace(&mut db, me, [&old, &new], None, |_| Some("4567".to_owned()))
        }
    });
    thread::sleep(Duration::from_millis(300));
    db.batch_execute("COMMIT").expect("saved");
    assert_eq!(replaced.join().expect("it ends").expect("replaced").len(), 1);
    let draft = tools::get(&mut db, me, tool).expect("there").draft.expect("a draft");
    assert_eq!((draft.version, draft.document), (3, with(&new, 3.0)));
    let mut told = Vec::new();
    // It comes a moment after the commit.
    for _ in 0..100 {
        let heard = listening.heard().expect("it listens").into_iter();
        told.extend(heard.filter(|c| c.owner == me && c.kind == "drafts").map(|c| (c.id, c.version)));
        if !told.is_empty() {
            break;
        }
        thread::sleep(Duration::from_millis(50));
    }
    assert_eq!(told, [(tool, 3)]);
}

/// A first draft of a tool that is being kept follows no version that is no longer the newest.
#[test]
fn a_draft_that_waits_for_a_keep_is_looked_at_anew() {
    let (pool, me) = shared(2);
    let mut db = pool.get().expect("a connection");
    let tool = create(&mut db, me, content("reed", &document(1.0))).expect("kept").id;
    let waits = db.transaction::<_, Error, _>(|db| {
        tools::keep(db, me, tool, 1, content("reed", &document(2.0)))?;
        let pool = pool.clone();
        let waits = thread::spawn(move || save(&mut pool.get()?, me, tool, 0, 1, &document(3.0), &[]));
        thread::sleep(Duration::from_millis(300));
        Ok(waits)
    });
    let refused = waits.expect("kept").join().expect("it ends").expect_err("of an older version");
    assert!(matches!(refused, Error::Conflict { what: "the kept tool", present: 2 }), "{refused:?}");
}

#[derive(diesel::QueryableByName)]
struct Found {
    #[diesel(sql_type = diesel::sql_types::Uuid)]
    id: Uuid,
}

#[derive(diesel::QueryableByName)]
struct Scans {
    #[diesel(sql_type = BigInt)]
    scans: i64,
}

/// A save looks nothing up but by its keys, also where there are so few tools that the database would go through all of them instead: it
/// plans for ten drafts at once, and most often there is one.
#[test]
fn no_save_goes_through_all_tools() {
    let (mut db, me) = studio();
    // Tables of its own: whatever other tests keep would be counted in.
    let rows = format!(
        "SET LOCAL plan_cache_mode = force_generic_plan; CREATE SCHEMA few; SET LOCAL search_path = few;
         CREATE TABLE tools (LIKE public.tools INCLUDING ALL); CREATE TABLE drafts (LIKE public.drafts INCLUDING ALL);
         CREATE TABLE image_uses (LIKE public.image_uses INCLUDING ALL);
         INSERT INTO tools (id, owner_id, name, newest) SELECT gen_random_uuid(), '{me}', 'tool ' || n, 1 FROM generate_series(1, 1500) n;
         INSERT INTO drafts (tool_id, owner_id, document, version, based_on)
            SELECT id, owner_id, to_json(repeat('.', 1000)), 1, 1 FROM tools WHERE name <> 'tool 1';
         ANALYZE tools; ANALYZE drafts"
    );
    db.batch_execute(&rows).expect("many tools");
    let one = diesel::sql_query("SELECT id FROM tools WHERE name = 'tool 1'");
    let tool = one.get_result::<Found>(&mut db).expect("there").id;
    let scans = |db: &mut PgConnection| {
        let all = "SELECT sum(seq_scan)::bigint AS scans FROM pg_stat_xact_user_tables WHERE schemaname = 'few' AND relname IN ('tools', 'drafts')";
        diesel::sql_query(all).get_result::<Scans>(db).expect("counted").scans
    };
    let before = scans(&mut db);
    for seen in 0..3 {
        let width = document(f64::from(seen) + 2.0).to_string();
        let draft = SaveDraft { id: tool, owner: me, document: Document(&width), based_on: 1, seen };
        let saved = tools::save_drafts(&mut db, &[draft]).expect("saved");
        assert_eq!(saved[0].expect("saved").version, seen + 1);
    }
    assert_eq!(scans(&mut db), before);
}
