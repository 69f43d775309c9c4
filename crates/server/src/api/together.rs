//! Drafts saved together: while some are being written others come in, and those are written at once as soon as it is their turn. A commit,
//! and whatever else costs the database the same for one draft as for many, is paid once.

use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use actix_web::{rt, web};
use saltmarsh_store::tools::{self, Document, SaveDraft, Saved};
use serde_json::value::RawValue;
use tokio::sync::oneshot;
use uuid::Uuid;

use super::lines::{Line, Lines};
use super::{ApiError, App, query};

/// So many are written at once: what comes after them is not kept waiting for much longer than for one.
const AT_ONCE: usize = 32;
/// So many write: while what one wrote goes to the disk, the other's is worked.
const WRITERS: usize = 2;

/// A draft to save that needs no images.
#[derive(Clone)]
pub struct Draft {
    pub id: Uuid,
    pub owner: Uuid,
    pub document: Arc<RawValue>,
    pub based_on: i32,
    pub seen: i32,
}

impl Draft {
    pub fn save(&self) -> SaveDraft<'_> {
        let Self { id, owner, document, based_on, seen } = self;
        SaveDraft {
            id: *id,
            owner: *owner,
            document: Document(document.get()),
            based_on: *based_on,
            seen: *seen,
        }
    }
}

/// What becomes of one: saved; or not, whatever the reason; or nobody could be asked.
type Outcome = Result<Option<Saved>, ApiError>;
type Sender = oneshot::Sender<Outcome>;

/// Drafts that wait to be written.
#[derive(Clone, Default)]
pub struct Together(Arc<Mutex<Waiting>>);

#[derive(Default)]
struct Waiting {
    lines: Lines<(Draft, Sender)>,
    /// So many write, and will look for more when they have done so.
    writing: usize,
}

impl Together {
    fn held(&self) -> MutexGuard<'_, Waiting> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Saves a draft together with whatever others wait. Nothing where it was not saved by that, whatever the reason: asked by itself, it is
    /// saved, or refused for that reason.
    ///
    /// # Errors
    /// The database is away, or too much is asked of it: nobody asks again for each.
    pub async fn save(&self, app: &web::Data<App>, draft: Draft) -> Outcome {
        let (sender, saved) = oneshot::channel();
        let begins = {
            let mut waiting = self.held();
            waiting.lines.push(Line::Painter(draft.owner), (draft, sender));
            let begins = waiting.writing < WRITERS;
            waiting.writing += usize::from(begins);
            begins
        };
        if begins {
            // Not by this request: it may be dropped on the way, and others wait by then.
            let (writing, app) = (Writing { together: self.clone(), done: false }, app.clone());
            rt::spawn(async move { writing.write_all(&app).await });
        }
        // Nobody tells where the one who wrote is gone.
        saved.await.unwrap_or(Ok(None))
    }
}

/// One who writes. Should it break off, nobody is left waiting for it.
struct Writing {
    together: Together,
    /// It has written all there was, and is no longer counted.
    done: bool,
}

impl Drop for Writing {
    fn drop(&mut self) {
        if !self.done {
            let mut waiting = self.together.held();
            waiting.writing -= 1;
            waiting.lines = Lines::default();
        }
    }
}

impl Writing {
    async fn write_all(mut self, app: &web::Data<App>) {
        while let Some((drafts, senders)) = self.next() {
            let wrote: Result<Vec<Option<Saved>>, ApiError> = query(app, move |db| {
                let saves: Vec<SaveDraft<'_>> = drafts.iter().map(Draft::save).collect();
                tools::save_drafts(db, &saves)
            })
            .await;
            let outcomes: Vec<Outcome> = match wrote {
                Ok(saved) => saved.into_iter().map(Ok).collect(),
                Err(refusal) if refusal.passes() => vec![Err(refusal); senders.len()],
                // What went wrong with all is found out by each.
                Err(_) => vec![Ok(None); senders.len()],
            };
            for (sender, outcome) in senders.into_iter().zip(outcomes) {
                // Gone meanwhile; what is written is written.
                sender.send(outcome).ok();
            }
        }
    }

    /// What is to be written next, line by line, and who waits for it. Nothing where nothing waits: it ends under the same lock under which
    /// others come in, so that none is overlooked.
    fn next(&mut self) -> Option<(Vec<Draft>, Vec<Sender>)> {
        let mut waiting = self.together.held();
        let next = std::iter::from_fn(|| waiting.lines.next());
        // Whoever gave up waiting is passed over.
        let (drafts, senders): (Vec<_>, Vec<_>) =
            next.filter(|(_, sender)| !sender.is_closed()).take(AT_ONCE).unzip();
        if drafts.is_empty() {
            waiting.writing -= 1;
            drop(waiting);
            self.done = true;
            return None;
        }
        Some((drafts, senders))
    }
}
