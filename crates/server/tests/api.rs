//! The API against a real PostgreSQL (`DATABASE_URL`, which `./run test` sets): each test signs in as a painter of its own.

use actix_web::body::MessageBody;
use actix_web::cookie::Cookie;
use actix_web::dev::{Service, ServiceResponse};
use actix_web::http::StatusCode;
use actix_web::test::{TestRequest, call_service, init_service, read_body, read_body_json};
use actix_web::{App as Actix, Error, web};
use saltmarsh_server::api::{self, App};
use saltmarsh_store::Pool;
use serde_json::{Value, json};

/// Takes a request to the API; gives status and JSON.
macro_rules! studio {
    ($open:expr) => {{
        let url =
            std::env::var("DATABASE_URL").expect("DATABASE_URL names the test database; ./run test sets it");
        let pool = Pool::connect(&url, 2).expect("the test database answers");
        pool.migrate().expect("migrations run");
        let app = App { pool, open_painter: $open };
        init_service(Actix::new().app_data(web::Data::new(app)).configure(api::configure)).await
    }};
}

fn somebody() -> Option<String> {
    Some(format!("painter {}", uuid::Uuid::new_v4()))
}

async fn sign_in<S, B>(app: &S) -> Cookie<'static>
where
    S: Service<actix_http::Request, Response = ServiceResponse<B>, Error = Error>,
    B: MessageBody,
{
    let answer = call_service(app, TestRequest::post().uri("/api/v1/session").to_request()).await;
    assert_eq!(answer.status(), StatusCode::OK);
    answer.response().cookies().next().expect("a session cookie").into_owned()
}

