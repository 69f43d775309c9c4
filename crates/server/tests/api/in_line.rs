//! Turns at the database.

use std::sync::{Arc, Mutex};

use actix_web::rt::spawn;
use actix_web::rt::time::sleep;
use actix_web::web::Data;
use diesel::RunQueryDsl as _;
use saltmarsh_store::Connection;

use crate::studio::*;

/// Who asked first is answered first, as far as there are connections (two here), and who is gone is not waited for.
#[actix_web::test]
async fn whoever_asks_takes_a_turn_and_who_goes_gives_it_up() {
    let app = Data::new(app_of(None, api::PATIENCE, api::Turns::default(), false));
    let answered = Arc::new(Mutex::new(Vec::new()));
    let mut asked: Vec<_> = (0..12_usize)
        .map(|k| {
            let (app, answered) = (app.clone(), answered.clone());
            spawn(async move {
                let rest = move |db: &mut Connection| {
                    answered.lock().expect("sound").push(k);
                    diesel::sql_query("SELECT pg_sleep(0.2)").execute(&mut ***db)?;
                    Ok(())
                };
                api::query(&app, rest).await
            })
        })
        .collect();
    // All of them have asked by then, and the eighth was not answered yet.
    sleep(std::time::Duration::from_millis(50)).await;
    let eighth = asked.remove(7);
    eighth.abort();
    // Whoever watches the server does not wait behind them, once the database has answered anybody.
    let service = init_service(
        Actix::new().app_data(app.clone()).wrap(from_fn(api::watch::watched)).configure(api::configure),
    )
    .await;
    while answered.lock().expect("sound").len() < 4 {
        sleep(std::time::Duration::from_millis(5)).await;
    }
    let health = TestRequest::get().uri("/api/v1/health").to_request();
    assert_eq!(call_service(&service, health).await.status().as_u16(), 204);
    assert!(answered.lock().expect("sound").len() < 9, "it waited to the end");
    for one in asked {
        one.await.expect("it ends").expect("answered");
    }
    let answered = answered.lock().expect("sound").clone();
    let wanted: Vec<usize> = (0..12).filter(|k| *k != 7).collect();
    assert_eq!(answered.len(), wanted.len(), "{answered:?}");
    // Two at once may change places.
    assert!(answered.iter().zip(&wanted).all(|(a, b)| a.abs_diff(*b) <= 2), "{answered:?}");
}

/// Where no connection is to be had a draft is refused for that reason once, not asked for again by itself.
#[actix_web::test]
async fn drafts_that_are_saved_together_are_told_together_that_the_database_is_away() {
    let app = Data::new(app_of(None, api::PATIENCE, api::Turns::default(), false));
    let _held = [app.pool.get(), app.pool.get()].map(|db| db.expect("a connection"));
    let document: Arc<serde_json::value::RawValue> =
        serde_json::value::to_raw_value(&document("reed")).expect("plain data").into();
    let draft = |_| {
        let (id, owner) = (uuid::Uuid::new_v4(), uuid::Uuid::new_v4());
        api::Draft { id, owner, document: document.clone(), based_on: 1, seen: 0 }
    };
    let saves = (0..3).map(draft).map(|draft| app.together.save(&app, draft));
    for refused in futures_util::future::join_all(saves).await {
        assert!(refused.expect_err("away").to_string().starts_with("database-away"));
    }
}
