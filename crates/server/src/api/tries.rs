//! Wrong passwords slow down whoever tries them, by name and by address, on whichever copy of the server (`saltmarsh_store::wrong_tries`).

use std::net::IpAddr;

use actix_web::web;
use chrono::Utc;
use saltmarsh_store::wrong_tries::{self, Who};

use super::{ApiError, App, query};

/// Whoever tries: a name, as others may write it, and where from. Who has one IPv6 address has its whole /64 (RFC 6177).
pub fn who(name: Option<&str>, from: Option<IpAddr>) -> Vec<Who> {
    let from = from.map(|address| match address {
        IpAddr::V4(_) => address.to_string(),
        IpAddr::V6(v6) => match v6.to_ipv4_mapped() {
            Some(v4) => v4.to_string(),
            None => format!("{:x}/64", v6.to_bits() >> 64),
        },
    });
    name.map(|n| Who::Name(n.to_lowercase())).into_iter().chain(from.map(Who::Address)).collect()
}

/// A try, which counts as wrong until [`right`] says otherwise.
///
/// # Errors
/// One of these has to wait.
pub async fn tried(app: &web::Data<App>, who: &[Who]) -> Result<(), ApiError> {
    let who = who.to_vec();
    let wait = query(app, move |db| wrong_tries::tried(db, &who, Utc::now())).await?;
    wait.map_or(Ok(()), |wait| Err(ApiError::throttled(wait.to_std().unwrap_or_default())))
}

/// It was right.
pub async fn right(app: &web::Data<App>, who: Vec<Who>) -> Result<(), ApiError> {
    query(app, move |db| wrong_tries::right(db, &who)).await
}
