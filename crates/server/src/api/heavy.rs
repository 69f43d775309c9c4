//! Work that keeps a processor busy for a while: a few at once, off the threads that answer, and only so many who wait for it, in lines that
//! take turns.

use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use actix_web::web;
use tokio::sync::oneshot;

use super::ApiError;
use super::lines::{Line, Lines};

/// Turns at one kind of heavy work.
#[derive(Clone)]
pub struct Heavy {
    places: Arc<Mutex<Places>>,
    most_waiting: usize,
}

struct Places {
    /// Turns that nobody has.
    free: usize,
    waiting: Lines<oneshot::Sender<Turn>>,
}

impl Places {
    /// Those who wait, with their lines; whoever gave up is counted no longer.
    fn waiting(&self) -> impl Iterator<Item = Line> {
        self.waiting.iter().filter(|(_, sender)| !sender.is_closed()).map(|(who, _)| who)
    }
}

fn held(places: &Mutex<Places>) -> MutexGuard<'_, Places> {
    // Whoever panicked left numbers that are still true: nothing is changed in two steps.
    places.lock().unwrap_or_else(PoisonError::into_inner)
}

/// A turn; dropped, it is the next one's. Nothing once it was passed on.
struct Turn(Option<Arc<Mutex<Places>>>);

impl Drop for Turn {
    fn drop(&mut self) {
        let Some(places) = self.0.take() else { return };
        let mut turn = Turn(Some(places.clone()));
        let mut held = held(&places);
        while let Some(next) = held.waiting.next() {
            match next.send(turn) {
                Ok(()) => return,
                // They gave up waiting.
                Err(back) => turn = back,
            }
        }
        held.free += 1;
        turn.0 = None;
    }
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

impl Turns {
    /// All kinds by name.
    pub fn by_name(&self) -> [(&'static str, &Heavy); 3] {
        [("pictures", &self.pictures), ("ways", &self.ways), ("passwords", &self.passwords)]
    }
}

impl Heavy {
    /// How many wait for their turn.
    pub fn waiting(&self) -> usize {
        held(&self.places).waiting().count()
    }

    /// So many at once, and so many more who wait; of one line at most half of them.
    pub fn new(at_once: usize, most_waiting: usize) -> Self {
        let places = Places { free: at_once, waiting: Lines::default() };
        Self { places: Arc::new(Mutex::new(places)), most_waiting }
    }

    /// Does a piece of work once it is its turn.
    ///
    /// # Errors
    /// Too many wait already, or too many in this line.
    pub async fn run<T: Send + 'static>(
        &self,
        who: Line,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, ApiError> {
        let waits = self.stand_in(who)?;
        let turn = match waits {
            Ok(turn) => turn,
            Err(waits) => waits.await.map_err(ApiError::internal)?,
        };
        // The turn lasts as long as the work does, also where nobody waits for it any more.
        let done = web::block(move || {
            let _turn = turn;
            work()
        });
        done.await.map_err(|_| ApiError::internal("the work was dropped"))
    }

    /// A turn, or where to wait for one.
    fn stand_in(&self, who: Line) -> Result<Result<Turn, oneshot::Receiver<Turn>>, ApiError> {
        let mut places = held(&self.places);
        if places.free > 0 {
            places.free -= 1;
            return Ok(Ok(Turn(Some(self.places.clone()))));
        }
        let before = places.waiting().filter(|line| *line == who).count();
        if places.waiting().count() >= self.most_waiting || before >= self.most_waiting.div_ceil(2) {
            return Err(ApiError::busy("too many wait for the same just now: try again"));
        }
        let (sender, receiver) = oneshot::channel();
        places.waiting.push(who, sender);
        Ok(Err(receiver))
    }
}

#[cfg(test)]
mod tests {
    use std::sync::mpsc;

    use actix_web::rt::spawn;
    use tokio::task::yield_now;
    use uuid::Uuid;

    use super::*;

    /// Heavy work of one at a time whose turn is taken until told otherwise; what is done then is told in its order.
    struct Busy {
        heavy: Heavy,
        go: mpsc::Sender<()>,
        done: Arc<Mutex<Vec<&'static str>>>,
    }

    impl Busy {
        async fn with(most_waiting: usize) -> Self {
            let heavy = Heavy::new(1, most_waiting);
            let (go, until) = mpsc::channel::<()>();
            let work = heavy.clone();
            spawn(async move { work.run(Line::Address(None), move || until.recv().is_ok()).await });
            while held(&heavy.places).free > 0 {
                yield_now().await;
            }
            Self { heavy, go, done: Arc::default() }
        }

        async fn wait(&self, who: Line, what: &'static str) -> tokio::task::JoinHandle<Result<(), ApiError>> {
            let (heavy, done) = (self.heavy.clone(), self.done.clone());
            let before = heavy.waiting();
            let waits =
                spawn(async move { heavy.run(who, move || done.lock().expect("sound").push(what)).await });
            while self.heavy.waiting() == before {
                yield_now().await;
            }
            waits
        }
    }

    const REED: Line = Line::Painter(Uuid::from_u128(1));
    const MIRA: Line = Line::Painter(Uuid::from_u128(2));
    const FENN: Line = Line::Painter(Uuid::from_u128(3));

    #[actix_web::test]
    async fn lines_take_turns_however_long_one_is() {
        let busy = Busy::with(8).await;
        let mut all = Vec::new();
        for (who, what) in [
            (REED, "reed 1"),
            (REED, "reed 2"),
            (REED, "reed 3"),
            (MIRA, "mira 1"),
            (FENN, "fenn 1"),
            (MIRA, "mira 2"),
        ] {
            all.push(busy.wait(who, what).await);
        }
        busy.go.send(()).expect("it works still");
        for waits in all {
            waits.await.expect("done").expect("its turn");
        }
        let done = busy.done.lock().expect("sound").clone();
        assert_eq!(done, ["reed 1", "mira 1", "fenn 1", "reed 2", "mira 2", "reed 3"]);
    }

    #[actix_web::test]
    async fn some_wait_and_the_rest_is_told_to_come_again() {
        let busy = Busy::with(4).await;
        let refused = |who| {
            let heavy = busy.heavy.clone();
            async move { heavy.run(who, || ()).await.is_err() }
        };
        let gives_up = busy.wait(REED, "gives up").await;
        let stays = busy.wait(REED, "stays").await;
        assert!(refused(REED).await, "half of those who wait are of one line already");
        let others = [busy.wait(MIRA, "mira").await, busy.wait(FENN, "fenn").await];
        assert!(refused(MIRA).await, "four wait already");
        // Whoever gives up makes room, and is passed over.
        gives_up.abort();
        while busy.heavy.waiting() > 3 {
            yield_now().await;
        }
        let comes = busy.wait(MIRA, "comes").await;
        busy.go.send(()).expect("it works still");
        for waits in [stays, comes].into_iter().chain(others) {
            waits.await.expect("done").expect("its turn");
        }
        assert!(!refused(REED).await && busy.heavy.waiting() == 0 && held(&busy.heavy.places).free == 1);
        assert!(!busy.done.lock().expect("sound").contains(&"gives up"));
    }
}
