//! What is changed on one copy of the server is heard on another.

use std::pin::pin;
use std::time::{Duration, Instant};

use actix_web::rt::time::timeout;

use crate::studio::*;

/// What comes within two seconds, until it holds all that is waited for.
async fn heard<B: MessageBody>(body: B, waited_for: &[&str]) -> String {
    let mut body = pin!(body);
    let (began, mut text) = (Instant::now(), String::new());
    while !waited_for.iter().all(|w| text.contains(w)) {
        let left = Duration::from_secs(2).saturating_sub(began.elapsed());
        let next = timeout(left, std::future::poll_fn(|context| body.as_mut().poll_next(context))).await;
        match next {
            Ok(Some(Ok(bytes))) => text.push_str(&String::from_utf8_lossy(&bytes)),
            _ => break,
        }
    }
    text
}

#[actix_web::test]
async fn what_changes_is_heard_on_every_copy_within_two_seconds_by_its_painter_alone() {
    let (name, other) = (somebody(), somebody());
    let (here, there, elsewhere) = (studio!(name.clone()), studio!(name), studio!(other));
    let (mine, same, others) = (sign_in(&here).await, sign_in(&there).await, sign_in(&elsewhere).await);
    let listen = |cookie: &Cookie<'static>| {
        TestRequest::get().uri("/api/v1/changes").cookie(cookie.clone()).to_request()
    };
    let (one, two) =
        (call_service(&there, listen(&same)).await, call_service(&elsewhere, listen(&others)).await);
    assert_eq!(one.headers().get("content-type").expect("a type"), "text/event-stream");
    // Both copies listen by now.
    actix_web::rt::time::sleep(Duration::from_millis(700)).await;
    let keep = TestRequest::post().uri("/api/v1/tools").set_json(json!({"document": document("reed")}));
    let (_, tool) = ask(&here, &mine, keep).await;
    let id = tool["id"].as_str().expect("an id").to_owned();
    let draft = json!({"seen": 0, "based_on": 1, "document": document("reed, drafted")});
    let draft = TestRequest::put().uri(&format!("/api/v1/tools/{id}/draft")).set_json(draft);
    assert_eq!(ask(&here, &mine, draft).await.0, 200);
    let curve = json!({"name": "line", "points": [[0.0, 0.0], [1.0, 1.0]]});
    assert_eq!(ask(&here, &mine, TestRequest::post().uri("/api/v1/curves").set_json(curve)).await.0, 201);
    let told = |kind: &str, version: i32| {
        format!("data: {{\"kind\":\"{kind}\",\"id\":\"{id}\",\"version\":{version}}}\n\n")
    };
    let wanted = [told("tools", 0), told("kept", 1), told("drafts", 1), "\"kind\":\"curves\"".to_owned()];
    let wanted: Vec<&str> = wanted.iter().map(String::as_str).collect();
    let text = heard(one.into_body(), &wanted).await;
    assert!(wanted.iter().all(|w| text.contains(w)), "{text}");
    assert_eq!(text.matches("\"drafts\"").count(), 1, "told once: {text}");
    let text = heard(two.into_body(), &[&id]).await;
    assert!(!text.contains(&id) && !text.contains("curves"), "it is none of theirs: {text}");
}

/// Who signs out here is signed out there, and hears no more of what changes.
#[actix_web::test]
async fn who_signs_out_is_unknown_to_every_copy() {
    let name = somebody();
    let (here, there) = (studio!(name.clone()), studio!(name));
    let (gone, stays) = (sign_in(&here).await, sign_in(&here).await);
    let listen = |cookie: &Cookie<'static>| {
        TestRequest::get().uri("/api/v1/changes").cookie(cookie.clone()).to_request()
    };
    let (one, two) = (call_service(&there, listen(&gone)).await, call_service(&there, listen(&stays)).await);
    actix_web::rt::time::sleep(Duration::from_millis(700)).await;
    let tools = || TestRequest::get().uri("/api/v1/tools");
    // Remembered there, from now on.
    for cookie in [&gone, &stays] {
        assert_eq!(ask(&there, cookie, tools()).await.0, 200);
    }
    assert_eq!(ask(&here, &gone, TestRequest::delete().uri("/api/v1/session")).await.0, 204);
    let mut body = pin!(one.into_body());
    let ended = timeout(Duration::from_secs(10), async {
        while let Some(lines) = std::future::poll_fn(|context| body.as_mut().poll_next(context)).await {
            assert!(!String::from_utf8_lossy(&lines.expect("lines")).contains("sessions"));
        }
    });
    ended.await.expect("it ends long before anybody would have asked again");
    assert_eq!(ask(&there, &gone, tools()).await.0, 401);
    assert_eq!(ask(&there, &stays, tools()).await.0, 200);
    let curve = json!({"name": "line", "points": [[0.0, 0.0], [1.0, 1.0]]});
    assert_eq!(ask(&here, &stays, TestRequest::post().uri("/api/v1/curves").set_json(curve)).await.0, 201);
    let text = heard(two.into_body(), &["\"kind\":\"curves\""]).await;
    assert!(text.contains("\"kind\":\"curves\""), "it goes on for others: {text}");
}
