//! The studio: who paints here, whom its owners invite, and how much each may keep.

use actix_web::{HttpRequest, HttpResponse, delete, get, post, web};
use chrono::{DateTime, Duration, Utc};
use saltmarsh_store::studio::{self, Used};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::sent::Sent;
use super::session::{self, Painter, Session};
use super::{ApiError, App, Line, passwords, query, tries, words};

/// An invitation can be taken for so long.
const INVITED_FOR: Duration = Duration::days(7);

/// How much a painter may keep.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct Room {
    /// Kept versions, drafts, gestures, grounds, images, styluses and curves.
    pub rows: i64,
    pub bytes: i64,
}

impl Default for Room {
    fn default() -> Self {
        Self { rows: 100_000, bytes: 1 << 30 }
    }
}

/// Refuses what is new where its painter keeps as much as may be. Several at once may go a little beyond.
///
/// # Errors
/// There is no room for it.
pub(super) async fn has_room(app: &web::Data<App>, painter: Uuid, bytes: usize) -> Result<(), ApiError> {
    full(app, painter, bytes).await?.map_or(Ok(()), Err)
}

/// How something new would be refused; nothing where there is room for it.
///
/// # Errors
/// What the database says.
pub(super) async fn full(
    app: &web::Data<App>,
    painter: Uuid,
    bytes: usize,
) -> Result<Option<ApiError>, ApiError> {
    let Used { rows, bytes: held } = query(app, move |db| studio::used(db, painter)).await?;
    let mib = |bytes: i64| bytes as f64 / f64::from(1 << 20);
    let most = app.room;
    Ok(if rows >= most.rows {
        Some(ApiError::full(&format!("{rows} of {} things", most.rows)))
    } else if held + bytes as i64 > most.bytes {
        Some(ApiError::full(&format!("{:.1} of {:.1} MiB", mib(held), mib(most.bytes))))
    } else {
        None
    })
}

/// What was done, else the refusal of what was not done already.
pub(super) fn done_or<T>(done: Option<T>, full: Option<ApiError>) -> Result<T, ApiError> {
    done.ok_or_else(|| full.unwrap_or_else(|| ApiError::internal("neither done nor refused")))
}

/// How much the painter keeps, and may keep.
#[derive(Serialize, ToSchema)]
pub struct Holds {
    rows: i64,
    bytes: i64,
    most: Room,
}

/// How much I keep.
#[utoipa::path(get, operation_id = "studio_kept", path = "/kept", tag = "studio", responses((status = 200, body = Holds)))]
#[get("/kept")]
pub async fn kept(app: web::Data<App>, painter: Painter) -> Result<web::Json<Holds>, ApiError> {
    let Used { rows, bytes } = query(&app, move |db| studio::used(db, painter.id)).await?;
    Ok(web::Json(Holds { rows, bytes, most: app.room }))
}

/// Somebody who paints here.
#[derive(Serialize, ToSchema)]
pub struct Member {
    name: String,
    owner: bool,
    since: DateTime<Utc>,
    rows: i64,
    bytes: i64,
}

/// All who paint here, for owners.
#[utoipa::path(get, operation_id = "studio_painters", path = "/painters", tag = "studio",
    responses((status = 200, body = Vec<Member>), (status = 403, body = ApiError)))]
#[get("/painters")]
pub async fn painters(app: web::Data<App>, painter: Painter) -> Result<web::Json<Vec<Member>>, ApiError> {
    painter.must_own()?;
    let all = query(&app, |db| studio::members(db));
    let told = |studio::Member { name, owner, created_at, used: Used { rows, bytes } }| Member {
        name,
        owner,
        since: created_at,
        rows,
        bytes,
    };
    Ok(web::Json(all.await?.into_iter().map(told).collect()))
}

/// An invitation that nobody has taken yet.
#[derive(Serialize, ToSchema)]
pub struct Invitation {
    id: Uuid,
    made_at: DateTime<Utc>,
    expires_at: DateTime<Utc>,
}

