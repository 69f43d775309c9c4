//! Errors as answers: one table from what went wrong to status, stable code and field.

use actix_web::http::StatusCode;
use actix_web::http::header::RETRY_AFTER;
use actix_web::{HttpResponse, ResponseError};
use saltmarsh_core::FieldError;
use serde::Serialize;
use utoipa::ToSchema;

/// What is busy or away is asked again after so long, s.
const RETRY_S: u64 = 2;

/// An answer that refuses.
#[derive(Debug, Clone, Serialize, ToSchema, thiserror::Error)]
#[error("{code}: {message}")]
pub struct ApiError {
    #[serde(skip)]
    status: u16,
    /// After how long it may be asked again, s.
    #[serde(skip)]
    retry_s: Option<u64>,
    /// Stable name: `invalid`, `missing`, `conflict`, `taken`, `in-use`, `sign-in`, `wrong`, `throttled`, `too-large`, `packed`, `kind`, `elsewhere`, `method`, `owners`, `full`, `busy`, `slow`, `database-away`, `internal`.
    code: &'static str,
    /// Which field is refused, where one is.
    field: Option<String>,
    message: String,
    /// For a conflict: the version that is there now.
    present: Option<i32>,
    /// For an internal error: what to look for in the log.
    request: Option<String>,
}

impl ApiError {
    fn new(status: StatusCode, code: &'static str, message: impl Into<String>) -> Self {
        Self {
            status: status.as_u16(),
            retry_s: (status == StatusCode::SERVICE_UNAVAILABLE).then_some(RETRY_S),
            code,
            field: None,
            message: message.into(),
            present: None,
            request: None,
        }
    }

    pub fn missing(what: &str) -> Self {
        Self::new(StatusCode::NOT_FOUND, "missing", format!("there is no such {what}"))
    }

    /// An address that only other methods ask.
    pub fn asked_otherwise(allowed: &str) -> Self {
        Self::new(StatusCode::METHOD_NOT_ALLOWED, "method", format!("this address is asked by {allowed}"))
    }

    pub fn sign_in() -> Self {
        Self::new(StatusCode::UNAUTHORIZED, "sign-in", "sign in first")
    }

    /// Whether it says that nobody is signed in.
    pub fn is_sign_in(&self) -> bool {
        self.code == "sign-in"
    }

    pub fn closed() -> Self {
        Self::new(StatusCode::FORBIDDEN, "sign-in", "this server signs nobody in without name and password")
    }

    /// A name and a password that are not a painter's; it is not said which of the two is wrong.
    pub fn wrong_password() -> Self {
        Self::new(StatusCode::UNAUTHORIZED, "wrong", "name and password do not belong together")
    }

    /// Too many wrong ones came before.
    pub fn throttled(wait: std::time::Duration) -> Self {
        let seconds = wait.as_secs() + 1;
        let message = format!("too many wrong passwords: try again in {seconds} s");
        let error = Self::new(StatusCode::TOO_MANY_REQUESTS, "throttled", message);
        Self { retry_s: Some(seconds), ..error }
    }

    /// A body that cannot be read as what is asked for.
    pub fn unreadable(message: impl Into<String>) -> Self {
        Self::unreadable_at("body", message)
    }

    /// The same, where it is known which of its fields is to blame.
    pub fn unreadable_at(field: &str, message: impl Into<String>) -> Self {
        let error = Self::new(StatusCode::BAD_REQUEST, "invalid", message);
        Self { field: Some(field.to_owned()), ..error }
    }

    pub fn invalid(field: &str, message: impl Into<String>) -> Self {
        let error = Self::new(StatusCode::UNPROCESSABLE_ENTITY, "invalid", message);
        Self { field: Some(field.to_owned()), ..error }
    }

    /// A body of more than `limit` bytes.
    pub fn too_large(limit: usize) -> Self {
        let message = format!("the body may be at most {limit} bytes");
        let error = Self::new(StatusCode::PAYLOAD_TOO_LARGE, "too-large", message);
        Self { field: Some("body".into()), ..error }
    }

    /// A body that would have to be unpacked.
    pub fn packed() -> Self {
        let error = Self::new(
            StatusCode::UNSUPPORTED_MEDIA_TYPE,
            "packed",
            "bodies are read as they are: send this one with no content encoding",
        );
        Self { field: Some("content-encoding".into()), ..error }
    }

    /// A body of another kind than is read there.
    pub fn kind(read: &str) -> Self {
        let message = format!("a body there must be {read}");
        let error = Self::new(StatusCode::UNSUPPORTED_MEDIA_TYPE, "kind", message);
        Self { field: Some("content-type".into()), ..error }
    }

