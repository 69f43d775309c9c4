//! `saltmarsh serve`: the API and the front end.

use std::io::Write;
use std::net::ToSocketAddrs;
use std::path::PathBuf;
use std::time::{Duration, Instant};

use actix_web::middleware::{Compress, Condition, DefaultHeaders};
use actix_web::rt::net::TcpStream;
use actix_web::{App as Actix, HttpServer, web};
use clap::Args;
use saltmarsh_store::Pool;
use tracing_subscriber::filter::{LevelFilter, Targets};
use tracing_subscriber::prelude::*;

use crate::api::{self, App};
use crate::demo;
use crate::front;
use crate::stop::Stop;

/// Connections to the database at most.
const CONNECTIONS: u32 = 8;
/// Browsers that were here once come by HTTPS alone, for a year (RFC 6797).
const HSTS: (&str, &str) = ("Strict-Transport-Security", "max-age=31536000");

/// The database is named by DATABASE_URL or --database-url.
#[derive(Args)]
pub struct Serve {
    /// Address to listen on; port 0 takes a free one.
    #[arg(long, default_value = "127.0.0.1:8710")]
    listen: String,
    /// PostgreSQL to use.
    #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
    database_url: String,
    /// Seconds to wait for a database that is not there yet.
    #[arg(long, default_value_t = 0, value_parser = clap::value_parser!(u64).range(0..=3600))]
    wait: u64,
    /// Built front end to serve.
    #[arg(long)]
    web: Option<PathBuf>,
    /// Painter whom every browser that reaches this server is signed in as.
    #[arg(long)]
    painter: Option<String>,
    /// Name that this server goes by, beside localhost and any address; may be given several times.
    #[arg(long)]
    host: Vec<String>,
    /// It is reached by HTTPS alone (a proxy before it ends TLS): cookies are sent over nothing else, and browsers remember it.
    #[arg(long)]
    tls: bool,
    /// Demo scenario to load for that painter.
    #[arg(long, requires = "painter")]
    demo: Option<PathBuf>,
}

impl Serve {
    pub fn run(self) -> Result<(), Stop> {
        self.keep_open_sign_in_here()?;
        // The pool reports every try to reach a database that is away; our own warning says it once a request.
        let loud = Targets::new().with_default(LevelFilter::WARN).with_target("r2d2", LevelFilter::OFF);
        let lines = tracing_subscriber::fmt::layer().with_writer(std::io::stderr);
        tracing_subscriber::registry().with(lines.with_filter(loud)).init();
        let failure = |e: saltmarsh_store::Error| {
            let cause = std::error::Error::source(&e).map(|c| format!(": {c}")).unwrap_or_default();
            Stop::Failure(format!("{e}{cause}"))
        };
        let pool = self.reached().map_err(failure)?;
        pool.migrate().map_err(failure)?;
        if let (Some(folder), Some(painter)) = (&self.demo, &self.painter) {
            demo::load(&pool, folder, painter)?;
        }
        let app = web::Data::new(App {
            pool,
            open_painter: self.painter.clone(),
            hosts: self.host.clone(),
            patience: api::PATIENCE,
            turns: api::Turns::default(),
            throttle: api::Throttle::default(),
            tls: self.tls,
        });
        let front = self.web.clone();
        if let Some(folder) = &front
            && !folder.join("index.html").exists()
        {
            return Err(Stop::Input(format!("--web: {} holds no index.html", folder.display())));
        }
        let run = async move {
            let server = HttpServer::new(move || {
                let front = front.clone();
                Actix::new()
                    .app_data(app.clone())
                    .wrap(api::headers())
                    .wrap(Condition::new(self.tls, DefaultHeaders::new().add(HSTS)))
                    .wrap(Compress::default())
                    .configure(api::configure)
                    .configure(move |config| {
                        if let Some(folder) = &front {
                            front::configure(config, folder);
                        }
                    })
            })
            .workers(2)
            // What was asked before the end is answered, for so long, s.
            .shutdown_timeout(5)
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
            server.run().await.map_err(|e| Stop::Failure(e.to_string()))
        };
        actix_web::rt::System::new().block_on(run)
    }

    /// The database, once it is there.
    fn reached(&self) -> saltmarsh_store::Result<Pool> {
        let until = Instant::now() + Duration::from_secs(self.wait);
        loop {
            match Pool::connect(&self.database_url, CONNECTIONS) {
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
