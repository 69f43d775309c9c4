-- A draft is written again and again and looked into by nobody: kept as it was sent, and not taken apart.
ALTER TABLE drafts ALTER COLUMN document TYPE json;
DO $$ BEGIN
    ALTER TABLE drafts ALTER COLUMN document SET COMPRESSION lz4;
EXCEPTION WHEN feature_not_supported THEN NULL;
END $$;

-- The next version of a draft follows from the draft itself; its tool keeps the number only once the draft is gone, for the next to go on from
-- (`tools.last_draft` is at least what it was with drafts that are there).
CREATE FUNCTION keep_last_draft() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE tools SET last_draft = OLD.version WHERE id = OLD.tool_id AND last_draft < OLD.version;
    RETURN NULL;
END $$;
CREATE TRIGGER keep_last AFTER DELETE ON drafts FOR EACH ROW EXECUTE FUNCTION keep_last_draft();

-- Whoever writes a draft tells of it: a trigger that is asked each time whether it is wanted costs as much as what it is asked about.
DROP TRIGGER tell ON drafts;
