ALTER TABLE gestures DROP COLUMN stylus;
DROP TABLE curves;
