//! The command line: arguments, and what goes wrong with them.
//!
//! Exit codes: 0 done, 1 failed, 2 bad input (arguments, files, fields). Errors go to standard error.

mod backup;
mod calc;
mod files;
mod ground;
mod painter;
mod render;
mod serve;
mod settings;
mod sheet;

use std::process::ExitCode;

use clap::{CommandFactory, FromArgMatches, Parser, Subcommand};

use crate::stop::Stop;

/// Tunes tools that behave like charcoal, oil and watercolour, and draws with them.
#[derive(Parser)]
#[command(name = "saltmarsh", version)]
struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Run a gesture with a tool on a ground and write the sheet as PNG.
    Render(render::Render),
    /// Lay a whole sheet from a script of tools and strokes, and write it as PNG.
    Sheet(sheet::Sheet),
    /// Make a ground: its picture under raking light, height map and surface figures.
    Ground(ground::Ground),
    /// Compute one topic: JSON lines in, JSON lines out.
    Calc(calc::Calc),
    /// Give a painter a password to sign in with.
    Painter(painter::Painter),
    /// Write all that painters keep to a folder.
    Backup(backup::Backup),
    /// Bring a backup back into an empty database.
    Restore(backup::Restore),
    /// Serve the API and the front end.
    Serve(serve::Serve),
    /// Tell the settings with which a server would start, and where each comes from.
    Config(serve::Serve),
    /// Write the OpenAPI document of the API to standard output.
    Openapi,
}

/// Runs the program with the arguments of this process.
pub fn run() -> ExitCode {
    match done() {
        Ok(()) => ExitCode::SUCCESS,
        Err(stop) => {
            eprintln!("saltmarsh: {stop}");
            ExitCode::from(match stop {
                Stop::Input(_) => 2,
                Stop::Failure(_) => 1,
            })
        }
    }
}

fn done() -> Result<(), Stop> {
    let (command, file) = settings::with_file(Arguments::command())?;
    let matches = command.clone().get_matches();
    let arguments = Arguments::from_arg_matches(&matches).map_err(|e| Stop::Input(e.to_string()))?;
    match arguments.command {
        Command::Render(render) => render.run(),
        Command::Sheet(sheet) => sheet.run(),
        Command::Ground(ground) => ground.run(),
        Command::Calc(calc) => calc.run(),
        Command::Painter(painter) => painter.run(),
        Command::Backup(backup) => backup.run(),
        Command::Restore(restore) => restore.run(),
        Command::Serve(serve) => serve.run(),
        Command::Config(_) => {
            let matches = matches.subcommand_matches("config").expect("it is the command");
            settings::show(&command, matches, file.as_deref())
        }
        Command::Openapi => crate::api::openapi()
            .to_pretty_json()
            .map_err(|e| Stop::Failure(e.to_string()))
            .and_then(|json| files::tell(&json).map(|_| ())),
    }
}
