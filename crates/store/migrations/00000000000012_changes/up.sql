-- Whoever listens on saltmarsh_changes is told what of a painter's changed: owner, kind, id and version (0 where there is none).
CREATE FUNCTION tell_change() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    changed jsonb := to_jsonb(CASE WHEN TG_OP = 'DELETE' THEN OLD ELSE NEW END) - 'png' - 'inkml' - 'document' - 'recipe';
BEGIN
    PERFORM pg_notify('saltmarsh_changes', concat_ws(' ', changed ->> 'owner_id', TG_ARGV[0], coalesce(changed ->> 'tool_id', changed ->> 'id'),
        CASE WHEN TG_OP = 'DELETE' THEN '0' ELSE coalesce(changed ->> 'number', changed ->> 'version', '0') END));
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
