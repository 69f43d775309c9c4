//! `saltmarsh backup` and `saltmarsh restore`: everything that painters keep, in a folder.

use std::path::PathBuf;

use clap::Args;

use super::files::tell;
use crate::backup;
use crate::stop::Stop;

/// Writes all that painters keep to a new folder, as it is at one moment, while the server may go on.
#[derive(Args)]
pub struct Backup {
    /// Folder to make; it must not be there, or be empty.
    folder: PathBuf,
    /// PostgreSQL to read.
    #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
    database_url: String,
}

/// Brings a backup back into an empty database. The folder is checked before, the database after.
#[derive(Args)]
pub struct Restore {
    /// Folder of a backup.
    folder: PathBuf,
    /// PostgreSQL to write: an empty database.
    #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
    database_url: String,
}

impl Backup {
    pub fn run(self) -> Result<(), Stop> {
        let contents = backup::write(&self.database_url, &self.folder)?;
        tell(&format!("{}: {}", self.folder.display(), contents.told())).map(|_| ())
    }
}

impl Restore {
    pub fn run(self) -> Result<(), Stop> {
        let contents = backup::restore(&self.database_url, &self.folder)?;
        tell(&format!("restored: {}", contents.told())).map(|_| ())
    }
}
