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

CREATE INDEX images_by_owner ON images (owner_id);
