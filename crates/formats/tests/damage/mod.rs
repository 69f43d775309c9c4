//! Documents damaged at random, for the tests that hold a reader to its limits.

use proptest::prelude::*;
use proptest::sample::Index;

/// Edits of a text: where, how many characters go, which snippet comes, how often; and where it is cut off.
pub type Damage = (Vec<(Index, usize, usize, usize)>, Option<Index>);

/// So many cases unless `PROPTEST_CASES` says otherwise. Failures are mended, not collected in files.
pub fn config() -> ProptestConfig {
    let cases = std::env::var("PROPTEST_CASES").ok().and_then(|v| v.parse().ok()).unwrap_or(3000);
    ProptestConfig { cases, failure_persistence: None, ..ProptestConfig::default() }
}

pub fn damage(snippets: usize) -> impl Strategy<Value = Damage> {
    let edit = (any::<Index>(), 0..40_usize, 0..snippets, 1..4_usize);
    (prop::collection::vec(edit, 1..8), prop::option::of(any::<Index>()))
}

pub fn damaged(sound: &str, (edits, cut): Damage, snippets: &[&str]) -> String {
    let mut text: Vec<char> = sound.chars().collect();
    for (at, remove, snippet, times) in edits {
        let at = at.index(text.len() + 1);
        let end = (at + remove).min(text.len());
        text.splice(at..end, snippets[snippet].repeat(times).chars());
    }
    if let Some(cut) = cut {
        text.truncate(cut.index(text.len() + 1));
    }
    text.into_iter().collect()
}
