-- What a painter wrote to a version when it was kept.
ALTER TABLE tool_versions ADD COLUMN note text NOT NULL DEFAULT '';

-- A tool that was taken away can be brought back; until then its name is free.
ALTER TABLE tools ADD COLUMN taken_away_at timestamptz;
ALTER TABLE tools DROP CONSTRAINT tools_owner_id_name_key;
CREATE UNIQUE INDEX tools_by_name ON tools (owner_id, name) WHERE taken_away_at IS NULL;
