//! Everybody stands in a line of their own, and the lines take turns: whoever asks for a hundred things holds up nobody's one.

use std::collections::VecDeque;
use std::net::IpAddr;

use uuid::Uuid;

/// Who stands in one line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Line {
    Painter(Uuid),
    /// Nobody is signed in yet.
    Address(Option<IpAddr>),
}

/// Those who wait, the line whose turn is next first. A line is gone with the last who waits in it.
pub struct Lines<T>(VecDeque<(Line, VecDeque<T>)>);

impl<T> Default for Lines<T> {
    fn default() -> Self {
        Self(VecDeque::new())
    }
}

impl<T> Lines<T> {
    /// Stands behind all others of the same line.
    pub fn push(&mut self, who: Line, what: T) {
        match self.0.iter_mut().find(|(line, _)| *line == who) {
            Some((_, line)) => line.push_back(what),
            None => self.0.push_back((who, VecDeque::from([what]))),
        }
    }

    /// Takes out what is next; its line goes behind the others.
    pub fn next(&mut self) -> Option<T> {
        let (who, mut line) = self.0.pop_front()?;
        let next = line.pop_front();
        if !line.is_empty() {
            self.0.push_back((who, line));
        }
        next
    }

    /// All who wait, with their lines.
    pub fn iter(&self) -> impl Iterator<Item = (Line, &T)> {
        self.0.iter().flat_map(|(who, line)| line.iter().map(|what| (*who, what)))
    }
}
