//! The painter's own curves, to use in any response or calibration.

use actix_web::{HttpRequest, HttpResponse, delete, get, post, web};
use saltmarsh_core::chain::Curve as Points;
use saltmarsh_core::error::text;
use saltmarsh_store::curves;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::sent::Sent;
use super::session::Painter;
use super::studio::has_room;
use super::{ApiError, App, query, tagged};

const LONGEST_NAME: usize = 60;

/// A curve that the painter keeps.
#[derive(Serialize, ToSchema)]
pub struct Curve {
    id: Uuid,
    name: String,
    /// Points `[x, y]` in 0..1, x rising.
    points: Vec<[f64; 2]>,
}

/// A curve to keep.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewCurve {
    name: String,
    points: Vec<[f64; 2]>,
}

fn shown(c: curves::Curve) -> Result<Curve, ApiError> {
    let points = serde_json::from_value(c.points).map_err(ApiError::internal)?;
    Ok(Curve { id: c.id, name: c.name, points })
}

/// All curves of the painter, by name.
#[utoipa::path(get, operation_id = "curve_list", path = "/curves", tag = "curves", responses((status = 200, body = Vec<Curve>), (status = 304, description = "as it was told before")))]
#[get("/curves")]
pub async fn list(
    app: web::Data<App>,
    painter: Painter,
    request: HttpRequest,
) -> Result<HttpResponse, ApiError> {
    let all = query(&app, move |db| curves::list(db, painter.id)).await?;
    let all: Vec<Curve> = all.into_iter().map(shown).collect::<Result<_, _>>()?;
    Ok(tagged::json(&request, &all))
}

/// Keep a curve.
#[utoipa::path(post, operation_id = "curve_add", path = "/curves", tag = "curves", request_body = NewCurve,
    responses((status = 201, body = Curve), (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[post("/curves")]
pub async fn add(
    app: web::Data<App>,
    painter: Painter,
    Sent(body): Sent<NewCurve>,
) -> Result<HttpResponse, ApiError> {
    let new = body;
    let name = text("name", &new.name, 1, LONGEST_NAME)?.to_owned();
    Points::new(new.points.clone())?;
    let points = serde_json::to_value(&new.points).map_err(ApiError::internal)?;
    has_room(&app, painter.id, 0).await?;
    let added = query(&app, move |db| curves::add(db, painter.id, &name, &points)).await?;
    Ok(HttpResponse::Created().json(shown(added)?))
}

/// Take a curve away; responses that were made with it keep theirs.
#[utoipa::path(delete, operation_id = "curve_remove", path = "/curves/{id}", tag = "curves", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ApiError)))]
#[delete("/curves/{id}")]
pub async fn remove(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, ApiError> {
    query(&app, move |db| curves::remove(db, painter.id, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}
