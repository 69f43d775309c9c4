//! Settings: of the command line, else of the environment, else of a file, else as the program comes.
//!
//! The file is TOML, a line a setting, by the options' own names: `listen = "0.0.0.0:8710"`, `host = ["studio.example"]`.

use std::collections::BTreeMap;

use clap::parser::ValueSource;
use clap::{Arg, ArgAction, ArgMatches, Command};

use super::files::{MOST_DOCUMENT_BYTES, read_text, tell};
use crate::stop::Stop;

/// Where the file is named.
const FILE: &str = "SALTMARSH_SETTINGS";
/// Commands that take settings.
const TAKES: [&str; 5] = ["serve", "config", "painter", "backup", "restore"];
/// The command that all settings belong to.
const ALL: &str = "serve";
/// What is told of a setting that holds a password.
const HIDDEN: [&str; 1] = ["database_url"];

/// What a file sets: the options' names, and their values.
type Set = BTreeMap<String, Vec<String>>;

/// Lets a file's settings stand in for what is not given. They are there before arguments are read.
///
/// # Errors
/// The file that is named cannot be read, or sets what is no setting.
pub(super) fn with_file(command: Command) -> Result<(Command, Option<String>), Stop> {
    let Some(path) = std::env::var(FILE).ok().filter(|path| !path.is_empty()) else {
        return Ok((command, None));
    };
    let settings = read(&path)?;
    let known: Vec<String> = options(&command, ALL).map(name_of).collect();
    if let Some(name) = settings.keys().find(|name| !known.contains(name)) {
        return Err(Stop::Input(format!("{path}: {name}: must be one of {}", known.join(", "))));
    }
    let command = TAKES.into_iter().fold(command, |command, name| {
        command.mut_subcommand(name, |sub| {
            let ids: Vec<(String, String)> =
                sub.get_arguments().map(|arg| (arg.get_id().to_string(), name_of(arg))).collect();
            ids.into_iter().fold(sub, |sub, (id, name)| match settings.get(&name) {
                Some(values) => sub.mut_arg(id, |arg| arg.default_values(values.clone()).required(false)),
                None => sub,
            })
        })
    });
    Ok((command, Some(path)))
}

/// Options of a command that can be set otherwise.
fn options<'a>(command: &'a Command, name: &str) -> impl Iterator<Item = &'a Arg> {
    command
        .find_subcommand(name)
        .into_iter()
        .flat_map(Command::get_arguments)
        .filter(|arg| arg.get_env().is_some())
}

/// A setting's name: its option's.
fn name_of(arg: &Arg) -> String {
    arg.get_long().unwrap_or_default().to_owned()
}

fn read(path: &str) -> Result<Set, Stop> {
    let text = read_text(path, MOST_DOCUMENT_BYTES)?;
    let table: toml::Table = text.parse().map_err(|e| Stop::Input(format!("{path}: {e}")))?;
    let plain = |name: &str, value: toml::Value| match value {
        toml::Value::String(text) => Ok(text),
        toml::Value::Integer(number) => Ok(number.to_string()),
        toml::Value::Boolean(yes) => Ok(yes.to_string()),
        _ => Err(Stop::Input(format!(
            "{path}: {name}: must be a text, a whole number, true or false, or a list of texts"
        ))),
    };
    let set = table.into_iter().map(|(name, value)| {
        let values = match value {
            toml::Value::Array(all) => all.into_iter().map(|v| plain(&name, v)).collect::<Result<_, _>>()?,
            one => vec![plain(&name, one)?],
        };
        Ok((name, values))
    });
    set.collect()
}

/// Tells every setting of a server, and where it comes from.
///
/// # Errors
/// Nobody reads it.
pub(super) fn show(command: &Command, matches: &ArgMatches, file: Option<&str>) -> Result<(), Stop> {
    let of_file = file.map(read).transpose()?.unwrap_or_default();
    for arg in options(command, ALL) {
        let (id, name) = (arg.get_id().as_str(), name_of(arg));
        let from = match matches.value_source(id) {
            Some(ValueSource::CommandLine) => "command line".to_owned(),
            Some(ValueSource::EnvVariable) => {
                format!("environment: {}", arg.get_env().map(|e| e.to_string_lossy()).unwrap_or_default())
            }
            Some(_) if of_file.contains_key(&name) => format!("file: {}", file.unwrap_or_default()),
            Some(_) => "as it comes".to_owned(),
            None => "not set".to_owned(),
        };
        let values: Vec<String> =
            matches.get_raw(id).into_iter().flatten().map(|v| v.to_string_lossy().into_owned()).collect();
        let value = match values.as_slice() {
            [] => String::new(),
            _ if HIDDEN.contains(&id) => "\"…\"".to_owned(),
            all if matches!(arg.get_action(), ArgAction::Append) => format!("{all:?}"),
            [one, ..] => quoted(one),
        };
        let line = if values.is_empty() { format!("# {name}") } else { format!("{name} = {value}") };
        if !tell(&format!("{line:<48} # {from}"))? {
            break;
        }
    }
    Ok(())
}

/// As the file would have it.
fn quoted(value: &str) -> String {
    if value.parse::<i64>().is_ok() || value.parse::<bool>().is_ok() {
        value.to_owned()
    } else {
        format!("{value:?}")
    }
}
