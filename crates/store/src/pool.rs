//! Connections.

use std::time::Duration;

use diesel::PgConnection;
use diesel::connection::SimpleConnection;
use diesel::r2d2::{ConnectionManager, Pool as Inner, PooledConnection};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};

use crate::{Error, Result};

const MIGRATIONS: EmbeddedMigrations = embed_migrations!();
/// Name of the advisory lock under which migrations run; any fixed number does.
const MIGRATION_LOCK: i64 = 0x5a17_3a54;
/// How long a request waits for a connection before it says that the database is away.
const PATIENCE: Duration = Duration::from_secs(3);

pub type Connection = PooledConnection<ConnectionManager<PgConnection>>;

/// A pool of connections to one database.
#[derive(Clone)]
pub struct Pool(Inner<ConnectionManager<PgConnection>>);

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
            .build(ConnectionManager::new(url))
            .map(Self)
            .map_err(Error::Unreachable)
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
    /// The database cannot be reached, or a migration fails.
    pub fn migrate(&self) -> Result<()> {
        let mut db = self.get()?;
        // Held by the connection, so that a copy that dies lets go.
        db.batch_execute(&format!("SELECT pg_advisory_lock({MIGRATION_LOCK})"))?;
        let done =
            db.run_pending_migrations(MIGRATIONS).map(|_| ()).map_err(|e| Error::Migration(e.to_string()));
        db.batch_execute(&format!("SELECT pg_advisory_unlock({MIGRATION_LOCK})"))?;
        done
    }
}