    /// It is for owners of the studio alone.
    pub fn owners_only() -> Self {
        Self::new(StatusCode::FORBIDDEN, "owners", "only an owner of this studio may do that")
    }

    /// The painter keeps as much as may be.
    pub fn full(kept: &str) -> Self {
        let message = format!(
            "there is no room for more: you keep {kept}; take something away, or ask whoever looks after this server for more"
        );
        Self::new(StatusCode::INSUFFICIENT_STORAGE, "full", message)
    }

    /// Asked for under a name that is none of this server's.
    pub fn other_host(name: &str) -> Self {
        let message = format!("this server does not go by the name {name:.100}; `serve --host` gives it one");
        let error = Self::new(StatusCode::MISDIRECTED_REQUEST, "elsewhere", message);
        Self { field: Some("host".into()), ..error }
    }

    /// A write that a page of another site asks for.
    pub fn other_site() -> Self {
        let message = "only pages of this server may write";
        let error = Self::new(StatusCode::FORBIDDEN, "elsewhere", message);
        Self { field: Some("origin".into()), ..error }
    }

    /// A request that was not done in time: its body, or the work.
    pub fn slow(patience: std::time::Duration) -> Self {
        let message = format!("was not sent and done within {} s", patience.as_secs_f64());
        Self::new(StatusCode::REQUEST_TIMEOUT, "slow", message)
    }

    /// It cannot be done just now; asked again in a while, it may be.
    pub fn busy(message: &str) -> Self {
        Self::new(StatusCode::SERVICE_UNAVAILABLE, "busy", message)
    }

    /// The same, where what is invalid lies in this field of the body.
    pub fn within(self, outer: &str) -> Self {
        let field = self.field.map(|f| if self.code == "invalid" { format!("{outer}.{f}") } else { f });
        Self { field, ..self }
    }

    /// It lies with nothing that was asked, and may be otherwise in a while.
    pub fn passes(&self) -> bool {
        self.status == StatusCode::SERVICE_UNAVAILABLE.as_u16()
    }

    fn database_away(cause: impl std::fmt::Display) -> Self {
        tracing::warn!(%cause, "database away");
        Self::new(StatusCode::SERVICE_UNAVAILABLE, "database-away", "the database cannot be reached just now")
    }

    /// Logs the cause under the request's id; the answer carries only the id.
    pub fn internal(cause: impl std::fmt::Display) -> Self {
        let request = super::watch::request_id().to_string();
        tracing::error!(%request, %cause, "request failed");
        let error =
            Self::new(StatusCode::INTERNAL_SERVER_ERROR, "internal", "something went wrong on the server");
        Self { request: Some(request), ..error }
    }
}

impl From<FieldError> for ApiError {
    fn from(e: FieldError) -> Self {
        Self::invalid(&e.field, e.message)
    }
}

impl From<saltmarsh_store::Error> for ApiError {
    fn from(e: saltmarsh_store::Error) -> Self {
        use saltmarsh_store::Error;
        match e {
            Error::Missing(what) => Self::missing(what),
            Error::Conflict { present, .. } => {
                Self { present: Some(present), ..Self::new(StatusCode::CONFLICT, "conflict", e.to_string()) }
            }
            Error::Taken(what) => {
                let field = if what == saltmarsh_store::error::THE_ID { "id" } else { "name" };
                let error = Self::new(StatusCode::CONFLICT, "taken", e.to_string());
                Self { field: Some(field.into()), ..error }
            }
            Error::NoImage(_) => Self::invalid("image", e.to_string()),
            Error::InUse { .. } => Self::new(StatusCode::CONFLICT, "in-use", e.to_string()),
            Error::Unreachable(cause) => Self::database_away(cause),
            Error::Away(cause) => Self::database_away(cause),
            Error::Broken(cause) => Self::database_away(cause),
            Error::Crossed(cause) => {
                tracing::warn!(%cause, "crossed by another writer");
                Self::busy("the database was busy with others just now: try again")
            }
            Error::Database(ref cause) => Self::internal(cause),
            Error::Migration(cause) => Self::internal(cause),
        }
    }
}

impl ResponseError for ApiError {
    fn status_code(&self) -> StatusCode {
        StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR)
    }

    fn error_response(&self) -> HttpResponse {
        let mut answer = HttpResponse::build(self.status_code());
        if let Some(seconds) = self.retry_s {
            answer.insert_header((RETRY_AFTER, seconds.to_string()));
        }
        answer.json(self)
    }
}
