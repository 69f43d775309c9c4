//! Signing in: a random token in a cookie, its hash in the database.
//!
//! There is one painter so far. A server started with `--painter NAME` signs any browser that reaches it in as that
//! painter; without it nobody is signed in.

use std::future::Future;
use std::pin::Pin;

use actix_web::cookie::{Cookie, SameSite, time::Duration as CookieDuration};
use actix_web::dev::Payload;
use actix_web::{FromRequest, HttpRequest, HttpResponse, get, post, web};
use rand::Rng;
use saltmarsh_store::painters;
use serde::Serialize;
use sha2::{Digest, Sha256};
use utoipa::ToSchema;
use uuid::Uuid;

use super::{ApiError, App, query};

const COOKIE: &str = "saltmarsh_session";
const DAYS: i64 = 90;

/// The painter who asks.
pub struct Painter {
    pub id: Uuid,
    pub name: String,
}

impl FromRequest for Painter {
    type Error = ApiError;
    type Future = Pin<Box<dyn Future<Output = Result<Self, ApiError>>>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        let token = request.cookie(COOKIE).map(|c| c.value().to_owned());
        let app = request.app_data::<web::Data<App>>().cloned();
        Box::pin(async move {
            let (Some(token), Some(app)) = (token, app) else { return Err(ApiError::sign_in()) };
            let found = query(&app, move |db| match painters::signed_in(db, &hash(&token)) {
                Err(saltmarsh_store::Error::Missing(_)) => Ok(None),
                other => other.map(Some),
            });
            let painter = found.await?.ok_or_else(ApiError::sign_in)?;
            Ok(Painter { id: painter.id, name: painter.name })
        })
    }
}

fn hash(token: &str) -> Vec<u8> {
    Sha256::digest(token.as_bytes()).to_vec()
}

/// Who is signed in.
#[derive(Serialize, ToSchema)]
pub struct Session {
    painter: String,
}

/// Sign in.
#[utoipa::path(post, operation_id = "session_open", path = "/session", tag = "session", responses((status = 200, body = Session), (status = 403, body = ApiError)))]
#[post("/session")]
pub async fn open(app: web::Data<App>) -> Result<HttpResponse, ApiError> {
    let name = app.open_painter.clone().ok_or_else(ApiError::closed)?;
    let token: String = {
        let mut bytes = [0_u8; 32];
        rand::rng().fill_bytes(&mut bytes);
        saltmarsh_core::num::hex(&bytes)
    };
    let hashed = hash(&token);
    let painter = query(&app, move |db| {
        let painter = painters::ensure(db, &name)?;
        painters::sign_in(db, painter.id, &hashed, chrono::Utc::now() + chrono::Duration::days(DAYS))?;
        Ok(painter)
    })
    .await?;
    let cookie = Cookie::build(COOKIE, token)
        .path("/api")
        .http_only(true)
        .same_site(SameSite::Strict)
        .max_age(CookieDuration::days(DAYS))
        .finish();
    Ok(HttpResponse::Ok().cookie(cookie).json(Session { painter: painter.name }))
}

/// Who am I?
#[utoipa::path(get, operation_id = "session_show", path = "/session", tag = "session", responses((status = 200, body = Session), (status = 401, body = ApiError)))]
#[get("/session")]
pub async fn show(painter: Painter) -> web::Json<Session> {
    web::Json(Session { painter: painter.name })
}
