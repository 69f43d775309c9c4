//! Gestures, stored and exchanged as InkML.

use std::collections::HashSet;

use actix_web::http::header::{ContentDisposition, DispositionParam, DispositionType};
use actix_web::{HttpRequest, HttpResponse, delete, get, post, put, web};
use saltmarsh_core::hand::DeviceProfile;
use saltmarsh_core::num;
use saltmarsh_formats::inkml;
use saltmarsh_store::gestures;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use sha2::{Digest, Sha256};
use utoipa::ToSchema;
use uuid::Uuid;

use super::sent::Sent;
use super::session::Painter;
use super::studio::{done_or, full};
use super::{ApiError, App, Line, query, tagged, words};

const MOST_ORDERED: usize = 10_000;

/// A gesture, without its way: that is at `/gestures/{id}/inkml`, the same as long as `content_hash` is.
#[derive(Serialize, ToSchema)]
pub struct Gesture {
    id: Uuid,
    name: String,
    note: String,
    content_hash: String,
    place: i32,
    /// Whether it is run on the proof sheet.
    on_proof: bool,
    tags: Vec<String>,
    /// Device profile of the stylus that recorded it; null for the plain pen.
    #[schema(value_type = Option<Object>)]
    stylus: Option<Value>,
    /// Counts its changes, from 1.
    version: i32,
}

/// What a gesture is to become.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct GestureChange {
    /// The version that the painter has seen.
    seen: i32,
    name: String,
    note: String,
    tags: Vec<String>,
    on_proof: bool,
    /// Left out: its way stays.
    #[serde(default)]
    inkml: Option<String>,
}

/// Gestures in the order in which they are to be.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct GestureOrder {
    ids: Vec<Uuid>,
}

/// A gesture to add.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewGesture {
    name: String,
    #[serde(default)]
    note: String,
    inkml: String,
    /// The id that it is to have: sent again with the same, it is added once. Left out, it gets one.
    #[serde(default)]
    id: Option<Uuid>,
    /// Device profile of the stylus that recorded it; left out for the plain pen.
    #[serde(default)]
    #[schema(value_type = Option<Object>)]
    stylus: Option<Value>,
}

impl From<gestures::Gesture> for Gesture {
    fn from(g: gestures::Gesture) -> Self {
        Self {
            id: g.id,
            name: g.name,
            note: g.note,
            content_hash: g.content_hash,
            place: g.place,
            on_proof: g.on_proof,
            tags: g.tags,
            stylus: g.stylus,
            version: g.version,
        }
    }
}

/// InkML in our own plain form, and its hash: what other programs put beside the traces is not ours to keep.
fn plain(text: &str) -> Result<(String, String), ApiError> {
    let document = inkml::read(text)?;
    let gesture = inkml::to_gesture(&document).map_err(|e| e.within("inkml"))?;
    let text = inkml::write(&gesture);
    let hash = num::hex(&Sha256::digest(text.as_bytes()));
    Ok((text, hash))
}

/// A device profile, checked.
fn recorder(json: Value) -> Result<Value, ApiError> {
    let profile: DeviceProfile =
        serde_json::from_value(json).map_err(|e| ApiError::invalid("stylus", e.to_string()))?;
    profile.check().map_err(|e| e.within("stylus"))?;
    serde_json::to_value(profile).map_err(ApiError::internal)
}

/// All gestures of the painter in the order of the proof sheet.
#[utoipa::path(get, operation_id = "gesture_list", path = "/gestures", tag = "gestures", responses((status = 200, body = Vec<Gesture>), (status = 304, description = "as it was told before")))]
#[get("")]
pub async fn list(
    app: web::Data<App>,
    painter: Painter,
    request: HttpRequest,
) -> Result<HttpResponse, ApiError> {
    let all = query(&app, move |db| gestures::list(db, painter.id)).await?;
    let all: Vec<Gesture> = all.into_iter().map(Gesture::from).collect();
    Ok(tagged::json(&request, &all))
}

