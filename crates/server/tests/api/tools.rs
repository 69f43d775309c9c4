//! Tools, their versions and drafts.

use crate::studio::*;

/// Rows that an older program wrote (and one that nobody can read) come out as this program writes them, and do no harm.
#[actix_web::test]
async fn stored_documents_of_older_programs_pass_through_the_gate() {
    use saltmarsh_store::tools::{self, Content, SaveDraft};
    use saltmarsh_store::{grounds, painters};
    let name = somebody().expect("a name");
    let app = studio!(Some(name.clone()));
    let me = sign_in(&app).await;
    let url = std::env::var("DATABASE_URL").expect("set by ./run test");
    let pool = Pool::connect(&url, 1).expect("the test database answers");
    let mut db = pool.get().expect("a connection");
    let owner = painters::ensure(&mut db, &name).expect("the painter").id;
    let mut row = |name: &str, document: Value| {
        let content = Content { name, document: &document, hash: "old", images: &[], note: "" };
        tools::create(&mut db, owner, uuid::Uuid::new_v4(), content).expect("a row").id
    };
    // Version 1 named its paper among the parameters, and had few of today's.
    let mut old = document("first");
    old["parameters"]["ground.paper"] = json!("rough");
    let old = row("first", old);
    let mut torn = document("torn");
    torn["parameters"]["tip.glitter"] = json!(3);
    row("torn", torn);
    let mut partial = document("second");
    partial["version"] = json!(2);
    partial["ground"] = json!({"surface": "linen"});
    row("second", partial);
    let save = |db: &mut saltmarsh_store::Connection, seen, name| {
        let json = document(name).to_string();
        let document = tools::Document(&json);
        tools::save_draft(db, SaveDraft { id: old, owner, document, based_on: 1, seen }, &[])
    };
    save(&mut db, 0, "first, drafted").expect("a draft");
    let recipe = json!({"surface": "laid"});
    grounds::add(
        &mut db,
        owner,
        grounds::Content { name: "old laid", note: "", recipe: &recipe, images: &[] },
    )
    .expect("a ground");

    // Told of are all; read are those that can be.
    let heads = TestRequest::get().uri("/api/v1/tools?most=2");
    let (_, first_page) = ask(&app, &me, heads).await;
    assert_eq!(first_page["next"], first_page["tools"][1]["name"], "{first_page}");
    let next = format!("/api/v1/tools?most=2&after={}", first_page["next"].as_str().expect("a name"));
    let (_, last_page) = ask(&app, &me, TestRequest::get().uri(&next)).await;
    assert_eq!((last_page["tools"].as_array().map(Vec::len), &last_page["next"]), (Some(1), &Value::Null));
    let pages = [&first_page, &last_page].map(|p| p["tools"].as_array().expect("tools").clone()).concat();
    assert_eq!(pages.iter().find(|h| h["id"] == json!(old)).expect("told of")["draft"], 1);
    let ids: Vec<&str> = pages.iter().map(|h| h["id"].as_str().expect("an id")).collect();
    let whole = format!("/api/v1/tools/whole?ids={}", ids.join(","));
    let (status, all) = ask(&app, &me, TestRequest::get().uri(&whole)).await;
    assert_eq!((status, all.as_array().map(Vec::len)), (200, Some(2)), "the torn one is left out: {all}");
    for (wrong, field) in [("?most=0", "most"), ("?most=1001", "most"), ("/whole?ids=a", "ids")] {
        let (status, refusal) =
            ask(&app, &me, TestRequest::get().uri(&format!("/api/v1/tools{wrong}"))).await;
        assert_eq!((status, refusal["field"].as_str()), (422, Some(field)), "{wrong}: {refusal}");
    }
    for tool in all.as_array().expect("tools") {
        let document = &tool["kept"]["document"];
        assert_eq!(document["version"], json!(saltmarsh_core::tool::document::VERSION), "{document}");
        let same = saltmarsh_core::tool::Tool::from_json(document.clone()).expect("valid as it is");
        assert_eq!(
            &serde_json::to_value(&same).expect("JSON"),
            document,
            "whole: nothing is left to fill in"
        );
    }
    let first = &all[0];
    assert_eq!(first["kept"]["document"]["ground"]["surface"], "rough");
    assert_eq!(first["draft"]["document"]["parameters"]["load.give_um"], 18.0);
    let one = format!("/api/v1/tools/{old}");
    assert_eq!(ask(&app, &me, TestRequest::get().uri(&one)).await.1, *first);
    let (_, versions) = ask(&app, &me, TestRequest::get().uri(&format!("{one}/versions"))).await;
    assert_eq!(versions[0]["document"], first["kept"]["document"]);
    let (_, grounds) = ask(&app, &me, TestRequest::get().uri("/api/v1/grounds")).await;
    assert_eq!(grounds[0]["recipe"]["numbers"]["sa_um"], 4.8, "{grounds}");
    // Told once more only where something is new.
    let told_at = async |at: &str, tag: Option<String>| {
        let request = TestRequest::get().uri(at).cookie(me.clone());
        let request =
            request.insert_header(("if-none-match", tag.unwrap_or_else(|| "W/\"another\"".to_owned())));
        let answer = call_service(&app, request.to_request()).await;
        let tag = answer.headers().get("etag").expect("a tag").to_str().expect("text").to_owned();
        (answer.status().as_u16(), tag)
    };
    for list in ["gestures", "grounds", "images", "styluses", "curves"] {
        let at = format!("/api/v1/{list}");
        let (status, tag) = told_at(&at, None).await;
        assert_eq!((status, told_at(&at, Some(tag)).await.0), (200, 304), "{list}");
    }
    let told = async |tag: Option<String>| told_at("/api/v1/tools", tag).await;
    let (_, tag) = told(None).await;
    assert_eq!(told(Some(tag.clone())).await, (304, tag.clone()));
    save(&mut db, 1, "first, drafted").expect("the same draft");
    assert_eq!(told(Some(tag.clone())).await.0, 304, "nothing is new");
    save(&mut db, 1, "first, drafted again").expect("another draft");
    assert_eq!(told(Some(tag)).await.0, 200);
}

