//! Signing in: a random token in a cookie, its hash in the database.
//!
//! A server started with `--painter NAME` signs any browser that reaches it in as that painter. Any other asks for name and password
//! (`saltmarsh painter` gives one), slows down whoever tries wrong ones, and gives a new token for one that is a day old.

use std::future::{Ready, ready};
use std::net::IpAddr;
use std::time::Instant;

use actix_web::cookie::{Cookie, SameSite, time::Duration as CookieDuration};
use actix_web::dev::Payload;
use actix_web::{
    FromRequest, HttpMessage, HttpRequest, HttpResponse, HttpResponseBuilder, delete, get, post, web,
};
use chrono::{Duration, Utc};
use rand::Rng;
use saltmarsh_store::painters;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use utoipa::ToSchema;
use uuid::Uuid;

use super::sent::{self, JSON};
use super::{ApiError, App, Line, passwords, query, tries};

/// The cookie; where the server is reached by HTTPS alone no other host nor plain HTTP can set it (RFC 6265bis, `__Host-`).
pub(super) const COOKIE: &str = "saltmarsh_session";
pub(super) const TLS_COOKIE: &str = "__Host-saltmarsh_session";
const DAYS: i64 = 90;
/// A token is renewed once it is so old, and good for so long afterwards.
const RENEWED_AFTER: Duration = Duration::days(1);
const GOOD_AFTERWARDS: Duration = Duration::minutes(1);

/// The painter who asks.
#[derive(Clone)]
pub struct Painter {
    pub id: Uuid,
    pub name: String,
    /// May invite others, and see who paints here.
    pub owner: bool,
}

impl Painter {
    /// # Errors
    /// It is for owners of the studio alone.
    pub(super) fn must_own(&self) -> Result<(), ApiError> {
        if self.owner { Ok(()) } else { Err(ApiError::owners_only()) }
    }
}

/// Whom the guard found signed in.
impl FromRequest for Painter {
    type Error = ApiError;
    type Future = Ready<Result<Self, ApiError>>;

    fn from_request(request: &HttpRequest, _: &mut Payload) -> Self::Future {
        ready(request.extensions().get::<Self>().cloned().ok_or_else(ApiError::sign_in))
    }
}

/// Who sends a request.
///
/// # Errors
/// Nobody who is signed in.
pub(super) async fn signed_in(app: &web::Data<App>, request: &HttpRequest) -> Result<Painter, ApiError> {
    let token = hash(&token_of(app, request).ok_or_else(ApiError::sign_in)?);
    let now = Instant::now();
    if let Some(painter) = app.known.painter(&token, now) {
        return Ok(painter);
    }
    let asked = token.clone();
    let found = query(app, move |db| match painters::signed_in(db, &asked) {
        Err(saltmarsh_store::Error::Missing(_)) => Ok(None),
        other => other.map(Some),
    });
    let painter = found.await?.ok_or_else(ApiError::sign_in)?;
    let painter = Painter { id: painter.id, name: painter.name, owner: painter.owner };
    app.known.found(token, painter.clone(), now);
    Ok(painter)
}

fn token_of(app: &App, request: &HttpRequest) -> Option<String> {
    request.cookie(if app.tls { TLS_COOKIE } else { COOKIE }).map(|c| c.value().to_owned())
}

pub(super) fn hash(token: &str) -> Vec<u8> {
    Sha256::digest(token.as_bytes()).to_vec()
}

pub(super) fn new_token() -> String {
    let mut bytes = [0_u8; 32];
    rand::rng().fill_bytes(&mut bytes);
    saltmarsh_core::num::hex(&bytes)
}

fn cookie(app: &App, token: String, days: i64) -> Cookie<'static> {
    let cookie = Cookie::build(if app.tls { TLS_COOKIE } else { COOKIE }, token);
    let cookie = if app.tls { cookie.path("/").secure(true) } else { cookie.path("/api") };
    cookie.http_only(true).same_site(SameSite::Strict).max_age(CookieDuration::days(days)).finish()
}

/// Who is signed in.
#[derive(Serialize, ToSchema)]
pub struct Session {
    painter: String,
    /// May invite others, and see who paints here.
    owner: bool,
    /// This server signs everybody in who reaches it: there is nothing to sign out of.
    open: bool,
}

/// Whom to sign in as.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SignIn {
    name: String,
    password: String,
}

/// Sign in: with name and password, or without a body where the server signs everybody in.
#[utoipa::path(post, operation_id = "session_open", path = "/session", tag = "session", request_body = Option<SignIn>,
    responses((status = 200, body = Session), (status = 401, body = ApiError), (status = 403, body = ApiError), (status = 429, body = ApiError)))]
