-- Whoever changes a gesture, or the name of an image, says which version was seen: nobody overwrites what they have not seen.
ALTER TABLE gestures ADD COLUMN version integer NOT NULL DEFAULT 1 CHECK (version > 0);
ALTER TABLE images ADD COLUMN version integer NOT NULL DEFAULT 1 CHECK (version > 0);
