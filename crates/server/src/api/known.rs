//! Who was found signed in a moment ago: pages ask much at once, and each time by the same token.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use super::session::Painter;

/// A sign-in is looked up anew after so long: that one ended on another copy of the server may not be heard here.
const GOOD_FOR: Duration = Duration::from_secs(1);
/// So many are remembered.
const MOST: usize = 10_000;

/// Painters by the hashes of their tokens, and when each was looked up; when all were last forgotten.
#[derive(Default)]
struct Found {
    all: HashMap<Vec<u8>, (Painter, Instant)>,
    forgotten: Option<Instant>,
}

/// Painters who were found, the same for all threads of this server.
#[derive(Clone, Default)]
pub struct Known(Arc<Mutex<Found>>);

impl Known {
    pub(super) fn painter(&self, token_hash: &[u8], now: Instant) -> Option<Painter> {
        let found = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let fresh =
            found.all.get(token_hash).filter(|(_, found)| now.saturating_duration_since(*found) < GOOD_FOR);
        fresh.map(|(painter, _)| painter.clone())
    }

    /// Remembers who was looked up at `now`, unless somebody signed out since then.
    pub(super) fn found(&self, token_hash: Vec<u8>, painter: Painter, now: Instant) {
        let mut found = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if found.forgotten.is_some_and(|forgotten| forgotten >= now) {
            return;
        }
        let all = &mut found.all;
        if all.len() >= MOST {
            all.retain(|_, (_, found)| now.saturating_duration_since(*found) < GOOD_FOR);
        }
        if all.len() < MOST {
            all.insert(token_hash, (painter, now));
        }
    }

    /// Somebody signed out: who is still signed in is looked up anew.
    pub(super) fn forget(&self) {
        let mut found = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        *found = Found { all: HashMap::new(), forgotten: Some(Instant::now()) };
    }
}

#[cfg(test)]
mod tests {
    use uuid::Uuid;

    use super::*;

    #[test]
    fn a_sign_in_is_good_for_a_second_and_not_once_somebody_signed_out() {
        let (known, now) = (Known::default(), Instant::now());
        let painter = Painter { id: Uuid::new_v4(), name: "Reed".into(), owner: false };
        known.found(vec![1], painter.clone(), now);
        let id = |known: &Known, token: u8, at: Instant| known.painter(&[token], at).map(|p| p.id);
        assert_eq!(id(&known, 1, now + Duration::from_millis(900)), Some(painter.id));
        assert_eq!(id(&known, 2, now), None, "another token is nobody's");
        assert_eq!(id(&known, 1, now + Duration::from_millis(1100)), None);
        known.forget();
        assert_eq!(id(&known, 1, now), None);
        // It was asked before that, and answered after.
        known.found(vec![1], painter.clone(), now);
        assert_eq!(id(&known, 1, now), None);
        let later = Instant::now() + Duration::from_millis(1);
        known.found(vec![1], painter.clone(), later);
        assert_eq!(id(&known, 1, later), Some(painter.id));
    }
}
