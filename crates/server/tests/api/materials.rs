//! Grounds and images.

use crate::studio::*;

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
        TestRequest::post()
            .uri(&format!("/api/v1/images?name={name}"))
            .insert_header(("content-type", "image/png"))
            .set_payload(bytes)
    };
    let colour = include_bytes!("../../../formats/tests/data/pictures/colour.png");
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

    // Named anew by who has seen its name, and by nobody else.
    let (_, named) = ask(&app, &me, send("ridges", colour)).await;
    let at = format!("/api/v1/images/{}", named["image"]["id"].as_str().expect("an id"));
    let rename =
        |name: &str| TestRequest::put().uri(&at).set_json(json!({"seen": 1, "name": name, "tags": ["rag"]}));
    for _ in 0..2 {
        let (status, image) = ask(&app, &me, rename("reeds")).await;
        assert_eq!((status, &image["version"]), (200, &json!(2)), "asked twice, done once: {image}");
    }
    let (status, refusal) = ask(&app, &me, rename("late")).await;
    assert_eq!((status, &refusal["code"], &refusal["present"]), (409, &json!("conflict"), &json!(2)));

    // Another stands in for it in every tool that needs it; the tool's next version says so.
    let (_, first) = ask(&app, &me, send("reeds", colour)).await;
    let map = include_bytes!("../../../formats/tests/data/maps/map_p5_worn_plateau.png");
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

    // A tool cannot be kept, nor drafted, nor a ground made with an image that its painter does not have, whoever else may.
    let theirs = studio!(somebody());
    let they = sign_in(&theirs).await;
    let mut stamped = document("stamped");
    stamped["parameters"]["tip.image"] = json!(with);
    let their_own = TestRequest::post().uri("/api/v1/tools").set_json(json!({"document": document("reed")}));
    let (_, own) = ask(&theirs, &they, their_own).await;
    let own = format!("/api/v1/tools/{}", own["id"].as_str().expect("an id"));
    let recipe = json!({"surface": "image", "image": with});
    for (request, field) in [
        (TestRequest::post().uri("/api/v1/tools").set_json(json!({"document": stamped})), "document.image"),
        (
            TestRequest::post()
                .uri(&format!("{own}/versions"))
                .set_json(json!({"seen": 1, "document": stamped})),
            "document.image",
        ),
        (
            TestRequest::put()
                .uri(&format!("{own}/draft"))
                .set_json(json!({"seen": 0, "based_on": 1, "document": stamped})),
            "document.image",
        ),
        (
            TestRequest::post().uri("/api/v1/grounds").set_json(json!({"name": "scan", "recipe": recipe})),
            "recipe.image",
        ),
    ] {
        let (status, refusal) = ask(&theirs, &they, request).await;
        assert_eq!((status, &refusal["field"]), (422, &json!(field)), "{refusal}");
    }
    let large = TestRequest::post()
        .uri("/api/v1/images?name=large")
        .insert_header(("content-type", "image/png"))
        .set_payload(vec![0; (32 << 20) + 1]);
    let (status, refusal) = ask(&app, &me, large).await;
    assert_eq!((status, &refusal["code"], &refusal["field"]), (413, &json!("too-large"), &json!("body")));

    let bad = include_bytes!("../../../formats/tests/data/pictures/animated.png");
    let (status, refusal) = ask(&app, &me, send("moving", bad)).await;
    assert_eq!((status, &refusal["field"]), (422, &json!("image")), "{refusal}");
}

/// What is heavy waits its turn: where nobody may wait, it is told to come again, and everything else is answered.
#[actix_web::test]
async fn heavy_work_is_done_in_turns() {
    let none = || api::Heavy::new(0, 0);
    let app = studio!(
        somebody(),
        api::PATIENCE,
        api::Turns { pictures: none(), ways: none(), ..api::Turns::default() }
    );
    let me = sign_in(&app).await;
    let post = |at: &str| TestRequest::post().uri(&format!("/api/v1/{at}"));
    let one = format!("/api/v1/gestures/{}", uuid::Uuid::nil());
    let change = json!({"seen": 1, "name": "pull", "note": "", "tags": [], "on_proof": true, "inkml": INK});
    for request in [
        post("images?name=n").insert_header(("content-type", "application/octet-stream")).set_payload("?"),
        post("gestures").set_json(json!({"name": "pull", "inkml": INK})),
        TestRequest::put().uri(&one).set_json(&change),
    ] {
        let answer = call_service(&app, request.cookie(me.clone()).to_request()).await;
        assert_eq!(answer.status(), StatusCode::SERVICE_UNAVAILABLE);
        assert!(answer.headers().contains_key("retry-after"));
        let refusal: Value = read_body_json(answer).await;
        assert_eq!(refusal["code"], "busy", "not the database: {refusal}");
    }
    assert_eq!(ask(&app, &me, TestRequest::get().uri("/api/v1/gestures")).await.0, 200);
}
