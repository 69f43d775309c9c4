//! Tools, their kept versions and their drafts.

use std::sync::Arc;

use actix_web::http::StatusCode;
use actix_web::{HttpRequest, HttpResponse, delete, get, post, put, web};
use chrono::{DateTime, Utc};
use saltmarsh_core::tool::Tool as Document;
use saltmarsh_store::Connection;
use saltmarsh_store::tools::{self, Content, Saved};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use serde_json::value::{RawValue, to_raw_value};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use super::sent::Sent;
use super::session::Painter;
use super::studio::{done_or, full};
use super::{ApiError, App, query, tagged, together, words};

/// A tool with its newest kept version.
#[derive(Serialize, ToSchema)]
pub struct Tool {
    id: Uuid,
    name: String,
    kept: Kept,
    draft: Option<Draft>,
}

/// A kept version: never changed.
#[derive(Serialize, ToSchema)]
pub struct Kept {
    number: i32,
    /// The tool document; its schema is at `/tool-schema`.
    #[schema(value_type = Object)]
    document: Value,
    content_hash: String,
    kept_at: DateTime<Utc>,
    /// What its painter wrote to it.
    note: String,
}

/// A tool that was taken away, and can be brought back.
#[derive(Serialize, ToSchema)]
pub struct AwayTool {
    id: Uuid,
    name: String,
    taken_away_at: DateTime<Utc>,
}

/// A draft that is being edited.
#[derive(Serialize, ToSchema)]
pub struct Draft {
    #[schema(value_type = Object)]
    document: Value,
    version: i32,
    based_on: i32,
    saved_at: DateTime<Utc>,
}

/// A [`Draft`] that was saved just now: its document is as this program writes it.
#[derive(Serialize)]
struct DraftSaved<'a> {
    document: &'a RawValue,
    version: i32,
    based_on: i32,
    saved_at: DateTime<Utc>,
}

/// A document to keep as a new tool.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NewTool {
    #[schema(value_type = Object)]
    document: Value,
    /// The id that it is to have: sent again with the same, it is kept once. Left out, it gets one.
    #[serde(default)]
    id: Option<Uuid>,
}

/// A document to keep as the next version.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct NextVersion {
    /// The kept version that the painter has seen.
    seen: i32,
    #[schema(value_type = Object)]
    document: Value,
    /// What the painter writes to it, at most 400 characters.
    #[serde(default)]
    note: String,
}

/// A draft to save.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SaveDraft {
    /// The draft version that this one follows; 0 where there is none.
    seen: i32,
    /// The kept version it is a draft of.
    based_on: i32,
    /// The tool document; its schema is at `/tool-schema`.
    #[schema(value_type = Object)]
    document: Box<RawValue>,
}

/// Which draft is to go.
#[derive(Deserialize, IntoParams)]
pub struct DropDraft {
    /// The draft version that the painter has seen.
    seen: i32,
}

impl TryFrom<tools::Version> for Kept {
    type Error = ApiError;
    fn try_from(v: tools::Version) -> Result<Self, ApiError> {
        let tools::Version { number, document, content_hash, kept_at, note } = v;
        Ok(Self { number, document: current(document)?, content_hash, kept_at, note })
    }
}

impl TryFrom<tools::Draft> for Draft {
    type Error = ApiError;
    fn try_from(d: tools::Draft) -> Result<Self, ApiError> {
        let tools::Draft { document, version, based_on, saved_at } = d;
        Ok(Self { document: current(document)?, version, based_on, saved_at })
    }
}

impl TryFrom<tools::Tool> for Tool {
    type Error = ApiError;
    fn try_from(t: tools::Tool) -> Result<Self, ApiError> {
        let draft = t.draft.map(Draft::try_from).transpose()?;
        Ok(Self { id: t.id, name: t.name, kept: t.kept.try_into()?, draft })
    }
}

