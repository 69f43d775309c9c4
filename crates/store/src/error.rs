//! What can go wrong with the store.

/// A query that did not do what was asked.
#[derive(Debug, thiserror::Error)]
pub enum Error {
    #[error("there is no such {0}")]
    Missing(&'static str),
    /// Somebody else saved in between.
    #[error("{what} has moved on to version {present}")]
    Conflict { what: &'static str, present: i32 },
    /// A name that must be the only one.
    #[error("{0} is already in use")]
    Taken(&'static str),
    /// Something else needs it.
    #[error("{what} is needed by {}", by.join(", "))]
    InUse { what: &'static str, by: Vec<String> },
    #[error("the database cannot be reached")]
    Unreachable(#[source] diesel::r2d2::PoolError),
    #[error("the database failed")]
    Database(#[source] diesel::result::Error),
    #[error("the migrations failed: {0}")]
    Migration(String),
}

impl Error {
    /// The same, saying what a name that is in use belongs to.
    pub(crate) fn taken(self, what: &'static str) -> Self {
        match self {
            Self::Taken(_) => Self::Taken(what),
            other => other,
        }
    }
}

pub type Result<T> = std::result::Result<T, Error>;

impl From<diesel::result::Error> for Error {
    fn from(e: diesel::result::Error) -> Self {
        use diesel::result::{DatabaseErrorKind, Error as Diesel};
        match e {
            Diesel::DatabaseError(DatabaseErrorKind::UniqueViolation, _) => Self::Taken("this name"),
            other => Self::Database(other),
        }
    }
}
