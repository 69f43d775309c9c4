-- Who saves a draft tells of it right after the commit, and says so (`saltmarsh.told_after`): whoever notifies within a transaction holds a
-- lock over all who do until the commit is on the disk, so that no two saves could share a write. All others are told of as before.
DROP TRIGGER tell ON drafts;
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON drafts FOR EACH ROW
    WHEN (current_setting('saltmarsh.told_after', true) IS DISTINCT FROM 'on') EXECUTE FUNCTION tell_change('drafts');
CREATE TRIGGER tell_gone AFTER DELETE ON drafts FOR EACH ROW EXECUTE FUNCTION tell_change('drafts');

-- Wrong passwords and made-up invitations in a row, by name or address, for all copies of the server together. They may be lost in a crash.
CREATE UNLOGGED TABLE wrong_tries (
    who text PRIMARY KEY,
    wrong integer NOT NULL,
    last timestamptz NOT NULL
);
CREATE INDEX wrong_tries_last ON wrong_tries (last);

-- Drafts are written again and again, and long: packed sooner where this PostgreSQL knows how.
DO $$ BEGIN
    ALTER TABLE drafts ALTER COLUMN document SET COMPRESSION lz4;
EXCEPTION WHEN feature_not_supported THEN NULL;
END $$;
