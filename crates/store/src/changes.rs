//! What is changed by anybody, on whatever copy of the server, told as it is committed (PostgreSQL's LISTEN and NOTIFY).

use diesel::connection::SimpleConnection;
use diesel::prelude::*;
use uuid::Uuid;

use crate::pool::with_silence;
use crate::{Error, Result};

/// Something of a painter's changed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Change {
    pub owner: Uuid,
    /// What: `tools`, `kept` (a version), `drafts`, `gestures`, `grounds`, `images`, `styluses`, `curves`.
    pub kind: String,
    /// Of a version or a draft that of its tool.
    pub id: Uuid,
    /// Of a version, or of a draft that is still there; else 0.
    pub version: i32,
}

impl Change {
    fn read(told: &str) -> Option<Self> {
        let mut words = told.split(' ');
        let owner = words.next()?.parse().ok()?;
        let kind = words.next()?.to_owned();
        let (id, version) = (words.next()?.parse().ok()?, words.next()?.parse().ok()?);
        Some(Self { owner, kind, id, version })
    }
}

/// A connection that does nothing but listen.
pub struct Listening(PgConnection);

impl Listening {
    /// Listens to the database at `url` from now on.
    ///
    /// # Errors
    /// It cannot be reached.
    pub fn to(url: &str) -> Result<Self> {
        let mut db = PgConnection::establish(&with_silence(url)).map_err(Error::Away)?;
        db.batch_execute("LISTEN saltmarsh_changes")?;
        Ok(Self(db))
    }

    /// What was told since it was asked last; it waits for nothing.
    ///
    /// # Errors
    /// The connection broke: what was told since is lost.
    pub fn heard(&mut self) -> Result<Vec<Change>> {
        let told: std::result::Result<Vec<_>, _> = self.0.notifications_iter().collect();
        Ok(told?.iter().filter_map(|n| Change::read(&n.payload)).collect())
    }
}
