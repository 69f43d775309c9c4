//! Pigments.

use actix_web::{get, web};
use saltmarsh_store::materials;
use serde::Serialize;
use utoipa::ToSchema;

use super::session::Painter;
use super::{ApiError, App, query};

/// A pigment: absorption and scattering in eight bands, mm⁻¹ at tube strength.
#[derive(Serialize, ToSchema)]
pub struct Pigment {
    code: String,
    name: String,
    absorption: Vec<f64>,
    scattering: Vec<f64>,
    source: String,
}

/// Pigments of the painter.
#[utoipa::path(get, operation_id = "material_pigments", path = "/pigments", tag = "materials", responses((status = 200, body = Vec<Pigment>)))]
#[get("/pigments")]
pub async fn pigments(app: web::Data<App>, painter: Painter) -> Result<web::Json<Vec<Pigment>>, ApiError> {
    let all = query(&app, move |db| materials::pigments(db, painter.id)).await?;
    let dto = |p: materials::Pigment| Pigment {
        code: p.code,
        name: p.name,
        absorption: p.absorption,
        scattering: p.scattering,
        source: p.source,
    };
    Ok(web::Json(all.into_iter().map(dto).collect()))
}
