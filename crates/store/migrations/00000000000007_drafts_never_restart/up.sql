-- The version that a tool's last draft had, also once that draft is gone: the next goes on from there, so that a window which still
-- holds the old one cannot take the new one for it.
ALTER TABLE tools ADD COLUMN last_draft integer NOT NULL DEFAULT 0;
UPDATE tools SET last_draft = drafts.version FROM drafts WHERE drafts.tool_id = tools.id;
