//! Who gets in, and what the OpenAPI document describes.

use std::net::{IpAddr, Ipv6Addr, SocketAddr};

use diesel::connection::SimpleConnection;

use crate::studio::*;

/// Whoever is not signed in hears of nothing but that, at every address, and nothing that they send is read.
#[actix_web::test]
async fn nobody_gets_in_without_signing_in() {
    let app = studio!(somebody());
    let open = ["/session", "/openapi.json", "/tool-schema", "/stylus-schema", "/health", "/alive"];
    let answer = call_service(&app, TestRequest::get().uri("/api/v1/openapi.json").to_request()).await;
    let document: Value = read_body_json(answer).await;
    let mut count = 0;
    for (path, verbs) in document["paths"].as_object().expect("paths") {
        if open.contains(&path.as_str()) {
            continue;
        }
        for verb in verbs.as_object().expect("verbs").keys() {
            // Whoever is invited comes there.
            let security = &document["paths"][path][verb]["security"];
            if (verb.as_str(), path.as_str()) == ("post", "/painters") {
                assert!(security.is_null(), "{path}");
                continue;
            }
            assert_eq!(security[0]["session"], json!([]), "{verb} {path} says who may ask");
            for forged in [None, Some(""), Some("0123"), Some("é")] {
                let method = verb.to_uppercase().parse().expect("a verb");
                // No id, no shape: had it been read, that would have been said.
                let request =
                    TestRequest::default().method(method).uri(&format!("/api/v1{}", path.replace('{', "_")));
                let request = forged
                    .iter()
                    .fold(request, |r, token| r.cookie(Cookie::new("saltmarsh_session", *token)));
                let request = request.insert_header(("content-type", "application/json")).set_payload("{");
                let answer = call_service(&app, request.to_request()).await;
                assert_eq!(answer.status(), StatusCode::UNAUTHORIZED, "{verb} {path}");
                let refusal: Value = read_body_json(answer).await;
                assert_eq!(refusal["code"], "sign-in", "{verb} {path}");
                count += 1;
            }
        }
    }
    assert!(count > 100, "{count} requests");
    let me = TestRequest::get().uri("/api/v1/session");
    assert_eq!(call_service(&app, me.to_request()).await.status(), StatusCode::UNAUTHORIZED);
    let closed = studio!(None);
    let answer = call_service(&closed, TestRequest::post().uri("/api/v1/session").to_request()).await;
    assert_eq!(answer.status(), StatusCode::FORBIDDEN);
}

/// The cookie is for this server's own pages, out of reach of scripts; where all come by HTTPS, of no other way and of no other host.
#[actix_web::test]
async fn the_cookie_is_kept_close() {
    use actix_web::cookie::SameSite;
    let plain = sign_in(&studio!(somebody())).await;
    let over_tls = studio!(somebody(), api::PATIENCE, api::Turns::default(), true);
    let secure = sign_in(&over_tls).await;
    for cookie in [&plain, &secure] {
        assert_eq!(
            (cookie.http_only(), cookie.same_site()),
            (Some(true), Some(SameSite::Strict)),
            "{cookie}"
        );
    }
    assert_eq!((plain.name(), plain.path()), ("saltmarsh_session", Some("/api")));
    assert_eq!((secure.name(), secure.path()), ("__Host-saltmarsh_session", Some("/")));
    assert!(secure.secure() == Some(true) && secure.domain().is_none(), "{secure}");
    let session = || TestRequest::get().uri("/api/v1/session");
    assert_eq!(ask(&over_tls, &secure, session()).await.0, 200);
    let renamed = Cookie::new("saltmarsh_session", secure.value().to_owned());
    assert_eq!(ask(&over_tls, &renamed, session()).await.0, 401, "one that plain HTTP could have set");
}

