//! `saltmarsh serve`: the API and the front end.

use std::io::Write;
use std::net::ToSocketAddrs;
use std::path::PathBuf;
use std::time::{Duration, Instant};

use actix_web::dev::Server;
use actix_web::middleware::{Compress, Condition, DefaultHeaders, from_fn};
use actix_web::rt::net::TcpStream;
use actix_web::rt::spawn;
use actix_web::{App as Actix, HttpResponse, HttpServer, web};
use clap::Args;
use saltmarsh_store::Pool;
use tracing_subscriber::filter::{LevelFilter, Targets};
use tracing_subscriber::prelude::*;

use crate::api::changes::Changes;
use crate::api::known::Known;
use crate::api::studio::Room;
use crate::api::watch::{ASKED, Watch, watched};
use crate::api::{self, App};
use crate::demo;
use crate::front;
use crate::jobs;
use crate::stop::Stop;

/// Browsers that were here once come by HTTPS alone, for a year (RFC 6797).
const HSTS: (&str, &str) = ("Strict-Transport-Security", "max-age=31536000");

/// How its log is written, to standard error.
#[derive(Clone, Copy, PartialEq, Eq, clap::ValueEnum)]
enum Log {
    /// What goes wrong, as text.
    Faults,
    /// Every request as well.
    Lines,
    /// The same as JSON, an object a line.
    Json,
}

/// Every setting may come from the command line, from the environment, or from the file of settings that SALTMARSH_SETTINGS names.
#[derive(Args)]
pub struct Serve {
    /// Address to listen on; port 0 takes a free one.
    #[arg(long, env = "SALTMARSH_LISTEN", default_value = "127.0.0.1:8710")]
    listen: String,
    /// PostgreSQL to use.
    #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
    database_url: String,
    /// Connections to the database at most.
    #[arg(long, env = "SALTMARSH_CONNECTIONS", default_value_t = 8, value_parser = clap::value_parser!(u32).range(1..=200))]
    connections: u32,
    /// Threads that answer.
    #[arg(long, env = "SALTMARSH_WORKERS", default_value_t = 2, value_parser = clap::value_parser!(u16).range(1..=64))]
    workers: u16,
    /// Seconds to wait for a database that is not there yet.
    #[arg(long, env = "SALTMARSH_WAIT", default_value_t = 0, value_parser = clap::value_parser!(u64).range(0..=3600))]
    wait: u64,
    /// Built front end to serve.
    #[arg(long, env = "SALTMARSH_WEB")]
    web: Option<PathBuf>,
    /// Painter whom every browser that reaches this server is signed in as.
    #[arg(long, env = "SALTMARSH_PAINTER")]
    painter: Option<String>,
    /// Name that this server goes by, beside localhost and any address; may be given several times.
    #[arg(long, env = "SALTMARSH_HOST", value_delimiter = ',')]
    host: Vec<String>,
    /// It is reached by HTTPS alone (a proxy before it ends TLS): cookies are sent over nothing else, and browsers remember it.
    #[arg(long, env = "SALTMARSH_TLS")]
    tls: bool,
    /// What each painter may keep at most, MiB.
    #[arg(long, env = "SALTMARSH_MOST_MIB", default_value_t = 1024, value_parser = clap::value_parser!(i64).range(1..=1_048_576))]
    most_mib: i64,
    /// How many versions, gestures, images and other things each painter may keep at most.
    #[arg(long, env = "SALTMARSH_MOST_THINGS", default_value_t = 100_000, value_parser = clap::value_parser!(i64).range(1..=100_000_000))]
    most_things: i64,
    /// Folder of what painters begin with who are invited, such as the demo's; without it their rack is empty.
    #[arg(long, env = "SALTMARSH_BEGIN_WITH")]
    begin_with: Option<PathBuf>,
    /// Folder that a backup is written to every day, in a folder of its own; without it none is.
    #[arg(long, env = "SALTMARSH_BACKUP_INTO")]
    backup_into: Option<PathBuf>,
    /// Hour of the day at which it is written, UTC.
    #[arg(long, env = "SALTMARSH_BACKUP_HOUR", default_value_t = 3, value_parser = clap::value_parser!(u8).range(0..=23))]
    backup_hour: u8,
    /// Backups that are kept there; older ones go.
    #[arg(long, env = "SALTMARSH_BACKUP_KEEP", default_value_t = 14, value_parser = clap::value_parser!(u16).range(1..=10_000))]
    backup_keep: u16,
    /// Address at which those who run it read its figures (`/metrics`, as Prometheus does); nobody signs in there.
    #[arg(long, env = "SALTMARSH_METRICS")]
    metrics: Option<String>,
    /// What is written to standard error.
    #[arg(long, env = "SALTMARSH_LOG", value_enum, default_value = "faults")]
    log: Log,
    /// Demo scenario to load for that painter.
    #[arg(long, requires = "painter")]
    demo: Option<PathBuf>,
}

