//! `saltmarsh painter`: who may sign in.

use std::io::Read;
use std::path::PathBuf;

use clap::Args;
use saltmarsh_core::error::text;
use saltmarsh_store::{Pool, painters};

use super::files::tell;
use crate::api::passwords;
use crate::api::words::LONGEST_NAME;
use crate::demo;
use crate::stop::Stop;

/// Bytes of standard input that are read for a password.
const MOST_BYTES: u64 = 4096;

/// Gives a painter a password, and makes the painter if there is none of this name. Whoever is signed in as that painter is signed out.
/// The password is the first line of standard input.
#[derive(Args)]
pub struct Painter {
    /// Name to sign in with, at most 80 characters.
    name: String,
    /// PostgreSQL to use.
    #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
    database_url: String,
    /// The painter becomes an owner of the studio: may invite others, and sees who paints here.
    #[arg(long)]
    owner: bool,
    /// What the painter is to begin with: a folder of tools, gestures and grounds, such as the demo's. What is there already stays.
    #[arg(long)]
    with: Option<PathBuf>,
}

impl Painter {
    pub fn run(self) -> Result<(), Stop> {
        let wrong = |e: saltmarsh_core::FieldError| Stop::Input(e.to_string());
        let name = text("name", &self.name, 1, LONGEST_NAME).map_err(wrong)?;
        let mut given = String::new();
        std::io::stdin()
            .lock()
            .take(MOST_BYTES)
            .read_to_string(&mut given)
            .map_err(|e| Stop::Input(format!("password: standard input: {e}")))?;
        let hash = passwords::hashed(given.lines().next().unwrap_or_default()).map_err(wrong)?;
        let pool = Pool::connect(&self.database_url, 1)?;
        pool.migrate()?;
        let mut db = pool.get()?;
        let painter = painters::set_password(&mut db, name, &hash)?;
        if self.owner {
            painters::set_owner(&mut db, painter.id, true)?;
        }
        drop(db);
        if let Some(folder) = &self.with {
            demo::load(&pool, folder, name)?;
        }
        tell(&format!("{name} signs in with this password from now on.\n")).map(|_| ())
    }
}
