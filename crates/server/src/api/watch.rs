//! What a server tells those who run it: every request has an id, a line in the log and a place in the figures.

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Instant;

use actix_web::body::MessageBody;
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::ConnectionType;
use actix_web::http::header::{HeaderName, HeaderValue};
use actix_web::middleware::Next;
use actix_web::{Error, HttpMessage, web};
use prometheus::{
    Encoder, HistogramOpts, HistogramVec, IntCounterVec, IntGaugeVec, Opts, Registry, TextEncoder,
};
use uuid::Uuid;

use super::App;
use super::session::Painter;

/// The answer's id: what is written of it in the log bears the same.
pub const REQUEST_ID: HeaderName = HeaderName::from_static("x-request-id");
/// Lines of the log that tell of a request each.
pub const ASKED: &str = "saltmarsh::asked";

/// Methods that are counted by name: anybody can make up others.
const METHODS: [&str; 5] = ["GET", "HEAD", "POST", "PUT", "DELETE"];

tokio::task_local! {
    static REQUEST: Uuid;
}

/// Id of the request that is being answered.
pub fn request_id() -> Uuid {
    REQUEST.try_with(|id| *id).unwrap_or_else(|_| Uuid::new_v4())
}

/// What is counted, and whether the server is about to end.
#[derive(Clone)]
pub struct Watch {
    registry: Registry,
    requests: IntCounterVec,
    seconds: HistogramVec,
    connections: IntGaugeVec,
    waiting: IntGaugeVec,
    jobs: IntCounterVec,
    ending: Arc<AtomicBool>,
}

impl Default for Watch {
    fn default() -> Self {
        let made = "figures of fixed names";
        let registry = Registry::new();
        let requests = IntCounterVec::new(
            Opts::new("saltmarsh_requests_total", "Requests that were answered."),
            &["method", "route", "status"],
        );
        let seconds = HistogramOpts::new(
            "saltmarsh_request_seconds",
            "How long a request took until its answer began.",
        );
        let seconds = HistogramVec::new(seconds, &["route"]);
        let gauge = |name: &str, help: &str, label: &str| IntGaugeVec::new(Opts::new(name, help), &[label]);
        let connections =
            gauge("saltmarsh_connections", "Connections to the database by what they do.", "state");
        let waiting = gauge("saltmarsh_waiting", "Requests that wait for a turn at heavy work.", "work");
        let jobs = Opts::new("saltmarsh_jobs_total", "Jobs that this copy did, by how they went.");
        let jobs = IntCounterVec::new(jobs, &["job", "outcome"]).expect(made);
        let (requests, seconds) = (requests.expect(made), seconds.expect(made));
        let (connections, waiting) = (connections.expect(made), waiting.expect(made));
        registry.register(Box::new(requests.clone())).expect(made);
        registry.register(Box::new(seconds.clone())).expect(made);
        registry.register(Box::new(connections.clone())).expect(made);
        registry.register(Box::new(waiting.clone())).expect(made);
        registry.register(Box::new(jobs.clone())).expect(made);
        #[cfg(target_os = "linux")]
        registry.register(Box::new(prometheus::process_collector::ProcessCollector::for_self())).expect(made);
        Self { registry, requests, seconds, connections, waiting, jobs, ending: Arc::default() }
    }
}

impl Watch {
    /// From now on it answers what was asked and closes connections.
    pub fn end(&self) {
        self.ending.store(true, Ordering::Relaxed);
    }

    pub fn ends(&self) -> bool {
        self.ending.load(Ordering::Relaxed)
    }

    /// A job went well, or failed.
    pub fn did(&self, job: &str, well: bool) {
        self.jobs.with_label_values(&[job, if well { "done" } else { "failed" }]).inc();
    }

    /// All figures, as Prometheus reads them (text format 0.0.4).
    pub fn figures(&self, app: &App) -> String {
        let [open, idle] = app.pool.connections();
        self.connections.with_label_values(&["busy"]).set(i64::from(open - idle));
        self.connections.with_label_values(&["idle"]).set(i64::from(idle));
        for (work, heavy) in app.turns.by_name() {
            self.waiting.with_label_values(&[work]).set(heavy.waiting() as i64);
        }
        let mut text = Vec::new();
        TextEncoder::new().encode(&self.registry.gather(), &mut text).expect("it is written to memory");
        String::from_utf8(text).expect("the encoder writes UTF-8")
    }
}

/// Answers a request under an id of its own, and tells of it.
///
/// # Errors
/// What is behind it says.
pub async fn watched<B: MessageBody>(
    app: web::Data<App>,
    request: ServiceRequest,
    next: Next<B>,
) -> Result<ServiceResponse<B>, Error> {
    let (id, began) = (Uuid::new_v4(), Instant::now());
    let method = request.method().clone();
    let mut answer = REQUEST.scope(id, next.call(request)).await?;
    let took = began.elapsed();
    let status = answer.status().as_u16();
    // An address that is none has no route: those who try some do not make figures of their own.
    let route = answer.request().match_pattern().unwrap_or_else(|| "none".to_owned());
    let painter = answer.request().extensions().get::<Painter>().map(|p| p.id);
    let known = METHODS.into_iter().find(|m| *m == method.as_str()).unwrap_or("other");
    app.watch.requests.with_label_values(&[known, &route, &status.to_string()]).inc();
    app.watch.seconds.with_label_values(&[&route]).observe(took.as_secs_f64());
    tracing::info!(
        target: ASKED,
        request = %id,
        painter = painter.map(|p| p.to_string()).unwrap_or_default(),
        method = %method,
        route,
        status,
        ms = took.as_secs_f64() * 1000.0,
    );
    if let Ok(value) = HeaderValue::from_str(&id.to_string()) {
        answer.headers_mut().insert(REQUEST_ID, value);
    }
    if app.watch.ends() {
        answer.response_mut().head_mut().set_connection_type(ConnectionType::Close);
    }
    Ok(answer)
}
