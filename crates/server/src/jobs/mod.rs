//! What is done without anybody asking: each job by one of all copies of the server, when it is due. They lie in the database, where the
//! library `fang` puts them down and takes them up.

mod backup;
mod let_go;

use std::path::PathBuf;
use std::sync::OnceLock;
use std::time::Duration;

use fang::{FangError, Queue, QueueError, RetentionMode, Runnable, SleepParams, WorkerPool};
use saltmarsh_store::jobs as store;

use crate::api::watch::{self, Watch};
use crate::stop::Stop;
use backup::Backup;
use let_go::LetGo;

/// Whether the jobs are still there is looked up so often; sooner where it failed.
const LOOKED_UP: Duration = Duration::from_secs(600);
const SOON: Duration = Duration::from_secs(10);
/// A copy asks for what is due so often: soon after something was, else less and less.
const ASKED: [Duration; 2] = [Duration::from_secs(1), Duration::from_secs(30)];
/// A job that failed is tried again so often, and after so long, s; twice as long each time.
const TRIES: i32 = 3;
const AGAIN_S: u32 = 300;

/// What this copy of the server does its jobs with.
pub struct House {
    pub database_url: String,
    pub watch: Watch,
    /// It writes backups.
    pub backups: Option<Backups>,
}

/// Where backups go, the hour at which they are made (UTC), and how many are kept.
pub struct Backups {
    pub into: PathBuf,
    pub hour: u8,
    pub keep: u16,
}

/// The library makes jobs out of what the database holds, and those know nothing of this copy but what is here.
static HOUSE: OnceLock<House> = OnceLock::new();

fn house() -> Result<&'static House, FangError> {
    HOUSE.get().ok_or_else(|| FangError { description: "no jobs were begun".into() })
}

/// Begins to do jobs, and sees to it that they are put down; once in a process.
///
/// # Errors
/// No thread could be started.
pub fn begin(house: House) -> Result<(), Stop> {
    let failed = |e: FangError| Stop::Failure(e.description);
    let queue = Queue::builder().connection_pool(store::connections(&house.database_url)).build();
    let mut kinds = vec![LetGo {}.task_type()];
    kinds.extend(house.backups.as_ref().map(|_| Backup {}.task_type()));
    if HOUSE.set(house).is_err() {
        return Err(Stop::Failure("jobs were begun twice".into()));
    }
    let [often, seldom] = ASKED;
    for kind in &kinds {
        let sleep = SleepParams::builder()
            .sleep_period(often)
            .min_sleep_period(often)
            .max_sleep_period(seldom)
            .sleep_step(often)
            .build();
        WorkerPool::<Queue>::builder()
            .queue(queue.clone())
            .sleep_params(sleep)
            .retention_mode(RetentionMode::RemoveFinished)
            .number_of_workers(1_u32)
            .task_type(kind.clone())
            .build()
            .start()
            .map_err(failed)?;
    }
    let keep = move || keep_going(&queue, &kinds);
    std::thread::Builder::new().name("jobs".into()).spawn(keep).map_err(|e| Stop::Failure(e.to_string()))?;
    Ok(())
}

/// Puts down what is not there, again and again: a copy that ended in the middle of a job left it, a database may be another.
fn keep_going(queue: &Queue, kinds: &[String]) {
    let (mut first, mut well) = (true, true);
    loop {
        let done = put_down(queue, kinds, first);
        if let Err(cause) = &done
            && well
        {
            tracing::warn!(%cause, "jobs cannot be put down");
        }
        well = done.is_ok();
        first &= !well;
        std::thread::sleep(if well { LOOKED_UP } else { SOON });
    }
}

/// Puts every kind of job down for its next time, if it does not wait already; `first`: at an hour that may have changed.
fn put_down(queue: &Queue, kinds: &[String], first: bool) -> Result<(), QueueError> {
    let mut db = queue.get_connection()?;
    let now = chrono::Utc::now();
    store::alone::<QueueError>(&mut db, |db| {
        store::take_up(db, now)?;
        for kind in kinds {
            if first {
                store::forget_later(db, kind, now)?;
            }
            if store::in_hand(db, kind)? {
                continue;
            }
            let job: &dyn Runnable = if *kind == (LetGo {}).task_type() { &LetGo {} } else { &Backup {} };
            Queue::schedule_task_query(db, job)?;
        }
        Ok(())
    })
}

/// Does a job, and tells how it went.
fn told(job: &str, done: impl FnOnce(&House) -> Result<String, Stop>) -> Result<(), FangError> {
    let house = house()?;
    let done = done(house);
    house.watch.did(job, done.is_ok());
    match done {
        Ok(what) => {
            tracing::info!(target: watch::ASKED, job, what);
            Ok(())
        }
        Err(cause) => {
            tracing::error!(job, %cause, "a job failed");
            Err(FangError { description: cause.to_string() })
        }
    }
}
