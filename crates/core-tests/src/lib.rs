//! Nothing but tests: see `tests/all`.