async fn ask<S, B>(app: &S, cookie: &Cookie<'static>, request: TestRequest) -> (u16, Value)
where
    S: Service<actix_http::Request, Response = ServiceResponse<B>, Error = Error>,
    B: MessageBody,
{
    let answer = call_service(app, request.cookie(cookie.clone()).to_request()).await;
    let status = answer.status().as_u16();
    let body = read_body(answer).await;
    (status, serde_json::from_slice(&body).unwrap_or(Value::Null))
}

fn document(name: &str) -> Value {
    json!({"format": "saltmarsh.tool", "version": 1, "name": name, "medium": "dry", "action": "lay",
        "parameters": {"tip.width_mm": 3.5}})
}

/// Rows that an older program wrote (and one that nobody can read) come out as this program writes them, and do no harm.
#[actix_web::test]
async fn stored_documents_of_older_programs_pass_through_the_gate() {
    use saltmarsh_store::tools::{self, Content};
    use saltmarsh_store::{grounds, painters};
    let name = somebody().expect("a name");
    let app = studio!(Some(name.clone()));
    let me = sign_in(&app).await;
    let url = std::env::var("DATABASE_URL").expect("set by ./run test");
    let pool = Pool::connect(&url, 1).expect("the test database answers");
    let mut db = pool.get().expect("a connection");
    let owner = painters::ensure(&mut db, &name).expect("the painter").id;
    let mut row = |name: &str, document: Value| {
        tools::create(&mut db, owner, Content { name, document: &document, hash: "old", note: "" })
            .expect("a row")
            .id
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
    tools::save_draft(&mut db, owner, old, 0, 1, &document("first, drafted")).expect("a draft");
    let recipe = json!({"surface": "laid"});
    grounds::add(&mut db, owner, grounds::Content { name: "old laid", note: "", recipe: &recipe })
        .expect("a ground");

    let (status, all) = ask(&app, &me, TestRequest::get().uri("/api/v1/tools")).await;
    assert_eq!((status, all.as_array().map(Vec::len)), (200, Some(2)), "the torn one is left out: {all}");
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
}

const INK: &str = "<ink xmlns=\"http://www.w3.org/2003/InkML\"><trace>100 200,300 400,500 450</trace></ink>";

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

    let at = format!("/api/v1/tools/{}", tool["id"].as_str().expect("an id"));
    let draft = |seen: i32, based_on: i32| {
        let body = json!({"seen": seen, "based_on": based_on, "document": document("reed, soft")});
        TestRequest::put().uri(&format!("{at}/draft")).set_json(body)
    };
    assert_eq!(ask(&app, &me, draft(0, 1)).await.0, 200);
    let (status, refusal) = ask(&app, &me, draft(0, 1)).await;
    assert_eq!((status, &refusal["code"], &refusal["present"]), (409, &json!("conflict"), &json!(1)));
    assert_eq!(ask(&app, &me, draft(1, 1)).await.1["version"], 2);

    let keep = |seen: i32| {
        let body = json!({"seen": seen, "document": document("reed, soft")});
        TestRequest::post().uri(&format!("{at}/versions")).set_json(body)
    };
    let (status, kept) = ask(&app, &me, keep(1)).await;
    assert_eq!((status, &kept["name"], &kept["draft"]), (201, &json!("reed, soft"), &Value::Null));
    assert_eq!(ask(&app, &me, keep(1)).await.0, 409);
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

#[actix_web::test]
async fn what_is_refused_names_its_field_and_changes_nothing() {
    let app = studio!(somebody());
    let me = sign_in(&app).await;
    let mut wide = document("wide");
    wide["parameters"]["tip.width_mm"] = json!(400);
    let mut newer = document("newer");
    newer["version"] = json!(3);
    let mut unknown = document("unknown");
    unknown["parameters"]["tip.shine"] = json!(1);
    // Request, status, code, field.
    let tools = "/api/v1/tools";
    let gestures = "/api/v1/gestures";
    let gesture = |name: &str, inkml: &str| json!({"name": name, "inkml": inkml});
    let bomb = "<!DOCTYPE ink [<!ENTITY a \"aaaa\">]><ink><trace>&a;</trace></ink>";
    let cases = [
        (tools, json!({"document": wide}), 422, "invalid", "document.parameters.tip.width_mm"),
        (tools, json!({"document": newer}), 422, "invalid", "document.version"),
        (tools, json!({"document": unknown}), 422, "invalid", "document.parameters.tip.shine"),
        (tools, json!({"document": []}), 422, "invalid", "document.document"),
        (tools, json!({"documents": 1}), 400, "invalid", "body"),
        (tools, json!({"document": {"name": "x".repeat(api::MOST_BODY)}}), 413, "too-large", "body"),
        (gestures, gesture("", INK), 422, "invalid", "name"),
        (gestures, gesture("cut", &INK[..60]), 422, "invalid", "inkml"),
        (gestures, gesture("bomb", bomb), 422, "invalid", "inkml"),
        (gestures, gesture("empty", "<ink/>"), 422, "invalid", "inkml"),
    ];
    for (at, body, status, code, field) in cases {
        let start: String = body.to_string().chars().take(80).collect();
        let (got, refusal) = ask(&app, &me, TestRequest::post().uri(at).set_json(body)).await;
        assert_eq!(
            (got, refusal["code"].as_str(), refusal["field"].as_str()),
            (status, Some(code), Some(field)),
            "{start}"
        );
    }
    let text = TestRequest::post()
        .uri(tools)
        .insert_header(("content-type", "application/json"))
        .set_payload("{\"doc");
    assert_eq!(ask(&app, &me, text).await.1["field"], "body");
    for list in [tools, gestures] {
        assert_eq!(ask(&app, &me, TestRequest::get().uri(list)).await.1, json!([]), "{list} is still empty");
    }
    for nowhere in
        ["/api/v1/tools/not-an-id", "/api/v1/nothing", "/api/v1/tools/00000000-0000-0000-0000-000000000000"]
    {
        assert_eq!(ask(&app, &me, TestRequest::get().uri(nowhere)).await.1["code"], "missing", "{nowhere}");
    }
}

#[actix_web::test]
async fn gestures_go_in_and_out_as_inkml() {
    let app = studio!(somebody());
    let me = sign_in(&app).await;
    let body = json!({"name": "short pull", "note": "three reports", "inkml": INK});
    let (status, added) = ask(&app, &me, TestRequest::post().uri("/api/v1/gestures").set_json(&body)).await;
    assert_eq!(status, 201);
    let at = format!("/api/v1/gestures/{}", added["id"].as_str().expect("an id"));
    let request = TestRequest::get().uri(&format!("{at}/inkml")).cookie(me.clone()).to_request();
    let answer = call_service(&app, request).await;
    let header =
        |name: &str| answer.headers().get(name).and_then(|v| v.to_str().ok()).unwrap_or("").to_owned();
    assert_eq!(header("content-type"), "application/inkml+xml");
    assert!(header("content-disposition").contains("short-pull.inkml"));
    let text = read_body(answer).await;
    let read = saltmarsh_formats::inkml::read(std::str::from_utf8(&text).expect("UTF-8")).expect("InkML");
    let gesture = saltmarsh_formats::inkml::to_gesture(&read).expect("a gesture");
    // Lists tell what a gesture is called, not its way; a change that sends none leaves it.
    let hash = added["content_hash"].clone();
    let (_, listed) = ask(&app, &me, TestRequest::get().uri("/api/v1/gestures")).await;
    assert!(listed[0].get("inkml").is_none() && listed[0]["content_hash"] == hash, "{listed}");
    let renamed = json!({"name": "longer pull", "note": "", "tags": [], "on_proof": false});
    let (status, changed) = ask(&app, &me, TestRequest::put().uri(&at).set_json(renamed)).await;
    assert_eq!((status, &changed["name"], &changed["content_hash"]), (200, &json!("longer pull"), &hash));
    // Device units are hundredths of a millimetre.
    assert!((gesture.passes()[0][2].x - 5.0).abs() < 1e-9);
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 204);
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 404);
}