impl From<studio::Invitation> for Invitation {
    fn from(i: studio::Invitation) -> Self {
        Self { id: i.id, made_at: i.made_at, expires_at: i.expires_at }
    }
}

/// A new invitation, with what whoever is invited shows.
#[derive(Serialize, ToSchema)]
pub struct Invited {
    invitation: Invitation,
    /// It is told this once and not kept.
    code: String,
}

/// Invite a painter, for owners.
#[utoipa::path(post, operation_id = "studio_invite", path = "/invitations", tag = "studio",
    responses((status = 201, body = Invited), (status = 403, body = ApiError)))]
#[post("/invitations")]
pub async fn invite(app: web::Data<App>, painter: Painter) -> Result<HttpResponse, ApiError> {
    painter.must_own()?;
    let code = session::new_token();
    let hashed = session::hash(&code);
    let expires = Utc::now() + INVITED_FOR;
    let made = query(&app, move |db| studio::invite(db, painter.id, &hashed, expires)).await?;
    Ok(HttpResponse::Created().json(Invited { invitation: made.into(), code }))
}

/// Invitations that can be taken, for owners.
#[utoipa::path(get, operation_id = "studio_invitations", path = "/invitations", tag = "studio",
    responses((status = 200, body = Vec<Invitation>), (status = 403, body = ApiError)))]
#[get("/invitations")]
pub async fn invitations(
    app: web::Data<App>,
    painter: Painter,
) -> Result<web::Json<Vec<Invitation>>, ApiError> {
    painter.must_own()?;
    let all = query(&app, |db| studio::invitations(db)).await?;
    Ok(web::Json(all.into_iter().map(Invitation::from).collect()))
}

/// Take an invitation back, for owners.
#[utoipa::path(delete, operation_id = "studio_withdraw", path = "/invitations/{id}", tag = "studio", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 403, body = ApiError), (status = 404, body = ApiError)))]
#[delete("/invitations/{id}")]
pub async fn withdraw(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, ApiError> {
    painter.must_own()?;
    query(&app, move |db| studio::withdraw(db, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Who was invited, and how they will sign in.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Accept {
    /// The invitation's code.
    code: String,
    name: String,
    /// 10 to 200 characters.
    password: String,
}

/// Become a painter here, by invitation; signs in.
#[utoipa::path(post, operation_id = "studio_accept", path = "/painters", tag = "session", request_body = Accept,
    responses((status = 201, body = Session), (status = 404, body = ApiError), (status = 409, body = ApiError), (status = 422, body = ApiError),
    (status = 429, body = ApiError)))]
#[post("/painters")]
pub async fn accept(
    app: web::Data<App>,
    request: HttpRequest,
    Sent(body): Sent<Accept>,
) -> Result<HttpResponse, ApiError> {
    let Accept { code, name, password } = body;
    let name = words::name(&name)?;
    let address = session::address_of(&app, &request);
    let from = tries::who(None, address);
    // It counts as made up until it is known not to be.
    tries::tried(&app, &from).await?;
    let hashed =
        app.turns.passwords.run(Line::Address(address), move || passwords::hashed(&password)).await??;
    let code = session::hash(&code);
    let painter = query(&app, move |db| studio::accept(db, &code, &name, &hashed)).await?;
    tries::right(&app, from).await?;
    if let Some(folder) = app.begin_with.clone() {
        let (pool, name) = (app.pool.clone(), painter.name.clone());
        let loaded = web::block(move || crate::demo::load(&pool, &folder, &name)).await;
        // The painter is there, and can begin without: that is told to those who run the server.
        if !matches!(loaded, Ok(Ok(()))) {
            tracing::error!(painter = %painter.id, ?loaded, "what painters begin with was not loaded");
        }
    }
    session::begun(&app, painter, HttpResponse::Created()).await
}