/// A stored document as this program writes it: rows live longer than versions of the document, and parameters are added.
fn current(stored: Value) -> Result<Value, ApiError> {
    let tool = Document::from_json(stored).map_err(ApiError::internal)?;
    serde_json::to_value(&tool).map_err(ApiError::internal)
}

/// A document that passed every check, in its canonical form.
struct Checked {
    tool: Document,
    json: Value,
}

impl Checked {
    fn new(document: Value) -> Result<Self, ApiError> {
        let tool = Document::from_json(document).map_err(|e| ApiError::from(e.within("document")))?;
        let json = serde_json::to_value(&tool).map_err(ApiError::internal)?;
        Ok(Self { tool, json })
    }

    /// Runs what keeps it as a version, with the images it needs.
    async fn kept<T: Send + 'static>(
        self,
        app: &web::Data<App>,
        note: String,
        write: impl Fn(&mut Connection, Content<'_>) -> saltmarsh_store::Result<T> + Send + 'static,
    ) -> Result<T, ApiError> {
        let hash = self.tool.content_hash();
        let Self { tool, json } = self;
        let done = query(app, move |db| {
            let images: Vec<&str> = tool.images().collect();
            let name = tool.name.trim();
            write(db, Content { name, document: &json, hash: &hash, images: &images, note: &note })
        });
        done.await.map_err(|e| e.within("document"))
    }
}

/// A tool without its documents: what tells whether somebody has the newest.
#[derive(Serialize, ToSchema)]
pub struct ToolHead {
    id: Uuid,
    name: String,
    /// Of the newest kept version.
    number: i32,
    content_hash: String,
    kept_at: DateTime<Utc>,
    /// Version of the draft; nothing where there is none.
    draft: Option<i32>,
}

impl From<tools::Head> for ToolHead {
    fn from(h: tools::Head) -> Self {
        let tools::Head { id, name, number, content_hash, kept_at, draft } = h;
        Self { id, name, number, content_hash, kept_at, draft }
    }
}

/// Some tools by name.
#[derive(Serialize, ToSchema)]
pub struct ToolPage {
    tools: Vec<ToolHead>,
    /// There are more behind the last of these: ask for those `after` this name.
    next: Option<String>,
}

/// Which tools are to be told of.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct Paging {
    /// Those by name behind this one; from the first where left out.
    after: Option<String>,
    /// How many at most, 1 to 1000.
    #[serde(default = "most_heads")]
    #[param(required = false)]
    most: i64,
}

const fn most_heads() -> i64 {
    MOST_HEADS
}

const MOST_HEADS: i64 = 1000;
/// Tools that are read at once.
const MOST_READ: usize = 100;

/// Tools of the painter by name, without their documents.
#[utoipa::path(get, operation_id = "tool_list", path = "/tools", tag = "tools", params(Paging),
    responses((status = 200, body = ToolPage), (status = 304, description = "as it was told before"), (status = 401, body = ApiError), (status = 422, body = ApiError)))]
#[get("/tools")]
pub async fn list(
    app: web::Data<App>,
    painter: Painter,
    paging: web::Query<Paging>,
    request: HttpRequest,
) -> Result<HttpResponse, ApiError> {
    let Paging { after, most } = paging.into_inner();
    if !(1..=MOST_HEADS).contains(&most) {
        return Err(ApiError::invalid("most", format!("must be 1 to {MOST_HEADS}, got {most}")));
    }
    // One more than is told says whether there are more.
    let mut all = query(&app, move |db| tools::heads(db, painter.id, after.as_deref(), most + 1)).await?;
    let more = all.len() as i64 > most;
    all.truncate(most as usize);
    let next = all.last().filter(|_| more).map(|last| last.name.clone());
    Ok(tagged::json(&request, &ToolPage { tools: all.into_iter().map(ToolHead::from).collect(), next }))
}

/// Which tools are to be read.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub struct Which {
    /// Ids with commas between, at most 100.
    ids: String,
}

