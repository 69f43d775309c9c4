//! A backup a day, into a folder of the copy's own; the oldest go.

use std::fs;
use std::path::{Path, PathBuf};

use chrono::{DateTime, NaiveDateTime, Utc};
use fang::{FangError, Queueable, Runnable, Scheduled, typetag};
use serde::{Deserialize, Serialize};

use super::{AGAIN_S, Backups, TRIES, house, told};
use crate::backup::{CONTENTS, write};
use crate::stop::Stop;

/// What the folder of a backup is called, by when it was begun; and while it is written.
const NAME: &str = "saltmarsh-%Y-%m-%dT%H%M%SZ";
const PART: &str = ".part";
/// What was begun so long ago and is no whole backup was left.
const LEFT: chrono::Duration = chrono::Duration::days(1);

#[derive(Serialize, Deserialize)]
pub struct Backup {}

#[typetag::serde]
impl Runnable for Backup {
    fn run(&self, _: &dyn Queueable) -> Result<(), FangError> {
        told("backup", |house| match &house.backups {
            Some(backups) => made(&house.database_url, backups, Utc::now()),
            None => Err(Stop::Failure("this copy writes no backups".into())),
        })
    }

    fn task_type(&self) -> String {
        "backup".into()
    }

    fn uniq(&self) -> bool {
        true
    }

    fn cron(&self) -> Option<Scheduled> {
        let hour = house().ok()?.backups.as_ref()?.hour;
        Some(Scheduled::CronPattern(format!("0 0 {hour} * * * *")))
    }

    fn max_retries(&self) -> i32 {
        TRIES
    }

    fn backoff(&self, attempt: u32) -> u32 {
        AGAIN_S << attempt.min(8)
    }
}

/// Makes a backup under the name of `now`, and lets the oldest go; what it holds.
fn made(database_url: &str, backups: &Backups, now: DateTime<Utc>) -> Result<String, Stop> {
    let name = now.format(NAME).to_string();
    let (whole, part) = (backups.into.join(&name), backups.into.join(name + PART));
    let at = |path: &Path, e: std::io::Error| Stop::Failure(format!("{}: {e}", path.display()));
    let written = write(database_url, &part).and_then(|contents| {
        fs::rename(&part, &whole).map_err(|e| at(&whole, e))?;
        Ok(contents)
    });
    if written.is_err() {
        // Half a backup is none, and takes room; should it not go, a later one removes it.
        fs::remove_dir_all(&part).ok();
    }
    let contents = written?;
    for old in outlived(&backups.into, usize::from(backups.keep), now).map_err(|e| at(&backups.into, e))? {
        fs::remove_dir_all(&old).map_err(|e| at(&old, e))?;
    }
    Ok(format!("{}: {}", whole.display(), contents.told()))
}

/// Backups beyond the newest so many, and what was left of some that were never finished. Nothing else in the folder is touched.
fn outlived(folder: &Path, keep: usize, now: DateTime<Utc>) -> std::io::Result<Vec<PathBuf>> {
    let mut whole = Vec::new();
    let mut old = Vec::new();
    for entry in fs::read_dir(folder)? {
        let entry = entry?;
        let name = entry.file_name().to_string_lossy().into_owned();
        let (begun, part) = name.strip_suffix(PART).map_or((name.as_str(), false), |begun| (begun, true));
        let Ok(begun) = NaiveDateTime::parse_from_str(begun, NAME) else { continue };
        if part {
            old.extend((begun.and_utc() < now - LEFT).then(|| entry.path()));
        } else if entry.path().join(CONTENTS).is_file() {
            whole.push((begun, entry.path()));
        }
    }
    whole.sort_unstable();
    let beyond = whole.len().saturating_sub(keep);
    old.extend(whole.into_iter().take(beyond).map(|(_, path)| path));
    Ok(old)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_oldest_backups_go_and_nothing_else() {
        let folder = std::env::temp_dir().join(format!("saltmarsh-outlived-{}", std::process::id()));
        let made = |name: &str, file: &str| {
            fs::create_dir_all(folder.join(name)).expect("a folder");
            fs::write(folder.join(name).join(file), "{}").expect("a file");
        };
        for day in 1..=4 {
            made(&format!("saltmarsh-2026-11-0{day}T030000Z"), CONTENTS);
        }
        // Left in the middle, being written, not whole, somebody's own.
        made("saltmarsh-2026-11-02T030001Z.part", "tools.jsonl");
        made("saltmarsh-2026-11-04T030001Z.part", "tools.jsonl");
        made("saltmarsh-2026-11-01T040000Z", "tools.jsonl");
        made("saltmarsh-before-the-move", CONTENTS);
        let now = "2026-11-04T03:00:02Z".parse().expect("a time");
        let mut names: Vec<String> = outlived(&folder, 3, now)
            .expect("read")
            .iter()
            .filter_map(|path| Some(path.file_name()?.to_string_lossy().into_owned()))
            .collect();
        names.sort_unstable();
        assert_eq!(names, ["saltmarsh-2026-11-01T030000Z", "saltmarsh-2026-11-02T030001Z.part"]);
        fs::remove_dir_all(&folder).expect("removed");
    }
}