#[actix_web::test]
async fn nobody_gets_in_without_signing_in() {
    let open = studio!(somebody());
    let closed = studio!(None);
    for at in [
        "/api/v1/tools",
        "/api/v1/gestures",
        "/api/v1/grounds",
        "/api/v1/images",
        "/api/v1/pigments",
        "/api/v1/session",
    ] {
        let answer = call_service(&open, TestRequest::get().uri(at).to_request()).await;
        assert_eq!(answer.status(), StatusCode::UNAUTHORIZED, "{at}");
        let refusal: Value = read_body_json(answer).await;
        assert_eq!(refusal["code"], "sign-in", "{at}");
    }
    let forged = TestRequest::get().uri("/api/v1/tools").cookie(Cookie::new("saltmarsh_session", "0123"));
    assert_eq!(call_service(&open, forged.to_request()).await.status(), StatusCode::UNAUTHORIZED);
    let answer = call_service(&closed, TestRequest::post().uri("/api/v1/session").to_request()).await;
    assert_eq!(answer.status(), StatusCode::FORBIDDEN);
}

#[actix_web::test]
async fn the_openapi_document_describes_every_address() {
    let app = studio!(None);
    let answer = call_service(&app, TestRequest::get().uri("/api/v1/openapi.json").to_request()).await;
    let document: Value = read_body_json(answer).await;
    let mut routes: Vec<String> = Vec::new();
    for (path, verbs) in document["paths"].as_object().expect("paths") {
        for verb in verbs.as_object().expect("verbs").keys() {
            routes.push(format!("{verb} {path}"));
        }
    }
    routes.sort();
    insta::assert_snapshot!(routes.join("\n"));
    let answer = call_service(&app, TestRequest::get().uri("/api/v1/tool-schema").to_request()).await;
    let schema: Value = read_body_json(answer).await;
    assert_eq!(schema["properties"]["parameters"]["properties"]["tip.width_mm"]["maximum"], 40.0);
}