#[actix_web::test]
async fn a_tool_is_kept_drafted_and_guarded_against_a_second_window() {
    let app = studio!(somebody());
    let me = sign_in(&app).await;
    let post = |json: Value| TestRequest::post().uri("/api/v1/tools").set_json(json);
    let (status, tool) = ask(&app, &me, post(json!({"document": document("reed")}))).await;
    assert_eq!((status, &tool["kept"]["number"]), (201, &json!(1)));
    // Parameters that were left out are filled in: what is kept does not change when defaults do.
    assert_eq!(tool["kept"]["document"]["parameters"]["load.give_um"], 18.0);
    let (status, refusal) = ask(&app, &me, post(json!({"document": document("reed")}))).await;
    assert_eq!((status, &refusal["code"], &refusal["field"]), (409, &json!("taken"), &json!("name")));

    // Sent again under the id it was sent with, since the answer was lost, it is there once.
    let id = uuid::Uuid::new_v4();
    let quill = json!({"id": id, "document": document("quill")});
    let (status, sent) = ask(&app, &me, post(quill.clone())).await;
    assert_eq!((status, &sent["id"]), (201, &json!(id)));
    assert_eq!(ask(&app, &me, post(quill)).await, (201, sent));
    let (status, refusal) = ask(&app, &me, post(json!({"id": id, "document": document("other")}))).await;
    assert_eq!((status, &refusal["code"], &refusal["field"]), (409, &json!("taken"), &json!("id")));

    let at = format!("/api/v1/tools/{}", tool["id"].as_str().expect("an id"));
    let draft = |name: &str, seen: i32, based_on: i32| {
        let body = json!({"seen": seen, "based_on": based_on, "document": document(name)});
        TestRequest::put().uri(&format!("{at}/draft")).set_json(body)
    };
    // Asked twice for the same, since an answer was lost, it is saved once; another window's is refused.
    for _ in 0..2 {
        let (status, saved) = ask(&app, &me, draft("reed, soft", 0, 1)).await;
        assert_eq!((status, &saved["version"]), (200, &json!(1)));
    }
    let (status, refusal) = ask(&app, &me, draft("reed, hard", 0, 1)).await;
    assert_eq!((status, &refusal["code"], &refusal["present"]), (409, &json!("conflict"), &json!(1)));
    assert_eq!(ask(&app, &me, draft("reed, hard", 1, 1)).await.1["version"], 2);

    let keep = |name: &str, seen: i32| {
        let body = json!({"seen": seen, "document": document(name)});
        TestRequest::post().uri(&format!("{at}/versions")).set_json(body)
    };
    for _ in 0..2 {
        let (status, kept) = ask(&app, &me, keep("reed, soft", 1)).await;
        assert_eq!((status, &kept["name"], &kept["draft"]), (201, &json!("reed, soft"), &Value::Null));
    }
    assert_eq!(ask(&app, &me, keep("reed, hard", 1)).await.0, 409);
    let (_, versions) = ask(&app, &me, TestRequest::get().uri(&format!("{at}/versions"))).await;
    let hashes: Vec<_> = versions.as_array().expect("versions").iter().map(|v| &v["content_hash"]).collect();
    assert!(hashes.len() == 2 && hashes[0] != hashes[1]);

    // A version has a note; a tool that is taken away comes back with all of them.
    let noted = |note: &str| {
        let body = json!({"seen": 2, "note": note, "document": document("reed, soft")});
        TestRequest::post().uri(&format!("{at}/versions")).set_json(body)
    };
    let (status, refusal) = ask(&app, &me, noted(&"x".repeat(401))).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("note")));
    assert_eq!(ask(&app, &me, noted("for the sky")).await.1["kept"]["note"], "for the sky");
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 204);
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 404);
    assert_eq!(ask(&app, &me, TestRequest::get().uri(&at)).await.0, 404);
    let (_, away) = ask(&app, &me, TestRequest::get().uri("/api/v1/tools-away")).await;
    assert_eq!(away[0]["name"], "reed, soft");
    let back = format!("/api/v1/tools-away/{}/back", away[0]["id"].as_str().expect("an id"));
    let (status, tool) = ask(&app, &me, TestRequest::post().uri(&back)).await;
    assert_eq!((status, &tool["kept"]["number"]), (200, &json!(3)));
    assert_eq!(ask(&app, &me, TestRequest::post().uri(&back)).await.0, 404);
}