/// Painters sign in by name and password, slowly where they guess, and out again, here or everywhere.
#[actix_web::test]
async fn painters_sign_in_by_password_and_out() {
    use saltmarsh_store::painters;
    let app = studio!(None);
    let url = std::env::var("DATABASE_URL").expect("set by ./run test");
    let mut db = Pool::connect(&url, 1).and_then(|p| p.get()).expect("a connection");
    let [reed, open] = ["Reed", "Open"].map(|n| format!("{n} {}", uuid::Uuid::new_v4()));
    let kept = api::passwords::hashed("salt and reeds").expect("a password");
    painters::set_password(&mut db, &reed, &kept).expect("a painter");
    // One who is signed in by the server alone has none.
    painters::ensure(&mut db, &open).expect("a painter");
    let here = somewhere(1);
    let sign_in = |name: &str, password: &str| {
        let body = json!({"name": name, "password": password});
        TestRequest::post().uri("/api/v1/session").set_json(body).peer_addr(SocketAddr::new(here, 4000))
    };
    let session = || TestRequest::get().uri("/api/v1/session");
    let enter = async || {
        let answer = call_service(&app, sign_in(&reed, "salt and reeds").to_request()).await;
        assert_eq!(answer.status(), StatusCode::OK);
        answer.response().cookies().next().expect("a cookie").into_owned()
    };
    let (first, second) = (enter().await, enter().await);
    assert!(first.http_only() == Some(true) && first.value() != second.value(), "{first}");
    assert_eq!(
        ask(&app, &first, session()).await,
        (200, json!({"painter": reed, "owner": false, "open": false}))
    );
    assert_eq!(ask(&app, &first, TestRequest::delete().uri("/api/v1/session")).await.0, 204);
    assert_eq!(ask(&app, &first, session()).await.0, 401);
    let third = enter().await;
    assert_eq!(ask(&app, &third, TestRequest::delete().uri("/api/v1/sessions")).await.0, 204);
    assert_eq!(ask(&app, &second, session()).await.0, 401, "everywhere");

    // A server that signs everybody in leaves whoever is somebody who they are.
    let house = studio!(somebody());
    let here_too = enter().await;
    let unasked = TestRequest::post().uri("/api/v1/session").cookie(here_too).to_request();
    let answer = call_service(&house, unasked).await;
    assert!(answer.response().cookies().next().is_none(), "another sign-in");
    assert_eq!(read_body_json::<Value, _>(answer).await["painter"], json!(reed));

    // A new password ends what was signed in with the old one.
    let fourth = enter().await;
    painters::set_password(&mut db, &reed, &kept).expect("again");
    assert_eq!(ask(&app, &fourth, session()).await.0, 401);

    // An old token is put in the place of a new one, once, and is good for the requests that were under way.
    let old = enter().await;
    let of_reed = format!("(SELECT id FROM painters WHERE name = '{reed}')");
    db.batch_execute(&format!(
        "UPDATE sessions SET created_at = now() - interval '25 hours' WHERE painter_id = {of_reed}"
    ))
    .expect("a day later");
    let answer = call_service(&app, session().cookie(old.clone()).to_request()).await;
    let new = answer.response().cookies().next().expect("a new token").into_owned();
    assert_ne!(new.value(), old.value());
    assert_eq!(ask(&app, &new, session()).await.0, 200);
    let again = call_service(&app, session().cookie(old.clone()).to_request()).await;
    assert!(again.status() == StatusCode::OK && again.response().cookies().next().is_none());
    db.batch_execute(&format!("UPDATE sessions SET expires_at = now() - interval '1 second' WHERE painter_id = {of_reed} AND created_at < now() - interval '1 hour'"))
        .expect("a minute later");
    // Who was found a moment ago is known for a second.
    actix_web::rt::time::sleep(std::time::Duration::from_millis(1100)).await;
    assert_eq!(ask(&app, &old, session()).await.0, 401);

    // What is wrong is not said, and guessing is slowed down, for that name and that address.
    let nobody = format!("Nobody {}", uuid::Uuid::new_v4());
    for (name, password) in [(&reed, "salt and reed"), (&open, ""), (&nobody, "salt and reeds")] {
        let answer = call_service(&app, sign_in(name, password).to_request()).await;
        assert_eq!(answer.status(), StatusCode::UNAUTHORIZED);
        let refusal: Value = read_body_json(answer).await;
        assert_eq!((&refusal["code"], &refusal["field"]), (&json!("wrong"), &Value::Null));
    }
    for _ in 0..3 {
        assert_eq!(call_service(&app, sign_in(&nobody, "guess").to_request()).await.status(), 401);
    }
    // Whatever is tried from there counts, also what is no password.
    for _ in 0..15 {
        let body = json!({"code": "made up", "name": nobody, "password": "short"});
        let made_up =
            TestRequest::post().uri("/api/v1/painters").set_json(body).peer_addr(SocketAddr::new(here, 4000));
        assert_eq!(call_service(&app, made_up.to_request()).await.status(), 422);
    }
    let slow = call_service(&app, sign_in(&reed, "salt and reeds").to_request()).await;
    assert_eq!(slow.status(), StatusCode::TOO_MANY_REQUESTS);
    assert!(slow.headers().contains_key("retry-after"));
    let elsewhere = sign_in(&reed, "salt and reeds").peer_addr(SocketAddr::new(somewhere(1), 4000));
    assert_eq!(call_service(&app, elsewhere.to_request()).await.status(), StatusCode::OK, "another address");
}

