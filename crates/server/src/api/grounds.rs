//! Grounds that the painter keeps.

use actix_web::{HttpRequest, HttpResponse, delete, get, post, put, web};
use saltmarsh_core::ground::Recipe;
use saltmarsh_store::grounds;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

use super::sent::Sent;
use super::session::Painter;
use super::studio::has_room;
use super::{ApiError, App, query, tagged, words};

/// A ground that the painter keeps.
#[derive(Serialize, ToSchema)]
pub struct Ground {
    id: Uuid,
    name: String,
    note: String,
    /// The recipe it is made from.
    #[schema(value_type = Object)]
    recipe: Value,
    /// Rises with every change.
    version: i32,
}

/// A ground to keep.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewGround {
    name: String,
    #[serde(default)]
    note: String,
    #[schema(value_type = Object)]
    recipe: Value,
}

/// What a ground is to become.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct GroundChange {
    name: String,
    note: String,
    #[schema(value_type = Object)]
    recipe: Value,
    /// The version that was changed.
    version: i32,
}

impl TryFrom<grounds::Ground> for Ground {
    type Error = ApiError;
    /// With its recipe as this program writes it: rows live longer than declarations.
    fn try_from(g: grounds::Ground) -> Result<Self, ApiError> {
        let recipe = Recipe::parse(&g.recipe.to_string()).map_err(ApiError::internal)?;
        let recipe = serde_json::to_value(&recipe).map_err(ApiError::internal)?;
        Ok(Self { id: g.id, name: g.name, note: g.note, recipe, version: g.version })
    }
}

/// Name and recipe as they are kept: checked, every number present, the name in the recipe too.
fn checked(name: &str, recipe: Value) -> Result<(String, Recipe, Value), ApiError> {
    let name = words::name(name)?;
    let text = serde_json::to_string(&recipe).map_err(ApiError::internal)?;
    let mut recipe = Recipe::parse(&text).map_err(|e| e.within("recipe"))?;
    recipe.name.clone_from(&name);
    let json = serde_json::to_value(&recipe).map_err(ApiError::internal)?;
    Ok((name, recipe, json))
}

/// Grounds of the painter, by name.
#[utoipa::path(get, operation_id = "ground_list", path = "/grounds", tag = "grounds", responses((status = 200, body = Vec<Ground>), (status = 304, description = "as it was told before")))]
#[get("/grounds")]
pub async fn list(
    app: web::Data<App>,
    painter: Painter,
    request: HttpRequest,
) -> Result<HttpResponse, ApiError> {
    let all = query(&app, move |db| grounds::list(db, painter.id)).await?;
    // One row that cannot be read (it is logged) does not keep the painter from all others.
    let all: Vec<Ground> = all.into_iter().filter_map(|ground| Ground::try_from(ground).ok()).collect();
    Ok(tagged::json(&request, &all))
}

/// Keep a new ground.
#[utoipa::path(post, operation_id = "ground_add", path = "/grounds", tag = "grounds", request_body = NewGround,
    responses((status = 201, body = Ground), (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[post("/grounds")]
pub async fn add(
    app: web::Data<App>,
    painter: Painter,
    Sent(body): Sent<NewGround>,
) -> Result<HttpResponse, ApiError> {
    let new = body;
    let (name, recipe, json) = checked(&new.name, new.recipe)?;
    let note = words::note(&new.note)?;
    has_room(&app, painter.id, 0).await?;
    let added = query(&app, move |db| {
        let images: Vec<&str> = recipe.images().collect();
        let content = grounds::Content { name: &name, note: &note, recipe: &json, images: &images };
        grounds::add(db, painter.id, content)
    });
    Ok(HttpResponse::Created().json(Ground::try_from(added.await.map_err(|e| e.within("recipe"))?)?))
}

/// Change a ground. Kept tools have their own copy and stay as they are.
#[utoipa::path(put, operation_id = "ground_change", path = "/grounds/{id}", tag = "grounds", params(("id" = Uuid, Path)),
    request_body = GroundChange, responses((status = 200, body = Ground), (status = 404, body = ApiError),
    (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[put("/grounds/{id}")]
pub async fn change(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
    Sent(body): Sent<GroundChange>,
) -> Result<web::Json<Ground>, ApiError> {
    let to = body;
    let (name, recipe, json) = checked(&to.name, to.recipe)?;
    let note = words::note(&to.note)?;
    let changed = query(&app, move |db| {
        let images: Vec<&str> = recipe.images().collect();
        let content = grounds::Content { name: &name, note: &note, recipe: &json, images: &images };
        grounds::change(db, painter.id, *id, to.version, content)
    });
    Ok(web::Json(changed.await.map_err(|e| e.within("recipe"))?.try_into()?))
}

/// Take a ground away; tools that were made with it keep their copy.
#[utoipa::path(delete, operation_id = "ground_remove", path = "/grounds/{id}", tag = "grounds", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ApiError)))]
#[delete("/grounds/{id}")]
pub async fn remove(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, ApiError> {
    query(&app, move |db| grounds::remove(db, painter.id, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}
