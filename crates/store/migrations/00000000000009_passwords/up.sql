-- A painter's password as argon2id leaves it (PHC string); without one nobody signs in as that painter by name.
ALTER TABLE painters ADD COLUMN password_hash text;
