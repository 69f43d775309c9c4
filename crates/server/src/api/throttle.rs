//! Wrong passwords slow down whoever tries them: by name and by address, the longer the more there were.

use std::collections::HashMap;
use std::net::IpAddr;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

/// So many wrong ones in a row are free: a painter may mistype.
const FREE: u32 = 5;
/// The wait after the next, doubled with each after that, up to the longest.
const FIRST: Duration = Duration::from_secs(2);
const LONGEST: Duration = Duration::from_secs(15 * 60);
/// So many names and addresses are remembered.
const MOST: usize = 10_000;

/// Whoever tried.
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub enum Who {
    Name(String),
    Address(IpAddr),
}

/// Wrong tries so far, the same for all threads of this server. Each copy of the server counts for itself.
#[derive(Debug, Clone, Default)]
pub struct Throttle(Arc<Mutex<HashMap<Who, Tries>>>);

#[derive(Debug, Clone, Copy)]
struct Tries {
    wrong: u32,
    last: Instant,
}

impl Tries {
    /// When it may be tried next.
    fn next(self) -> Instant {
        let doubled = self.wrong.saturating_sub(FREE).min(16);
        let wait = if doubled == 0 { Duration::ZERO } else { (FIRST * 2_u32.pow(doubled - 1)).min(LONGEST) };
        self.last + wait
    }
}

impl Throttle {
    /// How long one of these has to wait, as of `now`.
    pub fn wait(&self, who: &[Who], now: Instant) -> Option<Duration> {
        let all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let waits = who.iter().filter_map(|w| all.get(w)).map(|t| t.next().saturating_duration_since(now));
        waits.max().filter(|wait| !wait.is_zero())
    }

    /// Counts a wrong try. It counts for long enough that waiting it out is no way around.
    pub fn wrong(&self, who: &[Who], now: Instant) {
        let mut all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if all.len() + who.len() > MOST {
            all.retain(|_, t| now.saturating_duration_since(t.last) < LONGEST);
        }
        for who in who {
            if all.len() >= MOST && !all.contains_key(who) {
                continue;
            }
            let tries = all.entry(who.clone()).or_insert(Tries { wrong: 0, last: now });
            let forgotten = now.saturating_duration_since(tries.last) > 2 * LONGEST;
            *tries = Tries { wrong: if forgotten { 1 } else { tries.wrong + 1 }, last: now };
        }
    }

    /// A right one ends the row.
    pub fn right(&self, who: &[Who]) {
        let mut all = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        all.retain(|w, _| !who.contains(w));
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_more_wrong_ones_the_longer_the_wait_and_nobody_else_waits() {
        let throttle = Throttle::default();
        let [reed, other] = ["reed", "other"].map(|n| Who::Name(n.into()));
        let start = Instant::now();
        for _ in 0..FREE {
            assert_eq!(throttle.wait(std::slice::from_ref(&reed), start), None, "a painter may mistype");
            throttle.wrong(std::slice::from_ref(&reed), start);
        }
        let waits: Vec<u64> = (0..12)
            .map(|_| {
                throttle.wrong(std::slice::from_ref(&reed), start);
                throttle.wait(std::slice::from_ref(&reed), start).expect("a wait").as_secs()
            })
            .collect();
        assert_eq!(waits, [2, 4, 8, 16, 32, 64, 128, 256, 512, 900, 900, 900]);
        assert_eq!(throttle.wait(std::slice::from_ref(&reed), start + LONGEST), None);
        assert_eq!(throttle.wait(std::slice::from_ref(&other), start), None);
        let near = Who::Address(IpAddr::from([10, 0, 0, 7]));
        assert!(throttle.wait(&[near, reed.clone()], start).is_some(), "one of them is enough");
        throttle.right(std::slice::from_ref(&reed));
        assert_eq!(throttle.wait(&[reed], start), None);
    }
}
