-- Whoever listens on saltmarsh_changes is told what of a painter's changed: owner, kind, id, and version of a draft or of what was kept (else 0).
CREATE FUNCTION tell_change() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    changed record;
    id uuid;
    version integer := 0;
BEGIN
    IF TG_OP = 'DELETE' THEN changed := OLD; ELSE changed := NEW; END IF;
    IF TG_ARGV[0] = 'kept' THEN
        id := changed.tool_id;
        version := changed.number;
    ELSIF TG_ARGV[0] = 'drafts' THEN
        id := changed.tool_id;
        IF TG_OP <> 'DELETE' THEN version := changed.version; END IF;
    ELSE
        id := changed.id;
    END IF;
    PERFORM pg_notify('saltmarsh_changes', concat_ws(' ', changed.owner_id, TG_ARGV[0], id, version));
    RETURN NULL;
END $$;

CREATE TRIGGER tell AFTER INSERT OR DELETE OR UPDATE OF name, taken_away_at ON tools FOR EACH ROW EXECUTE FUNCTION tell_change('tools');
CREATE TRIGGER tell AFTER INSERT ON tool_versions FOR EACH ROW EXECUTE FUNCTION tell_change('kept');
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON drafts FOR EACH ROW EXECUTE FUNCTION tell_change('drafts');
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON gestures FOR EACH ROW EXECUTE FUNCTION tell_change('gestures');
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON grounds FOR EACH ROW EXECUTE FUNCTION tell_change('grounds');
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON images FOR EACH ROW EXECUTE FUNCTION tell_change('images');
CREATE TRIGGER tell AFTER INSERT OR UPDATE OR DELETE ON styluses FOR EACH ROW EXECUTE FUNCTION tell_change('styluses');
CREATE TRIGGER tell AFTER INSERT OR DELETE ON curves FOR EACH ROW EXECUTE FUNCTION tell_change('curves');
