UPDATE tools SET last_draft = drafts.version FROM drafts WHERE drafts.tool_id = tools.id AND last_draft < drafts.version;
CREATE TRIGGER tell AFTER INSERT OR UPDATE ON drafts FOR EACH ROW
    WHEN (current_setting('saltmarsh.told_after', true) IS DISTINCT FROM 'on') EXECUTE FUNCTION tell_change('drafts');
DROP TRIGGER keep_last ON drafts;
DROP FUNCTION keep_last_draft();
ALTER TABLE drafts ALTER COLUMN document TYPE jsonb;
