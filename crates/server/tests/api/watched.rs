//! What those who run a server see of it.

use std::collections::HashSet;

use actix_web::http::ConnectionType;

use crate::studio::*;

#[actix_web::test]
async fn every_answer_has_an_id_and_its_route_is_counted() {
    let state = app_of(somebody(), api::PATIENCE, api::Turns::default(), false);
    let (watch, figures) = (state.watch.clone(), state.clone());
    let app = served!(state);
    let cookie = sign_in(&app).await;
    let mut ids = HashSet::new();
    let id = uuid::Uuid::new_v4();
    for (address, status) in
        [("/tools", 200), (&format!("/tools/{id}"), 404), ("/nothing/here", 404), ("/other", 404)]
    {
        let request = TestRequest::get().uri(&format!("/api/v1{address}")).cookie(cookie.clone());
        let answer = call_service(&app, request.to_request()).await;
        assert_eq!(answer.status().as_u16(), status, "{address}");
        let told = answer.headers().get("x-request-id").expect("an id").to_str().expect("text").to_owned();
        assert!(ids.insert(told), "no two requests have one id");
    }
    let made_up = TestRequest::default().method("BREW".parse().expect("a method")).uri("/api/v1/tools");
    assert_eq!(call_service(&app, made_up.cookie(cookie.clone()).to_request()).await.status().as_u16(), 405);
    let text = watch.figures(&figures);
    for line in [
        "saltmarsh_requests_total{method=\"GET\",route=\"/api/v1/tools\",status=\"200\"} 1",
        "saltmarsh_requests_total{method=\"GET\",route=\"/api/v1/tools/{id}\",status=\"404\"} 1",
        "saltmarsh_requests_total{method=\"other\",route=\"/api/v1/tools\",status=\"405\"} 1",
        "saltmarsh_request_seconds_count{route=\"/api/v1/tools\"} 2",
        "saltmarsh_waiting{work=\"pictures\"} 0",
        "saltmarsh_connections{state=\"busy\"} 0",
    ] {
        assert!(text.contains(line), "{line} in {text}");
    }
    assert!(
        !text.contains(&id.to_string()) && !text.contains("BREW") && !text.contains("nothing"),
        "addresses make no figures of their own"
    );
}

#[actix_web::test]
async fn a_server_that_is_about_to_end_lives_but_is_not_to_be_asked() {
    let state = app_of(somebody(), api::PATIENCE, api::Turns::default(), false);
    let watch = state.watch.clone();
    let app = served!(state);
    let cookie = sign_in(&app).await;
    let asked = async |address: &str| {
        let request = TestRequest::get().uri(&format!("/api/v1{address}")).cookie(cookie.clone());
        let answer = call_service(&app, request.to_request()).await;
        let closes = answer.response().head().connection_type() == ConnectionType::Close;
        (answer.status().as_u16(), closes)
    };
    assert_eq!([asked("/alive").await, asked("/health").await], [(204, false), (204, false)]);
    watch.end();
    assert_eq!([asked("/alive").await, asked("/health").await], [(204, true), (503, true)]);
    // What is asked all the same is answered.
    assert_eq!(asked("/tools").await, (200, true));
}
