//! What can go wrong with the store.

/// What may be in use already: a name, until it is known whose; the id that something new was given.
const A_NAME: &str = "this name";
pub const THE_ID: &str = "the id";

/// A query that did not do what was asked.
#[derive(Debug, thiserror::Error)]
pub enum Error {
    #[error("there is no such {0}")]
    Missing(&'static str),
    /// Somebody else saved in between.
    #[error("{what} has moved on to version {present}")]
    Conflict { what: &'static str, present: i32 },
    /// A name, or an id ([`THE_ID`]), that must be the only one.
    #[error("{0} is already in use")]
    Taken(&'static str),
    /// Something else needs it.
    #[error("{what} is needed by {}", by.join(", "))]
    InUse { what: &'static str, by: Vec<String> },
    /// Something would need an image, of this hash, that its painter does not have.
    #[error("there is no image {0}")]
    NoImage(String),
    /// Others wrote the same at the same time, or the database had no time for it: asked again, it may be done.
    #[error("the database was busy with others")]
    Crossed(#[source] diesel::result::Error),
    #[error("the database cannot be reached")]
    Unreachable(#[source] diesel::r2d2::PoolError),
    #[error("the database cannot be reached")]
    Away(#[source] diesel::ConnectionError),
    /// The connection broke meanwhile: what was asked may be done or not.
    #[error("the connection to the database broke")]
    Broken(#[source] diesel::result::Error),
    #[error("the database failed")]
    Database(#[source] diesel::result::Error),
    #[error("the migrations failed: {0}")]
    Migration(String),
}

impl Error {
    /// Whether it is likely to be done when asked again at once: two were in each other's way, and one of them is done by now.
    pub fn passes(&self) -> bool {
        use diesel::result::{DatabaseErrorKind, Error as Diesel};
        let Self::Crossed(Diesel::DatabaseError(kind, info)) = self else { return false };
        matches!(kind, DatabaseErrorKind::UniqueViolation | DatabaseErrorKind::SerializationFailure)
            || info.message() == DEADLOCK
    }

    /// The same, saying what a name that is in use belongs to.
    pub(crate) fn taken(self, what: &'static str) -> Self {
        match self {
            Self::Taken(A_NAME) => Self::Taken(what),
            other => other,
        }
    }

    /// What was looked for, or nothing where it is missing.
    pub(crate) fn found<T>(looked_for: Result<T>) -> Result<Option<T>> {
        match looked_for {
            Ok(found) => Ok(Some(found)),
            Err(Self::Missing(_)) => Ok(None),
            Err(e) => Err(e),
        }
    }
}

pub type Result<T> = std::result::Result<T, Error>;

impl From<diesel::result::Error> for Error {
    fn from(e: diesel::result::Error) -> Self {
        use diesel::result::{DatabaseErrorKind, Error as Diesel};
        match e {
            Diesel::DatabaseError(DatabaseErrorKind::UniqueViolation, ref info)
                if is_of_names(info.constraint_name()) =>
            {
                Self::Taken(A_NAME)
            }
            Diesel::DatabaseError(DatabaseErrorKind::UniqueViolation, ref info)
                if info.constraint_name().is_some_and(|c| c.ends_with("_pkey")) =>
            {
                Self::Taken(THE_ID)
            }
            Diesel::DatabaseError(
                DatabaseErrorKind::UniqueViolation | DatabaseErrorKind::SerializationFailure,
                _,
            ) => Self::Crossed(e),
            Diesel::DatabaseError(DatabaseErrorKind::ClosedConnection, _)
            | Diesel::BrokenTransactionManager => Self::Broken(e),
            Diesel::DatabaseError(_, ref info) if BROKEN.iter().any(|b| info.message().starts_with(b)) => {
                Self::Broken(e)
            }
            Diesel::DatabaseError(_, ref info) if CROSSED.contains(&info.message()) => Self::Crossed(e),
            other => Self::Database(other),
        }
    }
}

/// The constraints that keep names apart.
fn is_of_names(constraint: Option<&str>) -> bool {
    constraint.is_some_and(|c| c.ends_with("_name_key") || c == "tools_by_name")
}

/// How libpq and PostgreSQL begin what they say of a connection that is no more.
const BROKEN: [&str; 5] = [
    "server closed the connection",
    "no connection to the server",
    "could not receive data from server",
    "could not send data to server",
    "terminating connection",
];

/// What PostgreSQL says of writers that are in each other's way, and of what took too long. None of it has a kind of its own here, so that
/// it is known by its words: a server that speaks another language than English has these told as faults.
const DEADLOCK: &str = "deadlock detected";
const CROSSED: [&str; 3] =
    [DEADLOCK, "canceling statement due to lock timeout", "canceling statement due to statement timeout"];
