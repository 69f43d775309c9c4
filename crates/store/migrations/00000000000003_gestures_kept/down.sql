ALTER TABLE gestures DROP COLUMN tags;
ALTER TABLE gestures DROP COLUMN on_proof;
