//! PostgreSQL through Diesel: migrations, schema, rows and queries. No HTTP.

pub mod backup;
pub mod changes;
pub mod curves;
pub mod error;
pub mod gestures;
pub mod grounds;
pub mod images;
pub mod jobs;
pub mod materials;
pub mod painters;
pub mod pool;
pub mod replace;
mod save_draft;
mod schema;
pub mod studio;
pub mod styluses;
pub mod tools;
mod uses;
pub mod wrong_tries;

pub use error::{Error, Result};
pub use pool::{Connection, Pool};