/// Some tools with their documents; those that are not there, or cannot be read, are left out.
#[utoipa::path(get, operation_id = "tool_read", path = "/tools/whole", tag = "tools", params(Which),
    responses((status = 200, body = Vec<Tool>), (status = 422, body = ApiError)))]
#[get("/tools/whole")]
pub async fn read(
    app: web::Data<App>,
    painter: Painter,
    which: web::Query<Which>,
) -> Result<web::Json<Vec<Tool>>, ApiError> {
    let ids: Vec<Uuid> = which
        .ids
        .split(',')
        .map(|id| id.trim().parse())
        .collect::<Result<_, _>>()
        .map_err(|_| ApiError::invalid("ids", "must be ids with commas between"))?;
    if ids.len() > MOST_READ {
        return Err(ApiError::invalid("ids", format!("must be at most {MOST_READ}, got {}", ids.len())));
    }
    let all = query(&app, move |db| tools::some(db, painter.id, &ids)).await?;
    // One row that cannot be read (it is logged) does not keep the painter from all others.
    Ok(web::Json(all.into_iter().filter_map(|tool| Tool::try_from(tool).ok()).collect()))
}

/// Keep a new tool.
#[utoipa::path(post, operation_id = "tool_create", path = "/tools", tag = "tools", request_body = NewTool,
    responses((status = 201, body = Tool), (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[post("/tools")]
pub async fn create(
    app: web::Data<App>,
    painter: Painter,
    Sent(body): Sent<NewTool>,
) -> Result<HttpResponse, ApiError> {
    let NewTool { document, id } = body;
    let id = id.unwrap_or_else(Uuid::new_v4);
    let checked = Checked::new(document)?;
    let refusal = full(&app, painter.id, 0).await?;
    let full = refusal.is_some();
    let tool = checked.kept(&app, String::new(), move |db, content| match full {
        true => tools::created_already(db, painter.id, id, content),
        false => tools::create(db, painter.id, id, content).map(Some),
    });
    let tool = done_or(tool.await?, refusal)?;
    Ok(HttpResponse::build(StatusCode::CREATED).json(Tool::try_from(tool)?))
}

/// One tool.
#[utoipa::path(get, operation_id = "tool_show", path = "/tools/{id}", tag = "tools", params(("id" = Uuid, Path)),
    responses((status = 200, body = Tool), (status = 404, body = ApiError)))]
#[get("/tools/{id}")]
pub async fn show(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<web::Json<Tool>, ApiError> {
    Ok(web::Json(query(&app, move |db| tools::get(db, painter.id, *id)).await?.try_into()?))
}

/// All kept versions, newest first.
#[utoipa::path(get, operation_id = "tool_versions", path = "/tools/{id}/versions", tag = "tools", params(("id" = Uuid, Path)),
    responses((status = 200, body = Vec<Kept>), (status = 404, body = ApiError)))]
