//! Pigments.

use diesel::prelude::*;
use uuid::Uuid;

use crate::Result;
use crate::schema::pigments;

/// A pigment with its spectra, mm⁻¹ at tube strength.
#[derive(Debug, Clone, PartialEq, Queryable, Selectable)]
pub struct Pigment {
    pub code: String,
    pub name: String,
    pub absorption: Vec<f64>,
    pub scattering: Vec<f64>,
    pub source: String,
}

pub fn pigments(db: &mut PgConnection, owner: Uuid) -> Result<Vec<Pigment>> {
    Ok(pigments::table
        .filter(pigments::owner_id.eq(owner))
        .order(pigments::code)
        .select(Pigment::as_select())
        .load(db)?)
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
