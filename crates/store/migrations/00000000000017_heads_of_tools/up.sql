-- What a list of tools tells of each tool's newest version, with the tool: to look up as many versions would be half of what a list costs.
ALTER TABLE tools
    ADD COLUMN newest_hash text NOT NULL DEFAULT '',
    ADD COLUMN newest_kept_at timestamptz NOT NULL DEFAULT now();
UPDATE tools SET newest_hash = content_hash, newest_kept_at = kept_at
    FROM tool_versions WHERE tool_id = tools.id AND number = tools.newest;
