-- Curves that a painter keeps, to use in any response or calibration.
CREATE TABLE curves (
    id uuid PRIMARY KEY,
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    name text NOT NULL,
    points jsonb NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (owner_id, name)
);

-- The device profile of the stylus that recorded a gesture; null for the plain pen.
ALTER TABLE gestures ADD COLUMN stylus jsonb;