#[get("/tools/{id}/versions")]
pub async fn versions(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<web::Json<Vec<Kept>>, ApiError> {
    let all = query(&app, move |db| tools::versions(db, painter.id, *id)).await?;
    Ok(web::Json(all.into_iter().map(Kept::try_from).collect::<Result<_, _>>()?))
}

/// Keep the next version; the draft ends.
#[utoipa::path(post, operation_id = "tool_keep", path = "/tools/{id}/versions", tag = "tools", params(("id" = Uuid, Path)), request_body = NextVersion,
    responses((status = 201, body = Tool), (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[post("/tools/{id}/versions")]
pub async fn keep(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
    Sent(body): Sent<NextVersion>,
) -> Result<HttpResponse, ApiError> {
    let NextVersion { seen, document, note } = body;
    let note = words::note(&note)?;
    let checked = Checked::new(document)?;
    let refusal = full(&app, painter.id, 0).await?;
    let full = refusal.is_some();
    let tool = checked.kept(&app, note, move |db, content| match full {
        true => tools::kept_already(db, painter.id, *id, seen, content),
        false => tools::keep(db, painter.id, *id, seen, content).map(Some),
    });
    let tool = done_or(tool.await?, refusal)?;
    Ok(HttpResponse::build(StatusCode::CREATED).json(Tool::try_from(tool)?))
}

/// Save the draft.
#[utoipa::path(put, operation_id = "tool_save_draft", path = "/tools/{id}/draft", tag = "tools", params(("id" = Uuid, Path)), request_body = SaveDraft,
    responses((status = 200, body = Draft), (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[put("/tools/{id}/draft")]
pub async fn save_draft(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
    Sent(body): Sent<SaveDraft>,
) -> Result<HttpResponse, ApiError> {
    let SaveDraft { seen, based_on, document } = body;
    let tool = Document::parse(document.get()).map_err(|e| ApiError::from(e.within("document")))?;
    let json: Arc<RawValue> = to_raw_value(&tool).map_err(ApiError::internal)?.into();
    let draft = together::Draft { id: *id, owner: painter.id, document: json.clone(), based_on, seen };
    let needs_images = tool.images().next().is_some();
    let together = if needs_images { None } else { app.together.save(&app, draft.clone()).await? };
    let Saved { version, saved_at } = match together {
        Some(saved) => saved,
        None => {
            let alone = query(&app, move |db| {
                let images: Vec<&str> = tool.images().collect();
                tools::save_draft(db, draft.save(), &images)
            });
            alone.await.map_err(|e| e.within("document"))?
        }
    };
    Ok(HttpResponse::Ok().json(DraftSaved { document: &json, version, based_on, saved_at }))
}

/// Put back to what is kept.
#[utoipa::path(delete, operation_id = "tool_drop_draft", path = "/tools/{id}/draft", tag = "tools", params(("id" = Uuid, Path), DropDraft),
    responses((status = 204), (status = 409, body = ApiError), (status = 422, body = ApiError)))]
#[delete("/tools/{id}/draft")]
pub async fn drop_draft(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
    seen: web::Query<DropDraft>,
) -> Result<HttpResponse, ApiError> {
    query(&app, move |db| tools::drop_draft(db, painter.id, *id, seen.seen)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Tools that were taken away, the last first.
#[utoipa::path(get, operation_id = "tool_list_away", path = "/tools-away", tag = "tools", responses((status = 200, body = Vec<AwayTool>)))]
#[get("/tools-away")]
pub async fn list_away(app: web::Data<App>, painter: Painter) -> Result<web::Json<Vec<AwayTool>>, ApiError> {
    let all = query(&app, move |db| tools::list_away(db, painter.id)).await?;
    let told = |tools::Away { id, name, taken_away_at }| AwayTool { id, name, taken_away_at };
    Ok(web::Json(all.into_iter().map(told).collect()))
}

/// Take a tool away; it can be brought back.
#[utoipa::path(delete, operation_id = "tool_take_away", path = "/tools/{id}", tag = "tools", params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = ApiError)))]
#[delete("/tools/{id}")]
pub async fn take_away(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<HttpResponse, ApiError> {
    query(&app, move |db| tools::take_away(db, painter.id, *id)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Bring a tool back that was taken away.
#[utoipa::path(post, operation_id = "tool_bring_back", path = "/tools-away/{id}/back", tag = "tools", params(("id" = Uuid, Path)),
    responses((status = 200, body = Tool), (status = 404, body = ApiError), (status = 409, body = ApiError)))]
#[post("/tools-away/{id}/back")]
pub async fn bring_back(
    app: web::Data<App>,
    painter: Painter,
    id: web::Path<Uuid>,
) -> Result<web::Json<Tool>, ApiError> {
    Ok(web::Json(query(&app, move |db| tools::bring_back(db, painter.id, *id)).await?.try_into()?))
}
