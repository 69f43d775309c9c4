//! What is refused, by field, and changes nothing.

use actix_web::error::PayloadError;

use crate::studio::*;

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
        (tools, json!({"documents": 1}), 400, "invalid", "documents"),
        (tools, json!({}), 400, "invalid", "document"),
        (gestures, json!({"name": 1, "inkml": INK}), 400, "invalid", "name"),
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
    let none = json!({"tools": [], "next": null});
    for (list, nothing) in [(tools, none), (gestures, json!([]))] {
        assert_eq!(ask(&app, &me, TestRequest::get().uri(list)).await.1, nothing, "{list} is still empty");
    }
    for nowhere in
        ["/api/v1/tools/not-an-id", "/api/v1/nothing", "/api/v1/tools/00000000-0000-0000-0000-000000000000"]
    {
        assert_eq!(ask(&app, &me, TestRequest::get().uri(nowhere)).await.1["code"], "missing", "{nowhere}");
    }
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
    let tagged =
        json!({"seen": 1, "name": "reed", "note": "", "tags": ["soft", bad], "on_proof": true, "inkml": INK});
    let at = format!("/api/v1/gestures/{}", kept["id"].as_str().expect("an id"));
    let (status, refusal) = ask(&app, &me, TestRequest::put().uri(&at).set_json(tagged)).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("tags[1]")));
}

#[actix_web::test]
async fn an_address_is_asked_by_its_own_methods_and_by_head() {
    let app = studio!(somebody());
    let cookie = sign_in(&app).await;
    let told =
        async |request: TestRequest| call_service(&app, request.cookie(cookie.clone()).to_request()).await;
    let at = |path: &str| TestRequest::default().uri(&format!("/api/v1{path}"));
    for (path, method, allow) in [
        ("/tools", "PUT", "GET, HEAD, POST"),
        ("/tools/7/draft", "GET", "DELETE, PUT"),
        ("/health", "DELETE", "GET, HEAD"),
        ("/images/ab/replace", "GET", "POST"),
    ] {
        let answer = told(at(path).method(method.parse().expect("a method"))).await;
        assert_eq!(answer.status(), StatusCode::METHOD_NOT_ALLOWED, "{method} {path}");
        assert_eq!(answer.headers().get("allow").expect("what is allowed"), allow, "{path}");
        let refusal: Value = read_body_json(answer).await;
        assert!(refusal["message"].as_str().expect("a message").contains(allow));
    }
    let twice = json!({"ids": [uuid::Uuid::nil(), uuid::Uuid::nil()]});
    let (status, refusal) =
        ask(&app, &cookie, TestRequest::post().uri("/api/v1/gestures/order").set_json(&twice)).await;
    assert_eq!((status, refusal["field"].as_str()), (422, Some("ids")), "{refusal}");
    assert_eq!(told(at("/nothing").method("PUT".parse().expect("a method"))).await.status(), 404);
    for (path, status) in
        [("/tools", 200), ("/health", 204), ("/images/00/png", 404), ("/images/%00/png", 404)]
    {
        let head = told(at(path).method("HEAD".parse().expect("a method"))).await;
        assert_eq!(head.status(), status, "HEAD {path}");
        assert_eq!(told(at(path)).await.status(), status, "GET {path}");
    }
}

#[actix_web::test]
async fn a_body_is_of_the_kind_that_is_read_there() {
    let app = studio!(somebody());
    let cookie = sign_in(&app).await;
    for path in ["/tools", "/gestures", "/grounds", "/images?name=a", "/session"] {
        let sent = |kind: &str| {
            let request = TestRequest::post().uri(&format!("/api/v1{path}")).set_payload("{}");
            if kind.is_empty() { request } else { request.insert_header(("content-type", kind.to_owned())) }
        };
        for kind in ["", "text/plain", "application/x-www-form-urlencoded", "multipart/form-data"] {
            let (status, refusal) = ask(&app, &cookie, sent(kind)).await;
            assert_eq!(
                (status, refusal["field"].as_str()),
                (415, Some("content-type")),
                "{path} {kind}: {refusal}"
            );
        }
        let read = if path.contains("images") { "image/png" } else { "application/json" };
        assert_ne!(ask(&app, &cookie, sent(read)).await.0, 415, "{path}");
    }
}

#[actix_web::test]
async fn a_body_that_never_ends_is_waited_for_no_longer_than_patience_lasts() {
    // Signing in is done by another copy: on a machine that is busy it may take longer than this one waits.
    let cookie = sign_in(&studio!(somebody())).await;
    let app = studio!(somebody(), std::time::Duration::from_millis(300));
    for path in ["/api/v1/gestures", "/api/v1/tools", "/api/v1/images?name=slow"] {
        let kind = if path.contains("images") { "application/octet-stream" } else { "application/json" };
        let request =
            TestRequest::post().uri(path).cookie(cookie.clone()).insert_header(("content-type", kind));
        // What sends goes on as long as this is held.
        let (sender, payload) = actix_http::h1::Payload::create(false);
        let (request, _) = request.to_request().replace_payload(actix_http::Payload::from(payload));
        let refusal = app.call(request).await.expect("an answer");
        assert_eq!(refusal.status(), StatusCode::REQUEST_TIMEOUT, "{path}");
        for header in ["x-request-id", "content-security-policy"] {
            assert!(refusal.headers().contains_key(header), "{path} with {header}");
        }
        drop(sender);
    }
}

#[actix_web::test]
async fn a_body_that_is_too_long_or_breaks_off_is_said_to_be_so_wherever_one_is_read() {
    let app = studio!(somebody());
    let cookie = sign_in(&app).await;
    for (path, most) in [
        ("tools", api::MOST_BODY),
        ("gestures", api::MOST_GESTURE_BODY),
        ("images?name=a", api::MOST_IMAGE_BODY),
        ("session", api::MOST_BODY),
    ] {
        let kind = if path.contains("images") { "image/png" } else { "application/json" };
        let sent = || {
            let request = TestRequest::post().uri(&format!("/api/v1/{path}")).cookie(cookie.clone());
            request.insert_header(("content-type", kind))
        };
        let (status, refusal) = ask(&app, &cookie, sent().set_payload(vec![b' '; most + 1])).await;
        assert_eq!((status, &refusal["code"]), (413, &json!("too-large")), "{path}: {refusal}");
        let (mut sender, payload) = actix_http::h1::Payload::create(false);
        sender.feed_data(web::Bytes::from_static(b"{"));
        sender.set_error(PayloadError::Incomplete(None));
        let (request, _) = sent().to_request().replace_payload(actix_http::Payload::from(payload));
        let refused = app.call(request).await.expect("an answer");
        assert_eq!(refused.status(), StatusCode::BAD_REQUEST, "{path}");
        let refusal: Value = read_body_json(refused).await;
        assert_eq!((&refusal["code"], &refusal["field"]), (&json!("invalid"), &json!("body")), "{path}");
    }
}
