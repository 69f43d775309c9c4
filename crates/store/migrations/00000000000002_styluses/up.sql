-- A stylus that a painter knows: its device profile and calibration.
CREATE TABLE styluses (
    id uuid PRIMARY KEY,
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    name text NOT NULL,
    -- What the browser reports of the device, to recognise it by.
    device text NOT NULL,
    document jsonb NOT NULL,
    version integer NOT NULL DEFAULT 1 CHECK (version > 0),
    active boolean NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (owner_id, name)
);

-- One active profile per painter and device.
CREATE UNIQUE INDEX styluses_active ON styluses (owner_id, device) WHERE active;