#[actix_web::test]
async fn styluses_are_kept_guarded_and_one_a_device_is_active() {
    let app = studio!(somebody());
    let me = sign_in(&app).await;
    let stylus = |name: &str, full_gf: f64| {
        json!({"format": "saltmarsh.stylus", "version": 1, "profile": {"name": name, "full_gf": full_gf},
            "calibration": {"curve": [[0.1, 0.0], [0.7, 1.0]]}})
    };
    let post = |device: &str, document: Value| {
        TestRequest::post().uri("/api/v1/styluses").set_json(json!({"device": device, "document": document}))
    };
    let (status, first) = ask(&app, &me, post("pen, 8192 levels", stylus("reed pen", 420.0))).await;
    assert_eq!((status, &first["active"], &first["version"]), (201, &json!(true), &json!(1)));
    assert_eq!(first["document"]["profile"]["levels"], 8192, "what was left out is filled in");
    let (status, refusal) = ask(&app, &me, post("pen, 8192 levels", stylus("reed pen", 300.0))).await;
    assert_eq!((status, &refusal["code"]), (409, &json!("taken")));
    let (status, refusal) = ask(&app, &me, post("pen", stylus("bent", 2.0))).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("document.profile.full_gf")));

    let (_, second) = ask(&app, &me, post("pen, 8192 levels", stylus("spare pen", 300.0))).await;
    let (_, mouse) = ask(&app, &me, post("mouse or finger", stylus("mouse", 300.0))).await;
    let list = || TestRequest::get().uri("/api/v1/styluses");
    let active = |all: &Value| -> Vec<String> {
        let all = all.as_array().expect("a list").iter().filter(|s| s["active"] == true);
        all.map(|s| s["document"]["profile"]["name"].as_str().expect("a name").to_owned()).collect()
    };
    let (_, all) = ask(&app, &me, list()).await;
    assert_eq!(active(&all), ["mouse", "spare pen"]);
    let at = format!("/api/v1/styluses/{}", first["id"].as_str().expect("an id"));
    let (status, _) = ask(&app, &me, TestRequest::post().uri(&format!("{at}/active"))).await;
    assert_eq!(status, 200);
    let (_, all) = ask(&app, &me, list()).await;
    assert_eq!(active(&all), ["mouse", "reed pen"]);

    let put = |seen: i32| {
        TestRequest::put().uri(&at).set_json(json!({"seen": seen, "document": stylus("reed pen", 350.0)}))
    };
    let (status, saved) = ask(&app, &me, put(1)).await;
    assert_eq!(
        (status, &saved["version"], &saved["document"]["profile"]["full_gf"]),
        (200, &json!(2), &json!(350.0))
    );
    let (status, refusal) = ask(&app, &me, put(1)).await;
    assert_eq!((status, &refusal["code"], &refusal["present"]), (409, &json!("conflict"), &json!(2)));

    // Another painter sees none of it.
    let other = studio!(somebody());
    let them = sign_in(&other).await;
    assert_eq!(ask(&other, &them, list()).await.1, json!([]));
    assert_eq!(ask(&other, &them, TestRequest::delete().uri(&at)).await.0, 404);
    for s in [&second, &mouse] {
        let gone =
            TestRequest::delete().uri(&format!("/api/v1/styluses/{}", s["id"].as_str().expect("an id")));
        assert_eq!(ask(&app, &me, gone).await.0, 204);
    }
    assert_eq!(ask(&app, &me, list()).await.1.as_array().map(Vec::len), Some(1));
}

#[actix_web::test]
async fn curves_are_kept_and_gestures_remember_their_stylus() {
    let app = studio!(somebody());
    let (me, other) = (sign_in(&app).await, sign_in(&studio!(somebody())).await);
    let post = |at: &str, json: Value| TestRequest::post().uri(&format!("/api/v1/{at}")).set_json(json);
    let toe = json!({"name": " gentle toe ", "points": [[0.0, 0.0], [0.3, 0.1], [1.0, 1.0]]});
    let (status, kept) = ask(&app, &me, post("curves", toe.clone())).await;
    assert_eq!((status, &kept["name"]), (201, &json!("gentle toe")));
    assert_eq!(ask(&app, &me, post("curves", toe)).await.1["field"], "name", "a name is used once");
    let back = json!({"name": "back", "points": [[0.5, 0.0], [0.2, 1.0]]});
    let (status, refusal) = ask(&app, &me, post("curves", back)).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("points[1]")));
    let get = |at: &str| TestRequest::get().uri(&format!("/api/v1/{at}"));
    assert_eq!(ask(&app, &me, get("curves")).await.1, json!([kept]));
    let remove =
        || TestRequest::delete().uri(&format!("/api/v1/curves/{}", kept["id"].as_str().expect("an id")));
    assert_eq!(ask(&app, &other, remove()).await.0, 404, "another painter's");
    assert_eq!(ask(&app, &me, remove()).await.0, 204);
    assert_eq!(ask(&app, &me, get("curves")).await.1, json!([]));

    let pen = |full_gf: f64| json!({"name": "p", "inkml": INK, "stylus": {"name": "Stiff pen", "full_gf": full_gf}});
    let (status, refusal) = ask(&app, &me, post("gestures", pen(9000.0))).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("stylus.full_gf")));
    let (status, gesture) = ask(&app, &me, post("gestures", pen(520.0))).await;
    assert_eq!((status, &gesture["stylus"]["full_gf"]), (201, &json!(520.0)));
    assert_eq!(gesture["stylus"]["levels"], 8192, "what was left out is filled in");
    // Changing its way does not change who recorded it.
    let to = json!({"name": "p", "note": "", "tags": [], "on_proof": true, "inkml": INK});
    let change = TestRequest::put()
        .uri(&format!("/api/v1/gestures/{}", gesture["id"].as_str().expect("an id")))
        .set_json(to);
    assert_eq!(ask(&app, &me, change).await.1["stylus"]["name"], "Stiff pen");
}

