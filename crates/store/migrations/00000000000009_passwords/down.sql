ALTER TABLE painters DROP COLUMN password_hash;
