//! Styluses.

use crate::studio::*;

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
