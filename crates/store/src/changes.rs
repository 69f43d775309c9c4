//! What is changed by anybody, on whatever copy of the server, told as it is committed (PostgreSQL's LISTEN and NOTIFY).

use diesel::connection::SimpleConnection;
use diesel::prelude::*;
use uuid::Uuid;

use crate::pool::{self, with_silence};
use crate::{Error, Result};

/// Something of a painter's changed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Change {
    pub owner: Uuid,
    /// What: `tools`, `kept` (a version), `drafts`, `gestures`, `grounds`, `images`, `styluses`, `curves`, or [`SESSIONS`]; no more than
    /// letters.
    pub kind: String,
    /// Of a version or a draft that of its tool; of sign-ins that of their painter.
    pub id: Uuid,
    /// Of a version, or of a draft that is still there; else 0.
    pub version: i32,
}

/// A painter was signed out, somewhere or everywhere.
pub const SESSIONS: &str = "sessions";

/// Where changes are told.
const CHANNEL: &str = "saltmarsh_changes";
/// So many are told by one notice at most: it bears 8,000 bytes.
const MOST_TOLD: usize = 64;

impl Change {
    /// As it is told: what [`Change::read`] reads.
    fn written(&self) -> String {
        let Self { owner, kind, id, version } = self;
        format!("{owner} {kind} {id} {version}")
    }

    /// What one notice tells.
    fn all_of(told: &str) -> impl Iterator<Item = Self> {
        told.split(';').filter_map(Self::read)
    }

    fn read(told: &str) -> Option<Self> {
        let mut words = told.split(' ');
        let owner = words.next()?.parse().ok()?;
        let kind = words.next()?.to_owned();
        let (id, version) = (words.next()?.parse().ok()?, words.next()?.parse().ok()?);
        Some(Self { owner, kind, id, version })
    }
}

/// The statements that tell of changes: nothing in them needs quoting.
fn notices(changes: &[Change]) -> String {
    let notice = |some: &[Change]| {
        let told: Vec<String> = some.iter().map(Change::written).collect();
        format!("; NOTIFY {CHANNEL}, '{}'", told.join(";"))
    };
    changes.chunks(MOST_TOLD).map(notice).collect()
}

/// Tells of changes, as soon as the transaction that it is in is committed.
pub(crate) fn tell(db: &mut PgConnection, changes: &[Change]) -> Result<()> {
    if !changes.is_empty() {
        db.batch_execute(&notices(changes))?;
    }
    Ok(())
}

/// Connections on which something is written and told.
pub trait Tells {
    /// Does `write` in a transaction; the changes that it gives besides are told with it, or right after.
    ///
    /// # Errors
    /// What `write` says; nothing is written then.
    fn written_and_told<T>(
        &mut self,
        write: impl FnOnce(&mut PgConnection) -> Result<(T, Vec<Change>)>,
    ) -> Result<T>;
}

/// It may be in a transaction already.
impl Tells for PgConnection {
    fn written_and_told<T>(
        &mut self,
        write: impl FnOnce(&mut PgConnection) -> Result<(T, Vec<Change>)>,
    ) -> Result<T> {
        self.transaction(|db| {
            let (done, changes) = write(db)?;
            tell(db, &changes)?;
            Ok(done)
        })
    }
}

/// It is in no transaction: told is after the commit. Whoever notifies within holds a lock over all who do until the commit is on the disk,
/// and saves would wait for it one after the other. Commit and notice are one message to the database, so that the second follows the
/// first even where this program ends meanwhile; where the database ends, whoever listens hears of that, and looks everything up anew.
impl Tells for pool::Connection {
    fn written_and_told<T>(
        &mut self,
        write: impl FnOnce(&mut PgConnection) -> Result<(T, Vec<Change>)>,
    ) -> Result<T> {
        self.batch_execute("BEGIN")?;
        match write(self) {
            Ok((done, changes)) => {
                self.batch_execute(&format!("COMMIT{}", notices(&changes)))?;
                Ok(done)
            }
            Err(refused) => {
                // Where even this fails the connection is broken, and nothing is written either.
                drop(self.batch_execute("ROLLBACK"));
                Err(refused)
            }
        }
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
        db.batch_execute(&format!("LISTEN {CHANNEL}"))?;
        Ok(Self(db))
    }

    /// What was told since it was asked last; it waits for nothing.
    ///
    /// # Errors
    /// The connection broke: what was told since is lost.
    pub fn heard(&mut self) -> Result<Vec<Change>> {
        let told: std::result::Result<Vec<_>, _> = self.0.notifications_iter().collect();
        Ok(told?.iter().flat_map(|n| Change::all_of(&n.payload)).collect())
    }
}
