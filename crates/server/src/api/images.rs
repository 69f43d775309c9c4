//! Grey images of the painter: shapes of tips, grain, height maps.

use actix_web::http::header::{CacheControl, CacheDirective};
use actix_web::{HttpMessage, HttpRequest, HttpResponse, delete, get, post, put, web};
use saltmarsh_core::tool::Tool as Document;
use saltmarsh_formats::picture;
use saltmarsh_store::images;
use saltmarsh_store::replace::replace as put_in_place;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use super::sent::Sent;
use super::session::Painter;
use super::studio::{done_or, full};
use super::{ApiError, App, Line, query, sent, tagged, words};

/// Kinds of pictures that are taken in; which of them it is, its own first bytes tell.
const KINDS: [&str; 4] = ["application/octet-stream", "image/png", "image/jpeg", "image/webp"];

/// A grey image that the painter keeps.
#[derive(Serialize, ToSchema)]
pub struct Image {
    id: Uuid,
    /// SHA-256 of its pixels: what documents name it by.
    hash: String,
    name: String,
    tags: Vec<String>,
    /// Pixels.
    width: i32,
    height: i32,
    /// Counts how often it was named anew, from 1.
    version: i32,
}

/// An image as it was taken in.
#[derive(Serialize, ToSchema)]
pub struct TakenIn {
    image: Image,
    /// What was changed on the way: colour turned to grey and the like.
    changes: Vec<String>,
}

/// What an image that is sent is to be called.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct Naming {
    name: String,
}

/// What an image is to be called.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct ImageNames {
    /// The version that the painter has seen.
    seen: i32,
    name: String,
    tags: Vec<String>,
}

impl From<images::Image> for Image {
    fn from(i: images::Image) -> Self {
        Self {
            id: i.id,
            hash: i.hash,
            name: i.name,
            tags: i.tags,
            width: i.width,
            height: i.height,
            version: i.version,
        }
    }
}

/// Images of the painter, by name.
#[utoipa::path(get, operation_id = "image_list", path = "/images", tag = "images", responses((status = 200, body = Vec<Image>), (status = 304, description = "as it was told before")))]
#[get("")]
pub async fn list(
    app: web::Data<App>,
    painter: Painter,
    request: HttpRequest,
) -> Result<HttpResponse, ApiError> {
    let all = query(&app, move |db| images::list(db, painter.id)).await?;
    let all: Vec<Image> = all.into_iter().map(Image::from).collect();
    Ok(tagged::json(&request, &all))
}

/// Take in a PNG, JPEG or WebP: it becomes 16-bit grey.
#[utoipa::path(post, operation_id = "image_add", path = "/images", tag = "images", params(Naming),
    request_body(content = Vec<u8>, content_type = "application/octet-stream"),
    responses((status = 201, body = TakenIn), (status = 409, body = ApiError), (status = 413, body = ApiError), (status = 422, body = ApiError)))]
#[post("")]
pub async fn add(
    app: web::Data<App>,
    painter: Painter,
    naming: web::Query<Naming>,
    request: HttpRequest,
    body: Result<web::Bytes, actix_web::Error>,
) -> Result<HttpResponse, ApiError> {
    if !KINDS.iter().any(|kind| request.content_type().eq_ignore_ascii_case(kind)) {
        return Err(ApiError::kind(&KINDS.join(", ")));
    }
    let name = words::name(&naming.name)?;
    let body = sent::whole(body, super::MOST_IMAGE_BODY)?;
    let read = app.turns.pictures.run(Line::Painter(painter.id), move || {
        let picture::Read { grey, changes } = picture::read(&body)?;
        let bytes = saltmarsh_formats::image::grey_png(&grey)
            .map_err(|e| saltmarsh_core::FieldError::new("image", e.to_string()))?;
        Ok::<_, saltmarsh_core::FieldError>((
            grey.hash(),
            [grey.width() as i32, grey.height() as i32],
            bytes,
            changes,
        ))
    });
    let (hash, size, bytes, changes) = read.await??;
    let refusal = full(&app, painter.id, bytes.len()).await?;
    let full = refusal.is_some();
    let added = query(&app, move |db| match full {
        true => images::there(db, painter.id, &hash),
        false => {
            let new = images::New { hash: &hash, name: &name, tags: &[], size, png: &bytes };
            images::add(db, painter.id, new).map(Some)
        }
    });
    let image = done_or(added.await?, refusal)?.into();
    Ok(HttpResponse::Created().json(TakenIn { image, changes }))
}

