//! The API against a real PostgreSQL (`DATABASE_URL`, which `./run test` sets): each test signs in as a painter of its own.

#[macro_use]
mod studio;

mod access;
mod changes;
mod gestures;
mod in_line;
mod materials;
mod members;
mod refused;
mod styluses;
mod tools;
mod watched;
