//! The HTTP API under `/api/v1`.

pub mod changes;
mod curves;
mod documents;
pub mod error;
mod gestures;
mod grounds;
mod guard;
mod heavy;
mod images;
pub mod known;
mod lines;
mod materials;
pub mod passwords;
mod query;
mod sent;
pub mod session;
pub mod studio;
mod styluses;
mod tagged;
mod together;
mod tools;
mod tries;
pub mod watch;
pub mod words;

use std::path::PathBuf;
use std::sync::LazyLock;
use std::time::Duration;

use actix_web::http::header::ALLOW;
use actix_web::middleware::{DefaultHeaders, from_fn};
use actix_web::{HttpRequest, HttpResponse, ResponseError, web};
use saltmarsh_store::Pool;
use utoipa::openapi::security::{ApiKey, ApiKeyValue, SecurityRequirement, SecurityScheme};
use utoipa::openapi::{Content, ContentBuilder, Ref, RefOr, Response, ResponseBuilder};
use utoipa::{Modify, OpenApi};

pub use error::ApiError;
pub use heavy::{Heavy, Turns};
pub use lines::Line;
pub use query::{InLine, query};
use sent::Most;
pub use together::{Draft, Together};

/// What handlers share.
#[derive(Clone)]
pub struct App {
    pub pool: Pool,
    /// Turns at its connections.
    pub in_line: InLine,
    /// Painter whom a browser may sign in as without more; none where sign-in is closed.
    pub open_painter: Option<String>,
    /// Names that this server goes by, beside `localhost` and any address.
    pub hosts: Vec<String>,
    /// How long a request may take, its body included.
    pub patience: Duration,
    /// Turns at what takes long.
    pub turns: Turns,
    /// Drafts that are saved together.
    pub together: Together,
    /// Who was found signed in a moment ago.
    pub known: known::Known,
    /// It is reached by HTTPS alone.
    pub tls: bool,
    /// How much each painter may keep.
    pub room: studio::Room,
    /// Folder of what those begin with who are invited.
    pub begin_with: Option<PathBuf>,
    /// What is changed by anybody.
    pub changes: changes::Changes,
    /// What is told of it to those who run it.
    pub watch: watch::Watch,
}

/// How long it may take a painter with a slow line to send the largest picture.
pub const PATIENCE: Duration = Duration::from_secs(60);

/// Largest JSON body except gestures, bytes.
pub const MOST_BODY: usize = 1024 * 1024;
/// Largest gesture body, bytes: the largest InkML, escaped.
pub const MOST_GESTURE_BODY: usize = saltmarsh_formats::inkml::MOST_BYTES + 4 * 1024 * 1024;

/// Largest image, bytes.
pub const MOST_IMAGE_BODY: usize = saltmarsh_formats::picture::MOST_BYTES;

#[derive(OpenApi)]
#[openapi(
    info(title = "Saltmarsh", description = "Tools, gestures and materials of a painter."),
    servers((url = "/api/v1")),
    modifiers(&Common),
    paths(
        session::open, session::show, session::close, session::close_all, tools::list, tools::read, tools::create, tools::show, tools::versions, tools::keep,
        tools::save_draft, tools::drop_draft, tools::list_away, tools::take_away, tools::bring_back, gestures::list, gestures::add, gestures::change, gestures::order,
        gestures::remove, gestures::download,
        grounds::list, grounds::add, grounds::change, grounds::remove,
        images::list, images::add, images::png, images::uses, images::replace, images::rename, images::remove, materials::pigments, styluses::list, styluses::add, styluses::save, styluses::make_active,
        styluses::remove, studio::kept, studio::painters, studio::accept, studio::invite, studio::invitations, studio::withdraw, changes::listen, curves::list, curves::add, curves::remove, documents::tool_schema, documents::stylus_schema, documents::health, documents::alive
    )
)]
struct Description;

/// Answers that every address may give, and how whoever asks is known.
struct Common;

const SIGNED_IN: &str = "session";
const NO_SCOPES: [&str; 0] = [];

impl Modify for Common {
    fn modify(&self, openapi: &mut utoipa::openapi::OpenApi) {
        let refusal = |text: &str| -> RefOr<Response> {
            let body: Content = ContentBuilder::new().schema(Some(Ref::from_schema_name("ApiError"))).build();
            ResponseBuilder::new().description(text).content("application/json", body).build().into()
        };
        let cookie = ApiKeyValue::with_description(
            session::COOKIE,
            &format!(
                "given by POST /session; {} where the server is reached by HTTPS alone",
                session::TLS_COOKIE
            ),
        );
        let components = openapi.components.get_or_insert_default();
        components.add_security_scheme(SIGNED_IN, SecurityScheme::ApiKey(ApiKey::Cookie(cookie)));
        for (path, item) in &mut openapi.paths.paths {
            let operations =
                [&mut item.get, &mut item.post, &mut item.put, &mut item.delete].into_iter().flatten();
            for operation in operations {
                let mut may = vec![
                    ("408", "it was not sent and done in time"),
                    ("415", "the body is packed, or of another kind than is read there"),
                    ("421", "this server does not go by that name"),
                    ("500", "a fault of the server"),
                    ("503", "the database is away, or what was asked is busy"),
                ];
                if operation.request_body.is_some() {
                    may.push(("400", "the body is not of this shape"));
                    may.push(("413", "the body is too large"));
                }
                if operation.tags.iter().flatten().all(|t| t == "studio") && path != "/kept" {
                    may.push(("403", "only an owner of the studio may do that"));
                }
                let open =
                    operation.tags.iter().flatten().any(|t| ["documents", "session"].contains(&t.as_str()));
                if !open || path == "/sessions" {
                    may.push(("401", "nobody is signed in"));
                    operation.security = Some(vec![SecurityRequirement::new(SIGNED_IN, NO_SCOPES)]);
                }
                if path.contains('{') {
                    may.push(("404", "there is none such"));
                }
                for (status, text) in may {
                    let answers = &mut operation.responses.responses;
                    answers.entry(status.to_owned()).or_insert_with(|| refusal(text));
                }
            }
        }
    }
}

