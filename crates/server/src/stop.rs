//! Why a command stops.

use saltmarsh_core::FieldError;

/// Why a command stopped.
#[derive(Debug, thiserror::Error)]
pub enum Stop {
    /// The input is at fault: exit code 2.
    #[error("{0}")]
    Input(String),
    /// Something else failed: exit code 1.
    #[error("{0}")]
    Failure(String),
}

impl From<saltmarsh_store::Error> for Stop {
    fn from(e: saltmarsh_store::Error) -> Self {
        let cause = std::error::Error::source(&e).map(|c| format!(": {c}")).unwrap_or_default();
        Self::Failure(format!("{e}{cause}"))
    }
}

impl From<FieldError> for Stop {
    fn from(e: FieldError) -> Self {
        Self::Input(e.to_string())
    }
}
