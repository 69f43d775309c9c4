DROP TABLE images;
ALTER TABLE grounds ADD COLUMN paper text;
UPDATE grounds SET paper = recipe ->> 'surface';
ALTER TABLE grounds ALTER COLUMN paper SET NOT NULL, DROP COLUMN recipe, DROP COLUMN version;