/// Many drafts that come in at once are written by a few commits, and each is answered as if it had come alone.
#[actix_web::test]
async fn drafts_that_come_in_at_once_share_their_commits() {
    use actix_web::rt::spawn;
    use diesel::RunQueryDsl as _;
    let name = somebody();
    let studio = app_of(name.clone(), api::PATIENCE, api::Turns::default(), false);
    let pool = studio.pool.clone();
    let app = std::rc::Rc::new(served!(studio));
    let me = sign_in(&*app).await;
    let mut ids = Vec::new();
    for k in 0..24 {
        let body = json!({"document": document(&format!("tool {k}"))});
        let (_, tool) = ask(&*app, &me, TestRequest::post().uri("/api/v1/tools").set_json(body)).await;
        ids.push(tool["id"].as_str().expect("an id").to_owned());
    }
    let at_once = async |asked: Vec<(String, i32, &str)>| {
        let all: Vec<_> = asked
            .into_iter()
            .map(|(id, seen, drafted)| {
                let body = json!({"seen": seen, "based_on": 1, "document": document(drafted)});
                let (app, me) = (app.clone(), me.clone());
                spawn(async move {
                    let put = TestRequest::put().uri(&format!("/api/v1/tools/{id}/draft"));
                    ask(&*app, &me, put.set_json(body)).await
                })
            })
            .collect();
        let mut answers = Vec::new();
        for one in all {
            answers.push(one.await.expect("answered"));
        }
        answers
    };
    for seen in 0..2 {
        let drafted = ["first", "second"][seen as usize];
        let answers = at_once(ids.iter().map(|id| (id.clone(), seen, drafted)).collect()).await;
        for (status, saved) in answers {
            let wanted = (200, &json!(seen + 1), &json!(drafted));
            assert_eq!((status, &saved["version"], &saved["document"]["name"]), wanted);
        }
        // A row tells which transaction wrote it (PostgreSQL, 5.5, System Columns).
        #[derive(diesel::QueryableByName)]
        struct Wrote {
            #[diesel(sql_type = diesel::sql_types::BigInt)]
            commits: i64,
        }
        let commits = "SELECT count(DISTINCT drafts.xmin::text) AS commits FROM drafts JOIN painters ON painters.id = owner_id WHERE name = $1";
        let painter =
            diesel::sql_query(commits).bind::<diesel::sql_types::Text, _>(name.clone().expect("a name"));
        let wrote: Wrote = painter.get_result(&mut **pool.get().expect("a connection")).expect("counted");
        assert!(wrote.commits <= 12, "{} commits for 24 drafts", wrote.commits);
    }
    // Two windows and one that asks again, of one tool; a version that nobody saw, of another; and one that nobody has.
    let [one, two] = [ids[0].clone(), ids[1].clone()];
    let nobody = uuid::Uuid::new_v4().to_string();
    let asked = vec![
        (one.clone(), 2, "third"),
        (one.clone(), 2, "third, of another window"),
        (one, 2, "third"),
        (two, 7, "third"),
        (nobody, 0, "third"),
    ];
    let statuses: Vec<u16> = at_once(asked).await.into_iter().map(|(status, _)| status).collect();
    assert_eq!(statuses[3..], [409, 404]);
    // Whichever window is first, it alone has saved, however often it asked.
    assert!(
        [[200, 409, 200], [409, 200, 409]].contains(&[statuses[0], statuses[1], statuses[2]]),
        "{statuses:?}"
    );
}
