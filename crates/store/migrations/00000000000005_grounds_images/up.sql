-- A ground is a recipe that the painter may change; version guards against two changing it at once.
ALTER TABLE grounds ADD COLUMN recipe jsonb, ADD COLUMN version integer NOT NULL DEFAULT 1 CHECK (version > 0);
UPDATE grounds SET recipe = jsonb_build_object('surface', paper, 'name', name);
ALTER TABLE grounds ALTER COLUMN recipe SET NOT NULL, DROP COLUMN paper;

-- Grey images: tips, grain, height maps. Named by the hash of their pixels, so that what uses one always means the same.
CREATE TABLE images (
    id uuid PRIMARY KEY,
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    hash text NOT NULL,
    name text NOT NULL,
    tags text[] NOT NULL DEFAULT '{}',
    width integer NOT NULL,
    height integer NOT NULL,
    png bytea NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (owner_id, hash),
    UNIQUE (owner_id, name)
);
