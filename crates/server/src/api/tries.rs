//! Wrong passwords slow down whoever tries them, by name and by address, on whichever copy of the server (`saltmarsh_store::wrong_tries`).

use std::net::IpAddr;

use actix_web::web;
use chrono::Utc;
use saltmarsh_store::wrong_tries;

use super::{ApiError, App, query};

/// Whoever tries: a name, as others may write it, and where from. Who has one IPv6 address has its whole /64 (RFC 6177).
pub fn who(name: Option<&str>, from: Option<IpAddr>) -> Vec<String> {
    let from = from.map(|address| match address {
        IpAddr::V4(_) => format!("address {address}"),
        IpAddr::V6(v6) => match v6.to_ipv4_mapped() {
            Some(v4) => format!("address {v4}"),
            None => format!("address {:x}/64", v6.to_bits() >> 64),
        },
    });
    name.map(|n| format!("name {}", n.to_lowercase())).into_iter().chain(from).collect()
}

/// A try, which counts as wrong until [`right`] says otherwise.
///
/// # Errors
/// One of these has to wait.
pub async fn tried(app: &web::Data<App>, who: &[String]) -> Result<(), ApiError> {
    let who = who.to_vec();
    let wait = query(app, move |db| wrong_tries::tried(db, &who, Utc::now())).await?;
    wait.map_or(Ok(()), |wait| Err(ApiError::throttled(wait.to_std().unwrap_or_default())))
}

/// It was right.
pub async fn right(app: &web::Data<App>, who: Vec<String>) -> Result<(), ApiError> {
    query(app, move |db| wrong_tries::forget(db, &who)).await
}
