CREATE TABLE painters (
    id uuid PRIMARY KEY,
    name text NOT NULL UNIQUE,
    created_at timestamptz NOT NULL DEFAULT now()
);

-- A signed-in browser. Only the hash of its token is kept.
CREATE TABLE sessions (
    token_hash bytea PRIMARY KEY,
    painter_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    created_at timestamptz NOT NULL DEFAULT now(),
    expires_at timestamptz NOT NULL
);

CREATE TABLE tools (
    id uuid PRIMARY KEY,
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    name text NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (owner_id, name)
);

-- Kept versions: written once, never changed.
CREATE TABLE tool_versions (
    tool_id uuid NOT NULL REFERENCES tools (id) ON DELETE CASCADE,
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    number integer NOT NULL CHECK (number > 0),
    document jsonb NOT NULL,
    content_hash text NOT NULL,
    kept_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (tool_id, number)
);

CREATE TABLE drafts (
    tool_id uuid PRIMARY KEY REFERENCES tools (id) ON DELETE CASCADE,
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    document jsonb NOT NULL,
    version integer NOT NULL CHECK (version > 0),
    -- The kept version this draft started from.
    based_on integer NOT NULL,
    saved_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE gestures (
    id uuid PRIMARY KEY,
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    name text NOT NULL,
    note text NOT NULL DEFAULT '',
    inkml text NOT NULL,
    content_hash text NOT NULL,
    -- Place on the proof sheet, from 0.
    place integer NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (owner_id, name)
);

CREATE TABLE grounds (
    id uuid PRIMARY KEY,
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    name text NOT NULL,
    -- The paper that the core makes.
    paper text NOT NULL,
    note text NOT NULL DEFAULT '',
    UNIQUE (owner_id, name)
);

CREATE TABLE pigments (
    id uuid PRIMARY KEY,
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    code text NOT NULL,
    name text NOT NULL,
    -- Absorption and scattering per band, mm⁻¹ at tube strength.
    absorption double precision[] NOT NULL,
    scattering double precision[] NOT NULL,
    source text NOT NULL,
    UNIQUE (owner_id, code)
);

CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION '% rows are written once and never changed', TG_TABLE_NAME;
END
$$;

CREATE TRIGGER tool_versions_are_kept BEFORE UPDATE ON tool_versions
    FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE INDEX sessions_by_painter ON sessions (painter_id);
CREATE INDEX gestures_by_owner ON gestures (owner_id, place);
