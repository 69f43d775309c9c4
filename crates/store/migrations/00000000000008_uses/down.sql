DROP INDEX drafts_by_owner;
DROP INDEX tool_versions_by_owner;
DROP INDEX sessions_by_end;
ALTER TABLE gestures DROP CONSTRAINT gestures_by_place;
CREATE INDEX gestures_by_owner ON gestures (owner_id, place);
DROP TABLE image_uses;
