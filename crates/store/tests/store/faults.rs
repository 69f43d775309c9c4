//! Databases that are away, newer or cut off, and writers that cross each other.

use chrono::{SubsecRound as _, Utc};
use diesel::RunQueryDsl as _;
use diesel::connection::SimpleConnection;
use diesel::pg::PgConnection;
use saltmarsh_store::wrong_tries::Who;
use saltmarsh_store::{Error, Pool, gestures, images, tools, wrong_tries};
use uuid::Uuid;

use crate::{all_tools, content, create, document, gesture, shared, studio, url};

#[test]
fn a_database_of_a_newer_program_is_refused() {
    let pool = Pool::connect(&url(), 1).expect("a connection");
    pool.migrate().expect("migrations run");
    let mut db = pool.get().expect("a connection");
    db.batch_execute("CREATE SCHEMA IF NOT EXISTS newer; SET search_path = newer, public").expect("a schema");
    db.batch_execute(
        "CREATE TABLE IF NOT EXISTS newer.__diesel_schema_migrations AS SELECT * FROM public.__diesel_schema_migrations;
         INSERT INTO newer.__diesel_schema_migrations (version, run_on) VALUES ('99990000000000', now())",
    )
    .expect("a migration of tomorrow's");
    drop(db);
    let refused = pool.migrate();
    pool.get().expect("a connection").batch_execute("DROP SCHEMA newer CASCADE").expect("gone again");
    assert!(
        matches!(refused, Err(Error::Migration(ref said)) if said.contains("newer program")),
        "{refused:?}"
    );
}

#[test]
fn a_database_that_is_not_there_is_said_to_be_away() {
    let Err(e) = Pool::connect("postgres://nobody@127.0.0.1:1/none", 1) else {
        panic!("nobody listens there")
    };
    assert!(matches!(e, Error::Unreachable(_)), "{e:?}");
}

#[test]
fn a_connection_that_breaks_is_told_apart_from_a_fault_and_mended() {
    let (pool, me) = shared(3);
    let mut cut = [pool.get().expect("a connection"), pool.get().expect("a connection")];
    let mut other = pool.get().expect("another");
    for one in &mut cut {
        let pid: i32 = diesel::select(diesel::dsl::sql::<diesel::sql_types::Integer>("pg_backend_pid()"))
            .get_result(&mut ***one)
            .expect("its number");
        let end = diesel::sql_query("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE pid = $1");
        end.bind::<diesel::sql_types::Integer, _>(pid).execute(&mut **other).expect("cut off");
    }
    let [mut cut, unasked] = cut;
    drop(unasked);
    for _ in 0..2 {
        let broken = all_tools(&mut cut, me).expect_err("it is no more");
        assert!(matches!(broken, Error::Broken(_)), "{broken:?}");
        cut.doubt(&broken);
    }
    drop(cut);
    // Nor is anybody given the other one that broke, though it was well an instant ago.
    let mut anew = [pool.get().expect("a new one"), pool.get().expect("a new one")];
    assert!(anew.iter_mut().all(|db| all_tools(db, me).is_ok()));
}

#[test]
fn orders_and_pictures_that_cross_each_other_are_all_done() {
    let (pool, me) = shared(4);
    let at_once = |each: &(dyn Fn(&mut PgConnection, usize) + Sync)| {
        std::thread::scope(|scope| {
            for k in 0..4 {
                let pool = &pool;
                scope.spawn(move || (0..40).for_each(|_| each(&mut pool.get().expect("a connection"), k)));
            }
        });
    };
    at_once(&|db, k| {
        let there = gestures::list(db, me).expect("all").len();
        let name = format!("{k}, {there}, {}", Uuid::new_v4());
        if there < 12 {
            gestures::add(db, me, gesture(&name)).expect("added at a place of its own");
        }
    });
    let mut db = pool.get().expect("a connection");
    let all = gestures::list(&mut db, me).expect("all");
    let ids: Vec<Uuid> = all.iter().take(12).map(|g| g.id).collect();
    for late in &all[12..] {
        gestures::remove(&mut db, me, late.id).expect("one that crossed the twelfth");
    }
    drop(db);
    // Half of them from the last to the first: row by row each would wait for the other.
    at_once(&|db, k| {
        let mut mine = ids.clone();
        if k % 2 == 1 {
            mine.reverse();
        }
        gestures::order(db, me, &mine).expect("in order");
    });
    let mut db = pool.get().expect("a connection");
    let mut places: Vec<i32> = gestures::list(&mut db, me).expect("all").iter().map(|g| g.place).collect();
    places.sort_unstable();
    assert_eq!(places, (0..12).collect::<Vec<_>>());
    let some = [ids[7], ids[2]];
    gestures::order(&mut db, me, &some).expect("in order");
    let now: Vec<Uuid> = gestures::list(&mut db, me).expect("all").iter().map(|g| g.id).collect();
    assert!(now[..2] == some && now.len() == 12, "the rest comes after");
    for wrong in [vec![ids[0], ids[0]], vec![ids[0], Uuid::new_v4()]] {
        assert!(matches!(gestures::order(&mut db, me, &wrong), Err(Error::Missing(_))), "{wrong:?}");
    }
    drop(db);
    // The same picture taken in under other names at once is there once, and no name is said to be in use.
    at_once(&|db, k| {
        let hash = format!("{:064x}", 7);
        let new = images::New { hash: &hash, name: &format!("n{k}"), tags: &[], size: [1, 1], png: b"p" };
        images::add(db, me, new).expect("taken in");
    });
    let mut db = pool.get().expect("a connection");
    assert_eq!(images::list(&mut db, me).expect("all").len(), 1);
}

