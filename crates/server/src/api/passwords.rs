//! Passwords: argon2id with the parameters that OWASP's Password Storage Cheat Sheet gives (19 MiB, two passes, one lane), which are the
//! library's own.

use argon2::Argon2;
use argon2::password_hash::rand_core::OsRng;
use argon2::password_hash::{PasswordHash, PasswordHasher, PasswordVerifier, SaltString};
use saltmarsh_core::FieldError;

/// Characters of a password: NIST SP 800-63B §5.1.1.2 asks for eight at least; longer than the most is no password but a document.
const CHARACTERS: std::ops::RangeInclusive<usize> = 10..=200;

/// A new password as it is kept.
///
/// # Errors
/// It is too short or too long.
pub fn hashed(password: &str) -> Result<String, FieldError> {
    let count = password.chars().count();
    if !CHARACTERS.contains(&count) {
        let (least, most) = (CHARACTERS.start(), CHARACTERS.end());
        return Err(FieldError::new(
            "password",
            format!("must have {least} to {most} characters, has {count}"),
        ));
    }
    let salt = SaltString::generate(&mut OsRng);
    Argon2::default()
        .hash_password(password.as_bytes(), &salt)
        .map(|hash| hash.to_string())
        .map_err(|e| FieldError::new("password", e.to_string()))
}

/// Whether a password is the one that was kept. Where none was, as much is computed, so that nobody can tell by the time it takes.
pub fn fits(password: &str, kept: Option<&str>) -> bool {
    // Of no password: its hash is 32 zeros.
    const NOBODY: &str =
        "$argon2id$v=19$m=19456,t=2,p=1$bm9ib2R5IGlzIGhlcmU$AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA";
    if password.chars().count() > *CHARACTERS.end() {
        return false;
    }
    let parsed = PasswordHash::new(kept.unwrap_or(NOBODY));
    parsed.is_ok_and(|hash| Argon2::default().verify_password(password.as_bytes(), &hash).is_ok())
        && kept.is_some()
}

#[cfg(test)]
mod tests {
    use super::{fits, hashed};

    #[test]
    fn a_password_fits_itself_alone_and_is_not_what_is_kept() {
        let kept = hashed("salt and reeds").expect("long enough");
        assert!(kept.starts_with("$argon2id$v=19$m=19456,t=2,p=1$"), "{kept}");
        assert_ne!(kept, hashed("salt and reeds").expect("long enough"), "salted");
        assert!(fits("salt and reeds", Some(&kept)));
        for (password, kept) in [
            ("salt and reed", Some(kept.as_str())),
            ("", Some(&kept)),
            ("salt and reeds", None),
            ("x", Some("torn")),
        ] {
            assert!(!fits(password, kept), "{password}");
        }
        for wrong in ["nine char", &"x".repeat(201)] {
            assert_eq!(hashed(wrong).expect_err("too short or too long").field, "password");
        }
    }
}
