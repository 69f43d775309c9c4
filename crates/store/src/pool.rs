//! Connections.

use std::ops::{Deref, DerefMut};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use diesel::PgConnection;
use diesel::connection::SimpleConnection;
use diesel::migration::MigrationSource;
use diesel::pg::Pg;
use diesel::r2d2::{ConnectionManager, ManageConnection, Pool as Inner, PooledConnection};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};

use crate::{Error, Result};

pub(crate) const MIGRATIONS: EmbeddedMigrations = embed_migrations!();
/// Name of the advisory lock under which migrations run; any fixed number does.
const MIGRATION_LOCK: i64 = 0x5a17_3a54;
/// How long a request waits for a connection before it says that the database is away.
const PATIENCE: Duration = Duration::from_secs(3);

/// What no request of ours needs: a statement of ten seconds, three of waiting for what another holds, a transaction that does nothing; and
/// plans that are made anew for every value: ours look rows up by their keys, and planning a list took as long as reading it.
const LIMITS: &str = "SET statement_timeout = '10s'; SET lock_timeout = '3s'; \
    SET idle_in_transaction_session_timeout = '15s'; SET plan_cache_mode = force_generic_plan";
/// Migrations take as long as they take.
const NO_LIMITS: &str = "SET statement_timeout = 0; SET lock_timeout = 0";
/// A database that no longer answers on an open connection is away after so long, ms (Linux, `TCP_USER_TIMEOUT`).
const SILENT_MS: u32 = 10_000;

/// A connection that did work less than so long ago is taken for sound: asking it first would be a tenth to a half of what a request
/// costs. Should it have broken since, one request is told that the database is away, and all other connections are in doubt.
const SOUND: Duration = Duration::from_secs(1);

pub type Connection = PooledConnection<Manager>;

/// A pool of connections to one database.
#[derive(Clone)]
pub struct Pool(Inner<Manager>);

/// A connection, and when it was last known to be sound; nothing where there is doubt.
pub struct Timed {
    db: PgConnection,
    sound: Option<Instant>,
    broke: Broke,
}

/// When a connection of the pool was last found to be broken.
type Broke = Arc<Mutex<Option<Instant>>>;

impl Timed {
    /// What it did failed: it is tested before anybody gets it again; if it broke, so is every other.
    pub fn doubt(&mut self, failed: &Error) {
        self.sound = None;
        if matches!(failed, Error::Broken(_)) {
            *self.broke.lock().unwrap_or_else(PoisonError::into_inner) = Some(Instant::now());
        }
    }

    fn is_sound(&self) -> bool {
        let broke = *self.broke.lock().unwrap_or_else(PoisonError::into_inner);
        self.sound.is_some_and(|at| at.elapsed() <= SOUND && broke.is_none_or(|broke| broke < at))
    }
}

impl Deref for Timed {
    type Target = PgConnection;
    fn deref(&self) -> &PgConnection {
        &self.db
    }
}

impl DerefMut for Timed {
    fn deref_mut(&mut self) -> &mut PgConnection {
        &mut self.db
    }
}

/// Makes connections, and tests those that rested for a while.
pub struct Manager(ConnectionManager<PgConnection>, Broke);

impl ManageConnection for Manager {
    type Connection = Timed;
    type Error = diesel::r2d2::Error;

    fn connect(&self) -> std::result::Result<Timed, Self::Error> {
        let mut db = self.0.connect()?;
        db.batch_execute(LIMITS).map_err(diesel::r2d2::Error::QueryError)?;
        Ok(Timed { db, sound: Some(Instant::now()), broke: self.1.clone() })
    }

    fn is_valid(&self, timed: &mut Timed) -> std::result::Result<(), Self::Error> {
        if !timed.is_sound() {
            self.0.is_valid(&mut timed.db)?;
        }
        timed.sound = Some(Instant::now());
        Ok(())
    }

