//! Work that keeps a processor busy for a while: a few at once, off the threads that answer, and only so many who wait for it.

use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};

use actix_web::web;
use tokio::sync::Semaphore;

use super::ApiError;

/// Turns at one kind of heavy work.
#[derive(Clone)]
pub struct Heavy {
    turns: Arc<Semaphore>,
    waiting: Arc<AtomicUsize>,
    most_waiting: usize,
}

/// All kinds that there are.
#[derive(Clone)]
pub struct Turns {
    /// Decoding pictures: the largest takes some 300 MiB while it is.
    pub pictures: Heavy,
    /// Reading ways of gestures.
    pub ways: Heavy,
    /// Looking whether a password fits: 19 MiB each.
    pub passwords: Heavy,
}

impl Default for Turns {
    fn default() -> Self {
        Self { pictures: Heavy::new(1, 16), ways: Heavy::new(2, 32), passwords: Heavy::new(2, 32) }
    }
}

/// One who waits; whoever gives up waiting is counted no longer.
struct Waits<'a>(&'a AtomicUsize);

impl Drop for Waits<'_> {
    fn drop(&mut self) {
        self.0.fetch_sub(1, Ordering::Relaxed);
    }
}

impl Turns {
    /// All kinds by name.
    pub fn by_name(&self) -> [(&'static str, &Heavy); 3] {
        [("pictures", &self.pictures), ("ways", &self.ways), ("passwords", &self.passwords)]
    }
}

impl Heavy {
    /// How many wait for their turn.
    pub fn waiting(&self) -> usize {
        self.waiting.load(Ordering::Relaxed)
    }

    /// So many at once, and so many more who wait.
    pub fn new(at_once: usize, most_waiting: usize) -> Self {
        Self { turns: Arc::new(Semaphore::new(at_once)), waiting: Arc::default(), most_waiting }
    }

    /// Does a piece of work once it is its turn.
    ///
    /// # Errors
    /// Too many wait already.
    pub async fn run<T: Send + 'static>(
        &self,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, ApiError> {
        let before = self.waiting.fetch_add(1, Ordering::Relaxed);
        let waits = Waits(&self.waiting);
        if before >= self.most_waiting {
            return Err(ApiError::busy("too many wait for the same just now: try again"));
        }
        let turn = self.turns.clone().acquire_owned().await.map_err(ApiError::internal)?;
        drop(waits);
        // The turn lasts as long as the work does, also where nobody waits for it any more.
        let done = web::block(move || {
            let _turn = turn;
            work()
        });
        done.await.map_err(|_| ApiError::internal("the work was dropped"))
    }
}

#[cfg(test)]
mod tests {
    use std::sync::mpsc;

    use actix_web::rt::spawn;
    use tokio::task::yield_now;

    use super::*;

    #[actix_web::test]
    async fn some_work_some_wait_and_the_rest_is_told_to_come_again() {
        let heavy = Heavy::new(1, 2);
        let (go, held) = mpsc::channel::<()>();
        let work = heavy.clone();
        let first = spawn(async move { work.run(move || held.recv().is_ok()).await });
        while heavy.turns.available_permits() > 0 {
            yield_now().await;
        }
        let wait = |i: i32| {
            let heavy = heavy.clone();
            spawn(async move { heavy.run(move || i).await })
        };
        let (gives_up, stays) = (wait(0), wait(1));
        while heavy.waiting.load(Ordering::Relaxed) < 2 {
            yield_now().await;
        }
        assert!(heavy.run(|| ()).await.is_err(), "two wait already");
        // Whoever gives up makes room.
        gives_up.abort();
        while heavy.waiting.load(Ordering::Relaxed) > 1 {
            yield_now().await;
        }
        go.send(()).expect("it works still");
        assert!(first.await.expect("done").expect("its turn"));
        assert_eq!(stays.await.expect("done").expect("its turn"), 1);
        assert!(heavy.run(|| ()).await.is_ok() && heavy.waiting.load(Ordering::Relaxed) == 0);
    }
}