/// Add a gesture from InkML.
#[utoipa::path(post, operation_id = "gesture_add", path = "/gestures", tag = "gestures", request_body = NewGesture,
    responses((status = 201, body = Gesture), (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[post("")]
pub async fn add(
    app: web::Data<App>,
    painter: Painter,
    Sent(body): Sent<NewGesture>,
) -> Result<HttpResponse, ApiError> {
    let new = body;
    let (name, note) = (words::name(&new.name)?, words::note(&new.note)?);
    let (text, hash) = app.turns.ways.run(Line::Painter(painter.id), move || plain(&new.inkml)).await??;
    let stylus = new.stylus.map(recorder).transpose()?;
    let id = new.id.unwrap_or_else(Uuid::new_v4);
    let refusal = full(&app, painter.id, text.len()).await?;
    let full = refusal.is_some();
    let added = query(&app, move |db| {
        let (note, content) = (note.as_str(), (text.as_str(), hash.as_str()));
        let new = gestures::New { id, name: &name, note, content, stylus: stylus.as_ref(), on_proof: true };
        match full {
            true => gestures::added_already(db, painter.id, new),
            false => gestures::add(db, painter.id, new).map(Some),
        }
    });
    Ok(HttpResponse::Created().json(Gesture::from(done_or(added.await?, refusal)?)))
}

/// Change a gesture: its names, its place on or off the proof sheet, its way.
#[utoipa::path(put, operation_id = "gesture_change", path = "/gestures/{id}", tag = "gestures", params(("id" = Uuid, Path)),
    request_body = GestureChange, responses((status = 200, body = Gesture), (status = 404, body = ApiError),
    (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[put("/{id}")]
pub async fn change(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
    Sent(body): Sent<GestureChange>,
) -> Result<web::Json<Gesture>, ApiError> {
    let to = body;
    let (name, note) = (words::name(&to.name)?, words::note(&to.note)?);
    let tags = words::tags(&to.tags)?;
    let seen = to.seen;
    let content = match to.inkml {
        Some(way) => Some(app.turns.ways.run(Line::Painter(painter.id), move || plain(&way)).await??),
        None => None,
    };
    let changed = query(&app, move |db| {
        let content = content.as_ref().map(|(text, hash)| (text.as_str(), hash.as_str()));
        let to = gestures::Change { name: &name, note: &note, tags: &tags, on_proof: to.on_proof, content };
        gestures::change(db, painter.id, *id, seen, to)
    });
    Ok(web::Json(changed.await?.into()))
}

/// Put gestures in order.
#[utoipa::path(post, operation_id = "gesture_order", path = "/gestures/order", tag = "gestures", request_body = GestureOrder,
    responses((status = 204), (status = 404, body = ApiError), (status = 422, body = ApiError)))]
#[post("/order")]
pub async fn order(
    app: web::Data<App>,
    painter: Painter,
    Sent(body): Sent<GestureOrder>,
) -> Result<HttpResponse, ApiError> {
    if body.ids.len() > MOST_ORDERED {
        return Err(ApiError::invalid("ids", format!("must be at most {MOST_ORDERED}")));
    }
    let mut named = HashSet::new();
    if let Some(twice) = body.ids.iter().find(|id| !named.insert(**id)) {
        return Err(ApiError::invalid("ids", format!("names {twice} twice")));
    }
    query(&app, move |db| gestures::order(db, painter.id, &body.ids)).await?;
    Ok(HttpResponse::NoContent().finish())
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
    let (name, text) = query(&app, move |db| gestures::way(db, painter.id, *id)).await?;
    let plain: String =
        name.chars().map(|c| if c.is_ascii_alphanumeric() || c == '-' { c } else { '-' }).collect();
    let disposition = ContentDisposition {
        disposition: DispositionType::Attachment,
        parameters: vec![DispositionParam::Filename(format!("{plain}.inkml"))],
    };
    Ok(HttpResponse::Ok().content_type("application/inkml+xml").insert_header(disposition).body(text))
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