    fn has_broken(&self, timed: &mut Timed) -> bool {
        self.0.has_broken(&mut timed.db)
    }
}

impl Pool {
    /// Connects to `url`, at most `size` connections.
    ///
    /// # Errors
    /// The database cannot be reached.
    pub fn connect(url: &str, size: u32) -> Result<Self> {
        Inner::builder()
            .max_size(size)
            .connection_timeout(PATIENCE)
            .test_on_check_out(true)
            .build(Manager(ConnectionManager::new(with_silence(url)), Broke::default()))
            .map(Self)
            .map_err(Error::Unreachable)
    }

    /// Connections that there may be.
    pub fn size(&self) -> u32 {
        self.0.max_size()
    }

    /// Connections that are open, and those of them that nobody uses.
    pub fn connections(&self) -> [u32; 2] {
        let state = self.0.state();
        [state.connections, state.idle_connections]
    }

    /// A connection.
    ///
    /// # Errors
    /// None was to be had in time.
    pub fn get(&self) -> Result<Connection> {
        self.0.get().map_err(Error::Unreachable)
    }

    /// Runs what migrations are missing. Copies of the program that start at once against one database wait for each other.
    ///
    /// # Errors
    /// The database cannot be reached, a newer program has migrated it, or a migration fails.
    pub fn migrate(&self) -> Result<()> {
        let mut db = self.get()?;
        db.batch_execute(NO_LIMITS)?;
        // Held by the connection, so that a copy that dies lets go.
        db.batch_execute(&format!("SELECT pg_advisory_lock({MIGRATION_LOCK})"))?;
        let done = not_newer(&mut db).and_then(|()| {
            db.run_pending_migrations(MIGRATIONS).map(|_| ()).map_err(|e| Error::Migration(e.to_string()))
        });
        db.batch_execute(&format!("SELECT pg_advisory_unlock({MIGRATION_LOCK}); {LIMITS}"))?;
        done
    }
}

/// Refuses a database that a newer program has changed: what that one keeps, this one would not know of.
fn not_newer(db: &mut Connection) -> Result<()> {
    let failed = |e: Box<dyn std::error::Error + Send + Sync>| Error::Migration(e.to_string());
    let known: Vec<String> = MigrationSource::<Pg>::migrations(&MIGRATIONS)
        .map_err(failed)?
        .iter()
        .map(|m| m.name().version().to_string())
        .collect();
    let applied = db.applied_migrations().map_err(failed)?;
    match applied.iter().map(ToString::to_string).find(|a| !known.contains(a)) {
        Some(newer) => Err(Error::Migration(format!(
            "the database was migrated by a newer program (migration {newer} is not known to this one): start that one"
        ))),
        None => Ok(()),
    }
}

/// The address of a database, a URL or libpq's pairs of keyword and value, with how long it may be silent, unless it says so itself.
pub(crate) fn with_silence(address: &str) -> String {
    if address.contains("tcp_user_timeout") {
        return address.to_owned();
    }
    let joint = match (address.contains("://"), address.contains('?')) {
        (true, true) => '&',
        (true, false) => '?',
        (false, _) => ' ',
    };
    format!("{address}{joint}tcp_user_timeout={SILENT_MS}")
}

#[cfg(test)]
mod tests {
    use super::with_silence;

    #[test]
    fn an_address_stays_one_however_it_is_written() {
        for (given, wanted) in [
            ("postgres://a@b/c", "postgres://a@b/c?tcp_user_timeout=10000"),
            ("postgres://a@b/c?sslmode=require", "postgres://a@b/c?sslmode=require&tcp_user_timeout=10000"),
            ("host=/run/postgresql dbname=c", "host=/run/postgresql dbname=c tcp_user_timeout=10000"),
            ("postgres://a@b/c?tcp_user_timeout=5", "postgres://a@b/c?tcp_user_timeout=5"),
        ] {
            assert_eq!(with_silence(given), wanted);
        }
    }
}
