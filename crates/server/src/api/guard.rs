//! What is refused of any request to the API before anything else looks at it: bodies that are packed, names that this server does not go
//! by, writes that come from another site's page, and whatever comes from somebody who is not signed in.

use std::net::IpAddr;

use actix_web::body::{EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::Method;
use actix_web::http::header::{CONTENT_ENCODING, HOST, HeaderMap, HeaderName, ORIGIN};
use actix_web::middleware::Next;
use actix_web::rt::time::timeout;
use actix_web::test::TestRequest;
use actix_web::{Error, HttpMessage, ResponseError, web};

use super::{ApiError, App, session};

const SITE: HeaderName = HeaderName::from_static("sec-fetch-site");

const PREFIX: &str = "/api/v1";
/// Addresses that say nothing of anybody's, and the one where painters sign in.
const OPEN: [&str; 6] = ["/session", "/openapi.json", "/tool-schema", "/stylus-schema", "/health", "/alive"];
/// And where those come who are invited.
const INVITED: &str = "/painters";

/// Refuses a request, or hands it on.
///
/// # Errors
/// What is behind it says.
pub async fn guard<B: MessageBody>(
    app: web::Data<App>,
    mut request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, Error> {
    let writes = !request.method().is_safe();
    match checked(request.headers(), writes, &app.hosts) {
        Ok(()) => {
            // The same without its body, which the connection leaves out (RFC 9110 §9.3.2).
            if request.method() == Method::HEAD {
                request.head_mut().method = Method::GET;
            }
            // Whoever sends half a body, or asks for more than can be done, holds nothing for ever.
            match timeout(app.patience, signed_in_only(&app, request, next)).await {
                Ok(done) => done,
                // The request went with the work that was dropped, and its answer needs nothing of it.
                Err(_) => {
                    let gone = TestRequest::default().to_http_request();
                    let refusal = ApiError::slow(app.patience).error_response();
                    Ok(ServiceResponse::new(gone, refusal).map_into_right_body())
                }
            }
        }
        Err(refusal) => Ok(request.into_response(refusal.error_response()).map_into_right_body()),
    }
}

/// Hands a request on once it is known whose it is: nobody's body is read.
async fn signed_in_only<B: MessageBody>(
    app: &web::Data<App>,
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<EitherBody<B>>, Error> {
    let path = request.path().trim_start_matches(PREFIX);
    let open = OPEN.contains(&path) || (path == INVITED && request.method() == Method::POST);
    if !open {
        match session::signed_in(app, request.request()).await {
            Ok(painter) => drop(request.extensions_mut().insert(painter)),
            Err(refusal) => return Ok(request.into_response(refusal.error_response()).map_into_right_body()),
        }
    }
    next.call(request).await.map(ServiceResponse::map_into_left_body)
}

fn checked(headers: &HeaderMap, writes: bool, hosts: &[String]) -> Result<(), ApiError> {
    let text = |name: &HeaderName| headers.get(name).map(|v| v.to_str().unwrap_or("?"));
    // Three kilobytes may unpack to gigabytes, and nobody who saves a tool needs it.
    for packed in headers.get_all(CONTENT_ENCODING) {
        if !packed.as_bytes().eq_ignore_ascii_case(b"identity") {
            return Err(ApiError::packed());
        }
    }
    // A page whose name was made to lead here (DNS rebinding) asks by that name; an address is nobody's name.
    let host = text(&HOST);
    if let Some(host) = host
        && !goes_by(name_of(host), hosts)
    {
        return Err(ApiError::other_host(name_of(host)));
    }
    if !writes {
        return Ok(());
    }
    // Fetch Metadata: what no page of ours asks for is not written.
    if text(&SITE).is_some_and(|site| !["same-origin", "none"].contains(&site)) {
        return Err(ApiError::other_site());
    }
    let same = |origin: &str| origin.split_once("://").is_some_and(|(_, rest)| host == Some(rest));
    if text(&ORIGIN).is_some_and(|origin| !same(origin)) {
        return Err(ApiError::other_site());
    }
    Ok(())
}

/// The name in a `Host`, without its port.
fn name_of(host: &str) -> &str {
    if let Some(rest) = host.strip_prefix('[') {
        return rest.split(']').next().unwrap_or(rest);
    }
    host.split(':').next().unwrap_or(host)
}

fn goes_by(name: &str, hosts: &[String]) -> bool {
    let ours = |ours: &String| ours.eq_ignore_ascii_case(name);
    name.parse::<IpAddr>().is_ok() || name.eq_ignore_ascii_case("localhost") || hosts.iter().any(ours)
}