#[post("/session")]
pub async fn open(
    app: web::Data<App>,
    request: HttpRequest,
    body: Result<web::Bytes, actix_web::Error>,
) -> Result<HttpResponse, ApiError> {
    let body = sent::whole(body, super::MOST_BODY)?;
    let painter = if body.is_empty() {
        let name = app.open_painter.clone().ok_or_else(ApiError::closed)?;
        // Whoever is somebody already stays so: a page that asks before it knows takes nobody's place.
        if let Ok(Painter { name: painter, owner, .. }) = signed_in(&app, &request).await {
            return Ok(HttpResponse::Ok().json(Session { painter, owner, open: true }));
        }
        query(&app, move |db| painters::ensure(db, &name)).await?
    } else {
        if !request.content_type().eq_ignore_ascii_case(JSON) {
            return Err(ApiError::kind(JSON));
        }
        proven(&app, sent::read(&body)?, address_of(&app, &request)).await?
    };
    begun(&app, painter, HttpResponse::Ok()).await
}

/// Signs a painter in, with an answer that says so.
pub(super) async fn begun(
    app: &web::Data<App>,
    painter: painters::Painter,
    mut answer: HttpResponseBuilder,
) -> Result<HttpResponse, ApiError> {
    let token = new_token();
    let hashed = hash(&token);
    query(app, move |db| painters::sign_in(db, painter.id, &hashed, Utc::now() + Duration::days(DAYS)))
        .await?;
    let session = Session { painter: painter.name, owner: painter.owner, open: app.open_painter.is_some() };
    Ok(answer.cookie(cookie(app, token, DAYS)).json(session))
}

/// Where a request comes from. Behind a proxy that ends TLS that is the last address in `X-Forwarded-For`: the one which the proxy has added;
/// those before it may be made up.
pub(super) fn address_of(app: &App, request: &HttpRequest) -> Option<IpAddr> {
    let told = request.headers().get_all("x-forwarded-for").last().filter(|_| app.tls);
    let last = told.and_then(|v| v.to_str().ok()?.rsplit(',').next()?.trim().parse().ok());
    last.or_else(|| request.peer_addr().map(|a| a.ip()))
}

/// The painter whose password was given.
async fn proven(
    app: &web::Data<App>,
    SignIn { name, password }: SignIn,
    from: Option<IpAddr>,
) -> Result<painters::Painter, ApiError> {
    let name = super::words::name(&name)?;
    let who = tries::who(Some(&name), from);
    tries::tried(app, &who).await?;
    let known = query(app, move |db| painters::known(db, &name)).await?;
    let (painter, kept) = known.map_or((None, None), |(painter, kept)| (Some(painter), kept));
    let fits = app
        .turns
        .passwords
        .run(Line::Address(from), move || passwords::fits(&password, kept.as_deref()))
        .await?;
    let painter = painter.filter(|_| fits).ok_or_else(ApiError::wrong_password)?;
    tries::right(app, who).await?;
    Ok(painter)
}

/// Who am I? A token that is a day old is renewed.
#[utoipa::path(get, operation_id = "session_show", path = "/session", tag = "session", responses((status = 200, body = Session), (status = 401, body = ApiError)))]
#[get("/session")]
pub async fn show(app: web::Data<App>, request: HttpRequest) -> Result<HttpResponse, ApiError> {
    let painter = signed_in(&app, &request).await?;
    let (old, new) = (token_of(&app, &request).unwrap_or_default(), new_token());
    let hashes = [hash(&old), hash(&new)];
    let renewed = query(&app, move |db| {
        let [old, new] = &hashes;
        let expires = Utc::now() + Duration::days(DAYS);
        painters::renew(db, [old, new], expires, [RENEWED_AFTER, GOOD_AFTERWARDS])
    });
    let session = Session { painter: painter.name, owner: painter.owner, open: app.open_painter.is_some() };
    let mut answer = HttpResponse::Ok();
    if renewed.await? {
        answer.cookie(cookie(&app, new, DAYS));
    }
    Ok(answer.json(session))
}

/// Sign out.
#[utoipa::path(delete, operation_id = "session_close", path = "/session", tag = "session", responses((status = 204)))]
#[delete("/session")]
pub async fn close(app: web::Data<App>, request: HttpRequest) -> Result<HttpResponse, ApiError> {
    if let Some(token) = token_of(&app, &request) {
        query(&app, move |db| painters::sign_out(db, &hash(&token))).await?;
        app.known.forget();
    }
    Ok(HttpResponse::NoContent().cookie(cookie(&app, String::new(), 0)).finish())
}

/// Sign out wherever this painter is signed in.
#[utoipa::path(delete, operation_id = "session_close_all", path = "/sessions", tag = "session", responses((status = 204)))]
#[delete("/sessions")]
pub async fn close_all(app: web::Data<App>, painter: Painter) -> Result<HttpResponse, ApiError> {
    query(&app, move |db| painters::sign_out_everywhere(db, painter.id)).await?;
    app.known.forget();
    Ok(HttpResponse::NoContent().cookie(cookie(&app, String::new(), 0)).finish())
}
