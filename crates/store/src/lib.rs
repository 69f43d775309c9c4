//! PostgreSQL through Diesel: migrations, schema and queries.
