-- Gestures that are kept without being on the proof sheet, and words to find them by.
ALTER TABLE gestures ADD COLUMN on_proof boolean NOT NULL DEFAULT true;
ALTER TABLE gestures ADD COLUMN tags text[] NOT NULL DEFAULT '{}';