/// What was asked before the end is answered, for so long, s.
const ENDS_S: u64 = 5;

impl Serve {
    pub fn run(self) -> Result<(), Stop> {
        self.keep_open_sign_in_here()?;
        self.log.begin();
        let pool = self.reached()?;
        pool.migrate()?;
        if let (Some(folder), Some(painter)) = (&self.demo, &self.painter) {
            demo::load(&pool, folder, painter)?;
        }
        let known = Known::default();
        let app = web::Data::new(App {
            changes: Changes::listening(&self.database_url, known.clone()),
            in_line: api::InLine::at(&pool),
            together: api::Together::default(),
            pool,
            open_painter: self.painter.clone(),
            hosts: self.host.clone(),
            patience: api::PATIENCE,
            turns: api::Turns::default(),
            known,
            tls: self.tls,
            room: Room { rows: self.most_things, bytes: self.most_mib << 20 },
            begin_with: self.begin_with.clone(),
            watch: Watch::default(),
        });
        if let Some(folder) = &self.begin_with
            && !folder.join(demo::CONTENTS).exists()
        {
            return Err(Stop::Input(format!(
                "--begin-with: {} holds no {}",
                folder.display(),
                demo::CONTENTS
            )));
        }
        if let Some(folder) = &self.backup_into
            && !folder.is_dir()
        {
            return Err(Stop::Input(format!("--backup-into: {} is no folder", folder.display())));
        }
        let front = self.web.clone();
        if let Some(folder) = &front
            && !folder.join("index.html").exists()
        {
            return Err(Stop::Input(format!("--web: {} holds no index.html", folder.display())));
        }
        jobs::begin(jobs::House {
            database_url: self.database_url.clone(),
            watch: app.watch.clone(),
            backups: self.backup_into.clone().map(|into| jobs::Backups {
                into,
                hour: self.backup_hour,
                keep: self.backup_keep,
            }),
        })?;
        actix_web::rt::System::new().block_on(self.serve(app, front))
    }

    async fn serve(self, app: web::Data<App>, front: Option<PathBuf>) -> Result<(), Stop> {
        let figures = self.metrics.as_deref().map(|at| figures(at, app.clone())).transpose()?;
        let (watch, tls) = (app.watch.clone(), self.tls);
        let server = HttpServer::new(move || {
            let front = front.clone();
            Actix::new()
                .app_data(app.clone())
                .wrap(api::headers())
                .wrap(Condition::new(tls, DefaultHeaders::new().add(HSTS)))
                .wrap(Compress::default())
                .wrap(from_fn(watched))
                .configure(api::configure)
                .configure(move |config| {
                    if let Some(folder) = &front {
                        front::configure(config, folder);
                    }
                })
        })
        .workers(usize::from(self.workers))
        .shutdown_timeout(ENDS_S)
        .disable_signals()
        .on_connect(|connection, _| {
            // Small answers go at once, not with the next one (RFC 896's delay); where that cannot be set they come a little later.
            if let Some(stream) = connection.downcast_ref::<TcpStream>() {
                stream.set_nodelay(true).ok();
            }
        })
        .bind(&self.listen)
        .map_err(|e| Stop::Input(format!("--listen {}: {e}", self.listen)))?;
        for address in server.addrs() {
            println!("Saltmarsh is at http://{address}/");
        }
        std::io::stdout().flush().map_err(|e| Stop::Failure(e.to_string()))?;
        let server = server.run();
        let handle = server.handle();
        spawn(async move {
            told_to_end().await;
            watch.end();
            handle.stop(true).await;
        });
        if let Some(figures) = figures {
            spawn(figures);
        }
        server.await.map_err(|e| Stop::Failure(e.to_string()))
    }

