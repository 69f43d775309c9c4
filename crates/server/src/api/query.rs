//! How handlers ask the database.

use std::sync::Arc;
use std::sync::atomic::{AtomicU64, Ordering};
use std::time::{Duration, Instant};

use actix_web::rt::time::timeout;
use actix_web::web;
use saltmarsh_store::{Connection, Pool, Result};
use tokio::sync::Semaphore;

use super::{ApiError, App};

/// A turn at the database is waited for so long, as long as pages wait for an answer.
const WAITS: Duration = Duration::from_secs(10);
/// A query that crosses another writer's is run so often in all: the other one is done by then.
const TRIES: usize = 4;

/// Turns at the database, as many as the pool has connections, in the order in which they were asked for: threads that wait for a connection
/// get one in any order, and some none in time.
#[derive(Clone)]
pub struct InLine {
    turns: Arc<Semaphore>,
    /// When the database answered last, as it is told in ms since the line was made; 0 where it has not yet.
    answered: Arc<AtomicU64>,
    made: Instant,
}

impl InLine {
    pub fn at(pool: &Pool) -> Self {
        let turns = Arc::new(Semaphore::new(pool.size() as usize));
        Self { turns, answered: Arc::default(), made: Instant::now() }
    }

    fn now(&self) -> u64 {
        self.made.elapsed().as_millis() as u64 + 1
    }

    /// Whether the database answered somebody within so long: who only asks that need not wait in line.
    pub fn answered_within(&self, ago: Duration) -> bool {
        let last = self.answered.load(Ordering::Relaxed);
        last > 0 && self.now() - last <= ago.as_millis() as u64
    }
}

/// Runs a query on a thread that may wait, in its turn; once more where another writer crossed it. Whoever is gone meanwhile gives up their
/// place.
///
/// # Errors
/// What the query says, as an answer; *busy* where its turn did not come in time.
pub async fn query<T: Send + 'static>(
    app: &web::Data<App>,
    run: impl Fn(&mut Connection) -> Result<T> + Send + 'static,
) -> std::result::Result<T, ApiError> {
    let turn = timeout(WAITS, app.in_line.turns.clone().acquire_owned()).await;
    let Ok(Ok(turn)) = turn else { return Err(ApiError::busy("too many ask at once: try again in a while")) };
    let (pool, line) = (app.pool.clone(), app.in_line.clone());
    let done = web::block(move || {
        let _turn = turn;
        let mut db = pool.get()?;
        let done = tried(|| run(&mut db));
        match &done {
            Ok(_) => line.answered.store(line.now(), Ordering::Relaxed),
            Err(e) => db.doubt(e),
        }
        done
    })
    .await;
    Ok(done.map_err(|_| ApiError::internal("the work was dropped"))??)
}

fn tried<T>(mut run: impl FnMut() -> Result<T>) -> Result<T> {
    for _ in 1..TRIES {
        match run() {
            Err(e) if e.passes() => {}
            done => return done,
        }
    }
    run()
}

#[cfg(test)]
mod tests {
    use diesel::result::{DatabaseErrorKind as Kind, Error as Diesel};
    use saltmarsh_store::Error;

    use super::*;

    #[test]
    fn what_crossed_another_writer_is_tried_again_and_nothing_else_is() {
        let said = |kind, words: &str| Error::from(Diesel::DatabaseError(kind, Box::new(words.to_owned())));
        let tries = |fails: usize, error: &dyn Fn() -> Error| {
            let mut count = 0;
            let done = tried(|| {
                count += 1;
                if count > fails { Ok(()) } else { Err(error()) }
            });
            (done.is_ok(), count)
        };
        let deadlock = || said(Kind::Unknown, "deadlock detected");
        assert_eq!(tries(2, &deadlock), (true, 3));
        assert_eq!(tries(9, &deadlock), (false, TRIES));
        // What took too long once takes too long again.
        let slow = || said(Kind::Unknown, "canceling statement due to statement timeout");
        assert_eq!(tries(9, &slow), (false, 1));
        assert_eq!(tries(9, &|| Error::Missing("tool")), (false, 1));
    }
}
