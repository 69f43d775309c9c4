//! Answers with a tag of their content: whoever has them already is told so, and nothing more (RFC 9110 §8.8.3, §13.1.2).

use std::hash::{DefaultHasher, Hasher};

use actix_web::http::header::{CacheControl, CacheDirective, ETag, EntityTag, Header, IfNoneMatch};
use actix_web::{HttpRequest, HttpResponse};
use serde::Serialize;

use super::ApiError;

/// Answers with JSON, or that it has not changed.
pub fn json(request: &HttpRequest, body: &impl Serialize) -> HttpResponse {
    let Ok(json) = serde_json::to_vec(body) else {
        return HttpResponse::from_error(ApiError::internal("an answer that is no JSON"));
    };
    // It is to tell a content from those before it at one address, and holds against nobody: 64 bits do.
    let mut hasher = DefaultHasher::new();
    hasher.write(&json);
    let tag = EntityTag::new_weak(format!("{:016x}", hasher.finish()));
    let known = match IfNoneMatch::parse(request) {
        Ok(IfNoneMatch::Any) => true,
        Ok(IfNoneMatch::Items(tags)) => tags.iter().any(|t| t.weak_eq(&tag)),
        Err(_) => false,
    };
    let mut answer = if known { HttpResponse::NotModified() } else { HttpResponse::Ok() };
    // It is somebody's own, and asked for each time.
    answer.insert_header(CacheControl(vec![CacheDirective::Private, CacheDirective::NoCache]));
    answer.insert_header(ETag(tag));
    if known { answer.finish() } else { answer.content_type(super::sent::JSON).body(json) }
}
