//! Everything that painters keep, as lines of text, and back into an empty database.
//!
//! Sign-ins and invitations are left out: whoever is restored signs in anew, and is invited anew.

use diesel::connection::SimpleConnection;
use diesel::migration::{Migration, MigrationSource};
use diesel::pg::Pg;
use diesel::prelude::*;
use diesel::sql_types::{BigInt, Text};
use diesel_migrations::MigrationHarness;

use crate::pool::MIGRATIONS;
use crate::{Error, Result};

/// A table, and by what its rows are ordered.
struct Table {
    name: &'static str,
    order: &'static str,
    /// Rows that are read at once.
    most: usize,
}

const fn table(name: &'static str, order: &'static str) -> Table {
    Table { name, order, most: 200 }
}

/// All tables but sign-ins, wrong tries, invitations, jobs and the record of migrations, each after those that its rows belong to.
const TABLES: [Table; 11] = [
    table("painters", "id"),
    table("tools", "id"),
    table("tool_versions", "tool_id, number"),
    table("drafts", "tool_id"),
    table("gestures", "id"),
    table("grounds", "id"),
    // Their rows hold whole pictures.
    Table { name: "images", order: "id", most: 1 },
    table("pigments", "id"),
    table("styluses", "id"),
    table("curves", "id"),
    table("image_uses", "owner_id, hash COLLATE \"C\", tool_id, number, draft_of, ground_id"),
];

/// Rows look the same wherever they are read, and take as long as they take.
const PLAIN: &str = "SET LOCAL timezone = 'UTC'; SET LOCAL bytea_output = 'hex'; SET LOCAL extra_float_digits = 1; \
    SET LOCAL statement_timeout = 0; SET LOCAL idle_in_transaction_session_timeout = 0";

/// Names of what is backed up, in order.
pub fn tables() -> impl Iterator<Item = &'static str> {
    TABLES.iter().map(|t| t.name)
}

#[derive(QueryableByName)]
struct Row {
    #[diesel(sql_type = Text)]
    row: String,
}

#[derive(QueryableByName)]
struct Count {
    #[diesel(sql_type = BigInt)]
    count: i64,
}

/// Why rows did not get from one place to the other.
#[derive(Debug, thiserror::Error)]
pub enum Failed<E> {
    #[error(transparent)]
    Store(#[from] Error),
    /// Whoever takes or gives the rows failed.
    #[error(transparent)]
    Other(E),
}

impl<E> From<diesel::result::Error> for Failed<E> {
    fn from(e: diesel::result::Error) -> Self {
        Self::Store(e.into())
    }
}

/// The last migration that a database has been through; empty before the first.
pub fn migrated_to(db: &mut PgConnection) -> Result<String> {
    let applied = db.applied_migrations().map_err(|e| Error::Migration(e.to_string()))?;
    Ok(applied.iter().map(ToString::to_string).max().unwrap_or_default())
}

/// Gives every row of every table as it was at one moment, as a line of JSON, with the name of its table.
///
/// # Errors
/// What the database says, or whoever takes the rows.
pub fn read<E>(
    db: &mut PgConnection,
    mut take: impl FnMut(&str, &str) -> std::result::Result<(), E>,
) -> std::result::Result<(), Failed<E>> {
    db.build_transaction().repeatable_read().read_only().run(|db| {
        db.batch_execute(PLAIN)?;
        for table in &TABLES {
            each_row(db, table, |row| take(table.name, row).map_err(Failed::Other))?;
        }
        Ok(())
    })
}

fn each_row<E: From<diesel::result::Error>>(
    db: &mut PgConnection,
    Table { name, order, most }: &Table,
    mut take: impl FnMut(&str) -> std::result::Result<(), E>,
) -> std::result::Result<(), E> {
    db.batch_execute(&format!(
        "DECLARE backed NO SCROLL CURSOR FOR SELECT row_to_json(t)::text AS row FROM {name} t ORDER BY {order}"
    ))?;
    loop {
        let rows: Vec<Row> = diesel::sql_query(format!("FETCH {most} FROM backed")).load(db)?;
        if rows.is_empty() {
            break;
        }
        rows.iter().try_for_each(|r| take(&r.row))?;
    }
    Ok(db.batch_execute("CLOSE backed")?)
}

/// Puts rows into a database that holds nobody's, and brings it up to date from `migration`, which the rows are of. `give`: calls back with
/// every row of a table; `check`: is told every row as it is in the database afterwards. All rows are there in the end, or none.
///
/// # Errors
/// [`Error::Migration`] where the program does not know the migration, or the database is beyond it or holds painters; what the database or
/// whoever gives and checks the rows says.
pub fn write<E>(
    db: &mut PgConnection,
    migration: &str,
    mut give: impl FnMut(
        &str,
        &mut dyn FnMut(&str) -> std::result::Result<(), Failed<E>>,
    ) -> std::result::Result<(), Failed<E>>,
    mut check: impl FnMut(&str, &str) -> std::result::Result<(), E>,
    done: impl FnOnce() -> std::result::Result<(), E>,
) -> std::result::Result<(), Failed<E>> {
    bring_to(db, migration)?;
    db.transaction(|db| {
        db.batch_execute(PLAIN)?;
        let painters: Count = diesel::sql_query("SELECT count(*) FROM painters").get_result(db)?;
        if painters.count > 0 {
            return Err(Error::Migration("the database is not empty: it holds painters".into()).into());
        }
        for Table { name, .. } in &TABLES {
            let insert =
                format!("INSERT INTO {name} SELECT * FROM json_populate_record(NULL::{name}, $1::json)");
            give(name, &mut |row| {
                diesel::sql_query(&insert).bind::<Text, _>(row).execute(db)?;
                Ok(())
            })?;
        }
        for table in &TABLES {
            each_row(db, table, |row| check(table.name, row).map_err(Failed::Other))?;
        }
        done().map_err(Failed::Other)
    })
}

/// Runs migrations up to one, and none beyond.
fn bring_to(db: &mut PgConnection, last: &str) -> Result<()> {
    let failed = |e: Box<dyn std::error::Error + Send + Sync>| Error::Migration(e.to_string());
    let known = MigrationSource::<Pg>::migrations(&MIGRATIONS).map_err(failed)?;
    if !known.iter().any(|m| m.name().version().to_string() == last) {
        return Err(Error::Migration(format!("migration {last} is not known to this program")));
    }
    if migrated_to(db)?.as_str() > last {
        let message =
            format!("the database is beyond migration {last}, which the rows are of: take an empty one");
        return Err(Error::Migration(message));
    }
    for migration in db.pending_migrations(MIGRATIONS).map_err(failed)? {
        if migration.name().version().to_string().as_str() <= last {
            db.run_migration(&migration).map_err(failed)?;
        }
    }
    Ok(())
}
