ALTER TABLE tools DROP COLUMN newest_hash, DROP COLUMN newest_kept_at;
