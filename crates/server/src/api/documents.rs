//! Documents about the API itself, and whether the server is well.

use std::time::Duration;

use actix_web::{HttpResponse, get, web};
use serde_json::Value;

use super::{ApiError, App, query};

/// A database that answered so long ago is there.
const FRESH: Duration = Duration::from_secs(1);

/// The OpenAPI document.
#[get("/openapi.json")]
pub async fn openapi_json() -> web::Json<&'static utoipa::openapi::OpenApi> {
    web::Json(super::openapi())
}

/// JSON Schema of tool documents.
#[utoipa::path(get, operation_id = "document_tool_schema", path = "/tool-schema", tag = "documents", responses((status = 200, body = Object)))]
#[get("/tool-schema")]
pub async fn tool_schema() -> web::Json<Value> {
    web::Json(saltmarsh_core::tool::schema::schema())
}

/// JSON Schema of stylus documents.
#[utoipa::path(get, operation_id = "document_stylus_schema", path = "/stylus-schema", tag = "documents", responses((status = 200, body = Object)))]
#[get("/stylus-schema")]
pub async fn stylus_schema() -> web::Json<Value> {
    web::Json(saltmarsh_core::hand::document::schema())
}

/// Whether the server answers: it is not to be started anew.
#[utoipa::path(get, operation_id = "document_alive", path = "/alive", tag = "documents", responses((status = 204)))]
#[get("/alive")]
pub async fn alive() -> HttpResponse {
    HttpResponse::NoContent().finish()
}

/// Whether the server is to be asked: its database answers, and it is not about to end.
#[utoipa::path(get, operation_id = "document_health", path = "/health", tag = "documents", responses((status = 204), (status = 503, body = ApiError)))]
#[get("/health")]
pub async fn health(app: web::Data<App>) -> Result<HttpResponse, ApiError> {
    if app.watch.ends() {
        return Err(ApiError::busy("this server is about to end: ask another, or again"));
    }
    // Under load it answers others all the time; whoever watches it does not wait behind them.
    if !app.in_line.answered_within(FRESH) {
        query(&app, |_| Ok(())).await?;
    }
    Ok(HttpResponse::NoContent().finish())
}