#[test]
fn nobody_waits_for_ever_for_what_another_holds() {
    let (pool, me) = shared(2);
    let mut first = pool.get().expect("a connection");
    let id = create(&mut first, me, content("held", &document(2.0))).expect("kept").id;
    first.batch_execute(&format!("BEGIN; SELECT 1 FROM tools WHERE id = '{id}' FOR UPDATE")).expect("held");
    let kept = |db: &mut PgConnection| tools::keep(db, me, id, 1, content("held", &document(3.0)));
    let refused = kept(&mut pool.get().expect("another connection"));
    assert!(matches!(refused, Err(Error::Crossed(_))), "{refused:?}");
    first.batch_execute("COMMIT").expect("let go");
    kept(&mut pool.get().expect("another connection")).expect("kept once it is free");
    assert!(first.batch_execute("SELECT pg_sleep(30)").is_err(), "no statement takes that long");
}

/// Whoever tries in vain again and again waits, the longer the more often; nobody else does.
#[test]
fn the_more_wrong_tries_the_longer_the_wait() {
    let (mut db, me) = studio();
    let [reed, other] = ["reed", "other"].map(|who| vec![Who::Name(format!("{who} {me}"))]);
    // As exact as the database keeps it.
    let mut now = Utc::now().trunc_subsecs(6);
    for free in 0..5 {
        assert_eq!(
            wrong_tries::tried(&mut db, &reed, now).expect("counted"),
            None,
            "{free}: one may mistype"
        );
    }
    let mut waits = Vec::new();
    for _ in 0..12 {
        assert_eq!(wrong_tries::tried(&mut db, &reed, now).expect("counted"), None, "it was waited for");
        let wait = wrong_tries::tried(&mut db, &reed, now).expect("asked").expect("a wait");
        // Asked meanwhile, it counts for nothing.
        assert_eq!(wrong_tries::tried(&mut db, &reed, now).expect("asked"), Some(wait));
        waits.push(wait.num_seconds());
        now += wait;
    }
    assert_eq!(waits, [2, 4, 8, 16, 32, 64, 128, 256, 512, 900, 900, 900]);
    assert_eq!(wrong_tries::tried(&mut db, &other, now).expect("counted"), None, "somebody else");
    let both = [reed.clone(), other].concat();
    assert_eq!(wrong_tries::tried(&mut db, &both, now).expect("counted"), None);
    assert!(wrong_tries::tried(&mut db, &both, now).expect("asked").is_some(), "one of them is enough");
    wrong_tries::right(&mut db, &reed).expect("right");
    assert_eq!(wrong_tries::tried(&mut db, &reed, now).expect("counted"), None);
}

/// A whole studio may come from one address: it may mistype more often and waits less; but signing in between ends no row of wrong ones.
#[test]
fn an_address_bears_more_wrong_tries_and_is_not_cleared_by_a_right_one() {
    let (mut db, me) = studio();
    let house = [Who::Address(me.to_string())];
    let mut now = Utc::now().trunc_subsecs(6);
    for wrong in 0..20 {
        assert_eq!(
            wrong_tries::tried(&mut db, &house, now).expect("counted"),
            None,
            "{wrong}: one may mistype"
        );
        // Somebody of the house signs in rightly.
        assert_eq!(wrong_tries::tried(&mut db, &house, now).expect("counted"), None);
        wrong_tries::right(&mut db, &house).expect("right");
    }
    let mut waits = Vec::new();
    for _ in 0..7 {
        assert_eq!(wrong_tries::tried(&mut db, &house, now).expect("counted"), None, "it was waited for");
        let wait = wrong_tries::tried(&mut db, &house, now).expect("asked").expect("a wait");
        waits.push(wait.num_seconds());
        now += wait;
    }
    assert_eq!(waits, [2, 4, 8, 16, 32, 60, 60]);
}
