//! Letting go of what has had its time, every hour.

use fang::{FangError, Queueable, Runnable, Scheduled, typetag};
use serde::{Deserialize, Serialize};

use super::{AGAIN_S, TRIES, told};

#[derive(Serialize, Deserialize)]
pub struct LetGo {}

#[typetag::serde]
impl Runnable for LetGo {
    fn run(&self, _: &dyn Queueable) -> Result<(), FangError> {
        told("let go", |house| {
            let mut db = saltmarsh_store::Pool::connect(&house.database_url, 1)?.get()?;
            let gone = saltmarsh_store::jobs::let_go(&mut db, chrono::Utc::now())?;
            Ok(format!("{gone} rows"))
        })
    }

    fn task_type(&self) -> String {
        "let go".into()
    }

    fn uniq(&self) -> bool {
        true
    }

    fn cron(&self) -> Option<Scheduled> {
        Some(Scheduled::CronPattern("0 17 * * * * *".into()))
    }

    fn max_retries(&self) -> i32 {
        TRIES
    }

    fn backoff(&self, attempt: u32) -> u32 {
        AGAIN_S << attempt.min(8)
    }
}