#[actix_web::test]
async fn words_with_control_characters_are_refused_by_field_wherever_they_are_kept() {
    let app = studio!(somebody());
    let me = sign_in(&app).await;
    // PostgreSQL takes no U+0000 in texts and documents.
    let bad = "reed\u{0}bed";
    let mut tool = document("reed");
    tool["intent"] = json!(bad);
    let gesture = |name: &str, note: &str| json!({"name": name, "note": note, "inkml": INK});
    let ground = |name: &str, note: &str| json!({"name": name, "note": note, "recipe": {"surface": "linen"}});
    let mut within = document("reed");
    within["ground"] = json!({"surface": "linen", "name": bad});
    for (at, body, field) in [
        ("tools", json!({"document": document(bad)}), "document.name"),
        ("tools", json!({"document": tool}), "document.intent"),
        ("tools", json!({"document": within}), "document.ground.name"),
        ("gestures", gesture(bad, ""), "name"),
        ("gestures", gesture("reed", bad), "note"),
        ("grounds", ground(bad, ""), "name"),
        ("grounds", ground("reed", bad), "note"),
        ("curves", json!({"name": bad, "points": [[0.0, 0.0], [1.0, 1.0]]}), "name"),
        ("styluses", json!({"device": bad, "document": {}}), "device"),
    ] {
        let post = TestRequest::post().uri(&format!("/api/v1/{at}")).set_json(&body);
        let (status, refusal) = ask(&app, &me, post).await;
        assert_eq!((status, &refusal["field"]), (422, &json!(field)), "{at}: {refusal}");
        assert!(refusal["message"].as_str().is_some_and(|m| m.contains("U+0000")), "{refusal}");
    }
    let (_, kept) =
        ask(&app, &me, TestRequest::post().uri("/api/v1/gestures").set_json(gesture("reed", "two\nlines")))
            .await;
    assert_eq!(kept["note"], "two\nlines");
    let tagged = json!({"name": "reed", "note": "", "tags": ["soft", bad], "on_proof": true, "inkml": INK});
    let at = format!("/api/v1/gestures/{}", kept["id"].as_str().expect("an id"));
    let (status, refusal) = ask(&app, &me, TestRequest::put().uri(&at).set_json(tagged)).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("tags[1]")));
}

#[actix_web::test]
async fn a_ground_is_kept_changed_and_refused_by_field() {
    let app = studio!(somebody());
    let me = sign_in(&app).await;
    let post = |json: Value| TestRequest::post().uri("/api/v1/grounds").set_json(json);
    let linen = json!({"name": "Sail", "recipe": {"surface": "linen", "numbers": {"warp_cm": 7.5}}});
    let (status, ground) = ask(&app, &me, post(linen.clone())).await;
    assert_eq!((status, &ground["version"]), (201, &json!(1)));
    assert_eq!(
        (&ground["recipe"]["numbers"]["weft_cm"], &ground["recipe"]["name"]),
        (&json!(8.2), &json!("Sail"))
    );
    assert_eq!(ask(&app, &me, post(linen)).await.0, 409);
    let at = format!("/api/v1/grounds/{}", ground["id"].as_str().expect("an id"));
    let change = |version: i32, recipe: Value| {
        let body = json!({"name": "Sail, worn", "note": "", "version": version, "recipe": recipe});
        TestRequest::put().uri(&at).set_json(body)
    };
    assert_eq!(ask(&app, &me, change(1, json!({"surface": "linen"}))).await.1["version"], 2);
    let (status, refusal) = ask(&app, &me, change(1, json!({"surface": "linen"}))).await;
    assert_eq!((status, &refusal["present"]), (409, &json!(2)));
    let nowhere = "c".repeat(64);
    for (recipe, field) in [
        (json!({"surface": "linen", "numbers": {"warp_cm": 100}}), "recipe.numbers.warp_cm"),
        (json!({"surface": "linen", "numbers": {"line_mm": 1}}), "recipe.numbers.line_mm"),
        (json!({"surface": "image"}), "recipe.image"),
        (json!({"surface": "image", "image": nowhere}), "recipe.image"),
        (json!({"surface": "linen", "tint": "shiny"}), "recipe.tint"),
    ] {
        let (status, refusal) = ask(&app, &me, change(2, recipe)).await;
        assert_eq!((status, &refusal["field"]), (422, &json!(field)), "{refusal}");
    }
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 204);
}

