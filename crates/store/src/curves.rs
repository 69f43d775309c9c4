//! Curves that a painter keeps to use again.

use diesel::prelude::*;
use serde_json::Value;
use uuid::Uuid;

use crate::schema::curves;
use crate::{Error, Result};

/// A named curve: points `[[x, y], …]` in 0..1.
#[derive(Debug, Clone, PartialEq, Queryable, Selectable)]
pub struct Curve {
    pub id: Uuid,
    pub name: String,
    pub points: Value,
}

/// All curves of a painter, by name.
pub fn list(db: &mut PgConnection, owner: Uuid) -> Result<Vec<Curve>> {
    Ok(curves::table
        .filter(curves::owner_id.eq(owner))
        .order(curves::name)
        .select(Curve::as_select())
        .load(db)?)
}

/// Keeps a curve.
///
/// # Errors
/// [`Error::Taken`] where the painter has a curve of this name.
pub fn add(db: &mut PgConnection, owner: Uuid, name: &str, points: &Value) -> Result<Curve> {
    let row = (
        curves::id.eq(Uuid::new_v4()),
        curves::owner_id.eq(owner),
        curves::name.eq(name),
        curves::points.eq(points),
    );
    diesel::insert_into(curves::table)
        .values(row)
        .returning(Curve::as_returning())
        .get_result(db)
        .map_err(|e| Error::from(e).taken("the name of the curve"))
}

/// Takes a curve away.
///
/// # Errors
/// [`Error::Missing`] where the painter has no such curve.
pub fn remove(db: &mut PgConnection, owner: Uuid, id: Uuid) -> Result<()> {
    let row = curves::table.filter(curves::id.eq(id).and(curves::owner_id.eq(owner)));
    if diesel::delete(row).execute(db)? == 0 {
        return Err(Error::Missing("curve"));
    }
    Ok(())
}
