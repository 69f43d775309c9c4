//! Gestures and curves.

use crate::studio::*;

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
    let renamed = json!({"seen": 1, "name": "longer pull", "note": "", "tags": [], "on_proof": false});
    // Asked twice for the same, it is done once; a window that has not seen it overwrites nothing.
    for _ in 0..2 {
        let (status, changed) = ask(&app, &me, TestRequest::put().uri(&at).set_json(&renamed)).await;
        assert_eq!((status, &changed["name"], &changed["content_hash"]), (200, &json!("longer pull"), &hash));
        assert_eq!(changed["version"], 2);
    }
    let late = json!({"seen": 1, "name": "late pull", "note": "", "tags": [], "on_proof": false});
    let (status, refusal) = ask(&app, &me, TestRequest::put().uri(&at).set_json(late)).await;
    assert_eq!((status, &refusal["code"], &refusal["present"]), (409, &json!("conflict"), &json!(2)));
    // Device units are hundredths of a millimetre.
    assert!((gesture.passes()[0][2].x - 5.0).abs() < 1e-9);
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 204);
    assert_eq!(ask(&app, &me, TestRequest::delete().uri(&at)).await.0, 404);
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
    let to = json!({"seen": 1, "name": "p", "note": "", "tags": [], "on_proof": true, "inkml": INK});
    let change = TestRequest::put()
        .uri(&format!("/api/v1/gestures/{}", gesture["id"].as_str().expect("an id")))
        .set_json(to);
    assert_eq!(ask(&app, &me, change).await.1["stylus"]["name"], "Stiff pen");
}
