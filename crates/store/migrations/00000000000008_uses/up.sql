-- Which images a kept version, a draft or a ground needs, written with it. The database itself keeps an image that is needed, and refuses
-- what needs one that its painter does not have.
CREATE TABLE image_uses (
    owner_id uuid NOT NULL REFERENCES painters (id) ON DELETE CASCADE,
    hash text NOT NULL,
    -- One of these needs it: a version, a draft, a ground.
    tool_id uuid,
    number integer,
    draft_of uuid REFERENCES drafts (tool_id) ON DELETE CASCADE,
    ground_id uuid REFERENCES grounds (id) ON DELETE CASCADE,
    FOREIGN KEY (owner_id, hash) REFERENCES images (owner_id, hash),
    FOREIGN KEY (tool_id, number) REFERENCES tool_versions (tool_id, number) ON DELETE CASCADE,
    CHECK (num_nonnulls(tool_id, draft_of, ground_id) = 1 AND (tool_id IS NULL) = (number IS NULL))
);
CREATE UNIQUE INDEX image_uses_by_version ON image_uses (tool_id, number, hash) WHERE tool_id IS NOT NULL;
CREATE UNIQUE INDEX image_uses_by_draft ON image_uses (draft_of, hash) WHERE draft_of IS NOT NULL;
CREATE UNIQUE INDEX image_uses_by_ground ON image_uses (ground_id, hash) WHERE ground_id IS NOT NULL;
CREATE INDEX image_uses_by_image ON image_uses (owner_id, hash);

-- What documents name so far; what is not there any more cannot be kept.
INSERT INTO image_uses (owner_id, hash, tool_id, number)
    SELECT DISTINCT v.owner_id, m[1], v.tool_id, v.number
    FROM tool_versions v CROSS JOIN LATERAL regexp_matches(v.document::text, '"([0-9a-f]{64})"', 'g') m
    JOIN images i ON i.owner_id = v.owner_id AND i.hash = m[1];
INSERT INTO image_uses (owner_id, hash, draft_of)
    SELECT DISTINCT d.owner_id, m[1], d.tool_id
    FROM drafts d CROSS JOIN LATERAL regexp_matches(d.document::text, '"([0-9a-f]{64})"', 'g') m
    JOIN images i ON i.owner_id = d.owner_id AND i.hash = m[1];
INSERT INTO image_uses (owner_id, hash, ground_id)
    SELECT DISTINCT g.owner_id, m[1], g.id
    FROM grounds g CROSS JOIN LATERAL regexp_matches(g.recipe::text, '"([0-9a-f]{64})"', 'g') m
    JOIN images i ON i.owner_id = g.owner_id AND i.hash = m[1];

-- Every gesture has a place of its own.
UPDATE gestures SET place = p.place
    FROM (SELECT id, row_number() OVER (PARTITION BY owner_id ORDER BY place, created_at, id) - 1 AS place FROM gestures) p
    WHERE gestures.id = p.id;
DROP INDEX gestures_by_owner;
ALTER TABLE gestures ADD CONSTRAINT gestures_by_place UNIQUE (owner_id, place) DEFERRABLE INITIALLY DEFERRED;

CREATE INDEX sessions_by_end ON sessions (expires_at);
CREATE INDEX tool_versions_by_owner ON tool_versions (owner_id);
CREATE INDEX drafts_by_owner ON drafts (owner_id);
