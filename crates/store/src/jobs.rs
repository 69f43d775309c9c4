//! What keeps jobs going that no painter asks for, and what one of them does: letting go of what has had its time.
//!
//! The jobs themselves lie in a table of the library that takes them out and puts them in, `fang`.

use chrono::{DateTime, Duration, Utc};
use diesel::connection::SimpleConnection;
use diesel::prelude::*;
use diesel::r2d2::{ConnectionManager, Pool};
use diesel::sql_types::{BigInt, Text, Timestamptz};

use crate::pool::with_silence;
use crate::schema::{invitations, sessions};
use crate::{Error, Result};

/// Name of the advisory lock under which jobs are put down; any fixed number does.
const LOCK: i64 = 0x5a17_0b05;
/// A job that was begun so long ago was left by a copy that is gone.
const LEFT: Duration = Duration::hours(3);
/// Jobs that failed for good are told of for so long.
const TOLD: Duration = Duration::days(30);

/// Connections of the jobs' own, as their library wants them: a job never waits for painters, nor they for it.
pub fn connections(url: &str) -> Pool<ConnectionManager<PgConnection>> {
    Pool::builder()
        .max_size(2)
        .min_idle(Some(0))
        .connection_timeout(std::time::Duration::from_secs(3))
        .build_unchecked(ConnectionManager::new(with_silence(url)))
}

/// Puts jobs down while no other copy does.
///
/// # Errors
/// What the database says, or `put`.
pub fn alone<E: From<diesel::result::Error>>(
    db: &mut PgConnection,
    put: impl FnOnce(&mut PgConnection) -> std::result::Result<(), E>,
) -> std::result::Result<(), E> {
    db.transaction(|db| {
        db.batch_execute(&format!("SELECT pg_advisory_xact_lock({LOCK})"))?;
        put(db)
    })
}

/// Jobs of a kind that wait for their time wait no more; what is overdue stays.
pub fn forget_later(db: &mut PgConnection, kind: &str, now: DateTime<Utc>) -> QueryResult<usize> {
    diesel::sql_query("DELETE FROM fang_tasks WHERE task_type = $1 AND state = 'new' AND scheduled_at > $2")
        .bind::<Text, _>(kind)
        .bind::<Timestamptz, _>(now)
        .execute(db)
}

/// Jobs whose copy is gone wait again, unless the same job waits already; how many.
pub fn take_up(db: &mut PgConnection, now: DateTime<Utc>) -> QueryResult<usize> {
    let left = "t.state = 'in_progress' AND t.updated_at < $1";
    diesel::sql_query(format!(
        "DELETE FROM fang_tasks t WHERE {left} AND EXISTS (SELECT 1 FROM fang_tasks o WHERE o.id <> t.id \
        AND o.uniq_hash = t.uniq_hash AND (o.state IN ('new', 'retried') OR o.state = 'in_progress' AND (o.updated_at, o.id) > (t.updated_at, t.id)))"
    ))
    .bind::<Timestamptz, _>(now - LEFT)
    .execute(db)?;
    diesel::sql_query(format!("UPDATE fang_tasks t SET state = 'new', updated_at = now() WHERE {left}"))
        .bind::<Timestamptz, _>(now - LEFT)
        .execute(db)
}

/// Whether a copy is at a job of a kind: it puts the next down itself.
pub fn in_hand(db: &mut PgConnection, kind: &str) -> QueryResult<bool> {
    let at_it = "SELECT count(*) FROM fang_tasks WHERE task_type = $1 AND state = 'in_progress'";
    Ok(diesel::sql_query(at_it).bind::<Text, _>(kind).get_result::<Count>(db)?.count > 0)
}

#[derive(QueryableByName)]
struct Count {
    #[diesel(sql_type = BigInt)]
    count: i64,
}

/// Lets go of sign-ins and invitations that have ended, and of jobs that failed long ago; how many.
///
/// # Errors
/// What the database says.
pub fn let_go(db: &mut PgConnection, now: DateTime<Utc>) -> Result<usize> {
    db.transaction(|db| {
        let ended = sessions::table.filter(sessions::expires_at.lt(now));
        let open = invitations::table.filter(invitations::expires_at.lt(now));
        let failed = diesel::sql_query("DELETE FROM fang_tasks WHERE state = 'failed' AND updated_at < $1")
            .bind::<Timestamptz, _>(now - TOLD);
        Ok::<_, Error>(
            diesel::delete(ended).execute(db)? + diesel::delete(open).execute(db)? + failed.execute(db)?,
        )
    })
}