/// Copies of the server count wrong passwords together. Behind a proxy they count for whom the proxy names last; elsewhere what a request says
/// of that is not believed.
#[actix_web::test]
async fn guessing_is_slowed_down_by_address_on_all_copies() {
    let copy = studio!(None, api::PATIENCE, api::Turns::default(), true);
    let other = studio!(None, api::PATIENCE, api::Turns::default(), true);
    let guess = |from: &str| {
        let body = json!({"name": format!("nobody {}", uuid::Uuid::new_v4()), "password": "guess"});
        TestRequest::post()
            .uri("/api/v1/session")
            .set_json(body)
            .insert_header(("x-forwarded-for", from.to_owned()))
    };
    let (far, near) = (somewhere(1), somewhere(1));
    for k in 0..3 {
        // Of a network that is one subscriber's.
        let from = format!("{far}, {}", beside(near, k));
        assert_eq!(call_service(&copy, guess(&from).to_request()).await.status(), 401);
        assert_eq!(call_service(&other, guess(&from).to_request()).await.status(), 401);
    }
    for k in 0..15 {
        let body = json!({"code": "made up", "name": "nobody", "password": "short"});
        let from = ("x-forwarded-for", beside(near, k).to_string());
        let made_up = TestRequest::post().uri("/api/v1/painters").set_json(body).insert_header(from);
        assert_eq!(call_service(&copy, made_up.to_request()).await.status(), 422);
    }
    assert_eq!(call_service(&other, guess(&near.to_string()).to_request()).await.status(), 429);
    assert_eq!(call_service(&copy, guess(&far.to_string()).to_request()).await.status(), 401);
    let plain = studio!(None);
    let believed = guess(&near.to_string()).peer_addr(SocketAddr::new(somewhere(1), 4000));
    assert_eq!(call_service(&plain, believed.to_request()).await.status(), 401);
}

/// An address in a network that nobody else is in (RFC 4193).
fn somewhere(last: u64) -> IpAddr {
    let network = uuid::Uuid::new_v4().as_u64_pair().0 >> 8 | 0xfd << 56;
    Ipv6Addr::from_bits(u128::from(network) << 64 | u128::from(last)).into()
}

/// Another of the same network.
fn beside(address: IpAddr, by: u64) -> IpAddr {
    match address {
        IpAddr::V6(v6) => Ipv6Addr::from_bits(v6.to_bits() + u128::from(by)).into(),
        IpAddr::V4(_) => unreachable!("addresses of this test are of version 6"),
    }
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

/// Every address is guarded, ahead of sign-in and of whatever else it would say.
#[actix_web::test]
async fn what_is_packed_misdirected_or_of_another_site_is_refused_at_every_address() {
    let app = studio!(somebody());
    let cookie = sign_in(&app).await;
    let answer = call_service(&app, TestRequest::get().uri("/api/v1/openapi.json").to_request()).await;
    let document: Value = read_body_json(answer).await;
    let asked = |verb: &str, path: &str, headers: &[(&'static str, &'static str)]| {
        let verb = verb.to_uppercase().parse().expect("a verb");
        let at = path.replace("{id}", &uuid::Uuid::nil().to_string()).replace("{hash}", "00");
        let request = TestRequest::default().method(verb).uri(&format!("/api/v1{at}"));
        headers.iter().fold(request, |r, header| r.insert_header(*header))
    };
    // Three bytes of brotli that are no body: had it been unpacked, it would have been refused otherwise.
    let packed =
        [("host", "localhost:8710"), ("content-encoding", "br"), ("content-type", "application/json")];
    let rebound = [("host", "gallery.test:8710")];
    let site = [("host", "127.0.0.1:8710"), ("sec-fetch-site", "cross-site")];
    let origin = [("host", "127.0.0.1:8710"), ("origin", "http://gallery.test:8710")];
    let port = [("host", "127.0.0.1:8710"), ("origin", "http://127.0.0.1:9999")];
    let own = [("host", "studio.test"), ("origin", "https://studio.test"), ("sec-fetch-site", "same-origin")];
    let mut count = 0;
    for (path, verbs) in document["paths"].as_object().expect("paths") {
        for verb in verbs.as_object().expect("verbs").keys() {
            let told = |headers: &[(&'static str, &'static str)], cookie: Option<&Cookie<'static>>| {
                let request = asked(verb, path, headers);
                let request = match cookie {
                    Some(cookie) => request.cookie(cookie.clone()),
                    None => request,
                };
                request.set_payload(vec![0x0b, 0x02, 0x80]).to_request()
            };
            for (headers, status, reads) in [
                (&packed[..], 415, true),
                (&rebound[..], 421, true),
                (&site[..], 403, false),
                (&origin[..], 403, false),
                (&port[..], 403, false),
            ] {
                if !reads && verb == "get" {
                    continue;
                }
                for cookie in [None, Some(&cookie)] {
                    let answer = call_service(&app, told(headers, cookie)).await;
                    assert_eq!(answer.status().as_u16(), status, "{verb} {path} with {headers:?}");
                    let framed = answer.headers().get("content-security-policy").expect("a policy");
                    assert!(framed.to_str().expect("text").contains("frame-ancestors 'none'"));
                    let refusal: Value = read_body_json(answer).await;
                    assert!(["packed", "elsewhere"].contains(&refusal["code"].as_str().expect("a code")));
                    count += 1;
                }
            }
            let answer = call_service(&app, told(&own, Some(&cookie))).await;
            // That answer goes on for as long as it is listened to.
            if path == "/changes" {
                assert_eq!(answer.status(), StatusCode::OK);
                continue;
            }
            let answer = read_body(answer).await;
            let refusal: Value = serde_json::from_slice(&answer).unwrap_or_default();
            let refused = ["packed", "elsewhere"].iter().any(|code| refusal["code"] == *code);
            assert!(!refused, "{verb} {path} of its own page: {refusal}");
        }
    }
    assert!(count > 200, "{count} requests");
}
