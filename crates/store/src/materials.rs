//! Grounds and pigments.

use diesel::prelude::*;
use uuid::Uuid;

use crate::Result;
use crate::schema::{grounds, pigments};

/// A named ground.
#[derive(Debug, Clone, PartialEq, Eq, Queryable, Selectable)]
pub struct Ground {
    pub id: Uuid,
    pub name: String,
    pub paper: String,
    pub note: String,
}

/// A pigment with its spectra, mm⁻¹ at tube strength.
#[derive(Debug, Clone, PartialEq, Queryable, Selectable)]
pub struct Pigment {
    pub code: String,
    pub name: String,
    pub absorption: Vec<f64>,
    pub scattering: Vec<f64>,
    pub source: String,
}

pub fn grounds(db: &mut PgConnection, owner: Uuid) -> Result<Vec<Ground>> {
    Ok(grounds::table
        .filter(grounds::owner_id.eq(owner))
        .order(grounds::name)
        .select(Ground::as_select())
        .load(db)?)
}

pub fn pigments(db: &mut PgConnection, owner: Uuid) -> Result<Vec<Pigment>> {
    Ok(pigments::table
        .filter(pigments::owner_id.eq(owner))
        .order(pigments::code)
        .select(Pigment::as_select())
        .load(db)?)
}

/// Adds a ground where the painter has none of this name.
pub fn ensure_ground(db: &mut PgConnection, owner: Uuid, name: &str, paper: &str, note: &str) -> Result<()> {
    let row = (
        grounds::id.eq(Uuid::new_v4()),
        grounds::owner_id.eq(owner),
        grounds::name.eq(name),
        grounds::paper.eq(paper),
        grounds::note.eq(note),
    );
    diesel::insert_into(grounds::table).values(row).on_conflict_do_nothing().execute(db)?;
    Ok(())
}

/// Adds a pigment where the painter has none of this code.
pub fn ensure_pigment(db: &mut PgConnection, owner: Uuid, pigment: &Pigment) -> Result<()> {
    let row = (
        pigments::id.eq(Uuid::new_v4()),
        pigments::owner_id.eq(owner),
        pigments::code.eq(&pigment.code),
        pigments::name.eq(&pigment.name),
        pigments::absorption.eq(&pigment.absorption),
        pigments::scattering.eq(&pigment.scattering),
        pigments::source.eq(&pigment.source),
    );
    diesel::insert_into(pigments::table).values(row).on_conflict_do_nothing().execute(db)?;
    Ok(())
}
