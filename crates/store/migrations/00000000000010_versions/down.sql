ALTER TABLE images DROP COLUMN version;
ALTER TABLE gestures DROP COLUMN version;
