DELETE FROM tools WHERE taken_away_at IS NOT NULL;
DROP INDEX tools_by_name;
ALTER TABLE tools ADD CONSTRAINT tools_owner_id_name_key UNIQUE (owner_id, name);
ALTER TABLE tools DROP COLUMN taken_away_at;
ALTER TABLE tool_versions DROP COLUMN note;
