ALTER TABLE tools DROP COLUMN last_draft;
