//! What is sent with a request: read once, held to its limit, and refused by the field that is wrong.

use actix_web::dev::Payload;
use actix_web::error::PayloadError;
use actix_web::http::header::CONTENT_LENGTH;
use actix_web::web::{self, Bytes};
use actix_web::{FromRequest, HttpMessage, HttpRequest};
use futures_util::future::LocalBoxFuture;
use serde::de::DeserializeOwned;

use super::{ApiError, MOST_BODY};

/// The kind of most bodies.
pub const JSON: &str = "application/json";

/// The most bytes of JSON that are read under an address; [`MOST_BODY`] where it is not set.
#[derive(Clone, Copy)]
pub struct Most(pub usize);

/// A body of JSON.
pub struct Sent<T>(pub T);

impl<T: DeserializeOwned + 'static> FromRequest for Sent<T> {
    type Error = ApiError;
    type Future = LocalBoxFuture<'static, Result<Self, ApiError>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let most = request.app_data::<Most>().map_or(MOST_BODY, |most| most.0);
        let is_json = request.content_type().eq_ignore_ascii_case(JSON);
        let told = request.headers().get(CONTENT_LENGTH).and_then(|v| v.to_str().ok()?.parse::<usize>().ok());
        let payload = web::Payload::from_request(request, payload).into_inner();
        Box::pin(async move {
            if !is_json {
                return Err(ApiError::kind(JSON));
            }
            let over = || ApiError::too_large(most);
            if told.is_some_and(|bytes| bytes > most) {
                return Err(over());
            }
            let payload = payload.map_err(|e| ApiError::unreadable(e.to_string()))?;
            let bytes = payload.to_bytes_limited(most).await.map_err(|_| over())?;
            read(&whole(bytes, most)?).map(Self)
        })
    }
}

/// JSON of the wanted shape.
///
/// # Errors
/// Names the field that is missing, not known or not of its kind; `body` where it is no JSON.
pub fn read<T: DeserializeOwned>(bytes: &[u8]) -> Result<T, ApiError> {
    let mut json = serde_json::Deserializer::from_slice(bytes);
    let read = serde_path_to_error::deserialize(&mut json).map_err(|e| {
        let (path, message) = (e.path().to_string(), e.inner().to_string());
        let inside = if path == "." { None } else { Some(path) };
        // Of what is missing, the path ends with what it was to be in.
        let missing = message.strip_prefix("missing field `").and_then(|rest| rest.split('`').next());
        let field = match (inside, missing) {
            (Some(inside), Some(name)) => Some(format!("{inside}.{name}")),
            (None, Some(name)) => Some(name.to_owned()),
            (inside, None) => inside.filter(|_| e.inner().is_data()),
        };
        ApiError::unreadable_at(field.as_deref().unwrap_or("body"), message)
    })?;
    json.end().map_err(|e| ApiError::unreadable(e.to_string()))?;
    Ok(read)
}

/// Bytes that were sent, or why they could not be had.
///
/// # Errors
/// More than `most`, or a body that broke off on its way.
pub fn whole(body: Result<Bytes, actix_web::Error>, most: usize) -> Result<Bytes, ApiError> {
    body.map_err(|e| match e.as_error() {
        Some(PayloadError::Overflow) => ApiError::too_large(most),
        Some(PayloadError::Incomplete(_) | PayloadError::Io(_)) => {
            ApiError::unreadable("the body broke off on its way")
        }
        _ => ApiError::unreadable(e.to_string()),
    })
}