    /// The database, once it is there.
    fn reached(&self) -> saltmarsh_store::Result<Pool> {
        let until = Instant::now() + Duration::from_secs(self.wait);
        loop {
            match Pool::connect(&self.database_url, self.connections) {
                Err(saltmarsh_store::Error::Unreachable(cause)) if Instant::now() < until => {
                    tracing::warn!(%cause, "waiting for the database");
                    std::thread::sleep(Duration::from_secs(1));
                }
                done => return done,
            }
        }
    }

    /// A server that signs everybody in listens on this machine alone.
    fn keep_open_sign_in_here(&self) -> Result<(), Stop> {
        if self.painter.is_none() {
            return Ok(());
        }
        let wrong = |e: std::io::Error| Stop::Input(format!("--listen {}: {e}", self.listen));
        match self.listen.to_socket_addrs().map_err(wrong)?.find(|a| !a.ip().is_loopback()) {
            None => Ok(()),
            Some(far) => Err(Stop::Input(format!(
                "--painter: signs in everybody who reaches this server, so that it may listen on this machine alone, not on {far}"
            ))),
        }
    }
}

impl Log {
    /// Writes what is told from now on.
    fn begin(self) {
        // The pool reports every try to reach a database that is away; our own warning says it once a request.
        let loud = Targets::new()
            .with_default(LevelFilter::WARN)
            .with_target("r2d2", LevelFilter::OFF)
            // So does the library that does jobs; those that fail are told of by ours.
            .with_target("fang", LevelFilter::OFF);
        let asked = if self == Self::Faults { LevelFilter::WARN } else { LevelFilter::INFO };
        let loud = loud.with_target(ASKED, asked);
        let lines = tracing_subscriber::fmt::layer().with_writer(std::io::stderr);
        if self == Self::Json {
            tracing_subscriber::registry().with(lines.json().flatten_event(true).with_filter(loud)).init();
        } else {
            tracing_subscriber::registry().with(lines.with_filter(loud)).init();
        }
    }
}

/// Serves figures at an address of their own.
fn figures(at: &str, app: web::Data<App>) -> Result<Server, Stop> {
    let tell = |app: web::Data<App>| async move {
        HttpResponse::Ok().content_type("text/plain; version=0.0.4").body(app.watch.figures(&app))
    };
    let server =
        HttpServer::new(move || Actix::new().app_data(app.clone()).route("/metrics", web::get().to(tell)))
            .workers(1)
            .disable_signals()
            .bind(at)
            .map_err(|e| Stop::Input(format!("--metrics {at}: {e}")))?;
    for address in server.addrs() {
        println!("Its figures are at http://{address}/metrics");
    }
    Ok(server.run())
}

/// Waits until the program is told to end (SIGTERM, or Ctrl-C).
async fn told_to_end() {
    use tokio::signal::unix::{SignalKind, signal};
    let (Ok(mut terminate), Ok(mut interrupt)) =
        (signal(SignalKind::terminate()), signal(SignalKind::interrupt()))
    else {
        // Without signals nobody can tell.
        return std::future::pending().await;
    };
    tokio::select! {
        _ = terminate.recv() => {}
        _ = interrupt.recv() => {}
    }
}
