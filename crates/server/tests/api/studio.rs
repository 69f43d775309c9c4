//! A studio of a test's own, and how it is asked.

use std::time::Duration;

pub use actix_web::body::MessageBody;
pub use actix_web::cookie::Cookie;
pub use actix_web::dev::{Service, ServiceResponse};
pub use actix_web::http::StatusCode;
pub use actix_web::middleware::from_fn;
pub use actix_web::test::{TestRequest, call_service, init_service, read_body, read_body_json};
pub use actix_web::{App as Actix, Error, web};
pub use saltmarsh_server::api::{self, App};
pub use saltmarsh_store::Pool;
pub use serde_json::{Value, json};

/// Takes a request to the API; gives status and JSON.
macro_rules! studio {
    ($open:expr) => {
        studio!($open, api::PATIENCE)
    };
    ($open:expr, $patience:expr) => {
        studio!($open, $patience, api::Turns::default())
    };
    ($open:expr, $patience:expr, $turns:expr) => {
        studio!($open, $patience, $turns, false)
    };
    ($open:expr, $patience:expr, $turns:expr, $tls:expr) => {
        served!(app_of($open, $patience, $turns, $tls))
    };
}

/// The server of an [`App`].
macro_rules! served {
    ($app:expr) => {
        init_service(
            Actix::new()
                .app_data(web::Data::new($app))
                .wrap(api::headers())
                .wrap(from_fn(api::watch::watched))
                .configure(api::configure),
        )
        .await
    };
}

pub fn app_of(open: Option<String>, patience: Duration, turns: api::Turns, tls: bool) -> App {
    let url =
        std::env::var("DATABASE_URL").expect("DATABASE_URL names the test database; ./run test sets it");
    // A machine that is busy may not get to it at once.
    let mut tries = (0..20).map(|_| Pool::connect(&url, 2));
    let pool = tries.find_map(Result::ok).expect("the test database answers");
    pool.migrate().expect("migrations run");
    let known = api::known::Known::default();
    App {
        changes: api::changes::Changes::listening(&url, known.clone()),
        in_line: api::InLine::at(&pool),
        together: api::Together::default(),
        pool,
        open_painter: open,
        hosts: vec!["studio.test".into()],
        patience,
        turns,
        known,
        tls,
        room: api::studio::Room::default(),
        begin_with: None,
        watch: api::watch::Watch::default(),
    }
}

pub fn somebody() -> Option<String> {
    Some(format!("painter {}", uuid::Uuid::new_v4()))
}

pub async fn sign_in<S, B>(app: &S) -> Cookie<'static>
where
    S: Service<actix_http::Request, Response = ServiceResponse<B>, Error = Error>,
    B: MessageBody,
{
    let answer = call_service(app, TestRequest::post().uri("/api/v1/session").to_request()).await;
    assert_eq!(answer.status(), StatusCode::OK);
    answer.response().cookies().next().expect("a session cookie").into_owned()
}

pub async fn ask<S, B>(app: &S, cookie: &Cookie<'static>, request: TestRequest) -> (u16, Value)
where
    S: Service<actix_http::Request, Response = ServiceResponse<B>, Error = Error>,
    B: MessageBody,
{
    let answer = call_service(app, request.cookie(cookie.clone()).to_request()).await;
    let status = answer.status().as_u16();
    let body = read_body(answer).await;
    (status, serde_json::from_slice(&body).unwrap_or(Value::Null))
}

pub fn document(name: &str) -> Value {
    json!({"format": "saltmarsh.tool", "version": 1, "name": name, "medium": "dry", "action": "lay",
        "parameters": {"tip.width_mm": 3.5}})
}

/// Three reports, in hundredths of a millimetre.
pub const INK: &str =
    "<ink xmlns=\"http://www.w3.org/2003/InkML\"><trace>100 200,300 400,500 450</trace></ink>";