/// The pixels of an image: a PNG of 16-bit grey.
#[utoipa::path(get, operation_id = "image_png", path = "/images/{hash}/png", tag = "images", params(("hash" = String, Path)),
    responses((status = 200, body = Vec<u8>, content_type = "image/png"), (status = 404, body = ApiError)))]
#[get("/{hash}/png")]
pub async fn png(
    app: web::Data<App>,
    painter: Painter,
    hash: web::Path<String>,
) -> Result<HttpResponse, ApiError> {
    if !saltmarsh_core::image::is_hash(&hash) {
        return Err(ApiError::missing("image"));
    }
    let bytes = query(&app, move |db| images::png(db, painter.id, &hash)).await?;
    // Named by its pixels: it never changes.
    let forever = CacheControl(vec![CacheDirective::Private, CacheDirective::MaxAge(31_536_000)]);
    Ok(HttpResponse::Ok().content_type("image/png").insert_header(forever).body(bytes))
}

/// What needs an image: names of tools and grounds.
#[utoipa::path(get, operation_id = "image_uses", path = "/images/{hash}/uses", tag = "images", params(("hash" = String, Path)),
    responses((status = 200, body = Vec<String>), (status = 422, body = ApiError)))]
#[get("/{hash}/uses")]
pub async fn uses(
    app: web::Data<App>,
    painter: Painter,
    hash: web::Path<String>,
) -> Result<web::Json<Vec<String>>, ApiError> {
    if !saltmarsh_core::image::is_hash(&hash) {
        return Err(ApiError::invalid("hash", "must be 64 hexadecimal digits"));
    }
    Ok(web::Json(query(&app, move |db| images::used_by(db, painter.id, &hash)).await?))
}

/// Name and tag an image anew.
#[utoipa::path(put, operation_id = "image_rename", path = "/images/{id}", tag = "images", params(("id" = Uuid, Path)),
    request_body = ImageNames, responses((status = 200, body = Image), (status = 404, body = ApiError),
    (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[put("/{id}")]
pub async fn rename(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
    Sent(body): Sent<ImageNames>,
) -> Result<web::Json<Image>, ApiError> {
    let name = words::name(&body.name)?;
    let tags = words::tags(&body.tags)?;
    let renamed = query(&app, move |db| images::rename(db, painter.id, *id, body.seen, &name, &tags)).await?;
    Ok(web::Json(renamed.into()))
}

/// Which image is to stand in for another, and where.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct Replace {
    /// Hash of the image that stands in.
    with: String,
    /// Only in these tools and grounds; in all that need it where left out.
    #[serde(default)]
    only: Option<Vec<Uuid>>,
}

/// A tool or ground in which an image was replaced.
#[derive(Serialize, ToSchema)]
pub struct Replaced {
    id: Uuid,
    name: String,
}

/// Put another image in its place: tools that need it are kept as their next version, their drafts and grounds follow.
#[utoipa::path(post, operation_id = "image_replace", path = "/images/{hash}/replace", tag = "images", params(("hash" = String, Path)),
    request_body = Replace, responses((status = 200, body = Vec<Replaced>), (status = 404, body = ApiError), (status = 422, body = ApiError)))]
#[post("/{hash}/replace")]
pub async fn replace(
    app: web::Data<App>,
    painter: Painter,
    hash: web::Path<String>,
    Sent(body): Sent<Replace>,
) -> Result<web::Json<Vec<Replaced>>, ApiError> {
    let (from, Replace { with, only }) = (hash.into_inner(), body);
    for (field, hash) in [("hash", &from), ("with", &with)] {
        if !saltmarsh_core::image::is_hash(hash) {
            return Err(ApiError::invalid(field, "must be 64 hexadecimal digits"));
        }
    }
    if from == with {
        return Err(ApiError::invalid("with", "must be another image"));
    }
    let all = query(&app, move |db| {
        put_in_place(db, painter.id, [&from, &with], only.as_deref(), |json| {
            Document::from_json(json.clone()).ok().map(|tool| tool.content_hash())
        })
    })
    .await?;
    Ok(web::Json(all.into_iter().map(|r| Replaced { id: r.id, name: r.name }).collect()))
}

/// Take an image away that nothing needs.
#[utoipa::path(delete, operation_id = "image_remove", path = "/images/{id}", tag = "images", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ApiError), (status = 409, body = ApiError)))]
#[delete("/{id}")]
pub async fn remove(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, ApiError> {
    query(&app, move |db| images::remove(db, painter.id, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}
