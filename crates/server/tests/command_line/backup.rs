//! Backups: written and brought back by hand, and made every day by one of several copies of the server.

use std::io::{BufRead as _, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

use diesel::RunQueryDsl as _;
use diesel::connection::{Connection as _, SimpleConnection as _};
use diesel::pg::PgConnection;
use diesel::sql_types::BigInt;
use serde_json::Value;

use crate::{demo, said, scratch};

/// An empty database beside the one that tests are given; it goes with this value.
struct Database {
    name: String,
    url: String,
}

impl Database {
    fn empty(name: &str) -> Self {
        let given =
            std::env::var("DATABASE_URL").expect("DATABASE_URL names the test database; ./run test sets it");
        let name = format!("saltmarsh_{name}_{}", std::process::id());
        Self::command(&format!("CREATE DATABASE {name}"));
        let (server, rest) = given.rsplit_once('/').expect("an address with a database");
        let options = rest.split_once('?').map(|(_, options)| format!("?{options}")).unwrap_or_default();
        Self { url: format!("{server}/{name}{options}"), name }
    }

    fn command(text: &str) {
        let url = std::env::var("DATABASE_URL").expect("a database");
        let mut db = PgConnection::establish(&url).expect("the test database answers");
        db.batch_execute(text).expect(text);
    }
}

impl Drop for Database {
    fn drop(&mut self) {
        Self::command(&format!("DROP DATABASE IF EXISTS {} WITH (FORCE)", self.name));
    }
}

#[test]
fn what_is_backed_up_comes_back_to_the_last_bit_and_into_an_empty_database_alone() {
    let (from, to) = (Database::empty("from"), Database::empty("to"));
    let folder = scratch("backup");
    let [first, second, third] = ["first", "second", "third"].map(|n| folder.join(n).display().to_string());
    let (code, words) = said(
        &["painter", "Mira Sand", "--with", &demo(""), "--database-url", &from.url],
        "a long password\n",
    );
    assert_eq!(code, 0, "{words}");
    assert_eq!(said(&["backup", &first, "--database-url", &from.url], ""), (0, String::new()));
    assert_eq!(said(&["restore", &first, "--database-url", &to.url], ""), (0, String::new()));
    assert_eq!(said(&["backup", &second, "--database-url", &to.url], ""), (0, String::new()));
    let contents = |folder: &str| -> Value {
        let text = std::fs::read_to_string(Path::new(folder).join("backup.json")).expect("its contents");
        serde_json::from_str(&text).expect("JSON")
    };
    let tables = &contents(&first)["tables"];
    assert_eq!(tables, &contents(&second)["tables"]);
    assert!(tables["tools"]["rows"].as_u64() > Some(40) && tables["gestures"]["rows"].as_u64() > Some(5));
    let tools = |folder: &str| std::fs::read(Path::new(folder).join("tools.jsonl")).expect("a file");
    assert_eq!(tools(&first), tools(&second));

    // Refused: what is not empty, what is not whole, what was changed.
    let (code, words) = said(&["restore", &first, "--database-url", &to.url], "");
    assert_eq!((code, words.contains("not empty")), (2, true), "{words}");
    let (code, words) = said(&["backup", &first, "--database-url", &from.url], "");
    assert_eq!((code, words.contains("is not empty")), (2, true), "{words}");
    let empty = Database::empty("empty");
    let changed = Path::new(&second).join("tool_versions.jsonl");
    let text = std::fs::read_to_string(&changed).expect("a file");
    std::fs::write(&changed, text.replacen("0.", "1.", 1)).expect("written");
    let (code, words) = said(&["restore", &second, "--database-url", &empty.url], "");
    assert_eq!((code, words.contains("tool_versions.jsonl: is not what")), (2, true), "{words}");
    std::fs::create_dir(&third).expect("a folder");
    let (code, words) = said(&["restore", &third, "--database-url", &empty.url], "");
    assert_eq!((code, words.contains("backup.json")), (2, true), "{words}");
    // Nothing of what was refused is there.
    assert_eq!(said(&["restore", &first, "--database-url", &empty.url], ""), (0, String::new()));
}

/// A copy of the server that writes backups; it ends with this value.
struct Copy(Child);

impl Copy {
    fn of(database: &Database, folder: &Path) -> Self {
        let mut child = Command::new(env!("CARGO_BIN_EXE_saltmarsh"))
            .args(["serve", "--listen", "127.0.0.1:0", "--backup-hour", "4", "--backup-keep", "2"])
            .args(["--database-url", &database.url, "--backup-into"])
            .arg(folder)
            .stdout(Stdio::piped())
            .spawn()
            .expect("the program starts");
        let mut line = String::new();
        BufReader::new(child.stdout.take().expect("its output")).read_line(&mut line).expect("a line");
        assert!(line.contains("http://"), "{line}");
        Self(child)
    }
}

impl Drop for Copy {
    fn drop(&mut self) {
        self.0.kill().and_then(|()| self.0.wait()).expect("it ends");
    }
}

#[derive(diesel::QueryableByName)]
struct Count {
    #[diesel(sql_type = BigInt)]
    count: i64,
}

#[test]
fn a_backup_that_is_due_is_made_once_by_one_of_two_copies_and_sign_ins_that_ended_go() {
    let studio = Database::empty("jobs");
    let folder = scratch("jobs");
    let (code, words) = said(&["painter", "Mira Sand", "--database-url", &studio.url], "a long password\n");
    assert_eq!(code, 0, "{words}");
    let mut db = PgConnection::establish(&studio.url).expect("it answers");
    let mut count = |what: &str| {
        let asked = diesel::sql_query(format!("SELECT count(*) FROM {what}")).get_result::<Count>(&mut db);
        asked.expect(what).count
    };
    let mut until = |what: &str, wanted: i64| {
        let begun = Instant::now();
        while count(what) != wanted {
            assert!(begun.elapsed() < Duration::from_secs(120), "never {wanted} of {what}");
            std::thread::sleep(Duration::from_millis(50));
        }
    };
    let backups = || -> Vec<PathBuf> {
        std::fs::read_dir(&folder).expect("a folder").map(|e| e.expect("an entry").path()).collect()
    };
    // They are put down for their hours.
    let first = Copy::of(&studio, &folder);
    until("fang_tasks WHERE state = 'new' AND scheduled_at > now()", 2);
    until(
        "fang_tasks WHERE task_type = 'backup' AND extract(hour FROM scheduled_at AT TIME ZONE 'UTC') = 4",
        1,
    );
    drop(first);
    assert!(backups().is_empty(), "nothing was due");
    // One is overdue; in the midst of the other its copy ended, and it was long ago when others begin.
    let mut other = PgConnection::establish(&studio.url).expect("it answers");
    other
        .batch_execute(
            "UPDATE fang_tasks SET scheduled_at = now() - interval '1 day';
             UPDATE fang_tasks SET state = 'in_progress', updated_at = now() - interval '4 hours' WHERE task_type = 'backup';
             INSERT INTO sessions (token_hash, painter_id, expires_at) SELECT decode(md5(n::text), 'hex'), id, now() + n * interval '1 day'
                FROM painters, generate_series(-3, 2) n WHERE n <> 0",
        )
        .expect("changed");
    let _two = [Copy::of(&studio, &folder), Copy::of(&studio, &folder)];
    until("sessions", 2);
    until("fang_tasks WHERE state = 'new' AND scheduled_at > now()", 2);
    // The next is put down for its hour before this one is whole.
    let begun = Instant::now();
    while backups().iter().any(|made| made.extension().is_some_and(|end| end == "part")) {
        assert!(begun.elapsed() < Duration::from_secs(120), "never whole: {:?}", backups());
        std::thread::sleep(Duration::from_millis(50));
    }
    let made = backups();
    let [made] = &made[..] else { panic!("one backup, not {made:?}") };
    let empty = Database::empty("jobs_back");
    assert_eq!(
        said(&["restore", &made.display().to_string(), "--database-url", &empty.url], ""),
        (0, String::new())
    );
    until("fang_tasks", 2);
}
