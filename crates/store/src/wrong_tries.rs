//! Wrong passwords, and invitations that nobody made: whoever tries them waits, by name and by address, the longer the more there were in
//! a row. All copies of the server count together.

use chrono::{DateTime, Duration, Utc};
use diesel::dsl::sql;
use diesel::prelude::*;
use diesel::sql_types::Integer;

use crate::Result;
use crate::schema::wrong_tries::{dsl, table};

/// So many wrong ones in a row are free: a painter may mistype.
const FREE: i32 = 5;
/// The wait after the next, doubled with each after that, up to the longest; s.
const FIRST_S: i64 = 2;
const LONGEST_S: i64 = 15 * 60;

/// When it may be tried next after so many wrong ones, the last of them at `last`.
fn next(wrong: i32, last: DateTime<Utc>) -> DateTime<Utc> {
    let doubled = (wrong - FREE).clamp(0, 16);
    let wait = if doubled == 0 { 0 } else { (FIRST_S << (doubled - 1)).min(LONGEST_S) };
    last + Duration::seconds(wait)
}

/// Whoever is about to try: how long one of these has to wait yet, as of `now`; else it counts as wrong until it is known to be right, so that
/// many at once are many. It counts for long enough that waiting it out is no way around; what is older is let go.
pub fn tried(db: &mut PgConnection, who: &[String], now: DateTime<Utc>) -> Result<Option<Duration>> {
    db.transaction(|db| {
        diesel::delete(table.filter(dsl::last.lt(now - Duration::seconds(2 * LONGEST_S)))).execute(db)?;
        // In one order for all: nobody waits for another in a circle.
        let there: Vec<(i32, DateTime<Utc>)> = table
            .filter(dsl::who.eq_any(who))
            .order(dsl::who)
            .select((dsl::wrong, dsl::last))
            .for_update()
            .load(db)?;
        let wait = there.into_iter().map(|(wrong, last)| next(wrong, last) - now).max();
        if let Some(wait) = wait.filter(|wait| *wait > Duration::zero()) {
            return Ok(Some(wait));
        }
        let mut who: Vec<&str> = who.iter().map(String::as_str).collect();
        who.sort_unstable();
        who.dedup();
        let rows: Vec<_> =
            who.iter().map(|who| (dsl::who.eq(*who), dsl::wrong.eq(1), dsl::last.eq(now))).collect();
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

/// A right one ends the row.
pub fn forget(db: &mut PgConnection, who: &[String]) -> Result<()> {
    diesel::delete(table.filter(dsl::who.eq_any(who))).execute(db)?;
    Ok(())
}
