ALTER TABLE tools DROP COLUMN newest;
DROP INDEX images_by_owner;
DROP TABLE invitations;
ALTER TABLE painters DROP COLUMN owner;
