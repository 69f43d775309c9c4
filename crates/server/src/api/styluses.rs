//! Styluses: device profile and calibration, kept for a painter and recognised by what the browser reports.

use actix_web::{HttpRequest, HttpResponse, delete, get, post, put, web};
use saltmarsh_core::error::text;
use saltmarsh_core::hand::document;
use saltmarsh_store::styluses;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

use super::sent::Sent;
use super::session::Painter;
use super::studio::has_room;
use super::{ApiError, App, query, tagged};

const LONGEST_DEVICE: usize = 200;

/// A stylus that the painter knows.
#[derive(Serialize, ToSchema)]
pub struct Stylus {
    id: Uuid,
    /// What the browser reports of the device.
    device: String,
    /// The stylus document; its schema is at `/stylus-schema`.
    #[schema(value_type = Object)]
    document: Value,
    version: i32,
    /// Whether this is the one in use for its device.
    active: bool,
}

/// A stylus to keep.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewStylus {
    device: String,
    #[schema(value_type = Object)]
    document: Value,
}

/// What a stylus is to become.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NextStylus {
    /// The version that the painter has seen.
    seen: i32,
    #[schema(value_type = Object)]
    document: Value,
}

impl TryFrom<styluses::Stylus> for Stylus {
    type Error = ApiError;
    /// With its document as this program writes it: rows live longer than declarations.
    fn try_from(s: styluses::Stylus) -> Result<Self, ApiError> {
        let hand = document::parse(&s.document.to_string()).map_err(ApiError::internal)?;
        let document = document::to_json(&hand);
        Ok(Self { id: s.id, device: s.device, document, version: s.version, active: s.active })
    }
}

/// The name and the checked document.
fn checked(document: &Value) -> Result<(String, Value), ApiError> {
    let hand = document::parse(&document.to_string()).map_err(|e| e.within("document"))?;
    Ok((hand.profile.name.trim().to_owned(), document::to_json(&hand)))
}

/// All styluses of the painter.
#[utoipa::path(get, operation_id = "stylus_list", path = "/styluses", tag = "styluses", responses((status = 200, body = Vec<Stylus>), (status = 304, description = "as it was told before")))]
#[get("/styluses")]
pub async fn list(
    app: web::Data<App>,
    painter: Painter,
    request: HttpRequest,
) -> Result<HttpResponse, ApiError> {
    let all = query(&app, move |db| styluses::list(db, painter.id)).await?;
    // One row that cannot be read (it is logged) does not keep the painter from all others.
    let all: Vec<Stylus> = all.into_iter().filter_map(|stylus| Stylus::try_from(stylus).ok()).collect();
    Ok(tagged::json(&request, &all))
}

/// Keep a stylus; it becomes the active one of its device.
#[utoipa::path(post, operation_id = "stylus_add", path = "/styluses", tag = "styluses", request_body = NewStylus,
    responses((status = 201, body = Stylus), (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[post("/styluses")]
pub async fn add(
    app: web::Data<App>,
    painter: Painter,
    Sent(body): Sent<NewStylus>,
) -> Result<HttpResponse, ApiError> {
    let new = body;
    let device = text("device", &new.device, 1, LONGEST_DEVICE)?.to_owned();
    let (name, document) = checked(&new.document)?;
    has_room(&app, painter.id, 0).await?;
    let added = query(&app, move |db| styluses::add(db, painter.id, &name, &device, &document)).await?;
    Ok(HttpResponse::Created().json(Stylus::try_from(added)?))
}

/// Save a stylus as its next version.
#[utoipa::path(put, operation_id = "stylus_save", path = "/styluses/{id}", tag = "styluses", params(("id" = Uuid, Path)),
    request_body = NextStylus, responses((status = 200, body = Stylus), (status = 404, body = ApiError),
    (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[put("/styluses/{id}")]
pub async fn save(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
    Sent(body): Sent<NextStylus>,
) -> Result<web::Json<Stylus>, ApiError> {
    let (name, document) = checked(&body.document)?;
    let saved =
        query(&app, move |db| styluses::save(db, painter.id, *id, body.seen, &name, &document)).await?;
    Ok(web::Json(saved.try_into()?))
}

/// Make a stylus the active one of its device.
#[utoipa::path(post, operation_id = "stylus_make_active", path = "/styluses/{id}/active", tag = "styluses", params(("id" = Uuid, Path)),
    responses((status = 200, body = Stylus), (status = 404, body = ApiError)))]
#[post("/styluses/{id}/active")]
pub async fn make_active(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<web::Json<Stylus>, ApiError> {
    let active = query(&app, move |db| styluses::make_active(db, painter.id, *id)).await?;
    Ok(web::Json(active.try_into()?))
}

/// Take a stylus away.
#[utoipa::path(delete, operation_id = "stylus_remove", path = "/styluses/{id}", tag = "styluses", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ApiError)))]
#[delete("/styluses/{id}")]
pub async fn remove(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, ApiError> {
    query(&app, move |db| styluses::remove(db, painter.id, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}
