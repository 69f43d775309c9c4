//! Everything that painters keep, in a folder, and back.
//!
//! A file of JSON lines for each table, and `backup.json`, which is written last: how many lines each holds and their SHA-256.

use std::collections::BTreeMap;
use std::fs::{self, File};
use std::io::{BufRead, BufReader, BufWriter, Write};
use std::path::{Path, PathBuf};

use saltmarsh_store::Pool;
use saltmarsh_store::backup::{self as store, Failed};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};

use crate::stop::Stop;

/// A folder without it is no whole backup.
pub const CONTENTS: &str = "backup.json";
const FORMAT: u32 = 1;

/// What a folder holds.
#[derive(Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Contents {
    format: u32,
    /// The last migration of the database that it is of.
    migration: String,
    made_at: chrono::DateTime<chrono::Utc>,
    tables: BTreeMap<String, Lines>,
}

impl Contents {
    /// How much it is, in words.
    pub fn told(&self) -> String {
        let rows = |table: &str| self.tables.get(table).map_or(0, |t| t.rows);
        format!(
            "{} painters, {} tools, {} gestures, {} images",
            rows("painters"),
            rows("tools"),
            rows("gestures"),
            rows("images")
        )
    }
}

/// How many lines a file has, and the SHA-256 of them all.
#[derive(Serialize, Deserialize, PartialEq, Eq, Clone)]
#[serde(deny_unknown_fields)]
struct Lines {
    rows: u64,
    sha256: String,
}

/// Counts lines.
#[derive(Default)]
struct Counter {
    rows: u64,
    sum: Sha256,
}

impl Counter {
    fn take(&mut self, line: &str) {
        self.rows += 1;
        self.sum.update(line.as_bytes());
        self.sum.update(b"\n");
    }

    fn lines(self) -> Lines {
        Lines { rows: self.rows, sha256: saltmarsh_core::num::hex(&self.sum.finalize()) }
    }
}

fn counted(counters: BTreeMap<String, Counter>) -> BTreeMap<String, Lines> {
    counters.into_iter().map(|(name, counter)| (name, counter.lines())).collect()
}

fn either(e: Failed<Stop>) -> Stop {
    match e {
        Failed::Store(saltmarsh_store::Error::Migration(why)) => {
            Stop::Input(format!("--database-url: {why}"))
        }
        Failed::Store(e) => e.into(),
        Failed::Other(stop) => stop,
    }
}

fn at(path: &Path) -> impl Fn(std::io::Error) -> Stop + '_ {
    move |e| Stop::Failure(format!("{}: {e}", path.display()))
}

fn file_of(folder: &Path, table: &str) -> PathBuf {
    folder.join(format!("{table}.jsonl"))
}

/// Every line of a table's file.
fn each_line(
    folder: &Path,
    table: &str,
    mut take: impl FnMut(&str) -> Result<(), Failed<Stop>>,
) -> Result<(), Failed<Stop>> {
    let path = file_of(folder, table);
    let wrong = |e: std::io::Error| Failed::Other(Stop::Input(format!("{}: {e}", path.display())));
    for line in BufReader::new(File::open(&path).map_err(wrong)?).lines() {
        take(&line.map_err(wrong)?)?;
    }
    Ok(())
}

/// Refuses a folder whose files are not those that its contents tell of.
fn verified(folder: &Path, contents: &Contents) -> Result<(), Stop> {
    for table in store::tables() {
        let mut counter = Counter::default();
        each_line(folder, table, |line| {
            counter.take(line);
            Ok(())
        })
        .map_err(either)?;
        if contents.tables.get(table) != Some(&counter.lines()) {
            let path = file_of(folder, table);
            return Err(Stop::Input(format!("{}: is not what {CONTENTS} says", path.display())));
        }
    }
    Ok(())
}

/// Writes all of a database to a new folder, as it is at one moment.
///
/// # Errors
/// The folder is there and not empty, or cannot be written; what the database says.
pub fn write(database_url: &str, folder: &Path) -> Result<Contents, Stop> {
    fs::create_dir_all(folder).map_err(at(folder))?;
    if fs::read_dir(folder).map_err(at(folder))?.next().is_some() {
        return Err(Stop::Input(format!("{}: is not empty", folder.display())));
    }
    let pool = Pool::connect(database_url, 1)?;
    let mut db = pool.get()?;
    let migration = store::migrated_to(&mut db)?;
    let mut files: BTreeMap<String, (BufWriter<File>, Counter)> = BTreeMap::new();
    for table in store::tables() {
        let path = file_of(folder, table);
        let file = BufWriter::new(File::create_new(&path).map_err(at(&path))?);
        files.insert(table.to_owned(), (file, Counter::default()));
    }
    store::read(&mut db, |table, row| {
        let (file, counter) = files.get_mut(table).expect("a file for every table");
        counter.take(row);
        writeln!(file, "{row}").map_err(at(&file_of(folder, table)))
    })
    .map_err(either)?;
    let mut tables = BTreeMap::new();
    for (table, (file, counter)) in files {
        let path = file_of(folder, &table);
        let file = file.into_inner().map_err(|e| at(&path)(e.into_error()))?;
        file.sync_all().map_err(at(&path))?;
        tables.insert(table, counter.lines());
    }
    let contents = Contents { format: FORMAT, migration, made_at: chrono::Utc::now(), tables };
    // What lies on the disk is what was read.
    verified(folder, &contents)?;
    let path = folder.join(CONTENTS);
    let json = serde_json::to_string_pretty(&contents).map_err(|e| Stop::Failure(e.to_string()))?;
    let mut file = File::create_new(&path).map_err(at(&path))?;
    file.write_all(json.as_bytes()).and_then(|()| file.sync_all()).map_err(at(&path))?;
    Ok(contents)
}

/// Brings a backup back into an empty database: all of it, or nothing. The folder is checked before, the database after.
///
/// # Errors
/// The folder is no whole backup, or the database is not empty; what the database says.
pub fn restore(database_url: &str, folder: &Path) -> Result<Contents, Stop> {
    let path = folder.join(CONTENTS);
    let wrong = |e: String| Stop::Input(format!("{}: {e}", path.display()));
    let text = fs::read_to_string(&path).map_err(|e| wrong(e.to_string()))?;
    let contents: Contents = serde_json::from_str(&text).map_err(|e| wrong(e.to_string()))?;
    if contents.format != FORMAT {
        return Err(wrong(format!("format {} is not known to this program", contents.format)));
    }
    verified(folder, &contents)?;
    let pool = Pool::connect(database_url, 1)?;
    let mut db = pool.get()?;
    let mut there: BTreeMap<String, Counter> =
        store::tables().map(|t| (t.to_owned(), Counter::default())).collect();
    let checked = std::cell::RefCell::new(&mut there);
    store::write(
        &mut db,
        &contents.migration,
        |table, put| each_line(folder, table, put),
        |table, row| {
            checked.borrow_mut().get_mut(table).expect("a counter for every table").take(row);
            Ok(())
        },
        || {
            let there = counted(std::mem::take(*checked.borrow_mut()));
            if there == contents.tables {
                Ok(())
            } else {
                Err(Stop::Failure("the database does not hold what the backup does: nothing was kept".into()))
            }
        },
    )
    .map_err(either)?;
    drop(db);
    pool.migrate()?;
    Ok(contents)
}