/// The OpenAPI document.
pub fn openapi() -> &'static utoipa::openapi::OpenApi {
    static DOCUMENT: LazyLock<utoipa::openapi::OpenApi> = LazyLock::new(Description::openapi);
    &DOCUMENT
}

/// What a page may do (W3C Content Security Policy 3): run this server's scripts and WebAssembly, and nothing that is made of text; ask this
/// server alone; lie in no frame. Styles that a script puts in are allowed: the kept components do so.
const POLICY: &str = "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; \
    img-src 'self' data: blob:; font-src 'self' data:; frame-ancestors 'none'; base-uri 'none'; object-src 'none'; form-action 'none'";

/// What every answer carries, a page's as well: an isolated page (shared memory and exact timers need one), in no frame, whose files
/// no other site's page may take.
pub fn headers() -> DefaultHeaders {
    DefaultHeaders::new()
        .add(("Cross-Origin-Opener-Policy", "same-origin"))
        .add(("Cross-Origin-Embedder-Policy", "require-corp"))
        .add(("Cross-Origin-Resource-Policy", "same-origin"))
        .add(("Content-Security-Policy", POLICY))
        .add(("X-Content-Type-Options", "nosniff"))
        .add(("Referrer-Policy", "no-referrer"))
}

/// Registers every handler.
pub fn configure(config: &mut web::ServiceConfig) {
    let queries =
        web::QueryConfig::default().error_handler(|e, _| ApiError::invalid("query", e.to_string()).into());
    let paths = web::PathConfig::default().error_handler(|_, _| ApiError::missing("address").into());
    config.service(
        web::scope("/api/v1")
            .wrap(from_fn(guard::guard))
            .app_data(web::PayloadConfig::new(MOST_BODY))
            .app_data(paths)
            .app_data(queries)
            .service(documents::openapi_json)
            .service(documents::tool_schema)
            .service(documents::stylus_schema)
            .service(documents::health)
            .service(documents::alive)
            .service(session::open)
            .service(session::show)
            .service(session::close)
            .service(session::close_all)
            .service(tools::list)
            .service(tools::read)
            .service(tools::create)
            .service(tools::versions)
            .service(tools::keep)
            .service(tools::save_draft)
            .service(tools::drop_draft)
            .service(tools::show)
            .service(tools::list_away)
            .service(tools::take_away)
            .service(tools::bring_back)
            .service(grounds::list)
            .service(grounds::add)
            .service(grounds::change)
            .service(grounds::remove)
            .service(materials::pigments)
            .service(styluses::list)
            .service(styluses::add)
            .service(styluses::make_active)
            .service(styluses::save)
            .service(styluses::remove)
            .service(changes::listen)
            .service(studio::kept)
            .service(studio::painters)
            .service(studio::accept)
            .service(studio::invite)
            .service(studio::invitations)
            .service(studio::withdraw)
            .service(curves::list)
            .service(curves::add)
            .service(curves::remove)
            .service(
                web::scope("/gestures")
                    .app_data(Most(MOST_GESTURE_BODY))
                    .service(gestures::list)
                    .service(gestures::add)
                    .service(gestures::order)
                    .service(gestures::change)
                    .service(gestures::download)
                    .service(gestures::remove)
                    .default_service(web::to(elsewhere)),
            )
            .service(
                web::scope("/images")
                    .app_data(web::PayloadConfig::new(MOST_IMAGE_BODY))
                    .service(images::list)
                    .service(images::add)
                    .service(images::png)
                    .service(images::uses)
                    .service(images::replace)
                    .service(images::rename)
                    .service(images::remove)
                    .default_service(web::to(elsewhere)),
            )
            .default_service(web::to(elsewhere)),
    );
}

/// Answers what no handler takes: an address that is none, or one that is asked otherwise (RFC 9110 §15.5.6).
async fn elsewhere(request: HttpRequest) -> HttpResponse {
    let path = request.path().strip_prefix("/api/v1").unwrap_or_default();
    let asked: Vec<&str> = path.split('/').collect();
    let matches = |path: &str| {
        let parts: Vec<&str> = path.split('/').collect();
        parts.len() == asked.len() && parts.iter().zip(&asked).all(|(p, a)| p.starts_with('{') || p == a)
    };
    let mut allowed: Vec<&str> = openapi()
        .paths
        .paths
        .iter()
        .filter(|(path, _)| matches(path))
        .flat_map(|(_, item)| {
            [("GET, HEAD", &item.get), ("POST", &item.post), ("PUT", &item.put), ("DELETE", &item.delete)]
        })
        .filter_map(|(verb, operation)| operation.is_some().then_some(verb))
        .collect();
    if allowed.is_empty() {
        return ApiError::missing("address").error_response();
    }
    allowed.sort_unstable();
    allowed.dedup();
    let allowed = allowed.join(", ");
    let mut answer = ApiError::asked_otherwise(&allowed).error_response();
    if let Ok(value) = allowed.parse() {
        answer.headers_mut().insert(ALLOW, value);
    }
    answer
}
