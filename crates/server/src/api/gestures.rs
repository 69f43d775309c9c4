//! Gestures, stored and exchanged as InkML.

use actix_web::http::header::{ContentDisposition, DispositionParam, DispositionType};
use actix_web::{HttpResponse, delete, get, post, web};
use saltmarsh_formats::inkml;
use saltmarsh_store::gestures;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use utoipa::ToSchema;
use uuid::Uuid;

use super::session::Painter;
use super::{ApiError, App, query};

const LONGEST_NAME: usize = 80;

/// A gesture on the proof sheet.
#[derive(Serialize, ToSchema)]
pub struct Gesture {
    id: Uuid,
    name: String,
    note: String,
    inkml: String,
    content_hash: String,
    place: i32,
}

/// A gesture to add.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewGesture {
    name: String,
    #[serde(default)]
    note: String,
    inkml: String,
}

impl From<gestures::Gesture> for Gesture {
    fn from(g: gestures::Gesture) -> Self {
        Self {
            id: g.id,
            name: g.name,
            note: g.note,
            inkml: g.inkml,
            content_hash: g.content_hash,
            place: g.place,
        }
    }
}

/// All gestures of the painter in the order of the proof sheet.
#[utoipa::path(get, operation_id = "gesture_list", path = "/gestures", tag = "gestures", responses((status = 200, body = Vec<Gesture>)))]
#[get("")]
pub async fn list(app: web::Data<App>, painter: Painter) -> Result<web::Json<Vec<Gesture>>, ApiError> {
    let all = query(&app, move |db| gestures::list(db, painter.id)).await?;
    Ok(web::Json(all.into_iter().map(Gesture::from).collect()))
}

/// Add a gesture from InkML.
#[utoipa::path(post, operation_id = "gesture_add", path = "/gestures", tag = "gestures", request_body = NewGesture,
    responses((status = 201, body = Gesture), (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[post("")]
pub async fn add(
    app: web::Data<App>,
    painter: Painter,
    body: web::Json<NewGesture>,
) -> Result<HttpResponse, ApiError> {
    let new = body.into_inner();
    let name = new.name.trim().to_owned();
    if name.is_empty() || name.chars().count() > LONGEST_NAME {
        return Err(ApiError::invalid("name", format!("must be 1 to {LONGEST_NAME} characters")));
    }
    if new.note.chars().count() > 400 {
        return Err(ApiError::invalid("note", "must be at most 400 characters"));
    }
    let document = inkml::read(&new.inkml)?;
    let gesture = inkml::to_gesture(&document).map_err(|e| e.within("inkml"))?;
    // Kept in our own plain form: what other programs put beside the traces is not ours to keep.
    let text = inkml::write(&gesture);
    let hash: String = Sha256::digest(text.as_bytes()).iter().map(|b| format!("{b:02x}")).collect();
    let added =
        query(&app, move |db| gestures::add(db, painter.id, &name, new.note.trim(), &text, &hash)).await?;
    Ok(HttpResponse::Created().json(Gesture::from(added)))
}

/// Download a gesture.
#[utoipa::path(get, operation_id = "gesture_download", path = "/gestures/{id}/inkml", tag = "gestures", params(("id" = Uuid, Path)),
    responses((status = 200, body = String, content_type = "application/inkml+xml"), (status = 404, body = ApiError)))]
#[get("/{id}/inkml")]
pub async fn download(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, ApiError> {
    let gesture = query(&app, move |db| gestures::get(db, painter.id, *id)).await?;
    let plain: String =
        gesture.name.chars().map(|c| if c.is_ascii_alphanumeric() || c == '-' { c } else { '-' }).collect();
    let disposition = ContentDisposition {
        disposition: DispositionType::Attachment,
        parameters: vec![DispositionParam::Filename(format!("{plain}.inkml"))],
    };
    Ok(HttpResponse::Ok()
        .content_type("application/inkml+xml")
        .insert_header(disposition)
        .body(gesture.inkml))
}

/// Take a gesture off the proof sheet.
#[utoipa::path(delete, operation_id = "gesture_remove", path = "/gestures/{id}", tag = "gestures", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ApiError)))]
#[delete("/{id}")]
pub async fn remove(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, ApiError> {
    query(&app, move |db| gestures::remove(db, painter.id, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}
