ALTER TABLE tools DROP COLUMN newest;
DROP TABLE invitations;
ALTER TABLE painters DROP COLUMN owner;
