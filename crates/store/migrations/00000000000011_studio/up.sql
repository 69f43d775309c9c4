-- Who may invite others and see who paints here.
ALTER TABLE painters ADD COLUMN owner boolean NOT NULL DEFAULT false;

-- An invitation lets one painter in, once. Only the hash of its code is kept.
CREATE TABLE invitations (
    id uuid PRIMARY KEY,
    code_hash bytea NOT NULL UNIQUE,
    made_by uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    made_at timestamptz NOT NULL DEFAULT now(),
    expires_at timestamptz NOT NULL
);

-- The newest kept version of a tool, so that it is found without a search. Whoever keeps one says so in the same transaction.
ALTER TABLE tools ADD COLUMN newest integer NOT NULL DEFAULT 0;
UPDATE tools SET newest = (SELECT max(number) FROM tool_versions WHERE tool_id = tools.id);
ALTER TABLE tools ADD CONSTRAINT tools_newest FOREIGN KEY (id, newest) REFERENCES tool_versions (tool_id, number)
    DEFERRABLE INITIALLY DEFERRED;
