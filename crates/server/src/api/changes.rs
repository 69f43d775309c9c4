//! What others change, told as it happens: server-sent events (WHATWG HTML, §9.2).
//!
//! Each copy of the server listens to the database with one connection of its own, and passes on what is each painter's.

use std::time::{Duration, Instant};

use actix_web::http::header::{CACHE_CONTROL, CONTENT_ENCODING};
use actix_web::rt::time::{Interval, interval};
use actix_web::web::Bytes;
use actix_web::{Error, HttpRequest, HttpResponse, get, web};
use futures_util::stream;
use saltmarsh_store::changes::{Change, Listening, SESSIONS};
use serde::Serialize;
use tokio::sync::broadcast::error::RecvError;
use tokio::sync::broadcast::{Receiver, Sender, channel};
use utoipa::ToSchema;
use uuid::Uuid;

use super::known::Known;
use super::session::{self, Painter};
use super::{ApiError, App};

/// How often the database is asked what it has told; and after how long it is tried again where it is away.
const ASKED: Duration = Duration::from_millis(100);
const AGAIN: Duration = Duration::from_secs(1);
/// Changes that wait for whoever is slow to take them; beyond, it is told that there were more.
const MOST_WAITING: usize = 256;
/// Whoever listens is looked after so often, and in so many of these asked whether they are still signed in; a line goes out then, so that
/// proxies keep the connection.
const LOOKED_AFTER: Duration = Duration::from_secs(1);
const SIGNED_IN_EVERY: u32 = 15;

/// What is passed on.
#[derive(Debug, Clone)]
enum Told {
    Changed(Change),
    /// Some of it was not heard.
    Missed,
}

/// Passes on what the database tells.
#[derive(Debug, Clone)]
pub struct Changes(Sender<Told>);

impl Default for Changes {
    fn default() -> Self {
        Self(channel(MOST_WAITING).0)
    }
}

impl Changes {
    /// Listens to the database at `url` for as long as the program runs, on a thread of its own. Whoever signed out elsewhere is no longer
    /// among those `known` here.
    pub fn listening(url: &str, known: Known) -> Self {
        let (changes, url) = (Self::default(), url.to_owned());
        let told = changes.0.clone();
        std::thread::spawn(move || {
            let mut away = false;
            loop {
                let began = Instant::now();
                let Err(cause) = pass_on(&url, &known, &told);
                // Said once each time, not at every try.
                if !away || began.elapsed() > AGAIN {
                    tracing::warn!(%cause, "nothing is heard of changes");
                }
                away = true;
                std::thread::sleep(AGAIN);
            }
        });
        changes
    }
}

fn pass_on(
    url: &str,
    known: &Known,
    told: &Sender<Told>,
) -> saltmarsh_store::Result<std::convert::Infallible> {
    let mut listening = Listening::to(url)?;
    let tell = |what: Told| {
        let ended = match &what {
            Told::Changed(change) => change.kind == SESSIONS,
            Told::Missed => true,
        };
        // Before whoever listens asks who is still signed in.
        if ended {
            known.forget();
        }
        // Whoever hears nothing of it is not there: that is no fault.
        drop(told.send(what));
    };
    // While it did not listen there may have been some.
    tell(Told::Missed);
    loop {
        for change in listening.heard()? {
            tell(Told::Changed(change));
        }
        std::thread::sleep(ASKED);
    }
}

/// Something changed, here or elsewhere.
#[derive(Serialize, ToSchema)]
pub struct Changed {
    /// `tools`, `kept`, `drafts`, `gestures`, `grounds`, `images`, `styluses`, `curves`; `all` where it is not known what.
    kind: String,
    /// Of a version or a draft that of its tool.
    id: Option<Uuid>,
    /// Of a version, or of a draft that is still there; else 0.
    version: i32,
}

/// Whom changes are told.
struct Listener {
    app: web::Data<App>,
    request: HttpRequest,
    painter: Uuid,
    told: Receiver<Told>,
    looked_after: Interval,
    looks: u32,
}

impl Listener {
    async fn signed_out(&self) -> bool {
        session::signed_in(&self.app, &self.request).await.is_err_and(|refusal| refusal.is_sign_in())
    }

    /// The next lines for whoever listens; nothing once it is over.
    async fn next(mut self) -> Option<(Result<Bytes, Error>, Self)> {
        loop {
            let lines = tokio::select! {
                told = self.told.recv() => match told {
                    Ok(Told::Changed(change)) if change.owner != self.painter => continue,
                    Ok(Told::Changed(change)) if change.kind == SESSIONS => {
                        if self.signed_out().await {
                            return None;
                        }
                        continue;
                    }
                    Ok(Told::Changed(change)) => {
                        let Change { kind, id, version, .. } = change;
                        event(&Changed { kind, id: Some(id), version })
                    }
                    Ok(Told::Missed) | Err(RecvError::Lagged(_)) => {
                        event(&Changed { kind: "all".into(), id: None, version: 0 })
                    }
                    Err(RecvError::Closed) => return None,
                },
                _ = self.looked_after.tick() => {
                    self.looks += 1;
                    if self.app.watch.ends() {
                        return None;
                    }
                    if !self.looks.is_multiple_of(SIGNED_IN_EVERY) {
                        continue;
                    }
                    if self.signed_out().await {
                        return None;
                    }
                    Bytes::from_static(b":\n\n")
                }
            };
            return Some((Ok(lines), self));
        }
    }
}

fn event(what: &Changed) -> Bytes {
    let json = serde_json::to_string(what).expect("it is plain data");
    Bytes::from(format!("data: {json}\n\n"))
}

/// What changes of mine, as it happens: an event stream, each event a [`Changed`].
#[utoipa::path(get, operation_id = "change_list", path = "/changes", tag = "changes",
    responses((status = 200, body = Changed, content_type = "text/event-stream")))]
#[get("/changes")]
pub async fn listen(
    app: web::Data<App>,
    request: HttpRequest,
    painter: Painter,
) -> Result<HttpResponse, ApiError> {
    let listener = Listener {
        told: app.changes.0.subscribe(),
        looked_after: interval(LOOKED_AFTER),
        looks: 0,
        painter: painter.id,
        app,
        request,
    };
    Ok(HttpResponse::Ok()
        .content_type("text/event-stream")
        .insert_header((CACHE_CONTROL, "no-store"))
        // Packed, it would wait until there is enough to pack; and so it would in a proxy.
        .insert_header((CONTENT_ENCODING, "identity"))
        .insert_header(("X-Accel-Buffering", "no"))
        .streaming(stream::unfold(listener, Listener::next)))
}