#[actix_web::test]
async fn an_image_is_taken_in_as_grey_and_kept_while_it_is_needed() {
    let app = studio!(somebody());
    let me = sign_in(&app).await;
    let send = |name: &str, bytes: &'static [u8]| {
        TestRequest::post().uri(&format!("/api/v1/images?name={name}")).set_payload(bytes)
    };
    let colour = include_bytes!("../../formats/tests/data/pictures/colour.png");
    let (status, taken) = ask(&app, &me, send("reeds", colour)).await;
    assert_eq!((status, &taken["image"]["width"]), (201, &json!(8)), "{taken}");
    assert_eq!(taken["changes"], json!(["colour was turned to grey"]));
    let hash = taken["image"]["hash"].as_str().expect("a hash").to_owned();
    let png = TestRequest::get().uri(&format!("/api/v1/images/{hash}/png")).cookie(me.clone()).to_request();
    let bytes = read_body(call_service(&app, png).await).await;
    let grey = saltmarsh_formats::image::read_grey(&bytes).expect("what is kept can be read");
    assert_eq!(grey.hash(), hash);

    let map = json!({"name": "Reeds", "recipe": {"surface": "image", "image": hash}});
    let (_, ground) = ask(&app, &me, TestRequest::post().uri("/api/v1/grounds").set_json(map)).await;
    let at = format!("/api/v1/images/{}", taken["image"]["id"].as_str().expect("an id"));
    let (status, refusal) = ask(&app, &me, TestRequest::delete().uri(&at)).await;
    assert_eq!((status, &refusal["code"]), (409, &json!("in-use")));
    assert!(refusal["message"].as_str().expect("words").contains("Reeds"));
    let (_, uses) = ask(&app, &me, TestRequest::get().uri(&format!("/api/v1/images/{hash}/uses"))).await;
    assert_eq!(uses, json!(["Reeds"]));
    let gone =
        TestRequest::delete().uri(&format!("/api/v1/grounds/{}", ground["id"].as_str().expect("an id")));
    assert_eq!(ask(&app, &me, gone).await.0, 204);
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 204);

    // Another stands in for it in every tool that needs it; the tool's next version says so.
    let (_, first) = ask(&app, &me, send("reeds", colour)).await;
    let map = include_bytes!("../../formats/tests/data/maps/map_p5_worn_plateau.png");
    let (_, second) = ask(&app, &me, send("plateau", map)).await;
    let [from, with] = [&first, &second].map(|i| i["image"]["hash"].as_str().expect("a hash").to_owned());
    let mut tool = document("reed stamp");
    tool["parameters"]["tip.image"] = json!(from);
    let kept = TestRequest::post().uri("/api/v1/tools").set_json(json!({"document": tool}));
    let (_, kept) = ask(&app, &me, kept).await;
    let replace = |with: &str| {
        TestRequest::post().uri(&format!("/api/v1/images/{from}/replace")).set_json(json!({"with": with}))
    };
    let (status, refusal) = ask(&app, &me, replace("plateau")).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("with")), "{refusal}");
    assert_eq!(ask(&app, &me, replace(&"0".repeat(64))).await.0, 404);
    let (status, where_) = ask(&app, &me, replace(&with)).await;
    assert_eq!((status, &where_), (200, &json!([{"id": kept["id"], "name": "reed stamp"}])));
    let at = format!("/api/v1/tools/{}", kept["id"].as_str().expect("an id"));
    let (_, after) = ask(&app, &me, TestRequest::get().uri(&at)).await;
    assert_eq!(
        (&after["kept"]["number"], &after["kept"]["document"]["parameters"]["tip.image"]),
        (&json!(2), &json!(with))
    );
    assert_ne!(after["kept"]["content_hash"], kept["kept"]["content_hash"]);

    // A tool cannot be kept with an image that is not there.
    let mut stamped = document("stamped");
    stamped["parameters"]["tip.image"] = json!("0".repeat(64));
    let (status, refusal) =
        ask(&app, &me, TestRequest::post().uri("/api/v1/tools").set_json(json!({"document": stamped}))).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("document")), "{refusal}");
    let large = TestRequest::post().uri("/api/v1/images?name=large").set_payload(vec![0; (32 << 20) + 1]);
    let (status, refusal) = ask(&app, &me, large).await;
    assert_eq!((status, &refusal["code"], &refusal["field"]), (413, &json!("too-large"), &json!("body")));

    let bad = include_bytes!("../../formats/tests/data/pictures/animated.png");
    let (status, refusal) = ask(&app, &me, send("moving", bad)).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("image")), "{refusal}");
}
