//! Who gets in, and what the OpenAPI document describes.

use crate::studio::*;

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
    assert_eq!(schema["properties"]["parameters"]["properties"]["tip.width_mm"]["maximum"], 60.0);
}
