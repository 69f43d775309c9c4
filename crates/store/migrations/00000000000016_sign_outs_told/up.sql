-- Whoever signs out, or gets another password, is unknown at once to all copies of the server: those who remember a sign-in are told that it
-- ended. It is told as a change of the painter's own.
CREATE FUNCTION tell_signed_out() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM pg_notify('saltmarsh_changes', concat_ws(' ', OLD.painter_id, 'sessions', OLD.painter_id, 0));
    RETURN NULL;
END $$;
CREATE TRIGGER tell AFTER DELETE ON sessions FOR EACH ROW EXECUTE FUNCTION tell_signed_out();
