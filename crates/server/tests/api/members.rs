//! Owners, whom they invite, and how much painters may keep.

use saltmarsh_store::painters;

use crate::studio::*;

#[actix_web::test]
async fn owners_invite_painters_and_nobody_else_does() {
    let owner = somebody().expect("a name");
    let state = app_of(Some(owner.clone()), api::PATIENCE, api::Turns::default(), false);
    let mut db = state.pool.get().expect("a connection");
    let app = served!(state);
    let me = sign_in(&app).await;
    let get = |path: &str| TestRequest::get().uri(&format!("/api/v1{path}"));
    let invite = || TestRequest::post().uri("/api/v1/invitations");
    for request in [
        get("/painters"),
        get("/invitations"),
        invite(),
        TestRequest::delete().uri(&format!("/api/v1/invitations/{}", uuid::Uuid::new_v4())),
    ] {
        let (status, refusal) = ask(&app, &me, request).await;
        assert_eq!((status, &refusal["code"]), (403, &json!("owners")), "{refusal}");
    }
    let id = painters::ensure(&mut db, &owner).expect("there").id;
    painters::set_owner(&mut db, id, true).expect("an owner");
    // What a sign-in says is looked up anew after a second, or at the next sign-in.
    let me = sign_in(&app).await;
    assert_eq!(ask(&app, &me, get("/session")).await.1["owner"], true);
    let (status, invited) = ask(&app, &me, invite()).await;
    assert_eq!(status, 201, "{invited}");
    let (_, other) = ask(&app, &me, invite()).await;
    let (_, open) = ask(&app, &me, get("/invitations")).await;
    let ids: Vec<&Value> = open.as_array().expect("a list").iter().map(|i| &i["id"]).collect();
    assert!(ids.contains(&&invited["invitation"]["id"]) && open.to_string().find("code").is_none(), "{open}");

    // Taken once, by whoever has the code, under a name of their own.
    let name = somebody().expect("a name");
    let taken = async |code: &Value, name: &str, password: &str| {
        let body = json!({"code": code, "name": name, "password": password});
        let request = TestRequest::post().uri("/api/v1/painters").set_json(body);
        let answer = call_service(&app, request.to_request()).await;
        let cookie = answer.response().cookies().next().map(|c| c.into_owned());
        let status = answer.status().as_u16();
        (status, read_body_json::<Value, _>(answer).await, cookie)
    };
    let long = "salt and reeds";
    assert_eq!(taken(&json!("0123"), &name, long).await.0, 404);
    assert_eq!(taken(&invited["code"], &name, "short").await.1["field"], "password");
    let (status, refusal, _) = taken(&invited["code"], &owner, long).await;
    assert_eq!((status, &refusal["code"]), (409, &json!("taken")), "{refusal}");
    let (status, session, cookie) = taken(&invited["code"], &name, long).await;
    assert_eq!(
        (status, &session["painter"], &session["owner"]),
        (201, &json!(name), &json!(false)),
        "{session}"
    );
    let cookie = cookie.expect("signed in");
    assert_eq!(ask(&app, &cookie, get("/tools")).await, (200, json!({"tools": [], "next": null})));
    assert_eq!(ask(&app, &cookie, get("/painters")).await.0, 403, "whoever is invited is no owner");
    assert_eq!(taken(&invited["code"], "another", long).await.0, 404, "it is used up");
    let (_, all) = ask(&app, &me, get("/painters")).await;
    let member =
        all.as_array().expect("a list").iter().find(|m| m["name"] == json!(name)).expect("the new one");
    assert_eq!((&member["owner"], &member["rows"]), (&json!(false), &json!(0)));

    // Taken back.
    let at = format!("/api/v1/invitations/{}", other["invitation"]["id"].as_str().expect("an id"));
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 204);
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 404);
    assert_eq!(taken(&other["code"], "another", long).await.0, 404);
}

#[actix_web::test]
async fn nobody_keeps_more_than_there_is_room_for_and_it_is_said_before() {
    let mut state = app_of(somebody(), api::PATIENCE, api::Turns::default(), false);
    state.room = api::studio::Room { rows: 4, bytes: 4096 };
    let app = served!(state);
    let me = sign_in(&app).await;
    let post = |path: &str, body: Value| TestRequest::post().uri(&format!("/api/v1{path}")).set_json(body);
    let kept = async || ask(&app, &me, TestRequest::get().uri("/api/v1/kept")).await.1;
    assert_eq!(kept().await, json!({"rows": 0, "bytes": 0, "most": {"rows": 4, "bytes": 4096}}));
    let gesture = json!({"name": "long", "note": "", "inkml": INK.replace("</trace>", &(",300 400,310 420".repeat(900) + "</trace>"))});
    let (status, refusal) = ask(&app, &me, post("/gestures", gesture)).await;
    assert_eq!((status, &refusal["code"]), (507, &json!("full")), "{refusal}");
    let a = uuid::Uuid::new_v4();
    let made = json!({"document": document("a"), "id": a});
    assert_eq!(ask(&app, &me, post("/tools", made.clone())).await.0, 201);
    let points = json!([[0.0, 0.0], [1.0, 1.0]]);
    let (status, told) = ask(&app, &me, post("/curves", json!({"name": "c", "points": points}))).await;
    assert_eq!(status, 201, "{told}");
    let way = json!({"name": "d", "note": "", "inkml": INK, "id": uuid::Uuid::new_v4()});
    assert_eq!(ask(&app, &me, post("/gestures", way.clone())).await.0, 201);
    let versions = format!("/tools/{a}/versions");
    let next = |seen: i32, name: &str| json!({"seen": seen, "document": document(name), "note": ""});
    assert_eq!(ask(&app, &me, post(&versions, next(1, "b"))).await.0, 201);
    let now = kept().await;
    assert!(now["rows"] == 4 && now["bytes"].as_i64() > Some(200), "{now}");
    for (path, body) in [
        ("/tools", json!({"document": document("e")})),
        ("/curves", json!({"name": "e", "points": points})),
        ("/grounds", json!({"name": "e", "note": "", "recipe": {"surface": "linen"}})),
        ("/gestures", json!({"name": "e", "note": "", "inkml": INK})),
    ] {
        let (status, refusal) = ask(&app, &me, post(path, body)).await;
        assert_eq!((status, &refusal["code"]), (507, &json!("full")), "{path}: {refusal}");
        assert!(refusal["message"].as_str().expect("words").contains("4 of 4"), "{refusal}");
    }
    assert_eq!(ask(&app, &me, post(&versions, next(2, "c"))).await.0, 507);
    // What was kept, and is asked for once more since the answer was lost, is no more than there is.
    let again = [("/tools", made), ("/gestures", way), (versions.as_str(), next(1, "b"))];
    for (path, body) in again {
        let (status, told) = ask(&app, &me, post(path, body)).await;
        assert_eq!(status, 201, "{path}: {told}");
    }
    assert_eq!(kept().await, now, "nothing was kept");
}
