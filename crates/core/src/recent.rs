//! What was made last is kept.

use std::cell::RefCell;
use std::convert::Infallible;

/// The last few things that were made, by what they were made for. `MOST` of them are kept; what was asked for longest ago goes first.
#[derive(Debug)]
pub struct Recent<K, V, const MOST: usize>(RefCell<Vec<(K, V)>>);

impl<K, V, const MOST: usize> Default for Recent<K, V, MOST> {
    fn default() -> Self {
        Self(RefCell::default())
    }
}

impl<K: PartialEq, V: Clone, const MOST: usize> Recent<K, V, MOST> {
    /// What is kept for `key`, or is made for it now.
    pub fn of(&self, key: K, make: impl FnOnce() -> V) -> V {
        let Ok(value) = self.try_of(key, || Ok::<V, Infallible>(make()));
        value
    }

    /// Whether something is kept for `key`.
    pub fn has(&self, key: &K) -> bool {
        self.0.borrow().iter().any(|(k, _)| k == key)
    }

    /// The newest thing for which `find` gives something.
    pub fn find<R>(&self, find: impl FnMut(&V) -> Option<R>) -> Option<R> {
        let kept: Vec<V> = self.0.borrow().iter().map(|(_, v)| v.clone()).collect();
        kept.iter().find_map(find)
    }

    /// As [`Recent::of`].
    ///
    /// # Errors
    /// Passes on what making it refuses; then nothing is kept.
    pub fn try_of<E>(&self, key: K, make: impl FnOnce() -> Result<V, E>) -> Result<V, E> {
        let found = {
            let mut kept = self.0.borrow_mut();
            kept.iter().position(|(k, _)| *k == key).map(|at| kept.remove(at))
        };
        let entry = match found {
            Some(entry) => entry,
            None => (key, make()?),
        };
        let value = entry.1.clone();
        let mut kept = self.0.borrow_mut();
        kept.insert(0, entry);
        kept.truncate(MOST);
        Ok(value)
    }
}
