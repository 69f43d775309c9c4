//! Wrong passwords, and invitations that nobody made: whoever tries them waits, by name and by address, the longer the more there were in
//! a row. All copies of the server count together.

use chrono::{DateTime, Duration, Utc};
use diesel::dsl::sql;
use diesel::prelude::*;
use diesel::sql_types::Integer;

use crate::Result;
use crate::schema::wrong_tries::{dsl, table};

/// Who tries.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Who {
    /// Whoever goes by this name.
    Name(String),
    /// Whoever comes from there: it may be all of a studio.
    Address(String),
}

impl Who {
    /// As it is kept.
    fn key(&self) -> String {
        match self {
            Who::Name(name) => format!("name {name}"),
            Who::Address(address) => format!("address {address}"),
        }
    }

    /// So many wrong ones in a row are free: a painter may mistype, and several who come from one address.
    fn free(&self) -> i32 {
        match self {
            Who::Name(_) => 5,
            Who::Address(_) => 20,
        }
    }

    /// It waits so long at most, s. Many names are tried from one address, and each of them waits for itself.
    fn longest_s(&self) -> i64 {
        match self {
            Who::Name(_) => LONGEST_S,
            Who::Address(_) => 60,
        }
    }

    /// When it may be tried next after so many wrong ones, the last of them at `last`.
    fn next(&self, wrong: i32, last: DateTime<Utc>) -> DateTime<Utc> {
        let doubled = (wrong - self.free()).clamp(0, 16);
        let wait = if doubled == 0 { 0 } else { (FIRST_S << (doubled - 1)).min(self.longest_s()) };
        last + Duration::seconds(wait)
    }
}

/// The wait after the first wrong one that is not free, doubled with each after that, up to the longest; s.
const FIRST_S: i64 = 2;
const LONGEST_S: i64 = 15 * 60;

/// Whoever is about to try: how long one of these has to wait yet, as of `now`; else it counts as wrong until it is known to be right, so that
/// many at once are many. It counts for long enough that waiting it out is no way around; what is older is let go.
pub fn tried(db: &mut PgConnection, who: &[Who], now: DateTime<Utc>) -> Result<Option<Duration>> {
    db.transaction(|db| {
        diesel::delete(table.filter(dsl::last.lt(now - Duration::seconds(2 * LONGEST_S)))).execute(db)?;
        // In one order for all: nobody waits for another in a circle.
        let there: Vec<(String, i32, DateTime<Utc>)> = table
            .filter(dsl::who.eq_any(who.iter().map(Who::key)))
            .order(dsl::who)
            .select((dsl::who, dsl::wrong, dsl::last))
            .for_update()
            .load(db)?;
        let found = |who: &Who| there.iter().find(|(key, ..)| *key == who.key());
        let waits =
            who.iter().filter_map(|who| found(who).map(|(_, wrong, last)| who.next(*wrong, *last) - now));
        let wait = waits.max();
        if let Some(wait) = wait.filter(|wait| *wait > Duration::zero()) {
            return Ok(Some(wait));
        }
        let mut keys: Vec<String> = who.iter().map(Who::key).collect();
        keys.sort_unstable();
        keys.dedup();
        let rows: Vec<_> =
            keys.iter().map(|key| (dsl::who.eq(key), dsl::wrong.eq(1), dsl::last.eq(now))).collect();
        let more = sql::<Integer>("least(wrong_tries.wrong, 1000) + 1");
        diesel::insert_into(table)
            .values(rows)
            .on_conflict(dsl::who)
            .do_update()
            .set((dsl::wrong.eq(more), dsl::last.eq(now)))
            .execute(db)?;
        Ok(None)
    })
}

/// What was tried was right: it ends the row of wrong ones of a name. Of an address it alone counts as wrong no longer: whoever has a name of
/// their own would else try others' without end, signing in between.
pub fn right(db: &mut PgConnection, who: &[Who]) -> Result<()> {
    for who in who {
        let row = table.find(who.key());
        match who {
            Who::Name(_) => diesel::delete(row).execute(db)?,
            Who::Address(_) => diesel::update(row).set(dsl::wrong.eq(dsl::wrong - 1)).execute(db)?,
        };
    }
    Ok(())
}
